"""An exact number with the unit it was given in."""

from __future__ import annotations

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


@dataclass(frozen=True, slots=True)
class Quantity:
    """A mass or a length as it was given: 7000 lb, 3.5 t, 192 in."""

    value: Decimal
    unit: str

    def __post_init__(self) -> None:
        if self.unit not in MASS_UNITS and self.unit not in LENGTH_UNITS:
            raise ValueError(f"{self.unit} is not a unit of mass or length")

    def __str__(self) -> str:
        number = self.value.normalize()
        return f"{number:f} {self.unit}"

    @classmethod
    def parse(cls, stored: str) -> Quantity:
        """The quantity of its own text, as :meth:`__str__` writes it."""
        number, unit = stored.split(" ")
        return cls(Decimal(number), unit)

    @property
    def si(self) -> Fraction:
        """Kilograms or metres, exact."""
        per = MASS_UNITS.get(self.unit) or LENGTH_UNITS[self.unit]
        return Fraction(self.value) * per

    def in_unit(self, unit: str) -> float | int:
        """The number in another unit of the same kind; a whole number where it is one."""
        table = MASS_UNITS if self.unit in MASS_UNITS else LENGTH_UNITS
        if unit not in table:
            raise ValueError(f"{self} cannot be given in {unit}")
        exact = self.si / table[unit]
        return exact.numerator if exact.denominator == 1 else float(exact)
