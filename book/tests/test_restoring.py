"""Restoring a version out of the history: all of the thing, and nothing else."""

from __future__ import annotations

from reversion.models import Revision

from book.history import changes_of, keep, recorded
from book.models import HitchPart, Machine, Trailer, Truck
from book.services.things import StaleThing, restore_version
from book.yardfile import dump_thing
from hauls.tests.yard_case import YardCase
from measures import Quantity
from yards.models import Yard


class Restoring(YardCase):
    def change(self, thing: Truck | Trailer | Machine) -> None:
        """Change a thing as a page would."""
        with recorded(yard=self.yard, user=self.user):
            thing.version += 1
            thing.notes = f"changed {thing.version} times"
            thing.save()
            keep(thing)

    def newest(self, thing: Truck | Trailer | Machine) -> int:
        return changes_of(thing)[0].revision

    def test_everything_of_every_thing_becomes_what_it_was(self) -> None:
        for model in (Truck, Trailer, Machine):
            for thing in model.objects.all():
                with self.subTest(thing=str(thing)):
                    self.change(thing)
                    before, then = dump_thing(thing), self.newest(thing)
                    for name in ("axles", "parts", "loads", "anchors", "points"):
                        rows = getattr(thing, name, None)
                        if rows is not None and rows.exists():
                            rows.first().delete()
                    thing.name = "Something else"
                    self.change(thing)
                    self.assertNotEqual(dump_thing(thing), before)
                    restore_version(thing, then, version=str(thing.version), user=self.user)
                    again = model.objects.get(pk=thing.pk)
                    self.assertEqual(dump_thing(again), before)
                    self.assertGreater(again.version, 1)
                    self.assertIn("As it was on", changes_of(again)[0].why)

    def test_what_came_since_is_taken_away(self) -> None:
        machine = Machine.objects.first()
        self.change(machine)
        then = self.newest(machine)
        machine.parts.create(name="Hoe", mass=Quantity.parse("100 lb"))
        self.change(machine)
        restore_version(machine, then, version=str(machine.version), user=self.user)
        self.assertFalse(machine.parts.filter(name="Hoe").exists())

    def test_other_things_of_the_same_change_stay_as_they_are(self) -> None:
        one, two = Machine.objects.all()[:2]
        with recorded(yard=self.yard, user=self.user):
            keep(one)
            keep(two)
        then = self.newest(one) if changes_of(one) else Revision.objects.last().pk
        Machine.objects.filter(pk=two.pk).update(notes="mine")
        restore_version(one, then, version=str(one.version), user=self.user)
        two.refresh_from_db()
        self.assertEqual(two.notes, "mine")

    def test_a_hitch_part_that_is_gone_is_told(self) -> None:
        trailer = Trailer.objects.filter(links__isnull=False).first()
        self.change(trailer)
        then = self.newest(trailer)
        HitchPart.objects.filter(pk=trailer.links.first().part_id).delete()
        self.change(trailer)
        page = self.client.post(
            f"/book/trailers/{trailer.pk}/restore/",
            {"revision": then, "version": trailer.version},
            follow=True,
        )
        self.assertContains(page, "A hitch part that was on it then is not in the book any more")

    def test_stale_unknown_and_of_another_yard(self) -> None:
        machine = Machine.objects.first()
        self.change(machine)
        then = self.newest(machine)
        with self.assertRaises(StaleThing):
            restore_version(machine, then, version="1", user=self.user)
        address = f"/book/machines/{machine.pk}/restore/"
        now = {"version": machine.version}
        page = self.client.post(address, {"revision": then, "version": "1"}, follow=True)
        self.assertContains(page, "changed Burrow 17 excavator in between")
        for revision in ("", "x", "999999", "9" * 40):
            answer = self.client.post(address, {"revision": revision, **now})
            self.assertEqual(answer.status_code, 404, revision)
        other = Yard.objects.create(name="Other")
        with recorded(yard=other, user=self.user):
            keep(machine)
        foreign = Revision.objects.filter(of_yard__yard=other).get()
        answer = self.client.post(address, {"revision": foreign.pk, **now})
        self.assertEqual(answer.status_code, 404)

    def test_a_name_that_something_else_has_by_now(self) -> None:
        machine = Machine.objects.first()
        name = machine.name
        self.change(machine)
        then = self.newest(machine)
        machine.name = "Renamed"
        self.change(machine)
        Machine.objects.create(yard=self.yard, name=name)
        page = self.client.post(
            f"/book/machines/{machine.pk}/restore/",
            {"revision": then, "version": machine.version},
            follow=True,
        )
        self.assertContains(page, "Rename that first")
        machine.refresh_from_db()
        self.assertEqual(machine.name, "Renamed")

    def test_the_history_offers_it_for_all_but_the_newest(self) -> None:
        machine = Machine.objects.first()
        self.change(machine)
        machine.belly_clearance = Quantity.parse("9 in")
        self.change(machine)
        page = self.client.get(f"/book/machines/{machine.pk}/history/")
        offered = page.content.decode().count("Restore this version")
        self.assertEqual(offered, len(changes_of(machine)) - 1)
