"""The loading path against a general frame solver, a dense geometric search, and by hand.

Sources: ``anastruct`` (finite elements). It knows nothing of trailers: truck, trailer and ramp
are one beam with hinges at the ball and at the tail edge, on supports at the truck's two
axles, at the middle of the trailer's axles and at the ramp's foot. Where the machine stands is
found here by bisection along the surface, and its own two loads by moments.
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from dataclasses import replace
from itertools import pairwise

import numpy as np
from anastruct import SystemElements
from django.test import SimpleTestCase

from mechanics.hitch import HitchType
from mechanics.item import Contact, Underside
from mechanics.loading import Path, State, Subject, way
from mechanics.loading.path import Walk
from mechanics.loading.terrain import terrain
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.site import Site
from mechanics.tail import Ramp, RampKind, Stands
from mechanics.tests.climbing import climbing_plan, excavator, random_climb
from mechanics.tests.outfits import inch, lb
from mechanics.trailer import Axle, Suspension
from mechanics.truck import Cargo

OUTFITS, STATIONS = 20, 50


def walked(plan: Plan, index: int = 0) -> tuple[Walk, Path]:
    """One machine's way with nothing missing."""
    found = way(plan, index)
    assert found.walk is not None
    assert found.path is not None
    return found.walk, found.path


def surface(plan: Plan) -> Callable[[float], float]:
    """Height over the place behind the coupler, from the plan's own figures by interpolation."""
    trailer = plan.trailer
    assert trailer.ramp is not None
    assert trailer.deck.height_m is not None
    tail, high = trailer.deck.start_m + trailer.deck.length_m, trailer.deck.height_m
    foot_z = plan.site.foot_rise_m
    xs, zs = [tail - 50], [high]
    if trailer.dovetail is not None:
        xs.append(tail - trailer.dovetail.length_m)
        zs.append(high)
        high -= trailer.dovetail.drop_m
    run = math.sqrt(trailer.ramp.length_m**2 - (high - foot_z) ** 2)
    xs += [tail, tail + run, tail + run + 50]
    zs += [high, foot_z, foot_z]
    return lambda x: float(np.interp(x, xs, zs))


def behind(height: Callable[[float], float], lead: float, apart: float) -> float:
    """The place of the trailing contact, by bisection."""
    low, high = lead, lead + apart
    for _ in range(80):
        middle = (low + high) / 2
        if math.hypot(middle - lead, height(middle) - height(lead)) < apart:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def solved(plan: Plan, loads: list[tuple[float, float]]) -> dict[str, float]:
    """Reactions of the whole outfit under loads (place behind the ball, mass)."""
    truck, trailer = plan.truck, plan.trailer
    tail = trailer.deck.start_m + trailer.deck.length_m
    foot = terrain(plan).foot_m
    supports = {
        "front": -truck.hitch_offset_m - truck.wheelbase_m,
        "rear": -truck.hitch_offset_m,
        "axles": trailer.axle_centre_m,
        "foot": foot,
    }
    hinges = (0.0, tail)
    places = sorted({*supports.values(), *hinges, *(x for x, _ in loads)})
    # nodes nearer than a micrometre are one
    nodes = [places[0]]
    for place in places[1:]:
        if place - nodes[-1] > 1e-6:
            nodes.append(place)
    system = SystemElements(EI=1e7, EA=1e9)
    for one, two in pairwise(nodes):
        ends = {}
        if any(abs(two - hinge) < 1e-6 for hinge in hinges):
            ends[2] = 0
        system.add_element(location=[[one, 0], [two, 0]], spring=ends or None)

    def node(place: float) -> int:
        return min(range(len(nodes)), key=lambda k: abs(nodes[k] - place)) + 1

    system.add_support_hinged(node_id=node(supports["front"]))
    for name in ("rear", "axles", "foot"):
        system.add_support_roll(node_id=node(supports[name]))
    total: dict[int, float] = {}
    for x, mass in loads:
        total[node(x)] = total.get(node(x), 0.0) + mass
    for at, mass in total.items():
        system.point_load(node_id=at, Fy=-mass)
    system.solve()
    # the solver counts what a support pushes up with as negative
    return {
        name: -float(system.reaction_forces[node(place)].Fy) for name, place in supports.items()
    }


class AgainstAFrameSolver(SimpleTestCase):
    def plan(self, rng: random.Random) -> Plan:
        """One wheeled machine, ball hitch, sprung alike, no stands, on the level."""
        while True:
            plan = random_climb(rng)
            ramp, trailer = plan.trailer.ramp, plan.trailer
            assert ramp is not None
            if len(plan.items[0].contacts) != 2 or plan.hitch.type is not HitchType.BALL:
                continue
            tail = trailer.deck.start_m + trailer.deck.length_m
            if tail < trailer.axle_centre_m + 0.2:
                continue
            return replace(
                plan,
                items=plan.items[:1],
                trailer=replace(
                    trailer, suspension=Suspension.EQUALIZED, ramp=replace(ramp, feet=False)
                ),
                site=Site(foot_rise_m=plan.site.foot_rise_m),
            )

    def test_every_station_as_a_beam_with_hinges(self) -> None:
        rng = random.Random(1913)
        for _ in range(OUTFITS):
            plan = self.plan(rng)
            walk, _ = walked(plan)
            height = surface(plan)
            item, trailer, truck = plan.items[0], plan.trailer, plan.truck
            ends = sorted(c.ahead_m for c in item.contacts)
            apart = ends[1] - ends[0]
            forward = item.placement.facing.value == "forward"
            along = item.cg.ahead_m - ends[0] if forward else ends[1] - item.cg.ahead_m
            empty = trailer.axle_centre_m * (
                1 - trailer.empty_tongue_mass_kg / trailer.empty_mass_kg
            )
            unhitched = compute_loads(plan).truck
            for n in range(STATIONS):
                lead = walk.start_m + (walk.end_m - walk.start_m) * n / (STATIONS - 1)
                trail = behind(height, lead, apart)
                pitch = math.atan2(height(lead) - height(trail), trail - lead)
                assert item.cg.height_m is not None
                centre = trail - along * math.cos(pitch) + item.cg.height_m * math.sin(pitch)
                front = item.mass_kg * (trail - centre) / (trail - lead)
                machine = [
                    (x, kg)
                    for x, kg in ((lead, front), (trail, item.mass_kg - front))
                    if x < walk.ground.foot_m
                ]
                found = solved(
                    plan,
                    [
                        (empty, trailer.empty_mass_kg),
                        (-truck.hitch_offset_m, unhitched.rear_unhitched_kg),
                        (
                            -truck.hitch_offset_m - truck.wheelbase_m,
                            unhitched.front_unhitched_kg,
                        ),
                        *machine,
                    ],
                )
                ours = walk.at(lead).carried
                scale = item.mass_kg + trailer.empty_mass_kg
                self.assertAlmostEqual(found["rear"], ours.rear_kg, delta=1e-5 * scale)
                self.assertAlmostEqual(found["front"], ours.front_kg, delta=1e-5 * scale)
                self.assertAlmostEqual(found["axles"], sum(ours.axles_kg), delta=1e-5 * scale)


class AgainstADenseSearch(SimpleTestCase):
    def test_clearance_of_every_outfit(self) -> None:
        """Machine and surface each as some thousand points; the least height between them."""
        rng = random.Random(1914)
        for _ in range(OUTFITS):
            plan = random_climb(rng)
            path = walked(plan)[1]
            item, height = plan.items[0], surface(plan)
            forward = item.placement.facing.value == "forward"
            ends = sorted(
                c.ahead_m + side * c.length_m / 2 for c in item.contacts for side in (-1, 1)
            )
            base, way_on = (ends[0], 1) if forward else (ends[-1], -1)
            low = sorted((way_on * (p.ahead_m - base), p.clearance_m) for p in item.underside)
            along = np.linspace(low[0][0], low[-1][0], 4001)
            along = np.unique(np.concatenate([along, [x for x, _ in low]]))
            above = np.interp(along, [x for x, _ in low], [z for _, z in low])
            for station in path.stations[::20]:
                stance = station.stance
                cos, sin = math.cos(stance.pitch), math.sin(stance.pitch)
                xs = stance.trail_x - along * cos + above * sin
                zs = stance.trail_z + along * sin + above * cos
                assert station.gap is not None
                dense = min(z - height(x) for x, z in zip(xs, zs, strict=True))
                self.assertAlmostEqual(station.gap.least_m, dense, delta=0.002)
                self.assertLessEqual(station.gap.least_m, dense + 1e-9)


class TracksByHand(SimpleTestCase):
    def test_over_the_crest(self) -> None:
        """60 in of track, 3,860 lb, balance point 26 in ahead of the trailing end and 30 in up;
        ramps of 104 in rising 40 in, so that the ramp is 96 in long on the ground."""
        plan = climbing_plan()
        deck = replace(plan.trailer.deck, height_m=inch(40))
        ramp = Ramp(kind=RampKind.RAMPS, length_m=inch(104))
        plan = replace(
            plan, trailer=replace(plan.trailer, deck=deck, ramp=ramp), items=(excavator(),)
        )
        walk, _ = walked(plan)
        cos, sin = 96 / 104, 40 / 104
        # its leading end 20 in beyond the edge, the track still along the ramp
        station = walk.at(inch(292 - 20))
        trail = 292 - 20 + 60 * cos
        centre = trail - 26 * cos + 30 * sin
        self.assertAlmostEqual(station.stance.trail_x, inch(trail))
        self.assertAlmostEqual(station.stance.balance_x, inch(centre))
        on_edge = 3860 * (292 + 96 - centre) / 96
        self.assertAlmostEqual(station.edge_kg, lb(on_edge), places=6)
        self.assertAlmostEqual(station.tongue_kg, lb(380 + on_edge * (1 - 292 / 200)), places=6)


class FactsOfTheTrade(SimpleTestCase):
    """Common practice, no source."""

    def short_dump(self, pounds: float, *, feet: bool = False) -> Plan:
        """A three-quarter-ton truck, a dump trailer of 12 ft, a loader with its heavy end first."""
        plan = climbing_plan()
        trailer = replace(
            plan.trailer,
            kind="dump",
            empty_mass_kg=lb(4040),
            empty_tongue_mass_kg=lb(575),
            axles=tuple(Axle(position_m=inch(at)) for at in (120, 153)),
            deck=replace(
                plan.trailer.deck, start_m=inch(58), length_m=inch(144), height_m=inch(28)
            ),
            ramp=Ramp(kind=RampKind.RAMPS, length_m=inch(60), feet=feet),
        )
        truck = replace(
            plan.truck,
            front_axle_mass_kg=lb(3900),
            rear_axle_mass_kg=lb(2700),
            cargo=(Cargo(mass_kg=lb(190), ahead_of_rear_axle_m=inch(70)),),
        )
        loader = replace(
            plan.items[0],
            mass_kg=lb(pounds),
            cg=replace(plan.items[0].cg, ahead_m=inch(11), height_m=inch(26)),
            contacts=(Contact(ahead_m=0.0), Contact(ahead_m=inch(43))),
            placement=replace(plan.items[0].placement, reference_m=inch(60)),
        )
        loader = replace(
            loader, placement=replace(loader.placement, facing=loader.placement.facing.turned)
        )
        return replace(plan, truck=truck, trailer=trailer, items=(loader,))

    def test_a_heavy_loader_lifts_the_trucks_rear_wheels(self) -> None:
        _, path = walked(self.short_dump(10000))
        self.assertIs(path.lowest.state, State.LIFTED)

    def test_a_tractor_of_half_its_mass_does_not(self) -> None:
        _, path = walked(self.short_dump(5000))
        self.assertLess(path.lowest.tongue_kg, 0)
        self.assertIsNot(path.lowest.state, State.LIFTED)

    def test_ramps_on_feet_keep_it_down(self) -> None:
        _, path = walked(self.short_dump(10000, feet=True))
        self.assertTrue(all(s.carried.rear_kg > lb(2000) for s in path.stations))

    def test_an_ordinary_tractor_takes_an_ordinary_trailers_tongue_up(self) -> None:
        """5,350 lb on a 20 ft trailer: some 1,300 lb upwards, the truck's rear axle halved."""
        walk, path = walked(climbing_plan())
        self.assertAlmostEqual(path.lowest.tongue_kg, lb(-1300), delta=lb(60))
        self.assertAlmostEqual(path.lowest.carried.rear_kg / walk.outfit.rear_kg, 0.5, delta=0.06)

    def test_a_stand_an_inch_short_still_helps_and_one_on_the_ground_holds(self) -> None:
        plan = climbing_plan(stands_down=True)
        on_ground = replace(plan, trailer=replace(plan.trailer, stands=Stands(gap_m=0)))
        self.assertGreaterEqual(walked(on_ground)[1].lowest.tongue_kg, lb(380) - 1e-9)

    def test_a_belly_catches_at_the_crest_and_a_tail_at_the_foot(self) -> None:
        plan = climbing_plan()
        belly = replace(
            plan.items[0],
            underside=(
                Underside(ahead_m=inch(20), clearance_m=inch(6)),
                Underside(ahead_m=inch(55), clearance_m=inch(6)),
            ),
        )
        walk, path = walked(replace(plan, items=(belly,)))
        closest = path.closest
        assert closest is not None
        assert closest.gap is not None
        self.assertLess(closest.gap.least_m, 0)
        self.assertAlmostEqual(closest.gap.x, walk.ground.edge_m, delta=0.15)
        hung = replace(
            plan.items[0],
            rear_m=inch(90),
            underside=(Underside(ahead_m=inch(-90), clearance_m=inch(20)),),
        )
        found = way(replace(plan, items=(hung,)), 0)
        check = found.finding(Subject.CLEARANCE)
        assert check is not None
        # 90 in behind the rear wheels 20 in high: less than the ramp's angle
        self.assertLess(math.atan(20 / 90), math.asin(26 / 66))
        self.assertLess(check.value or 0, 0)
