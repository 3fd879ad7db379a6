"""What the book says differently by now from what a haul was planned with."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from book.errors import IncompleteError
from hauls.drafting import book_draft
from hauls.models import Haul
from measures.writing import UnitSystem, write_length, write_mass, write_rate
from planfile.differences import Difference, Kind, Value, differences
from planfile.errors import PlanFileError
from wording.phrases import NOT_KNOWN

WORDS: Final = {
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
        now = book_draft(haul)
    except IncompleteError as error:
        return [News(name=error.thing, changes=("lacks " + ", ".join(error.lacks) + " by now",))]
    except PlanFileError as error:
        return [News(name="The book", changes=(f"has figures that do not go together: {error}",))]
    by_thing: dict[str, list[Difference]] = {}
    for difference in differences(haul.draft, now):
        by_thing.setdefault(difference.thing, []).append(difference)
    return [
        News(name=found[0].name, changes=tuple(_words(one, unit) for one in found))
        for found in by_thing.values()
    ]


def _words(difference: Difference, unit: UnitSystem) -> str:
    path = " ".join(WORDS.get(step, step.replace("_", " ")) for step in difference.path)
    if difference.gone or difference.new:
        return f"{path} is {'gone' if difference.gone else 'new'}"
    return f"{path} {_shown(difference.then, unit)} → {_shown(difference.now, unit)}"


def _shown(value: Value, unit: UnitSystem) -> str:
    if value is None:
        return NOT_KNOWN
    if isinstance(value, str):
        return value.replace("_", " ")
    if value.kind is Kind.PART:
        return f"{value.si * 100:g} %"
    if value.kind is Kind.RATE:
        return write_rate(value.si, unit)
    if value.kind is Kind.MASS:
        return write_mass(value.si, unit)
    return write_length(value.si, unit, step=16)
