"""A driver's telephone without signal: lists, steps, photo and reading, noted, kept and sent
once."""

from __future__ import annotations

import io
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta

from django.utils import timezone
from PIL import Image
from playwright.sync_api import Dialog, Page, Route, expect

from aspects.tied_down.models import Tick
from demo.login import DRIVER, LOGIN, PLANNER
from e2e.case import BrowserCase
from hauls.models import Haul
from offline.models import Received
from road.models import Defect, Step, StepDone, Stopped, Trip
from road.services import do_step
from yards.models import User

GOOD = "Orchard tractor to the Quarry Lane block"
PHONE = {"has_touch": True, "is_mobile": True}


def photo() -> dict[str, object]:
    """A photo as a phone hands it over."""
    out = io.BytesIO()
    Image.new("RGB", (60, 40), "brown").save(out, "JPEG")
    return {"name": "tire.jpg", "mimeType": "image/jpeg", "buffer": out.getvalue()}


class Offline(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.driver = User.objects.get(username=DRIVER)
        Haul.objects.filter(driver=self.driver).update(driver=None)
        self.haul = Haul.objects.get(name=GOOD)
        self.haul.day, self.haul.driver = timezone.localdate(), self.driver
        self.haul.save(update_fields=["day", "driver"])
        self.address = f"{self.live_server_url}/hauls/{self.haul.pk}/road/"

    @contextmanager
    def phone(self) -> Iterator[Page]:
        """A driver's telephone that has been to the road once, with signal."""
        with self.page(390, 844, login=DRIVER, **PHONE) as page:
            page.goto(f"{self.live_server_url}/road/")
            page.wait_for_selector("html[data-held]", state="attached")
            yield page

    @contextmanager
    def no_signal(self, page: Page) -> Iterator[None]:
        """Without signal; what the browser itself has to say of it is no fault of the page."""
        seen = len(self.seen)
        page.context.set_offline(True)
        yield
        page.context.set_offline(False)
        self.seen[seen:] = [line for line in self.seen[seen:] if "net::ERR_" not in line]

    def tick(self, page: Page, words: str) -> None:
        page.get_by_role("button", name=words).tap()
        expect(page.get_by_role("button", name=words)).to_have_attribute("aria-pressed", "true")

    def sent(self, page: Page) -> None:
        """Nothing waits any more."""
        expect(page.locator("#waiting")).to_have_count(0)

    def test_lists_steps_photo_and_reading_survive_and_are_sent_once(self) -> None:
        with self.phone() as page:
            with self.no_signal(page):
                page.goto(self.address)
                expect(page.get_by_role("heading", name=GOOD).first).to_be_visible()
                self.tick(page, "Plug in")
                expect(page.locator("#waiting")).to_contain_text("1 thing not sent yet")
                page.get_by_role("button", name="It is hooked up").tap()
                expect(page.locator(".way-now")).to_contain_text("next: load")
                page.get_by_text("Something is wrong").first.tap()
                page.get_by_label("What is wrong").fill("Right rear tire")
                page.get_by_label("How so").fill("31 psi, plate says 50")
                page.locator("#id_defect-photo").set_input_files(photo())
                page.get_by_role("button", name="Tell it").tap()
                expect(page.locator(".noted")).to_contain_text("31 psi")
                expect(page.locator(".noted img")).to_be_visible()
                page.get_by_text("Where it stopped").last.tap()
                page.get_by_label("rear axle behind the headboard").fill("12 ft 5")
                page.locator("#fold-stopped").get_by_role("button", name="Keep it").tap()
                expect(page.locator("#waiting")).to_contain_text("4 things not sent yet")
                self.assert_accessible(page)
                self.assert_nothing_sticks_out(page)
                page.reload()
                expect(page.locator("#waiting")).to_contain_text("4 things not sent yet")
                page.locator("#list-hook_up > summary").tap()
                expect(page.get_by_role("button", name="Plug in")).to_have_attribute(
                    "aria-pressed", "true"
                )
                expect(page.locator(".way-now")).to_contain_text("next: load")
            self.assertFalse(StepDone.objects.filter(haul=self.haul).exists())
            self.sent(page)
            self.assertEqual(Tick.objects.filter(haul=self.haul, by=self.driver).count(), 1)
            self.assertEqual(StepDone.objects.get(haul=self.haul).step, Step.HOOK_UP)
            defect = Defect.objects.get(haul=self.haul)
            self.assertEqual((defect.note, defect.photos.count()), ("31 psi, plate says 50", 1))
            self.assertEqual(str(Stopped.objects.get(haul=self.haul).loads.get().mark), "149 in")
            self.assertEqual(Received.objects.filter(user=self.driver).count(), 4)
            expect(page.locator(".defect")).to_contain_text("not decided yet", ignore_case=True)

    def test_an_answer_that_got_lost_is_asked_for_again_and_nothing_is_kept_twice(self) -> None:
        with self.phone() as page:
            page.goto(self.address)
            lost: list[str] = []

            def lose(route: Route) -> None:
                # the server has it; the phone never hears of it
                if not lost:
                    lost.append(route.request.headers["eyebolt-once"])
                    route.fetch()
                    route.abort()
                else:
                    route.continue_()

            page.route("**/road/trip/", lose)
            seen = len(self.seen)
            page.get_by_text("Road log", exact=False).last.tap()
            page.get_by_label("Distance").fill("42")
            with page.expect_event("requestfailed", lambda r: r.url.endswith("/road/trip/")):
                page.get_by_role("button", name="Keep the trip").tap()
            expect(page.locator("#waiting")).to_contain_text("1 thing not sent yet")
            self.assertEqual(Trip.objects.filter(haul=self.haul).count(), 1)
            page.reload()
            self.sent(page)
            self.assertEqual(Trip.objects.filter(haul=self.haul).count(), 1)
            self.assertEqual(len(lost), 1)
            del self.seen[seen:]

    def test_what_is_noted_while_another_is_being_sent_goes_next(self) -> None:
        with self.phone() as page:
            page.goto(self.address)
            held: list[Route] = []

            def hold(route: Route) -> None:
                if held:
                    route.continue_()
                else:
                    held.append(route)

            page.route("**/road/tick/", hold)
            with page.expect_request("**/road/tick/"):
                self.tick(page, "Plug in")
            self.tick(page, "Chocks away")
            expect(page.locator("#waiting")).to_contain_text("2 things not sent yet")
            held[0].continue_()
            self.sent(page)
            self.assertEqual(Tick.objects.filter(haul=self.haul).count(), 2)

    def test_two_drivers_noted_it_and_both_are_shown(self) -> None:
        with self.phone() as page:
            with self.no_signal(page):
                page.goto(self.address)
                page.get_by_role("button", name="It is hooked up").tap()
                page.get_by_text("Where it stopped").last.tap()
                page.get_by_label("rear axle behind the headboard").fill("12 ft 5")
                page.locator("#fold-stopped").get_by_role("button", name="Keep it").tap()
                expect(page.locator("#waiting")).to_contain_text("2 things not sent yet")
                planner = User.objects.get(username=PLANNER)
                do_step(self.haul, Step.HOOK_UP, user=planner)
                other = Stopped.objects.create(
                    haul=self.haul, by=planner, revision=1, tongue_kg=500, note="by the planner"
                )
            self.expected = {409}
            bar = page.locator("#waiting")
            expect(bar).to_contain_text("2 things were not taken")
            expect(bar).to_contain_text("Hooked up: Tam Reedy")
            expect(bar).to_contain_text("by the planner")
            expect(bar).to_contain_text("12 ft 5")
            self.assert_accessible(page)
            bar.get_by_role("button", name="Leave theirs").first.tap()
            bar.get_by_role("button", name="Keep mine").tap()
            self.sent(page)
            self.assertEqual(StepDone.objects.get(haul=self.haul).by, planner)
            newest = Stopped.objects.filter(haul=self.haul).first()
            self.assertEqual(newest.by, self.driver)  # type: ignore[union-attr]
            self.assertTrue(Stopped.objects.filter(pk=other.pk).exists())

    def test_signing_out_asks_before_it_drops_anything(self) -> None:
        with self.phone() as page:
            with self.no_signal(page):
                page.goto(self.address)
                self.tick(page, "Plug in")
                asked: list[str] = []

                def stay(dialog: Dialog) -> None:
                    asked.append(dialog.message)
                    dialog.dismiss()

                page.on("dialog", stay)
                page.get_by_role("button", name="signed in as").tap()
                with page.expect_event("dialog"):
                    page.get_by_role("button", name="Sign out").tap()
                expect(page.locator("#waiting")).to_contain_text("1 thing not sent yet")
                self.assertIn("One thing has not been sent yet", asked[0])
            self.sent(page)
            self.assertEqual(Tick.objects.filter(haul=self.haul).count(), 1)

    def test_what_somebody_noted_waits_for_him_alone(self) -> None:
        with self.phone() as page:
            with self.no_signal(page):
                page.goto(self.address)
                self.tick(page, "Plug in")
                page.context.add_cookies([self.session_of(LOGIN)])
            page.goto(f"{self.live_server_url}/road/")
            expect(page.locator("#waiting")).to_have_count(0)
            self.assertEqual(Tick.objects.filter(haul=self.haul).count(), 0)
            page.context.add_cookies([self.session_of(DRIVER)])
            page.goto(f"{self.live_server_url}/road/")
            self.sent(page)
            self.assertEqual(Tick.objects.get(haul=self.haul).by, self.driver)

    def test_the_gain_is_found_one_step_at_a_time(self) -> None:
        with self.page(390, 844, login=DRIVER, **PHONE) as page:
            page.goto(self.address)
            page.locator("#fold-gain > summary").tap()
            shown = page.locator(".way-routine li:visible")
            expect(shown).to_have_count(1)
            for words in ("middle", "20 mph", "manual lever"):
                page.get_by_role("button", name="Next:").tap()
                expect(shown).to_contain_text(words)
            page.get_by_label("Gain that was right").fill("6.5")
            page.get_by_role("button", name="Keep the gain").tap()
            expect(page.locator(".way-gains")).to_contain_text("6.5")
            expect(shown).to_have_count(1)
            self.assert_accessible(page)

    def test_the_stop_is_counted_by_the_clock_and_not_by_the_page(self) -> None:
        set_off = timezone.now().replace(microsecond=0)
        for step in list(Step)[:5]:
            do_step(self.haul, step, user=self.driver, at=set_off)
        with self.page(390, 844, login=DRIVER, **PHONE) as page:
            page.clock.install(time=set_off)
            page.goto(self.address)
            expect(page.locator("[data-clock]")).to_have_text("20 min left")
            page.clock.fast_forward(timedelta(minutes=13).seconds * 1000)
            expect(page.locator("[data-clock]")).to_have_text("7 min left")
            # the phone was locked meanwhile: nothing ran on it
            page.clock.fast_forward(timedelta(minutes=9).seconds * 1000)
            expect(page.locator("[data-clock]")).to_contain_text("2 min late")
            expect(page.locator(".way-stop")).to_have_class("way-stop late")
