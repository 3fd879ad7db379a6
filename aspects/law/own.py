"""A yard's own flags: one figure and the limit from which it is raised, with source and date."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator
from dataclasses import replace
from typing import Any, Final

from django import forms
from django.db import transaction

from book.forms import InUnits
from hauls.road_rules import RoadRules
from measures import READERS, Quantity, ReadingError, UnitSystem
from mechanics.law import LENGTHS, MASSES, Condition, Fact, Rule
from wording.law import FACTS
from yards.models import Yard

MOST_OWN: Final = 30
"""Flags of its own that a yard has at most."""


class AlreadyChangedError(Exception):
    """Somebody else changed the flags in between."""


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
    def flag(self) -> tuple[str, str, str, str, str]:
        """The flag as rules keep it."""
        told = self.cleaned_data
        return told["words"], told["fact"], told["limit"], told["source"], told["as_of"]


def own_rules(rules: RoadRules) -> Iterator[tuple[int, Rule]]:
    """The yard's own flags as rules, with their numbers from 1; what cannot be read is left out."""
    for number, (_, fact, limit, source, _) in enumerate(rules.own_flags, 1):
        try:
            condition = Condition(
                fact=Fact(fact), limit=float(Quantity.parse(limit).si), reached=True
            )
        except (ValueError, ArithmeticError):
            continue
        yield number, Rule(code=f"own.{number}", source=source, conditions=(condition,))


def own_words(rules: RoadRules, number: int) -> tuple[str, str]:
    """What a flag of the yard's own says, and as of when."""
    words, _, _, _, as_of = rules.own_flags[number - 1]
    return words, as_of


def digest(rules: RoadRules) -> str:
    """By which a page that is behind is known."""
    return hashlib.sha256(json.dumps(rules.own_flags).encode()).hexdigest()[:16]


@transaction.atomic
def keep_flags(yard: Yard, flags: tuple[tuple[str, str, str, str, str], ...], was: str) -> None:
    """Keep the yard's own flags.

    Raises:
        AlreadyChangedError: they are otherwise by now than ``was``.
    """
    held = Yard.objects.select_for_update().get(pk=yard.pk)
    rules = RoadRules.of(held)
    if digest(rules) != was:
        raise AlreadyChangedError
    held.road = replace(rules, own_flags=flags).own()
    held.save(update_fields=["road"])
