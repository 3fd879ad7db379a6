"""Small pieces of sentences that many words share."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Final

from measures.writing import MINUS, UnitSystem, write_inches, write_signed
from mechanics.hitch import HitchType
from mechanics.plan import Plan

Names = Mapping[str, str]
"""What items are called, by their ids."""

NOT_KNOWN: Final = "not known"


def names_of(plan: Plan) -> dict[str, str]:
    """What the items of a plan are called, by their ids."""
    return {item.id: item.called for item in plan.items}


def tongue_word(hitch: HitchType) -> str:
    """What the load on the hitch is called: pin weight on a gooseneck or fifth wheel."""
    return "pin" if hitch.over_bed else "tongue"


def within(words: str) -> str:
    """A name in the middle of a sentence: ``truck GVWR``."""
    return words[:1].lower() + words[1:]


def begun(words: str) -> str:
    """Words at the beginning of a sentence: ``The trailer's GVWR``."""
    return words[:1].upper() + words[1:]


def listed(words: Sequence[str]) -> str:
    """``one``, ``one and another``, ``one, another and a third``; empty of none."""
    if len(words) < 2:
        return "".join(words)
    return f"{', '.join(words[:-1])} and {words[-1]}"


def signed_mass(kg: float, unit: UnitSystem) -> str:
    """A mass that adds or takes away, with its sign."""
    return f"{write_signed(kg / unit.kg)} {unit.mass_unit}"


def signed_inches(metres: float, unit: UnitSystem) -> str:
    """A short length by which something is more or less, with its sign."""
    written = write_inches(abs(metres), unit)
    less = metres < 0 and written != write_inches(0.0, unit)
    return f"{MINUS if less else '+'} {written}"


def some_inches(metres: float, unit: UnitSystem) -> str:
    """A short length that never reads as none where there is some: ``less than 1/2 in``."""
    written = write_inches(metres, unit)
    if metres > 0 and written == write_inches(0.0, unit):
        return f"less than {SMALLEST[unit]}"
    return written


SMALLEST: Final = {UnitSystem.US: "1/2 in", UnitSystem.METRIC: "1 mm"}
"""The least short length that is written."""


NOBODY = "somebody no longer here"
"""Whoever did something and has left the yard since."""
