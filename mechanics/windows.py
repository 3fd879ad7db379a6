"""Where on the deck one item may stand while the others stay: safe and sure windows.

Every limit is linear in the item's tape position, so each cuts the tape at one exact
place and the window is an intersection of half-lines; neighbours take open pieces out
of it. Nothing is sampled.

For the sure window each mass, balance point and empty-trailer figure lies anywhere in
its tolerance. A limit is bilinear in an item's mass and balance point, so its worst
case stands at a corner of that item's own box, the corners of different items add up,
and in the moving item the worst case is the largest of four straight lines. Where axles
and deck were taped no closer than a tolerance, all of this holds with both shifted either
way, and what is left is drawn in by how exactly the item stops at its mark.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

from mechanics.codes import Family
from mechanics.item import TOUCH_M, Item
from mechanics.limits import ROUNDING, Form, Limit, Quantity, Sense, load_limits
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.trailer import Trailer


@dataclass(frozen=True, kw_only=True, slots=True)
class Interval:
    """A piece of the tape with the code of the limit that makes each end."""

    start_m: float
    end_m: float
    start_limit: str
    end_limit: str

    def __post_init__(self) -> None:
        if not self.start_m <= self.end_m:
            raise ValueError(f"an interval ends before it starts: {self.start_m}, {self.end_m}")


@dataclass(frozen=True, kw_only=True, slots=True)
class Window:
    """Where one item may stand.

    ``intervals`` in rising order, empty when no place is right; ``contradiction`` then
    holds the codes that set the lower and the upper end, the same code twice where one
    limit is passed wherever the item stands. ``sure`` lies inside ``intervals``.
    """

    item: str
    intervals: tuple[Interval, ...]
    sure: tuple[Interval, ...]
    aim_m: float | None
    contradiction: tuple[str, str] | None


@dataclass(frozen=True, kw_only=True, slots=True)
class Compromise:
    """The place that is best for the share and for what can hold, where no place is right.

    ``passed`` are the limits that are over wherever the item stands; ``holds`` whether all
    the others hold at ``at_m``, or their excess is only as small as can be. ``room`` is the
    free piece of deck it lies in.
    """

    at_m: float
    room: Interval
    passed: tuple[str, ...]
    holds: bool


class _End(NamedTuple):
    """An end of a half-line and what makes it; ``order`` breaks ties between limits."""

    at: float
    order: int
    code: str


class _Geometry:
    """The limits of a plan with its taped places shifted one way, every figure at its worst.

    ``rows`` are order, code and form of each; ``sums`` the forms at their worst, ``own`` what
    each item is of that.
    """

    def __init__(self, plan: Plan, start_m: float, rows: Sequence[tuple[int, str, Form]]) -> None:
        trailer = plan.trailer
        self.start_m = start_m
        self.rows = rows
        mass, tongue = trailer.empty_mass_kg, trailer.empty_tongue_mass_kg
        mass_off = trailer.empty_mass_tolerance_kg
        tongue_off = trailer.empty_tongue_mass_tolerance_kg
        self.sums = [
            f.const
            + f.me * mass
            + f.te * tongue
            + f.const_tolerance
            + abs(f.me) * mass_off
            + abs(f.te) * tongue_off
            for _, _, f in rows
        ]
        self.own: list[list[float]] = []
        for item in plan.items:
            x, y = start_m + item.balance_tape_m, item.balance_left_m
            reach = item.cg.ahead_tolerance_m
            heavy = item.mass_kg + item.mass_tolerance_kg
            light = item.mass_kg - item.mass_tolerance_kg
            unlucky = []
            for k, (_, _, form) in enumerate(rows):
                # the greatest of the four corners of (mass, balance point): the balance
                # point at its worse end, then the mass at its worse end
                lever = form.a + form.b * x + form.c * y + abs(form.b) * reach
                corner = heavy * lever if lever > 0 else light * lever
                if light < 0:
                    spread = 2 * abs(form.b) * reach
                    corner = max(corner, heavy * (lever - spread), light * (lever - spread))
                self.sums[k] += corner
                unlucky.append(corner)
            self.own.append(unlucky)


class WindowFinder:
    """Windows of a plan's items, sharing what does not depend on which item moves.

    ``limits`` are the plan's load limits; without a limit a check cannot be over, and
    makes no end.
    """

    def __init__(self, plan: Plan, limits: Sequence[Limit]) -> None:
        self._plan = plan
        self._limits = limits
        self._movable = [
            limit for limit in limits if limit.limit and any(form.b for form in limit.forms)
        ]
        self._forms = [
            (order, limit.code, form) for order, limit in enumerate(limits) for form in limit.forms
        ]
        self._front_order = len(limits)
        self._rear_order = len(limits) + 1
        self._item_order = len(limits) + 2
        trailer = plan.trailer
        mass, tongue = trailer.empty_mass_kg, trailer.empty_tongue_mass_kg
        forms = [form for _, _, form in self._forms]
        self._sum = [f.const + f.me * mass + f.te * tongue for f in forms]
        for item in plan.items:
            x, y = trailer.deck.start_m + item.balance_tape_m, item.balance_left_m
            for k, form in enumerate(forms):
                self._sum[k] += item.mass_kg * (form.a + form.b * x + form.c * y)
        moving = {k for k, form in enumerate(forms) if form.b}
        # what does not change with an item's place does not change with where axles and deck lie
        all_of_them = len(plan.truck.shapes) > 1
        self._geometries = []
        self.shifted = shifted_limits(plan, limits)
        """The plan's limits with its taped places at every end, for whoever asks the same."""
        for n, (start, found) in enumerate(self.shifted):
            shifted = [form for limit in found for form in limit.forms]
            rows = [
                (order, code, shifted[k])
                for k, (order, code, _) in enumerate(self._forms)
                if k in moving or n == 0 or all_of_them
            ]
            self._geometries.append(_Geometry(plan, start, rows))

    def window(self, index: int) -> Window:
        """The window of the item at that place in the plan's list."""
        item = self._plan.items[index]
        lowers, uppers = self._deck_ends(item)
        blocked = self._blocked(index)
        over = self._nominal_ends(index, lowers, uppers)
        if over is not None:
            return Window(
                item=item.id, intervals=(), sure=(), aim_m=None, contradiction=(over, over)
            )
        low, high = _tightest(lowers, uppers)
        intervals = _subtract(low, high, blocked)
        if not intervals:
            return Window(
                item=item.id,
                intervals=(),
                sure=(),
                aim_m=None,
                contradiction=_contradiction(low, high, blocked),
            )
        sure: tuple[Interval, ...] = ()
        sure_lowers, sure_uppers = self._deck_ends(item)
        if all(self._sure_ends(index, g, sure_lowers, sure_uppers) for g in self._geometries):
            sure = _drawn_in(
                _subtract(*_tightest(sure_lowers, sure_uppers), blocked),
                item.placement.reference_tolerance_m,
            )
        return Window(
            item=item.id,
            intervals=intervals,
            sure=sure,
            aim_m=_aim(self._plan, item, self._movable, sure or intervals),
            contradiction=None,
        )

    def compromise(self, index: int) -> Compromise | None:
        """Where to stand an item that has no right place; ``None`` where the deck and its
        neighbours leave it no room at all.

        The largest smallest reserve over the share and over the limits that can hold
        somewhere on its deck; those that cannot are named.
        """
        item = self._plan.items[index]
        lowers, uppers = self._deck_ends(item)
        room = _subtract(*_tightest(lowers, uppers), self._blocked(index))
        if not room:
            return None
        passed, able = [], []
        for limit in self._limits:
            if limit.limit is None or limit.read is None:
                if limit.forms and any(form.const > 0 for form in limit.forms):
                    passed.append(limit.code)
                continue
            best = max(
                _margin(limit, limit.read(compute_loads(_moved(self._plan, item, at))))
                for piece in room
                for cut in _pieces(self._plan, item, piece)
                for at in cut
            )
            holds = best >= -ROUNDING * limit.size
            if not holds:
                passed.append(limit.code)
            if limit in self._movable and (holds or limit.quantity is Quantity.SHARE):
                able.append(limit)
        at = _aim(self._plan, item, able, room)
        loads = compute_loads(_moved(self._plan, item, at))
        return Compromise(
            at_m=at,
            room=next(p for p in room if p.start_m - TOUCH_M <= at <= p.end_m + TOUCH_M),
            passed=tuple(passed),
            holds=all(
                limit.code in passed
                or limit.limit is None
                or limit.read is None
                or _margin(limit, limit.read(loads)) >= -ROUNDING * limit.size
                for limit in self._limits
            ),
        )

    def _deck_ends(self, item: Item) -> tuple[list[_End], list[_End]]:
        deck = self._plan.trailer.deck
        low = item.reach_forward_m - deck.front_overhang_m
        high = deck.length_m + deck.rear_overhang_m - item.reach_rearward_m
        return (
            [_End(low, self._front_order, Family.DECK_FRONT.of())],
            [_End(high, self._rear_order, Family.DECK_REAR.of())],
        )

    def _blocked(self, index: int) -> list[tuple[_End, _End]]:
        """Open pieces of the tape that the neighbours take, in rising order."""
        item = self._plan.items[index]
        found = []
        for other_index, other in enumerate(self._plan.items):
            if other_index == index or item.clear_sideways_of(other):
                continue
            code, order = Family.NEIGHBOUR.of(other.id), self._item_order + other_index
            before = _End(other.foremost_m - item.reach_rearward_m, order, code)
            behind = _End(other.rearmost_m + item.reach_forward_m, order, code)
            found.append((before, behind))
        return sorted(found, key=lambda piece: piece[0].at)

    def _nominal_ends(self, index: int, lowers: list[_End], uppers: list[_End]) -> str | None:
        """Add the end each limit makes; the code of one passed everywhere, if any is."""
        item = self._plan.items[index]
        mass, reference = item.mass_kg, item.placement.reference_m
        for k, (order, code, form) in enumerate(self._forms):
            total = self._sum[k]
            slope = mass * form.b
            if slope == 0 or math.isinf(total):
                if total > ROUNDING * form.scale:
                    return code
                continue
            end = _End(reference - total / slope, order, code)
            (uppers if slope > 0 else lowers).append(end)
        return None

    def _sure_ends(
        self, index: int, geometry: _Geometry, lowers: list[_End], uppers: list[_End]
    ) -> bool:
        """Add the ends that hold for every figure in its tolerance; False where none does."""
        item = self._plan.items[index]
        own = geometry.own[index]
        y = item.balance_left_m
        zero = geometry.start_m + item.direction * item.cg.ahead_m
        reach = item.cg.ahead_tolerance_m
        heavy = item.mass_kg + item.mass_tolerance_kg
        light = item.mass_kg - item.mass_tolerance_kg
        for k, (order, code, form) in enumerate(geometry.rows):
            others = geometry.sums[k] - own[k]
            if math.isinf(others):
                if others > 0:
                    return False
                continue
            lever = form.a + form.b * zero + form.c * y
            spread = abs(form.b) * reach
            low, high = -math.inf, math.inf
            for mass in (heavy, light):
                slope = mass * form.b
                # of a mass above nothing the balance point at its worse end is the worst
                for tilted in (lever + spread,) if mass > 0 else (lever + spread, lever - spread):
                    at_zero = others + mass * tilted
                    if slope > 0:
                        high = min(high, -at_zero / slope)
                    elif slope < 0:
                        low = max(low, -at_zero / slope)
                    elif at_zero > ROUNDING * form.scale:
                        return False
            if high < math.inf:
                uppers.append(_End(high, order, code))
            if low > -math.inf:
                lowers.append(_End(low, order, code))
        return True


def shifted_limits(plan: Plan, limits: Sequence[Limit]) -> list[tuple[float, Sequence[Limit]]]:
    """Where the deck starts and the limits of a plan, at each end of its taped tolerances.

    One entry, as taped, where all that is taped is exact; else one for each way in which axles
    and deck, the truck's wheelbase and ball, and the track of a load off the middle may lie.
    Weighed figures are kept. Every entry has the same limits with as many forms each.
    """
    trailer = plan.trailer
    axles, deck, start = (
        trailer.axles_tolerance_m,
        trailer.deck.start_tolerance_m,
        trailer.deck.start_m,
    )
    trucks, tracks = plan.truck.shapes, _tracks(plan)
    groups = [limits]
    if axles or len(trucks) > 1 or len(tracks) > 1:
        groups = []
        for truck in trucks:
            # of the loads a form takes nothing but what the truck's own axles carry
            loads = compute_loads(replace(plan, truck=truck))
            groups += [
                load_limits(replace(plan, truck=truck, trailer=track.with_axles_shifted(by)), loads)
                for track in tracks
                for by in ((-axles, axles) if axles else (0.0,))
            ]
    # the forms know the axles' places; where the deck lies only moves the items
    return [(at, group) for group in groups for at in {start - deck, start + deck}]


def _tracks(plan: Plan) -> tuple[Trailer, ...]:
    """The trailer as narrow and as wide as it may be, where something stands off its middle."""
    trailer = plan.trailer
    off = trailer.track_width_tolerance_m
    if not off or not any(item.balance_left_m for item in plan.items):
        return (trailer,)
    return tuple(
        replace(trailer, track_width_m=trailer.track_width_m + by, track_width_tolerance_m=0.0)
        for by in (-off, off)
    )


def _drawn_in(pieces: Sequence[Interval], by: float) -> tuple[Interval, ...]:
    """The pieces shorter by a length at both ends; those that it uses up are gone."""
    if not by:
        return tuple(pieces)
    found = []
    for piece in pieces:
        start, end = piece.start_m + by, piece.end_m - by
        if start <= end + TOUCH_M:
            found.append(replace(piece, start_m=start, end_m=max(start, end)))
    return tuple(found)


def _first_at(ends: Sequence[_End], at: float) -> _End:
    """Of the ends at one place, the one whose limit comes first; moved to that place."""
    touching = [e for e in ends if abs(e.at - at) <= TOUCH_M]
    first = min(touching, key=lambda e: e.order)
    return _End(at, first.order, first.code)


def _tightest(lowers: Sequence[_End], uppers: Sequence[_End]) -> tuple[_End, _End]:
    low = _first_at(lowers, max(e.at for e in lowers))
    high = _first_at(uppers, min(e.at for e in uppers))
    if high.at < low.at <= high.at + TOUCH_M:
        # one place is left, and rounding has put its two ends the wrong way round
        high = _End(low.at, high.order, high.code)
    return low, high


def _subtract(low: _End, high: _End, blocked: Sequence[tuple[_End, _End]]) -> tuple[Interval, ...]:
    """The tape from ``low`` to ``high`` without the open pieces that are blocked."""
    if low.at > high.at:
        return ()
    found = []
    start = low
    for before, behind in blocked:
        if behind.at <= start.at + TOUCH_M:
            if behind.at >= start.at - TOUCH_M and behind.order < start.order:
                start = _End(start.at, behind.order, behind.code)
            continue
        if before.at >= high.at - TOUCH_M:
            break
        if before.at >= start.at - TOUCH_M:
            found.append((start, _End(max(before.at, start.at), before.order, before.code)))
        start = behind
    if start.at <= high.at + TOUCH_M:
        found.append((start, _End(max(high.at, start.at), high.order, high.code)))
    return tuple(
        Interval(start_m=a.at, end_m=b.at, start_limit=a.code, end_limit=b.code) for a, b in found
    )


def _contradiction(low: _End, high: _End, blocked: Sequence[tuple[_End, _End]]) -> tuple[str, str]:
    """What sets the lower and the upper end where nothing lies between them."""
    if low.at > high.at or not blocked:
        return low.code, high.code
    # the neighbours take all of it: the side where least is wanting is named
    first = next(piece for piece in blocked if piece[1].at > low.at - TOUCH_M)
    last = max(blocked, key=lambda piece: piece[1].at)
    if last[1].at - high.at <= low.at - first[0].at:
        return last[1].code, high.code
    return low.code, first[0].code


def _margin(limit: Limit, value: float) -> float:
    """What is left of a limit, as :class:`mechanics.checks.Check` has it."""
    bound = limit.limit or 0.0
    return bound - value if limit.sense is Sense.AT_MOST else value - bound


def _aim(plan: Plan, item: Item, limits: Sequence[Limit], intervals: Sequence[Interval]) -> float:
    """The place with the largest smallest reserve, over the limits that change with it."""
    middle = (intervals[0].start_m + intervals[-1].end_m) / 2
    best_place, best_reserve = intervals[0].start_m, -math.inf
    for interval in intervals:
        for start, end in _pieces(plan, item, interval):
            fraction, reserve = _highest_low_point(*_reserves(plan, item, limits, start, end))
            place = start + fraction * (end - start)
            closer = abs(place - middle) < abs(best_place - middle)
            if reserve > best_reserve + ROUNDING or (reserve > best_reserve - ROUNDING and closer):
                best_place, best_reserve = place, reserve
    return best_place


def _pieces(plan: Plan, item: Item, interval: Interval) -> list[tuple[float, float]]:
    """The interval, cut where the tongue changes sign: spring bars act on one side only."""
    start, end = interval.start_m, interval.end_m
    if plan.hitch.weight_distribution is None or start == end:
        return [(start, end)]
    tongues = [compute_loads(_moved(plan, item, at)).trailer.tongue_kg for at in (start, end)]
    if min(tongues) >= 0 or max(tongues) <= 0:
        return [(start, end)]
    cut = start + (end - start) * tongues[0] / (tongues[0] - tongues[1])
    return [(start, cut), (cut, end)]


def _reserves(
    plan: Plan, item: Item, limits: Sequence[Limit], start: float, end: float
) -> tuple[list[float], list[float]]:
    """Reserve of each limit that changes with the place, at both ends of a straight piece."""
    at_start: list[float] = []
    at_end: list[float] = []
    here, there = (compute_loads(_moved(plan, item, at)) for at in (start, end))
    for limit in limits:
        if limit.read is None or not limit.limit:
            continue
        one, two = limit.read(here), limit.read(there)
        slack = ROUNDING * (1.0 if limit.quantity is Quantity.SHARE else abs(limit.limit))
        if end - start > TOUCH_M and abs(two - one) <= slack * (end - start):
            continue
        sign = 1.0 if limit.sense is Sense.AT_MOST else -1.0
        at_start.append(sign * (limit.limit - one) / abs(limit.limit))
        at_end.append(sign * (limit.limit - two) / abs(limit.limit))
    return at_start, at_end


def _highest_low_point(at_start: Sequence[float], at_end: Sequence[float]) -> tuple[float, float]:
    """Where on ``[0, 1]`` the least of straight lines is greatest, and how great it is.

    Walks from the crossing of the lines lowest at the two ends to the line that is lowest
    there, and so on; each step brings in a new line, so it ends, rounding being measured
    against how high the lines stand.
    """
    if not at_start:
        return 0.5, math.inf
    lines = [(s, e - s) for s, e in zip(at_start, at_end, strict=True)]
    rising = min(lines, key=lambda line: (line[0], line[1]))
    if rising[1] <= 0:
        return 0.0, rising[0]
    falling = min(lines, key=lambda line: (line[0] + line[1], -line[1]))
    if falling[1] >= 0:
        return 1.0, falling[0] + falling[1]
    while True:
        at = (falling[0] - rising[0]) / (rising[1] - falling[1])
        height = rising[0] + at * rising[1]
        lowest = min(lines, key=lambda line: line[0] + at * line[1])
        if lowest[0] + at * lowest[1] >= height - 1e-13 * (1 + abs(height) + abs(lowest[0])):
            return min(max(at, 0.0), 1.0), height
        if lowest[1] > 0:
            rising = lowest
        else:
            falling = lowest


def _moved(plan: Plan, item: Item, reference_m: float) -> Plan:
    return plan.with_placement(item.id, replace(item.placement, reference_m=reference_m))
