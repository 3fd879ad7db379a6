"""The best order, facing and place of every item of a plan, found by a general solver.

With every mass given, each load is a straight line in two sums: the items' moment about
the ball and their moment about the deck's middle line. Places, facings and the order along
and across the deck are then a linear program with yes-or-no choices, and the solver's
answer is proved best: no other arrangement leaves more of the limit that is left least.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

from mechanics.codes import Family
from mechanics.item import TOUCH_M, BalancePoint, Facing, Item, Placement
from mechanics.limits import ROUNDING, Form, Limit, Sense, load_limits
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.solver import Model, Outcome
from mechanics.windows import shifted_limits

MOST_RESERVE = 10.0
"""Reserves above this are all the same; it bounds the search where no limit is known."""

SLACK = 1e-6
"""How much of the best reserve is given up for an arrangement that is easier to make."""

NOTHING = 1e-6
"""Part of a limit that counts as not passing it."""

DECK_LENGTH = Family.DECK_LENGTH.of()
"""The deck's length among the limits that a search may relax."""

EASE_S = 0.25
"""Time for choosing among equals; a choice, of which nothing is claimed, so it may be cut off."""

TURNED, BESIDE, SWAPPED = 100.0, 30.0, 10.0
"""What turning an item round, standing two beside each other, and changing the listed order
weigh against a metre of length, where arrangements leave the same reserve."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Wishes:
    """What the person holds fast.

    ``locked`` items stay where they stand. In each pair of ``comes_off`` the first item is
    driven off before the second, so nothing of it may stand in front of the second in the
    same lane. ``room_m`` is left free between neighbours. ``turn`` and ``beside`` allow
    items to be turned round, and to stand beside each other where deck and widths are known.
    """

    locked: frozenset[str] = frozenset()
    comes_off: tuple[tuple[str, str], ...] = ()
    room_m: float = 0.0
    turn: bool = True
    beside: bool = True


@dataclass(frozen=True, kw_only=True, slots=True)
class Arrangement:
    """One way to load. ``least_reserve`` is the smallest margin as a part of its limit, over
    the limits that an arrangement can change. ``sure`` is whether every limit holds for all
    figures in their tolerances."""

    plan: Plan
    least_reserve: float
    sure: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Arranged:
    """What the search found, the best first.

    ``always_over`` are limits that no arrangement can keep. ``proved`` is False where time
    ran out, so that better arrangements, or any at all, may have been missed.
    """

    found: tuple[Arrangement, ...]
    always_over: tuple[str, ...]
    proved: bool


class Line(NamedTuple):
    """A limit as ``value = at_zero + per_moment P + per_roll R`` over the items' moments."""

    code: str
    limit: float
    sign: float
    at_zero: float
    per_moment: float
    per_roll: float

    @property
    def fixed(self) -> bool:
        """Whether no arrangement changes the value."""
        return self.per_moment == 0 and self.per_roll == 0


class _Seat(NamedTuple):
    """The columns of one item: its mark on the tape, how far left, whether it is turned."""

    reference: int
    left: int
    backward: int


def arrange(
    plan: Plan,
    wishes: Wishes | None = None,
    *,
    alternatives: int = 0,
    seconds: float = 5.0,
    despite: bool = False,
) -> Arranged:
    """The arrangement with the largest least reserve, and others that differ in order or facing.

    A place that is right for all figures in their tolerances comes before any that is right
    only as entered. Limits that the plan does not give bind nothing. ``seconds`` bounds
    each search of the solver. ``despite`` asks for the best of what can hold where some
    limits are passed however the items stand.

    Raises:
        KeyError: a wish names an item that the plan does not have.
        SolverError: the solver failed.
    """
    wishes = wishes or Wishes()
    for item_id in (*wishes.locked, *(i for pair in wishes.comes_off for i in pair)):
        plan.item(item_id)
    if not plan.items:
        return Arranged(found=(), always_over=(), proved=True)
    lines = lines_of(plan)
    always_over = passed_everywhere(plan, lines)
    if always_over and not despite:
        return Arranged(found=(), always_over=always_over, proved=True)
    lines = [line for line in lines if line.code not in always_over]
    proved = True
    # what is passed as entered is not sure of anything
    for sure in (False,) if always_over else (True, False):
        search = Search(plan, wishes, lines, sure=sure)
        if sure and not search.hold_surely():
            continue
        outcome, found = search.run(alternatives, seconds, sure=sure)
        proved = proved and outcome is not Outcome.UNPROVED
        if found:
            return Arranged(found=tuple(found), always_over=always_over, proved=proved)
    return Arranged(found=(), always_over=always_over, proved=proved)


def passed_everywhere(plan: Plan, lines: Sequence[Line]) -> tuple[str, ...]:
    """Codes of limits that no arrangement of these items can keep."""
    found = [
        line.code
        for line in lines
        if line.fixed and line.sign * (line.limit - line.at_zero) < -ROUNDING * abs(line.limit)
    ]
    # a ball that is not the coupler's size is wrong wherever the items stand
    limits = load_limits(plan, compute_loads(plan))
    found += [
        limit.code
        for limit in limits
        if limit.sense is Sense.EQUAL and any(form.const > 0 for form in limit.forms)
    ]
    return tuple(found)


def lines_of(plan: Plan) -> list[Line]:
    """Every load limit of a plan over the two moments of its items.

    Taken from the loads themselves at three places of a single item that weighs as much as
    all; the tongue pushes down at each of them, so spring bars act as they will.
    """
    lever = plan.trailer.couple_lever_m
    mass = sum(item.mass_kg for item in plan.items)

    def at(x: float, y: float) -> Plan:
        lump = Item(
            id="all",
            mass_kg=mass,
            cg=BalancePoint(ahead_m=0.0),
            front_m=1.0,
            rear_m=1.0,
            placement=Placement(reference_m=x - plan.trailer.deck.start_m, left_m=y),
        )
        return plan.carrying((lump,))

    zero, behind, aside = (compute_loads(at(*place)) for place in ((0, 0), (lever / 2, 0), (0, 1)))
    found = []
    for limit in load_limits(plan, compute_loads(plan)):
        if limit.read is None or limit.limit is None:
            continue
        value = limit.read(zero)
        scale = abs(value) + abs(limit.limit)
        per_moment = (limit.read(behind) - value) / (lever / 2)
        per_roll = limit.read(aside) - value
        found.append(
            Line(
                code=limit.code,
                limit=limit.limit,
                sign=1.0 if limit.sense is Sense.AT_MOST else -1.0,
                at_zero=value,
                per_moment=0.0 if abs(per_moment) <= 1e-12 * scale else per_moment / mass,
                per_roll=0.0 if abs(per_roll) <= 1e-12 * scale else per_roll / mass,
            )
        )
    return found


class Search:
    """The model of one plan: seats, neighbours, limits.

    ``relaxed`` are codes of limits that may be passed, ``DECK_LENGTH`` among them;
    :meth:`least_excess` says by how little. ``sure`` keeps items as far from the deck's ends
    and from each other as they may miss their marks by.
    """

    def __init__(
        self,
        plan: Plan,
        wishes: Wishes,
        lines: Sequence[Line],
        relaxed: frozenset[str] = frozenset(),
        *,
        sure: bool = False,
    ) -> None:
        self._plan, self._wishes, self._lines = plan, wishes, lines
        self._off = [i.placement.reference_tolerance_m if sure else 0.0 for i in plan.items]
        self._excess: dict[str, int] = {}
        self._model = Model()
        self._sides: list[tuple[int, float]] = []
        self._swaps: list[int] = []
        self._lanes: list[int] = []
        deck = plan.trailer.deck
        self._low = -deck.front_overhang_m
        self._high = deck.length_m + deck.rear_overhang_m
        self._stretch: dict[int, float] = {}
        if DECK_LENGTH in relaxed:
            longest = sum(item.front_m + item.rear_m + wishes.room_m for item in plan.items)
            self._excess[DECK_LENGTH] = self._model.column(0.0, longest / deck.length_m)
            self._stretch = {self._excess[DECK_LENGTH]: -deck.length_m}
            self._high += longest
        self._roam = [self._may_roam(index) for index in range(len(plan.items))]
        self._seats = [self._seat(index) for index in range(len(plan.items))]
        for first in range(len(plan.items)):
            for second in range(first + 1, len(plan.items)):
                self._apart(first, second)
        self._reserve = self._model.column(-MOST_RESERVE, MOST_RESERVE)
        self._limits(relaxed)
        if not self._stretch:
            self._order_tightens()
        self._mirror()

    def _may_roam(self, index: int) -> bool:
        """Whether an item may leave its line along the deck: one other fits beside it."""
        items, width = self._plan.items, self._plan.trailer.deck.width_m
        own = items[index].width_m
        if not self._wishes.beside or width is None or own is None:
            return False
        if items[index].id in self._wishes.locked:
            return False
        return any(
            other.width_m is not None and own + other.width_m <= width
            for k, other in enumerate(items)
            if k != index
        )

    def _seat(self, index: int) -> _Seat:
        item, model = self._plan.items[index], self._model
        place = item.placement
        locked = item.id in self._wishes.locked
        backward = model.choice()
        now = 1.0 if place.facing is Facing.BACKWARD else 0.0
        if locked or not self._wishes.turn:
            model.row({backward: 1.0}, least=now, most=now)
        if locked:
            reference = model.column(place.reference_m, place.reference_m)
        else:
            reach = max(item.front_m, item.rear_m)
            reference = model.column(self._low - reach, self._high + reach)
        # reach towards the truck and the tail, by facing; what is locked off the deck cannot be
        turn = item.rear_m - item.front_m
        off = self._off[index]
        model.row({reference: 1.0, backward: -turn}, least=self._low + item.front_m + off - TOUCH_M)
        tail = self._plan.trailer.deck.length_m + self._plan.trailer.deck.rear_overhang_m
        model.row(
            {reference: 1.0, backward: -turn, **self._stretch},
            most=tail - item.rear_m - off + TOUCH_M,
        )
        if self._roam[index]:
            half = ((self._plan.trailer.deck.width_m or 0.0) - (item.width_m or 0.0)) / 2
            left = model.column(-half, half)
        else:
            left = model.column(place.left_m, place.left_m)
        return _Seat(reference, left, backward)

    def _apart(self, first: int, second: int) -> None:
        """Two items clear of each other: one ahead of the other, or one beside the other."""
        items, model = self._plan.items, self._model
        one, two = items[first], items[second]
        # two that are both locked may stand closer than is wished, but not in each other
        both_locked = {one.id, two.id} <= self._wishes.locked
        missed = self._off[first] + self._off[second]
        room = max(missed, -TOUCH_M if both_locked else self._wishes.room_m)
        if both_locked and not missed:
            room = -TOUCH_M
        span = self._high - self._low + one.front_m + one.rear_m + two.front_m + two.rear_m + room
        choices: list[int] = []
        for ahead, behind in ((first, second), (second, first)):
            front, back = items[ahead], items[behind]
            if (front.id, back.id) in self._wishes.comes_off:
                continue
            chosen = model.choice()
            choices.append(chosen)
            if ahead == second:
                self._swaps.append(chosen)
            a, b = self._seats[ahead], self._seats[behind]
            model.row(
                {
                    b.reference: 1.0,
                    b.backward: -(back.rear_m - back.front_m),
                    a.reference: -1.0,
                    a.backward: -(front.front_m - front.rear_m),
                    chosen: -span,
                },
                least=back.front_m + front.rear_m + room - span,
            )
        if one.width_m is not None and two.width_m is not None:
            apart = (one.width_m + two.width_m) / 2
            reach = (self._plan.trailer.deck.width_m or 0.0) + apart
            still = not self._roam[first] and not self._roam[second]
            if still and one.clear_sideways_of(two):
                return
            if not still:
                reach += abs(one.placement.left_m) + abs(two.placement.left_m)
                for near, far in ((first, second), (second, first)):
                    chosen = model.choice()
                    choices.append(chosen)
                    self._lanes.append(chosen)
                    model.row(
                        {
                            self._seats[near].left: 1.0,
                            self._seats[far].left: -1.0,
                            chosen: -2 * reach,
                        },
                        least=apart - 2 * reach,
                    )
        model.row(dict.fromkeys(choices, 1.0), least=1.0)

    def _moments(self) -> tuple[dict[int, float], float, dict[int, float], float]:
        """The items' two moments over the columns, each with its constant."""
        start = self._plan.trailer.deck.start_m
        moment: dict[int, float] = {}
        roll: dict[int, float] = {}
        constant = roll_constant = 0.0
        for item, seat in zip(self._plan.items, self._seats, strict=True):
            mass = item.mass_kg
            moment[seat.reference] = mass
            moment[seat.backward] = 2 * mass * item.cg.ahead_m
            constant += mass * (start - item.cg.ahead_m)
            roll[seat.left] = mass
            roll[seat.backward] = -2 * mass * item.cg.left_m
            roll_constant += mass * item.cg.left_m
        return moment, constant, roll, roll_constant

    def _limits(self, relaxed: frozenset[str]) -> None:
        """Each limit holds, and those that an arrangement changes leave the common reserve."""
        moment, constant, roll, roll_constant = self._moments()
        for line in self._lines:
            scale = abs(line.limit) or max(abs(line.at_zero), 1e-6)
            terms: dict[int, float] = {}
            for column, value in moment.items():
                terms[column] = terms.get(column, 0.0) + value * line.per_moment
            for column, value in roll.items():
                terms[column] = terms.get(column, 0.0) + value * line.per_roll
            terms = {c: line.sign * v / scale for c, v in terms.items() if v}
            value = line.at_zero + line.per_moment * constant + line.per_roll * roll_constant
            room = line.sign * (line.limit - value) / scale
            if line.code in relaxed:
                self._excess[line.code] = self._model.column(0.0, math.inf)
                self._model.row({**terms, self._excess[line.code]: -1.0}, most=room)
                continue
            self._model.row(terms, most=room)
            if not line.fixed and line.limit:
                self._model.row({**terms, self._reserve: 1.0}, most=room)

    def hold_surely(self) -> bool:
        """Let every limit hold for all figures in their tolerances; False where none can."""
        limits = load_limits(self._plan, compute_loads(self._plan))
        for start_m, found in shifted_limits(self._plan, limits):
            for limit in found:
                for form in limit.forms:
                    if not self._hold_form(form, start_m):
                        return False
        return True

    def _hold_form(self, form: Form, start_m: float) -> bool:
        """Let one form of a limit hold at its worst; False where nothing can make it."""
        trailer = self._plan.trailer
        least = form.const + form.me * trailer.empty_mass_kg
        least += form.te * trailer.empty_tongue_mass_kg + form.const_tolerance
        least += abs(form.me) * trailer.empty_mass_tolerance_kg
        least += abs(form.te) * trailer.empty_tongue_mass_tolerance_kg
        if math.isinf(least):
            return least < 0
        scale = max(form.scale, 1e-6)
        total: dict[int, float] = {}
        for item, seat, off in zip(self._plan.items, self._seats, self._off, strict=True):
            lever = form.a + form.b * (start_m - item.cg.ahead_m)
            lever += form.c * item.cg.left_m + abs(form.b) * (item.cg.ahead_tolerance_m + off)
            terms = {
                seat.reference: form.b,
                seat.left: form.c,
                seat.backward: 2 * (form.b * item.cg.ahead_m - form.c * item.cg.left_m),
            }
            masses = {
                item.mass_kg + item.mass_tolerance_kg,
                max(item.mass_kg - item.mass_tolerance_kg, 0.0),
            }
            worst = self._model.column(-math.inf, math.inf)
            for mass in masses:
                rows = {c: -mass * v / scale for c, v in terms.items() if v}
                self._model.row({worst: 1.0, **rows}, least=mass * lever / scale)
            total[worst] = 1.0
        self._model.row(total, most=-least / scale)
        return True

    def _order_tightens(self) -> None:
        """Facts that follow from the rest and spare the solver most of its search.

        Items that cannot pass each other fill the tape once: in any order the lengths
        weighted by their middles come to at least what they do without a gap from the
        front edge, and at most the same from the tail (a polyhedral fact of scheduling on
        one machine; Queyranne 1993, from memory).
        """
        items, room = self._plan.items, self._wishes.room_m
        row = [
            index
            for index, item in enumerate(items)
            if not self._roam[index] and item.id not in self._wishes.locked
        ]
        if len(row) < 3 or any(
            items[a].clear_sideways_of(items[b]) for a in row for b in row if a < b
        ):
            return
        lengths = [items[index].front_m + items[index].rear_m + room for index in row]
        terms: dict[int, float] = {}
        shift = 0.0
        for index, length in zip(row, lengths, strict=True):
            item, seat = items[index], self._seats[index]
            # the middle of the piece, its room behind it counted in
            half = (item.rear_m - item.front_m) / 2
            terms[seat.reference] = length
            terms[seat.backward] = -2 * half * length
            shift += length * (half + room / 2)
        total = sum(lengths)
        self._model.row(
            terms,
            least=total * (self._low + total / 2) - shift,
            most=total * (self._high + room - total / 2) - shift,
        )

    def _mirror(self) -> None:
        """Of two arrangements that are each other's mirror image, only one is looked at."""
        items = self._plan.items
        roaming = [index for index, free in enumerate(self._roam) if free]
        alike = all(i.cg.left_m == 0 for i in items) and all(
            item.placement.left_m == 0 or self._roam[k] for k, item in enumerate(items)
        )
        if roaming and alike:
            widest = max(roaming, key=lambda k: items[k].mass_kg)
            self._model.row({self._seats[widest].left: 1.0}, least=0.0)

    def least_excess(self, seconds: float) -> dict[str, float] | None:
        """By what part of itself each relaxed limit has to be passed; ``None`` where even
        that does not help. Of several, their sum is the least."""
        objective = dict.fromkeys(self._excess.values(), 1.0)
        _, values = self._model.smallest(objective, seconds=seconds)
        if not values:
            return None
        return {code: values[c] for code, c in self._excess.items() if values[c] > NOTHING}

    def feasible(self, seconds: float) -> bool:
        """Whether an arrangement that holds every limit was found."""
        _, values = self._model.smallest({}, seconds=seconds)
        return bool(values)

    def run(
        self, alternatives: int, seconds: float, *, sure: bool
    ) -> tuple[Outcome, list[Arrangement]]:
        """The best arrangement and then others, each different in order or facing."""
        found: list[Arrangement] = []
        model = self._model
        first = Outcome.NONE
        for turn in range(alternatives + 1):
            outcome, values = model.smallest({self._reserve: -1.0}, seconds=seconds)
            if turn == 0:
                first = outcome
            if not values:
                break
            best = values[self._reserve]
            easier = model.copy()
            easier.row({self._reserve: 1.0}, least=best - SLACK)
            objective = self._ease(easier)
            _, kept = easier.smallest(objective, seconds=min(seconds, EASE_S), start=values)
            if kept:
                values = kept
            found.append(self._read(values, sure=sure))
            if turn == alternatives:
                break
            model = model.copy()
            self._unlike(model, values)
        return first, found

    def _ease(self, model: Model) -> dict[int, float]:
        """Of equals: few turned, none beside another, the listed order, all close together."""
        items = self._plan.items
        front = model.column(self._low, self._high)
        rear = model.column(self._low, self._high)
        objective = {front: -1.0, rear: 1.0}
        for item, seat in zip(items, self._seats, strict=True):
            if item.id in self._wishes.locked:
                continue
            turn = item.rear_m - item.front_m
            model.row({front: -1.0, seat.reference: 1.0, seat.backward: -turn}, least=item.front_m)
            model.row({rear: 1.0, seat.reference: -1.0, seat.backward: turn}, least=item.rear_m)
            turned = TURNED if item.placement.facing is Facing.FORWARD else -TURNED
            objective[seat.backward] = turned
            if item.placement.left_m == 0 and seat.left and self._roam[items.index(item)]:
                aside = model.column(0.0, math.inf)
                model.row({aside: 1.0, seat.left: -1.0}, least=0.0)
                model.row({aside: 1.0, seat.left: 1.0}, least=0.0)
                objective[aside] = 1.0
        objective |= dict.fromkeys(self._lanes, BESIDE)
        objective |= dict.fromkeys(self._swaps, SWAPPED)
        return objective

    def _unlike(self, model: Model, values: Sequence[float]) -> None:
        """Rule out what was found: one facing, order or lane has to be another."""
        chosen: dict[int, float] = {}
        ones = 0
        for seat in self._seats:
            on = values[seat.backward] > 0.5
            chosen[seat.backward] = -1.0 if on else 1.0
            ones += on
        for column in (*self._swaps, *self._lanes):
            on = values[column] > 0.5
            chosen[column] = -1.0 if on else 1.0
            ones += on
        model.row(chosen, least=1.0 - ones)

    def _read(self, values: Sequence[float], *, sure: bool) -> Arrangement:
        plan = self._plan
        for item, seat in zip(plan.items, self._seats, strict=True):
            if item.id in self._wishes.locked:
                continue
            backward = values[seat.backward] > 0.5
            plan = plan.with_placement(
                item.id,
                replace(
                    item.placement,
                    reference_m=values[seat.reference],
                    facing=Facing.BACKWARD if backward else Facing.FORWARD,
                    left_m=values[seat.left],
                ),
            )
        return Arrangement(plan=plan, least_reserve=changing_reserve(plan, self._lines), sure=sure)


def changing_reserve(plan: Plan, lines: Sequence[Line]) -> float:
    """The least margin, as a part of its limit, over the limits an arrangement can change."""
    codes = {line.code for line in lines if not line.fixed}
    loads = compute_loads(plan)
    return min(
        (
            _part_left(limit, limit.read(loads))
            for limit in load_limits(plan, loads)
            if limit.code in codes
            and limit.read is not None
            and limit.limit is not None
            and limit.limit
        ),
        default=MOST_RESERVE,
    )


def _part_left(limit: Limit, value: float) -> float:
    bound = limit.limit or 0.0
    margin = bound - value if limit.sense is Sense.AT_MOST else value - bound
    return margin / abs(bound)
