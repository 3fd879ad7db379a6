"""What a phone sends is taken once, from the person it belongs to, and said why not."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

from django.test import Client
from django.utils import timezone

from demo.login import DRIVER
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from offline.models import Received
from offline.once import REMEMBERED
from road.models import Step, StepDone, Trip
from road.services import do_step
from yards.models import User


class Outbox(YardCase):
    def setUp(self) -> None:
        super().setUp()
        self.driver = User.objects.get(username=DRIVER)
        self.client.force_login(self.driver)

    def send(self, what: str, boxes: dict[str, Any], key: str = "", **headers: str) -> Any:
        """A form as an outbox sends it."""
        told = {
            "Eyebolt-Once": key or str(uuid.uuid4()),
            "Eyebolt-Person": str(self.driver.pk),
            "HX-Request": "true",
            **headers,
        }
        return self.client.post(f"/hauls/{self.haul.pk}/road/{what}/", boxes, headers=told)

    def test_twice_sent_is_kept_once(self) -> None:
        key = str(uuid.uuid4())
        trip = {"trip-driven_on": "2026-05-04", "trip-carried": "loaded", "trip-distance": "42"}
        before = Trip.objects.count()
        for again in (False, True, True):
            answer = self.send("trip", trip, key)
            self.assertEqual(answer.status_code, 200)
            self.assertEqual(answer.json().get("before", False), again)
        self.assertEqual(Trip.objects.count(), before + 1)
        # another person's key of the same letters is another key
        self.client.force_login(self.user)
        self.send("trip", trip, key, **{"Eyebolt-Person": str(self.user.pk)})
        self.assertEqual(Trip.objects.count(), before + 2)

    def test_what_is_refused_can_be_sent_again_under_its_key(self) -> None:
        key = str(uuid.uuid4())
        wrong = self.send("trip", {"trip-driven_on": "2026-05-04", "trip-distance": "far"}, key)
        self.assertEqual(wrong.status_code, 422)
        self.assertIn("not a distance", wrong.json()["words"])
        self.assertFalse(Received.objects.exists())
        right = {"trip-driven_on": "2026-05-04", "trip-carried": "empty", "trip-distance": "9 km"}
        self.assertEqual(self.send("trip", right, key).status_code, 200)

    def test_of_somebody_else_or_without_a_key_nothing_is_taken(self) -> None:
        other = self.send("do", {"step": "hook_up"}, **{"Eyebolt-Person": str(self.user.pk)})
        self.assertEqual(other.status_code, 403)
        for key in ("x", "²" * 36, "9" * 5000):
            self.assertEqual(self.send("do", {"step": "hook_up"}, key).status_code, 422)
        self.assertFalse(StepDone.objects.filter(haul=self.haul).exists())

    def test_signed_out_is_said_and_nothing_is_lost(self) -> None:
        self.client = Client()
        self.assertEqual(self.send("do", {"step": "hook_up"}).status_code, 401)

    def test_when_it_was_noted_is_kept_where_that_can_be(self) -> None:
        now = timezone.now()
        noted = now - timedelta(hours=5)
        self.send("do", {"step": "hook_up"}, **{"Eyebolt-Noted": noted.isoformat()})
        self.assertEqual(StepDone.objects.get(haul=self.haul, step="hook_up").at, noted)
        for step, told in (
            ("load", (now + timedelta(days=2)).isoformat()),
            ("tie_down", "yesterday"),
            ("walk_round", "2026-11-27T10:00:00"),
            ("go", (now - timedelta(days=400)).isoformat()),
        ):
            self.send("do", {"step": step}, **{"Eyebolt-Noted": told})
            at = StepDone.objects.get(haul=self.haul, step=step).at
            self.assertLess(abs(at - now), timedelta(minutes=5), told)

    def test_somebody_elses_step_is_shown_beside_ones_own(self) -> None:
        do_step(self.haul, Step.HOOK_UP, user=self.user)
        answer = self.send("do", {"step": "hook_up"})
        self.assertEqual(answer.status_code, 409)
        self.assertIn("Hooked up: Ida Fern", answer.json()["theirs"])

    def test_a_plan_that_cannot_be_read_leaves_it_with_the_phone(self) -> None:
        Haul.objects.filter(pk=self.haul.pk).update(document={"format": "x"})
        answer = self.send("stopped", {"mark-0": "12 ft"})
        self.assertEqual(answer.status_code, 409)
        self.assertFalse(answer.json()["kept"])
        self.assertEqual(self.send("tick", {"tick": "x"}).status_code, 409)
        self.assertFalse(Received.objects.exists())

    def test_old_keys_are_let_go(self) -> None:
        old = Received.objects.create(user=self.driver, key="old")
        Received.objects.filter(pk=old.pk).update(at=timezone.now() - 2 * REMEMBERED)
        self.send("do", {"step": "hook_up"})
        self.assertEqual(Received.objects.count(), 1)
        self.assertNotEqual(Received.objects.get().key, "old")


class Held(YardCase):
    def test_hauls_of_today_and_tomorrow_of_whoever_asks(self) -> None:
        driver = User.objects.get(username=DRIVER)
        today = timezone.localdate()
        Haul.objects.update(driver=None)
        near, far, other = Haul.objects.all()[:3]
        for haul, day, who in (
            (near, today + timedelta(days=1), driver),
            (far, today + timedelta(days=2), driver),
            (other, today, self.user),
        ):
            haul.day, haul.driver = day, who
            haul.save(update_fields=["day", "driver"])
        self.client.force_login(driver)
        told = self.client.get("/offline/held/").json()
        self.assertEqual(told["person"], str(driver.pk))
        self.assertIn(f"/hauls/{near.pk}/road/", told["pages"])
        self.assertIn(f"/hauls/{near.pk}/card/", told["pages"])
        self.assertIn("/road/sways/", told["pages"])
        for haul in (far, other):
            self.assertNotIn(f"/hauls/{haul.pk}/road/", told["pages"])
        for page in told["pages"]:
            self.assertEqual(self.client.get(page).status_code, 200, page)

    def test_who_is_ready_to_send(self) -> None:
        told = self.client.get("/offline/ready/").json()
        self.assertEqual(told["person"], str(self.user.pk))
        self.assertGreater(len(told["token"]), 20)
        nobody = Client().get("/offline/ready/", headers={"HX-Request": "true"})
        self.assertEqual(nobody.status_code, 401)


class Installed(YardCase):
    def test_manifest_worker_and_a_page_without_signal(self) -> None:
        stranger = Client()
        manifest = stranger.get("/manifest.webmanifest").json()
        self.assertEqual(manifest["scope"], "/")
        self.assertEqual({icon["sizes"] for icon in manifest["icons"]}, {"192x192", "512x512"})
        worker = stranger.get("/worker.js")
        self.assertEqual(worker["Content-Type"], "text/javascript")
        self.assertLess(len(worker.content), 4000)
        self.assertContains(stranger.get("/no-signal/"), "This page is not on the phone")
        policy = self.client.get("/")["Content-Security-Policy"]
        self.assertIn("worker-src 'self'", policy)
        self.assertIn("manifest-src 'self'", policy)
