"""The way on: stations from the ramp's foot to the mark, and the extremes along it.

Between its kinks (a contact at a corner, a track rocking over) everything is smooth, so each
kink has a station on both sides and the least tongue is found between stations. Off again
is the same stations backwards.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Final, NamedTuple

from mechanics.loading.clearance import Clearance, Gauge
from mechanics.loading.outfit import Aboard, Carried, Outfit, State
from mechanics.loading.stance import Climber, Stance
from mechanics.loading.terrain import Part, Terrain, level_deck
from mechanics.patience import go_on
from mechanics.plan import Plan
from mechanics.tail import RampKind

STATIONS: Final = 200
"""Stations of a whole path, kinks and the refined place of the least tongue apart."""

BESIDE_KINK_M: Final = 1e-8
"""How far from a kink its two stations stand."""

EXACT_M: Final = 2e-4
"""How exactly the place of the least tongue is found."""

FLAT: Final = 1e-9
"""A pitch smaller than this, in radians, is level."""


class Station(NamedTuple):
    """One place on the way: how the machine stands and what everything carries.

    Masses in kg, places in m behind the coupler, pitch in radians. ``edge_kg`` is on the tail
    edge (the hinge of a tilting deck), ``ramp_kg`` the part of the machine that stands on the
    ramp. ``high_share`` is the part of the machine's mass on its higher contact, ``None``
    where it stands level.
    """

    stance: Stance
    carried: Carried
    edge_kg: float
    ramp_kg: float
    hold: float | None
    high_share: float | None
    bed_margin_kg_m: float | None
    gap: Clearance | None

    @property
    def lead_m(self) -> float:
        """Place of the leading contact."""
        return self.stance.lead_x

    @property
    def tongue_kg(self) -> float:
        """The tongue mass; negative where it pulls up."""
        return self.carried.tongue_kg

    @property
    def state(self) -> State:
        """How the outfit stands."""
        return self.carried.state


@dataclass(frozen=True)
class Path:
    """Every station of one machine, in the order in which it drives on."""

    stations: tuple[Station, ...]

    @cached_property
    def lowest(self) -> Station:
        """Where the tongue is least; the first of equals."""
        return min(self.stations, key=lambda s: s.carried.tongue_kg)

    @cached_property
    def worst_hold(self) -> Station | None:
        """Where the outfit is held worst; ``None`` where nothing pushes it."""
        pushed = [s for s in self.stations if s.hold is not None]
        return min(pushed, key=lambda s: s.hold or 0.0) if pushed else None

    @cached_property
    def lightest_rear(self) -> Station:
        """Where the truck's rear axle carries least."""
        return min(self.stations, key=lambda s: s.carried.rear_kg)

    @cached_property
    def closest(self) -> Station | None:
        """Where the underside comes nearest to what it drives over; ``None`` where the
        underside is not known."""
        known = [s for s in self.stations if s.gap is not None]
        return min(known, key=lambda s: s.gap.least_m if s.gap else 0.0) if known else None


class Walk:
    """One machine's way onto a plan's trailer, place by place."""

    def __init__(self, plan: Plan, machine: Climber, outfit: Outfit, ground: Terrain) -> None:
        self.plan, self.machine, self.outfit, self.ground = plan, machine, outfit, ground
        tilts = plan.trailer.ramp is not None and plan.trailer.ramp.kind is RampKind.TILT
        self.up = level_deck(ground) if tilts else None
        self.gauge = Gauge(machine.underside, ground, self.up) if machine.underside else None
        self.end_m = plan.trailer.deck.start_m + machine.lead_tape_m
        self.start_m = max(ground.foot_m, self.end_m)
        self.shove = math.tan(ground.angle)
        self.per_run = 1 / (ground.foot_m - ground.edge_m)

    def stance(self, lead_x: float) -> Stance:
        """How the machine stands with its leading contact at a place."""
        return self.machine.stance(lead_x, self.ground, self.up)

    def at(self, lead_x: float) -> Station:
        """The station with the leading contact at a place."""
        machine, outfit = self.machine, self.outfit
        stance = self.stance(lead_x)
        moving, ramp, shoves = self._aboard(stance)
        carried = outfit.carried(moving)
        shove = stance.lead_kg * self.shove if shoves else 0.0
        pitch = stance.pitch
        high = None
        if pitch > FLAT:
            high = stance.lead_kg / machine.mass_kg
        elif pitch < -FLAT:
            high = stance.trail_kg / machine.mass_kg
        return Station(
            stance,
            carried,
            moving.edge_kg,
            ramp,
            outfit.hold(carried, machine.mass_kg, shove),
            high,
            None if outfit.bed_kg_m is None else outfit.bed_margin(moving),
            None if self.gauge is None else self.gauge.at(stance),
        )

    def _aboard(self, stance: Stance) -> tuple[Aboard, float, bool]:
        """What of the machine stands on the outfit, what of it on the ramp, and whether its
        leading wheels meet the ramp with the others still on the ground."""
        ground = self.ground
        deck = moment = edge = ramp = 0.0
        on = self.machine.stood_on(stance, ground)
        for part, x, load in on:
            if part is Part.DECK or part is Part.DOVETAIL:
                deck += load
                moment += load * x
            elif part is Part.RAMP:
                edge += load * (ground.foot_m - x) * self.per_run
                ramp += load
        shoves = not stance.lying and on[0][0] is Part.RAMP and on[1][0] is Part.GROUND
        return Aboard(deck, moment, edge, stance.balance_z), ramp, shoves

    def tongue(self, lead_x: float) -> float:
        """The tongue mass alone, with the leading contact at a place."""
        return self.outfit.carried(self._aboard(self.stance(lead_x))[0]).tongue_kg

    def gap(self, lead_x: float) -> float:
        """The least clearance alone; infinite where the underside is not known."""
        return math.inf if self.gauge is None else self.gauge.at(self.stance(lead_x)).least_m

    def path(self, stations: int = STATIONS) -> Path:
        """The whole way, with at least so many stations."""
        first, last = self.start_m, self.end_m
        step = (first - last) / (stations - 1)
        leads = {first - step * n for n in range(stations - 1)} | {last}
        for kink in self.kinks():
            for lead in (kink + BESIDE_KINK_M, kink - BESIDE_KINK_M):
                if last < lead < first:
                    leads.add(lead)
        found = [self.at(lead) for lead in sorted(leads, reverse=True)]
        self._refine(found, [s.carried.tongue_kg for s in found], self.tongue)
        if self.gauge is not None:
            gaps = [s.gap.least_m if s.gap else math.inf for s in found]
            self._refine(found, gaps, self.gap)
        return Path(tuple(found))

    def kinks(self) -> list[float]:
        """Places of the leading contact at which something changes how it goes on."""
        machine, ground = self.machine, self.ground
        found = []
        for corner in ground.corners:
            found += [corner.x, ground.ahead(corner.x, machine.apart_m).x]
        if machine.tracked:
            for corner, slope in zip(ground.corners, ground.slopes[1:], strict=True):
                cos = (1 + slope * slope) ** -0.5
                sin = -slope * cos
                behind = (machine.apart_m - machine.balance_m) * cos + machine.height_m * sin
                found.append(corner.x - behind)
        if self.up is not None:
            found.append(self._tips_over())
        return found

    def _tips_over(self) -> float:
        """Where the balance point passes the hinge of a tilting deck."""
        low, high = min(self.end_m, self.ground.edge_m - 2 * self.machine.apart_m), self.start_m
        while high - low > BESIDE_KINK_M / 4:
            middle = (low + high) / 2
            if self.machine.stance(middle, self.ground, None).balance_x > self.ground.edge_m:
                high = middle
            else:
                low = middle
        return (low + high) / 2

    def _refine(
        self, found: list[Station], values: list[float], value: Callable[[float], float]
    ) -> None:
        """Put the exact place of the least value among the stations, if it lies between two."""
        best = min(values)
        index = values.index(best)
        low = found[min(index + 1, len(found) - 1)].lead_m
        high = found[max(index - 1, 0)].lead_m
        if high - low <= EXACT_M:
            return
        lead = least(value, low, high)
        if value(lead) < best:
            found.append(self.at(lead))
            found.sort(key=lambda s: -s.lead_m)


GOLDEN: Final = 0.6180339887498949


def least(value: Callable[[float], float], low: float, high: float) -> float:
    """The place of the least value between two, to within :data:`EXACT_M`.

    By the golden section: between neighbours among the stations there is one least.
    """
    one, two = high - GOLDEN * (high - low), low + GOLDEN * (high - low)
    first, second = value(one), value(two)
    while high - low > EXACT_M:
        go_on()
        if first <= second:
            high, two, second = two, one, first
            one = high - GOLDEN * (high - low)
            first = value(one)
        else:
            low, one, first = one, two, second
            two = low + GOLDEN * (high - low)
            second = value(two)
    return one if first <= second else two
