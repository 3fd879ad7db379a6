"""What is said of the room an outfit needs: to what drives ahead of it, and to stop."""

from __future__ import annotations

from typing import Final

from measures.writing import UnitSystem, in_units_of, write_number
from mechanics.plan import Plan
from mechanics.stopping import FAST_M_S, Brakes, outfit_length_m, seconds_ahead
from mechanics.units import M_PER_FT, M_S_PER_MPH

SPEEDS: Final = {
    UnitSystem.US: ("55 mph", 55 * M_S_PER_MPH),
    UnitSystem.METRIC: ("80 km/h", 80 / 3.6),
}
"""The speed at which it is told how far it needs."""

STEPS: Final = {UnitSystem.US: ("ft", 10, M_PER_FT), UnitSystem.METRIC: ("m", 5, 1.0)}
"""How exactly a way to stop is told, rounded up: in which unit, to how many of it, its metres."""

AS_ALONE: Final = 1.05
"""Needing no more than so many times the truck's own way to stop is not worth a word."""


def room_words(plan: Plan, brakes: Brakes | None, unit: UnitSystem) -> str:
    """The room to leave ahead, and how far it needs to stop; without brakes that are known only the
    first."""
    length = outfit_length_m(plan)
    slow, fast = (seconds_ahead(length, speed) for speed in (0.0, FAST_M_S + 1))
    ahead = in_units_of(f"Leave {slow} seconds ahead, {fast} above {{40 mph|65 km/h}}.", unit)
    return ahead if brakes is None else f"{ahead} {_stops(brakes, unit)}"


def _stops(brakes: Brakes, unit: UnitSystem) -> str:
    said, speed = SPEEDS[unit]
    way = brakes.distance_m(speed)
    shown = "" if way is None else f" From {said} it stands in about {distance_words(way, unit)}."
    if brakes.times <= AS_ALONE:
        return f"Stops about as the truck does full.{shown}"
    times = write_number(brakes.times, 1)
    return f"Needs {times} times as far to brake as the truck full.{shown}"


def distance_words(metres: float, unit: UnitSystem) -> str:
    """A way to stop, rounded up to what is worth telling."""
    name, step, per = STEPS[unit]
    return f"{write_number(-(-metres / per // step) * step)} {name}"
