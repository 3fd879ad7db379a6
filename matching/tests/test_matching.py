"""Which truck and trailer can take a load."""

from __future__ import annotations

from itertools import pairwise

from book.chain import couples
from book.models import Bulk, Hitch, Machine, Trailer, Truck
from hauls.loads import Load
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from matching.by_mass import by_mass
from matching.pairs import Order, matches
from measures import Quantity, UnitSystem
from mechanics.checks import Status
from yards.models import User

US = UnitSystem.US


class Matching(YardCase):
    def found(self, name: str) -> list[object]:
        """Matches of one machine."""
        rows, cut = matches(self.yard, [Load(machine=Machine.objects.get(name=name))], US)
        self.assertFalse(cut)
        return list(rows)

    def test_every_pair_that_couples_is_judged_once_and_no_other(self) -> None:
        rows = self.found("Harrow 48 tractor with loader")
        pairs = {(row.hitch.pk, row.trailer.pk) for row in rows}
        self.assertEqual(len(pairs), len(rows))
        expected = {
            (h.pk, t.pk)
            for h in Hitch.objects.all()
            for t in Trailer.objects.all()
            if (h.type == "gooseneck") == (t.kind == "gooseneck")
        }
        self.assertEqual(pairs, expected)

    def test_the_best_comes_first(self) -> None:
        for name in ("Harrow 48 tractor with loader", "Kestrel T6 compact loader", "Trench plough"):
            rows = self.found(name)
            rank = [(Status(r.status).severity, -(r.reserve or 0)) for r in rows]
            for one, two in pairwise(rank):
                self.assertLessEqual(one, two)

    def test_a_row_says_what_planning_it_then_says(self) -> None:
        """Planned as the row proposes, the haul has the row's verdict, place and reserve."""
        for name in ("Harrow 48 tractor with loader", "Burrow 17 excavator"):
            machine = Machine.objects.get(name=name)
            for row in self.found(name):
                data = {
                    "name": "As matched",
                    "hitch": row.hitch.pk,
                    "trailer": row.trailer.pk,
                    "load_1": f"machine-{machine.pk}",
                    "backward": "1" if row.backward else "",
                }
                self.client.post("/hauls/new/", data)
                haul = Haul.objects.order_by("pk").last()
                assert haul is not None
                with self.subTest(machine=name, hitch=str(row.hitch), trailer=row.trailer.name):
                    self.assertEqual(haul.verdict, row.status)
                    page = self.client.get(f"/hauls/{haul.pk}/").content.decode()
                    if row.status == "ok":
                        self.assertIn(row.place, page)

    def test_each_pair_says_how_it_is_got_on_and_is_sorted_by_it(self) -> None:
        name = "Kestrel T6 compact loader"
        by_pair = {(r.hitch.truck.name, r.trailer.name): r for r in self.found(name)}
        for pair, word in (
            (("Old half-ton", "20 ft equipment trailer"), "lifts the truck"),
            (("Work truck 3", "12 ft dump trailer"), "bed lifts"),
            (("Work truck 3", "20 ft equipment trailer"), "slides"),
        ):
            self.assertEqual(by_pair[pair].climb.word, word)
        loads = [Load(machine=Machine.objects.get(name=name))]
        rows, _ = matches(self.yard, loads, US, Order.CLIMB)
        known = [row.climb.rank for row in rows if row.reserve is not None and row.climb]
        self.assertEqual(known, sorted(known))
        machine = loads[0].machine
        assert machine is not None
        page = self.client.get(f"/match/?load_1=machine-{machine.pk}&sort=climb")
        self.assertContains(page, "bed lifts")
        self.assertContains(page, 'aria-current="true">getting on and off</a>')

    def test_the_wrong_ball_and_the_full_trailer_are_named(self) -> None:
        rows = self.found("Kestrel T6 compact loader")
        by_pair = {(str(r.hitch), r.trailer.name): r for r in rows}
        wrong = by_pair[("Old half-ton, Receiver", "20 ft equipment trailer")]
        self.assertIn("The ball is 2 in", wrong.line)
        full = by_pair[("Gooseneck truck, Receiver", "14 ft tilt")]
        self.assertIn("Trailer GVWR is passed by 1,120 lb", full.line)
        self.assertLess(full.reserve or 0, 0)

    def test_what_lacks_figures_comes_last_and_says_what(self) -> None:
        Truck.objects.filter(name="Work truck 3").update(wheelbase=None, gvwr=None)
        rows = self.found("Harrow 48 tractor with loader")
        self.assertEqual(rows[-1].line, "Work truck 3 lacks wheelbase.")
        self.assertIsNone(rows[-1].reserve)
        first_lacking = next(n for n, row in enumerate(rows) if row.reserve is None)
        self.assertTrue(all(row.reserve is None for row in rows[first_lacking:]))

    def test_a_gooseneck_goes_over_the_bed_and_nothing_else_does(self) -> None:
        bed, receiver = Hitch.objects.get(type="gooseneck"), Hitch.objects.first()
        assert receiver is not None
        gooseneck = Trailer.objects.get(kind="gooseneck")
        tilt = Trailer.objects.get(kind="tilt")
        self.assertTrue(couples(bed, gooseneck))
        self.assertTrue(couples(receiver, tilt))
        self.assertFalse(couples(bed, tilt))
        self.assertFalse(couples(receiver, gooseneck))
        data = {"name": "N", "hitch": receiver.pk, "trailer": gooseneck.pk}
        answer = self.client.post("/hauls/new/", data)
        self.assertContains(answer, "25 ft gooseneck is coupled over the bed, and Work truck 3")


class ByMass(YardCase):
    """GVWR, tow rating and payload never wait for a balance point or a length."""

    def setUp(self) -> None:
        super().setUp()
        self.digger = Machine.objects.create(
            yard=self.yard, name="Borrowed digger", mass=Quantity.parse("16000 lb")
        )

    def word(self, truck: str, trailer: str) -> tuple[str, str]:
        """What is said of a pair."""
        hitch = Hitch.objects.select_related("truck__yard").filter(truck__name=truck)[0]
        found = by_mass(
            hitch,
            Trailer.objects.select_related("yard").get(name=trailer),
            [Load(machine=Machine.objects.get(pk=self.digger.pk))],
            UnitSystem.US,
        )
        assert found is not None
        return found.word, found.line

    def test_too_heavy_is_over_whatever_its_length(self) -> None:
        word, line = self.word("Work truck 3", "20 ft equipment trailer")
        self.assertEqual(word, "over by mass")
        self.assertIn("is passed by", line)

    def test_light_enough_is_likely_ok_and_no_more(self) -> None:
        Machine.objects.update(mass="1500 lb")
        word, _ = self.word("Work truck 3", "20 ft equipment trailer")
        self.assertEqual(word, "likely ok by mass")

    def test_what_a_guess_may_pass_cannot_be_said(self) -> None:
        Machine.objects.update(mass="6500 lb")
        word, line = self.word("Work truck 3", "20 ft equipment trailer")
        self.assertEqual(word, "cannot say")
        self.assertIn("it may pass", line)

    def test_a_rating_that_is_wanting_is_named(self) -> None:
        Machine.objects.update(mass="1500 lb")
        Truck.objects.update(gcwr=None)
        word, line = self.word("Work truck 3", "20 ft equipment trailer")
        self.assertEqual(word, "cannot say")
        self.assertIn("GCWR", line)

    def test_without_a_mass_nothing_is_said(self) -> None:
        Machine.objects.update(mass=None)
        with self.assertRaises(AssertionError):
            self.word("Work truck 3", "20 ft equipment trailer")


class MatchPage(YardCase):
    def test_from_a_load_to_a_planned_haul(self) -> None:
        tractor = Machine.objects.get(name="Harrow 48 tractor with loader")
        page = self.client.get("/match/", {"load_1": f"machine-{tractor.pk}"})
        self.assertContains(page, "Work truck 3")
        self.assertContains(page, "sure part")
        self.assertContains(page, "Plan it")

    def test_several_loads(self) -> None:
        plough, pipe = Machine.objects.get(name="Trench plough"), Bulk.objects.first()
        assert pipe is not None
        page = self.client.get(
            "/match/", {"load_1": f"machine-{plough.pk}", "load_2": f"bulk-{pipe.pk}"}
        )
        self.assertContains(page, "Several loads stand in this order")
        self.assertNotContains(page, "sure part")

    def test_nothing_chosen_and_what_is_not_the_yards(self) -> None:
        self.assertContains(self.client.get("/match/"), "Which truck and trailer can take it")
        answer = self.client.get("/match/", {"load_1": ""})
        self.assertContains(answer, "Choose what has to be hauled", status_code=422)
        answer = self.client.get("/match/", {"load_1": "machine-99999"})
        self.assertContains(answer, "Select a valid choice", status_code=422)

    def test_a_machine_that_lacks_figures_says_so_in_every_row(self) -> None:
        Machine.objects.filter(name="Wren 9 mini dumper").update(reach_front=None)
        dumper = Machine.objects.get(name="Wren 9 mini dumper")
        page = self.client.get("/match/", {"load_1": f"machine-{dumper.pk}"})
        self.assertContains(page, "Wren 9 mini dumper lacks reach ahead.")
        self.assertContains(page, "likely ok by mass")
        self.assertContains(page, "By mass alone it holds plate, tow rating")
        self.assertNotContains(page, ">Plan it<")

    def test_a_driver_compares_and_plans_nothing(self) -> None:
        self.client.force_login(User.objects.get(username="demo-driver"))
        tractor = Machine.objects.get(name="Harrow 48 tractor with loader")
        page = self.client.get("/match/", {"load_1": f"machine-{tractor.pk}"})
        self.assertContains(page, "Work truck 3")
        self.assertNotContains(page, ">Plan it<")

    def test_a_yard_without_trucks(self) -> None:
        Truck.objects.all().delete()
        tractor = Machine.objects.get(name="Harrow 48 tractor with loader")
        page = self.client.get("/match/", {"load_1": f"machine-{tractor.pk}"})
        self.assertContains(page, "no truck with a hitch and trailer that go together")
