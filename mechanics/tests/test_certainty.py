"""What is settled by what is known, how far the best place may lie, and what would say most."""

from __future__ import annotations

import random
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.aim_band import aim_band
from mechanics.certainty import unsettled
from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.item import Item
from mechanics.limits import Quantity, load_limits
from mechanics.loads import compute_loads
from mechanics.narrowing import narrowing
from mechanics.placing import moved
from mechanics.plan import Plan
from mechanics.report import Elsewhere, evaluate
from mechanics.tests.outfits import example_plan, inch, lb, loaded_plans, rough_plan
from mechanics.truck import Truck
from mechanics.weigh_which import Weighing


def open_checks(plan: Plan) -> frozenset[str]:
    """Codes of the checks that the tolerances leave open."""
    return unsettled(plan, load_limits(plan, compute_loads(plan)))


def with_item(plan: Plan, item: Item) -> Plan:
    """The plan with this for its first item."""
    return replace(plan, items=(item, *plan.items[1:]))


def roughly(plan: Plan, *, mass: float = 0.0, balance: float = 0.0) -> Plan:
    """The plan with its first item known to no more than that, and marked as estimated."""
    item = plan.items[0]
    return with_item(
        plan,
        replace(
            item,
            mass_tolerance_kg=mass,
            cg=replace(item.cg, ahead_tolerance_m=balance),
            estimates=("mass", "cg.ahead"),
        ),
    )


class Settled(SimpleTestCase):
    def test_a_rating_that_the_mass_may_pass_is_open(self) -> None:
        plan = example_plan()
        whole = evaluate(plan).loads.trailer.mass_kg
        trailer = replace(plan.trailer, gvwr_kg=whole + lb(300))
        near = replace(plan, trailer=trailer)
        self.assertNotIn("trailer.gvwr", open_checks(roughly(near, mass=lb(200))))
        self.assertIn("trailer.gvwr", open_checks(roughly(near, mass=lb(400))))

    def test_a_rating_that_is_passed_whatever_it_weighs_is_settled(self) -> None:
        plan = example_plan()
        whole = evaluate(plan).loads.trailer.mass_kg
        over = replace(plan, trailer=replace(plan.trailer, gvwr_kg=whole - lb(500)))
        self.assertNotIn("trailer.gvwr", open_checks(roughly(over, mass=lb(300))))
        self.assertIn("trailer.gvwr", open_checks(roughly(over, mass=lb(600))))

    def test_a_plan_without_an_estimate_is_judged_as_entered(self) -> None:
        plan = roughly(example_plan(), mass=lb(900), balance=inch(20))
        self.assertTrue(evaluate(plan).unsettled)
        item = replace(plan.items[0], estimates=())
        self.assertEqual(evaluate(with_item(plan, item)).unsettled, frozenset())

    def test_a_truck_that_may_be_shorter_leaves_its_axles_open(self) -> None:
        plan = example_plan()
        rear = evaluate(plan).loads.truck.rear_kg
        truck = replace(plan.truck, rear_gawr_kg=rear + lb(20))
        self.assertNotIn("truck.rear_gawr", open_checks(_exact(replace(plan, truck=truck))))
        short = replace(truck, wheelbase_tolerance_m=inch(20))
        self.assertIn("truck.rear_gawr", open_checks(_exact(replace(plan, truck=short))))

    def test_the_whole_truck_is_surer_than_its_two_axles(self) -> None:
        """A sticker says what it weighs and not how it stands."""
        plan = _exact(example_plan())
        mass = evaluate(plan).loads.truck.mass_kg
        truck = replace(
            plan.truck,
            gvwr_kg=mass + lb(200),
            front_axle_mass_tolerance_kg=lb(350),
            rear_axle_mass_tolerance_kg=lb(350),
        )
        self.assertIn("truck.gvwr", open_checks(replace(plan, truck=truck)))
        surer = replace(truck, empty_mass_tolerance_kg=lb(140))
        self.assertEqual(surer.empty_off_kg, lb(140))
        self.assertNotIn("truck.gvwr", open_checks(replace(plan, truck=surer)))

    @settings(max_examples=60, deadline=None)
    @given(seed=st.integers(0, 2**32))
    def test_a_sure_place_leaves_no_check_open(self, seed: int) -> None:
        plan = rough_plan(random.Random(seed))
        for piece in evaluate(plan).windows[0].sure:
            placed = moved(plan, 0, (piece.start_m + piece.end_m) / 2)
            self.assertEqual(open_checks(placed), frozenset())
            over = [
                c.code
                for c in evaluate(placed).checks
                if c.status is Status.OVER and c.quantity is not Quantity.LENGTH
            ]
            self.assertEqual(over, [])


class Moving(SimpleTestCase):
    @settings(max_examples=120, deadline=None)
    @given(plan=loaded_plans, seed=st.integers(0, 2**32))
    def test_one_that_moves_leaves_open_what_it_leaves_open_there(
        self, plan: Plan, seed: int
    ) -> None:
        rng = random.Random(seed)
        index = rng.randrange(len(plan.items))
        elsewhere = Elsewhere(plan, index)
        for _ in range(4):
            there = moved(plan, index, rng.uniform(-1, plan.trailer.deck.length_m + 1))
            found, whole = elsewhere.at(there), evaluate(there)
            self.assertEqual(found.unsettled, whole.unsettled)
            self.assertEqual(found.checks, whole.checks)
            self.assertEqual(found.loads, whole.loads)
            self.assertEqual(found.verdict, whole.verdict)

    def test_places_differ_in_what_they_leave_open(self) -> None:
        plan = roughly(example_plan(), mass=lb(300), balance=inch(6))
        elsewhere = Elsewhere(plan, 0)
        seen = {elsewhere.at(moved(plan, 0, at / 4)).unsettled for at in range(20)}
        self.assertGreater(len(seen), 2)


def _exact(plan: Plan) -> Plan:
    """The plan without a doubt about its load and its trailer."""
    item = replace(
        plan.items[0],
        mass_tolerance_kg=0.0,
        cg=replace(plan.items[0].cg, ahead_tolerance_m=0.0),
    )
    trailer = replace(plan.trailer, empty_mass_tolerance_kg=0.0, empty_tongue_mass_tolerance_kg=0.0)
    return replace(plan, items=(item,), trailer=trailer)


class Shapes(SimpleTestCase):
    def truck(self, **other: float) -> Truck:
        return replace(example_plan().truck, **other)

    def test_an_exact_truck_has_one(self) -> None:
        self.assertEqual(self.truck().shapes, (self.truck(),))
        self.assertEqual(len(self.truck(wheelbase_tolerance_m=0.3).shapes), 2)
        both = self.truck(wheelbase_tolerance_m=0.3, hitch_offset_tolerance_m=0.1).shapes
        self.assertEqual(len({(t.wheelbase_m, t.hitch_offset_m) for t in both}), 4)

    def test_tolerances_that_no_truck_has_are_refused(self) -> None:
        for field in ("wheelbase_tolerance_m", "hitch_offset_tolerance_m"):
            with self.assertRaises(InputError):
                self.truck(**{field: -0.1})
        with self.assertRaises(InputError):
            self.truck(wheelbase_tolerance_m=9.0)
        with self.assertRaises(InputError):
            self.truck(empty_mass_tolerance_kg=-1.0)
        with self.assertRaises(InputError):
            replace(example_plan().trailer, track_width_tolerance_m=3.0)


class BandOfTheAim(SimpleTestCase):
    def test_exactly_known_it_has_no_width(self) -> None:
        plan = _exact(example_plan())
        band = aim_band(plan, 0)
        assert band is not None
        self.assertEqual(band.width_m, 0.0)
        self.assertEqual(band.aim_m, evaluate(plan).windows[0].aim_m)

    def test_a_balance_point_moves_it_as_far_as_itself(self) -> None:
        band = aim_band(roughly(_exact(example_plan()), balance=inch(6)), 0)
        assert band is not None
        self.assertAlmostEqual(band.width_m, inch(12))

    def test_where_the_item_stands_does_not_matter(self) -> None:
        plan = roughly(example_plan(), mass=lb(500), balance=inch(6))
        self.assertEqual(aim_band(plan, 0), aim_band(moved(plan, 0, 2.0), 0))

    @settings(max_examples=40, deadline=None)
    @given(plan=loaded_plans)
    def test_it_holds_the_best_place_of_the_figures_as_they_stand(self, plan: Plan) -> None:
        band = aim_band(plan, 0)
        if band is not None:
            self.assertLessEqual(band.foremost_m, band.aim_m)
            self.assertGreaterEqual(band.rearmost_m, band.aim_m)


class WhatSaysMost(SimpleTestCase):
    def test_a_rough_machine_asks_for_its_axles(self) -> None:
        found = narrowing(roughly(example_plan(), mass=lb(900), balance=inch(14)), 0)
        assert found is not None
        self.assertEqual((found.weighing, found.item), (Weighing.ITEM_AXLES, "tractor"))
        self.assertLess(found.band_after_m, found.band_before_m)
        self.assertLessEqual(found.open_after, found.open_before)

    def test_axles_that_nobody_taped_ask_for_the_tape(self) -> None:
        plan = _exact(example_plan())
        trailer = replace(plan.trailer, axles_tolerance_m=inch(16))
        found = narrowing(replace(plan, trailer=trailer), 0)
        assert found is not None
        self.assertIs(found.weighing, Weighing.TRAILER_TAPE)

    def test_an_untaped_truck_asks_for_the_tape_where_its_axle_is_open(self) -> None:
        plan = _exact(example_plan())
        # so little reserve that the best place is where the share is least
        last = moved(plan, 0, evaluate(plan).windows[0].intervals[-1].end_m)
        rear = evaluate(last).loads.truck.rear_kg
        truck = replace(plan.truck, rear_gawr_kg=rear + lb(20), wheelbase_tolerance_m=inch(20))
        found = narrowing(replace(plan, truck=truck), 0)
        assert found is not None
        self.assertIs(found.weighing, Weighing.TRUCK_TAPE)
        self.assertLess(found.open_after, found.open_before)

    def test_what_is_known_asks_for_nothing(self) -> None:
        self.assertIsNone(narrowing(_exact(example_plan()), 0))
