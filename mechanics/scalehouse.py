"""A stand-in for a public scale: what it would print for a plan, and how far that may be off."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from mechanics.loads import Loads
from mechanics.scales import VEHICLE


@dataclass(frozen=True, kw_only=True, slots=True)
class Pads:
    """The three pads of a truck-stop scale, in kg."""

    steer_kg: float
    drive_kg: float
    trailer_kg: float

    @property
    def together_kg(self) -> float:
        """All three."""
        return self.steer_kg + self.drive_kg + self.trailer_kg


def pads(loads: Loads) -> Pads:
    """What the pads carry under a plan, with no scale in between."""
    return Pads(
        steer_kg=loads.truck.front_kg,
        drive_kg=loads.truck.rear_kg,
        trailer_kg=loads.trailer.axles_mass_kg,
    )


def scale_doubt_kg(kg: float) -> float:
    """How far a reading may be from the truth: half a step and the scale's tolerance."""
    return VEHICLE.doubt_kg(kg)


def printed(true: Pads, chance: Callable[[], float]) -> Pads:
    """A ticket of these pads: each off by up to the tolerance, rounded to the step.

    ``chance`` gives numbers from -1 to 1; the same numbers give the same ticket.
    """

    return Pads(
        steer_kg=_one(true.steer_kg, chance()),
        drive_kg=_one(true.drive_kg, chance()),
        trailer_kg=_one(true.trailer_kg, chance()),
    )


def printed_alone(loads: Loads, chance: Callable[[], float]) -> tuple[float, float]:
    """Steer and drive pads with the truck alone, in kg, printed the same way."""
    return (
        _one(loads.truck.front_unhitched_kg, chance()),
        _one(loads.truck.rear_unhitched_kg, chance()),
    )


def _one(kg: float, luck: float) -> float:
    return round(kg * (1 + VEHICLE.part * luck) / VEHICLE.step_kg) * VEHICLE.step_kg
