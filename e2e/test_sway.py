"""How it tows under a person's hands: play, slide, still frames for whoever wants no motion."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from e2e.case import BrowserCase
from hauls.models import Haul

GOOD = "Orchard tractor to the Quarry Lane block"


class HowItTows(BrowserCase):
    def open_sway(self, page: Page, query: str = "") -> None:
        """Open the view of a haul."""
        haul = Haul.objects.get(name=GOOD)
        page.goto(f"{self.live_server_url}/hauls/{haul.pk}/sway/{query}")
        expect(page.locator("#sway-where")).not_to_be_empty()

    def test_a_run_plays_to_its_end_and_can_be_looked_at_by_keys(self) -> None:
        with self.page() as page:
            self.open_sway(page, "?push=lane")
            truck = page.locator("[data-part=truck]").first
            first = truck.get_attribute("transform")
            page.get_by_role("button", name="Play").click()
            expect(page.get_by_role("button", name="Stop")).to_be_visible()
            expect(page.locator("#sway-where")).to_contain_text("12.0 s", timeout=40_000)
            expect(page.get_by_role("button", name="Play")).to_be_visible()
            self.assertNotEqual(first, truck.get_attribute("transform"))
            moment = page.locator("#sway-at")
            moment.focus()
            page.keyboard.press("Home")
            self.assertEqual(first, truck.get_attribute("transform"))
            page.keyboard.press("End")
            words = page.locator("#sway-where").inner_text()
            self.assertEqual(moment.get_attribute("aria-valuetext"), words)

    def test_a_load_further_back_and_a_rack_are_told_beside_as_it_stands(self) -> None:
        with self.page() as page:
            self.open_sway(page)
            expect(page.locator(".sway-said")).to_have_count(0)
            page.locator("#sway-shift").focus()
            page.keyboard.press("ArrowRight")
            expect(page.locator("#sway-shift-now")).to_have_text("3 in further back")
            expect(page.locator(".sway-said")).to_have_text(
                re.compile("^So, at 55 mph, a swing halves in .* as it stands it halves in")
            )
            # the hand stays where it is
            expect(page.locator("#sway-shift")).to_be_focused()
            page.locator("#sway-rack").focus()
            page.keyboard.press("ArrowRight")
            expect(page.locator("#sway-rack-now")).to_have_text("50 lb")
            page.locator("#sway-speed").focus()
            page.keyboard.press("ArrowRight")
            expect(page.locator("h2")).to_contain_text("At 60 mph")
            self.assertIn("speed=60", page.url)
            self.assertIn("rack=1", page.url)
            page.locator("#sway-course-faster").check()
            expect(page.locator(".sway-here")).to_contain_text("speeding up")

    def test_a_finger_slides_and_plays(self) -> None:
        with self.page(390, 844, has_touch=True, is_mobile=True) as page:
            self.open_sway(page)
            page.locator("#sway-push-lane").tap()
            expect(page).to_have_url(re.compile("push=lane"))
            page.get_by_role("button", name="Play").tap()
            expect(page.get_by_role("button", name="Stop")).to_be_visible()
            page.get_by_role("button", name="Stop").tap()
            expect(page.locator("#sway-where")).not_to_contain_text("0.0 s,")

    def test_whoever_wants_no_motion_sees_still_frames(self) -> None:
        with self.page() as page:
            page.emulate_media(reduced_motion="reduce")
            self.open_sway(page)
            expect(page.locator("#sway-stills svg")).to_have_count(5)
            expect(page.locator("#sway-stills svg").first).to_be_visible()
            expect(page.locator("#sway-stills svg").last).to_be_visible()
            # nothing plays unless it is asked to
            expect(page.get_by_role("button", name="Play")).to_be_visible()
