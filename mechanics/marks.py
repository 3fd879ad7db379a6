"""Marks on a tape: a place is brought onto one that lies where it has to."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Final

ON_A_MARK_M: Final = 1e-6
"""A place this close to a mark stands on it: far below any tape, above rounding."""


def mark_within(at_m: float, low_m: float, high_m: float, step_m: float) -> float | None:
    """The mark nearest a place, of those a step apart that lie from ``low_m`` to ``high_m``;
    ``None`` where none does."""
    first = math.ceil((low_m - ON_A_MARK_M) / step_m)
    last = math.floor((high_m + ON_A_MARK_M) / step_m)
    return min(max(round(at_m / step_m), first), last) * step_m if first <= last else None


def nearest_mark(at_m: float, low_m: float, high_m: float, steps_m: Sequence[float]) -> float:
    """The mark nearest a place that lies from ``low_m`` to ``high_m``; coarse steps first.

    Without a mark in between it is the place itself, brought in between.
    """
    for step in steps_m:
        mark = mark_within(at_m, low_m, high_m, step)
        if mark is not None:
            return mark
    return min(max(at_m, low_m), high_m)
