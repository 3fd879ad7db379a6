"""A yard's own flags: one figure and the limit from which it is raised, with source and date."""

from __future__ import annotations

from typing import Any, Final

from django import forms

from book.forms import InUnits
from hauls.road_rules import OwnFlag
from measures import READERS, Quantity, ReadingError, UnitSystem
from mechanics.law import LENGTHS, MASSES, Condition, Fact, Rule
from wording.law import FACTS

MOST_OWN: Final = 30
"""Flags of its own that a yard has at most."""


class OwnFlagForm(InUnits, forms.Form):
    """A flag of one's own."""

    words = forms.CharField(
        label="What has to be done", max_length=200, help_text="Escort vehicle in our county, say."
    )
    fact = forms.ChoiceField(
        label="Goes by", choices=[(fact.value, FACTS[fact]) for fact in (*MASSES, *LENGTHS)]
    )
    limit = forms.CharField(
        label="From how much",
        max_length=40,
        help_text="{12,000 lb, or 9 ft of width|5,500 kg, or 2,600 mm of width}.",
    )
    source = forms.CharField(label="Where it stands", max_length=200)
    as_of = forms.CharField(label="As of", max_length=40, help_text="March 2026, say.")

    def __init__(self, data: Any = None, *, units: UnitSystem) -> None:
        super().__init__(data)
        self.units = units
        self.prepare(units)

    def clean(self) -> dict[str, Any]:
        """The limit is read as a mass or a length, by what it is of."""
        found: dict[str, Any] = super().clean() or {}
        if "fact" not in found or "limit" not in found:
            return found
        kind = "mass" if Fact(found["fact"]) in MASSES else "length"
        try:
            read = READERS[kind](found["limit"], self.units.bare_unit(kind))
        except ReadingError as error:
            self.add_error("limit", str(error))
            return found
        if read.value <= 0:
            self.add_error("limit", "This has to be more than zero.")
        found["limit"] = str(read)
        return found

    @property
    def flag(self) -> OwnFlag:
        """The flag as rules keep it."""
        told = self.cleaned_data
        return OwnFlag(**{name: told[name] for name in OwnFlag._fields})


def own_rule(flag: OwnFlag) -> Rule | None:
    """A flag of the yard's own as a rule; ``None`` where its figure or limit cannot be read, as of
    a file that somebody else wrote."""
    try:
        limit = float(Quantity.parse(flag.limit).si)
        condition = Condition(fact=Fact(flag.fact), limit=limit, reached=True)
    except (ValueError, ArithmeticError):
        return None
    return Rule(code="own", source=flag.source, conditions=(condition,))
