"""How an item is best tied with the gear at hand, and what to buy where that is not enough."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

from mechanics.gear import CHAIN_LB
from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.securing.choices import EITHER, Choice, Crossing, choices
from mechanics.securing.hold import WAYS
from mechanics.securing.rack import BOUGHT, GearSet, RackPiece, sets_of
from mechanics.securing.search import MOST, Search
from mechanics.securing.suggested import Standard, Suggestion, suggested
from mechanics.solver import Allowance
from mechanics.ties import TieKind
from mechanics.units import KG_PER_LB

SECONDS: Final = 5.0
"""How long a search takes at most: most are over in one, a heavy machine that takes eight ties of
a mixed rack in three."""

BUYING_SECONDS: Final = 3.0
"""How long it is looked for what to buy."""

BUYING_GRADE: Final = 70
"""The grade of chain that is offered to be bought: transport chain."""


def suggest(
    plan: Plan,
    item_id: str,
    rack: Sequence[RackPiece],
    *,
    crossing: Crossing = EITHER,
    seconds: float = SECONDS,
) -> Suggestion:
    """How an item is best tied with a rack, whatever ties it has now; the others' ties stay.

    No anchor is given more than it holds and no point more than two ties; no tie runs under the
    machine past its middle, and none is steeper than 60 degrees, as long as that can be had.

    Raises:
        KeyError: there is no such item.
    """
    item, allowance = plan.item(item_id), Allowance(seconds)
    sets = sets_of(rack)
    proved = allowance.left > 0
    if not sets or not item.points or not plan.trailer.anchors:
        return Suggestion(standard=Standard.NONE)
    for standard in (Standard.EVERYTHING, Standard.NOTHING_OVER):
        if allowance.left <= 0:
            break
        search = Search.of(plan, item, rack, sets, standard, crossing)
        found = search.fewest(allowance)
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
    crossing: Crossing = EITHER,
    seconds: float = BUYING_SECONDS,
) -> Purchase | None:
    """The lightest transport chain that, beside the rack, holds everything with as few ties as can
    be, else the heaviest with more; ``None`` where none does: then it is points or anchors that
    are wanting.

    Raises:
        KeyError: there is no such item.
    """
    item, allowance = plan.item(item_id), Allowance(seconds)
    if not item.points or not plan.trailer.anchors:
        return None
    searches = []
    for size, pounds in CHAIN_LB[BUYING_GRADE].items():
        limit = pounds * KG_PER_LB
        bought = RackPiece(key=BOUGHT, kind=TieKind.CHAIN, wll_kg=limit, count=MOST)
        both = (*rack, bought)
        search = Search.of(plan, item, both, sets_of(both), Standard.EVERYTHING, crossing)
        if not search.options:
            return None
        found = search.exactly(search.least, allowance, even=True)
        if found is not None:
            return _purchase(found, size, limit)
        searches.append((size, limit, search))
    for size, limit, search in reversed(searches):
        found = search.fewest(allowance)
        if found is not None:
            return _purchase(found, size, limit)
    return None


def _purchase(found: Suggestion, size: int, limit_kg: float) -> Purchase:
    count = sum(BOUGHT in pieces for pieces in found.pieces)
    return Purchase(count=count, size=size, wll_kg=limit_kg, suggestion=found)


def _pair(plan: Plan, item: Item, rack: Sequence[RackPiece], sets: Sequence[GearSet]) -> Suggestion:
    """Two ties to either side that pull rearward and so resist braking: those that hold most."""
    options = choices(plan, item, sets, crossing=EITHER, strict=True) or choices(
        plan, item, sets, crossing=EITHER, strict=False
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
    return suggested(plan, item, rack, best[1], Standard.PAIR)


def _both_there(one: GearSet, two: GearSet, free: dict[str, int]) -> bool:
    """Whether the rack has the pieces of both sets."""
    if one.runs == two.runs and free[one.runs] < 2:
        return False
    if not one.binders or not two.binders:
        return True
    return any(key != other or free[key] > 1 for key in one.binders for other in two.binders)


def _worth(one: Choice, two: Choice) -> tuple[float, float, float]:
    """What a pair holds under braking, as far as their points stand it; of equals the even one,
    then the lighter one."""
    way = WAYS["forward"]
    moved = min(one.gives_at(way), two.gives_at(way))
    pulls = [(c, c.rope.stiffness * moved * c.rope.shares[way]) for c in (one, two)]
    stands = 1.0
    for point in {c.rope.machine_point.id: c.rope.machine_point for c in (one, two)}.values():
        pulled = sum(pull for c, pull in pulls if c.rope.machine_point.id == point.id)
        if point.strength_kg is not None and pulled > 0:
            stands = min(stands, point.strength_kg / pulled)
    both = stands * sum(pull * c.rope.shares[way] for c, pull in pulls)
    uneven = abs(one.rope.length_m - two.rope.length_m)
    return round(both, 6), -round(uneven, 6), -(one.gear.wll_kg + two.gear.wll_kg)
