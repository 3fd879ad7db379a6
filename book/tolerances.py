"""How far a figure may be wrong, by how it is known: the usual, and the yard's own."""

from __future__ import annotations

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any, Final

from book.models import Known, Machine
from measures import Quantity
from yards.models import Yard

MOST_PERCENT: Final = 100.0
"""A mass cannot be doubted by more than all of it."""

MOST: Final = {
    "mass": Quantity(Decimal(2000), "lb"),
    "length": Quantity(Decimal(100), "in"),
}
"""Doubts above these are slips of the hand: a step of a scale, a tape, a balance point."""


_SCALE_STEP = Quantity(Decimal(20), "lb")
_HALF_INCH = Quantity(Decimal("0.5"), "in")
_INCH = Quantity(Decimal(1), "in")
_FOUR_INCHES = Quantity(Decimal(4), "in")
_TEN_INCHES = Quantity(Decimal(10), "in")


@dataclass(frozen=True, kw_only=True, slots=True)
class Tolerances:
    """Parts of a mass in percent; a scale's step, balance points, and what a tape leaves open.

    ``tape`` is of a taped place of axles or deck, ``stop`` how near its mark a machine comes
    to stand. The scale's step of 20 lb is NIST Handbook 44's for vehicle scales, from
    memory; the others are common practice with no source.
    """

    plate_percent: float = 2.0
    built_up_percent: float = 5.0
    brochure_percent: float = 10.0
    guess_percent: float = 20.0
    bulk_percent: float = 10.0
    scale_step: Quantity = _SCALE_STEP
    balance_axles: Quantity = _INCH
    balance_built_up: Quantity = _FOUR_INCHES
    balance_guess: Quantity = _TEN_INCHES
    tape: Quantity = _HALF_INCH
    stop: Quantity = _INCH

    @classmethod
    def of(cls, yard: Yard) -> Tolerances:
        """The yard's own where it has set them, else the usual."""
        return cls.read(yard.tolerances or {})

    @classmethod
    def read(cls, own: dict[str, Any]) -> Tolerances:
        """Tolerances as they are kept: numbers of percent, quantities as ``10 kg``.

        Earlier versions kept bare pounds and inches under names that end in ``_lb`` and
        ``_in``; they are read too.

        Raises:
            ValueError: an unknown name, or a value that is none.
        """
        found: dict[str, Any] = {}
        for name, value in own.items():
            bare, _, unit = name.rpartition("_")
            if unit in ("lb", "in") and bare in QUANTITIES:
                found[bare] = _bounded(bare, Quantity(Decimal(str(float(value))), unit))
            elif name in QUANTITIES:
                found[name] = _bounded(name, Quantity.parse(str(value)))
            elif name in PERCENTS and not isinstance(value, (bool, str)):
                if not 0 <= float(value) <= MOST_PERCENT:
                    raise ValueError(f"{name}: from 0 to {MOST_PERCENT:g} %")
                found[name] = float(value)
            else:
                raise ValueError(f"{name}: no tolerance of that name and kind")
        return replace(cls(), **found)

    def own(self) -> dict[str, Any]:
        """Those that differ from the usual, as they are kept."""
        usual = Tolerances()
        found: dict[str, Any] = {}
        for name in (*PERCENTS, *QUANTITIES):
            value = getattr(self, name)
            if value != getattr(usual, name):
                found[name] = str(value) if isinstance(value, Quantity) else value
        return found

    def mass_kg(self, mass_kg: float, known: str, own: Quantity | None) -> float:
        """Give or take of a mass: what was entered for it, else by how it is known."""
        if own is not None:
            return float(own.si)
        if known == Known.WEIGHED:
            return float(self.scale_step.si)
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
        usual = {
            Machine.BalanceKnown.AXLES: self.balance_axles,
            Machine.BalanceKnown.BUILT_UP: self.balance_built_up,
            Machine.BalanceKnown.GUESS: self.balance_guess,
        }[Machine.BalanceKnown(known)]
        return float(usual.si)

    @property
    def tape_m(self) -> float:
        """Give or take of a taped place, in m."""
        return float(self.tape.si)

    @property
    def stop_m(self) -> float:
        """How far from its mark a machine may come to stop, in m."""
        return float(self.stop.si)


PERCENTS: Final = (
    "plate_percent",
    "built_up_percent",
    "brochure_percent",
    "guess_percent",
    "bulk_percent",
)
"""Tolerances that are a part of the figure."""

QUANTITIES: Final = {
    "scale_step": "mass",
    "balance_axles": "length",
    "balance_built_up": "length",
    "balance_guess": "length",
    "tape": "length",
    "stop": "length",
}
"""Tolerances that have a unit of their own, with the kind of it."""


def _bounded(name: str, quantity: Quantity) -> Quantity:
    kind = QUANTITIES[name]
    if quantity.unit not in ({"lb", "kg", "t", "ton"} if kind == "mass" else LENGTHS):
        raise ValueError(f"{name}: {quantity} is not a {kind}")
    if not 0 <= quantity.si <= MOST[kind].si:
        raise ValueError(f"{name}: from nothing to {MOST[kind]}")
    return quantity


LENGTHS: Final = {"in", "ft", "mm", "cm", "m"}
