"""On and off under a person's hands: slider, keys, finger, the place, a measure, no script."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page, expect

from e2e.case import BrowserCase
from hauls.models import Haul

GOOD = "Orchard tractor to the Quarry Lane block"
LIFTS = "Compact loader behind the half-ton"

PLACE = "() => document.querySelector('[data-part=machine]').getAttribute('transform')"
"""Where the machine is drawn."""


def across(page: Page) -> float:
    """How far right the machine is drawn, in drawing units."""
    transform = page.evaluate(PLACE)
    found = re.match(r"translate\(([-\d.]+)", transform)
    assert found is not None
    return float(found[1])


class ClimbCase(BrowserCase):
    def open_climb(self, page: Page, name: str, query: str = "") -> Haul:
        """Open the view of a haul, ready to be played."""
        haul = Haul.objects.get(name=name)
        page.goto(f"{self.live_server_url}/hauls/{haul.pk}/on-and-off/{query}")
        # whoever opens it sees the worst, and the script has put it there
        expect(page.locator("#climb-where")).not_to_be_empty()
        page.wait_for_function("() => document.querySelector('[data-act=stop]').disabled")
        return haul


class Hands(ClimbCase):
    def test_keys_move_the_machine_and_every_figure_with_it(self) -> None:
        with self.page() as page:
            self.open_climb(page, GOOD)
            expect(page.locator("[data-part=tongue]")).to_have_text("1,278")
            slider = page.locator("#climb-at")
            slider.focus()
            worst = across(page)
            before = page.locator("[data-part=cursor]").get_attribute("transform")
            page.keyboard.press("ArrowLeft")
            self.assertLess(across(page), worst)
            self.assertNotEqual(
                before, page.locator("[data-part=cursor]").get_attribute("transform")
            )
            expect(page.locator("[data-part=tongue]")).not_to_have_text("1,278")
            words = page.locator("#climb-where").inner_text()
            self.assertEqual(slider.get_attribute("aria-valuetext"), words)
            page.keyboard.press("Home")
            expect(page.locator("#climb-where")).to_have_text("front wheels meet the ramp")
            expect(page.locator("[data-part=arrow-words]")).to_have_text("tongue presses")
            expect(page.locator("[data-pad='1'] .pad-number")).to_have_text("3,750")
            page.keyboard.press("End")
            expect(page.locator("[data-part=tongue]")).to_have_text("1,129")
            page.get_by_role("button", name="To the worst").click()
            expect(page.locator("[data-part=tongue]")).to_have_text("1,278")

    def test_mouse_drags_the_machine_and_it_stays_under_the_pointer(self) -> None:
        with self.page() as page:
            self.open_climb(page, GOOD)
            box = page.locator("[data-hand]").bounding_box()
            picture = page.locator("#climb-picture").bounding_box()
            assert box is not None
            assert picture is not None
            start = across(page)
            x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x - 60, y, steps=5)
            page.mouse.up()
            moved = (start - across(page)) * picture["width"] / 868
            self.assertAlmostEqual(moved, 60, delta=4)
            page.mouse.move(x - 200, y)
            self.assertAlmostEqual((start - across(page)) * picture["width"] / 868, moved)

    def test_it_plays_on_and_off_and_stops(self) -> None:
        with self.page() as page:
            self.open_climb(page, GOOD)
            stop = page.locator("[data-act=stop]")
            here = across(page)
            page.get_by_role("button", name="Drive on").click()
            expect(stop).to_be_enabled()
            page.wait_for_function(
                "here => Number(/[-\\d.]+/.exec(document.querySelector('[data-part=machine]')"
                ".getAttribute('transform'))[0]) < here",
                arg=here,
            )
            stop.click()
            expect(stop).to_be_disabled()
            still = across(page)
            page.get_by_role("button", name="Back off").click()
            page.wait_for_function(
                "still => Number(/[-\\d.]+/.exec(document.querySelector('[data-part=machine]')"
                ".getAttribute('transform'))[0]) > still",
                arg=still,
            )
            stop.click()

    def test_it_goes_no_further_where_the_trucks_wheels_lift(self) -> None:
        with self.page() as page:
            self.open_climb(page, LIFTS)
            page.locator("#climb-at").focus()
            page.keyboard.press("Home")
            expect(page.locator("#climb-stopped")).to_be_hidden()
            page.keyboard.press("End")
            expect(page.locator("#climb-stopped")).to_be_visible()
            self.assertIn("pad-over", page.locator("[data-pad='1']").get_attribute("class") or "")
            mark = page.locator("#climb-at").get_attribute("max")
            self.assertNotEqual(page.locator("#climb-at").input_value(), mark)

    def test_finger_on_a_phone(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            self.open_climb(page, GOOD)
            expect(page.locator("[data-load='1']")).to_have_text("1,573")
            box = page.locator("[data-hand]").bounding_box()
            assert box is not None
            x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
            start = across(page)
            touch = page.context.new_cdp_session(page)

            def finger(kind: str, at: float | None = None) -> None:
                points: list[dict[str, Any]] = [] if at is None else [{"x": at, "y": y}]
                touch.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

            finger("touchStart", x)
            for step in range(1, 6):
                finger("touchMove", x + 8 * step)
            finger("touchEnd")
            self.assertGreater(across(page), start + 20)
            expect(page.locator("[data-load='1']")).not_to_have_text("1,573")
            self.assert_nothing_sticks_out(page)


class PlaceAndMeasures(ClimbCase):
    def test_place_is_kept_in_place_and_changes_verdict_and_curve(self) -> None:
        with self.page() as page:
            haul = self.open_climb(page, GOOD)
            curves = page.locator(".climb-curves").inner_html()
            page.select_option("#surface", "concrete_dry")
            page.fill("#slope", "4 in over 100 in")
            page.get_by_role("button", name="Keep this place").click()
            expect(page.locator(".say-second")).to_contain_text("dry concrete and a slope")
            self.assertNotEqual(curves, page.locator(".climb-curves").inner_html())
            haul.refresh_from_db()
            self.assertAlmostEqual(haul.document["site"]["slope"], 0.04)
            # and it plays on from what came
            page.locator("#climb-at").focus()
            page.keyboard.press("Home")
            expect(page.locator("#climb-where")).to_have_text("front wheels meet the ramp")

    def test_a_slope_nobody_can_read_stays_in_its_box(self) -> None:
        self.expected = {422}
        with self.page() as page:
            haul = self.open_climb(page, GOOD)
            page.fill("#slope", "a bit")
            page.get_by_role("button", name="Keep this place").click()
            expect(page.locator("#slope-wrong")).to_contain_text("Write a slope such as")
            expect(page.locator("#slope")).to_have_value("a bit")
            haul.refresh_from_db()
            self.assertEqual(haul.document["site"]["slope"], 0)

    def test_a_measure_changes_verdict_and_curve(self) -> None:
        with self.page() as page:
            haul = self.open_climb(page, GOOD)
            expect(page.locator(".say-over")).to_be_visible()
            curve = page.locator(".climb-curve").nth(2).inner_html()
            page.locator("button[value=chocks]").click()
            expect(page.locator(".say-near")).to_be_visible()
            expect(page.locator(".say-second")).to_contain_text("chocks at axles 1 and 2")
            expect(page.get_by_label("chocks, trailer axle 2")).to_be_checked()
            self.assertNotEqual(curve, page.locator(".climb-curve").nth(2).inner_html())
            haul.refresh_from_db()
            self.assertEqual(haul.document["site"]["held_trailer_axles"], [1, 2])

    def test_the_phones_tilt_fills_the_box(self) -> None:
        with self.page(390, 844) as page:
            self.open_climb(page, GOOD)
            page.get_by_text("How to measure it").click()
            button = page.get_by_role("button", name="Read the phone's tilt")
            button.click()
            # it listens once the browser has allowed it
            expect(page.locator("[data-tilt-words]")).to_have_text("Hold it still on the rail.")
            page.evaluate(
                """() => {
                  const tilt = { beta: -2.3, gamma: 0, alpha: 0 };
                  for (let n = 0; n < 20; n += 1)
                    window.dispatchEvent(new DeviceOrientationEvent("deviceorientation", tilt));
                }"""
            )
            expect(page.locator("#slope")).to_have_value("2.3°")

    def test_without_script_the_forms_work(self) -> None:
        with self.page(java_script_enabled=False) as page:
            haul = Haul.objects.get(name=GOOD)
            page.goto(f"{self.live_server_url}/hauls/{haul.pk}/on-and-off/")
            page.click("button[value=chocks]")
            expect(page.locator(".say-second")).to_contain_text("chocks at axles 1 and 2")
            page.select_option("#surface", "ice")
            page.click("text=Keep this place")
            expect(page.locator(".say-second")).to_contain_text("on ice")
