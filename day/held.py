"""Trucks and trailers that should not go out on a day, and why."""

from __future__ import annotations

from datetime import date
from typing import Final

from measures import UnitSystem
from road.defects import holding_up
from road.inspections import dues_of
from yards.models import Yard

MOST: Final = 200
"""Defects that are looked at, the newest."""

Key = tuple[type, int]
"""A truck or trailer."""


def held_up(yard: Yard, day: date, units: UnitSystem) -> dict[Key, tuple[str, ...]]:
    """What is open on each that stops it, and which of its inspections are overdue, in words."""
    found: dict[Key, list[str]] = {}
    for defect in holding_up(yard, MOST):
        key = (type(defect.thing), defect.thing.pk)
        found.setdefault(key, []).append(f"held up: {defect.what}")
    for due in dues_of(yard, day, units, everything=True):
        if due.overdue:
            found.setdefault(due.key, []).append(f"{due.what} {due.words}")
    return {key: tuple(words) for key, words in found.items()}
