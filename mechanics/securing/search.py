"""The fewest ties that hold an item, as a model for the general solver.

What an item is held by in a direction is ``s * sum(k c²)`` with ``s`` the least of its ties' own
``w / (k c)``. That is enough exactly if ``sum(k c²)`` is at least what is asked over ``w / (k c)``
of every tie that is chosen: a straight line in the choices for each of them.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.rules import NEAR_RATING
from mechanics.securing.choices import (
    EASE,
    Choice,
    Crossing,
    choices,
    ends_of,
    in_order,
    inward,
    taken_of,
)
from mechanics.securing.findings import LEFT_OVER, SPARE, corners_of, least_ties
from mechanics.securing.hold import LIMITS, UP_LIMIT, WAYS, friction_of, securing_of
from mechanics.securing.rack import BOUGHT, GearSet, RackPiece
from mechanics.securing.rope import UP
from mechanics.securing.suggested import Standard, Suggestion, suggested
from mechanics.solver import Allowance, Model, Outcome
from mechanics.ties import SecuringSchool, TieKind

MOST: Final = 12
"""Ties at one item that are tried at most."""

CORNERS: Final = 4
"""A tie for each corner of a machine, whatever the rule asks. Common practice, no source."""

MOST_AT_POINT: Final = 2
"""Ties at one point at most: with all of them on one nothing is left when it tears out. Common
practice, no source."""

BOUGHT_COST: Final = 50.0
"""How much rather a piece of the rack is taken than one that has to be bought."""

PROVING: Final = 1.5
"""Seconds of a search after which nobody waits for the proof that fewer would not do."""

LIKING: Final = 1.0
"""Of as many ties, one arrangement is as good as another within this much of their cost."""


@dataclass(frozen=True, kw_only=True)
class _Asked:
    """A direction: what the ties have to hold with friction taken off, whole and with one gone."""

    name: str
    whole_kg: float
    pushed_kg: float
    without_kg: float | None


class Search:
    """One standard: the model, and the rows for the loss of a tie that are added as needed."""

    def __init__(
        self, plan: Plan, item: Item, rack: Sequence[RackPiece], options: Sequence[Choice]
    ) -> None:
        self.plan, self.item, self.rack, self.options = plan, item, rack, options
        self.exhausted = True
        self.standard = Standard.EVERYTHING
        self._model = Model()
        self._all = [(self._model.choice(), one) for one in options]
        self._lost: set[tuple[tuple[str, str], str]] = set()
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
    ) -> Search:
        """The search with every row but those for lost ties."""
        everything = standard is Standard.EVERYTHING
        found = cls(
            plan, item, rack, choices(plan, item, sets, crossing=crossing, strict=everything)
        )
        found.standard = standard
        found._rows(everything)
        return found

    def _rows(self, everything: bool) -> None:
        plan, item, model = self.plan, self.item, self._model
        securing = securing_of(self.plan)
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
            self._hold("up", spare * UP_LIMIT * mass)
            model.row(
                {place: one.may_kg / 2 for place, one in self._all},
                least=spare * mass / 2,
            )
        self._corners(everything)
        self._once()
        self._gear()
        self._anchors()
        self._points()

    def _pulling(self, name: str) -> list[tuple[int, Choice]]:
        way = UP if name == "up" else WAYS[name]
        return [(place, one) for place, one in self._all if one.rope.shares[way] > 0]

    def _hold(self, name: str, asked_kg: float) -> None:
        """What is asked in one direction: what the ties do together, and that none gives before."""
        way, model = UP if name == "up" else WAYS[name], self._model
        pulling = self._pulling(name)
        stiff, most = model.column(0.0, math.inf), model.column(0.0, math.inf)
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
            found.setdefault(ends_of(one), []).append((place, one))
        return found

    def _hold_without(self, name: str, asked_kg: float, lost: tuple[str, str]) -> None:
        """What is asked in one direction if a tie between these ends is chosen, and lost."""
        way, model = WAYS[name], self._model
        pulling = self._by_ends(self._pulling(name))
        stiff, _ = self._sums[name]
        per, gone = (
            self._per[name],
            self._by_ends(self._all),
        )
        less = {
            p: -per * one.rope.stiffness * one.rope.shares[way] ** 2
            for p, one in pulling.get(lost, [])
        }
        for ends, group in pulling.items():
            if ends == lost:
                continue
            first = max(asked_kg * per / one.gives_at(way) for _, one in group)
            terms = dict(less)
            for p, _ in gone[lost]:
                terms[p] = terms.get(p, 0.0) - first
            terms |= {p: -asked_kg * per / one.gives_at(way) for p, one in group}
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

    def _corners(self, everything: bool) -> None:
        model = self._model
        by_corner: dict[tuple[str, str], list[int]] = {}
        for place, one in self._all:
            for corner in corners_of(one.rope, self.item):
                by_corner.setdefault(corner, []).append(place)
        for way in ("forward", "rearward") if everything else ("rearward",):
            for side in ("left", "right"):
                model.row(dict.fromkeys(by_corner.get((way, side), []), 1.0), least=1.0)

    def _once(self) -> None:
        """One tie at most between the same two places."""
        for group in self._by_ends(self._all).values():
            self._model.row({place: 1.0 for place, _ in group}, most=1.0)

    def _gear(self) -> None:
        """No piece more often than the rack has it; a set that takes several kinds of binder has
        its ties dealt out among them."""
        model = self._model
        dealt: dict[str, dict[int, float]] = {}
        for gear in {one.gear: None for one in self.options}:
            ties = {place: 1.0 for place, one in self._all if one.gear == gear}
            if len(gear.binders) == 1:
                dealt.setdefault(gear.binders[0], {}).update(ties)
            elif gear.binders:
                shares = {key: model.column(0.0, float(MOST)) for key in gear.binders}
                model.row(ties | dict.fromkeys(shares.values(), -1.0), least=0.0, most=0.0)
                for key, column in shares.items():
                    dealt.setdefault(key, {})[column] = 1.0
        for piece in self.rack:
            taken = dealt.get(piece.key, {}) | {
                place: 1.0 for place, one in self._all if one.gear.runs == piece.key
            }
            if taken:
                model.row(taken, most=float(piece.count))

    def _anchors(self) -> None:
        """No anchor given more than it holds, whether all of it is used or as the rule pushes."""
        for anchor, taken in taken_of(self.plan, self.item).items():
            at = {place: one.may_kg for place, one in self._all if one.rope.anchors[0].id == anchor}
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
        """No point given more than it holds, nor too many ties."""
        for point in self.item.points:
            at = {place: 1.0 for place, one in self._all if one.rope.machine_point.id == point.id}
            if at:
                self._model.row(at, most=float(MOST_AT_POINT))
            if point.strength_kg is None:
                continue
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

    @property
    def least(self) -> int:
        """So many ties at least: as the rule asks, and one for each corner."""
        item, securing = self.item, securing_of(self.plan)
        mass = item.mass_kg + item.mass_tolerance_kg
        asked = least_ties(item, mass, securing.school, bulkhead=securing.bulkhead)
        return max(asked, CORNERS)

    def fewest(self, allowance: Allowance) -> Suggestion | None:
        """The fewest ties that do; ``None`` where there are none, or time ran out."""
        least = self.least
        if not self.options:
            return None
        even = next(
            (
                found
                for count in range(least + least % 2, self._most() + 1, 2)
                if (found := self.exactly(count, allowance, even=True)) is not None
            ),
            None,
        )
        fewer = self._most() + 1 if even is None else len(even.ties)
        # whether fewer would do, or uneven ones where no even ones do
        rest = allowance if even is None else allowance.first(PROVING)
        for count in range(least, fewer):
            found = self.exactly(count, rest, even=False)
            if found is not None:
                return replace(found, proved=self.exhausted)
        return None if even is None else replace(even, proved=self.exhausted)

    def _most(self) -> int:
        """How many ties could be put on at all."""
        runs = sum(piece.count for piece in self.rack if piece.kind is not None)
        return min(MOST, runs, len({ends_of(one) for one in self.options}))

    def exactly(self, count: int, allowance: Allowance, *, even: bool) -> Suggestion | None:
        """So many ties, ``even`` the same on both sides; ``None`` where that cannot be, or time
        runs out, which is not ``exhausted``."""
        while True:
            model = self._model.copy()
            model.row({place: 1.0 for place, _ in self._all}, least=count, most=count)
            if even:
                self._even(model)
            outcome, solution = model.best(self._cost(), allowance, within=LIKING)
            if not solution:
                self.exhausted = self.exhausted and (even or outcome is Outcome.NONE)
                return None
            picked = [one for place, one in self._all if solution[place] > 0.5]
            ordered = in_order(picked, self.item)
            found = suggested(self.plan, self.item, self.rack, ordered, self.standard)
            if not self._add_losses(found):
                return found

    def _even(self, model: Model) -> None:
        """The same ties on both sides of the machine."""
        by_name = {(*ends_of(one), one.gear): place for place, one in self._all}
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
        for place, one in self._all:
            soft = 0.0 if one.gear.kind is TieKind.CHAIN else 10.0
            back = 4.0 if inward(one.rope, self.item) else 0.0
            run = 0.05 * one.rope.length_m + 0.05 * abs(one.rope.legs[0].z)
            light = (one.gear.runs_kg - 0.3 * one.gear.wll_kg) / heaviest
            bought = BOUGHT_COST if one.gear.runs == BOUGHT else 0.0
            cost[place] = soft + back + light + run + bought
        return cost

    def _add_losses(self, found: Suggestion) -> bool:
        """Rows for the losses that this solution would not stand; whether there were any."""
        added = False
        for finding in found.findings:
            if self.standard is not Standard.EVERYTHING or finding.family != "without":
                continue
            lost = next(t for t in found.ties if t.id == finding.which)
            ends = (lost.point, lost.anchor)
            for name, asked in self._asked.items():
                if asked.without_kg is None or asked.without_kg <= 0:
                    continue
                if (ends, name) not in self._lost:
                    self._lost.add((ends, name))
                    added = True
                    self._hold_without(name, asked.without_kg, ends)
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
