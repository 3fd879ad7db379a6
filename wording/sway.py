"""What is said of a swing. Never that a speed is allowed: slower is calmer."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from measures.writing import UnitSystem, write_number
from mechanics.motion import FRAMES_PER_S, Course, Motion, Push
from mechanics.sway import Swing

NO_LOAD: Final = (
    "An axle carries nothing, or the tongue lifts it off: of that nothing can be said here. Put "
    "the load right first."
)

NO_LOAD_HERE: Final = "Of an axle that carries nothing, nothing can be said"

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


def half_figures(swings: Sequence[Swing]) -> str:
    """``0.9 to 1.6 s``, of the same speed under several assumptions; ``grows`` where it grows under
    any of them, ``no swing`` where there is one under none."""
    told = [one for one in swings if one.damping is not None]
    if not told:
        return NO_SWING
    if any(one.half_life_s is None for one in told):
        return GROWS
    halves = sorted(one.half_life_s for one in told if one.half_life_s is not None)
    if halves[-1] > SLOWEST_S:
        return HARDLY
    low, high = write_number(halves[0], 1), write_number(halves[-1], 1)
    return f"{low} s" if low == high else f"{low} to {high} s"


NO_SWING: Final = "no swing"
GROWS: Final = "grows"
HARDLY: Final = "hardly dies out"


def half_words(swings: Sequence[Swing]) -> str:
    """The same as a clause: ``halves in 0.9 to 1.6 s``, ``grows``."""
    figures = half_figures(swings)
    if figures in (GROWS, HARDLY):
        return figures
    return "does not swing: it dies out without" if figures == NO_SWING else f"halves in {figures}"


def speed_band(found: Sequence[float | None], unit_m_s: float, unit: str, most: int) -> str:
    """``between 92 and 118 mph``; what is found under some assumptions only is said so."""
    told = sorted(round(one / unit_m_s) for one in found if one is not None)
    if not told:
        return f"not up to {most} {unit}"
    some = "" if len(told) == len(found) else f", or not up to {most} {unit}"
    if told[0] == told[-1]:
        return f"at about {told[0]} {unit}{some}"
    return f"between {told[0]} and {told[-1]} {unit}{some}"


TIRES: Final = {"low": "soft", "mid": "usual", "high": "firm"}
"""What the cases of the tires are called."""

PUSHES: Final = {Push.GUST: "a gust, as of a lorry passing", Push.LANE: "a lane change"}

COURSES: Final = {
    Course.SLOWER: "foot off, slowing down",
    Course.HELD: "holding the speed",
    Course.FASTER: "speeding up",
}


def shown_words(unit: UnitSystem) -> str:
    """What is taken to happen in a run, and what is not in it."""
    change = "1 mph" if unit is UnitSystem.US else "2 km/h"
    return (
        "The driver holds the wheel still after it. The gust pushes the tail away and draws it in, "
        "with at most a twentieth of the trailer's weight; the lane change takes four seconds; the "
        f"speed changes by about {change} each second. Slowing down is a foot off the pedal: what "
        "brakes do, and the trailer pushing on the ball, is not in it. A run ends at 15 degrees, "
        "where tires no longer hold as the model has it."
    )


PAST: Final = "past 15 degrees"
"""Where a run ends before its time."""


def left_words(motion: Motion, push: Push) -> str:
    """What is left of the largest swing in the last two seconds: ``2 %``."""
    if motion.past:
        return f"it grows {PAST}"
    end = (len(motion.swing_rad) - 1) / FRAMES_PER_S
    most = motion.largest_rad(0, push.ends_s + 1)
    if not most:
        return "no swing"
    left = motion.largest_rad(end - 2, end) / most
    if left > 1:
        return f"it has grown to {write_number(left, 1)} times"
    return "less than 1 % is left" if left < 0.01 else f"{round(left * 100)} % is left"
