"""Headroom: every rated limit as a bar, all ending at one line."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from measures.writing import (
    UnitSystem,
    digits_apart,
    write_length,
    write_mass,
    write_number,
    write_percent,
)
from mechanics.checks import Check, Status
from mechanics.codes import Family
from mechanics.limits import Quantity, Sense
from mechanics.report import Report
from wording.limits import label
from wording.phrases import Names, within
from wording.statuses import status_word

SHOWN: Final = 9
"""Rows in sight; the others fold away under them."""

BAR_LIMIT: Final = 0.88
"""Where on a row the common limit line stands, leaving room for what is past it."""

NO_LIMIT_FILL: Final = 1.2
"""How far a bar reaches past its line where the limit is nothing."""


@dataclass(frozen=True, slots=True)
class Bar:
    """A bar of a hundred units up to and past the common limit line, to a tenth of a unit."""

    fill: float
    past: float
    edge: float = BAR_LIMIT * 100

    @property
    def edge_line(self) -> float:
        """Where the common limit line begins."""
        return round(self.edge - 0.35, 2)


@dataclass(frozen=True, kw_only=True, slots=True)
class Row:
    """One limit: its words and its bar."""

    code: str
    name: str
    status: str
    word: str
    likely: bool
    margin: str
    tail: str
    bar: Bar
    open: bool

    @property
    def key(self) -> str:
        """What tells it from other rows of the page."""
        return f"{self.code}-{self.name}".replace(" ", "_")


def in_sight(report: Report, names: Names, unit: UnitSystem) -> frozenset[tuple[str, str | None]]:
    """Ratings whose rows are in sight, each by its code and the item it is about; faults of place
    come and go."""
    shown = {row.key for row in rows_of(report, "", names, unit)[:SHOWN]}
    return frozenset(
        (check.code, check.item)
        for check in report.checks
        if check.quantity is Quantity.MASS and row_of(check, "", names, unit).key in shown
    )


def rows_of(report: Report, opened: str, names: Names, unit: UnitSystem) -> list[Row]:
    """Rated limits, least reserve first; before them faults of place, and what is not known."""
    faults = [
        c
        for c in report.checks
        if c.quantity is Quantity.LENGTH and c.status not in (Status.OK, Status.UNKNOWN)
    ]
    rated = [c for c in report.checks if c.quantity is Quantity.MASS]
    known = sorted(
        (c for c in rated if c.status is not Status.UNKNOWN),
        key=lambda c: (c.status is not Status.NEAR, _room(c)),
    )
    over = [c for c in known if c.status is Status.OVER]
    unknown = [c for c in report.checks if c.status is Status.UNKNOWN]
    rest = [c for c in known if c.status is not Status.OVER]
    return [
        row_of(c, opened, names, unit, likely=c.code in report.unsettled)
        for c in (*over, *faults, *unknown, *rest)
    ]


def _room(check: Check) -> float:
    room = check.room_left
    return -1.0 if room is None else room


def row_of(
    check: Check, opened: str, names: Names, unit: UnitSystem, *, likely: bool = False
) -> Row:
    """One limit's line."""
    name = label(check.code, names, unit)
    if check.item is not None:
        name = f"{names.get(check.item, check.item)}: {within(name)}"
    margin, tail, fill = _figures(check, unit)
    past = min(max(fill - 1.0, 0.0), (1 - BAR_LIMIT) / BAR_LIMIT)
    return Row(
        code=check.code,
        name=name,
        status=check.status.value,
        word=status_word(check, likely=likely),
        likely=likely,
        margin=margin,
        tail=tail,
        bar=Bar(
            fill=round(min(max(fill, 0.0), 1.0) * BAR_LIMIT * 100, 1),
            past=round(past * BAR_LIMIT * 100, 1),
        ),
        open=check.code == opened,
    )


def _figures(check: Check, unit: UnitSystem) -> tuple[str, str, float]:
    """What is left, of what, and how much of the limit is used."""
    if check.status is Status.UNKNOWN:
        words = "size not known" if check.quantity is Quantity.LENGTH else "rating not known"
        return "", words, 0.0
    gap, limit = check.margin or 0.0, check.limit or 0.0
    if check.quantity is Quantity.LENGTH:
        step = 16 if check.sense is Sense.EQUAL else 2
        tail = "past it" if gap < 0 else "left"
        if check.sense is Sense.EQUAL:
            tail = "apart"
        return write_length(abs(gap), unit, step=step), tail, 0.0
    if check.about.family is Family.TRUCK_LIGHT:
        room = check.room_left or 0.0
        tail = f"of {write_mass(check.unhitched_kg, unit)} unhitched"
        return write_percent(room), tail, 1 - room
    left = gap / unit.kg
    margin = write_number(left) if left >= 0 else write_number(-left, digits_apart(-left, 0.0))
    words = "left of" if left >= 0 else "over"
    tail = f"{words} {write_number(limit / unit.kg)} {unit.mass_unit}"
    return margin, tail, check.value / limit if limit else NO_LIMIT_FILL
