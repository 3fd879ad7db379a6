"""Loads of hand-checkable outfits, and what always holds."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.errors import BalanceError, InputError
from mechanics.item import Placement
from mechanics.loads import TrailerLoads, compute_loads, tongue_per_metre_kg
from mechanics.tests.outfits import (
    example_plan,
    inch,
    lb,
    loaded_plans,
    plans,
    with_bars,
)
from mechanics.trailer import Suspension


class ExampleLoads(SimpleTestCase):
    def test_compute_loads_of_example(self) -> None:
        """Tongue 380 + 5350 (200 - 172) / 200 = 1129 lb; the rest follows."""
        loads = compute_loads(example_plan())
        for got, expected in (
            (loads.trailer.tongue_kg, 1129),
            (loads.trailer.mass_kg, 8250),
            (loads.trailer.axles_kg[0], 3560.5),
            (
                loads.truck.front_unhitched_kg,
                4180 + 190 * 70 / 160 + 160 * 28 / 160 - 55 * 50 / 160,
            ),
            (loads.truck.front_kg, 3921.125),
            (loads.truck.rear_kg, 4732.875),
            (loads.truck.payload_used_kg, 190 + 160 + 55 + 1129),
            (loads.combination_kg, 15775),
        ):
            self.assertAlmostEqual(got / lb(1), expected, places=6)

    def test_compute_loads_empty_trailer(self) -> None:
        plan = replace(example_plan(), items=())
        loads = compute_loads(plan)
        self.assertAlmostEqual(loads.trailer.tongue_kg, lb(380))
        self.assertIsNone(loads.trailer.added_share)
        self.assertIsNone(tongue_per_metre_kg(plan))

    def test_compute_loads_independent_axles(self) -> None:
        """Each axle takes P x / sum(x^2) of the load on top of its part of the empty trailer."""
        plan = example_plan()
        plan = replace(plan, trailer=replace(plan.trailer, suspension=Suspension.INDEPENDENT))
        axles = compute_loads(plan).trailer.axles_kg
        moment = 5350 * 172
        squares = 183**2 + 217**2
        for got, at in zip(axles, (183, 217), strict=True):
            self.assertAlmostEqual(got / lb(1), (2900 - 380) / 2 + moment * at / squares, places=6)

    def test_full_restoration_gives_front_axle_back(self) -> None:
        plan = with_bars(example_plan(), 1.0)
        truck = compute_loads(plan).truck
        self.assertAlmostEqual(truck.front_kg, truck.front_unhitched_kg)
        self.assertGreater(truck.couple_kg_m, 0)

    def test_half_restoration_gives_half_back(self) -> None:
        bare = compute_loads(example_plan()).truck
        half = compute_loads(with_bars(example_plan(), 0.5)).truck
        drop = bare.front_unhitched_kg - bare.front_kg
        self.assertAlmostEqual(half.front_kg, bare.front_kg + drop / 2)

    def test_bars_do_not_pull_on_a_lifting_tongue(self) -> None:
        plan = with_bars(example_plan(), 1.0)
        plan = plan.with_placement("tractor", Placement(reference_m=inch(238)))
        loads = compute_loads(plan)
        self.assertLess(loads.trailer.tongue_kg, 0)
        self.assertEqual(loads.trailer.couple_kg_m, 0)

    def test_overflow_is_refused(self) -> None:
        plan = example_plan()
        truck = replace(plan.truck, wheelbase_m=1e-308, hitch_offset_m=1e300)
        with self.assertRaisesMessage(InputError, "these overflow"):
            compute_loads(replace(plan, truck=truck))

    def test_results_that_do_not_balance_cannot_be_made(self) -> None:
        good = compute_loads(example_plan()).trailer
        fields = {name: getattr(good, name) for name in TrailerLoads.__dataclass_fields__}
        with self.assertRaisesMessage(BalanceError, "vertical force on the trailer"):
            TrailerLoads(**{**fields, "handed_kg": good.handed_kg + 1})
        with self.assertRaisesMessage(BalanceError, "moment about the ball"):
            TrailerLoads(**{**fields, "moment_kg_m": good.moment_kg_m + 5})
        with self.assertRaisesMessage(BalanceError, "two sides"):
            TrailerLoads(**{**fields, "left_kg": good.left_kg + 1})


class LoadProperties(SimpleTestCase):
    @given(plans)
    @settings(max_examples=200)
    def test_moments_balance_about_the_tail(self, plan: object) -> None:
        """Summed anew about another point than the code uses, from the inputs alone."""
        loads = compute_loads(plan)  # type: ignore[arg-type]
        trailer = plan.trailer  # type: ignore[attr-defined]
        tail = trailer.deck.start_m + trailer.deck.length_m
        hold = loads.trailer.handed_kg * tail + sum(
            a * (tail - axle.position_m)
            for a, axle in zip(loads.trailer.axles_kg, trailer.axles, strict=True)
        )
        empty = trailer.empty_tongue_mass_kg * tail + (
            trailer.empty_mass_kg - trailer.empty_tongue_mass_kg
        ) * (tail - trailer.axle_centre_m)
        load = sum(
            i.mass_kg * (tail - trailer.deck.start_m - i.balance_tape_m)
            for i in plan.items  # type: ignore[attr-defined]
        )
        self.assertAlmostEqual(hold, empty + load - loads.trailer.couple_kg_m, delta=1e-6)

    @given(loaded_plans, st.floats(-2, 2))
    @settings(max_examples=200)
    def test_a_move_changes_the_tongue_by_mass_over_lever(self, plan: object, dx: float) -> None:
        item = plan.items[0]  # type: ignore[attr-defined]
        place = item.placement
        moved = plan.with_placement(  # type: ignore[attr-defined]
            item.id, replace(place, reference_m=place.reference_m + dx)
        )
        change = compute_loads(moved).trailer.tongue_kg - compute_loads(plan).trailer.tongue_kg  # type: ignore[arg-type]
        lever = plan.trailer.couple_lever_m  # type: ignore[attr-defined]
        self.assertAlmostEqual(change, -item.mass_kg * dx / lever, delta=1e-7)

    @given(plans)
    @settings(max_examples=100)
    def test_mirroring_sideways_swaps_left_and_right(self, plan: object) -> None:
        mirrored = replace(
            plan,  # type: ignore[type-var]
            items=tuple(
                replace(
                    i,
                    cg=replace(i.cg, left_m=-i.cg.left_m),
                    placement=replace(i.placement, left_m=-i.placement.left_m),
                )
                for i in plan.items  # type: ignore[attr-defined]
            ),
        )
        here, there = compute_loads(plan).trailer, compute_loads(mirrored).trailer  # type: ignore[arg-type]
        self.assertAlmostEqual(here.left_kg, there.right_kg, delta=1e-8)
        self.assertAlmostEqual(here.tongue_kg, there.tongue_kg, delta=1e-8)

    @given(loaded_plans)
    @settings(max_examples=100)
    def test_turning_round_mirrors_the_machines_own_left(self, plan: object) -> None:
        item = replace(plan.items[0], placement=Placement(reference_m=3.0))  # type: ignore[attr-defined]
        turned = replace(
            item, placement=replace(item.placement, facing=item.placement.facing.turned)
        )
        self.assertAlmostEqual(item.balance_left_m, -turned.balance_left_m)
        self.assertAlmostEqual(item.balance_tape_m + turned.balance_tape_m, 6.0)
