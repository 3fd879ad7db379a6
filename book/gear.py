"""What gear of the rack holds, and how that is known."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Final

from book.figures import si
from book.models import Gear
from measures.writing import UnitSystem, write_given, write_mass
from mechanics.gear import UNMARKED_GRADE, WEBBING_LB, chain_limit_kg
from mechanics.units import KG_PER_LB, M_PER_IN

TABLE: Final = "49 CFR 393.108, from memory"
"""Where the published limits are from."""

LOOKED_OVER_DAYS: Final = 365
"""Days after which gear should have been looked over again. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class GearLimit:
    """What a piece holds, ``None`` where it counts nothing, and where that is from."""

    kg: float | None
    source: str


def gear_limit(gear: Gear) -> GearLimit:
    """A piece's working load limit: as marked, else as published; what is retired holds
    nothing."""
    if gear.retired:
        return GearLimit(kg=None, source=f"retired: {gear.get_retired_display().lower()}")
    if gear.wll is not None:
        return GearLimit(kg=si(gear.wll), source="as marked")
    if gear.kind == Gear.Kind.CHAIN and gear.size is not None:
        grade = int(gear.grade or UNMARKED_GRADE)
        found = chain_limit_kg(si(gear.size), grade)
        counts = f"grade {grade}" if gear.grade else f"no grade to be read, counts as {grade}"
        if found is None:
            return GearLimit(kg=None, source=f"{counts}: none published for its size")
        return GearLimit(kg=found, source=f"{counts} ({TABLE})")
    return GearLimit(kg=None, source="not marked: counts nothing")


def called_limit(gear: Gear, units: UnitSystem) -> str:
    """What would be published for webbing of a strap's width; empty for anything else."""
    if gear.kind != Gear.Kind.STRAP or gear.wll is not None or gear.size is None:
        return ""
    inches = si(gear.size) / M_PER_IN
    found = next((lb for width, lb in WEBBING_LB.items() if abs(width - inches) < 0.06), None)
    if found is None:
        return ""
    limit = write_mass(found * KG_PER_LB, units)
    return (
        f"Webbing of {write_given(gear.size, units)} is published with {limit} ({TABLE}); without "
        "a tag nobody knows what this one is."
    )


def overdue(gear: Gear, today: date) -> bool:
    """Whether it has not been looked over for too long."""
    seen = gear.inspected_on
    return seen is not None and (today - seen).days > LOOKED_OVER_DAYS
