"""Every tie that could be put on an item with a rack, and how it would take part."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Final

from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.securing.findings import STEEP
from mechanics.securing.hold import WAYS, all_ropes, allowed, pushed
from mechanics.securing.rack import GearSet
from mechanics.securing.rope import Rope, Vector, rope_of
from mechanics.ties import Tie, TieKind

SHORTEST_M: Final = 0.3
"""A tie shorter than this leaves no room for a binder. An assumption, no source."""

EASE: Final = 1e-7
"""By how much a capacity is asked for beyond its limit, as a part of it: the solver may miss a
row by a little, the checks do not."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Crossing:
    """Whether ties go to the other side of the machine, to their own, or either."""

    crossed: bool = True
    straight: bool = True


@dataclass(frozen=True, kw_only=True, slots=True)
class Choice:
    """One tie that could be: a set of gear from a point to an anchor, and how it takes part."""

    rope: Rope
    gear: GearSet
    may_kg: float

    def gives_at(self, way: Vector) -> float:
        """How far the item moves that way until this tie has reached what it may pull; its share
        of that way is not zero."""
        return self.may_kg / (self.rope.stiffness * self.rope.shares[way])


EITHER: Final = Crossing()
"""No wish which side a tie goes to."""


def choices(
    plan: Plan, item: Item, sets: Sequence[GearSet], *, crossing: Crossing, strict: bool
) -> tuple[Choice, ...]:
    """Every tie that could be put on; ``strict`` leaves out what practice would rather not do."""
    return tuple(_choices(plan, item, sets, crossing, strict))


def _choices(
    plan: Plan, item: Item, sets: Sequence[GearSet], crossing: Crossing, strict: bool
) -> Iterator[Choice]:
    taken = taken_of(plan, item)
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
class Taken:
    """What an anchor with a limit still holds beside the ties of the other items, and what those
    pull at it in each direction."""

    wll_kg: float
    free_kg: float
    pulled_kg: dict[str, float]


def taken_of(plan: Plan, item: Item) -> dict[str, Taken]:
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
        found[anchor.id] = Taken(
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


def inward(rope: Rope, item: Item) -> bool:
    """Whether it pulls its end of the machine towards the other end."""
    return (rope.point.x - _middle_m(item)) * rope.legs[0].x < 0


def _middle_m(item: Item) -> float:
    """Where the middle between a machine's wheels is on the tape, or of all of it."""
    ends = [c.ahead_m + s * c.length_m / 2 for c in item.contacts for s in (-1, 1)]
    ahead = (max(ends) + min(ends)) / 2 if ends else (item.front_m - item.rear_m) / 2
    return item.placement.reference_m + item.direction * ahead


def in_order(picked: Sequence[Choice], item: Item) -> tuple[Choice, ...]:
    """The order to put them on: the front corners, the rear corners, then the others; of a pair
    the left one first."""

    def place(one: Choice) -> tuple[bool, float, float]:
        rope = one.rope
        return rope.legs[0].x > 0, round(abs(rope.legs[0].x), 3) * -1, -rope.point.y

    return tuple(sorted(picked, key=place))


def ends_of(one: Choice) -> tuple[str, str]:
    """The point and the anchor it runs between."""
    return one.rope.machine_point.id, one.rope.anchors[0].id
