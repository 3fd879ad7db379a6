"""The coach on a phone, driven by a stand-in for the gauge until it says stop."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from django.test import override_settings
from playwright.sync_api import Page, expect

from book.models import Ticket
from e2e.case import BrowserCase
from gauge.hub import HubThread
from gauge.management.commands.gauge_hub import known
from gauge.models import Gauge
from gauge.simulated import CREEP_M_S, SimulatedGauge, Traits, run
from hauls.models import Haul
from mechanics.report import evaluate
from mechanics.units import M_PER_IN

ORCHARD = "Orchard tractor to the Quarry Lane block"
PHONE = {"has_touch": True, "is_mobile": True}


class Coached(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        Ticket.objects.filter(method="gauge").delete()
        self.haul = Haul.objects.get(name=ORCHARD)
        gauge = Gauge.objects.get(name="Hitch gauge")
        # a thread of its own may not ask the test's database
        self.hub = HubThread({gauge.key: known(gauge.key)}.get)
        self.enterContext(self.hub)
        self.enterContext(override_settings(GAUGE_HOST="127.0.0.1", GAUGE_PORT=self.hub.port))
        self.key = gauge.key
        self.stand_in = SimulatedGauge(
            plan=self.haul.draft.plan, traits=Traits(noise_kg=2.0, lag_s=0.3)
        )
        self.down = threading.Event()

    @contextmanager
    def sending(self) -> Iterator[None]:
        """The stand-in sends until the end of the block."""
        over = threading.Event()
        thread = threading.Thread(
            target=run,
            args=(self.stand_in,),
            kwargs={
                "host": "127.0.0.1",
                "port": self.hub.port,
                "key": self.key,
                "after": lambda *_: None,
                "stop": over.is_set,
                "gone": self.down.is_set,
                "a_second": 10.0,
            },
            daemon=True,
        )
        thread.start()
        try:
            yield
        finally:
            over.set()
            thread.join(10)

    def open(self, page: Page) -> Any:
        """The coach's page; its live panel."""
        page.goto(f"{self.live_server_url}/hauls/{self.haul.pk}/gauge/")
        return page.locator(".gauge-panel")

    def drive(self, page: Page, seconds: float, *, until: str = "stop") -> str:
        """Do what the page says, as a driver with the phone clipped to the tractor."""
        end = time.monotonic() + seconds
        move = ""
        while time.monotonic() < end:
            move = page.locator(".gauge-panel").get_attribute("data-move") or ""
            speed = {"rearward": CREEP_M_S, "forward": -CREEP_M_S}.get(move, 0.0)
            self.stand_in.speed_m_s = speed
            if move == until:
                break
            page.wait_for_timeout(60)
        self.stand_in.speed_m_s = 0.0
        return move

    def test_until_it_says_stop_with_a_lost_connection_on_the_way(self) -> None:
        plan = self.stand_in.plan
        sure = evaluate(plan).windows[0].sure
        self.stand_in.stand(plan.items[0].placement.reference_m - 22 * M_PER_IN)
        with self.sending(), self.page(390, 844, **PHONE) as page:
            panel = self.open(page)
            page.get_by_text("Up and pinned").tap()
            expect(panel).to_have_attribute("data-move", "rearward")
            expect(panel.locator(".gauge-say")).to_contain_text("Back up")
            self.assert_nothing_sticks_out(page)
            self.drive(page, 3.0)
            self.assertNotEqual("stop", panel.get_attribute("data-move"))

            # the connection drops: within two seconds the figure is grey and says so
            self.down.set()
            gone = time.monotonic()
            expect(panel).to_have_attribute("data-stale", "true", timeout=2_600)
            self.assertLess(time.monotonic() - gone, 2.6)
            expect(panel.locator(".gauge-say")).to_contain_text("gone for")
            self.assertEqual("wait", panel.get_attribute("data-move"))
            stood = self.stand_in.position_m
            page.wait_for_timeout(500)
            self.assertEqual(stood, self.stand_in.position_m)

            self.down.clear()
            expect(panel).to_have_attribute("data-stale", "false")
            self.assertEqual("stop", self.drive(page, 40.0))
            expect(panel.locator(".gauge-say")).to_have_text("Stop")
            page.wait_for_timeout(2500)
            expect(panel).to_have_attribute("data-move", "stop")
            at = self.stand_in.position_m
            inside = any(piece.start_m <= at <= piece.end_m for piece in sure)
            self.assertTrue(inside, f"it stands at {at / M_PER_IN:.1f} in")
            self.assert_accessible(page)

    def test_frozen_and_kept_with_ramps_raised_first(self) -> None:
        with self.sending(), self.page(390, 844, **PHONE) as page:
            panel = self.open(page)
            expect(page.get_by_label("Still down")).to_be_checked()
            expect(panel).to_contain_text("Put the ramps up before you trust this")
            page.get_by_role("button", name="Freeze").tap()
            expect(page.locator("#frozen")).to_contain_text("Put the ramps up and freeze again")
            page.get_by_role("button", name="Let it go").tap()
            expect(page.locator("#frozen")).to_be_empty()
            page.get_by_text("Up and pinned").tap()
            expect(panel).not_to_contain_text("Put the ramps up")
            expect(panel).to_have_attribute("data-settled", "true")
            page.get_by_role("button", name="Freeze").tap()
            page.get_by_label("Its mark behind the headboard").fill("12-6")
            self.assert_accessible(page)
            page.get_by_role("button", name="Keep it").tap()
            expect(page.locator(".note")).to_contain_text("The reading is kept as a ticket")
            expect(page.locator(".gauge-fit")).to_contain_text("Corrected by 1 reading")
        self.assertEqual(1, Ticket.objects.filter(method="gauge").count())

    def test_sound_and_vibration_are_asked_for_and_the_page_outlives_the_service(self) -> None:
        with self.sending(), self.page(390, 844, **PHONE) as page:
            panel = self.open(page)
            expect(panel).to_have_attribute("data-stale", "false")
            for name in ("Sound", "Vibrate"):
                button = page.get_by_role("button", name=name)
                button.tap()
                expect(button).to_have_attribute("aria-pressed", "true")
            self.down.set()
            self.hub.end()
            expect(panel).to_have_attribute("data-stale", "true", timeout=5_000)
            expect(panel).to_contain_text("The gauge service is not running.", timeout=8_000)

    def test_a_dial_is_read_and_typed_in_without_a_gauge_that_sends(self) -> None:
        Gauge.objects.all().delete()
        self.expected = {422}
        with self.page(390, 844, **PHONE) as page:
            page.goto(f"{self.live_server_url}/hauls/{self.haul.pk}/gauge/")
            box = page.get_by_label("The gauge shows")
            box.fill("1400")
            box.press("Enter")
            answer = page.locator("#frozen")
            expect(answer.locator(".gauge-say")).to_contain_text("Back up about")
            expect(answer).to_contain_text("Put the ramps up, read it again")
            self.assert_accessible(page)
            page.get_by_text("Up and pinned").tap()
            expect(answer).to_be_empty()
            box.fill("about a thousand")
            page.get_by_role("button", name="Show what to do").tap()
            expect(answer.get_by_role("alert")).to_contain_text("mass")
            expect(box).to_have_value("about a thousand")
            box.fill("1,240 lb")
            page.get_by_role("button", name="Show what to do").tap()
            expect(answer).to_contain_text("the tail carried about")
            page.get_by_label("Its mark behind the headboard").fill("12-6")
            self.assert_accessible(page)
            self.assert_nothing_sticks_out(page)
            page.get_by_role("button", name="Keep it").tap()
            expect(page.locator(".note")).to_contain_text("The reading is kept as a ticket")
        self.assertEqual("1240 lb", str(Ticket.objects.get(method="gauge").tongue_mass))
