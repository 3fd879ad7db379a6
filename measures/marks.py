"""Places on the tape as people read them: rounded so that they read where they are."""

from __future__ import annotations

import math
from typing import Final

from measures.writing import MINUS, UnitSystem, write_length, write_number
from mechanics.marks import ON_A_MARK_M
from mechanics.units import M_PER_IN

STEPS: Final = {
    UnitSystem.US: (M_PER_IN / 2, M_PER_IN / 4, M_PER_IN / 8, M_PER_IN / 16),
    UnitSystem.METRIC: (0.01, 0.005, 0.001),
}
"""Distances between marks, from what a crew stops a machine by to the finest on a tape."""

SIXTEENTHS: Final = 16


def write_place(
    at_m: float, system: UnitSystem, low_m: float = -math.inf, high_m: float = math.inf
) -> str:
    """A place on the tape: ``12 ft 11 in``, rounded so that it reads from ``low_m`` to ``high_m``.

    A place that is itself outside is written to the nearest mark outside. Where no mark
    serves, the exact figure is written.
    """
    if not low_m <= high_m or not low_m - ON_A_MARK_M <= at_m <= high_m + ON_A_MARK_M:
        # outside a window it must not read as inside
        if at_m < low_m:
            low_m, high_m = -math.inf, low_m - ON_A_MARK_M
        elif at_m > high_m:
            low_m, high_m = high_m + ON_A_MARK_M, math.inf
    step = STEPS[system][-1]
    first = -math.inf if math.isinf(low_m) else math.ceil((low_m - ON_A_MARK_M) / step)
    last = math.inf if math.isinf(high_m) else math.floor((high_m + ON_A_MARK_M) / step)
    mark = min(max(round(at_m / step), first), last)
    if not first <= mark <= last or abs(mark * step - at_m) > step:
        return write_exactly(at_m, system)
    return write_length(mark * step, system, step=SIXTEENTHS)


def write_ends(start_m: float, end_m: float, system: UnitSystem) -> tuple[str, str]:
    """Both ends of a window, the lower rounded up and the upper down: to a quarter inch or a
    millimetre, finer where that leaves nothing, exact where no mark lies between them."""
    fine = STEPS[system][1:] if system is UnitSystem.US else STEPS[system][-1:]
    for step in fine:
        first = math.ceil((start_m - ON_A_MARK_M) / step)
        last = math.floor((end_m + ON_A_MARK_M) / step)
        if first <= last:
            return (
                write_length(first * step, system, step=SIXTEENTHS),
                write_length(last * step, system, step=SIXTEENTHS),
            )
    return write_exactly(start_m, system), write_exactly(end_m, system)


def write_width(metres: float, system: UnitSystem) -> str:
    """How wide a window is, rounded down as its ends are rounded inward; exact where that
    would leave nothing of it."""
    fine = STEPS[system][1:] if system is UnitSystem.US else STEPS[system][-1:]
    for step in fine:
        whole = math.floor((metres + ON_A_MARK_M) / step)
        if whole > 0:
            return write_length(whole * step, system, step=SIXTEENTHS)
    return write_exactly(max(metres, 0.0), system)


def write_exactly(at_m: float, system: UnitSystem) -> str:
    """A place between two marks: ``12 ft 11.4010 in``, ``3,947.23 mm``."""
    if system is UnitSystem.METRIC:
        return f"{write_number(at_m * 1000, 2)} mm"
    sign = MINUS if at_m < 0 else ""
    feet, inches = divmod(round(abs(at_m) / M_PER_IN, 4), 12)
    return f"{sign}{feet:.0f} ft {inches:.4f} in" if feet else f"{sign}{inches:.4f} in"
