"""What is said of stopping a haul, and of the room to leave ahead of it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from book.models import TrailerAxle
from hauls.models import Haul
from measures.writing import UnitSystem, in_units_of, write_number
from mechanics.plan import Plan
from mechanics.report import Report
from mechanics.stopping import FAST_M_S, M_S_PER_MPH, Brakes, seconds_ahead

NOSE_M: Final = 0.9
"""Usual length of a truck ahead of its front axle. Common practice, no source."""

SPEEDS: Final = {
    UnitSystem.US: ("55 mph", 55 * M_S_PER_MPH),
    UnitSystem.METRIC: ("80 km/h", 80 / 3.6),
}
"""The speed at which it is told how far it needs."""

AS_ALONE: Final = 1.05
"""Needing no more than so many times the truck's own way to stop is not worth a word."""


@dataclass(frozen=True, kw_only=True, slots=True)
class StoppingWords:
    """The room to leave ahead, and how far it needs to stop; the latter empty where not known."""

    ahead: str
    stops: str


def braked_axles_kg(haul: Haul) -> float | None:
    """Ratings of the trailer's axles that have brakes; ``None`` where the book does not say of
    every axle whether it has, or what it is rated for."""
    if haul.draft.unbraked:
        return 0.0
    axles = [] if haul.trailer is None else list(haul.trailer.axles.all())
    if not axles or any(not axle.brake for axle in axles):
        return None
    braked = [axle for axle in axles if axle.brake != TrailerAxle.Brake.NONE]
    if any(axle.gawr is None for axle in braked):
        return None
    return sum(float(axle.gawr.si) for axle in braked if axle.gawr is not None)


def outfit_length_m(plan: Plan) -> float:
    """From the truck's nose to the end of the deck or of what reaches past it."""
    deck = plan.trailer.deck
    end = max([deck.length_m, *(item.rearmost_m for item in plan.items)])
    return NOSE_M + plan.truck.wheelbase_m + plan.truck.hitch_offset_m + deck.start_m + end


def stopping_words(haul: Haul, report: Report, unit: UnitSystem) -> StoppingWords:
    """What is said of a haul, as a driver needs it."""
    plan = report.plan
    length = outfit_length_m(plan)
    slow, fast = (seconds_ahead(length, speed) for speed in (0.0, FAST_M_S + 1))
    ahead = in_units_of(f"Leave {slow} seconds ahead, {fast} above {{40 mph|65 km/h}}.", unit)
    axles, plate = braked_axles_kg(haul), plan.truck.gvwr_kg
    if axles is None or plate is None:
        return StoppingWords(ahead=ahead, stops="")
    brakes = Brakes(mass_kg=report.loads.combination_kg, truck_kg=plate, trailer_kg=axles)
    said, speed = SPEEDS[unit]
    way = brakes.distance_m(speed)
    shown = "" if way is None else f" From {said} it stands in about {_round(way, unit)}."
    if brakes.times <= AS_ALONE:
        return StoppingWords(ahead=ahead, stops=f"Stops about as the truck does full.{shown}")
    times = write_number(brakes.times, 1)
    return StoppingWords(
        ahead=ahead, stops=f"Needs {times} times as far to brake as the truck full.{shown}"
    )


def _round(metres: float, unit: UnitSystem) -> str:
    """A way to stop, to ten feet or five metres: it is no more exact than that."""
    if unit is UnitSystem.METRIC:
        return f"{write_number(-(-metres // 5) * 5)} m"
    return f"{write_number(-(-metres / 0.3048 // 10) * 10)} ft"
