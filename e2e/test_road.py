"""A driver's telephone on the road."""

from __future__ import annotations

from playwright.sync_api import expect

from demo.login import DRIVER
from e2e.case import BrowserCase
from hauls.models import Haul


class OnTheRoad(BrowserCase):
    def test_step_after_step_with_one_large_button(self) -> None:
        with self.page(390, 844, login=DRIVER, has_touch=True, is_mobile=True) as page:
            page.goto(f"{self.live_server_url}/")
            page.get_by_role("link", name="Road", exact=True).tap()
            expect(page.get_by_role("heading", name="Road", exact=True)).to_be_visible()
            self.assert_accessible(page)
            for said, then in (
                ("It is hooked up", "next: load"),
                ("It is loaded", "next: tie down"),
                ("It is tied down", "next: walk round"),
            ):
                page.get_by_role("button", name=said).tap()
                expect(page.locator(".way-now")).to_contain_text(then)
            box = page.locator(".way-button:visible").bounding_box()
            assert box is not None
            self.assertGreaterEqual(box["height"], 70)
            page.get_by_text("What was done").tap()
            page.get_by_role("button", name="Not tied down after all").tap()
            expect(page.locator(".way-now")).to_contain_text("next: tie down")
            self.assert_accessible(page)

    def test_where_it_really_stopped_beside_where_it_was_to(self) -> None:
        with self.page(390, 844, login=DRIVER, has_touch=True, is_mobile=True) as page:
            haul = Haul.objects.get(name="Orchard tractor to the Quarry Lane block")
            page.goto(f"{self.live_server_url}/hauls/{haul.pk}/road/")
            page.get_by_role("link", name="Where it stopped").tap()
            page.get_by_label("rear axle behind the headboard").fill("12 ft 5")
            page.get_by_label("Gauge or scale").fill("1,150")
            self.assert_accessible(page)
            self.assert_nothing_sticks_out(page)
            page.get_by_role("button", name="Keep it").tap()
            expect(page.locator(".way-stopped")).to_contain_text("12 ft 5 in")
            expect(page.locator(".way-stopped")).to_contain_text("1,150 lb")
            self.assert_accessible(page)

    def test_when_it_sways_four_lines_and_nothing_to_scroll(self) -> None:
        for width, height in ((390, 844), (320, 568), (844, 390)):
            with self.page(width, height, login=DRIVER) as page:
                page.goto(f"{self.live_server_url}/road/")
                page.get_by_role("link", name="It sways").last.click()
                expect(page.locator(".sways li")).to_have_count(4)
                self.assert_nothing_sticks_out(page)
                tall = page.evaluate("document.documentElement.scrollHeight - window.innerHeight")
                self.assertLessEqual(tall, 0, (width, height))
                self.assert_accessible(page)

    def test_six_places_fit_on_the_narrowest_telephone(self) -> None:
        with self.page(320, 568, login=DRIVER) as page:
            for path in ("/", "/road/", "/book/"):
                page.goto(f"{self.live_server_url}{path}")
                self.assert_nothing_sticks_out(page)
                expect(page.get_by_role("link", name="Road", exact=True)).to_be_in_viewport()
                expect(page.get_by_role("button", name="kg")).to_be_in_viewport()
