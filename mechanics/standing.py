"""Where an item is best put: its aim on a mark of the tape, or the best of what can hold."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from mechanics.marks import ON_A_MARK_M, nearest_mark
from mechanics.placing import moved, turned
from mechanics.plan import Plan
from mechanics.report import Report, compromise, evaluate
from mechanics.windows import Interval, Window


@dataclass(frozen=True, kw_only=True, slots=True)
class Standing:
    """A place to go to: on a mark of the tape, in metres.

    ``right`` says that every limit holds there as entered; else ``passed`` are those that
    are passed wherever the item stands and ``holds`` whether all the others hold.
    """

    at_m: float
    right: bool
    passed: tuple[str, ...] = ()
    holds: bool = True


def best_standing(plan: Plan, index: int, steps_m: tuple[float, ...]) -> Standing | None:
    """Where an item is best put; ``None`` where the deck has no room for it.

    ``steps_m`` are the distances between the marks of the tape, coarse ones first. The
    place does not depend on where the item itself stands, so a drag asks only once.
    """
    return _best_standing(moved(plan, index, 0.0), index, steps_m)


@lru_cache(maxsize=512)
def _best_standing(plan: Plan, index: int, steps_m: tuple[float, ...]) -> Standing | None:
    window = evaluate(plan).windows[index]
    if window.aim_m is not None:
        return Standing(at_m=on_a_mark(window, steps_m), right=True)
    found = compromise(plan, index)
    if found is None:
        return None
    at = nearest_mark(found.at_m, found.room.start_m, found.room.end_m, steps_m)
    return Standing(at_m=at, right=False, passed=found.passed, holds=found.holds)


def on_a_mark(window: Window, steps_m: tuple[float, ...]) -> float:
    """The aim of a window on the nearest mark that lies in the same piece of it.

    Raises:
        ValueError: the window has no aim.
    """
    aim = window.aim_m
    if aim is None:
        raise ValueError("a window without an aim has no mark")
    piece = piece_at(window.sure or window.intervals, aim)
    if piece is None:
        return aim
    return nearest_mark(aim, piece.start_m, piece.end_m, steps_m)


def piece_at(pieces: tuple[Interval, ...], at_m: float) -> Interval | None:
    """The piece of a window that a place lies in, its ends included."""
    for piece in pieces:
        if piece.start_m - ON_A_MARK_M <= at_m <= piece.end_m + ON_A_MARK_M:
            return piece
    return None


def is_sure(report: Report, index: int) -> bool:
    """Whether an item stands where every limit holds for all figures in their tolerances."""
    at = report.plan.items[index].placement.reference_m
    return piece_at(report.windows[index].sure, at) is not None


def stood(plan: Plan, index: int, steps_m: tuple[float, ...]) -> Plan:
    """The plan with one item at its best place.

    Where no room is left it stands behind the others, at least clear of them, and where the
    deck is full flush with the tail; an item alone stays where it is.
    """
    best = best_standing(plan, index, steps_m)
    if best is not None:
        return moved(plan, index, best.at_m)
    if len(plan.items) == 1:
        return plan
    item, deck = plan.items[index], plan.trailer.deck
    others = (other for k, other in enumerate(plan.items) if k != index)
    behind = max(other.rearmost_m for other in others) + item.reach_forward_m
    return moved(plan, index, min(behind, deck.length_m - item.reach_rearward_m))


def stood_turned(plan: Plan, index: int, steps_m: tuple[float, ...]) -> Plan:
    """The plan with one item turned round, at its best place that way where it has one."""
    plan = turned(plan, index)
    best = best_standing(plan, index, steps_m)
    return plan if best is None else moved(plan, index, best.at_m)
