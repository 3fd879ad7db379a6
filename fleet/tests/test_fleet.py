"""The fleet: what to do next, and every thing with where it is."""

from __future__ import annotations

from datetime import date, time, timedelta
from typing import Any

from django.utils import timezone

from book.models import Gear, Machine, Place, Trailer
from day.models import Stay
from fleet.hauled import hauled
from fleet.page import Fleet, Line, fleet_of
from hauls.assigning import Job, assign, assigned
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from measures import Quantity, UnitSystem
from road.models import Defect, Inspection, Step, StepDone, Trip


class Fleets(YardCase):
    def setUp(self) -> None:
        super().setUp()
        self.today: date = timezone.localdate(timezone=self.yard.clock)
        self.haul.refresh_from_db()

    def told(self) -> Fleet:
        return fleet_of(self.yard, self.today, UnitSystem.US)

    def words(self) -> list[str]:
        return [one.words for one in self.told().todo]

    def line(self, name: str) -> Line:
        return next(one for group in self.told().groups for one in group.lines if one.name == name)

    def assign(self, **said: Any) -> None:
        self.haul.refresh_from_db()
        assign(self.haul, Job(**said), was=assigned(self.haul))


class Next(Fleets):
    def test_what_holds_something_up_comes_first(self) -> None:
        trailer = Trailer.objects.get(yard=self.yard, name="20 ft equipment trailer")
        Defect.objects.create(yard=self.yard, trailer=trailer, what="Cracked weld", by=self.user)
        found = self.told().todo
        self.assertTrue(found[0].words.startswith("Decide or mend: "))
        self.assertIn(f"Decide or mend: {trailer.name}: Cracked weld.", self.words())
        line = self.line(trailer.name)
        self.assertEqual((line.state, line.status), ("held up", "over"))
        self.assertIn("held up: Cracked weld", line.notes)

    def test_inspections_overdue_and_soon(self) -> None:
        Inspection.objects.all().delete()
        trailer = Trailer.objects.get(yard=self.yard, name="25 ft gooseneck")
        Inspection.objects.create(yard=self.yard, trailer=trailer, what="Hubs", every_days=30)
        self.assertTrue(
            any(words.startswith("Inspect 25 ft gooseneck: Hubs") for words in self.words())
        )

    def test_a_near_miss_and_a_haul_that_went_out_over(self) -> None:
        Trip.objects.all().delete()
        Trip.objects.create(
            yard=self.yard,
            haul=self.haul,
            driven_on=self.today,
            distance=Quantity.parse("9 mi"),
            swayed=True,
            drove=Trip.Drove.BAD,
            by=self.user,
        )
        (near,) = [one for one in self.told().todo if one.words.startswith("Near miss")]
        self.assertIn("it swayed and it drove uneasily", near.words)
        self.assertEqual(near.address, self.haul.get_absolute_url())
        Trip.objects.update(driven_on=self.today - timedelta(days=90))
        self.assertFalse(any(words.startswith("Near miss") for words in self.words()))
        Haul.objects.filter(pk=self.haul.pk).update(verdict="over")
        StepDone.objects.create(haul=self.haul, step=Step.GO, revision=1, by=self.user)
        self.assertTrue(any("went out over a limit" in words for words in self.words()))

    def test_a_machine_that_nothing_brings(self) -> None:
        Stay.objects.all().delete()
        self.assertFalse(any("no haul brings it" in words for words in self.words()))
        Stay.objects.create(
            yard=self.yard,
            machine=Machine.objects.get(yard=self.yard, name="Ridge R5 roller"),
            place=Place.objects.get(yard=self.yard, name="Low Fields"),
            since=self.today + timedelta(days=2),
        )
        self.assertTrue(any("no haul brings it" in words for words in self.words()))

    def test_a_guess_that_several_hauls_rest_on(self) -> None:
        mini = Haul.objects.get(name="Mini dumper to the spring chamber")
        for n in range(3):
            copy = Haul.objects.get(pk=mini.pk)
            links = list(copy.links.all())
            copy.pk, copy.name = None, f"Again {n}"
            copy.save(force_insert=True)
            for link in links:
                link.pk, link.haul = None, copy
                link.save(force_insert=True)
        found = [one for one in self.told().todo if "rest on a guess" in one.words]
        self.assertTrue(any("Wren 9 mini dumper" in one.words for one in found), found)
        self.assertTrue(all(one.status == "unknown" for one in found))


class Things(Fleets):
    def test_where_a_machine_is_and_what_is_next(self) -> None:
        Haul.objects.filter(yard=self.yard).update(day=None)
        tractor = "Harrow 48 tractor with loader"
        self.assertEqual(self.line(tractor).where, "Fernbeck yard")
        low = Place.objects.get(yard=self.yard, name="Low Fields")
        self.assign(day=self.today, starts=time(0, 10), takes_minutes=30, taken_to=low)
        self.assertEqual(self.line(tractor).where, "Low Fields")
        self.assertIn(self.haul.name, self.line(tractor).coming)
        Haul.objects.filter(pk=self.haul.pk).update(state=Haul.State.ON_THE_ROAD)
        self.assertEqual(self.line(tractor).where, f"with “{self.haul.name}”")
        self.assertEqual(self.line("Work truck 3").state, "on the road")

    def test_the_limit_that_is_tightest_most_often(self) -> None:
        found = hauled(self.yard, self.today)
        for key, codes in found.tight.items():
            self.assertLessEqual(sum(codes.values()), found.hauls[key])
        notes = " ".join(self.line("Gooseneck truck").notes)
        self.assertRegex(notes, r"tightest: .+, \d+ of \d+ hauls")

    def test_gear_says_what_is_wrong_with_it(self) -> None:
        gear = Gear.objects.get(yard=self.yard, name="3/8 chain, grade 70")
        gear.inspected_on = self.today - timedelta(days=400)
        gear.save()
        self.assertIn("last looked over", " ".join(self.line(gear.name).notes))
        gear.retired = Gear.Retired.CUT
        gear.save()
        line = self.line(gear.name)
        self.assertEqual(line.status, "over")
        self.assertIn("retired", line.state)

    def test_the_page_of_a_full_and_of_an_empty_yard(self) -> None:
        self.assertContains(self.client.get("/fleet/"), "What to do next")
        self.client.force_login(self.stranger)
        page = self.client.get("/fleet/")
        self.assertContains(page, "Nothing waits")
        self.assertContains(page, "Begin with the truck")
        self.assertNotContains(page, "Work truck 3")
