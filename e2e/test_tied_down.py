"""Tied down under a person's hands: a plan of four chains by mouse, by keys, by finger."""

from __future__ import annotations

from typing import Final

from playwright.sync_api import Page, expect

from e2e.case import BrowserCase
from hauls.models import Haul
from hauls.tying import securing_of

GOOD = "Orchard tractor to the Quarry Lane block"
UNFOLD: Final = "document.querySelectorAll('#tied details').forEach(d => d.open = true)"

CORNERS: Final = (
    ("front axle left", "front ring left"),
    ("front axle right", "front ring right"),
    ("rear axle left", "rear ring left"),
    ("rear axle right", "rear ring right"),
)


class TiedCase(BrowserCase):
    def open_tied(self, page: Page, name: str = GOOD, *, bare: bool = False) -> Haul:
        """Open the view of a haul; ``bare`` with nothing tied yet."""
        haul = Haul.objects.get(name=name)
        if bare:
            haul.document["securing"]["ties"] = []
            haul.save()
        page.goto(f"{self.live_server_url}/hauls/{haul.pk}/tied-down/")
        expect(page.locator("[data-tie-picture]")).to_be_visible()
        return haul

    def middle(self, page: Page, kind: str, name: str) -> tuple[float, float]:
        """Where a point or an anchor is on the screen."""
        box = page.locator(f'[data-{kind}="{name}"] .hit').bounding_box()
        assert box is not None
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def stored(self, haul: Haul) -> list[tuple[str, str]]:
        """The ends of its ties as they are kept."""
        haul.refresh_from_db()
        return [
            (tie.point, tie.anchor) for tie in securing_of(Haul.objects.get(pk=haul.pk).draft).ties
        ]

    def rows(self, page: Page, count: int) -> None:
        """Wait until so many ties are listed."""
        expect(page.locator(".tie-rows > li")).to_have_count(count)


class FourChains(TiedCase):
    def test_by_mouse_from_point_to_anchor(self) -> None:
        with self.page() as page:
            haul = self.open_tied(page, bare=True)
            expect(page.locator(".say")).to_contain_text("Nothing ties")
            for n, (point, anchor) in enumerate(CORNERS, 1):
                page.mouse.move(*self.middle(page, "point", point))
                page.mouse.down()
                x, y = self.middle(page, "anchor", anchor)
                page.mouse.move(x - 30, y, steps=3)
                expect(page.locator("[data-ghost]")).to_have_class("tie-ghost shown")
                page.mouse.move(x, y, steps=3)
                page.mouse.up()
                self.rows(page, n)
            self.assertEqual(self.stored(haul), list(CORNERS))
            expect(page.locator(".say")).to_contain_text("Four chains hold it")
            # let go where there is no anchor, it is no tie
            page.mouse.move(*self.middle(page, "point", "drawbar"))
            page.mouse.down()
            page.mouse.move(*self.middle(page, "point", "rear axle left"), steps=3)
            page.mouse.up()
            expect(page.locator("[data-tie-says]")).to_contain_text("A tie ends at an anchor")
            self.assertEqual(len(self.stored(haul)), 4)

    def test_by_keys_alone(self) -> None:
        with self.page() as page:
            haul = self.open_tied(page, bare=True)
            for n, (point, anchor) in enumerate(CORNERS, 1):
                spot = page.locator(f'[data-point="{point}"]')
                spot.focus()
                page.keyboard.press("Enter")
                expect(spot).to_have_attribute("aria-pressed", "true")
                expect(page.locator("[data-tie-says]")).to_contain_text(f"From {point}")
                page.locator(f'[data-anchor="{anchor}"]').focus()
                page.keyboard.press("Enter")
                self.rows(page, n)
            self.assertEqual(self.stored(haul), list(CORNERS))
            page.locator('[data-point="drawbar"]').focus()
            page.keyboard.press(" ")
            page.keyboard.press("Escape")
            expect(page.locator('[data-point="drawbar"]')).to_have_attribute(
                "aria-pressed", "false"
            )
            page.locator('[data-anchor="rear ring left"]').focus()
            page.keyboard.press("Enter")
            expect(page.locator("[data-tie-says]")).to_contain_text("First the point")

    def test_by_finger_on_a_phone(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            haul = self.open_tied(page, bare=True)
            for n, (point, anchor) in enumerate(CORNERS, 1):
                page.locator(f'[data-point="{point}"] .hit').tap()
                page.locator(f'[data-anchor="{anchor}"] .hit').tap()
                self.rows(page, n)
            self.assertEqual(self.stored(haul), list(CORNERS))
            self.assert_nothing_sticks_out(page)

    def test_without_a_script_by_two_lists(self) -> None:
        with self.page(java_script_enabled=False) as page:
            haul = self.open_tied(page, bare=True)
            page.locator("#point").select_option("drawbar")
            page.locator("#anchor").select_option("rear ring left")
            page.get_by_role("button", name="Add this tie").click()
            self.rows(page, 1)
            self.assertEqual(self.stored(haul), [("drawbar", "rear ring left")])


class Rack(TiedCase):
    def test_suggested_gear_changed_and_an_answer_kept(self) -> None:
        with self.page() as page:
            haul = self.open_tied(page, "Orchard tractor back from Mill Ponds")
            expect(page.locator(".say")).to_contain_text("nothing holds it against braking")
            page.get_by_role("button", name="Suggest from the rack").click()
            expect(page.locator(".tied-told")).to_contain_text("No fewer would do")
            self.rows(page, 4)
            first = page.locator(".tie-rows > li").first
            first.locator("summary").click()
            first.get_by_label("Made of").select_option("Ratchet strap, 2 in")
            first.locator("select[name=joining_0]").select_option("")
            first.get_by_role("button", name="Take this gear").click()
            expect(first.locator(".tie-gear")).to_have_text("Ratchet strap, 2 in")
            page.locator(".tie-rows > li").first.get_by_label("Edge under the strap").select_option(
                "bare"
            )
            page.locator(".tie-rows > li").first.get_by_role("button", name="Remember").click()
            expect(page.locator(".tie-loose")).to_contain_text("A bare edge cuts webbing")
            self.assertEqual(len(self.stored(haul)), 4)

    def test_the_list_is_ticked_by_a_driver(self) -> None:
        with self.page(390, 844, login="demo-driver", has_touch=True, is_mobile=True) as page:
            haul = Haul.objects.get(name=GOOD)
            page.goto(f"{self.live_server_url}/hauls/{haul.pk}/tied-down/list/")
            line = page.get_by_role("button", name="Fuel cap tight")
            line.tap()
            expect(page.get_by_role("button", name="Fuel cap tight")).to_have_attribute(
                "aria-pressed", "true"
            )
            expect(page.locator(".page-head")).to_contain_text("1 of 15 done")
            self.assert_accessible(page)
            self.assert_nothing_sticks_out(page)

    def test_anchors_are_placed_in_pairs_by_a_tap_on_the_deck(self) -> None:
        with self.page() as page:
            page.goto(f"{self.live_server_url}/book/")
            page.get_by_role("link", name="20 ft equipment trailer").first.click()
            drawing = page.locator("svg.plan-taps")
            rows = page.locator("[data-prefix=anchors] .row-of-boxes")
            there = rows.count()
            box = drawing.bounding_box()
            assert box is not None
            drawing.click(position={"x": box["width"] / 3, "y": box["height"] / 4})
            expect(rows).to_have_count(there + 1)
            row = rows.last
            self.assertRegex(row.get_by_label("Behind the front edge").input_value(), r"^\d+ in$")
            expect(row.get_by_label("one on each side")).to_be_checked()
            expect(drawing.locator(".fresh")).to_have_count(2)
            row.get_by_label("Name").fill("new ring")
            page.get_by_role("button", name="Save trailer").click()
            expect(page.locator(".plan-mark")).to_have_count(2 * there + 2)


class EveryWidth(TiedCase):
    def test_names_contrast_and_no_sideways_scrolling(self) -> None:
        for width in (1280, 390, 320):
            with self.subTest(width=width), self.page(width, 800) as page:
                self.open_tied(page)
                page.evaluate(UNFOLD)
                self.assert_accessible(page)
                self.assert_nothing_sticks_out(page)

    def test_dark_and_printed(self) -> None:
        with self.page(color_scheme="dark") as page:
            self.open_tied(page)
            self.assert_accessible(page)
            page.emulate_media(media="print")
            expect(page.get_by_role("button", name="Suggest from the rack")).to_be_hidden()
            expect(page.locator(".tie-rows")).to_be_visible()
