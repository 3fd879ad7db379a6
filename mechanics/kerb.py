"""The empty truck on its axles, from whatever the yard has: a ticket, a kerb mass, a sticker."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from mechanics.errors import InputError
from mechanics.typical import FRONT_PART

STANDARD_DRIVER_KG: Final = 75.0
"""Driver that a metric kerb mass ("mass in running order") counts in; from memory of EU
practice."""

STANDARD_DRIVER_PLACE: Final = 0.45
"""Where that driver sits, as a part of the wheelbase ahead of the rear axle. Common
practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class EmptyAxles:
    """Axle loads of the truck with nobody and nothing aboard, and their tolerances.

    ``mass_tolerance_kg`` is of both together, ``None`` where that is what the two add up to.
    """

    front_kg: float
    rear_kg: float
    front_tolerance_kg: float = 0.0
    rear_tolerance_kg: float = 0.0
    mass_tolerance_kg: float | None = None


def axles_from_ticket(
    *,
    front_kg: float,
    rear_kg: float,
    wheelbase_m: float,
    aboard_kg: float = 0.0,
    aboard_ahead_of_rear_axle_m: float = 0.0,
    reading_tolerance_kg: float = 0.0,
) -> EmptyAxles:
    """Both axles on the scale, less whoever sat in the truck there.

    Raises:
        InputError: what was aboard leaves nothing on an axle.
    """
    on_front = aboard_kg * aboard_ahead_of_rear_axle_m / wheelbase_m
    front, rear = front_kg - on_front, rear_kg - (aboard_kg - on_front)
    if not front > 0 or not rear > 0:
        raise InputError("aboard", "a mass and place that leave something on both axles")
    return EmptyAxles(
        front_kg=front,
        rear_kg=rear,
        front_tolerance_kg=reading_tolerance_kg,
        rear_tolerance_kg=reading_tolerance_kg,
    )


def axles_from_kerb_mass(
    *,
    kerb_kg: float,
    kerb_part: float,
    front_share: float | None = None,
    with_driver: bool = False,
) -> EmptyAxles:
    """A kerb mass laid on two axles: by the share given, else by the usual one and its doubt.

    ``kerb_part`` is how far the mass itself may be wrong. ``with_driver`` takes the
    standard driver of a metric kerb mass out again.

    Raises:
        InputError: a share outside 0 to 1, or nothing left on an axle.
    """
    share = FRONT_PART.value if front_share is None else front_share
    doubt = FRONT_PART.tolerance if front_share is None else 0.0
    if not 0 < share < 1:
        raise InputError("front_share", "more than 0 and less than 100 %")
    driver = STANDARD_DRIVER_KG if with_driver else 0.0
    front = kerb_kg * share - driver * STANDARD_DRIVER_PLACE
    rear = kerb_kg * (1 - share) - driver * (1 - STANDARD_DRIVER_PLACE)
    if not front > 0 or not rear > 0:
        raise InputError("kerb_mass", "a mass that leaves something on both axles")
    return EmptyAxles(
        front_kg=front,
        rear_kg=rear,
        front_tolerance_kg=kerb_kg * (kerb_part * share + doubt),
        rear_tolerance_kg=kerb_kg * (kerb_part * (1 - share) + doubt),
        mass_tolerance_kg=kerb_kg * kerb_part,
    )
