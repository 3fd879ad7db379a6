"""Frame, spring bars and sides against general solvers and beam tables.

Sources: ``anastruct`` (a finite-element frame solver, which knows nothing of trailers),
beam tables for simple spans and overhangs (any handbook of statics; from memory), and
``numpy.linalg`` for statics in three dimensions.
"""

from __future__ import annotations

import itertools
import random
from dataclasses import replace

import numpy as np
from anastruct import SystemElements
from django.test import SimpleTestCase

from mechanics.frame import Beam, Force, Strip, footprint, frame_use, most_within, own_weight
from mechanics.hitch import WeightDistribution
from mechanics.item import Contact
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.tests.outfits import random_plan
from mechanics.trailer import Suspension

RELATIVE = 2e-6
"""The solver's beams are stiff but not rigid, and lose some digits."""


def standing(seed: int) -> Plan:
    """A random outfit on equalized springs whose items stand on wheels or a track."""
    rng = random.Random(seed)
    plan = random_plan(rng, items=rng.choice((1, 2)))
    items = []
    for item in plan.items:
        ends = (item.front_m * 0.7, -item.rear_m * 0.6)
        contacts = rng.choice(
            (
                (Contact(ahead_m=ends[0]), Contact(ahead_m=ends[1])),
                (Contact(ahead_m=sum(ends) / 2, length_m=ends[0] - ends[1]),),
                (),
            )
        )
        items.append(replace(item, contacts=contacts))
    trailer = replace(plan.trailer, suspension=Suspension.EQUALIZED)
    return replace(
        plan,
        items=tuple(items),
        trailer=trailer,
        hitch=replace(plan.hitch, weight_distribution=None),
    )


class ShearAndBending(SimpleTestCase):
    def test_against_a_frame_solver(self) -> None:
        """Bending at every place where a load begins or ends, and the largest of all."""
        compared = 0
        for seed in itertools.count(600):
            if compared == 12:
                break
            plan = standing(seed)
            beam = frame_use(plan).beam
            pressed = [p for item in plan.items for p in footprint(plan, item)]
            group = plan.trailer.axle_centre_m
            places = sorted({*beam.places, group})
            if min(b - a for a, b in itertools.pairwise(places)) < 0.02:
                continue
            compared += 1
            system = SystemElements(EI=1e8, EA=1e10)
            strips = [*own_weight(plan.trailer), *(p for p in pressed if isinstance(p, Strip))]
            node = {x: n + 1 for n, x in enumerate(places)}
            for n, (start, end) in enumerate(itertools.pairwise(places), 1):
                system.add_element(location=[[start, 0], [end, 0]])
                loads = [_density(strips, start, end, at) for at in (start, end)]
                if any(loads):
                    system.q_load(element_id=n, q=[-loads[0], -loads[1]])
            # an equalizer makes the axles one support; each then carries its part upwards
            loads_now = compute_loads(plan).trailer
            system.add_support_hinged(node_id=node[0.0])
            system.add_support_roll(node_id=node[places[-1]])
            for axle, load in zip(plan.trailer.axles, loads_now.axles_kg, strict=True):
                system.point_load(node_id=node[axle.position_m], Fy=load)
            for piece in pressed:
                if isinstance(piece, Force):
                    system.point_load(node_id=node[piece.at], Fy=-piece.down)
            system.solve()
            scale = loads_now.mass_kg * group
            for element in system.element_map.values():
                at = element.vertex_1.x
                # the solver counts bending that sags negative
                found = -system.get_element_results(element_id=element.id, verbose=True)["M"][0]
                with self.subTest(seed=seed, at=at):
                    self.assertAlmostEqual(beam.bending(at), found, delta=1e-5 * scale)
            bending = [
                -m for result in system.get_element_results(verbose=True) for m in result["M"]
            ]
            # the solver looks at some places of each element, so it may miss the very top
            for most, of_solver in (
                (beam.sagging[1], max(bending)),
                (-beam.hogging[1], -min(bending)),
            ):
                with self.subTest(seed=seed, most=most):
                    self.assertGreaterEqual(most, of_solver - 1e-5 * scale)
                    self.assertAlmostEqual(most, of_solver, delta=0.01 * scale)

    def test_like_with_like_against_a_dense_sweep(self) -> None:
        """Each share is the worst bending one way over the rated load's worst the same way."""
        both = 0
        for seed in range(600, 640):
            plan = standing(seed)
            use = frame_use(plan)
            if use.rated is None:
                continue
            worst = []
            for beam in (use.beam, use.rated):
                along = [
                    beam.bending(at) for at in np.linspace(beam.places[0], beam.places[-1], 6001)
                ]
                worst.append((max(along), min(along)))
            (sags, hogs), (rated_sags, rated_hogs) = worst
            with self.subTest(seed=seed):
                if rated_sags > 1e-3 * -rated_hogs:
                    self.assertAlmostEqual(use.sagging_share or 0.0, sags / rated_sags, delta=2e-3)
                if -rated_hogs > 1e-3 * rated_sags:
                    self.assertAlmostEqual(use.hogging_share or 0.0, hogs / rated_hogs, delta=2e-2)
                known = [s for s in (use.sagging_share, use.hogging_share) if s is not None]
                self.assertEqual(use.share_of_rated, max(known))
                both += len(known) == 2
        self.assertGreater(both, 10)

    def test_against_beam_tables(self) -> None:
        """An even load on a span w l2 / 8, one force P a b / l, an overhang w c2 / 2, and a
        triangle w l2 / 9 sqrt 3."""
        even = Beam(
            forces=(Force(0.0, -500.0), Force(10.0, -500.0)), strips=(Strip(0, 10, 100, 100),)
        )
        self.assertAlmostEqual(even.peak[1], 100 * 10**2 / 8)
        self.assertAlmostEqual(even.peak[0], 5.0)
        force = Beam(forces=(Force(0.0, -70.0), Force(3.0, 100.0), Force(10.0, -30.0)), strips=())
        self.assertAlmostEqual(force.peak[1], 100 * 3 * 7 / 10)
        overhang = Beam(
            forces=(Force(0.0, 40.0), Force(5.0, -240.0)), strips=(Strip(5, 7, 100, 100),)
        )
        self.assertAlmostEqual(overhang.peak[1], -100 * 2**2 / 2)
        triangle = Beam(
            forces=(Force(0.0, -60 * 9 / 6), Force(9.0, -60 * 9 / 3)), strips=(Strip(0, 9, 0, 60),)
        )
        self.assertAlmostEqual(triangle.peak[1], 60 * 9**2 / (9 * 3**0.5))
        self.assertAlmostEqual(triangle.peak[0], 9 / 3**0.5)


def _density(strips: list[Strip], start: float, end: float, at: float) -> float:
    return sum(
        s.first + (s.last - s.first) * (at - s.start) / (s.end - s.start)
        for s in strips
        if s.start <= start + 1e-12 and end - 1e-12 <= s.end
    )


class MostWithin(SimpleTestCase):
    def test_against_a_dense_sweep(self) -> None:
        for seed in range(40):
            rng = random.Random(seed)
            pressed: list[Force | Strip] = []
            for _ in range(rng.randint(1, 4)):
                at = rng.uniform(0, 6)
                if rng.random() < 0.5:
                    pressed.append(Force(at, rng.uniform(50, 900)))
                else:
                    length, first = rng.uniform(0.3, 3), rng.uniform(0, 400)
                    pressed.append(Strip(at, at + length, first, rng.uniform(0, 400)))
            length = rng.uniform(0.4, 3)
            best, where = most_within(pressed, length)
            swept = max(_within(pressed, a, a + length) for a in np.linspace(-4, 11, 3001))
            with self.subTest(seed=seed):
                self.assertGreaterEqual(best, swept - 1e-6)
                self.assertAlmostEqual(
                    best, _within(pressed, where - 1e-7, where + length + 1e-7), delta=0.01
                )


def _within(pressed: list[Force | Strip], start: float, end: float) -> float:
    total = 0.0
    for piece in pressed:
        if isinstance(piece, Force):
            total += piece.down * (start <= piece.at <= end)
            continue
        low, high = max(start, piece.start), min(end, piece.end)
        if high > low:
            total += _density([piece], low, high, (low + high) / 2) * (high - low)
    return total


class SpringBars(SimpleTestCase):
    """Truck and trailer as two beams on a pin, a bar clamped to the truck's hitch head and
    hung to the trailer's frame by a chain under force."""

    def _solve(self, plan: Plan, bar: float, force: float) -> tuple[float, float, float]:
        """Front axle, rear axle and trailer axles for a chain force, from the solver."""
        truck, trailer = plan.truck, plan.trailer
        rear_at = -truck.hitch_offset_m
        front_at = rear_at - truck.wheelbase_m
        masses = [
            (front_at, truck.front_axle_mass_kg),
            (rear_at, truck.rear_axle_mass_kg),
            (0.0, plan.hitch.mass_kg),
        ]
        masses += [(rear_at - c.ahead_of_rear_axle_m, c.mass_kg) for c in truck.cargo]
        empty, tongue = trailer.empty_mass_kg, trailer.empty_tongue_mass_kg
        behind = [(trailer.axle_centre_m * (1 - tongue / empty), empty)]
        behind += [(trailer.deck.start_m + i.balance_tape_m, i.mass_kg) for i in plan.items]
        # a load ahead of the ball turns the trailer's beam forward over the truck: leave out
        system = SystemElements(EI=1e9, EA=1e12)
        node: dict[tuple[float, float], int] = {}

        def line(points: list[tuple[float, float]], pin: bool = False) -> None:
            for n, (start, end) in enumerate(itertools.pairwise(points)):
                released = {"spring": {1: 0}} if pin and n == 0 else {}
                system.add_element(location=[list(start), list(end)], **released)
                element = system.element_map[len(system.element_map)]
                node[start], node[end] = element.node_id1, element.node_id2

        line([(x, 0.0) for x in sorted({x for x, _ in masses} | {0.0})])
        line([(0.0, 0.0), (0.0, -0.1), (bar, -0.1)])
        line(
            [(x, 0.0) for x in sorted({x for x, _ in behind} | {0.0, bar, trailer.axle_centre_m})],
            pin=True,
        )
        system.add_support_hinged(node_id=node[(front_at, 0.0)])
        for x in (rear_at, trailer.axle_centre_m):
            system.add_support_roll(node_id=node[(x, 0.0)])
        down: dict[int, float] = {}
        for x, mass in (*masses, *behind, (bar, force)):
            down[node[(x, 0.0)]] = down.get(node[(x, 0.0)], 0.0) + mass
        down[node[(bar, -0.1)]] = -force
        for n, mass in down.items():
            system.point_load(node_id=n, Fy=-mass)
        system.solve()
        reaction = {r["id"]: abs(r["Fy"]) for r in system.get_node_results_system()}
        return tuple(reaction[node[(x, 0.0)]] for x in (front_at, rear_at, trailer.axle_centre_m))  # type: ignore[return-value]

    def test_front_axle_ball_and_bar_force(self) -> None:
        compared = 0
        for seed in itertools.count(900):
            if compared == 12:
                break
            plan = standing(seed)
            rng = random.Random(seed)
            bar, restoration = rng.uniform(0.6, 0.95), rng.choice((0.25, 0.5, 0.75, 1.0))
            bare = compute_loads(plan)
            if bare.trailer.tongue_kg < 50 or plan.truck.hitch_offset_m < 0.5:
                continue
            balances = [plan.trailer.deck.start_m + i.balance_tape_m for i in plan.items]
            if min(balances) < 0.1 or min(abs(b - bar) for b in balances) < 0.02:
                continue
            compared += 1
            bars = WeightDistribution(front_axle_restoration=restoration, bar_length_m=bar)
            loads = compute_loads(
                replace(plan, hitch=replace(plan.hitch, weight_distribution=bars))
            )
            slack, tight = self._solve(plan, bar, 0.0), self._solve(plan, bar, 100.0)
            lost = bare.truck.front_unhitched_kg - slack[0]
            # the solver is linear in the chain's force: find the force that gives the part back
            force = restoration * lost / ((tight[0] - slack[0]) / 100)
            found = self._solve(plan, bar, force)
            scale = RELATIVE * (loads.truck.mass_kg + loads.trailer.mass_kg)
            with self.subTest(seed=seed):
                self.assertAlmostEqual(loads.trailer.couple_kg_m, force * bar, delta=100 * scale)
                self.assertAlmostEqual(loads.truck.front_kg, found[0], delta=scale * 10)
                self.assertAlmostEqual(loads.truck.rear_kg, found[1], delta=scale * 10)
                self.assertAlmostEqual(loads.trailer.axles_mass_kg, found[2], delta=scale * 10)
                ball = loads.trailer.mass_kg - found[2] + force
                self.assertAlmostEqual(
                    loads.trailer.tongue_kg
                    + loads.trailer.couple_kg_m / bar
                    - loads.trailer.couple_kg_m / plan.trailer.couple_lever_m,
                    ball,
                    delta=scale * 100,
                )


class Sideways(SimpleTestCase):
    def test_sides_of_loads_beside_each_other_by_statics_in_space(self) -> None:
        """Ball, left wheels and right wheels: three supports, three equations of balance."""
        for seed in range(40):
            rng = random.Random(seed)
            plan = standing(seed)
            items = tuple(
                replace(i, placement=replace(i.placement, left_m=rng.uniform(-0.6, 0.6)))
                for i in plan.items
            )
            plan = replace(plan, items=items)
            trailer = plan.trailer
            empty, tongue = trailer.empty_mass_kg, trailer.empty_tongue_mass_kg
            points = [(empty, trailer.axle_centre_m * (1 - tongue / empty), 0.0)]
            points += [
                (i.mass_kg, trailer.deck.start_m + i.balance_tape_m, i.balance_left_m)
                for i in items
            ]
            half, at = trailer.track_width_m / 2, trailer.axle_centre_m
            supports = np.array([[1, 1, 1], [0, at, at], [0, half, -half]], dtype=float)
            loads = np.array(
                [
                    sum(m for m, _, _ in points),
                    sum(m * x for m, x, _ in points),
                    sum(m * y for m, _, y in points),
                ]
            )
            ball, left, right = np.linalg.solve(supports, loads)
            computed = compute_loads(plan).trailer
            with self.subTest(seed=seed):
                self.assertAlmostEqual(computed.tongue_kg, ball, places=6)
                self.assertAlmostEqual(computed.left_kg, left, places=6)
                self.assertAlmostEqual(computed.right_kg, right, places=6)
