"""The fewest ties of the gear at hand that hold an item, proved by the general solver.

What an item is held by in a direction is ``s * sum(k c²)`` with ``s`` the least of its ties' own
``w / (k c)``. That is enough exactly if ``sum(k c²)`` is at least what is asked over ``w / (k c)``
of every tie that is chosen: a straight line in the choices for each of them.
"""

from __future__ import annotations

import time
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import Enum
from typing import Final

import numpy as np

from mechanics.checks import Status
from mechanics.gear import CHAIN_LB
from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.rules import NEAR_RATING
from mechanics.securing.findings import LEFT_OVER, SPARE, STEEP, Finding, corners_of, least_ties
from mechanics.securing.hold import (
    LIMITS,
    UP_LIMIT,
    WAYS,
    all_ropes,
    allowed,
    friction_of,
    pushed,
)
from mechanics.securing.rack import GearSet, RackPiece, dealt, sets_of
from mechanics.securing.report import secure
from mechanics.securing.rope import UP, Rope, rope_of
from mechanics.solver import Model, Outcome
from mechanics.ties import Securing, SecuringSchool, Tie, TieKind
from mechanics.units import KG_PER_LB

SHORTEST_M: Final = 0.3
"""A tie shorter than this leaves no room for a binder. An assumption, no source."""

MOST: Final = 12
"""Ties at one item that are tried at most."""

SECONDS: Final = 1.8
"""How long a search takes at most."""

LIKING: Final = 1.0
"""Of as many ties, one arrangement is as good as another within this much of their cost."""

BOUGHT: Final = "bought"
"""The key of pieces that the rack does not have."""

BOUGHT_COST: Final = 50.0
"""How much rather a piece of the rack is taken."""

BUYING_GRADE: Final = 70
"""The grade of chain that is offered to be bought: transport chain."""

EASE: Final = 1e-7
"""By how much a capacity is asked for beyond its limit, as a part of it: the solver may miss a
row by a little, the checks do not."""


class Standard(Enum):
    """How much of what is asked a suggestion holds.

    ``EVERYTHING``: every check of the item is ok; ``NOTHING_OVER``: some are near; ``PAIR``: the
    two ties that resist braking, as practice has it where there is no more; ``NONE``.
    """

    EVERYTHING = "everything"
    NOTHING_OVER = "nothing_over"
    PAIR = "pair"
    NONE = "none"


@dataclass(frozen=True, kw_only=True, slots=True)
class Suggestion:
    """Ties for one item, in the order to put them on, and the pieces of the rack each takes.

    ``proved`` says that no fewer would do; ``findings`` are those of the item tied so that are
    not ok.
    """

    standard: Standard
    ties: tuple[Tie, ...] = ()
    pieces: tuple[tuple[str, ...], ...] = ()
    proved: bool = True
    findings: tuple[Finding, ...] = ()


@dataclass(frozen=True, kw_only=True, slots=True)
class Crossing:
    """Whether ties go to the other side of the machine, to their own, or either."""

    crossed: bool = True
    straight: bool = True


def suggest(
    plan: Plan,
    item_id: str,
    rack: Sequence[RackPiece],
    *,
    crossing: Crossing = Crossing(),
    seconds: float = SECONDS,
) -> Suggestion:
    """How an item is best tied with a rack, whatever ties it has now; the others' ties stay.

    No anchor is given more than it holds, no tie runs under the machine past its middle, none is
    steeper than 60 degrees, as long as that can be had.

    Raises:
        KeyError: there is no such item.
    """
    item, end = plan.item(item_id), time.monotonic() + seconds
    sets = sets_of(rack)
    proved = True
    if not sets or not item.points or not plan.trailer.anchors:
        return Suggestion(standard=Standard.NONE)
    for standard in (Standard.EVERYTHING, Standard.NOTHING_OVER):
        search = _Search.of(plan, item, rack, sets, standard, crossing)
        found = search.fewest(end)
        if found is not None:
            return replace(found, proved=found.proved and proved)
        proved = proved and search.exhausted
    return replace(_pair(plan, item, rack, sets), proved=proved)


@dataclass(frozen=True, kw_only=True, slots=True)
class Purchase:
    """Chains with binders to buy, and how the item is then tied; ``size`` is in sixteenths of an
    inch, ``wll_kg`` what chain and binder each have to hold."""

    count: int
    size: int
    wll_kg: float
    suggestion: Suggestion


def to_buy(
    plan: Plan,
    item_id: str,
    rack: Sequence[RackPiece],
    *,
    crossing: Crossing = Crossing(),
    seconds: float = SECONDS,
) -> Purchase | None:
    """The lightest transport chain of which a few, beside the rack, hold everything; ``None``
    where none does: then it is points or anchors that are wanting.

    Raises:
        KeyError: there is no such item.
    """
    item, end = plan.item(item_id), time.monotonic() + seconds
    if not item.points or not plan.trailer.anchors:
        return None
    for size, pounds in CHAIN_LB[BUYING_GRADE].items():
        limit = pounds * KG_PER_LB
        bought = RackPiece(key=BOUGHT, kind=TieKind.CHAIN, wll_kg=limit, count=MOST)
        both = (*rack, bought)
        search = _Search.of(plan, item, both, sets_of(both), Standard.EVERYTHING, crossing)
        found = search.fewest(end)
        if found is not None:
            count = sum(BOUGHT in pieces for pieces in found.pieces)
            return Purchase(count=count, size=size, wll_kg=limit, suggestion=found)
    return None


@dataclass(frozen=True, kw_only=True, slots=True)
class Choice:
    """One tie that could be: a set of gear from a point to an anchor, and how it takes part."""

    rope: Rope
    gear: GearSet
    may_kg: float

    def gives_at(self, way: object) -> float:
        """How far the item moves that way until this tie has reached what it may pull; its share
        of that way is not zero."""
        return self.may_kg / (self.rope.stiffness * self.rope.shares[way])  # type: ignore[index]


def choices(
    plan: Plan, item: Item, sets: Sequence[GearSet], *, crossing: Crossing, strict: bool
) -> tuple[Choice, ...]:
    """Every tie that could be put on; ``strict`` leaves out what practice would rather not do."""
    return tuple(_choices(plan, item, sets, crossing, strict))


def _choices(
    plan: Plan, item: Item, sets: Sequence[GearSet], crossing: Crossing, strict: bool
) -> Iterator[Choice]:
    taken = _taken(plan, item)
    for point in item.points:
        for anchor in plan.trailer.anchors:
            bare = Tie(id="", item=item.id, point=point.id, anchor=anchor.id, kind=TieKind.CHAIN)
            apart = _apart(plan, item, bare)
            if apart is None or apart.length_m < SHORTEST_M or not _sided(apart, item, crossing):
                continue
            if strict and (abs(apart.legs[0].z) > STEEP or _runs_under(apart, item)):
                continue
            for gear in sets:
                if not gear.reaches(apart.length_m):
                    continue
                rope = rope_of(plan, item, replace(bare, kind=gear.kind, wll_kg=gear.wll_kg))
                limited = taken.get(anchor.id)
                may = gear.wll_kg if limited is None else min(gear.wll_kg, limited.wll_kg)
                if limited is None or may <= limited.free_kg * (1 + EASE):
                    yield Choice(rope=rope, gear=gear, may_kg=may)


def _apart(plan: Plan, item: Item, tie: Tie) -> Rope | None:
    """The tie as it would run; ``None`` where both ends are one place."""
    point = next(p for p in item.points if p.id == tie.point)
    anchor = next(a for a in plan.trailer.anchors if a.id == tie.anchor)
    place = item.placement
    same = (
        place.reference_m + item.direction * point.ahead_m == anchor.tape_m
        and place.left_m - item.direction * point.left_m == anchor.left_m
        and point.height_m == anchor.height_m
    )
    return None if same else rope_of(plan, item, tie)


@dataclass(frozen=True, kw_only=True, slots=True)
class _Taken:
    """What an anchor with a limit still holds beside the ties of the other items, and what those
    pull at it in each direction."""

    wll_kg: float
    free_kg: float
    pulled_kg: dict[str, float]


def _taken(plan: Plan, item: Item) -> dict[str, _Taken]:
    """Every anchor with a limit; nothing is free where a tie of unknown limit is hooked."""
    others = [rope for rope in all_ropes(plan) if rope.tie.item != item.id]
    may = allowed(others)
    pulled: dict[str, dict[str, float | None]] = {name: {} for name in WAYS}
    for other in plan.items:
        own = [rope for rope in others if rope.tie.item == other.id]
        for name in WAYS:
            pulled[name] |= pushed(plan, other, own, may, name)
    found = {}
    for anchor in plan.trailer.anchors:
        if anchor.wll_kg is None:
            continue
        at = [r.tie.id for r in others if any(a.id == anchor.id for a in r.anchors)]
        known = all(may[one] is not None for one in at)
        used = sum(may[one] or 0.0 for one in at)
        found[anchor.id] = _Taken(
            wll_kg=anchor.wll_kg,
            free_kg=max(0.0, anchor.wll_kg - used) if known else 0.0,
            pulled_kg={name: sum(by[one] or 0.0 for one in at) for name, by in pulled.items()},
        )
    return found


def _sided(rope: Rope, item: Item, crossing: Crossing) -> bool:
    """Whether it crosses to the other side, or does not, as is wanted."""
    middle = item.placement.left_m
    off, end = rope.point.y - middle, rope.anchors[0].left_m - middle
    if off * end == 0:
        return True
    return crossing.crossed if off * end < 0 else crossing.straight


def _runs_under(rope: Rope, item: Item) -> bool:
    """Whether it runs under the machine past the middle between its wheels."""
    middle = _middle_m(item)
    return (rope.point.x - middle) * (rope.anchors[0].tape_m - middle) < 0


def _inward(rope: Rope, item: Item) -> bool:
    """Whether it pulls its end of the machine towards the other end."""
    return (rope.point.x - _middle_m(item)) * rope.legs[0].x < 0


def _middle_m(item: Item) -> float:
    """Where the middle between a machine's wheels is on the tape, or of all of it."""
    ends = [c.ahead_m + s * c.length_m / 2 for c in item.contacts for s in (-1, 1)]
    ahead = (max(ends) + min(ends)) / 2 if ends else (item.front_m - item.rear_m) / 2
    return item.placement.reference_m + item.direction * ahead


@dataclass(frozen=True, kw_only=True)
class _Asked:
    """A direction: what the ties have to hold with friction taken off, whole and with one gone."""

    name: str
    whole_kg: float
    pushed_kg: float
    without_kg: float | None


class _Search:
    """One standard: the model, and the rows for the loss of a tie that are added as needed."""

    def __init__(
        self, plan: Plan, item: Item, rack: Sequence[RackPiece], options: Sequence[Choice]
    ) -> None:
        self.plan, self.item, self.rack, self.options = plan, item, rack, options
        self.exhausted = True
        self.standard = Standard.EVERYTHING
        self._model = Model()
        self._chosen = [self._model.choice() for _ in options]
        self._lost: set[tuple[str, str, str]] = set()
        self._asked: dict[str, _Asked] = {}
        self._sums: dict[str, tuple[int, int]] = {}
        self._per: dict[str, float] = {}

    @classmethod
    def of(
        cls,
        plan: Plan,
        item: Item,
        rack: Sequence[RackPiece],
        sets: Sequence[GearSet],
        standard: Standard,
        crossing: Crossing,
    ) -> _Search:
        """The search with every row but those for lost ties."""
        everything = standard is Standard.EVERYTHING
        found = cls(
            plan, item, rack, choices(plan, item, sets, crossing=crossing, strict=everything)
        )
        found.standard = standard
        found._rows(everything)
        return found

    @property
    def _securing(self) -> Securing:
        """The plan's own rule; of a plan that says nothing, the US one."""
        return self.plan.securing or Securing(school=SecuringSchool.US_393)

    def _rows(self, everything: bool) -> None:
        plan, item, model = self.plan, self.item, self._model
        securing = self._securing
        school, mass = securing.school, item.mass_kg + item.mass_tolerance_kg
        spare = (SPARE if everything else 1.0) * (1 + EASE)
        rubs = friction_of(plan) * mass
        for name in WAYS:
            limit = LIMITS[school][name] * mass
            self._asked[name] = _Asked(
                name=name,
                whole_kg=spare * limit - rubs,
                pushed_kg=max(0.0, limit - rubs),
                without_kg=LEFT_OVER * limit * (1 + EASE) - rubs if everything else None,
            )
        for name, asked in self._asked.items():
            if asked.whole_kg > 0:
                self._hold(name, asked.whole_kg)
                self._some_left(name, asked)
        if school is not SecuringSchool.EN_12195:
            self._up(spare * UP_LIMIT * mass)
            model.row(
                {
                    place: one.may_kg / 2
                    for place, one in zip(self._chosen, self.options, strict=True)
                },
                least=spare * mass / 2,
            )
        self._corners(everything)
        self._once()
        self._gear()
        self._anchors()
        self._points()

    def _pulling(self, name: str) -> list[tuple[int, Choice]]:
        way = UP if name == "up" else WAYS[name]
        pairs = zip(self._chosen, self.options, strict=True)
        return [(place, one) for place, one in pairs if one.rope.shares[way] > 0]

    def _hold(self, name: str, asked_kg: float) -> None:
        """What is asked in one direction: what the ties do together, and that none gives before."""
        way, model = UP if name == "up" else WAYS[name], self._model
        pulling = self._pulling(name)
        stiff, most = model.column(0.0, np.inf), model.column(0.0, np.inf)
        self._sums[name] = stiff, most
        # in parts of what is asked, each tie by itself moved until it gives: rows of one size
        usual = sorted(one.gives_at(way) for _, one in pulling)
        per = usual[len(usual) // 2] / asked_kg if usual else 1.0
        self._per[name] = per
        holds = {p: per * one.rope.stiffness * one.rope.shares[way] ** 2 for p, one in pulling}
        model.row(holds | {stiff: -1.0}, least=0.0, most=0.0)
        ideal = {p: one.may_kg * one.rope.shares[way] / asked_kg for p, one in pulling}
        model.row(ideal | {most: -1.0}, least=0.0, most=0.0)
        # whatever gives first, no tie does more than its own: follows, and is much faster said
        model.row({most: 1.0}, least=1.0)
        for group in self._by_ends(pulling).values():
            wants = {p: -asked_kg * per / one.gives_at(way) for p, one in group}
            model.row(wants | {stiff: 1.0}, least=0.0)

    def _by_ends(
        self, pulling: Sequence[tuple[int, Choice]]
    ) -> dict[tuple[str, str], list[tuple[int, Choice]]]:
        found: dict[tuple[str, str], list[tuple[int, Choice]]] = {}
        for place, one in pulling:
            found.setdefault(_ends(one), []).append((place, one))
        return found

    def _hold_without(self, name: str, asked: _Asked, lost: tuple[str, str]) -> None:
        """What is asked in one direction if a tie between these ends is chosen, and lost."""
        way, model = WAYS[name], self._model
        if asked.without_kg is None or asked.without_kg <= 0:
            return
        pulling = self._by_ends(self._pulling(name))
        stiff, _ = self._sums[name]
        per, gone = (
            self._per[name],
            self._by_ends(list(zip(self._chosen, self.options, strict=True))),
        )
        less = {
            p: -per * one.rope.stiffness * one.rope.shares[way] ** 2
            for p, one in pulling.get(lost, [])
        }
        for ends, group in pulling.items():
            if ends == lost:
                continue
            first = max(asked.without_kg * per / one.gives_at(way) for _, one in group)
            terms = dict(less)
            for p, _ in gone[lost]:
                terms[p] = terms.get(p, 0.0) - first
            terms |= {p: -asked.without_kg * per / one.gives_at(way) for p, one in group}
            model.row(terms | {stiff: 1.0}, least=-first)

    def _some_left(self, name: str, asked: _Asked) -> None:
        """With any one tie gone the others can hold what is asked then, each doing its most."""
        way, (_, most) = WAYS[name], self._sums[name]
        if asked.without_kg is None or asked.without_kg <= 0:
            return
        part = asked.without_kg / asked.whole_kg
        for group in self._by_ends(self._pulling(name)).values():
            own = {p: -one.may_kg * one.rope.shares[way] / asked.whole_kg for p, one in group}
            self._model.row(own | {most: 1.0}, least=part)

    def _up(self, asked_kg: float) -> None:
        self._hold("up", asked_kg)

    def _corners(self, everything: bool) -> None:
        model = self._model
        by_corner: dict[tuple[str, str], list[int]] = {}
        for place, one in zip(self._chosen, self.options, strict=True):
            for corner in corners_of(one.rope, self.item):
                by_corner.setdefault(corner, []).append(place)
        for way in ("forward", "rearward") if everything else ("rearward",):
            for side in ("left", "right"):
                model.row(dict.fromkeys(by_corner.get((way, side), []), 1.0), least=1.0)

    def _once(self) -> None:
        """One tie at most between the same two places."""
        between: dict[tuple[str, str], list[int]] = {}
        for place, one in zip(self._chosen, self.options, strict=True):
            between.setdefault(_ends(one), []).append(place)
        for places in between.values():
            self._model.row(dict.fromkeys(places, 1.0), most=1.0)

    def _gear(self) -> None:
        """No piece more often than the rack has it; a set that takes several kinds of binder has
        its ties dealt out among them."""
        model = self._model
        pairs = list(zip(self._chosen, self.options, strict=True))
        dealt: dict[str, dict[int, float]] = {}
        for gear in {one.gear: None for one in self.options}:
            ties = {place: 1.0 for place, one in pairs if one.gear == gear}
            if len(gear.binders) == 1:
                dealt.setdefault(gear.binders[0], {}).update(ties)
            elif gear.binders:
                shares = {key: model.column(0.0, float(MOST)) for key in gear.binders}
                model.row(ties | dict.fromkeys(shares.values(), -1.0), least=0.0, most=0.0)
                for key, column in shares.items():
                    dealt.setdefault(key, {})[column] = 1.0
        for piece in self.rack:
            taken = dealt.get(piece.key, {}) | {
                place: 1.0 for place, one in pairs if one.gear.runs == piece.key
            }
            if taken:
                model.row(taken, most=float(piece.count))

    def _anchors(self) -> None:
        """No anchor given more than it holds, whether all of it is used or as the rule pushes."""
        for anchor, taken in _taken(self.plan, self.item).items():
            at = {
                place: one.may_kg
                for place, one in zip(self._chosen, self.options, strict=True)
                if one.rope.anchors[0].id == anchor
            }
            if not at:
                continue
            self._model.row(
                {p: kg / taken.wll_kg for p, kg in at.items()},
                most=taken.free_kg / taken.wll_kg * (1 + EASE),
            )
            self._shared_load(
                at,
                {n: NEAR_RATING * taken.wll_kg - kg for n, kg in taken.pulled_kg.items()},
            )

    def _points(self) -> None:
        for point in self.item.points:
            if point.strength_kg is None:
                continue
            at = {
                place: 1.0
                for place, one in zip(self._chosen, self.options, strict=True)
                if one.rope.machine_point.id == point.id
            }
            self._shared_load(at, dict.fromkeys(WAYS, NEAR_RATING * point.strength_kg))

    def _shared_load(self, at: dict[int, float], most_kg: dict[str, float]) -> None:
        """Ties at one place together, when the item is pushed as far as the rule says."""
        for name, asked in self._asked.items():
            if asked.pushed_kg <= 0:
                continue
            way, terms = WAYS[name], {}
            size = max(one.rope.stiffness for one in self.options) * asked.pushed_kg
            for place, one in self._pulling(name):
                k, c = one.rope.stiffness, one.rope.shares[way]
                value = -most_kg[name] * k * c * c
                if place in at:
                    value += asked.pushed_kg * k * c
                terms[place] = value / size
            if any(place in at for place in terms):
                self._model.row(terms, most=0.0)

    def fewest(self, end: float) -> Suggestion | None:
        """The fewest ties that do; ``None`` where there are none, or time ran out."""
        item, securing = self.item, self._securing
        mass = item.mass_kg + item.mass_tolerance_kg
        least = least_ties(item, mass, securing.school, bulkhead=securing.bulkhead)
        least = max(least, 4 if self.standard is Standard.EVERYTHING else 2)
        if not self.options:
            return None
        even = next(
            (
                found
                for count in range(least + least % 2, self._most() + 1, 2)
                if (found := self._exactly(count, end, even=True)) is not None
            ),
            None,
        )
        fewer = self._most() + 1 if even is None else len(even.ties)
        for count in range(least, fewer):
            found = self._exactly(count, end, even=False)
            if found is not None:
                return replace(found, proved=self.exhausted)
        return None if even is None else replace(even, proved=self.exhausted)

    def _most(self) -> int:
        """How many ties could be put on at all."""
        runs = sum(piece.count for piece in self.rack if piece.kind is not None)
        return min(MOST, runs, len({_ends(one) for one in self.options}))

    def _exactly(self, count: int, end: float, *, even: bool) -> Suggestion | None:
        """So many ties, ``even`` the same on both sides; ``None`` where that cannot be, or time
        runs out, which is not ``exhausted``."""
        while True:
            model = self._model.copy()
            model.row(dict.fromkeys(self._chosen, 1.0), least=count, most=count)
            if even:
                self._even(model)
            left = end - time.monotonic()
            solution: list[float] = []
            outcome = Outcome.UNPROVED
            if left > 0:
                outcome, solution = model.smallest(self._cost(), seconds=left, within=LIKING)
            if not solution:
                self.exhausted = self.exhausted and (even or outcome is Outcome.NONE)
                return None
            picked = [
                one
                for place, one in zip(self._chosen, self.options, strict=True)
                if solution[place] > 0.5
            ]
            ordered = in_order(picked, self.item)
            found = _result(self.plan, self.item, self.rack, ordered, self.standard)
            if not self._add_losses(found):
                return found

    def _even(self, model: Model) -> None:
        """The same ties on both sides of the machine."""
        by_name = {
            (*_ends(one), one.gear): place
            for place, one in zip(self._chosen, self.options, strict=True)
        }
        points = _mirrored({p.id: (p.ahead_m, p.left_m, p.height_m) for p in self.item.points})
        off = self.item.placement.left_m
        anchors = _mirrored(
            {a.id: (a.tape_m, a.left_m - off, a.height_m) for a in self.plan.trailer.anchors}
        )
        for (point, anchor, gear), place in by_name.items():
            other = by_name.get((points.get(point, ""), anchors.get(anchor, ""), gear))
            if other is None or other == place:
                model.row({place: 1.0}, most=0.0)
            elif place < other:
                model.row({place: 1.0, other: -1.0}, least=0.0, most=0.0)

    def _cost(self) -> dict[int, float]:
        """Of as many ties: from the corners outward, chain before webbing, light gear, short
        runs."""
        heaviest = max(one.gear.runs_kg for one in self.options)
        cost = {}
        for place, one in zip(self._chosen, self.options, strict=True):
            soft = 0.0 if one.gear.kind is TieKind.CHAIN else 10.0
            inward = 4.0 if _inward(one.rope, self.item) else 0.0
            run = 0.05 * one.rope.length_m + 0.05 * abs(one.rope.legs[0].z)
            light = (one.gear.runs_kg - 0.3 * one.gear.wll_kg) / heaviest
            bought = BOUGHT_COST if one.gear.runs == BOUGHT else 0.0
            cost[place] = soft + inward + light + run + bought
        return cost

    def _add_losses(self, found: Suggestion) -> bool:
        """Rows for the losses that this solution would not stand; whether there were any."""
        added = False
        for finding in found.findings:
            if self.standard is not Standard.EVERYTHING or not finding.code.startswith(
                "securing.without_"
            ):
                continue
            lost = next(t for t in found.ties if f"securing.without_{t.id}" == finding.code)
            for name, asked in self._asked.items():
                key = (lost.point, lost.anchor, name)
                if asked.without_kg is None or asked.without_kg <= 0 or key in self._lost:
                    continue
                self._lost.add(key)
                added = True
                ends = (lost.point, lost.anchor)
                self._hold_without(name, asked, ends)
        return added


def _mirrored(places: dict[str, tuple[float, float, float]]) -> dict[str, str]:
    """Which place lies opposite of which, to the millimetre; one on the middle of itself."""
    by_place = {(round(x, 3), round(y, 3), round(z, 3)): one for one, (x, y, z) in places.items()}
    found = {}
    for one, (x, y, z) in places.items():
        other = by_place.get((round(x, 3), round(-y, 3) + 0.0, round(z, 3)))
        if other is not None:
            found[one] = other
    return found


def _ends(one: Choice) -> tuple[str, str]:
    return one.rope.machine_point.id, one.rope.anchors[0].id


def in_order(picked: Sequence[Choice], item: Item) -> tuple[Choice, ...]:
    """The order to put them on: the front corners, the rear corners, then the others; of a pair
    the left one first."""

    def place(one: Choice) -> tuple[bool, float, float]:
        rope = one.rope
        return rope.legs[0].x > 0, round(abs(rope.legs[0].x), 3) * -1, -rope.point.y

    return tuple(sorted(picked, key=place))


def _result(
    plan: Plan,
    item: Item,
    rack: Sequence[RackPiece],
    picked: Sequence[Choice],
    standard: Standard,
) -> Suggestion:
    """The suggestion, judged as any plan is."""
    before = plan.securing or Securing(school=SecuringSchool.US_393)
    others = tuple(tie for tie in before.ties if tie.item != item.id)
    taken = {tie.id for tie in others}
    names = (f"t{n}" for n in range(1, len(taken) + len(picked) + 1) if f"t{n}" not in taken)
    ties = tuple(replace(one.rope.tie, id=name) for one, name in zip(picked, names, strict=False))
    tied = replace(plan, securing=replace(before, ties=(*others, *ties)))
    report = next(i for i in secure(tied, before.school).items if i.item == item.id)
    return Suggestion(
        standard=standard,
        ties=ties,
        pieces=dealt([one.gear for one in picked], rack),
        findings=tuple(f for f in report.findings if f.status is not Status.OK),
    )


def _pair(plan: Plan, item: Item, rack: Sequence[RackPiece], sets: Sequence[GearSet]) -> Suggestion:
    """Two ties to either side that pull rearward and so resist braking: those that hold most."""
    either = Crossing()
    options = choices(plan, item, sets, crossing=either, strict=True) or choices(
        plan, item, sets, crossing=either, strict=False
    )
    rearward = [one for one in options if one.rope.legs[0].x > 0]
    middle = item.placement.left_m
    left = [one for one in rearward if one.rope.anchors[0].left_m > middle]
    right = [one for one in rearward if one.rope.anchors[0].left_m < middle]
    free = {piece.key: piece.count for piece in rack}
    best: tuple[tuple[float, float, float], tuple[Choice, Choice]] | None = None
    for one in left:
        for two in right:
            if not _both_there(one.gear, two.gear, free):
                continue
            worth = _worth(one, two)
            if best is None or worth > best[0]:
                best = worth, (one, two)
    if best is None:
        return Suggestion(standard=Standard.NONE)
    return _result(plan, item, rack, best[1], Standard.PAIR)


def _both_there(one: GearSet, two: GearSet, free: dict[str, int]) -> bool:
    """Whether the rack has the pieces of both sets."""
    if one.runs == two.runs and free[one.runs] < 2:
        return False
    if not one.binders or not two.binders:
        return True
    return any(key != other or free[key] > 1 for key in one.binders for other in two.binders)


def _worth(one: Choice, two: Choice) -> tuple[float, float, float]:
    """What a pair holds under braking; of equals the even one, then the lighter one."""
    way = WAYS["forward"]
    moved = min(one.gives_at(way), two.gives_at(way))
    both = sum(c.rope.stiffness * moved * c.rope.shares[way] ** 2 for c in (one, two))
    uneven = abs(one.rope.length_m - two.rope.length_m)
    return round(both, 6), -round(uneven, 6), -(one.gear.wll_kg + two.gear.wll_kg)
