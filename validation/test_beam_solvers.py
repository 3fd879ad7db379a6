"""Reactions against two general beam solvers.

Sources: ``sympy.physics.continuum_mechanics.beam`` (exact statics of a beam on two
supports) and ``anastruct`` (a finite-element frame solver). Neither knows of trailers;
each is given a bare beam with point loads, couples and supports.

The trailer is a beam on the ball and on its axle group (equalized springs), or on the
ball and one spring under each axle (independent). The truck is a beam on its two axles.
The empty trailer stands in the solver as one load at the place that gives its measured
tongue weight. Placements are random with a fixed seed.
"""

from __future__ import annotations

import itertools
import random
from dataclasses import replace

from anastruct import SystemElements
from django.test import SimpleTestCase
from sympy import Rational, nsimplify, symbols
from sympy.physics.continuum_mechanics.beam import Beam

from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.tests.outfits import random_plan
from mechanics.trailer import Suspension

PLACEMENTS = 12
RELATIVE = 1e-9
"""Statics of a beam on two supports: both sides are exact but for rounding."""

SPRING = 1e-4
"""Axles on springs: the solver's beam is only nearly rigid."""

SHORTEST = 0.1
"""Metres; a stiff beam with shorter elements between soft springs costs the solver its digits."""


def sample(seed: int, **changes: object) -> Plan:
    """A random outfit with one to three items."""
    rng = random.Random(seed)
    plan = random_plan(rng, items=rng.choice((1, 2, 3)))
    trailer = replace(plan.trailer, **changes)  # type: ignore[arg-type]
    return replace(plan, trailer=trailer)


def trailer_loads(plan: Plan) -> list[tuple[float, float]]:
    """Point loads (kg) behind the ball (m): the empty trailer, then each item."""
    trailer = plan.trailer
    empty, tongue = trailer.empty_mass_kg, trailer.empty_tongue_mass_kg
    loads = [(empty, trailer.axle_centre_m * (1 - tongue / empty))]
    loads += [(i.mass_kg, trailer.deck.start_m + i.balance_tape_m) for i in plan.items]
    return loads


def two_supports_sympy(
    loads: list[tuple[float, float]],
    supports: tuple[float, float],
    couples: list[tuple[float, float]],
) -> tuple[float, float]:
    """Upward reactions of a beam on two supports, by sympy, in exact fractions.

    ``couples`` are (couple, place), positive clockwise: the tail goes down. The solver
    counts upward forces and clockwise couples positive.
    """
    places = [x for _, x in loads] + list(supports) + [x for _, x in couples]
    shift = min(places)
    span = max(places) - shift

    def exact(number: float) -> Rational:
        return nsimplify(number, rational=True)

    left, right = symbols("left right")
    beam = Beam(exact(span), 1, 1)
    beam.apply_load(left, exact(supports[0] - shift), -1)
    beam.apply_load(right, exact(supports[1] - shift), -1)
    for load, x in loads:
        beam.apply_load(-exact(load), exact(x - shift), -1)
    for couple, x in couples:
        beam.apply_load(exact(couple), exact(x - shift), -2)
    beam.bc_deflection = [(exact(supports[0] - shift), 0), (exact(supports[1] - shift), 0)]
    beam.solve_for_reaction_loads(left, right)
    return float(beam.reaction_loads[left]), float(beam.reaction_loads[right])


def two_supports_anastruct(
    loads: list[tuple[float, float]], supports: tuple[float, float]
) -> tuple[float, float]:
    """The same by a finite-element frame solver."""
    places = sorted({round(x, 12) for _, x in loads} | {round(s, 12) for s in supports})
    system = SystemElements(EI=1e9, EA=1e12)
    for start, end in itertools.pairwise(places):
        system.add_element(location=[[start, 0], [end, 0]])
    node = {x: n + 1 for n, x in enumerate(places)}
    system.add_support_hinged(node_id=node[round(supports[0], 12)])
    system.add_support_roll(node_id=node[round(supports[1], 12)])
    totals: dict[int, float] = {}
    for load, x in loads:
        totals[node[round(x, 12)]] = totals.get(node[round(x, 12)], 0.0) + load
    for n, load in totals.items():
        system.point_load(node_id=n, Fy=-load)
    system.solve()
    reactions = {r["id"]: abs_sign(r["Fy"]) for r in system.get_node_results_system()}
    return reactions[node[round(supports[0], 12)]], reactions[node[round(supports[1], 12)]]


def abs_sign(force: float) -> float:
    """The solver reports what the beam does to its support; turned round it is the reaction."""
    return -force


class TrailerOnTwoSupports(SimpleTestCase):
    def test_tongue_and_axle_group_against_sympy(self) -> None:
        for seed in range(PLACEMENTS):
            plan = sample(seed, suspension=Suspension.EQUALIZED)
            plan = replace(plan, hitch=replace(plan.hitch, weight_distribution=None))
            loads = compute_loads(plan).trailer
            ball, axles = two_supports_sympy(
                trailer_loads(plan), (0.0, plan.trailer.axle_centre_m), []
            )
            with self.subTest(seed=seed):
                self.assertAlmostEqual(loads.tongue_kg, ball, delta=RELATIVE * loads.mass_kg)
                self.assertAlmostEqual(loads.axles_mass_kg, axles, delta=RELATIVE * loads.mass_kg)

    def test_tongue_and_axle_group_against_anastruct(self) -> None:
        for seed in range(100, 100 + PLACEMENTS):
            plan = sample(seed, suspension=Suspension.EQUALIZED)
            plan = replace(plan, hitch=replace(plan.hitch, weight_distribution=None))
            loads = compute_loads(plan).trailer
            ball, axles = two_supports_anastruct(
                trailer_loads(plan), (0.0, plan.trailer.axle_centre_m)
            )
            with self.subTest(seed=seed):
                # a stiff finite-element system loses some digits
                self.assertAlmostEqual(loads.tongue_kg, ball, delta=1e-6 * loads.mass_kg)
                self.assertAlmostEqual(loads.axles_mass_kg, axles, delta=1e-6 * loads.mass_kg)

    def test_bars_against_sympy(self) -> None:
        """The couple of the bars turns the trailer's tail down and lifts its nose."""
        for seed in range(200, 200 + PLACEMENTS):
            plan = sample(seed, suspension=Suspension.EQUALIZED)
            loads = compute_loads(plan).trailer
            ball, axles = two_supports_sympy(
                trailer_loads(plan),
                (0.0, plan.trailer.axle_centre_m),
                [(loads.couple_kg_m, 0.0)],
            )
            with self.subTest(seed=seed):
                self.assertAlmostEqual(loads.handed_kg, ball, delta=RELATIVE * loads.mass_kg)
                self.assertAlmostEqual(loads.axles_mass_kg, axles, delta=RELATIVE * loads.mass_kg)


class TrailerOnSprings(SimpleTestCase):
    def test_independent_axles_against_anastruct(self) -> None:
        """The load's part of each axle, on a stiff beam with a spring under each axle."""
        compared = 0
        for seed in itertools.count(300):
            if compared == PLACEMENTS:
                break
            plan = sample(seed, suspension=Suspension.INDEPENDENT)
            plan = replace(plan, hitch=replace(plan.hitch, weight_distribution=None))
            loads = compute_loads(plan).trailer
            trailer = plan.trailer
            items = [(i.mass_kg, trailer.deck.start_m + i.balance_tape_m) for i in plan.items]
            axles = [a.position_m for a in trailer.axles]
            places = sorted({0.0, *axles, *(x for _, x in items)})
            if min(b - a for a, b in itertools.pairwise(places)) < SHORTEST:
                continue
            compared += 1
            system = SystemElements(EI=1e9, EA=1e9)
            for start, end in itertools.pairwise(places):
                system.add_element(location=[[start, 0], [end, 0]])
            node = {x: n + 1 for n, x in enumerate(places)}
            system.add_support_hinged(node_id=node[0.0])
            for x in axles:
                system.add_support_spring(node_id=node[x], translation=2, k=1e2)
            for mass, x in items:
                system.point_load(node_id=node[x], Fy=-mass)
            system.solve()
            results = {r["id"]: r for r in system.get_node_results_system()}
            empty = (trailer.empty_mass_kg - trailer.empty_tongue_mass_kg) / len(axles)
            for load, x in zip(loads.axles_kg, axles, strict=True):
                # a spring's force is its rate times how far it is pressed down
                pressed = 1e2 * -system.get_node_displacements(node[x])["uy"]
                with self.subTest(seed=seed, axle=x):
                    self.assertAlmostEqual(load - empty, pressed, delta=SPRING * loads.mass_kg)
            self.assertIn(node[0.0], results)


class TruckOnTwoAxles(SimpleTestCase):
    def test_front_and_rear_against_sympy(self) -> None:
        """Axle masses, cargo, hardware and tongue on a beam over the two axles.

        The bars press the truck's nose down: the same couple as on the trailer, turned
        the other way.
        """
        for seed in range(400, 400 + PLACEMENTS):
            plan = sample(seed)
            truck, loads = plan.truck, compute_loads(plan)
            # places run rearward from the front axle
            rear_at = truck.wheelbase_m
            points = [(truck.front_axle_mass_kg, 0.0), (truck.rear_axle_mass_kg, rear_at)]
            points += [(c.mass_kg, rear_at - c.ahead_of_rear_axle_m) for c in truck.cargo]
            hitch_at = rear_at + truck.hitch_offset_m
            points += [
                (plan.hitch.mass_kg, hitch_at),
                (loads.trailer.handed_kg, hitch_at),
            ]
            front, rear = two_supports_sympy(
                points, (0.0, rear_at), [(-loads.trailer.couple_kg_m, hitch_at)]
            )
            scale = RELATIVE * loads.truck.mass_kg
            with self.subTest(seed=seed):
                self.assertAlmostEqual(loads.truck.front_kg, front, delta=scale)
                self.assertAlmostEqual(loads.truck.rear_kg, rear, delta=scale)
