"""What a haul is for: who drives it when, from where to where."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, time

from django.db import transaction

from book.models import Place
from hauls.models import Haul
from yards.models import User

LONGEST_MINUTES = 24 * 60
"""No haul takes longer: what goes on for days is several."""


class AlreadyChangedError(Exception):
    """Somebody else changed the same in between; nothing is stored."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Job:
    """When a haul goes, how long outfit and driver are away, who drives, from where to where, and
    what for. Anything may be left open."""

    day: date | None = None
    starts: time | None = None
    takes_minutes: int | None = None
    driver: User | None = None
    fetched_from: Place | None = None
    taken_to: Place | None = None
    purpose: str = ""


FIELDS = tuple(Job.__dataclass_fields__)


def job_of(haul: Haul) -> Job:
    """What is said of a haul."""
    return Job(**{name: getattr(haul, name) for name in FIELDS})


def where_words(haul: Haul) -> str:
    """``Fernbeck yard to Low Fields``, ``to Low Fields``; empty where no place is said."""
    if haul.fetched_from is not None and haul.taken_to is not None:
        return f"{haul.fetched_from.name} to {haul.taken_to.name}"
    if haul.taken_to is not None:
        return f"to {haul.taken_to.name}"
    return "" if haul.fetched_from is None else f"from {haul.fetched_from.name}"


def hour_words(at: time | None) -> str:
    """``9:30``; empty where no hour is said."""
    return "" if at is None else f"{at.hour}:{at.minute:02}"


def assigned(haul: Haul) -> str:
    """What is said of a haul, as a page hands it back with a change."""
    said = (
        haul.day,
        haul.starts,
        haul.takes_minutes,
        haul.driver_id,
        haul.fetched_from_id,
        haul.taken_to_id,
        haul.purpose,
    )
    return "|".join("" if one is None else str(one) for one in said)


@transaction.atomic
def assign(haul: Haul, job: Job, *, was: str) -> None:
    """Say when a haul goes, who drives it and where.

    ``was`` is :func:`assigned` of the haul as the page showed it.

    Raises:
        AlreadyChangedError: it is otherwise by now.
    """
    if assigned(Haul.objects.select_for_update().get(pk=haul.pk)) != was:
        raise AlreadyChangedError
    Haul.objects.filter(pk=haul.pk).update(**{name: getattr(job, name) for name in FIELDS})
    for name in FIELDS:
        setattr(haul, name, getattr(job, name))
