"""Planning a day: what is asked, what comes of it, what is put on the board."""

from __future__ import annotations

from datetime import date, time, timedelta
from typing import Any

from book.models import Machine, Place, Trailer
from day.asking import Asked, Driving, Kept, Wanted
from day.models import DriverTerms, Stay
from day.proposing import Found, find, may_drive
from day.putting import PutError, put_on_board
from day.runs import empty_runs
from day.stays import due, late
from hauls.assigning import Job, assign, assigned
from hauls.loads import Load
from hauls.models import Haul
from hauls.pairs import pairs_of
from hauls.tests.yard_case import YardCase
from longwork.models import LongWork
from measures import Quantity, UnitSystem
from mechanics.checks import Status
from mechanics.report import evaluate
from planfile.climbing import Place as End
from road.models import Defect
from yards.models import User

DAY = date(2026, 6, 1)


class Planning(YardCase):
    def setUp(self) -> None:
        super().setUp()
        Haul.objects.filter(yard=self.yard).update(day=None, starts=None)
        self.haul.refresh_from_db()
        Stay.objects.all().delete()
        self.places = {place.name: place for place in Place.objects.filter(yard=self.yard)}
        self.jo = User.objects.get(username="demo-driver")

    def key(self, machine: str) -> str:
        return str(Load(machine=Machine.objects.get(yard=self.yard, name=machine)).key)

    def wanted(self, machine: str, origin: str, goal: str, **more: Any) -> Wanted:
        ends = self.places[origin].pk, self.places[goal].pk
        return Wanted(load=self.key(machine), origin=ends[0], goal=ends[1], **more)

    def asked(self, *wanted: Wanted, **more: Any) -> Asked:
        driving = (Driving(user=self.jo.pk, starts=420, ends=1020),)
        return Asked(day=DAY, wanted=wanted, **{"driving": driving, **more})

    def found(self, asked: Asked) -> Found:
        return find(self.yard, asked, UnitSystem.US, seconds=60)

    def work(self, asked: Asked) -> LongWork:
        return LongWork.objects.create(
            yard=self.yard,
            kind="day-plan",
            title="A plan",
            asked=asked.json(),
            result=self.found(asked).json(),
            state=LongWork.State.DONE,
            begun_by=self.user,
        )


OUT = ("Burrow 17 excavator", "Fernbeck yard", "Quarry Lane block")
HOME = ("Kestrel T6 compact loader", "Stony Bank culvert", "Fernbeck yard")


class Plans(Planning):
    def test_out_and_home_again_is_one_trip_that_holds(self) -> None:
        found = self.found(self.asked(self.wanted(*OUT), self.wanted(*HOME)))
        best = found.plans[0]
        (trip,) = best.trips
        self.assertEqual((best.left, best.trips_proved, trip.driver), ((), True, self.jo.pk))
        self.assertEqual([ride.aboard for ride in trip.rides], [(0,), (1,)])
        for ride in trip.rides:
            self.assertNotEqual(evaluate(ride.draft.plan).verdict, Status.OVER)
        # what is kept reads as what was found
        self.assertEqual(Found.read(found.json()), found)

    def test_a_truck_that_is_promised_or_held_up_is_not_sent(self) -> None:
        asked = self.asked(self.wanted(*OUT))
        (first,) = self.found(asked).plans[0].trips
        trailer = Trailer.objects.get(pk=first.outfit.split("-")[1])
        Defect.objects.create(yard=self.yard, trailer=trailer, what="Bent axle", by=self.user)
        found = self.found(asked)
        self.assertNotEqual(found.plans[0].trips[0].outfit.split("-")[1], str(trailer.pk))
        self.assertTrue(any("Bent axle" in words for words in found.notes))
        job = Job(day=DAY, starts=time(7), takes_minutes=600, driver=self.jo)
        assign(self.haul, job, was=assigned(self.haul))
        self.assertEqual(self.found(asked).plans[0].left, ((0, "no_time"),))

    def test_what_somebody_may_not_drive_is_not_given_to_him(self) -> None:
        DriverTerms.objects.filter(user=self.jo).update(most_trailer=Quantity.parse("3000 lb"))
        left = dict(self.found(self.asked(self.wanted(*OUT))).plans[0].left)
        self.assertEqual(left, {0: "no_driver"})
        terms = DriverTerms.objects.get(user=self.jo)
        hitch, trailer = pairs_of(self.yard)[0]
        trailer.gvwr = None
        self.assertFalse(may_drive(terms, hitch, trailer))
        terms.most_trailer, terms.most_together = None, Quantity.parse("99000 lb")
        self.assertFalse(may_drive(terms, hitch, trailer))
        terms.most_together = None
        self.assertTrue(may_drive(terms, hitch, trailer))

    def test_what_is_kept_stays_and_an_unknown_way_is_told(self) -> None:
        out, home = self.wanted(*OUT), self.wanted(*HOME)
        outfit = self.found(self.asked(home)).plans[0].trips[0].outfit
        kept = (Kept(wanted=(1,), outfit=outfit, driver=self.jo.pk),)
        best = self.found(self.asked(out, home, kept=kept)).plans[0]
        self.assertIn((1,), [trip.wanted for trip in best.trips])
        far = self.wanted(OUT[0], "Fernbeck yard", "Spring chamber")
        self.assertEqual(self.found(self.asked(far)).plans[0].left, ((0, "no_way"),))


class Putting(Planning):
    def test_each_way_with_something_aboard_is_a_haul_once(self) -> None:
        work = self.work(self.asked(self.wanted(*OUT), self.wanted(*HOME)))
        made = put_on_board(work, 0, user=self.user)
        self.assertEqual(len(made), 2)
        first, second = (Haul.objects.get(pk=haul.pk) for haul in made)
        self.assertEqual((first.day, first.driver), (DAY, self.jo))
        self.assertEqual(
            (first.fetched_from, first.taken_to), (self.places[OUT[1]], self.places[OUT[2]])
        )
        self.assertEqual(first.links.get().machine.name, OUT[0])  # type: ignore[union-attr]
        # and the ground is what the book says of the place
        self.assertEqual(first.draft.site(End.LOADING).surface, "gravel")
        self.assertEqual(first.draft.site(End.UNLOADING).surface, "grass_wet")
        # the second begins where the first is over
        assert first.starts is not None
        assert second.starts is not None
        ends = first.starts.hour * 60 + first.starts.minute + (first.takes_minutes or 0)
        self.assertEqual(second.starts.hour * 60 + second.starts.minute, ends)
        with self.assertRaisesMessage(PutError, "on the board already"):
            put_on_board(work, 0, user=self.user)
        self.assertEqual(Haul.objects.filter(day=DAY).count(), 2)

    def test_what_is_gone_by_then_is_said_and_nothing_is_stored(self) -> None:
        work = self.work(self.asked(self.wanted(*OUT), self.wanted(*HOME)))
        Machine.objects.get(yard=self.yard, name=HOME[0]).delete()
        answer = self.client.post(f"/day/plan/{work.pk}/put/", {"plan": "0"})
        self.assertContains(answer, "not there any more", status_code=409)
        self.assertContains(answer, "Nothing was put on the board", status_code=409)
        self.assertFalse(Haul.objects.filter(day=DAY).exists())

    def test_no_other_yard_reaches_it(self) -> None:
        work = self.work(self.asked(self.wanted(*OUT)))
        self.client.force_login(self.stranger)
        for way in ("put", "again"):
            self.assertEqual(self.client.post(f"/day/plan/{work.pk}/{way}/").status_code, 404)


class Asking(Planning):
    def sent(self, **more: str) -> dict[str, str]:
        return {
            "day": "2026-06-01",
            "row-0-load": self.key(OUT[0]),
            "row-0-origin": str(self.places[OUT[1]].pk),
            "row-0-goal": str(self.places[OUT[2]].pk),
            f"driver-{self.jo.pk}-drives": "on",
            f"driver-{self.jo.pk}-starts": "07:00",
            f"driver-{self.jo.pk}-ends": "16:00",
            **more,
        }

    def test_by_the_page_and_on_to_the_board(self) -> None:
        answer = self.client.post("/day/plan/", self.sent(), follow=True)
        self.assertContains(answer, "Monday 1 June: 1 trip, 14.0 mi in all")
        self.assertContains(answer, "Proved: nothing leaves fewer machines")
        work = LongWork.objects.get(kind="day-plan")
        again = self.client.post(f"/day/plan/{work.pk}/again/", {"keep": "0"}, follow=True)
        self.assertContains(again, "checked")
        answer = self.client.post(f"/day/plan/{work.pk}/put/", {"plan": "0"}, follow=True)
        self.assertContains(answer, "1 haul is on the board")

    def test_every_wrong_box_is_said_and_kept(self) -> None:
        for more, words in (
            ({"row-0-load": ""}, "Choose what has to go there"),
            ({"row-0-origin": ""}, "Say where it is"),
            ({"row-0-goal": str(self.places[OUT[1]].pk)}, "It is there already"),
            ({"row-0-earliest": "10:00", "row-0-due": "09:00"}, "before it is ready"),
            ({f"driver-{self.jo.pk}-drives": ""}, "Tick who drives"),
            ({f"driver-{self.jo.pk}-ends": "06:00"}, "before the start"),
            ({"speed": "a lot"}, "Write"),
            ({"speed": "900 mph"}, "how fast an outfit"),
            ({"on_minutes": "soon"}, "not how long"),
            ({"day": "1.6."}, "Write the day"),
        ):
            with self.subTest(words):
                answer = self.client.post("/day/plan/", self.sent(**more))
                self.assertContains(answer, words, status_code=422)
                if "row-0-load" not in more:
                    self.assertContains(
                        answer, f'value="{self.key(OUT[0])}" selected', status_code=422
                    )
        self.assertFalse(LongWork.objects.exists())
        twice = {name.replace("row-0", "row-1"): v for name, v in self.sent().items()}
        answer = self.client.post("/day/plan/", self.sent(**twice))
        self.assertContains(answer, "stands there twice", status_code=422)
        Place.objects.filter(home=True).update(home=False)
        answer = self.client.post("/day/plan/", self.sent())
        self.assertContains(answer, "which place is the yard itself", status_code=422)

    def test_more_rows_and_nonsense(self) -> None:
        answer = self.client.post("/day/plan/", self.sent(more="1"))
        self.assertContains(answer, "row-3-load")
        for sent in (
            {},
            {"row-0-load": "machine-x-y-z"},
            {"row-0-load": "bulk-9999999999999999999"},
        ):
            self.assertEqual(self.client.post("/day/plan/", sent).status_code, 422)
        self.assertEqual(self.client.get("/day/plan/?day=moon").status_code, 200)


class Stays(Planning):
    def stay(self, machine: str, place: str, since: date, **more: Any) -> Stay:
        return Stay.objects.create(
            yard=self.yard,
            machine=Machine.objects.get(yard=self.yard, name=machine),
            place=self.places[place],
            since=since,
            **more,
        )

    def bring(self, place: str, day: date, starts: time, minutes: int = 60) -> None:
        """The haul of the orchard tractor takes it there."""
        self.haul.refresh_from_db()
        job = Job(day=day, starts=starts, takes_minutes=minutes, taken_to=self.places[place])
        assign(self.haul, job, was=assigned(self.haul))

    def test_what_nothing_brings_in_time_is_told_on_the_board(self) -> None:
        tractor = "Harrow 48 tractor with loader"
        self.stay(tractor, "Low Fields", DAY, since_time=time(10))
        said = list(late(self.yard, DAY, DAY))
        self.assertEqual(
            said,
            [f"{tractor} has to be at Low Fields by Monday 1 Jun, 10:00, and no haul brings it."],
        )
        self.assertContains(self.client.get("/day/?week=2026-06-01"), "no haul brings it")
        self.bring("Low Fields", DAY, time(9, 30))
        self.assertIn(
            "its haul has it there by Monday 1 Jun, 10:30 only", next(late(self.yard, DAY, DAY))
        )
        self.bring("Low Fields", DAY, time(9))
        self.assertEqual(list(late(self.yard, DAY, DAY)), [])

    def test_a_days_plan_begins_with_what_is_due_and_what_is_over(self) -> None:
        tractor = "Harrow 48 tractor with loader"
        self.stay(tractor, "Low Fields", DAY, until=DAY + timedelta(days=2))
        (one,) = due(self.yard, DAY)
        self.assertEqual((one.stay.machine.name, one.back), (tractor, False))
        self.bring("Low Fields", DAY, time(9))
        self.assertEqual(due(self.yard, DAY), [])
        self.assertEqual(due(self.yard, DAY + timedelta(days=1)), [])
        (one,) = due(self.yard, DAY + timedelta(days=2))
        self.assertTrue(one.back)
        page = self.client.get("/day/plan/?day=2026-06-03")
        self.assertContains(page, f'value="{self.key(tractor)}" selected')

    def test_kept_changed_refused_taken_out(self) -> None:
        sent = {
            "load": self.key(OUT[0]),
            "place": str(self.places["Low Fields"].pk),
            "since": "2026-06-01",
            "since_time": "07:00",
            "until": "2026-06-04",
        }
        self.client.post("/day/stays/new/", sent)
        one = Stay.objects.get()
        self.assertEqual((one.machine.name, one.since_time), (OUT[0], time(7)))
        elsewhere = {**sent, "place": str(self.places["Mill Ponds"].pk), "since": "2026-06-03"}
        answer = self.client.post("/day/stays/new/", {**elsewhere, "until": ""})
        self.assertContains(answer, "It has to be at Low Fields at that time", status_code=422)
        answer = self.client.post("/day/stays/new/", {**sent, "until": "2026-05-01"})
        self.assertContains(answer, "before it begins", status_code=422)
        answer = self.client.post("/day/stays/new/", {**sent, "until": "", "until_time": "9:00"})
        self.assertContains(answer, "Say the day too", status_code=422)
        answer = self.client.post(f"/day/stays/{one.pk}/", {**sent, "version": "9", "note": "Mine"})
        self.assertContains(answer, "Somebody else changed it", status_code=409)
        self.assertContains(answer, "Mine", status_code=409)
        self.client.post(f"/day/stays/{one.pk}/", {**sent, "version": "1", "note": "Ditch"})
        one.refresh_from_db()
        self.assertEqual((one.note, one.version), ("Ditch", 2))
        self.client.force_login(self.stranger)
        self.assertEqual(self.client.post(f"/day/stays/{one.pk}/remove/").status_code, 404)
        self.client.force_login(self.user)
        self.client.post(f"/day/stays/{one.pk}/remove/")
        self.assertFalse(Stay.objects.exists())

    def test_a_drivers_terms_are_kept_as_typed(self) -> None:
        tam = User.objects.get(username="demo-planner")
        sent = {"starts": "06:30", "ends": "15:00", "most_trailer": "7 t", "drives": "on"}
        self.client.post(f"/day/drivers/{tam.pk}/", {**sent, "version": "1"})
        terms = DriverTerms.objects.get(user=tam)
        self.assertEqual((str(terms.most_trailer), terms.starts), ("7 t", time(6, 30)))
        answer = self.client.post(f"/day/drivers/{tam.pk}/", {**sent, "ends": "05:00"})
        self.assertContains(answer, "before the start", status_code=422)
        self.assertContains(self.client.get("/day/drivers/"), "06:30 to 15:00")


class EmptyRuns(Planning):
    def test_before_a_haul_between_two_and_home(self) -> None:
        loader = Haul.objects.get(name="Compact loader to the Stony Bank culvert")
        self.assertEqual(loader.truck_id, self.haul.truck_id)
        ends = {"fetched_from": self.places["Fernbeck yard"], "taken_to": self.places["Low Fields"]}
        assign(self.haul, Job(day=DAY, starts=time(8), **ends), was=assigned(self.haul))
        ends = {"fetched_from": self.places["Mill Ponds"], "taken_to": self.places["Fernbeck yard"]}
        assign(loader, Job(day=DAY, starts=time(11), **ends), was=assigned(loader))
        self.assertEqual(
            empty_runs(self.yard, [loader, self.haul], UnitSystem.US),
            {loader.pk: "Before it about 9.0 mi to 19.0 mi empty from Low Fields."},
        )
        loader.taken_to = self.places["Spring chamber"]
        found = empty_runs(self.yard, [loader, self.haul], UnitSystem.US)
        self.assertIn("Then an unknown way home empty.", found[loader.pk])
