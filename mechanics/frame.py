"""The trailer's frame as a beam: shear and bending under its own weight and the items.

The beam stands on the coupler and, at each axle, on springs that hand their load half to
either end and so bend the frame as one force at the axle does. Loads go straight down.
Bending is positive where the frame sags between its supports. Everything is in closed
form between the places where a load begins or ends.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from typing import NamedTuple

from mechanics.errors import BalanceError
from mechanics.item import Contact, Item
from mechanics.loads import BALANCE_TOLERANCE, bar_factor_m
from mechanics.plan import Plan
from mechanics.trailer import Trailer

BAR_LENGTH_M = 0.75
"""Where spring bars hang on the frame behind the ball where the plan does not say: about
30 in. Common practice, no source."""


TIP_M = 0.001
"""An item whose balance point is nearer than this to the end of its footing is taken to tip."""


class Force(NamedTuple):
    """A force at one place behind the coupler, in kg, positive downwards."""

    at: float
    down: float


class Strip(NamedTuple):
    """A load spread from ``start`` to ``end``, in kg/m at both, straight between them."""

    start: float
    end: float
    first: float
    last: float

    @property
    def total(self) -> float:
        """Its mass."""
        return (self.end - self.start) * (self.first + self.last) / 2


@dataclass(frozen=True, kw_only=True)
class Beam:
    """A beam in balance: its forces (supports upwards, so negative) and its strips."""

    forces: tuple[Force, ...]
    strips: tuple[Strip, ...]

    def __post_init__(self) -> None:
        down = sum(f.down for f in self.forces) + sum(s.total for s in self.strips)
        scale = sum(abs(f.down) for f in self.forces) + 1e-9
        if abs(down) > BALANCE_TOLERANCE * scale:
            raise BalanceError("vertical force on the frame", down)
        left_over = self.bending(self.places[-1])
        span = self.places[-1] - self.places[0] + 1.0
        if abs(left_over) > BALANCE_TOLERANCE * scale * span:
            raise BalanceError("bending at the tail of the frame", left_over)

    @cached_property
    def places(self) -> tuple[float, ...]:
        """Where a load begins, ends or stands, in rising order."""
        found = {f.at for f in self.forces}
        for strip in self.strips:
            found |= {strip.start, strip.end}
        return tuple(sorted(found))

    def shear(self, at: float, *, before: bool = False) -> float:
        """Shear in kg just behind a place, or just ahead of it; positive lifts the tail side."""
        total = -sum(f.down for f in self.forces if f.at < at or (f.at == at and not before))
        return total - sum(_part(s, at)[0] for s in self.strips)

    def bending(self, at: float) -> float:
        """Bending in kg m at a place."""
        total = -sum(f.down * (at - f.at) for f in self.forces if f.at < at)
        return total - sum(_part(s, at)[1] for s in self.strips)

    @cached_property
    def sagging(self) -> tuple[float, float]:
        """Where the frame sags most between supports, and that bending: zero or more."""
        return self._most(1.0)

    @cached_property
    def hogging(self) -> tuple[float, float]:
        """Where the frame is bent most over a support, and that bending: zero or less."""
        return self._most(-1.0)

    @property
    def peak(self) -> tuple[float, float]:
        """Where the bending is largest either way, and that bending with its sign."""
        return self.hogging if -self.hogging[1] > self.sagging[1] else self.sagging

    @cached_property
    def _turning_places(self) -> list[float]:
        found = list(self.places)
        for start, end in pairwise(self.places):
            found += self._level_places(start, end)
        return found

    def _most(self, sign: float) -> tuple[float, float]:
        at = max(self._turning_places, key=lambda x: (round(sign * self.bending(x), 9), -x))
        # both ends of a beam are free of bending, rounding apart
        most = self.bending(at)
        return at, most if sign * most > 0 else 0.0

    def _level_places(self, start: float, end: float) -> list[float]:
        """Where the shear is zero between two places; there it is at most quadratic."""
        one = self.shear(start)
        two = self.shear(end, before=True)
        half = self.shear((start + end) / 2)
        # through the three points, over a running number from 0 to 1
        square = 2 * (one + two - 2 * half)
        straight = two - one - square
        return [start + u * (end - start) for u in _roots(square, straight, one) if 0 < u < 1]

    def diagram(self, pieces: int = 8) -> tuple[tuple[float, float, float], ...]:
        """Place, shear and bending along the frame; both sides of every jump of the shear."""
        found = []
        for start, end in pairwise(self.places):
            found.append((start, self.shear(start), self.bending(start)))
            for n in range(1, pieces):
                at = start + (end - start) * n / pieces
                found.append((at, self.shear(at), self.bending(at)))
            found.append((end, self.shear(end, before=True), self.bending(end)))
        return tuple(found)


def _part(strip: Strip, at: float) -> tuple[float, float]:
    """Mass of a strip ahead of a place, and its moment about that place."""
    if at <= strip.start:
        return 0.0, 0.0
    reach = min(at, strip.end) - strip.start
    slope = (strip.last - strip.first) / (strip.end - strip.start)
    mass = strip.first * reach + slope * reach**2 / 2
    moment = strip.first * reach**2 / 2 + slope * reach**3 / 6
    return mass, moment + mass * max(at - strip.end, 0.0)


def _roots(square: float, straight: float, constant: float) -> list[float]:
    if abs(square) < 1e-12 * (abs(straight) + abs(constant) + 1e-30):
        return [] if straight == 0 else [-constant / straight]
    inside = straight**2 - 4 * square * constant
    if inside < 0:
        return []
    # the form that keeps its digits where the two roots are far apart
    q = -(straight + math.copysign(math.sqrt(inside), straight)) / 2
    return [q / square] + ([constant / q] if q else [])


def strip_about(mass: float, balance: float, start: float, end: float) -> Strip:
    """A mass spread from ``start`` to ``end`` so that it balances at a place between them.

    Straight-sided where that place is in the middle third; else it presses only on three
    times the way from the nearer end, as a footing does that cannot pull.
    """
    balance = min(max(balance, start + 1e-6), end - 1e-6)
    length = end - start
    off = (balance - (start + end) / 2) / length
    if abs(off) <= 1 / 6:
        even = mass / length
        return Strip(start, end, even * (1 - 6 * off), even * (1 + 6 * off))
    if off > 0:
        reach = 3 * (end - balance)
        return Strip(end - reach, end, 0.0, 2 * mass / reach)
    reach = 3 * (balance - start)
    return Strip(start, start + reach, 2 * mass / reach, 0.0)


def contact_loads(item: Item) -> tuple[tuple[Contact, float], ...]:
    """What each contact of an item carries, in kg.

    One carries all; two by the lever; more as equal springs under a stiff body, those that
    would lift left out.
    """
    standing = list(item.contacts)
    while True:
        count = len(standing)
        if count == 0:
            return ()
        middle = sum(c.ahead_m for c in standing) / count
        spread = sum((c.ahead_m - middle) ** 2 for c in standing)
        if spread == 0:
            return tuple((c, item.mass_kg / count) for c in standing)
        lean = (item.cg.ahead_m - middle) / spread
        loads = [item.mass_kg * (1 / count + lean * (c.ahead_m - middle)) for c in standing]
        if min(loads) >= -1e-9 * item.mass_kg:
            return tuple(zip(standing, (max(load, 0.0) for load in loads), strict=True))
        standing.pop(loads.index(min(loads)))


def stands(item: Item) -> bool:
    """Whether the item's contacts are known and it balances between them, so that it can stand."""
    ends = [c.ahead_m + side * c.length_m / 2 for c in item.contacts for side in (-1, 1)]
    return bool(ends) and min(ends) + TIP_M <= item.cg.ahead_m <= max(ends) - TIP_M


def footprint(plan: Plan, item: Item) -> tuple[Force | Strip, ...]:
    """How an item presses on the floor, in places behind the coupler.

    Without contacts, or with a balance point outside them, its mass is spread over its whole
    length.
    """
    start = plan.trailer.deck.start_m
    balance = start + item.balance_tape_m
    if not stands(item):
        return (
            strip_about(item.mass_kg, balance, start + item.foremost_m, start + item.rearmost_m),
        )
    mark = start + item.placement.reference_m
    pressed: list[Force | Strip] = []
    carried = contact_loads(item)
    for contact, load in carried:
        middle = mark + item.direction * contact.ahead_m
        if contact.length_m == 0:
            pressed.append(Force(middle, load))
            continue
        at = balance if len(carried) == 1 else middle
        half = contact.length_m / 2
        pressed.append(strip_about(load, at, middle - half, middle + half))
    return tuple(pressed)


def part_ahead_of_middle(plan: Plan) -> float | None:
    """Part of the items' mass that stands ahead of the deck's middle; ``None`` with no items.

    The quick rule asks for 60 of 100 (common practice, no source). Each item is spread over
    what it stands on, from its first contact to its last, so that it balances as it does;
    one whose contacts are not known, over its whole length.
    """
    if not plan.items:
        return None
    deck = plan.trailer.deck
    middle = deck.length_m / 2
    ahead = total = 0.0
    for item in plan.items:
        start, end = item.foremost_m, item.rearmost_m
        if stands(item):
            mark = item.placement.reference_m
            ends = [
                mark + item.direction * c.ahead_m + side * c.length_m / 2
                for c in item.contacts
                for side in (-1, 1)
            ]
            start, end = min(ends), max(ends)
        strip = strip_about(item.mass_kg, item.balance_tape_m, start, end)
        ahead += _part(strip, middle)[0]
        total += item.mass_kg
    return ahead / total


@dataclass(frozen=True, kw_only=True)
class FrameUse:
    """The frame under this load, and under the rated load spread evenly over the deck.

    ``sagging_share`` and ``hogging_share`` are the most bending either way over that of the
    rated load the same way, own weight in both; ``mass_share`` the load's mass over the
    rated one. All are ``None`` without a trailer rating, or with one that the empty trailer
    uses up, and a share also where the rated load does not bend the frame that way.
    ``spread_items`` have no known contacts that they could stand on and are spread over their
    length, which is kinder to the frame than the truth.
    """

    beam: Beam
    rated: Beam | None
    sagging_share: float | None
    hogging_share: float | None
    mass_share: float | None
    spread_items: tuple[str, ...]

    @property
    def hogs(self) -> bool:
        """Whether the greater share is of bending over a support; without any, the larger
        bending."""
        sags, hogs = self.sagging_share, self.hogging_share
        if sags is None and hogs is None:
            return -self.beam.hogging[1] > self.beam.sagging[1]
        return (-1.0 if hogs is None else hogs) > (-1.0 if sags is None else sags)

    @property
    def share_of_rated(self) -> float | None:
        """The greater of the two shares, ``None`` with neither."""
        return self.hogging_share if self.hogs else self.sagging_share

    @property
    def peak(self) -> tuple[float, float]:
        """Where the frame bends most the way that uses it most, and that bending."""
        return self.beam.hogging if self.hogs else self.beam.sagging

    @property
    def rated_peak(self) -> tuple[float, float] | None:
        """The same of the rated load."""
        if self.rated is None:
            return None
        return self.rated.hogging if self.hogs else self.rated.sagging

    @property
    def unrated_way(self) -> bool:
        """Whether the load bends the frame in a way that its rated load does not at all."""
        if self.rated is None:
            return False
        return any(
            share is None and abs(most) > BALANCE_TOLERANCE * (1 + abs(self.beam.peak[1]))
            for share, (_, most) in (
                (self.sagging_share, self.beam.sagging),
                (self.hogging_share, self.beam.hogging),
            )
        )


def frame_use(plan: Plan) -> FrameUse:
    """The frame as it is loaded now."""
    trailer = plan.trailer
    pressed = [piece for item in plan.items for piece in footprint(plan, item)]
    bars = plan.hitch.weight_distribution
    length = (bars.bar_length_m if bars else None) or BAR_LENGTH_M
    beam = _beam(trailer, pressed, bar_factor_m(plan), length)
    rated = None
    sagging = hogging = mass_share = None
    payload = (trailer.gvwr_kg or 0.0) - trailer.empty_mass_kg
    if payload > 0:
        start, end = trailer.deck.start_m, trailer.deck.start_m + trailer.deck.length_m
        even = payload / trailer.deck.length_m
        rated = _beam(trailer, [Strip(start, end, even, even)], 0.0, length)
        sagging = _like_with_like(beam.sagging[1], rated.sagging[1], rated.peak[1])
        hogging = _like_with_like(beam.hogging[1], rated.hogging[1], rated.peak[1])
        mass_share = sum(i.mass_kg for i in plan.items) / payload
    return FrameUse(
        beam=beam,
        rated=rated,
        sagging_share=sagging,
        hogging_share=hogging,
        mass_share=mass_share,
        spread_items=tuple(i.id for i in plan.items if not stands(i)),
    )


def _like_with_like(most: float, rated: float, rated_peak: float) -> float | None:
    """Bending one way over the rated load's the same way; ``None`` where that has none."""
    if abs(rated) <= BALANCE_TOLERANCE * abs(rated_peak):
        return None
    return most / rated


def _beam(
    trailer: Trailer, pressed: Sequence[Force | Strip], bars: float, bar_length: float
) -> Beam:
    """The beam under its own weight and what presses on it, with the supports that balance it."""
    own = own_weight(trailer)
    forces = [p for p in pressed if isinstance(p, Force)]
    strips = [p for p in pressed if isinstance(p, Strip)]
    mass = sum(f.down for f in forces) + sum(s.total for s in strips)
    moment = sum(f.down * f.at for f in forces) + sum(_moment(s) for s in strips)
    tongue = trailer.empty_tongue_mass_kg + mass - moment / trailer.couple_lever_m
    couple = bars * max(tongue, 0.0)
    empty = (trailer.empty_mass_kg - trailer.empty_tongue_mass_kg) / len(trailer.axles)
    supports = [
        Force(axle.position_m, -empty - factor * (moment + couple))
        for axle, factor in zip(trailer.axles, trailer.axle_factors_per_m, strict=True)
    ]
    # the bars pull the frame down where they hang, and the head of the hitch lifts as much
    pull = couple / bar_length
    supports.append(Force(0.0, -(tongue - couple / trailer.couple_lever_m) - pull))
    if pull:
        supports.append(Force(bar_length, pull))
    return Beam(forces=(*forces, *supports), strips=(*strips, *own))


def _moment(strip: Strip) -> float:
    length = strip.end - strip.start
    return strip.total * strip.start + length**2 * (strip.first + 2 * strip.last) / 6


def own_weight(trailer: Trailer) -> tuple[Strip, ...]:
    """The empty trailer spread along its frame so that it stands on its tongue as weighed.

    The axles' own mass is spread with it, which bends the frame a little more than they do.
    Independent axles are taken as they stand empty: equally loaded.
    """
    mass = trailer.empty_mass_kg
    balance = (mass - trailer.empty_tongue_mass_kg) * trailer.axle_centre_m / mass
    deck = trailer.deck
    front = min(0.0, deck.start_m)
    rear = max(deck.start_m + deck.length_m, *(a.position_m for a in trailer.axles), balance + 0.1)
    return (strip_about(mass, balance, front, rear),)


def most_within(pressed: Iterable[Force | Strip], length: float) -> tuple[float, float]:
    """The largest mass within any stated length, and where that length begins.

    Exact: the best length begins or ends where a load does, or where as much comes in at
    one end as goes out at the other.
    """
    forces = [p for p in pressed if isinstance(p, Force)]
    strips = [p for p in pressed if isinstance(p, Strip)]
    edges = {f.at for f in forces} | {e for s in strips for e in (s.start, s.end)}
    starts = edges | {e - length for e in edges}
    for one in strips:
        for two in strips:
            starts |= set(_even_exchange(one, two, length))

    def within(start: float) -> float:
        end = start + length
        near = 1e-9 * (1 + abs(start))
        total = sum(f.down for f in forces if start - near <= f.at <= end + near)
        return total + sum(_part(s, end)[0] - _part(s, start)[0] for s in strips)

    if not starts:
        return 0.0, 0.0
    best = max(sorted(starts), key=lambda start: round(within(start), 6))
    return within(best), best


def _even_exchange(one: Strip, two: Strip, length: float) -> list[float]:
    """Starts of the length at which both strips are as heavy at its two ends."""
    rise_one = (one.last - one.first) / (one.end - one.start)
    rise_two = (two.last - two.first) / (two.end - two.start)
    if rise_one == rise_two:
        return []
    constant = two.first + rise_two * (length - two.start) - one.first + rise_one * one.start
    return [constant / (rise_one - rise_two)]


def concentration(plan: Plan, length: float) -> tuple[float, float]:
    """The largest mass of the items within a length of deck, and where on the tape it begins."""
    pressed = [piece for item in plan.items for piece in footprint(plan, item)]
    mass, start = most_within(pressed, length)
    return mass, start - plan.trailer.deck.start_m
