"""What Match found as a table for a spreadsheet."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

from book.tables import csv_text, quoted
from matching.pairs import Match

COLUMNS: Final = (
    *("verdict", "truck", "hitch", "trailer", "why"),
    *("least reserve", "stop at", "backward", "sure part", "on and off"),
)


def match_table(rows: Iterable[Match]) -> str:
    """Pairs as CSV, the best first, a line each."""
    return csv_text(COLUMNS, ([quoted(cell) for cell in _cells(row)] for row in rows))


def _cells(row: Match) -> tuple[str, ...]:
    return (
        row.word,
        row.hitch.truck.name,
        row.hitch.name,
        row.trailer.name,
        row.line,
        row.reserve_words or "not known",
        row.place,
        "yes" if row.backward else "no",
        row.sure,
        "cannot say" if row.climb is None else row.climb.word,
    )
