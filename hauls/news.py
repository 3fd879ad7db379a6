"""What the book says differently by now from what a haul was planned with."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from book.errors import IncompleteError
from hauls.models import Haul
from hauls.services.haul import book_document
from measures.writing import UnitSystem, write_length, write_mass, write_rate
from mechanics.units import LengthUnit, MassUnit

MASSES = ("mass", "gawr", "gvwr", "gcwr", "payload", "capacity")
"""Words in the name of a field that holds a mass; other numbers are lengths."""

WORDS = {
    "gcwr": "GCWR",
    "gvwr": "GVWR",
    "gawr": "rating",
    "front_gawr": "front axle rating",
    "rear_gawr": "rear axle rating",
    "max_trailer_mass": "trailer rating",
    "max_tongue_mass": "tongue rating",
    "empty_tongue_mass": "empty tongue weight",
    "ahead": "balance point ahead of the mark",
    "front": "reach ahead",
    "rear": "reach behind",
    "axles_tolerance": "taped axle places, give or take",
    "start_tolerance": "begins by the tape, give or take",
    "axle_rate": "springs of one axle",
    "rear_rate": "springs of the rear axle",
    "front_rate": "springs of the front axle",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class News:
    """One thing of the book, and what changed: ``payload 2,700 lb → 2,650 lb``."""

    name: str
    changes: tuple[str, ...]


def books_news(haul: Haul, unit: UnitSystem) -> list[News]:
    """What taking the book's present numbers over would change; empty where nothing."""
    try:
        now = book_document(haul)
    except IncompleteError as error:
        return [News(name=error.thing, changes=("lacks " + ", ".join(error.lacks) + " by now",))]
    then = haul.document
    compare = _Comparison(then["units"], unit)
    news = []
    for key in ("truck", "hitch", "trailer"):
        changes = tuple(compare.changes(then[key], now[key]))
        if changes:
            news.append(News(name=then[key].get("name") or key, changes=changes))
    for here, there in zip(then.get("items", []), now.get("items", []), strict=True):
        changes = tuple(compare.changes(here, there))
        if changes:
            news.append(News(name=here.get("name") or here["id"], changes=changes))
    return news


class _Comparison:
    def __init__(self, units: dict[str, str], unit: UnitSystem) -> None:
        self.kg = MassUnit(units["mass"]).kg
        self.m = LengthUnit(units["length"]).m
        self.unit = unit

    def changes(self, then: Any, now: Any, path: tuple[str, ...] = ()) -> Iterator[str]:
        """Each figure that differs, in words."""
        if isinstance(then, dict) and isinstance(now, dict):
            for key in {**then, **now}:
                if key not in ("extra", "placement"):
                    yield from self.changes(then.get(key), now.get(key), (*path, key))
        elif isinstance(then, list) and isinstance(now, list):
            yield from self._lists(then, now, path)
        elif then != now:
            words = " ".join(self._words(step) for step in path)
            yield f"{words} {self._shown(then, path)} → {self._shown(now, path)}"

    def _lists(self, then: list[Any], now: list[Any], path: tuple[str, ...]) -> Iterator[str]:
        named = all("name" in entry for entry in (*then, *now))
        one = {
            (entry["name"] if named else f"{path[-1].rstrip('s')} {n + 1}"): entry
            for n, entry in enumerate(then)
        }
        two = {
            (entry["name"] if named else f"{path[-1].rstrip('s')} {n + 1}"): entry
            for n, entry in enumerate(now)
        }
        for name in {**one, **two}:
            if name not in two:
                yield f"{name} is gone"
            elif name not in one:
                yield f"{name} is new"
            else:
                yield from self.changes(one[name], two[name], (name,))

    def _words(self, step: str) -> str:
        return WORDS.get(step, step.replace("_", " "))

    def _shown(self, value: Any, path: tuple[str, ...]) -> str:
        if value is None:
            return "not known"
        if isinstance(value, bool) or not isinstance(value, (int, float)):
            return str(value)
        if path[-1] == "front_axle_restoration":
            return f"{value * 100:g} %"
        if path[-1].endswith("_rate"):
            return write_rate(value * self.kg / self.m, self.unit)
        if any(word in path[-1] for word in MASSES):
            return write_mass(value * self.kg, self.unit)
        return write_length(value * self.m, self.unit, step=16)
