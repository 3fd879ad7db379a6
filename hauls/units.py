"""What was entered in the book, in the units that one document is written in."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Self

from msgspec import UNSET, UnsetType

from measures import Quantity, UnitSystem
from mechanics.units import LengthUnit, MassUnit
from planfile.draft import Draft, Units


@dataclass(frozen=True, kw_only=True, slots=True)
class FileUnits(Units):
    """The units one document is written in, and what was entered, in them."""

    @classmethod
    def of(cls, system: UnitSystem) -> Self:
        """The units a person's new hauls are written in."""
        return cls(mass=MassUnit(system.mass_unit), length=LengthUnit(system.length_unit))

    @classmethod
    def of_draft(cls, draft: Draft) -> Self:
        """The units a draft is written in already."""
        return cls(mass=draft.units.mass, length=draft.units.length)

    def m(self, quantity: Quantity) -> float:
        """A mass that was entered."""
        return quantity.in_unit(self.mass.value)

    def x(self, quantity: Quantity) -> float:
        """A length that was entered."""
        return quantity.in_unit(self.length.value)

    def m_if(self, quantity: Quantity | None) -> float | UnsetType:
        """A mass that may not be known."""
        return UNSET if quantity is None else self.m(quantity)

    def x_if(self, quantity: Quantity | None) -> float | UnsetType:
        """A length that may not be known."""
        return UNSET if quantity is None else self.x(quantity)
