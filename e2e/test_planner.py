"""The planner under a person's hands: mouse, keys, finger, two people, a lost connection."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page, Route, expect

from e2e.case import BrowserCase
from hauls.models import Haul

GOOD = "Orchard tractor to the Quarry Lane block"
PAIR = "Plough and pipe to the spring chamber"


def centre(page: Page, selector: str) -> tuple[float, float]:
    """Middle of an element on the screen."""
    box = page.locator(selector).bounding_box()
    assert box is not None
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def saved(page: Page) -> None:
    """Wait until the page says that it is saved."""
    expect(page.locator("#saved")).to_have_text("saved")


class Mouse(BrowserCase):
    def test_drag_to_a_place_shows_figures_on_the_way_and_is_kept(self) -> None:
        with self.page() as page:
            haul = self.open_haul(page, GOOD)
            x, y = centre(page, "#machine-0")
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x + 30, y, steps=6)
            expect(page.locator("#saved")).to_have_text("not saved")
            expect(page.locator(".share .figure-button")).not_to_have_text("13.7 %")
            self.assertEqual(self.stored_inches(haul), 150)
            page.mouse.up()
            saved(page)
            moved = self.stored_inches(haul)
            self.assertGreater(moved, 160)
            shown = page.locator(".say mark").inner_text()
            share = page.locator(".share .figure-button").inner_text()
            after_drag = page.locator("#picture").inner_html()
            page.reload()
            self.assertEqual(page.locator(".say mark").inner_text(), shown)
            self.assertEqual(page.locator(".share .figure-button").inner_text(), share)
            self.assertEqual(page.locator("#picture").inner_html(), after_drag)

    def test_buttons_turn_aim_nudge_and_undo(self) -> None:
        with self.page() as page:
            haul = self.open_haul(page, GOOD)
            page.get_by_role("button", name="Best place").click()
            expect(page.locator("#reading")).to_have_value("12 ft 11 in")
            saved(page)
            page.get_by_role("button", name="1 in back").click()
            expect(page.locator("#reading")).to_have_value("13 ft")
            page.get_by_role("button", name="Turn round").click()
            expect(page.locator(".say-over")).to_be_visible()
            saved(page)
            self.assertEqual(
                Haul.objects.get(pk=haul.pk).document["items"][0]["placement"]["facing"], "backward"
            )
            for _ in range(3):
                page.get_by_role("button", name="Undo").click()
                saved(page)
            expect(page.locator("#reading")).to_have_value("12 ft 6 in")
            saved(page)
            self.assertEqual(self.stored_inches(haul), 150)

    def test_school_and_units_are_changed_in_place(self) -> None:
        with self.page() as page:
            haul = self.open_haul(page, GOOD)
            page.select_option("#new_tongue", "share_10_12")
            expect(page.locator("#say")).to_contain_text("12 % is the most")
            page.select_option("#new_tongue", "custom")
            page.fill("[name=new_share_max]", "14")
            page.get_by_role("button", name="Use these").click()
            expect(page.locator(".share")).to_contain_text("10 to 14 %")
            saved(page)
            page.get_by_role("button", name="kg · mm").click()
            expect(page.locator(".say mark")).to_have_text("3,810 mm")
            expect(page.locator(".headroom")).to_contain_text("left of 4,536 kg")
            page.get_by_role("button", name="lb · in").click()
            expect(page.locator(".say mark")).to_have_text("12 ft 6 in")
            self.assertEqual(self.stored_inches(haul), 150)

    def test_a_limit_opens_its_arithmetic_and_keeps_it_while_moving(self) -> None:
        with self.page() as page:
            self.open_haul(page, GOOD)
            page.get_by_role("button", name="Truck GVWR").click()
            expect(page.locator(".why")).to_contain_text("8,654 lb")
            page.get_by_role("button", name="1 in back").click()
            expect(page.locator(".why")).to_contain_text("8,627 lb")

    def test_picking_another_machine_shows_its_own_window(self) -> None:
        with self.page() as page:
            haul = self.open_haul(page, PAIR)
            page.get_by_role("button", name="Pallet of drain pipe").click()
            expect(page.locator("#reading")).to_have_value("10 ft 8 in")
            page.get_by_role("button", name="1 in back").click()
            saved(page)
            haul.refresh_from_db()
            self.assertEqual(haul.document["items"][0]["placement"]["reference"], 34)
            self.assertEqual(haul.document["items"][1]["placement"]["reference"], 129)


class Sideways(BrowserCase):
    def test_dragged_across_the_deck_in_the_view_from_above(self) -> None:
        with self.page() as page:
            haul = self.open_haul(page, GOOD)
            box = page.locator(".above-machine").bounding_box()
            assert box is not None
            x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
            page.mouse.move(x, y)
            page.mouse.down()
            for step in range(1, 9):
                page.mouse.move(x, y + step)
            page.mouse.up()
            saved(page)
            haul.refresh_from_db()
            left = haul.document["items"][0]["placement"]["left"]
            self.assertGreater(left, 3)
            expect(page.locator("#sideways-heading")).to_contain_text("left of the middle")
            self.assertEqual(haul.document["items"][0]["placement"]["reference"], 150)
            page.get_by_role("button", name="Undo").click()
            expect(page.locator("#sideways-heading")).to_contain_text("on the middle")

    def test_by_keys_and_buttons(self) -> None:
        with self.page() as page:
            self.open_haul(page, GOOD)
            page.locator("#machine-0").focus()
            page.keyboard.press("ArrowUp")
            expect(page.locator("#sideways-heading")).to_contain_text("1 in right of the middle")
            page.get_by_role("button", name="1 in left").click()
            expect(page.locator("#sideways-heading")).to_contain_text("on the middle")


class Keys(BrowserCase):
    def test_a_whole_session_by_keyboard_alone(self) -> None:
        with self.page() as page:
            haul = self.open_haul(page, GOOD)
            page.keyboard.press("Tab")
            expect(page.locator(".skip")).to_be_focused()
            for _ in range(40):
                page.keyboard.press("Tab")
                if page.evaluate("document.activeElement.id") == "machine-0":
                    break
            else:
                self.fail("the machine cannot be reached by the Tab key")
            page.keyboard.press("ArrowRight")
            expect(page.locator("#reading")).to_have_value("12 ft 7 in")
            page.keyboard.press("Shift+ArrowLeft")
            expect(page.locator("#reading")).to_have_value("12 ft 1 in")
            saved(page)
            self.assertEqual(self.stored_inches(haul), 145)
            page.keyboard.press("t")
            expect(page.locator("#reading")).to_have_value("6 ft 1 in")
            page.keyboard.press("t")
            expect(page.locator("#reading")).to_have_value("12 ft 1 in")
            page.keyboard.press("r")
            page.keyboard.type("13' 2 1/2\"")
            page.keyboard.press("Enter")
            expect(page.locator(".say mark")).to_have_text("13 ft 2 1/2 in")
            saved(page)
            self.assertEqual(self.stored_inches(haul), 158.5)
            page.locator("#machine-0").focus()
            page.keyboard.press("a")
            expect(page.locator("#reading")).to_have_value("12 ft 11 in")
            page.keyboard.press("Control+z")
            expect(page.locator("#reading")).to_have_value("13 ft 2 1/2 in")
            page.keyboard.press("Control+Shift+z")
            expect(page.locator("#reading")).to_have_value("12 ft 11 in")
            page.keyboard.press("?")
            expect(page.locator("#keys")).to_be_visible()
            page.keyboard.press("Escape")
            expect(page.locator("#keys")).to_be_hidden()

    def test_a_bad_reading_is_kept_in_its_box_and_moves_nothing(self) -> None:
        self.expected = {422}
        with self.page() as page:
            haul = self.open_haul(page, GOOD)
            page.fill("#reading", "by the tree")
            page.press("#reading", "Enter")
            expect(page.locator("#reading-error")).to_contain_text("is not a length")
            expect(page.locator("#reading")).to_have_value("by the tree")
            self.assertEqual(self.stored_inches(haul), 150)
            page.fill("#reading", "12-7")
            page.press("#reading", "Enter")
            expect(page.locator("#reading")).to_have_value("12 ft 7 in")
            expect(page.locator("#reading-error")).to_be_empty()


class Finger(BrowserCase):
    def test_drag_by_touch_on_a_phone(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            haul = self.open_haul(page, GOOD)
            x, y = centre(page, "#machine-0")
            touch = page.context.new_cdp_session(page)

            def finger(kind: str, at: float | None) -> None:
                points = [] if at is None else [{"x": at, "y": y}]
                touch.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

            finger("touchStart", x)
            for step in range(1, 7):
                finger("touchMove", x + 3 * step)
            finger("touchEnd", None)
            saved(page)
            self.assertGreater(self.stored_inches(haul), 158)
            self.assert_nothing_sticks_out(page)


class TwoPeople(BrowserCase):
    def test_the_second_is_told_and_keeps_what_was_done(self) -> None:
        self.expected = {409}
        with self.page() as first, self.page() as second:
            haul = self.open_haul(first, GOOD)
            self.open_haul(second, GOOD)
            first.get_by_role("button", name="6 in back").click()
            saved(first)
            second.get_by_role("button", name="1 in back").click()
            expect(second.locator("#conflict")).to_contain_text("Ida Fern saved this haul")
            expect(second.locator("#conflict")).to_contain_text("12 ft 7 in, forward")
            expect(second.locator("#conflict")).to_contain_text("13 ft, forward")
            expect(second.locator("#reading")).to_have_value("12 ft 7 in")
            self.assertEqual(self.stored_inches(haul), 156)
            second.get_by_role("button", name="Put mine in its place").click()
            saved(second)
            self.assertEqual(self.stored_inches(haul), 151)

    def test_mine_kept_as_a_copy(self) -> None:
        self.expected = {409}
        with self.page() as first, self.page() as second:
            self.open_haul(first, GOOD)
            self.open_haul(second, GOOD)
            first.get_by_role("button", name="6 in back").click()
            saved(first)
            second.get_by_role("button", name="1 in back").click()
            second.get_by_role("button", name="Keep mine as a copy").click()
            expect(second.locator("h1")).to_have_text(f"{GOOD}, copy")
            expect(second.locator("#reading")).to_have_value("12 ft 7 in")


class LostConnection(BrowserCase):
    def test_a_move_is_kept_and_sent_when_the_server_is_back(self) -> None:
        with self.page() as page:
            haul = self.open_haul(page, GOOD)
            away = "**/change/"
            page.route(away, lambda route: route.abort("connectionrefused"))
            page.get_by_role("button", name="6 in back").click()
            expect(page.locator("#saved")).to_contain_text("no connection, trying again")
            self.assertEqual(self.stored_inches(haul), 150)
            page.unroute(away)
            saved(page)
            self.assertEqual(self.stored_inches(haul), 156)
            # the browser itself reports the refused connection
            self.seen = [line for line in self.seen if "ERR_CONNECTION_REFUSED" not in line]

    def test_gone_while_dragging_the_move_is_kept_and_sent_when_it_is_back(self) -> None:
        with self.page() as page:
            haul = self.open_haul(page, GOOD)
            x, y = centre(page, "#machine-0")
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x + 6, y)
            expect(page.locator("#saved")).to_have_text("not saved")
            for away in ("**/preview/", "**/change/"):
                page.route(away, lambda route: route.abort("connectionrefused"))
            page.mouse.move(x + 24, y, steps=4)
            expect(page.locator("#saved")).to_contain_text("no connection, trying again")
            page.mouse.up()
            self.assertEqual(self.stored_inches(haul), 150)
            for away in ("**/preview/", "**/change/"):
                page.unroute(away)
            saved(page)
            self.assertGreater(self.stored_inches(haul), 156)
            self.seen = [line for line in self.seen if "ERR_CONNECTION_REFUSED" not in line]

    def test_one_request_at_a_time_and_no_stale_answer(self) -> None:
        with self.page() as page:
            self.open_haul(page, GOOD)
            flying = {"now": 0, "most": 0, "all": 0}

            def begin(request: object) -> None:
                if "/change/" in request.url:  # type: ignore[attr-defined]
                    flying["now"] += 1
                    flying["all"] += 1
                    flying["most"] = max(flying["most"], flying["now"])

            def end(request: object) -> None:
                if "/change/" in request.url:  # type: ignore[attr-defined]
                    flying["now"] -= 1

            page.on("request", begin)
            page.on("requestfinished", end)
            x, y = centre(page, "#machine-0")
            page.mouse.move(x, y)
            page.mouse.down()
            for step in range(60):
                page.mouse.move(x + step - 30, y)
            page.mouse.move(x, y)
            page.mouse.up()
            saved(page)
            page.wait_for_timeout(200)
            expect(page.locator("#reading")).to_have_value("12 ft 6 in")
            self.assertEqual(flying["most"], 1)
            self.assertLess(flying["all"], 62)


class Strip(BrowserCase):
    """A drag follows the hand, from what the server worked out for every place beforehand."""

    def picked_up(self, page: Page) -> tuple[float, float]:
        """The load is held, off its place, and its strip is there; where it was taken."""
        x, y = centre(page, "#machine-0")
        with page.expect_response("**/strip/"):
            page.mouse.move(x, y)
            page.mouse.down()
        page.mouse.move(x + 3, y)
        return x, y

    def test_figures_follow_the_hand_without_asking_and_are_those_of_the_answer(self) -> None:
        with self.page() as page:
            self.open_haul(page, "Orchard tractor to the Quarry Lane block")
            x, y = self.picked_up(page)
            # from here on nothing is answered until the load is dropped
            held: list[Route] = []
            holding = True

            def hold(route: Route) -> None:
                if holding:
                    held.append(route)
                else:
                    route.continue_()

            page.route("**/preview/", hold)
            before, limits_before = page.locator("#reading").input_value(), self.in_sight(page)
            page.mouse.move(x + 40, y, steps=8)
            expect(page.locator("#reading")).not_to_have_value(before)
            shown, limits = self.figures(page), self.in_sight(page)
            self.assertNotEqual(shown["reading"], before)
            holding = False
            for route in held:
                route.continue_()
            with page.expect_response("**/change/"):
                page.mouse.up()
            saved(page)
            self.assertEqual(self.figures(page), shown)
            # the lines stand in another order by now, and say the same
            now = self.limits(page)
            self.assertEqual({key: now[key] for key in limits}, limits)
            self.assertNotEqual(limits, limits_before)

    def test_the_load_itself_is_under_the_hand(self) -> None:
        with self.page() as page:
            self.open_haul(page, "Orchard tractor to the Quarry Lane block")
            x, y = self.picked_up(page)
            page.route("**/preview/", lambda route: None)
            page.mouse.move(x + 40, y, steps=4)
            self.assertAlmostEqual(centre(page, "#machine-0")[0], x + 40, delta=6)
            # further away the next strip has come, or is coming
            with page.expect_response("**/strip/"):
                page.mouse.move(x - 150, y, steps=4)
            page.wait_for_function(
                "left => document.querySelector('#machine-0').getBoundingClientRect().left < left",
                arg=x - 150,
            )
            page.unroute("**/preview/")

    def limits(self, page: Page) -> dict[str, str]:
        """Each limit's line by its name."""
        return dict(
            page.evaluate(
                "[...document.querySelectorAll('.headroom li.limit')].map("
                "line => [line.id, line.textContent.replace(/\\s+/g, ' ').trim()])"
            )
        )

    def in_sight(self, page: Page) -> dict[str, str]:
        """The lines that are not folded away."""
        return dict(list(self.limits(page).items())[:9])

    def figures(self, page: Page) -> dict[str, Any]:
        """What is read off the planner."""
        return {
            "reading": page.locator("#reading").input_value(),
            "said": page.locator("#say-first").inner_text(),
            "second": page.locator("#say-second").inner_text(),
            "share": page.locator("#share-figure").inner_text(),
            "pads": page.locator(".pad-number").all_text_contents(),
        }
