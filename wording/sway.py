"""What is said of a swing. Never that a speed is allowed: slower is calmer."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from measures.writing import write_number
from mechanics.sway import Swing

NO_LOAD: Final = (
    "An axle carries nothing, or the tongue lifts it off: of that nothing can be said here. Put "
    "the load right first."
)

CALMER: Final = (
    "Slower is calmer. This says which of two ways is calmer, and by how much; it never says which "
    "speed is allowed. Plates and the law come first."
)

UNKNOWN: Final = (
    "Not in it: brakes, sway bars and friction dampers, gusts, soft or worn tires. So speeds are "
    "worth little here, and comparisons much. The band is for tires that hold little and much."
)

SLOWEST_S: Final = 60.0
"""Half-lives above this are told as hardly dying out."""


def half_words(swings: Sequence[Swing]) -> str:
    """``halves in 0.9 to 1.6 s``, of the same speed under several assumptions; ``grows`` where it
    grows under any of them, ``does not swing`` where it does under none."""
    told = [one for one in swings if one.damping is not None]
    if not told:
        return "does not swing: it dies out without"
    if any(one.half_life_s is None for one in told):
        return "grows"
    halves = sorted(one.half_life_s for one in told if one.half_life_s is not None)
    least, most = halves[0], halves[-1]
    if most > SLOWEST_S:
        return "hardly dies out"
    low, high = write_number(least, 1), write_number(most, 1)
    return f"halves in {low} s" if low == high else f"halves in {low} to {high} s"


def speed_band(found: Sequence[float | None], unit_m_s: float, unit: str, most: int) -> str:
    """``between 92 and 118 mph``; what is found under some assumptions only is said so."""
    told = sorted(round(one / unit_m_s) for one in found if one is not None)
    if not told:
        return f"not up to {most} {unit}"
    some = "" if len(told) == len(found) else f", or not up to {most} {unit}"
    if told[0] == told[-1]:
        return f"at about {told[0]} {unit}{some}"
    return f"between {told[0]} and {told[-1]} {unit}{some}"
