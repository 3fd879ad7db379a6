"""The road log: what a trip keeps, what several say, brake gain, stops, and what the book
learns."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from decimal import Decimal
from typing import Any

from django.test import SimpleTestCase

from book.models import Ticket
from demo.login import DRIVER
from hauls.road_rules import RoadRules
from hauls.tests.yard_case import YardCase
from measures import Quantity, UnitSystem
from mechanics.units import KG_PER_LB
from road.gain import kept_gains
from road.models import BrakeGain, LookedAgain, Step, StepDone, Stopped, Trip
from road.services import do_step
from road.stops import next_stop
from road.trips import economy, economy_words, share_says
from yards.models import User


class Fuel(SimpleTestCase):
    def test_miles_a_gallon_and_litres_a_hundred(self) -> None:
        way, fuel = float(Quantity.parse("100 mi").si), float(Quantity.parse("8 gal").si)
        self.assertAlmostEqual(economy(way, fuel, UnitSystem.US), 12.5)
        self.assertEqual(economy_words(way, fuel, UnitSystem.METRIC), "18.8 L/100 km")
        # the two are one figure: 235.215 over the one is the other
        self.assertAlmostEqual(235.2146 / 12.5, economy(way, fuel, UnitSystem.METRIC), places=3)
        for wrong in ((0.0, 1.0), (1.0, 0.0)):
            with self.assertRaises(ValueError):
                economy(*wrong, UnitSystem.US)


class Handling(SimpleTestCase):
    def said(self, *trips: tuple[float, int, bool]) -> str:
        return share_says(
            [Trip(share=share, drove=mark, swayed=sway) for share, mark, sway in trips],
            UnitSystem.US,
        )

    def test_complaints_that_go_with_a_low_share_are_said(self) -> None:
        said = self.said((0.09, 2, True), (0.095, 3, True), (0.12, 5, False), (0.13, 4, False))
        self.assertIn("Every complaint was at 9.5 % on the tongue or less", said)
        mixed = self.said((0.09, 2, True), (0.13, 2, True), (0.125, 5, False), (0.13, 4, False))
        self.assertIn("Complaints go with a low share: 11.0 %", mixed)

    def test_and_those_that_do_not(self) -> None:
        said = self.said((0.14, 1, False), (0.11, 5, False), (0.12, 5, False))
        self.assertIn("do not go with a low share here", said)

    def test_too_few_say_nothing(self) -> None:
        self.assertEqual(self.said((0.09, 2, True), (0.12, 5, False)), "")
        self.assertEqual(self.said(*[(0.12, 5, False)] * 5), "")
        self.assertEqual(self.said(*[(0.09, 1, True)] * 5), "")


class Stops(SimpleTestCase):
    OFF = datetime(2026, 11, 27, 7, 0, tzinfo=UTC)

    def next(self, *stops: datetime, unloaded: bool = False, off: datetime | None = OFF) -> Any:
        return next_stop(RoadRules(), UnitSystem.US, set_off=off, stops=stops, unloaded=unloaded)

    def test_twenty_minutes_then_every_three_hours(self) -> None:
        first = self.next()
        self.assertEqual(
            (first.by, first.way, first.first), (self.OFF + timedelta(minutes=20), "50 mi", True)
        )
        stop = self.OFF + timedelta(minutes=31)
        later = self.next(stop)
        self.assertEqual(
            (later.by, later.way, later.first), (stop + timedelta(hours=3), "150 mi", False)
        )
        again = stop + timedelta(hours=2)
        self.assertEqual(self.next(again, stop).by, again + timedelta(hours=3))

    def test_none_before_it_sets_off_and_after_it_is_unloaded(self) -> None:
        self.assertIsNone(self.next(off=None))
        self.assertIsNone(self.next(unloaded=True))
        # a stop of before it set off once more does not count
        self.assertTrue(self.next(self.OFF - timedelta(hours=1)).first)


class Keeping(YardCase):
    def setUp(self) -> None:
        super().setUp()
        self.driver = User.objects.get(username=DRIVER)
        self.client.force_login(self.driver)

    def post(self, what: str, **boxes: Any) -> Any:
        return self.client.post(f"/hauls/{self.haul.pk}/road/{what}/", boxes)

    def trip(self, **more: Any) -> Any:
        boxes = {"driven_on": "2026-05-04", "carried": "loaded", "distance": "42", "fuel": "4.1"}
        boxes |= {"speed": "55", "drove": "2", "swayed": "on", "note": "on the descent", **more}
        return self.post("trip", **{f"trip-{name}": value for name, value in boxes.items()})

    def test_a_trip_keeps_what_it_weighed_and_the_share(self) -> None:
        self.assertEqual(self.trip().status_code, 302)
        trip = Trip.objects.get(haul=self.haul)
        self.assertEqual((str(trip.distance), str(trip.fuel)), ("42 mi", "4.1 gal"))
        self.assertAlmostEqual(trip.share or 0, 0.13, delta=0.05)
        page = self.client.get("/road/log/")
        self.assertContains(page, "10.2 mpg")
        self.assertContains(page, "it swayed")
        loaded = trip.mass_kg or 0
        self.trip(carried="empty")
        empty = Trip.objects.filter(haul=self.haul).order_by("pk").last()
        assert empty is not None
        self.assertIsNone(empty.share)
        items = sum(item.mass_kg for item in self.haul.draft.plan.items)
        self.assertAlmostEqual(loaded - (empty.mass_kg or 0), items)

    def test_what_cannot_be_is_refused_and_what_was_typed_stays(self) -> None:
        for box, value, words in (
            ("distance", "", "How far was it"),
            ("distance", "far", "not a distance"),
            ("distance", "99999 mi", "more than"),
            ("fuel", "-3", "not a volume"),
            ("speed", "400", "more than 155 mph"),
            ("driven_on", "2031-01-01", "still to come"),
            ("drove", "9", "not one of"),
        ):
            with self.subTest(box=box, value=value):
                answer = self.trip(**{box: value})
                self.assertContains(answer, words, status_code=422)
                self.assertContains(answer, "on the descent", status_code=422)
        self.assertFalse(Trip.objects.filter(haul=self.haul).exists())

    def test_the_log_draws_and_says_what_goes_with_what(self) -> None:
        page = self.client.get("/road/log/")
        self.assertContains(page, "Every complaint was at 9.6 % on the tongue or less")
        self.assertContains(page, "Fuel against mass")
        self.assertContains(page, 'class="scatter-odd"')
        User.objects.filter(pk=self.driver.pk).update(units="metric")
        self.assertContains(self.client.get("/road/log/"), "L/100 km")

    def test_ones_own_trip_is_removed_and_others_stay(self) -> None:
        self.trip()
        own = Trip.objects.get(haul=self.haul)
        self.assertEqual(self.client.post(f"/road/log/{own.pk}/remove/").status_code, 302)
        self.assertFalse(Trip.objects.filter(pk=own.pk).exists())
        theirs = Trip.objects.create(
            yard=self.yard,
            driven_on=date(2026, 5, 4),
            distance=Quantity.parse("4 mi"),
            by=self.user,
        )
        self.assertEqual(self.client.post(f"/road/log/{theirs.pk}/remove/").status_code, 403)
        self.client.force_login(self.stranger)
        self.assertEqual(self.client.post(f"/road/log/{theirs.pk}/remove/").status_code, 404)

    def test_gain_is_kept_and_the_nearest_load_comes_first(self) -> None:
        for wrong in ("", "strong", "-1", "101", "NaN", "1e99"):
            self.assertEqual(self.post("gain", **{"gain-value": wrong}).status_code, 422, wrong)
        self.assertEqual(self.post("gain", **{"gain-value": "6.5"}).status_code, 302)
        kept = kept_gains(self.haul, UnitSystem.US)
        self.assertEqual((kept[0].value, kept[0].mine), ("6.5", True))
        BrakeGain.objects.all().delete()
        for value, kg in (("3", 1300.0), ("7", 5000.0)):
            BrakeGain.objects.create(
                yard=self.yard,
                truck=self.haul.truck,
                trailer=self.haul.trailer,
                trailer_kg=kg,
                value=Decimal(value),
            )
        self.assertEqual(kept_gains(self.haul, UnitSystem.US)[0].value, "7")
        self.assertContains(
            self.client.get(f"/hauls/{self.haul.pk}/road/"), "Squeeze the manual lever"
        )

    def test_stops_are_noted_between_the_first_and_unloading(self) -> None:
        self.assertEqual(self.post("stop").status_code, 409)
        for step in list(Step)[:6]:
            do_step(self.haul, step, user=self.driver)
        self.assertContains(self.client.get(f"/hauls/{self.haul.pk}/road/"), "Next stop by")
        self.assertEqual(self.post("stop").status_code, 302)
        self.assertEqual(LookedAgain.objects.get(haul=self.haul).by, self.driver)
        do_step(self.haul, Step.UNLOAD, user=self.driver)
        self.assertEqual(self.post("stop").status_code, 409)

    def test_the_page_says_when_to_stop(self) -> None:
        for step in list(Step)[:5]:
            do_step(self.haul, step, user=self.driver)
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        off = StepDone.objects.get(haul=self.haul, step=Step.GO).at
        self.assertContains(page, f'data-stop="{(off + timedelta(minutes=20)).isoformat()}"')


class Teaching(YardCase):
    def stop(self, **boxes: str) -> Stopped:
        self.client.post(f"/hauls/{self.haul.pk}/road/stopped/", boxes)
        return Stopped.objects.filter(haul=self.haul).first()  # type: ignore[return-value]

    def test_the_book_learns_when_asked(self) -> None:
        stopped = self.stop(**{"mark-0": "12 ft 5 in", "gauge": "1150"})
        before = Ticket.objects.count()
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        self.assertContains(page, "Let the book learn from it")
        for _ in range(2):
            self.client.post(f"/road/stopped/{stopped.pk}/teach/")
        self.assertEqual(Ticket.objects.count(), before + 1)
        ticket = Ticket.objects.first()
        assert ticket is not None
        self.assertEqual(str(ticket.tongue_mass), "1150 lb")
        item = ticket.loads.get(kind="item")
        self.assertEqual(str(item.reference), "149 in")
        self.assertContains(self.client.get(f"/hauls/{self.haul.pk}/road/"), "its ticket")
        trailer = self.haul.trailer
        assert trailer is not None
        self.assertAlmostEqual(float(ticket.tongue_mass.si), 1150 * KG_PER_LB)  # type: ignore[union-attr]

    def test_without_a_gauge_there_is_nothing_to_learn(self) -> None:
        stopped = self.stop(**{"mark-0": "12 ft 5 in"})
        page = self.client.get(f"/hauls/{self.haul.pk}/road/")
        self.assertNotContains(page, "Let the book learn")
        before = Ticket.objects.count()
        self.client.post(f"/road/stopped/{stopped.pk}/teach/")
        self.assertEqual(Ticket.objects.count(), before)

    def test_read_by_somebody_else_in_between_both_are_shown(self) -> None:
        base = self.stop(**{"mark-0": "12 ft 5 in"}).pk
        self.client.force_login(User.objects.get(username=DRIVER))
        self.client.post(
            f"/hauls/{self.haul.pk}/road/stopped/", {"mark-0": "12 ft 4 in", "base": base}
        )
        self.client.force_login(self.user)
        late = self.client.post(
            f"/hauls/{self.haul.pk}/road/stopped/", {"mark-0": "12 ft 6 in", "base": base}
        )
        self.assertContains(late, "12 ft 4 in", status_code=409)
        self.assertContains(late, "12 ft 6 in", status_code=409)
        kept = self.client.post(
            f"/hauls/{self.haul.pk}/road/stopped/",
            {"mark-0": "12 ft 6 in", "base": base, "mine": "1"},
        )
        self.assertEqual(kept.status_code, 302)
        self.assertEqual(Stopped.objects.filter(haul=self.haul).count(), 3)
