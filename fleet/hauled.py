"""What a yard's hauls say of its things: which limit is tightest, and what they rest on."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import date, timedelta
from functools import lru_cache
from typing import Final

from django.db.models import Q

from hauls.estimates import kept_estimates
from hauls.models import Haul
from mechanics.report import evaluate
from planfile.draft import Draft
from planfile.errors import PlanFileError
from wording.sentences import tightest_of
from yards.models import Yard

BACK: Final = timedelta(days=90)
"""How far back hauls are looked at."""

MOST: Final = 120
"""Hauls that are looked at, the newest."""

Key = tuple[str, int]
"""A thing of the book: ``truck``, ``trailer`` or ``machine``, and its key."""


@dataclass(frozen=True, slots=True)
class Told:
    """What one plan says: the code of its tightest limit, empty where none is known, and of what
    (``truck``, ``trailer`` or an item's id) which figures are estimates."""

    tightest: str
    estimates: tuple[tuple[str, str], ...]


def told_of(haul: Haul) -> Told:
    """What a haul's plan says, worked out once for each document; nothing of one that cannot be
    read."""
    return _told(json.dumps(haul.document, sort_keys=True))


@lru_cache(maxsize=512)
def _told(document: str) -> Told:
    try:
        plan = Draft.read(json.loads(document)).plan
    except PlanFileError:
        return Told("", ())
    tightest = tightest_of(evaluate(plan))
    return Told(
        "" if tightest is None else tightest.code,
        tuple((kept.item or kept.of, kept.told.words) for kept in kept_estimates(plan)),
    )


@dataclass
class Hauled:
    """What was found of each thing: how many hauls it was on, which limits of it were tightest,
    which of its figures those hauls rest on that nobody measured, and its next haul."""

    hauls: Counter[Key] = field(default_factory=Counter)
    tight: dict[Key, Counter[str]] = field(default_factory=dict)
    guesses: dict[Key, Counter[str]] = field(default_factory=dict)
    coming: dict[Key, Haul] = field(default_factory=dict)
    out: dict[Key, Haul] = field(default_factory=dict)


def hauled(yard: Yard, today: date) -> Hauled:
    """What the yard's recent and coming hauls say."""
    found = Hauled()
    recent = Q(day__gte=today - BACK) | Q(day=None, archived=False)
    there = Haul.objects.filter(recent, yard=yard).select_related("taken_to")
    newest = there.prefetch_related("links").order_by("-day", "-pk")[:MOST]
    for haul in newest:
        _add(found, haul, today)
    return found


def _add(found: Hauled, haul: Haul, today: date) -> None:
    told = told_of(haul)
    things: dict[str, Key] = {
        name: (name, key)
        for name, key in (("truck", haul.truck_id), ("trailer", haul.trailer_id))
        if key is not None
    }
    for link in haul.links.all():
        if link.machine_id is not None:
            things[link.item_id] = ("machine", link.machine_id)
    for key in set(things.values()):
        found.hauls[key] += 1
        if haul.state == Haul.State.ON_THE_ROAD:
            found.out[key] = haul
        coming = found.coming.get(key)
        to_come = haul.day is not None and haul.day >= today and haul.state in COMING
        if to_come and (coming is None or _when(haul) < _when(coming)):
            found.coming[key] = haul
    whose = "trailer" if told.tightest.startswith("trailer") else "truck"
    if told.tightest and whose in things:
        found.tight.setdefault(things[whose], Counter())[told.tightest] += 1
    for of, name in told.estimates:
        if of in things:
            found.guesses.setdefault(things[of], Counter())[name] += 1


COMING: Final = (Haul.State.PLANNED, Haul.State.READY)


def _when(haul: Haul) -> tuple[date, str]:
    return haul.day or date.max, str(haul.starts or "")


def most_often(counts: Iterable[tuple[str, int]]) -> tuple[str, int]:
    """The first of what was counted most often."""
    return max(counts, key=lambda one: one[1])
