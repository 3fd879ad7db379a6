"""Gear of the rack, anchors and points: what is entered, what it comes to, what is asked."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.test import SimpleTestCase
from django.utils import timezone

from book.doubts import doubts
from book.gaps import gaps
from book.gear import called_limit, gear_limit, overdue
from book.models import Configuration, Gear, Machine, MachinePoint, Trailer, TrailerAnchor
from book.plan_view import plan_view
from book.tests.pages import formset
from book.ties import points_there, spots, usual_anchors, usual_points
from book.tolerances import Tolerances
from hauls.tests.yard_case import YardCase
from measures import Quantity, UnitSystem
from mechanics.units import KG_PER_LB

US, METRIC = UnitSystem.US, UnitSystem.METRIC
HARROW = "Harrow 60 backhoe tractor"


def gear(**more: Any) -> Gear:
    """A piece that is not stored."""
    return Gear(**{"name": "piece", "kind": "chain", **more})


def q(text: str) -> Quantity:
    """A quantity as stored."""
    return Quantity.parse(text)


class Limits(SimpleTestCase):
    def pounds(self, piece: Gear) -> float | None:
        """What it holds, in whole pounds."""
        kg = gear_limit(piece).kg
        return None if kg is None else round(kg / KG_PER_LB, 6)

    def test_the_mark_counts_before_the_table(self) -> None:
        self.assertEqual(self.pounds(gear(size=q("0.375 in"), grade="70")), 6600)
        self.assertEqual(self.pounds(gear(size=q("0.375 in"), grade="70", wll=q("6000 lb"))), 6000)

    def test_chain_without_a_grade_counts_as_the_lowest(self) -> None:
        found = gear_limit(gear(size=q("0.375 in")))
        self.assertEqual(round((found.kg or 0) / KG_PER_LB), 2650)
        self.assertIn("counts as 30", found.source)

    def test_other_gear_without_a_mark_counts_nothing(self) -> None:
        for kind in ("strap", "binder", "hook", "shackle", "wire_rope"):
            self.assertIsNone(gear_limit(gear(kind=kind, size=q("2 in"))).kg, kind)
        strap = gear(kind="strap", size=q("2 in"))
        self.assertIn("2,000 lb", called_limit(strap, US))
        self.assertEqual(called_limit(gear(kind="strap", size=q("5 in")), US), "")
        self.assertIsNone(gear_limit(gear(size=q("2 in"), grade="70")).kg)

    def test_what_is_retired_holds_nothing(self) -> None:
        found = gear_limit(gear(wll=q("6600 lb"), retired="kinked"))
        self.assertIsNone(found.kg)
        self.assertIn("kinked", found.source)

    def test_gaps_and_questions(self) -> None:
        bare = gear(kind="strap")
        self.assertEqual(
            [gap.words for gap in gaps(bare)],
            ["working load limit", "length", "when it was last looked over"],
        )
        self.assertEqual(gaps(gear(kind="strap", retired="cut")), [])
        old = gear(inspected_on=timezone.localdate() - timedelta(days=400))
        self.assertTrue(overdue(old, timezone.localdate()))
        found = doubts(
            gear(
                size=q("0.375 in"),
                grade="70",
                wll=q("26400 lb"),
                length=q("200 ft"),
                inspected_on=old.inspected_on,
            ),
            US,
            Tolerances(),
        )
        self.assertEqual([doubt.field for doubt in found], ["inspected_on", "wll", "length"])


class Places(YardCase):
    def machine(self, name: str = HARROW) -> Machine:
        """A machine of the demo yard."""
        return Machine.objects.get(name=name)

    def test_a_pair_is_two_places(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        found = list(spots(trailer.anchors.all()))
        self.assertEqual(len(found), 2 * trailer.anchors.count())
        self.assertEqual([spot.id for spot in found[:2]], ["front ring left", "front ring right"])
        self.assertEqual(found[0].left_m, -found[1].left_m)

    def test_points_come_and_go_with_parts(self) -> None:
        machine = self.machine()
        on, off = (Configuration.objects.get(machine=machine, name=n) for n in
                   ("backhoe on", "backhoe off"))  # fmt: skip
        with_it = {point.name for point in points_there(machine, on)}
        without = {point.name for point in points_there(machine, off)}
        self.assertIn("backhoe frame", with_it)
        self.assertNotIn("drawbar", with_it)
        self.assertIn("drawbar", without)
        self.assertNotIn("backhoe frame", without)

    def test_usual_ones_are_guesses(self) -> None:
        trailer = Trailer.objects.get(name="14 ft tilt")
        self.assertTrue(all(anchor.guess for anchor in usual_anchors(trailer)))
        machine = self.machine("Harrow 48 tractor with loader")
        points = usual_points(machine)
        self.assertEqual([p.name for p in points], ["front axle", "rear axle"])
        self.assertTrue(all(p.guess and p.both for p in points))
        self.assertEqual(usual_points(Machine(name="bare")), [])
        self.assertEqual(usual_anchors(Trailer(name="bare")), [])
        metric = usual_anchors(Trailer(deck_length=q("5000 mm"), deck_width=q("2000 mm")))
        self.assertEqual({a.off.unit for a in metric}, {"mm"})

    def test_gaps_name_what_is_guessed_or_not_there(self) -> None:
        tilt = [gap.words for gap in gaps(Trailer.objects.get(name="14 ft tilt"))]
        self.assertTrue(any(words.startswith("measured place of front ring") for words in tilt))
        self.assertTrue(any(words.startswith("what front ring") for words in tilt))
        bare = Machine.objects.create(yard=self.yard, name="bare")
        self.assertIn("points to tie it by", [gap.words for gap in gaps(bare)])

    def test_the_drawing_from_above(self) -> None:
        tolerances = Tolerances.of(self.yard)
        trailer = plan_view(Trailer.objects.get(name="20 ft equipment trailer"), US, tolerances)
        assert trailer is not None
        self.assertEqual(len(trailer.marks), 10)
        # 4 in behind the front edge, 39 in to either side
        self.assertAlmostEqual(trailer.marks[0].x, trailer.x0 + 4 * trailer.per)
        self.assertAlmostEqual(trailer.marks[0].y, trailer.y0 + 39 * trailer.per)
        self.assertAlmostEqual(trailer.marks[1].y, trailer.y0 - 39 * trailer.per)
        machine = plan_view(self.machine("Kestrel T6 compact loader"), METRIC, tolerances)
        assert machine is not None
        self.assertTrue(machine.back)
        self.assertEqual(sum(mark.never for mark in machine.marks), 2)
        front = machine.marks[0]
        self.assertAlmostEqual(front.x, machine.x0 - 58 * 25.4 * machine.per)
        self.assertIsNone(plan_view(Gear(), US, tolerances))
        self.assertIsNone(plan_view(Trailer(name="bare"), US, tolerances))


class Pages(YardCase):
    def machine_data(self, **more: Any) -> dict[str, Any]:
        """The roller's page as a browser sends it."""
        return {
            "name": "Tied roller",
            "shape": "loader",
            "built": "whole",
            "running": "wheels",
            "mass": "2000",
            "mass_known": "plate",
            "mark_name": "rear axle",
            "balance_known": "guess",
            "version": "",
            **formset("parts", {"name": "Cab", "kind": "cab", "mass": "100", "known": "guess"}),
            **formset("points"),
            **more,
        }

    def point(self, **more: Any) -> dict[str, Any]:
        """A row of points."""
        return {
            "name": "front eye",
            "kind": "eye",
            "ahead": "60",
            "off": "18",
            "height": "12",
            "both": "on",
            **more,
        }

    def test_gear_is_kept_as_marked(self) -> None:
        data = {"name": "New chain", "kind": "chain", "count": "3", "wll": "2,100 kg",
                "grade": "", "retired": "", "inspected_by": "", "version": ""}  # fmt: skip
        answer = self.client.post("/book/gear/new/", data)
        self.assertEqual(answer.status_code, 302)
        piece = Gear.objects.get(name="New chain")
        self.assertEqual(str(piece.wll), "2100 kg")
        page = self.client.get(f"/book/gear/{piece.pk}/").content.decode()
        self.assertIn("2,100 kg", page)
        self.assertIn("3 pieces", page)

    def test_gear_of_tomorrow_and_none_of_it_are_refused(self) -> None:
        tomorrow = (timezone.localdate() + timedelta(days=3)).isoformat()
        data = {"name": "New chain", "kind": "chain", "count": "0", "inspected_on": tomorrow}
        answer = self.client.post("/book/gear/new/", data)
        self.assertEqual(answer.status_code, 422)
        self.assertContains(answer, "still to come", status_code=422)
        self.assertIn("count", answer.context["form"].errors)

    def test_a_point_goes_with_a_part_of_the_same_page(self) -> None:
        rows = formset("points", self.point(with_part="Cab"))
        answer = self.client.post("/book/machines/new/", self.machine_data(**rows))
        self.assertEqual(answer.status_code, 302)
        point = MachinePoint.objects.get(machine__name="Tied roller")
        self.assertEqual((point.with_part, point.both), ("Cab", True))

    def test_a_part_that_is_not_there_is_named(self) -> None:
        rows = formset("points", self.point(hidden_by="Backhoe"))
        answer = self.client.post("/book/machines/new/", self.machine_data(**rows))
        self.assertContains(answer, "This machine has no part “Backhoe”", status_code=422)
        self.assertFalse(Machine.objects.filter(name="Tied roller").exists())

    def test_a_pair_on_the_middle_and_two_of_a_name_are_refused(self) -> None:
        rows = formset("points", self.point(off="0"))
        answer = self.client.post("/book/machines/new/", self.machine_data(**rows))
        self.assertContains(answer, "A pair lies off the middle", status_code=422)
        rows = formset("points", self.point(), self.point(name="Front Eye"))
        answer = self.client.post("/book/machines/new/", self.machine_data(**rows))
        self.assertContains(answer, "Two of them are called “front eye”", status_code=422)

    def test_usual_places_are_put_once(self) -> None:
        trailer = Trailer.objects.get(name="12 ft dump trailer")
        TrailerAnchor.objects.filter(trailer=trailer).delete()
        address = f"/book/trailers/{trailer.pk}/usual-places/"
        self.client.post(address, {"version": trailer.version})
        self.assertEqual(trailer.anchors.count(), 4)
        again = self.client.post(address, {"version": trailer.version + 1}, follow=True)
        self.assertContains(again, "has places to tie to already")
        self.assertEqual(trailer.anchors.count(), 4)
        machine = Machine.objects.get(name="Ridge R5 roller")
        machine.points.all().delete()
        self.client.post(f"/book/machines/{machine.pk}/usual-places/", {"version": "0"})
        self.assertEqual(machine.points.count(), 0)
        self.client.post(f"/book/machines/{machine.pk}/usual-places/", {"version": machine.version})
        self.assertEqual(machine.points.count(), 2)
        bare = Machine.objects.create(yard=self.yard, name="bare")
        answer = self.client.post(
            f"/book/machines/{bare.pk}/usual-places/", {"version": 1}, follow=True
        )
        self.assertContains(answer, "length and width are wanted first")


class Retiring(YardCase):
    def retire(self, gear: Gear, **more: Any) -> Any:
        """One piece retired, as its page sends it."""
        data = {"version": gear.version, "reason": "kinked", **more}
        return self.client.post(f"/book/gear/{gear.pk}/retire/", data, follow=True)

    def test_one_of_several_becomes_an_entry_of_its_own(self) -> None:
        chain = Gear.objects.get(name="3/8 chain, grade 70")
        self.assertContains(self.retire(chain), "holds nothing from now on")
        chain.refresh_from_db()
        gone = Gear.objects.get(name="3/8 chain, grade 70, retired")
        self.assertEqual((chain.count, gone.count, gone.retired), (5, 1, "kinked"))
        self.assertIsNone(gear_limit(gone).kg)

    def test_the_last_one_itself(self) -> None:
        piece = Gear.objects.create(yard=self.yard, name="Hook", kind="hook", wll=q("4000 lb"))
        self.retire(piece, reason="stretched")
        piece.refresh_from_db()
        self.assertEqual(piece.retired, "stretched")
        self.assertEqual(Gear.objects.filter(name__startswith="Hook").count(), 1)

    def test_without_a_reason_or_on_an_old_page_nothing_is_retired(self) -> None:
        chain = Gear.objects.get(name="3/8 chain, grade 70")
        self.assertContains(self.retire(chain, reason="tired"), "Say why it is retired")
        self.assertContains(self.retire(chain, version=0), "in between")
        chain.refresh_from_db()
        self.assertEqual(chain.count, 6)
