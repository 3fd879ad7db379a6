"""What the outfit carries while a machine climbs: tongue, axles, stands, and what holds it.

The trailer turns about its axles' common lever, as everywhere else. No spring bars act while
loading. On a slope the heights of the masses shift the tongue; where a height is not known
that is left out.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum
from typing import NamedTuple

from mechanics.item import TOUCH_M, Item
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.truck import Drive, Ride


class State(Enum):
    """How the outfit stands."""

    FREE = "free"
    PROPPED = "propped"
    LIFTED = "lifted"


class Aboard(NamedTuple):
    """The part of the moving machine that stands on the outfit.

    ``deck_kg`` on the deck, with its moment about the coupler; ``edge_kg`` on the edge that
    the ramp hangs on; ``height_m`` of the machine's balance point above the ground.
    """

    deck_kg: float
    deck_moment_kg_m: float
    edge_kg: float
    height_m: float


NOTHING = Aboard(0.0, 0.0, 0.0, 0.0)


class Carried(NamedTuple):
    """Loads of one place on the way, in kg. ``free_kg`` is the tongue without the stands."""

    tongue_kg: float
    free_kg: float
    stand_kg: float
    axles_kg: tuple[float, ...]
    front_kg: float
    rear_kg: float
    mass_kg: float
    slope_shift_kg: float | None
    state: State


@dataclass(frozen=True, kw_only=True, slots=True)
class Prop:
    """Stands, or ramps on feet: where, and the tongue at which they begin to bear.

    ``stands`` says that they are the trailer's stands, which have a rating of their own.
    """

    at_m: float
    bears_at_kg: float
    stands: bool


class Outfit:
    """A plan's truck and trailer with what is aboard already, at a site.

    ``bed_kg_m`` is what keeps a dump bed down with those items aboard, ``None`` where it
    cannot lift.
    """

    def __init__(self, plan: Plan, aboard: Sequence[Item], edge_m: float) -> None:
        self.plan, self.edge_m, self.aboard = plan, edge_m, tuple(aboard)
        trailer, truck, site = plan.trailer, plan.truck, plan.site
        start = trailer.deck.start_m
        unhitched = compute_loads(plan).truck
        self.front_kg, self.rear_kg = unhitched.front_unhitched_kg, unhitched.rear_unhitched_kg
        self.empty_kg, self.empty_tongue_kg = trailer.empty_mass_kg, trailer.empty_tongue_mass_kg
        self.aboard_kg = sum(i.mass_kg for i in aboard)
        self.moment_kg_m = sum(i.mass_kg * (start + i.balance_tape_m) for i in aboard)
        self.lever_m = trailer.couple_lever_m
        self.empty_axle_kg = (trailer.empty_mass_kg - trailer.empty_tongue_mass_kg) / len(
            trailer.axles
        )
        self.factors = trailer.axle_factors_per_m
        self.by_wheelbase = truck.hitch_offset_m / truck.wheelbase_m
        self.held = tuple(number - 1 for number in site.held_trailer_axles)
        self.four_held = site.park_four_wheel and truck.drive is not Drive.TWO_WHEEL
        self.rear_held = site.parking_brake or self.four_held
        angle = math.atan(abs(site.slope))
        self.slope = site.slope
        self.slope_sin, self.grip_cos = math.sin(angle), site.grip * math.cos(angle)
        self.push, self.standing_kg = site.push, self.front_kg + self.rear_kg
        self.hold_from = self._hold_height()
        self.slope_moment = self._slope_moment(aboard)
        self.prop: Prop | None = None
        self.prop = self._prop()
        self.bed_kg_m = self._bed(aboard)

    # --- what is worked out once ---

    def _hold_height(self) -> float | None:
        """Height at which the slope's pull is held; ``None`` where it is not known."""
        site = self.plan.site
        if site.slope > 0 and site.held_trailer_axles:
            return 0.0
        return self.plan.trailer.coupler_height_m

    def _slope_moment(self, aboard: Sequence[Item]) -> float | None:
        """Sum of mass times height over what holds, of the trailer with what is aboard."""
        deck, hold = self.plan.trailer.deck.height_m, self.hold_from
        if deck is None or self.plan.trailer.coupler_height_m is None or hold is None:
            return None
        total = self.plan.trailer.empty_mass_kg * (deck - hold)
        for item in aboard:
            if item.cg.height_m is None:
                return None
            total += item.mass_kg * (deck + item.cg.height_m - hold)
        return total

    def _prop(self) -> Prop | None:
        trailer, site = self.plan.trailer, self.plan.site
        end = trailer.deck.start_m + trailer.deck.length_m
        feet = trailer.ramp is not None and trailer.ramp.feet
        stands = trailer.stands if site.stands_down else None
        if feet and stands is not None and stands.gap_m > 0:
            stands = None
        found = []
        if stands is not None:
            at = end if stands.position_m is None else stands.position_m
            found.append((at, stands.gap_m, True))
        if feet:
            found.append((end, 0.0, False))
        for at, gap, are_stands in found:
            if at <= self.lever_m:
                continue
            give = 0.0 if gap == 0 else ball_give(self.plan)
            if give is None:
                continue
            unloaded = self.tongue(NOTHING)[0]
            if gap > 0:
                unloaded -= gap * self.lever_m / ((at - self.lever_m) * give)
            return Prop(at_m=at, bears_at_kg=unloaded, stands=are_stands)
        return None

    def _bed(self, aboard: Sequence[Item]) -> float | None:
        bed = self.plan.trailer.bed
        if bed is None or bed.latched:
            return None
        if self.prop is not None and self.prop.at_m > bed.hinge_m:
            return None
        start = self.plan.trailer.deck.start_m
        return bed.mass_kg * (bed.hinge_m - bed.balance_m) + sum(
            i.mass_kg * (bed.hinge_m - start - i.balance_tape_m) for i in aboard
        )

    # --- what changes along the way ---

    def tongue(self, moving: Aboard) -> tuple[float, float | None]:
        """The tongue without any stand, and how much of it is the slope's doing."""
        deck_kg, deck_moment, edge_kg, height = moving
        mass = self.aboard_kg + deck_kg + edge_kg
        moment = self.moment_kg_m + deck_moment + edge_kg * self.edge_m
        level = self.empty_tongue_kg + mass - moment / self.lever_m
        if self.slope == 0:
            return level, 0.0
        if self.slope_moment is None or self.hold_from is None:
            return level, None
        total = self.slope_moment + (deck_kg + edge_kg) * (height - self.hold_from)
        shift = -self.slope / self.lever_m * total
        return level + shift, shift

    def carried(self, moving: Aboard) -> Carried:
        """Everything that is carried with the moving machine at one place."""
        free, shift = self.tongue(moving)
        moment = self.moment_kg_m + moving.deck_moment_kg_m + moving.edge_kg * self.edge_m
        moment -= (shift or 0.0) * self.lever_m
        tongue, stand, state = free, 0.0, State.FREE
        prop = self.prop
        if prop is not None and prop.bears_at_kg > free:
            tongue, state = prop.bears_at_kg, State.PROPPED
            stand = (tongue - free) * self.lever_m / (prop.at_m - self.lever_m)
            moment -= stand * prop.at_m
        rear = self.rear_kg + tongue * (1 + self.by_wheelbase)
        if rear <= 0:
            state = State.LIFTED
        empty = self.empty_axle_kg
        return Carried(
            tongue,
            free,
            stand,
            tuple([empty + k * moment for k in self.factors]),
            self.front_kg - tongue * self.by_wheelbase,
            rear,
            self.empty_kg + self.aboard_kg + moving.deck_kg + moving.edge_kg,
            shift,
            state,
        )

    def hold(self, carried: Carried, machine_kg: float, shove_kg: float) -> float | None:
        """How many times what holds outweighs what pushes; ``None`` where nothing pushes.

        ``shove_kg`` is what the leading wheels push the outfit with as they meet the ramp.
        A stand's foot is not counted.
        """
        push = (self.standing_kg + carried.mass_kg) * self.slope_sin
        push += max(self.push * machine_kg, shove_kg)
        if push <= 0:
            return None
        standing = 0.0
        if self.rear_held and carried.rear_kg > 0:
            standing = carried.rear_kg
        if self.four_held and carried.front_kg > 0:
            standing += carried.front_kg
        for index in self.held:
            standing += max(carried.axles_kg[index], 0.0)
        return self.grip_cos * standing / push

    def bed_margin(self, moving: Aboard) -> float | None:
        """What keeps a dump bed down less what lifts it, in kg m; ``None`` where it cannot."""
        if self.bed_kg_m is None or self.plan.trailer.bed is None:
            return None
        hinge = self.plan.trailer.bed.hinge_m
        lifting = moving.deck_moment_kg_m - moving.deck_kg * hinge
        return self.bed_kg_m - lifting - moving.edge_kg * (self.edge_m - hinge)


def ball_give(plan: Plan) -> float | None:
    """How far the ball sinks per kilogram on it, in m/kg; ``None`` without spring rates.

    The front end is taken as stiff where its rate is not known.
    """
    ride: Ride | None = plan.truck.ride
    if ride is None:
        return None
    base, offset = plan.truck.wheelbase_m, plan.truck.hitch_offset_m
    give = ((base + offset) / base) ** 2 / ride.rear_rate_kg_per_m
    if ride.front_rate_kg_per_m is not None:
        give += (offset / base) ** 2 / ride.front_rate_kg_per_m
    return give


def aboard_before(plan: Plan, index: int) -> tuple[Item, ...]:
    """What stands aboard already when an item is driven on.

    Every item wholly ahead of it, and of those beside it (overlapping it along the deck) the
    ones listed earlier. The others come later.
    """
    moving = plan.items[index]
    found = []
    for other, item in enumerate(plan.items):
        if other == index:
            continue
        ahead = item.rearmost_m <= moving.foremost_m + TOUCH_M
        beside = not ahead and item.foremost_m < moving.rearmost_m - TOUCH_M
        if ahead or (beside and other < index):
            found.append(item)
    return tuple(found)
