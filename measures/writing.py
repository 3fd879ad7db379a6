"""Writing masses and lengths for people, always with their unit."""

from __future__ import annotations

import re
from enum import Enum
from fractions import Fraction

from measures.quantity import (
    DENSITY_UNITS,
    LENGTH_UNITS,
    MASS_UNITS,
    UNIT_TABLES,
    VOLUME_UNITS,
    Quantity,
    could_be_two,
)
from mechanics.units import KG_PER_LB, M_PER_IN


class UnitSystem(str, Enum):
    """The units a person reads in."""

    US = "us"
    METRIC = "metric"

    @classmethod
    def of_length(cls, unit: str) -> UnitSystem:
        """The system that a unit of length belongs to."""
        return cls.US if unit in ("in", "ft") else cls.METRIC

    @property
    def mass_unit(self) -> str:
        """Unit of every mass shown."""
        return "lb" if self is UnitSystem.US else "kg"

    @property
    def length_unit(self) -> str:
        """Unit of a bare length that is typed."""
        return "in" if self is UnitSystem.US else "mm"

    def bare_unit(self, kind: str) -> str:
        """Unit of a bare number of a kind, a key of :data:`measures.quantity.UNIT_TABLES`."""
        return {
            "mass": self.mass_unit,
            "length": self.length_unit,
            "volume": "gal" if self is UnitSystem.US else "L",
            "density": "lb/yd3" if self is UnitSystem.US else "kg/m3",
            "distance": "mi" if self is UnitSystem.US else "km",
            "speed": "mph" if self is UnitSystem.US else "km/h",
            "pressure": "psi" if self is UnitSystem.US else "kPa",
        }[kind]

    @property
    def kg(self) -> float:
        """Kilograms in one mass unit."""
        return KG_PER_LB if self is UnitSystem.US else 1.0

    @property
    def m(self) -> float:
        """Metres in one length unit."""
        return M_PER_IN if self is UnitSystem.US else 0.001


MINUS = "−"
"""The one sign that is written before a figure below zero; a hyphen is too short to be seen."""


def write_number(value: float, digits: int = 0) -> str:
    """A number with thousands set apart: a whole one, or to some digits; never ``−0``."""
    text = f"{abs(value):,.{digits}f}"
    return f"{MINUS}{text}" if value < 0 and text.strip("0.,") else text


def write_signed(value: float, digits: int = 0) -> str:
    """The same with its sign before it always: ``+ 380``, ``− 40``."""
    text = write_number(abs(value), digits)
    return f"{MINUS if value < 0 and text.strip('0.,') else '+'} {text}"


def write_mass(kg: float, system: UnitSystem) -> str:
    """A mass to the pound or kilogram: ``7,000 lb``."""
    return f"{write_number(kg / system.kg)} {system.mass_unit}"


MOST_DIGITS = 6
"""Digits behind the point after which two figures are called equal."""


def digits_apart(value: float, limit: float, digits: int = 0) -> int:
    """Digits with which a value does not read as equal to a limit that it differs from."""
    while (
        digits < MOST_DIGITS
        and value != limit
        and (write_number(value, digits) == write_number(limit, digits))
    ):
        digits += 1
    return digits


def write_excess(kg: float, system: UnitSystem) -> str:
    """By how much a limit is passed: never ``0 lb`` where it is passed at all."""
    amount = abs(kg) / system.kg
    return f"{write_number(amount, digits_apart(amount, 0.0))} {system.mass_unit}"


def write_masses_apart(value: float, limit: float, system: UnitSystem) -> tuple[str, str]:
    """A mass and its limit in kg, with digits enough to tell them apart."""
    digits = digits_apart(value / system.kg, limit / system.kg)
    return (
        f"{write_number(value / system.kg, digits)} {system.mass_unit}",
        f"{write_number(limit / system.kg, digits)} {system.mass_unit}",
    )


def write_length(m: float, system: UnitSystem, *, step: int = 4) -> str:
    """A length as a tape reads: ``12 ft 6 1/2 in`` to ``1/step`` inch, or ``3,810 mm``."""
    if system is UnitSystem.METRIC:
        return f"{write_number(m * 1000)} mm"
    total = round(m / M_PER_IN * step)
    sign, total = (MINUS if total < 0 else ""), abs(total)
    feet, rest = divmod(total, 12 * step)
    inches, part = divmod(rest, step)
    fraction = Fraction(part, step)
    shown = f"{fraction.numerator}/{fraction.denominator}" if part else ""
    small = " ".join(
        piece for piece in (str(inches) if inches or not shown else "", shown) if piece
    )
    if not feet:
        return f"{sign}{small} in"
    if not inches and not shown:
        return f"{sign}{feet} ft"
    return f"{sign}{feet} ft {small} in"


def write_inches(m: float, system: UnitSystem) -> str:
    """A short distance: ``7 in`` to the half inch, or ``180 mm``."""
    if system is UnitSystem.METRIC:
        return f"{write_number(m * 1000)} mm"
    halves = round(m / M_PER_IN * 2)
    whole, half = divmod(abs(halves), 2)
    text = f"{whole} 1/2" if half and whole else "1/2" if half else str(whole)
    return f"{MINUS if halves < 0 else ''}{text} in"


def write_rate(kg_per_m: float, system: UnitSystem) -> str:
    """A spring rate: ``740 lb/in``, or ``132 kg/cm``."""
    if system is UnitSystem.METRIC:
        return f"{write_number(kg_per_m / 100)} kg/cm"
    return f"{write_number(kg_per_m / system.kg * M_PER_IN)} lb/in"


def write_percent(share: float, digits: int = 1) -> str:
    """A share to a tenth of a percent: ``13.7 %``; to a whole one with no ``digits``."""
    return f"{write_number(share * 100, digits)} %"


def write_share_against(share: float, limit: float) -> str:
    """A share that does not read as its limit where it differs: ``9.97 %`` against 10 %."""
    digits = digits_apart(share * 100, limit * 100, 1)
    return f"{write_number(share * 100, digits)} %"


def write_entered(quantity: Quantity) -> str:
    """A quantity as it was entered, in its own unit: ``7,000 lb``, ``16 ft``, ``150.5 in``.

    What is written is read again as the same.
    """
    plain = quantity.plain
    whole, point, part = plain.partition(".")
    grouped = f"{int(whole):,}"
    if whole.startswith("-") and grouped == "0":
        grouped = "-0"
    text = f"{grouped}{point}{part}"
    if could_be_two(text.lstrip("-"), quantity.unit):
        text = plain
    return f"{text} {quantity.unit}"


def write_given(quantity: Quantity, system: UnitSystem, *, step: int = 16) -> str:
    """A quantity in the person's units, with what was entered in brackets where that differs.

    ``1,588 kg (3,500 lb)``: one page shows one system, and nothing that was typed is lost.
    """
    entered, si = write_entered(quantity), float(quantity.si)
    other = {"gal": "L", "yd3": "m3", "ft3": "m3", "L": "gal", "m3": "yd3"}
    if quantity.unit in MASS_UNITS:
        if quantity.unit == system.mass_unit:
            return entered
        return f"{write_mass(si, system)} ({entered})"
    if quantity.unit in LENGTH_UNITS:
        shown = write_length(si, system, step=step)
        # a tape is read in feet and inches, however it was typed
        metric = quantity.unit in ("mm", "cm", "m")
        if (system is UnitSystem.METRIC) == metric:
            return shown
        return f"{shown} ({entered if metric else write_length(si, UnitSystem.US, step=step)})"
    for kind in ("distance", "speed", "pressure"):
        table, unit = UNIT_TABLES[kind], system.bare_unit(kind)
        if quantity.unit in table:
            return entered if _fits(quantity.unit, system) else f"{write_in(si, unit)} ({entered})"
    metric = quantity.unit in ("L", "m3", "kg/m3", "t/m3", "kg/L")
    if (system is UnitSystem.METRIC) == metric:
        return entered
    if quantity.unit in VOLUME_UNITS:
        unit = other[quantity.unit]
        number = si / float(VOLUME_UNITS[unit])
    else:
        unit = "lb/yd3" if metric else "kg/m3"
        number = si / float(DENSITY_UNITS[unit])
    return f"{write_number(number, 0 if number >= 100 else 1)} {unit} ({entered})"


def _fits(unit: str, system: UnitSystem) -> bool:
    """Whether a unit of the road is of a system."""
    return (unit in ("mi", "mph", "psi")) == (system is UnitSystem.US)


def write_in(si: float, unit: str) -> str:
    """A worked-out figure in a unit: to the tenth below a hundred, to the whole from there."""
    table = next(one for one in UNIT_TABLES.values() if unit in one)
    number = si / float(table[unit])
    return f"{write_number(number, 0 if abs(number) >= 100 or unit in WHOLE else 1)} {unit}"


WHOLE = ("mph", "km/h", "psi", "kPa")
"""Units of which nobody reads tenths."""


def write_densities(*kg_m3: float, system: UnitSystem, fluid: bool = False) -> str:
    """A density, or the two ends of a range: of a fluid by the gallon or litre, of what is
    heaped by the yard or cubic metre."""
    if fluid:
        unit, decimals = ("lb/gal", 1) if system is UnitSystem.US else ("kg/L", 2)
    else:
        unit, decimals = ("lb/yd3" if system is UnitSystem.US else "kg/m3"), 0
    numbers = [value / float(DENSITY_UNITS[unit]) for value in kg_m3]
    return f"{' to '.join(write_number(number, decimals) for number in numbers)} {unit}"


_EITHER = re.compile(r"\{([^{}|]*)\|([^{}|]*)\}")


def in_units_of(text: str, system: UnitSystem) -> str:
    """A text with its figures in the person's units: of ``{30 in|750 mm}`` one is kept."""
    return _EITHER.sub(lambda match: match[2 if system is UnitSystem.METRIC else 1], text)
