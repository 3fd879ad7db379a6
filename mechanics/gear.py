"""Gear that ties are made of: what a chain holds by its grade and size, and a whole tie by its
weakest piece."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

from mechanics.units import KG_PER_LB, M_PER_IN

CHAIN_LB: Final[dict[int, dict[int, float]]] = {
    30: {4: 1300, 5: 1900, 6: 2650, 7: 3500, 8: 4500, 10: 6900},
    43: {4: 2600, 5: 3900, 6: 5400, 7: 7200, 8: 9200, 10: 13000},
    70: {4: 3150, 5: 4700, 6: 6600, 7: 8750, 8: 11300, 10: 15800},
    80: {4: 3500, 5: 4500, 6: 7100, 8: 12000, 10: 18100},
    100: {4: 4300, 5: 5700, 6: 8800, 8: 15000, 10: 22600},
}
"""Working load limit in pounds by grade and by size in sixteenths of an inch, 49 CFR 393.108
(from memory)."""

WEBBING_LB: Final[dict[float, float]] = {1.75: 1750, 2: 2000, 3: 3000, 4: 4000}
"""Working load limit in pounds of synthetic webbing by width in inches, 49 CFR 393.108 (from
memory)."""

UNMARKED_GRADE: Final = 30
"""The grade that unmarked chain counts as (49 CFR 393.108, from memory)."""

NOMINAL_M: Final = 0.0004
"""How far a size as measured may be off the size it is sold as: 8 mm is 5/16 in, 13 mm is 1/2."""


def chain_size(size_m: float) -> int | None:
    """Sixteenths of an inch of a chain's nominal size; ``None`` of a size without an entry."""
    sizes = CHAIN_LB[UNMARKED_GRADE]
    return next((n for n in sizes if abs(n * M_PER_IN / 16 - size_m) <= NOMINAL_M), None)


def chain_limit_kg(size_m: float, grade: int) -> float | None:
    """What the published table has for a chain; ``None`` where it has no such chain."""
    size = chain_size(size_m)
    found = None if size is None else CHAIN_LB.get(grade, {}).get(size)
    return None if found is None else found * KG_PER_LB


def weakest_kg(limits_kg: Iterable[float | None]) -> float | None:
    """What pieces in a row hold: the least of them, ``None`` where one of them is not known."""
    limits = list(limits_kg)
    known = [one for one in limits if one is not None]
    return min(known) if known and len(known) == len(limits) else None
