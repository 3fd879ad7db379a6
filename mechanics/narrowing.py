"""Which single weighing or taping would say most about a plan that rests on estimates.

Where no place is sure, asking what widens the sure window has no answer. Then what counts is how
many checks are left open, and how far the best place may still lie from where it is thought.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Final

from mechanics.aim_band import aim_band
from mechanics.certainty import unsettled
from mechanics.limits import load_limits
from mechanics.loads import compute_loads
from mechanics.placing import moved
from mechanics.plan import Plan
from mechanics.units import M_PER_IN
from mechanics.weigh_which import WORTH_M, Weighing, weighed

TAPED_M: Final = 0.5 * M_PER_IN
"""What a tape leaves open of a place. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Narrowing:
    """One weighing: checks left open, and the length in which the best place lies, before and
    after. ``item`` is the id of the item weighed, ``None`` for trailer and truck."""

    weighing: Weighing
    item: str | None
    open_before: int
    open_after: int
    band_before_m: float
    band_after_m: float


def narrowing(plan: Plan, index: int) -> Narrowing | None:
    """The weighing that settles most checks, of equals the one that narrows the best place of an
    item most; ``None`` where none is worth the way.

    Checks are counted with the item at its best place; where it stands now does not matter.
    """
    return _narrowing(moved(plan, index, 0.0), index)


@lru_cache(maxsize=256)
def _narrowing(plan: Plan, index: int) -> Narrowing | None:
    before = aim_band(plan, index)
    if before is None:
        return None
    at = before.aim_m
    open_before = _open(plan, index, at)
    found = []
    for weighing, item, known in (*weighed(plan), *_taped(plan)):
        after = aim_band(known, index)
        if after is None:
            continue
        found.append(
            Narrowing(
                weighing=weighing,
                item=item,
                open_before=open_before,
                open_after=_open(known, index, at),
                band_before_m=before.width_m,
                band_after_m=after.width_m,
            )
        )
    worth = [
        one
        for one in found
        if one.open_after < open_before or one.band_before_m - one.band_after_m >= WORTH_M
    ]
    return min(worth, key=lambda one: (one.open_after, round(one.band_after_m, 4)), default=None)


def _open(plan: Plan, index: int, at_m: float) -> int:
    """Checks that are not settled with the item at a place."""
    placed = moved(plan, index, at_m)
    return len(unsettled(placed, load_limits(placed, compute_loads(placed))))


def _taped(plan: Plan) -> list[tuple[Weighing, str | None, Plan]]:
    """The plan with truck or trailer taped, where that says more than is known."""
    found: list[tuple[Weighing, str | None, Plan]] = []
    truck, trailer, deck = plan.truck, plan.trailer, plan.trailer.deck
    if max(truck.wheelbase_tolerance_m, truck.hitch_offset_tolerance_m) > TAPED_M:
        known = replace(
            truck,
            wheelbase_tolerance_m=min(truck.wheelbase_tolerance_m, TAPED_M),
            hitch_offset_tolerance_m=min(truck.hitch_offset_tolerance_m, TAPED_M),
        )
        found.append((Weighing.TRUCK_TAPE, None, replace(plan, truck=known)))
    if max(trailer.axles_tolerance_m, deck.start_tolerance_m) > TAPED_M:
        taped = replace(
            trailer,
            axles_tolerance_m=min(trailer.axles_tolerance_m, TAPED_M),
            deck=replace(deck, start_tolerance_m=min(deck.start_tolerance_m, TAPED_M)),
        )
        found.append((Weighing.TRAILER_TAPE, None, replace(plan, trailer=taped)))
    return found
