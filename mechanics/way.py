"""How far it is from one place to another."""

from __future__ import annotations

from math import asin, cos, radians, sin, sqrt
from typing import Final

from mechanics.errors import InputError
from mechanics.typical import Estimate

EARTH_M: Final = 6_371_008.8
"""Mean radius of the earth (IUGG, GRS 80; from memory)."""

DETOUR: Final = Estimate(least=1.15, most=1.6)
"""By road over as the crow flies, in open country. Common practice, no source."""


def straight_m(one: tuple[float, float], other: tuple[float, float]) -> float:
    """As the crow flies between two places, each latitude and longitude in degrees, along a great
    circle of a round earth (haversine); within half a percent of the true one.

    Raises:
        InputError: degrees that are on no globe.
    """
    for latitude, longitude in (one, other):
        if not (abs(latitude) <= 90 and abs(longitude) <= 180):
            raise InputError("coordinates", "a latitude up to 90 and a longitude up to 180 degrees")
    lat_1, lon_1, lat_2, lon_2 = (radians(degrees) for degrees in (*one, *other))
    half = sin((lat_2 - lat_1) / 2) ** 2
    half += cos(lat_1) * cos(lat_2) * sin((lon_2 - lon_1) / 2) ** 2
    return 2 * EARTH_M * asin(min(1.0, sqrt(half)))


def by_road_m(one: tuple[float, float], other: tuple[float, float]) -> Estimate:
    """About how far it is by road, from the coordinates alone.

    Raises:
        InputError: degrees that are on no globe.
    """
    return DETOUR.times(straight_m(one, other))
