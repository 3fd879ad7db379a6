"""A yard file into a yard that has some of it: mine, theirs, both; and undoing that."""

from __future__ import annotations

import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from django.urls import reverse
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as PropertyCase

from book.models import HitchPart, Intake, Machine, Ticket, Trailer, Truck
from book.services.intakes import UndoneError, undo
from book.yardfile import YardFileError
from demo.tests.planted import plant_demo_yard
from exchange.merging import Choice, Chosen, ClashError
from exchange.taking_in import load_whole
from exchange.yard_file import dump_whole
from hauls.models import Haul
from yards.models import Membership, User, Yard


def whole(yard: Yard, *, photos: bool = False) -> dict[str, Any]:
    """A yard as its file has it, as it comes back from a disk."""
    found = json.loads(json.dumps(dump_whole(yard, photos=photos)))
    # hauls stand in the order in which they were last changed
    found["hauls"].sort(key=lambda haul: haul["name"])
    return dict(found)


class Merged(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        plant_demo_yard()
        cls.yard = Yard.objects.get()
        cls.user = User.objects.get(username="demo")

    def setUp(self) -> None:
        self.file = whole(self.yard, photos=True)
        self.before = whole(self.yard)
        self.truck = Truck.objects.filter(yard=self.yard).order_by("pk").first()
        assert self.truck is not None

    def key(self, listed: str, name: str) -> str:
        """Where something stands in the file."""
        return f"{listed}/{[entry['name'] for entry in self.file[listed]].index(name)}"

    def entry(self, listed: str, name: str) -> dict[str, Any]:
        """What stands there."""
        return dict(next(entry for entry in self.file[listed] if entry["name"] == name))

    def put(self, listed: str, name: str, **values: object) -> str:
        """Let the file say something else of it; its key."""
        key = self.key(listed, name)
        self.file[listed][int(key.split("/")[1])].update(values)
        return key

    @staticmethod
    def without(document: dict[str, Any], listed: str, name: str) -> dict[str, Any]:
        """A file without one entry, which it has."""
        left = [entry for entry in document[listed] if entry["name"] != name]
        assert len(left) == len(document[listed]) - 1, name
        return {**document, listed: left}

    def clashes(self, **chosen: Chosen) -> dict[str, Any]:
        """What has to be decided."""
        with self.assertRaises(ClashError) as caught:
            load_whole(self.file, yard=self.yard, user=self.user, chosen=chosen)
        return {clash.key: clash for clash in caught.exception.clashes}

    def take(self, choices: dict[str, Choice]) -> dict[str, int]:
        """Take it in with these choices."""
        found = self.clashes()
        chosen = {key: Chosen(choice=choices[key], stamp=found[key].stamp) for key in found}
        return load_whole(self.file, yard=self.yard, user=self.user, chosen=chosen)

    def test_taken_in_twice_nothing_changes(self) -> None:
        counted = load_whole(self.file, yard=self.yard, user=self.user)
        self.assertEqual({counted[name] for name in ("entries", "hauls", "photos")}, {0})
        self.assertGreater(counted["here already"], 60)
        self.assertEqual(whole(self.yard), self.before)

    def test_what_differs_is_asked_with_its_figures_and_nothing_is_stored(self) -> None:
        name = self.truck.name
        key = self.put("trucks", name, gvwr="4001 kg", notes="Another clutch")
        self.file["trucks"].append({"name": "Second hand", "gvwr": "3500 kg"})
        found = self.clashes()
        self.assertEqual(list(found), [key])
        self.assertEqual((found[key].what, found[key].name), ("truck", name))
        words = "; ".join(found[key].differs)
        self.assertIn("8,821 lb (4,001 kg) in the file", words)
        self.assertIn("Another clutch", words)
        self.assertEqual(whole(self.yard), self.before)

    def test_what_is_not_right_is_told_before_anything_is_asked(self) -> None:
        self.put("trucks", self.truck.name, gvwr="4001 kg")
        self.file["bulk"].append({"name": "Sludge", "density": "heavy"})
        with self.assertRaises(YardFileError) as caught:
            load_whole(self.file, yard=self.yard, user=self.user)
        self.assertIn("density", str(caught.exception))

    def test_mine_stays_and_the_rest_comes(self) -> None:
        key = self.put("trucks", self.truck.name, gvwr="4001 kg")
        self.file["trucks"].append({"name": "Second hand", "gvwr": "3500 kg"})
        counted = self.take({key: Choice.MINE})
        self.assertEqual(counted["entries"], 1)
        after = whole(self.yard)
        self.assertEqual(self.without(after, "trucks", "Second hand"), self.before)

    def test_theirs_takes_its_place_and_hauls_keep_their_truck(self) -> None:
        truck = self.truck
        hauls = set(Haul.objects.filter(truck=truck).values_list("pk", "hitch_id"))
        self.assertTrue(hauls)
        loads = [{"name": "Two dogs", "mass": "90 lb"}]
        key = self.put("trucks", truck.name, gvwr="4001 kg", loads=loads)
        counted = self.take({key: Choice.THEIRS})
        self.assertEqual((counted["entries"], counted["changed"]), (0, 1))
        now = Truck.objects.get(pk=truck.pk)
        self.assertEqual(str(now.gvwr), "4001 kg")
        self.assertEqual([load.name for load in now.loads.all()], ["Two dogs"])
        self.assertEqual(now.version, truck.version + 1)
        self.assertEqual(set(Haul.objects.filter(truck=now).values_list("pk", "hitch_id")), hauls)
        # a figure that theirs does not know is not known any more
        after = next(one for one in whole(self.yard)["trucks"] if one["name"] == truck.name)
        self.assertEqual(after, self.entry("trucks", truck.name))

    def test_both_come_under_two_names_and_the_file_means_its_own(self) -> None:
        machine = Machine.objects.filter(yard=self.yard).first()
        part = HitchPart.objects.filter(yard=self.yard, on_hitches__isnull=False).first()
        assert machine is not None
        assert part is not None
        choices = {
            self.put("machines", machine.name, notes="The other one"): Choice.BOTH,
            self.put("hitch_parts", part.name, notes="The other one"): Choice.BOTH,
        }
        self.file["trucks"].append(
            {
                "name": "Second hand",
                "gvwr": "3500 kg",
                "hitches": [{"name": "Hook", "type": "ball", "links": [{"part": part.name}]}],
            }
        )
        haul = dict(self.file["hauls"][0])
        item = haul["plan"]["items"][0]["id"]
        haul |= {"name": "Theirs", "items": {item: {"machine": machine.name}}}
        self.file["hauls"].append(haul)
        self.file["tickets"].append(
            {"weighed_on": "2026-01-02", "list": "machines", "name": machine.name, "number": "77"}
        )
        counted = self.take(choices)
        self.assertEqual((counted["entries"], counted["hauls"]), (3, 1))
        other = Machine.objects.get(yard=self.yard, name=f"{machine.name}, taken in")
        self.assertEqual(other.notes, "The other one")
        self.assertEqual(Haul.objects.get(name="Theirs").links.get().machine, other)
        self.assertEqual(Ticket.objects.get(number="77").thing, other)
        link = Truck.objects.get(name="Second hand").hitches.get().links.get()
        self.assertEqual(link.part.name, f"{part.name}, taken in")
        # and the yard's own are as they were
        after = whole(self.yard)
        kept = [one for one in after["machines"] if one["name"] != other.name]
        self.assertEqual(kept, self.before["machines"])

    def test_a_haul_that_is_otherwise_becomes_theirs_as_one_step(self) -> None:
        name = self.file["hauls"][0]["name"]
        haul = Haul.objects.get(yard=self.yard, name=name)
        plan = json.loads(json.dumps(self.file["hauls"][0]["plan"])) | {"notes": "By the creek"}
        said = {"day": "2026-06-01", "starts": "06:10", "to": "Long Drain", "purpose": "Theirs"}
        key = self.put("hauls", name, plan=plan, job=said)
        revision = haul.revision
        self.take({key: Choice.THEIRS})
        haul.refresh_from_db()
        self.assertEqual((str(haul.starts), haul.purpose), ("06:10:00", "Theirs"))
        self.assertEqual(haul.document["notes"], "By the creek")
        self.assertEqual(haul.revision, revision + 1)
        undo(Intake.objects.get(), user=self.user)
        haul.refresh_from_db()
        self.assertNotEqual(haul.document.get("notes"), "By the creek")
        self.assertEqual(whole(self.yard), self.before)

    def test_a_job_comes_with_its_haul_and_its_faults_are_named(self) -> None:
        haul = Haul.objects.get(yard=self.yard, name__startswith="Orchard tractor to")
        entry = self.entry("hauls", haul.name)
        self.assertEqual(entry["job"]["starts"], "09:00")
        self.assertEqual((entry["job"]["from"], entry["job"]["to"])[1], "Quarry Lane block")
        exported = self.export(haul)
        self.assertEqual(exported["extra"]["job"], entry["job"])
        key = self.key("hauls", haul.name)
        place = self.key("places", "Quarry Lane block")
        self.put("hauls", haul.name, job={**entry["job"], "starts": "10:15"})
        self.put("places", "Quarry Lane block", notes="The upper one")
        self.take({key: Choice.BOTH, place: Choice.BOTH})
        other = Haul.objects.filter(name=haul.name).exclude(pk=haul.pk).get()
        self.assertEqual(str(other.starts), "10:15:00")
        self.assertEqual(other.taken_to.name, "Quarry Lane block, taken in")  # type: ignore[union-attr]
        for job, words in (
            ({"day": "soon"}, "job.day: expected a day"),
            ({"starts": 9}, "job.starts: expected a time"),
            ({"takes_minutes": True}, "job.takes_minutes: expected a whole number"),
            ({"takes_minutes": 10**9}, "job.takes_minutes: expected a whole number"),
            ({"to": "Nowhere"}, "job.to: expected the name of a place"),
            ({"from": []}, "job.from: expected the name of a place"),
            ({"purpose": "x" * 200}, "job.purpose: expected at most"),
            ({"pay": 3}, "job.pay: no such field"),
            ("tomorrow", "job: expected an object"),
        ):
            self.file["hauls"] = [{**entry, "name": "A new one", "job": job}]
            with self.assertRaises(YardFileError) as caught:
                load_whole(self.file, yard=self.yard, user=self.user)
            self.assertIn(words, "; ".join(caught.exception.problems))

    def export(self, haul: Haul) -> dict[str, Any]:
        """A haul as a plan file."""
        self.client.force_login(self.user)
        return dict(json.loads(self.client.get(reverse("export_plan", args=[haul.pk])).content))

    def test_the_yards_own_rules_are_asked_too(self) -> None:
        Yard.objects.filter(pk=self.yard.pk).update(tolerances={"guess_percent": 20})
        self.yard.refresh_from_db()
        self.file["tolerances"] = {"guess_percent": 30}
        found = self.clashes()
        self.assertEqual(list(found), ["yard/tolerances"])
        self.assertFalse(found["yard/tolerances"].both)
        self.take({"yard/tolerances": Choice.MINE})
        self.assertEqual(Yard.objects.get().tolerances, {"guess_percent": 20})
        self.take({"yard/tolerances": Choice.THEIRS})
        self.assertEqual(Yard.objects.get().tolerances, {"guess_percent": 30})
        undo(Intake.objects.order_by("-pk")[0], user=self.user)
        self.assertEqual(Yard.objects.get().tolerances, {"guess_percent": 20})

    def test_what_was_changed_after_the_choice_is_asked_again(self) -> None:
        key = self.put("trucks", self.truck.name, gvwr="4001 kg")
        stamp = self.clashes()[key].stamp
        Truck.objects.filter(pk=self.truck.pk).update(version=stamp + 1)
        chosen = {key: Chosen(choice=Choice.THEIRS, stamp=stamp)}
        with self.assertRaises(ClashError):
            load_whole(self.file, yard=self.yard, user=self.user, chosen=chosen)
        self.assertNotEqual(str(Truck.objects.get(pk=self.truck.pk).gvwr), "4001 kg")

    def test_undone_it_is_as_before_but_for_what_was_changed_since(self) -> None:
        trailer = Trailer.objects.filter(yard=self.yard).order_by("pk")[0]
        choices = {
            self.put("trucks", self.truck.name, gvwr="4001 kg"): Choice.THEIRS,
            self.put("trailers", trailer.name, notes="Repainted"): Choice.BOTH,
        }
        self.file["machines"] += [{"name": "Sweeper"}, {"name": "Mulcher"}]
        self.take(choices)
        Machine.objects.filter(name="Mulcher").update(version=9)
        intake = Intake.objects.get()
        # with the photo of the trailer that came beside
        self.assertEqual(len(intake.made), 4)
        self.assertEqual(undo(intake, user=self.user), ["Mulcher was changed since"])
        after = whole(self.yard)
        self.assertEqual(self.without(after, "machines", "Mulcher"), self.before)
        with self.assertRaises(UndoneError):
            undo(intake, user=self.user)

    def test_through_the_pages(self) -> None:
        self.client.force_login(self.user)
        self.put("trucks", self.truck.name, gvwr="4001 kg")
        sent = SimpleUploadedFile("y.json", json.dumps(self.file).encode())
        page = self.client.post(reverse("yard_file"), {"file": sent}, follow=True)
        self.assertContains(page, "Some of it is here already")
        self.assertContains(page, "(4,001 kg) in the file")
        address = reverse("merge_yard_file", args=[page.context["work"]])
        done = self.client.post(address, {"choice-0": "theirs"}, follow=True)
        self.assertContains(done, "1 changed")
        self.assertEqual(str(Truck.objects.get(pk=self.truck.pk).gvwr), "4001 kg")
        intake = Intake.objects.get()
        back = self.client.post(reverse("undo_taken_in", args=[intake.pk]), follow=True)
        self.assertContains(back, "Undone: yard file")
        self.assertEqual(whole(self.yard), self.before)

    def test_who_may_and_who_may_not(self) -> None:
        load_whole(self.file, yard=self.yard, user=self.user)
        address = reverse("undo_taken_in", args=[Intake.objects.get().pk])
        self.client.force_login(User.objects.get(username="demo-planner"))
        page = self.client.post(address, follow=True)
        self.assertContains(page, "Only an owner, or whoever took it in")
        self.client.force_login(User.objects.get(username="demo-driver"))
        self.assertEqual(self.client.post(address).status_code, 403)
        stranger = User.objects.create_user("stranger")
        elsewhere = Yard.objects.create(name="Elsewhere")
        Membership.objects.create(yard=elsewhere, user=stranger, role="owner")
        self.client.force_login(stranger)
        self.assertEqual(self.client.post(address).status_code, 404)
        self.assertIsNone(Intake.objects.get().undone_at)


class AnyChoices(PropertyCase):
    """Whatever is chosen: taken in and undone, the yard is what it was."""

    @given(st.data())
    @settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck))
    def test_undoing_is_the_way_back(self, data: st.DataObject) -> None:
        plant_demo_yard()
        yard, user = Yard.objects.get(), User.objects.get(username="demo")
        before, file = whole(yard), whole(yard)
        for name in ("hitch_parts", "trucks", "trailers", "machines", "bulk", "gear"):
            for entry in file[name]:
                way = data.draw(st.sampled_from(["same", "noted", "new", "gone"]))
                if way == "noted":
                    entry["notes"] = "From the other yard"
                elif way == "new":
                    file[name].append({**entry, "name": f"{entry['name']} II"})
                    break
        chosen: dict[str, Chosen] = {}
        try:
            load_whole(file, yard=yard, user=user)
        except ClashError as error:
            for clash in error.clashes:
                choice = data.draw(st.sampled_from(Choice)) if clash.both else Choice.MINE
                chosen[clash.key] = Chosen(choice=choice, stamp=clash.stamp)
            load_whole(file, yard=yard, user=user, chosen=chosen)
        self.assertEqual(undo(Intake.objects.get(), user=user), [])
        self.assertEqual(whole(yard), before)
