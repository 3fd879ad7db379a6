"""An exact number with the unit it was given in."""

from __future__ import annotations

import re
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from typing import Final

from mechanics.units import KG_PER_LB, M_PER_FT, M_PER_IN

MASS_UNITS: Final[dict[str, Fraction]] = {
    "lb": Fraction(str(KG_PER_LB)),
    "kg": Fraction(1),
    "t": Fraction(1000),
    "ton": 2000 * Fraction(str(KG_PER_LB)),
}
"""Kilograms in one of each unit, exact. ``ton`` is the short ton of 2,000 lb."""

LENGTH_UNITS: Final[dict[str, Fraction]] = {
    "in": Fraction(str(M_PER_IN)),
    "ft": Fraction(str(M_PER_FT)),
    "mm": Fraction(1, 1000),
    "cm": Fraction(1, 100),
    "m": Fraction(1),
}
"""Metres in one of each unit, exact."""

_LB, _FT = MASS_UNITS["lb"], LENGTH_UNITS["ft"]
_GAL = 231 * LENGTH_UNITS["in"] ** 3

VOLUME_UNITS: Final[dict[str, Fraction]] = {
    "gal": _GAL,
    "L": Fraction(1, 1000),
    "m3": Fraction(1),
    "yd3": 27 * _FT**3,
    "ft3": _FT**3,
}
"""Cubic metres in one of each unit, exact. ``gal`` is the US gallon of 231 cubic inches."""

DENSITY_UNITS: Final[dict[str, Fraction]] = {
    "kg/m3": Fraction(1),
    "t/m3": Fraction(1000),
    "kg/L": Fraction(1000),
    "lb/yd3": _LB / (27 * _FT**3),
    "lb/ft3": _LB / _FT**3,
    "lb/gal": _LB / _GAL,
}
"""Kilograms per cubic metre in one of each unit, exact."""

_MI = 5280 * _FT

DISTANCE_UNITS: Final[dict[str, Fraction]] = {"mi": _MI, "km": Fraction(1000)}
"""Metres in one of each unit of a way that is driven, exact."""

SPEED_UNITS: Final[dict[str, Fraction]] = {"mph": _MI / 3600, "km/h": Fraction(1000, 3600)}
"""Metres per second in one of each unit, exact."""

PRESSURE_UNITS: Final[dict[str, Fraction]] = {
    "psi": _LB * Fraction("9.80665") / LENGTH_UNITS["in"] ** 2,
    "kPa": Fraction(1000),
    "bar": Fraction(100_000),
}
"""Pascals in one of each unit, exact."""

UNIT_TABLES: Final = {
    "mass": MASS_UNITS,
    "length": LENGTH_UNITS,
    "volume": VOLUME_UNITS,
    "density": DENSITY_UNITS,
    "distance": DISTANCE_UNITS,
    "speed": SPEED_UNITS,
    "pressure": PRESSURE_UNITS,
}
"""Units by kind; no unit stands in two of them."""

LARGE_UNITS: Final = (
    *("t", "ton", "m", "ft", "yd3", "m3", "t/m3", "kg/L", "lb/gal"),
    *("psi", "bar", "mph", "km/h"),
)
"""Units of which nobody hauls thousands: a comma before three digits may be a decimal one."""

_ONE_GROUP = re.compile(r"[1-9]\d{0,2}([.,])\d{3}")


def could_be_two(number: str, unit: str) -> bool:
    """Whether two people would read a written number differently.

    ``7.000`` is seven to some and seven thousand to others, where thousands are hauled of
    that unit; ``1,250`` likewise where they are not.
    """
    match = _ONE_GROUP.fullmatch(number)
    return match is not None and (match[1] == ",") == (unit in LARGE_UNITS)


_TABLE_OF = {unit: table for table in UNIT_TABLES.values() for unit in table}


@dataclass(frozen=True, slots=True)
class Quantity:
    """A measure as it was given: 7000 lb, 3.5 t, 192 in, 82 gal, 50 psi, 62 mi."""

    value: Decimal
    unit: str

    def __post_init__(self) -> None:
        if self.unit not in _TABLE_OF:
            raise ValueError(f"{self.unit} is not a unit of any measure")

    def __str__(self) -> str:
        return f"{self.plain} {self.unit}"

    @property
    def plain(self) -> str:
        """The bare number as a file or a box holds it: no thousands set apart, and never with
        just three digits behind the point where two people would read that differently."""
        text = f"{self.value.normalize():f}"
        return f"{text}0" if could_be_two(text.lstrip("-"), self.unit) else text

    @classmethod
    def parse(cls, stored: str) -> Quantity:
        """The quantity of its own text, as :meth:`__str__` writes it."""
        number, unit = stored.split(" ")
        return cls(Decimal(number), unit)

    @classmethod
    def nearest(cls, si: float, unit: str) -> Quantity:
        """A worked-out figure to the nearest whole number of a unit."""
        return cls(Decimal(round(Fraction(si) / _TABLE_OF[unit][unit])), unit)

    @property
    def si(self) -> Fraction:
        """In the unit of its kind's table: kilograms, metres, cubic metres, kilograms per cubic
        metre, metres per second or pascals, exact."""
        return Fraction(self.value) * _TABLE_OF[self.unit][self.unit]

    def in_unit(self, unit: str) -> float | int:
        """The number in another unit of the same kind; a whole number where it is one."""
        table = _TABLE_OF[self.unit]
        if unit not in table:
            raise ValueError(f"{self} cannot be given in {unit}")
        exact = self.si / table[unit]
        return exact.numerator if exact.denominator == 1 else float(exact)
