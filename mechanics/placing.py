"""Moving and turning items on the deck: each function gives the plan with them elsewhere.

None of it asks whether a place is right; :mod:`mechanics.checks` and
:mod:`mechanics.windows` do. Lengths are metres along the tape, from the deck's front edge
back; sideways is to the driver's left of the middle.
"""

from __future__ import annotations

from dataclasses import replace
from enum import Enum
from typing import Final

from mechanics.errors import MechanicsError
from mechanics.item import BalancePoint, Item, Placement
from mechanics.patience import go_on
from mechanics.plan import Plan

ROOM_BETWEEN_M: Final = 0.05
"""Left between two machines that are lined up, about two inches."""

BEYOND_M: Final = 1.0
"""How far past the ends of the deck an item may be moved."""

HUNG_M: Final = 0.3
"""Half the length of what is hung behind the tail; an assumption."""


class Obstacle(Enum):
    """Why items cannot be put as asked."""

    NOTHING_AHEAD = "nothing_ahead"
    NOTHING_BEHIND = "nothing_behind"
    ALONE = "alone"
    DECK_WIDTH = "deck_width"
    ITEM_WIDTH = "item_width"
    TOO_WIDE = "too_wide"


class PlacingError(MechanicsError):
    """Items cannot be put as asked; ``item`` is the id of the one it is about, if any."""

    def __init__(self, obstacle: Obstacle, item: str = "") -> None:
        self.obstacle = obstacle
        self.item = item
        super().__init__(obstacle, item)

    def __str__(self) -> str:
        return f"{self.obstacle.value}: {self.item}" if self.item else self.obstacle.value


def moved(plan: Plan, index: int, reference_m: float) -> Plan:
    """One item's mark elsewhere on the tape."""
    item = plan.items[index]
    go_on()
    return plan.with_placement(item.id, replace(item.placement, reference_m=reference_m))


def moved_sideways(plan: Plan, index: int, left_m: float) -> Plan:
    """One item elsewhere across the deck."""
    item = plan.items[index]
    return plan.with_placement(item.id, replace(item.placement, left_m=left_m))


def turned(plan: Plan, index: int) -> Plan:
    """One item turned round on the piece of deck it covers."""
    item = plan.items[index]
    place = replace(
        item.placement,
        facing=item.placement.facing.turned,
        reference_m=item.foremost_m + item.reach_rearward_m,
    )
    return plan.with_placement(item.id, place)


def reach(plan: Plan, index: int) -> tuple[float, float]:
    """How far the mark may be moved: the item stays within reach of the deck."""
    item, deck = plan.items[index], plan.trailer.deck
    return (
        min(item.reach_forward_m - deck.front_overhang_m - BEYOND_M, 0.0),
        max(deck.length_m + deck.rear_overhang_m + BEYOND_M - item.reach_rearward_m, deck.length_m),
    )


def hung_behind(plan: Plan, mass_kg: float) -> Plan:
    """The plan with something more, hung behind the deck's tail: a rack, a spare, a tool box."""
    rack = Item(
        # an id that no item has, for it is longer than all of theirs
        id="".join(("hung", *(item.id for item in plan.items))),
        mass_kg=mass_kg,
        cg=BalancePoint(ahead_m=0.0),
        front_m=HUNG_M,
        rear_m=HUNG_M,
        placement=Placement(reference_m=plan.trailer.deck.length_m + HUNG_M),
    )
    return plan.carrying((*plan.items, rack))


def sideways_reach(plan: Plan) -> float:
    """How far to either side of the middle an item's own middle may be moved."""
    deck = plan.trailer.deck
    return (deck.width_m or plan.trailer.track_width_m) / 2


def within_reach(plan: Plan, index: int, reference_m: float) -> float:
    """A place brought within reach of the deck."""
    low, high = reach(plan, index)
    return min(max(reference_m, low), high)


def traded(plan: Plan, index: int, *, ahead: bool) -> Plan:
    """One item and its next neighbour towards the truck, or the tail, in each other's order.

    Together they cover the deck they covered before.

    Raises:
        PlacingError: nothing stands that way.
    """
    item = plan.items[index]
    others = [i for i in plan.items if i is not item]
    if ahead:
        before = [i for i in others if i.foremost_m < item.foremost_m]
        if not before:
            raise PlacingError(Obstacle.NOTHING_AHEAD)
        first, second = max(before, key=lambda i: i.foremost_m), item
    else:
        after = [i for i in others if i.foremost_m >= item.foremost_m]
        if not after:
            raise PlacingError(Obstacle.NOTHING_BEHIND)
        first, second = item, min(after, key=lambda i: i.foremost_m)
    start, end = first.foremost_m, max(first.rearmost_m, second.rearmost_m)
    places = ((second, start + second.reach_forward_m), (first, end - first.reach_rearward_m))
    found = plan
    for one, at in places:
        position = plan.items.index(one)
        found = moved(found, position, within_reach(found, position, at))
    return found


def beside(plan: Plan, index: int) -> Plan:
    """One item beside the nearest other, the two on the middle of the deck together.

    Raises:
        PlacingError: it is alone, a width is not known, or the deck is too narrow.
    """
    item = plan.items[index]
    others = [i for i in plan.items if i is not item]
    if not others:
        raise PlacingError(Obstacle.ALONE)
    other = min(others, key=lambda i: abs(i.placement.reference_m - item.placement.reference_m))
    own, its = _widths(item, other, plan.trailer.deck.width_m)
    # the pair fills from -(own + its) / 2 to as much; the item in hand takes the left end
    found = _sideways_in_reach(plan, index, its / 2)
    found = _sideways_in_reach(found, plan.items.index(other), -own / 2)
    middle = (other.foremost_m + other.rearmost_m) / 2
    at = middle + (item.reach_forward_m - item.reach_rearward_m) / 2
    return moved(found, index, within_reach(found, index, at))


def _sideways_in_reach(plan: Plan, index: int, left_m: float) -> Plan:
    most = sideways_reach(plan)
    return moved_sideways(plan, index, min(max(left_m, -most), most))


def _widths(item: Item, other: Item, deck_m: float | None) -> tuple[float, float]:
    if deck_m is None:
        raise PlacingError(Obstacle.DECK_WIDTH)
    for one in (item, other):
        if one.width_m is None:
            raise PlacingError(Obstacle.ITEM_WIDTH, one.id)
    own, its = item.width_m or 0.0, other.width_m or 0.0
    if own + its > deck_m:
        raise PlacingError(Obstacle.TOO_WIDE, other.id)
    return own, its
