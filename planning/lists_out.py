"""The list of hauls as a table for a spreadsheet."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

from book.tables import csv_text, quoted
from hauls.assigning import hour_words
from hauls.models import Haul
from mechanics.checks import Status
from planfile.draft import glance
from wording.statuses import STATUS_WORDS

COLUMNS: Final = (
    *("name", "day", "leaves at", "away, minutes", "driver", "from", "to", "purpose"),
    *("state", "verdict"),
    *("truck", "trailer", "loads", "changed on", "archived"),
)

MOST: Final = 5000
"""Hauls that one table holds; the newest."""


def hauls_table(hauls: Iterable[Haul]) -> str:
    """Hauls as CSV, a line each; no cell is one that a spreadsheet takes for a formula."""
    return csv_text(COLUMNS, ([quoted(cell) for cell in _cells(haul)] for haul in hauls))


def _cells(haul: Haul) -> tuple[str, ...]:
    names = glance(haul.document)
    return (
        haul.name,
        "" if haul.day is None else haul.day.isoformat(),
        hour_words(haul.starts),
        "" if haul.takes_minutes is None else str(haul.takes_minutes),
        haul.driver.shown_name if haul.driver else "",
        "" if haul.fetched_from is None else haul.fetched_from.name,
        "" if haul.taken_to is None else haul.taken_to.name,
        haul.purpose,
        Haul.State(haul.state).label,
        STATUS_WORDS[Status(haul.verdict)],
        names.truck,
        names.trailer,
        ", ".join(names.items) or "empty",
        haul.changed_at.date().isoformat(),
        "yes" if haul.archived else "no",
    )
