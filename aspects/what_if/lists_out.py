"""The ways side by side as a table for a spreadsheet."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

from aspects.what_if.page import LIMITS_SHOWN, Column
from book.tables import csv_text, quoted

COLUMNS: Final = (
    *("way", "verdict", "why", "tongue", "rule of share"),
    *(f"limit {n}" for n in range(1, LIMITS_SHOWN + 1)),
    *("stop at", "windows"),
)


def ways_table(columns: Iterable[Column]) -> str:
    """Ways as CSV, the haul as it is first, a line each; limits the tightest first. A way that
    could not be worked out says why and has nothing else."""
    return csv_text(COLUMNS, ([quoted(cell) for cell in _cells(column)] for column in columns))


def _cells(column: Column) -> tuple[str, ...]:
    limits = [f"{cell.name}: {cell.figure}" for cell in column.limits]
    limits += [""] * (LIMITS_SHOWN - len(limits))
    return (
        column.heading,
        column.word,
        column.line,
        column.tongue,
        column.school,
        *limits,
        "; ".join(f"{row.name} {row.place}" for row in column.windows),
        "; ".join(f"{row.name}: {row.sure}" for row in column.windows),
    )
