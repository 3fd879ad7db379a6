"""A torsion group on a tilted trailer against a general frame solver.

Source: ``anastruct``, a finite-element frame solver. It is given a stiff beam on one spring
under each axle, the items as point loads, and a force at the ball that holds the ball as
high as the truck does; it knows nothing of slopes and levers.
"""

from __future__ import annotations

import itertools
import random
from dataclasses import replace

from anastruct import SystemElements
from django.test import SimpleTestCase

from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.tests.outfits import random_plan
from mechanics.trailer import Suspension

STIFF = 1e9
"""Bending stiffness of the solver's beam; more of it costs the solver digits."""

RELATIVE = 1e-3
"""The solver's beam gives a little; its part of the springs' travel is smaller than this."""


def held_at(plan: Plan, rate: float, ball_up: float) -> tuple[list[float], float]:
    """Axle loads and ball load of the items alone, with the ball held that much above level."""
    trailer = plan.trailer
    loads = [(trailer.deck.start_m + i.balance_tape_m, i.mass_kg) for i in plan.items]
    places = sorted({0.0, *(x for x, _ in loads), *(a.position_m for a in trailer.axles)})
    node = {x: n + 1 for n, x in enumerate(places)}

    def solve(ball: float, down: float) -> tuple[float, list[float]]:
        system = SystemElements(EI=STIFF, EA=1e10)
        for start, end in itertools.pairwise(places):
            system.add_element(location=[[start, 0], [end, 0]])
        for axle in trailer.axles:
            system.add_support_spring(node_id=node[axle.position_m], translation=2, k=rate)
        # held lengthwise only, as a beam on springs may not drift
        system.add_support_roll(node_id=node[places[-1]], direction=1)
        for x, mass in loads:
            system.point_load(node_id=node[x], Fy=-mass * down)
        system.point_load(node_id=node[0.0], Fy=ball)
        system.solve()
        heights = {r["id"]: r["uy"] for r in system.get_node_displacements()}
        return heights[node[0.0]], [heights[node[a.position_m]] for a in trailer.axles]

    still, axles = solve(0.0, 1.0)
    lifted, gained = solve(1.0, 0.0)
    ball = (ball_up - still) / lifted
    return [-rate * (one + ball * two) for one, two in zip(axles, gained, strict=True)], ball


class TiltedTorsionGroup(SimpleTestCase):
    def test_axles_and_tongue_against_springs_in_a_solver(self) -> None:
        compared = 0
        for seed in itertools.count(60):
            if compared == 12:
                break
            rng = random.Random(seed)
            plan = random_plan(rng, items=rng.choice((1, 2)))
            if len(plan.trailer.axles) < 2:
                continue
            places = sorted(
                {0.0, *(a.position_m for a in plan.trailer.axles)}
                | {plan.trailer.deck.start_m + i.balance_tape_m for i in plan.items}
            )
            if places[0] < 0 or min(b - a for a, b in itertools.pairwise(places)) < 0.1:
                continue
            compared += 1
            rate, ball_up = rng.uniform(5e3, 2e4), rng.uniform(-0.12, 0.12)
            trailer = replace(
                plan.trailer, suspension=Suspension.INDEPENDENT, axle_rate_kg_per_m=rate
            )
            hitch = replace(plan.hitch, weight_distribution=None)
            plan = replace(plan, trailer=trailer, hitch=hitch)
            slope = ball_up / trailer.couple_lever_m
            computed = compute_loads(plan, slope=slope).trailer
            empty = (trailer.empty_mass_kg - trailer.empty_tongue_mass_kg) / len(trailer.axles)
            axles, ball = held_at(plan, rate, ball_up)
            scale = sum(i.mass_kg for i in plan.items) + rate * abs(ball_up)
            with self.subTest(seed=seed):
                for mine, theirs in zip(computed.axles_kg, axles, strict=True):
                    self.assertAlmostEqual(mine - empty, theirs, delta=RELATIVE * scale)
                self.assertAlmostEqual(
                    computed.tongue_kg - trailer.empty_tongue_mass_kg, ball, delta=RELATIVE * scale
                )
