"""What is found of an item's ties: limits with a stable code, never exceptions."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Final

from mechanics.checks import Status
from mechanics.finding import Compared, Measure, rated
from mechanics.item import Item
from mechanics.limits import ROUNDING
from mechanics.plan import Plan
from mechanics.securing.hold import (
    LIMITS,
    UP_LIMIT,
    WAYS,
    allowed,
    friction_of,
    held_kg,
    rubbing_kg,
)
from mechanics.securing.rope import UP, Rope
from mechanics.ties import Securing, SecuringSchool
from mechanics.units import KG_PER_LB, M_PER_IN

SPARE: Final = 1.2
"""A direction held by less than so many times its limit is short of reserve. An assumption, no
source."""

LEFT_OVER: Final = 0.5
"""Part of the rule that should still be held with any one tie gone. An assumption, no source."""

STEEP: Final = 0.87
"""A tie that rises more than this part of its length is steeper than 60 degrees."""

MIDDLE: Final = 0.1
"""A point within this part of the width of the middle counts for both sides."""

LIGHT_KG: Final = 1100 * KG_PER_LB
HEAVY_KG: Final = 10000 * KG_PER_LB
FIVE_FEET_M: Final = 60 * M_PER_IN
TEN_FEET_M: Final = 120 * M_PER_IN
"""Bounds of 49 CFR 393.110 and 393.130 (from memory)."""


PREFIX: Final = "securing."
"""How every code of an item's ties begins."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Finding(Compared):
    """One limit of an item's ties. A code names a family and, with some, which one of it."""

    code: str

    @property
    def family(self) -> str:
        """What kind of limit it is: ``forward``, ``without``, ``anchor``."""
        return self.code.removeprefix(PREFIX).partition("_")[0]

    @property
    def which(self) -> str:
        """The tie, anchor, point or direction it is about; empty of a family of one."""
        return self.code.removeprefix(PREFIX).partition("_")[2]


@dataclass(frozen=True, kw_only=True)
class Tied:
    """One item with its ties among all of the plan's, what each ``may`` pull, and what each is
    ``pulled`` by when everything is pushed by the rule's g, by direction."""

    plan: Plan
    item: Item
    securing: Securing
    own: tuple[Rope, ...]
    every: tuple[Rope, ...]
    may: Mapping[str, float | None]
    pulled: Mapping[str, Mapping[str, float | None]]

    @property
    def mass_kg(self) -> float:
        """Its mass with its tolerance: guesses run low."""
        return self.item.mass_kg + self.item.mass_tolerance_kg


def findings(tied: Tied) -> tuple[Finding, ...]:
    """Every finding of an item, in the order of their codes."""
    return tuple(_findings(tied))


def unsaid(school: SecuringSchool) -> tuple[Finding, ...]:
    """The findings where a plan says nothing of its ties."""
    codes = [("number", Measure.COUNT), ("corners", Measure.COUNT)]
    if school is not SecuringSchool.EN_12195:
        codes.append(("aggregate", Measure.MASS))
    codes += [(way, Measure.G) for way in WAYS]
    if school is not SecuringSchool.EN_12195:
        codes.append(("up", Measure.G))
    return tuple(_unknown(f"securing.{code}", measure, ("securing",)) for code, measure in codes)


def _findings(tied: Tied) -> Iterator[Finding]:
    may = tied.may
    metric = tied.securing.school is SecuringSchool.EN_12195
    yield _number(tied)
    yield _corners(tied)
    if not metric:
        yield _aggregate(tied, may)
    yield from _ways(tied, may)
    if not metric:
        yield _up(tied, may)
    for rope in tied.own:
        yield _without(tied, rope)
    yield from _tips(tied)
    yield from _anchors(tied)
    yield from _points(tied)
    if tied.own:
        yield _steep(tied)


def _unknown(code: str, measure: Measure, missing: tuple[str, ...]) -> Finding:
    return Finding(
        code=code,
        measure=measure,
        status=Status.UNKNOWN,
        value=None,
        limit=None,
        margin=None,
        missing=missing,
    )


def _least(
    code: str, measure: Measure, value: float, limit: float, *, near: float, soft: bool = False
) -> Finding:
    """A figure that may be no less than its limit, and is short of reserve below ``near``."""
    slack = ROUNDING * max(abs(limit), 1.0)
    status = Status.OK
    if value < limit - slack:
        status = Status.NEAR if soft else Status.OVER
    elif value < near - slack:
        status = Status.NEAR
    return Finding(
        code=code, measure=measure, status=status, value=value, limit=limit, margin=value - limit
    )


def _most(code: str, value: float, limit: float) -> Finding:
    """A load that may be no more than its limit."""
    return Finding(
        code=code,
        measure=Measure.MASS,
        status=rated(value, limit),
        value=value,
        limit=limit,
        margin=limit - value,
    )


def _lacking(tied: Tied, of: Sequence[Rope]) -> tuple[str, ...]:
    """The paths of ties without a limit."""
    ids = {rope.tie.id for rope in of if rope.tie.wll_kg is None}
    return tuple(
        f"securing.ties[{n}].wll" for n, tie in enumerate(tied.securing.ties) if tie.id in ids
    )


def least_ties(item: Item, mass_kg: float, school: SecuringSchool, *, bulkhead: bool) -> int:
    """How many ties the rule asks for (49 CFR 393.110 and 393.130, from memory); four by the
    metric school (common practice, no source)."""
    if school is SecuringSchool.EN_12195:
        return 4
    length = item.front_m + item.rear_m
    # a length that is a whole number of feet is one, however it was computed
    tens = math.ceil(length / TEN_FEET_M - ROUNDING)
    if bulkhead:
        found = max(tens, 1)
    elif length <= FIVE_FEET_M * (1 + ROUNDING):
        found = 1 if mass_kg <= LIGHT_KG * (1 + ROUNDING) else 2
    else:
        found = 1 + max(tens, 1)
    if mass_kg >= HEAVY_KG * (1 - ROUNDING) and item.contacts:
        found = max(found, 4)
    return found


def _number(tied: Tied) -> Finding:
    securing = tied.securing
    wanted = least_ties(tied.item, tied.mass_kg, securing.school, bulkhead=securing.bulkhead)
    return _least("securing.number", Measure.COUNT, len(tied.own), wanted, near=wanted)


def corners_of(rope: Rope, item: Item) -> set[tuple[str, str]]:
    """The corners that a tie pulls to: which way, and on which side of the machine's middle."""
    off = rope.point.y - item.placement.left_m
    middle = (item.width_m or 0.0) * MIDDLE
    sides = {"left", "right"} if abs(off) <= middle else {"left" if off > 0 else "right"}
    return {
        ("forward" if leg.x < 0 else "rearward", side)
        for leg in rope.legs
        if leg.x
        for side in sides
    }


def _corners(tied: Tied) -> Finding:
    """Ties that pull forward and rearward from either side of the machine's middle."""
    corners = {corner for rope in tied.own for corner in corners_of(rope, tied.item)}
    stopping = {side for way, side in corners if way == "rearward"}
    status = Status.OK if len(corners) == 4 else Status.NEAR
    if len(tied.own) < 2 or len(stopping) == 1:
        status = Status.OVER
    return Finding(
        code="securing.corners",
        measure=Measure.COUNT,
        status=status,
        value=len(corners),
        limit=4,
        margin=len(corners) - 4,
    )


def _aggregate(tied: Tied, may: Mapping[str, float | None]) -> Finding:
    code = "securing.aggregate"
    if lacking := _lacking(tied, tied.own):
        return _unknown(code, Measure.MASS, lacking)
    total = sum((may[r.tie.id] or 0.0) * (0.5 if r.tie.over is None else 1.0) for r in tied.own)
    limit = tied.mass_kg / 2
    return _least(code, Measure.MASS, total, limit, near=SPARE * limit)


def _ways(tied: Tied, may: Mapping[str, float | None]) -> Iterator[Finding]:
    mu = friction_of(tied.plan)
    for name, way in WAYS.items():
        code = f"securing.{name}"
        capacity = held_kg(tied.own, may, way, rubbing_kg(tied.own, tied.mass_kg, mu))
        if capacity is None:
            pulling = [rope for rope in tied.own if rope.share(way) > 0]
            yield _unknown(code, Measure.G, _lacking(tied, pulling))
            continue
        limit = LIMITS[tied.securing.school][name]
        value = capacity / tied.mass_kg
        yield _least(code, Measure.G, value, limit, near=SPARE * limit)


def _up(tied: Tied, may: Mapping[str, float | None]) -> Finding:
    capacity = held_kg(tied.own, may, UP, 0.0)
    if capacity is None:
        pulling = [rope for rope in tied.own if rope.share(UP) > 0]
        return _unknown("securing.up", Measure.G, _lacking(tied, pulling))
    value = capacity / tied.mass_kg
    return _least("securing.up", Measure.G, value, UP_LIMIT, near=SPARE * UP_LIMIT)


def _without(tied: Tied, gone: Rope) -> Finding:
    """What of the rule is still held, in the worst direction, with one tie gone."""
    code = f"securing.without_{gone.tie.id}"
    own = [rope for rope in tied.own if rope is not gone]
    may = tied.may
    if any(
        a.id == b.id for r in tied.every if r is not gone for a in r.anchors for b in gone.anchors
    ):
        # what the others may pull only changes where one of them shares an anchor with it
        may = allowed([rope for rope in tied.every if rope is not gone])
    limits, mu = LIMITS[tied.securing.school], friction_of(tied.plan)
    parts = []
    for name, way in WAYS.items():
        capacity = held_kg(own, may, way, rubbing_kg(own, tied.mass_kg, mu))
        if capacity is None:
            return _unknown(code, Measure.RATIO, _lacking(tied, own))
        parts.append(capacity / tied.mass_kg / limits[name])
    return _least(code, Measure.RATIO, min(parts), LEFT_OVER, near=LEFT_OVER, soft=True)


def _tips(tied: Tied) -> Iterator[Finding]:
    """The g at which it would tip over an edge of its footing, untied."""
    item = tied.item
    height = item.cg.height_m
    if height is None or item.width_m is None or not item.contacts:
        return
    mark = item.placement.reference_m
    ends = [
        mark + item.direction * c.ahead_m + side * c.length_m / 2
        for c in item.contacts
        for side in (-1, 1)
    ]
    centre, off = item.balance_tape_m, item.balance_left_m - item.placement.left_m
    reach = {
        "forward": centre - min(ends),
        "rearward": max(ends) - centre,
        "left": item.width_m / 2 - off,
        "right": item.width_m / 2 + off,
    }
    for name, metres in reach.items():
        limit = LIMITS[tied.securing.school][name]
        yield _least(
            f"securing.tip_{name}", Measure.G, metres / height, limit, near=limit, soft=True
        )


def _sum(pulls_kg: Iterable[float | None]) -> float:
    """Pulls together; ``nan`` where one of them is not known."""
    return sum(math.nan if one is None else one for one in pulls_kg)


def _anchors(tied: Tied) -> Iterator[Finding]:
    """Each anchor's ties together, of all items, in the hardest direction."""
    anchors = {a.id: a for rope in tied.own for a in rope.anchors if a.wll_kg is not None}
    if not anchors:
        return
    for anchor in anchors.values():
        code = f"securing.anchor_{anchor.id}"
        at = [r for r in tied.every if any(a.id == anchor.id for a in r.anchors)]
        sums = [_sum(by[rope.tie.id] for rope in at) for by in tied.pulled.values()]
        if any(math.isnan(one) for one in sums):
            yield _unknown(code, Measure.MASS, _lacking(tied, tied.every))
        else:
            yield _most(code, max(sums), anchor.wll_kg or 0.0)


def _points(tied: Tied) -> Iterator[Finding]:
    """The same of each point of the machine with a strength of its own."""
    points = {rope.machine_point.id: rope.machine_point for rope in tied.own}
    strong = [point for point in points.values() if point.strength_kg is not None]
    if not strong:
        return
    for point in strong:
        code = f"securing.point_{point.id}"
        at = [rope.tie.id for rope in tied.own if rope.machine_point.id == point.id]
        sums = [_sum(by[one] for one in at) for by in tied.pulled.values()]
        if any(math.isnan(one) for one in sums):
            yield _unknown(code, Measure.MASS, _lacking(tied, tied.own))
        else:
            yield _most(code, max(sums), point.strength_kg or 0.0)


def _steep(tied: Tied) -> Finding:
    """The steepest tie: it holds little along the deck."""
    value = max(abs(rope.legs[0].z) for rope in tied.own)
    return Finding(
        code="securing.steep",
        measure=Measure.RATIO,
        status=Status.NEAR if value > STEEP else Status.OK,
        value=value,
        limit=STEEP,
        margin=STEEP - value,
    )
