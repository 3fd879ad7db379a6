"""Places worth standing at, and a drag that lands on them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum
from typing import Final

from mechanics.placing import ROOM_BETWEEN_M
from mechanics.plan import Plan
from mechanics.standing import best_standing

SNAP_M: Final = 0.03
"""Within little more than an inch of a place worth standing at, a drag lands on it."""


class Kind(Enum):
    """What makes a place worth standing at."""

    AIM = "aim"
    BEST = "best"
    BEHIND = "behind"
    AHEAD = "ahead"
    HEADBOARD = "headboard"
    TAIL = "tail"


@dataclass(frozen=True, kw_only=True, slots=True)
class Landmark:
    """A place on the tape; ``item`` is the neighbour's id where it is one's."""

    kind: Kind
    at_m: float
    item: str = ""


def landmarks(plan: Plan, index: int, steps_m: tuple[float, ...]) -> tuple[Landmark, ...]:
    """Places worth standing at: the aim, the neighbours, the two ends of the deck."""
    item, deck = plan.items[index], plan.trailer.deck
    found = []
    best = best_standing(plan, index, steps_m)
    if best is not None:
        found.append(Landmark(kind=Kind.AIM if best.right else Kind.BEST, at_m=best.at_m))
    for other in plan.items:
        if other is item or item.clear_sideways_of(other):
            continue
        behind = other.rearmost_m + ROOM_BETWEEN_M + item.reach_forward_m
        ahead = other.foremost_m - ROOM_BETWEEN_M - item.reach_rearward_m
        found.append(Landmark(kind=Kind.BEHIND, at_m=behind, item=other.id))
        found.append(Landmark(kind=Kind.AHEAD, at_m=ahead, item=other.id))
    found.append(Landmark(kind=Kind.HEADBOARD, at_m=item.reach_forward_m))
    found.append(Landmark(kind=Kind.TAIL, at_m=deck.length_m - item.reach_rearward_m))
    return tuple(found)


def landed(plan: Plan, index: int, at_m: float, steps_m: tuple[float, ...]) -> Landmark | None:
    """The landmark that a drag to a place lands on; ``None`` where none is that near."""
    return within_snap(landmarks(plan, index, steps_m), at_m)


def within_snap(marks: Sequence[Landmark], at_m: float) -> Landmark | None:
    """The same of landmarks that are known already, of which there is at least one."""
    nearest = min(marks, key=lambda mark: abs(mark.at_m - at_m))
    return nearest if abs(nearest.at_m - at_m) <= SNAP_M else None
