"""What several weighings of one trailer say about its plans: a bias learned from tickets."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from mechanics.errors import InputError

FEWEST: Final = 3
"""Tickets from which a bias is spoken of at all."""

T_95: Final = (
    12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228,
    2.201, 2.179, 2.160, 2.145, 2.131, 2.120, 2.110, 2.101, 2.093, 2.086,
)  # fmt: skip
"""Student's t, two-sided 95 %, by degrees of freedom from 1 (any statistics handbook, from
memory); beyond the table 2.086 errs to the careful side."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Bias:
    """The mean of read less planned in kg, and half the width of its 95 % interval."""

    mean_kg: float
    within_kg: float
    count: int

    @property
    def matters(self) -> bool:
        """Whether chance alone would rarely give so much."""
        return abs(self.mean_kg) > self.within_kg


def learned(differences_kg: Sequence[float]) -> Bias | None:
    """The bias behind differences read less planned; ``None`` with fewer than three.

    Raises:
        InputError: a difference is not a number.
    """
    if not all(math.isfinite(d) for d in differences_kg):
        raise InputError("differences", "finite numbers")
    count = len(differences_kg)
    if count < FEWEST:
        return None
    mean = sum(differences_kg) / count
    spread = math.sqrt(sum((d - mean) ** 2 for d in differences_kg) / (count - 1))
    t = T_95[min(count - 1, len(T_95)) - 1]
    return Bias(mean_kg=mean, within_kg=t * spread / math.sqrt(count), count=count)
