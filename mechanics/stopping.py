"""How far an outfit needs to stop, and what room to leave ahead: a simple model, stated as one.

A brake gives at most what stops its own rating at :data:`DESIGN_M_S2`: the truck's brakes its
GVWR, each braked trailer axle its GAWR. An outfit that weighs no more than all of those together
stops as the truck alone, loaded to its plate, does; one that weighs more needs as much longer as it
is heavier. On a slope gravity takes its part away.

    reaction  v t,    braking  v² / (2 g (a/g k + slope)),    k = min(1, rated / mass)

Source of a, t and of the form: AASHTO, A Policy on Geometric Design of Highways and Streets,
stopping sight distance (a 3.4 m/s², t 2.5 s), from memory. What the model leaves out: fade, tires,
the road being wet or loose, how the load of the axles shifts, how well a controller is set.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Final

from mechanics.errors import InputError
from mechanics.plan import Plan
from mechanics.units import M_PER_FT, M_S_PER_MPH

G: Final = 9.81
"""Metres per second squared."""

DESIGN_M_S2: Final = 3.4
"""Slowing that most drivers get on a wet road and stay in their lane with, in m/s²."""

REACTION_S: Final = 2.5
"""Seconds until the brake is on."""


FAST_M_S: Final = 40 * M_S_PER_MPH
"""Above it the room ahead is a second more."""


NOSE_M: Final = 0.9
"""Usual length of a truck ahead of its front axle. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Brakes:
    """What an outfit weighs, and what its brakes are rated for, both in kg.

    ``truck_kg`` is the truck's GVWR, ``trailer_kg`` the ratings of the axles that have brakes.
    """

    mass_kg: float
    truck_kg: float
    trailer_kg: float

    def __post_init__(self) -> None:
        if not self.mass_kg > 0 or not self.truck_kg > 0 or not self.trailer_kg >= 0:
            raise InputError("brakes", "a mass and ratings greater than zero")
        if not math.isfinite(self.mass_kg + self.truck_kg + self.trailer_kg):
            raise InputError("brakes", "a mass and ratings that are finite")

    @property
    def times(self) -> float:
        """How many times as far as the truck alone at its plate it needs to stop; at least 1."""
        return max(1.0, self.mass_kg / (self.truck_kg + self.trailer_kg))

    def distance_m(self, speed_m_s: float, slope: float = 0.0) -> float | None:
        """Metres from seeing something to standing still; ``slope`` is rise over run, negative
        downhill. ``None`` where the slope pulls harder than the brakes hold.

        Raises:
            InputError: a speed below zero.
        """
        if not speed_m_s >= 0:
            raise InputError("speed", "a speed of at least zero")
        held = DESIGN_M_S2 / G / self.times + slope
        if held <= 0:
            return None
        return REACTION_S * speed_m_s + speed_m_s**2 / (2 * G * held)


def outfit_length_m(plan: Plan) -> float:
    """From the truck's nose, as is usual, to the end of the deck or of what reaches past it."""
    deck = plan.trailer.deck
    end = max((deck.length_m, *(item.rearmost_m for item in plan.items)))
    return NOSE_M + plan.truck.wheelbase_m + plan.truck.hitch_offset_m + deck.start_m + end


def seconds_ahead(length_m: float, speed_m_s: float) -> int:
    """Seconds to leave to what drives ahead: one for each 10 ft of the outfit's length, begun ones
    too, and one more above 40 mph.

    Source: the model Commercial Driver's License Manual, section 2.7 (space ahead), from memory.

    Raises:
        InputError: a length that is not greater than zero.
    """
    if not length_m > 0:
        raise InputError("length", "a length greater than zero")
    whole = math.ceil(round(length_m / (10 * M_PER_FT), 6))
    return whole + (speed_m_s > FAST_M_S)
