"""Where an item is best put: its aim on a mark of the tape, or the best of what can hold."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from measures import UnitSystem
from measures.marks import nearest_mark, write_place
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


def best_standing(plan: Plan, index: int, unit: UnitSystem) -> Standing | None:
    """Where an item is best put; ``None`` where the deck has no room for it.

    It does not depend on where the item itself stands, so a drag asks only once.
    """
    item = plan.items[index]
    moved = plan.with_placement(item.id, replace(item.placement, reference_m=0.0))
    return _best_standing(moved, index, unit)


@lru_cache(maxsize=512)
def _best_standing(plan: Plan, index: int, unit: UnitSystem) -> Standing | None:
    window = evaluate(plan).windows[index]
    if window.aim_m is not None:
        return Standing(at_m=on_a_mark(window, unit), right=True)
    found = compromise(plan, index)
    if found is None:
        return None
    at = nearest_mark(found.at_m, found.room.start_m, found.room.end_m, unit)
    return Standing(at_m=at, right=False, passed=found.passed, holds=found.holds)


def on_a_mark(window: Window, unit: UnitSystem) -> float:
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
    return nearest_mark(aim, piece.start_m, piece.end_m, unit)


def piece_at(pieces: tuple[Interval, ...], at_m: float) -> Interval | None:
    """The piece of a window that a place lies in, its ends included."""
    for piece in pieces:
        if piece.start_m - 1e-6 <= at_m <= piece.end_m + 1e-6:
            return piece
    return None


def is_sure(report: Report, index: int) -> bool:
    """Whether an item stands where every limit holds for all figures in their tolerances."""
    at = report.plan.items[index].placement.reference_m
    return piece_at(report.windows[index].sure, at) is not None


def place_words(report: Report, index: int, unit: UnitSystem) -> str:
    """Where an item's mark stands, written so that it reads inside the window it is in."""
    at = report.plan.items[index].placement.reference_m
    window = report.windows[index]
    for pieces in (window.sure, window.intervals):
        piece = piece_at(pieces, at)
        if piece is not None:
            return write_place(at, unit, piece.start_m, piece.end_m)
    outside = [
        (abs(end - at), end, low)
        for piece in window.intervals
        for end, low in ((piece.start_m, True), (piece.end_m, False))
    ]
    if not outside:
        return write_place(at, unit)
    # nearest end: the place must not read as if it stood inside
    _, end, low = min(outside)
    if low and at < end:
        return write_place(at, unit, end, float("inf"))
    if not low and at > end:
        return write_place(at, unit, float("-inf"), end)
    return write_place(at, unit)
