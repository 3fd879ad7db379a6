"""The made-up week: worked through the services, so that it keeps every promise they make."""

from __future__ import annotations

from datetime import date, timedelta
from io import StringIO

from django.core.management import CommandError, call_command
from django.test import TestCase
from django.utils import timezone

from book.models import Machine, Place
from day.board import booking_of, monday
from day.clashes import clashes
from day.whereabouts import not_there
from demo.tests.planted import plant_demo_yard
from demo.week import Week, WeekError, simulate_week
from hauls.models import Haul
from mechanics.checks import Status
from mechanics.report import evaluate
from road.models import ORDER, StepDone, Stopped, Trip
from yards.models import Yard


class AWeek(TestCase):
    week: Week
    first: date

    @classmethod
    def setUpTestData(cls) -> None:
        plant_demo_yard()
        cls.yard = Yard.objects.get()
        cls.before = Trip.objects.count()
        cls.first = monday(timezone.localdate(timezone=cls.yard.clock)) - timedelta(days=7)
        cls.week = simulate_week(cls.yard, cls.first, seed=3)

    def hauls(self) -> list[Haul]:
        days = (self.first, self.first + timedelta(days=4))
        there = Haul.objects.filter(yard=self.yard, day__range=days).select_related(
            "truck", "trailer", "driver"
        )
        return list(there.prefetch_related("links__machine").order_by("day", "starts"))

    def test_there_is_life_in_it(self) -> None:
        self.assertGreater(len(self.week.hauls), 8)
        self.assertEqual(len(self.hauls()), len(self.week.hauls))
        self.assertEqual(
            Stopped.objects.filter(haul__in=self.week.hauls).count(), len(self.hauls())
        )
        self.assertGreater(Trip.objects.count(), self.before + 5)

    def test_nothing_is_promised_twice_and_every_machine_is_where_it_is_fetched(self) -> None:
        hauls = self.hauls()
        for haul in hauls:
            haul.state = Haul.State.PLANNED
        booked = [one for haul in hauls if (one := booking_of(haul)) is not None]
        self.assertEqual(len(booked), len(hauls))
        self.assertEqual(list(clashes(booked)), [])
        self.assertEqual(list(not_there(self.yard, hauls)), [])

    def test_every_haul_was_right_by_its_plan_and_went_step_by_step(self) -> None:
        for haul in self.hauls():
            self.assertNotEqual(evaluate(haul.draft.plan).verdict, Status.OVER, haul.name)
            done = set(StepDone.objects.filter(haul=haul).values_list("step", flat=True))
            if haul.state == Haul.State.BACK:
                self.assertEqual(done, {str(step) for step in ORDER})
        self.assertTrue(any(haul.state == Haul.State.BACK for haul in self.hauls()))

    def test_the_command_refuses_what_is_no_week(self) -> None:
        for first in ("2026-05-26", "soon"):
            with self.assertRaises((CommandError, ValueError)):
                call_command("simulate_week", first=first, stdout=StringIO())
        with self.assertRaisesMessage(CommandError, "not over yet"):
            call_command("simulate_week", first=str(self.first + timedelta(days=14)))
        Place.objects.filter(home=True).update(home=False)
        with self.assertRaises(WeekError):
            simulate_week(self.yard, self.first)
        self.assertGreater(Machine.objects.count(), 0)
