"""Where it really stopped, beside where it was to, in words."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Final

from hauls.models import Haul
from measures import UnitSystem
from measures.marks import write_place
from measures.writing import write_given, write_inches, write_mass
from planfile.errors import PlanFileError
from road.models import Stopped
from wording.phrases import NOBODY, signed_mass

AS_PLANNED_M: Final = 0.006
"""A mark nearer to its place than a quarter of an inch is at it."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Beside:
    """What was planned, and beside it what was really so; ``apart`` in words."""

    planned: str
    figure: str
    apart: str


@dataclass(frozen=True, kw_only=True, slots=True)
class StoppedAt:
    """Where it really stopped: each mark, the gauge, the wheel arches, who read it and when.

    It ``teaches`` where the book can learn from it; ``taught`` is the ticket that was made of it.
    """

    pk: int
    beside: tuple[Beside, ...]
    note: str
    by: str
    at: datetime
    photos: tuple[int, ...]
    taught: int
    teaches: bool

    @property
    def words(self) -> str:
        """All of it in a line, for whoever read it otherwise."""
        figures = "; ".join(f"{one.planned}: {one.figure}" for one in self.beside)
        return f"{figures}{f'; {self.note}' if self.note else ''} ({self.by})"


def stopped_at(haul: Haul, unit: UnitSystem) -> StoppedAt | None:
    """Where a haul really stopped, as it was read last; ``None`` where nobody has."""
    rows = Stopped.objects.filter(haul=haul).select_related("by")
    found = rows.prefetch_related("loads", "photos").first()
    return None if found is None else shown(haul, found, unit)


def shown(haul: Haul, found: Stopped, unit: UnitSystem) -> StoppedAt:
    """One reading in words."""
    loads = list(found.loads.all())
    beside = [
        Beside(
            planned=f"{f'{load.name} ' if len(loads) > 1 else ''}stopped at, planned "
            f"{write_place(load.planned_m, unit)}",
            figure=write_given(load.mark, unit),
            apart=_moved(float(load.mark.si) - load.planned_m, unit),
        )
        for load in loads
    ]
    if found.gauge is not None:
        off = float(found.gauge.si) - found.tongue_kg
        beside.append(
            Beside(
                planned=f"gauge, planned {write_mass(found.tongue_kg, unit)}",
                figure=write_given(found.gauge, unit),
                apart=signed_mass(off, unit) if abs(off) >= unit.kg / 2 else "as planned",
            )
        )
    beside += [
        Beside(planned=label, figure=write_given(height, unit), apart="")
        for label, height in (("front arch", found.arch_front), ("rear arch", found.arch_rear))
        if height is not None
    ]
    return StoppedAt(
        beside=tuple(beside),
        note=found.note,
        pk=found.pk,
        by=found.by.shown_name if found.by else NOBODY,
        at=found.at,
        photos=tuple(photo.pk for photo in found.photos.all()),
        taught=found.ticket_id or 0,
        teaches=_teaches(haul, found),
    )


def _teaches(haul: Haul, found: Stopped) -> bool:
    """Whether the book can learn from a reading: a gauge, the mark of every load, its trailer."""
    if found.gauge is None or haul.trailer_id is None:
        return False
    try:
        items = {item.id for item in haul.draft.plan.items}
    except PlanFileError:
        return False
    return bool(items) and items == {load.item_id for load in found.loads.all()}


def _moved(back_m: float, unit: UnitSystem) -> str:
    """How far from its place a mark is, along the deck."""
    if abs(back_m) < AS_PLANNED_M:
        return "as planned"
    return f"{write_inches(abs(back_m), unit)} further {'back' if back_m > 0 else 'forward'}"
