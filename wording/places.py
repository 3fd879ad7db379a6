"""Where an item stands, in words."""

from __future__ import annotations

from math import inf

from measures.marks import write_place
from measures.writing import UnitSystem, write_inches
from mechanics.item import Item
from mechanics.report import Report
from mechanics.standing import piece_at


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
        return write_place(at, unit, end, inf)
    if not low and at > end:
        return write_place(at, unit, -inf, end)
    return write_place(at, unit)


def way_words(*, drives: bool, forward: bool) -> str:
    """Which way round an item stands, as a driver says it: how it came on, if it drives."""
    if drives:
        return "driven on forward" if forward else "backed on"
    return "front ahead" if forward else "front to the tail"


def sideways_words(left_m: float, unit: UnitSystem) -> str:
    """Where an item stands across the deck, as the driver sees it."""
    if abs(left_m) < SIDEWAYS_M:
        return "on the middle"
    side = "left" if left_m > 0 else "right"
    return f"{write_inches(abs(left_m), unit)} {side} of the middle"


SIDEWAYS_M = 0.001
"""Less than this off the middle is on it."""


def stands_words(item: Item, unit: UnitSystem) -> str:
    """Where an item stands and which way it faces."""
    return f"{write_place(item.placement.reference_m, unit)}, {item.placement.facing.value}"
