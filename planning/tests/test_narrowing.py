"""The list of hauls narrowed."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from book.models import Bulk, Machine, Trailer
from hauls.models import Haul
from hauls.tests.yard_case import AspectCase
from planfile.tests.test_reading import EXAMPLE


class NarrowingTheList(AspectCase):
    def cards(self, **query: Any) -> int:
        """How many hauls the list shows."""
        answer = self.client.get("/", query, headers={"HX-Request": "true"})
        return answer.content.decode().count("card-haul")

    def test_by_verdict_machine_trailer_and_day(self) -> None:
        plough = Machine.objects.get(name="Trench plough")
        pipe = Bulk.objects.get(name="Pallet of drain pipe")
        tilt = Trailer.objects.get(name="14 ft tilt")
        self.assertEqual(Haul.objects.filter(verdict="near").count(), self.cards(verdict="near"))
        self.assertEqual(3, self.cards(load=f"machine-{plough.pk}"))
        self.assertEqual(2, self.cards(load=f"bulk-{pipe.pk}"))
        self.assertEqual(5, self.cards(trailer=tilt.pk))
        today = timezone.localdate()
        self.assertEqual(17, self.cards(since=str(today - timedelta(days=1))))
        self.assertEqual(0, self.cards(since=str(today + timedelta(days=1))))
        self.assertEqual(1, self.cards(load=f"machine-{plough.pk}", verdict="near"))

    def test_today_stands_above_until_something_is_looked_for(self) -> None:
        todays = set(Haul.objects.filter(day=timezone.localdate()).values_list("name", flat=True))
        self.assertTrue(todays)
        whole = Haul.objects.filter(archived=False).count()
        # the boxes send themselves empty too
        empty = {"q": "", "verdict": "", "load": ""}
        for answer in (
            self.client.get("/"),
            self.client.get("/", empty),
            self.client.get("/", empty, headers={"HX-Request": "true"}),
        ):
            self.assertEqual(answer.content.decode().count("card-haul"), whole)
            self.assertEqual({card.name for card in answer.context["today"]}, todays)
            self.assertContains(answer, 'id="today-heading"', count=1)
        for looked in ({"q": "plough"}, {"verdict": "near"}):
            self.assertNotContains(self.client.get("/", looked), "today-heading")

    def test_boxes_that_make_no_sense_are_told_and_narrow_nothing(self) -> None:
        page = self.client.get("/", {"since": "2026-02-02", "until": "2026-01-01"})
        self.assertContains(page, "This day is before the first.")
        self.assertEqual(17, self.cards(verdict="zebra", trailer="x", load="machine-0"))

    def test_nothing_left_says_what_to_do(self) -> None:
        page = self.client.get("/", {"verdict": "ok", "since": "2099-01-01"})
        self.assertContains(page, "No haul is left.")

    def test_the_list_takes_the_same_queries_with_more_hauls(self) -> None:
        query = {"verdict": "over", "trailer": Trailer.objects.get(name="14 ft tilt").pk}
        with CaptureQueriesContext(connection) as before:
            self.client.get("/", query)
        Haul.objects.bulk_create(
            Haul(yard=self.yard, name=f"H {n}", document=EXAMPLE, verdict="over") for n in range(30)
        )
        with self.assertNumQueries(len(before)):
            self.client.get("/", query)
