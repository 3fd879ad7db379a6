"""How far a figure may be wrong, by how it is known: the usual, and the yard's own."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from book.models import Known, Machine
from measures import Quantity
from mechanics.units import KG_PER_LB, M_PER_IN
from yards.models import Yard


@dataclass(frozen=True, kw_only=True, slots=True)
class Tolerances:
    """Parts of a mass, inches of a balance point, pounds of a scale's step.

    The scale's step of 20 lb is NIST Handbook 44's for vehicle scales, from memory; the
    others are common practice with no source.
    """

    plate_percent: float = 2.0
    built_up_percent: float = 5.0
    brochure_percent: float = 10.0
    guess_percent: float = 20.0
    bulk_percent: float = 10.0
    scale_step_lb: float = 20.0
    balance_axles_in: float = 1.0
    balance_built_up_in: float = 4.0
    balance_guess_in: float = 10.0

    @classmethod
    def of(cls, yard: Yard) -> Tolerances:
        """The yard's own where it has set them, else the usual."""
        own: dict[str, Any] = yard.tolerances or {}
        names = cls.__dataclass_fields__
        return replace(cls(), **{name: float(own[name]) for name in names if name in own})

    def mass_kg(self, mass_kg: float, known: str, own: Quantity | None) -> float:
        """Give or take of a mass: what was entered for it, else by how it is known."""
        if own is not None:
            return float(own.si)
        if known == Known.WEIGHED:
            return self.scale_step_lb * KG_PER_LB
        percent = {
            Known.PLATE: self.plate_percent,
            Known.BUILT_UP: self.built_up_percent,
            Known.BROCHURE: self.brochure_percent,
            Known.GUESS: self.guess_percent,
        }.get(Known(known) if known else Known.WEIGHED, 0.0)
        return mass_kg * percent / 100

    def balance_m(self, known: str, own: Quantity | None) -> float:
        """Give or take of a balance point, the same way."""
        if own is not None:
            return float(own.si)
        inches = {
            Machine.BalanceKnown.AXLES: self.balance_axles_in,
            Machine.BalanceKnown.BUILT_UP: self.balance_built_up_in,
            Machine.BalanceKnown.GUESS: self.balance_guess_in,
        }[Machine.BalanceKnown(known)]
        return inches * M_PER_IN
