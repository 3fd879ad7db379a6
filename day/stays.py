"""Machines that have to be somewhere: which of them no haul brings in time, and which may be
fetched again."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Final

from django.utils.formats import date_format

from book.models import Place
from day.models import Stay
from day.whereabouts import Moves, moves_of, place_at
from hauls.assigning import hour_words
from yards.models import Yard

MOST: Final = 200
"""Stays that a yard has open at a time."""

LONG_OVER: Final = timedelta(days=60)
"""How far back stays are looked at whose machine has not been fetched."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Due:
    """A machine that has to be moved on a day, or until then: to its place by ``by``, or from it
    once its stay is over (``back``). ``there`` is where it is, ``None`` where nobody says."""

    stay: Stay
    there: Place | None
    by: datetime
    back: bool = False


def since_words(stay: Stay) -> str:
    """``Tuesday 24, 7:00``."""
    return _moment(stay.since, stay.since_time)


def until_words(stay: Stay) -> str:
    """``Thursday 26``; empty where it stays for good."""
    return "" if stay.until is None else _moment(stay.until, stay.until_time)


def _moment(day: date, at: time | None) -> str:
    words = date_format(day, "l j M")
    return words if at is None else f"{words}, {hour_words(at)}"


def begins(stay: Stay) -> datetime:
    """When it has to be there: at its hour, else by the end of that day."""
    return datetime.combine(stay.since, stay.since_time or time.max)


def ends(stay: Stay) -> datetime | None:
    """When it may be fetched: at its hour, else from the end of that day on."""
    if stay.until is None:
        return None
    return datetime.combine(stay.until, stay.until_time or time.max)


def stays_of(yard: Yard, first: date, last: date) -> list[Stay]:
    """Stays that go on at some time between two days."""
    there = Stay.objects.filter(yard=yard, since__lte=last).exclude(until__lt=first)
    return list(there.select_related("machine", "configuration__machine", "place")[:MOST])


def due(yard: Yard, day: date) -> list[Due]:
    """What has to be moved on a day, or should have been: machines that are not where they have to
    be by the end of it, and those whose stay is over by then and that are still there."""
    stays = stays_of(yard, day - LONG_OVER, day)
    moves = moves_of(yard, {stay.machine_id for stay in stays})
    night = datetime.combine(day, time.max)
    wanted = {
        stay.machine_id
        for stay in stays
        if begins(stay) <= night and ((over := ends(stay)) is None or over > night)
    }
    found = []
    for stay in stays:
        over = ends(stay)
        there = place_at(moves, stay.machine_id, night)
        if over is None or over > night:
            if begins(stay) <= night and (there is None or there.pk != stay.place_id):
                found.append(Due(stay=stay, there=there, by=begins(stay)))
        elif there is not None and there.pk == stay.place_id and stay.machine_id not in wanted:
            found.append(Due(stay=stay, there=there, by=night, back=True))
    return found


def late(yard: Yard, first: date, last: date) -> Iterator[str]:
    """Stays that begin between two days and whose machine no haul brings in time, in words."""
    stays = [stay for stay in stays_of(yard, first, last) if stay.since >= first]
    moves = moves_of(yard, {stay.machine_id for stay in stays})
    for stay in stays:
        there = place_at(moves, stay.machine_id, begins(stay))
        if there is None or there.pk != stay.place_id:
            yield late_words(stay, moves)


def late_words(stay: Stay, moves: Moves) -> str:
    """``Skid steer has to be at Mill Ponds by Tuesday 24 Nov, 7:00, and no haul brings it.``"""
    what = f"{stay.configuration or stay.machine} has to be at {stay.place.name}"
    later = [
        one
        for one in moves.get(stay.machine_id, ())
        if one.place.pk == stay.place_id and one.done > begins(stay)
    ]
    when = f"by {since_words(stay)}" if stay.since_time else f"on {since_words(stay)}"
    if not later:
        return f"{what} {when}, and no haul brings it."
    comes = later[0].done
    said = _moment(comes.date(), comes.time())
    return f"{what} {when}, and its haul has it there by {said} only."


def overlapping(stay: Stay, others: Iterable[Stay]) -> Stay | None:
    """Another stay of the same machine at the same time; ``None`` where there is none."""
    for other in others:
        if other.pk == stay.pk or other.machine_id != stay.machine_id:
            continue
        over, other_over = ends(stay), ends(other)
        starts_before = other_over is None or begins(stay) < other_over
        ends_after = over is None or begins(other) < over
        if starts_before and ends_after:
            return other
    return None
