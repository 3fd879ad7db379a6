"""Where machines are: where the haul before took them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

from book.models import Place
from day.clashes import USUAL_MINUTES
from hauls.models import Haul, HaulItem
from yards.models import Yard


@dataclass(frozen=True, kw_only=True, slots=True)
class Brought:
    """A haul that took a machine somewhere: when it left, and when it was there and done."""

    haul: int
    machine: int
    place: Place
    left: datetime
    done: datetime


Moves = Mapping[int, list[Brought]]
"""Where each machine was taken, in turn."""


def moves_of(yard: Yard, machines: Iterable[int]) -> Moves:
    """The hauls with a day that took machines to a place, or are to."""
    wanted = set(machines)
    if not wanted:
        return {}
    items = (
        HaulItem.objects.filter(
            machine_id__in=wanted,
            haul__yard=yard,
            haul__day__isnull=False,
            haul__taken_to__isnull=False,
        )
        .select_related("haul__taken_to")
        .only(
            "machine_id",
            "haul__day",
            "haul__starts",
            "haul__takes_minutes",
            "haul__taken_to__name",
            "haul__taken_to__home",
        )
    )
    found: dict[int, list[Brought]] = {}
    for item in items:
        place = item.haul.taken_to
        if item.machine_id is None or place is None:
            continue
        left = when(item.haul)
        minutes = USUAL_MINUTES if item.haul.takes_minutes is None else item.haul.takes_minutes
        found.setdefault(item.machine_id, []).append(
            Brought(
                haul=item.haul_id,
                machine=item.machine_id,
                place=place,
                left=left,
                done=left + timedelta(minutes=minutes),
            )
        )
    for moves in found.values():
        moves.sort(key=lambda one: (one.left, one.haul))
    return found


def when(haul: Haul) -> datetime:
    """Its day and hour by the yard's clock; one without an hour comes first on its day."""
    return datetime.combine(haul.day or date.min, haul.starts or time.min)


def place_at(moves: Moves, machine: int, at: datetime) -> Place | None:
    """Where a machine is at a time; ``None`` where no haul took it anywhere before."""
    before = [one for one in moves.get(machine, ()) if one.done <= at]
    return before[-1].place if before else None


def not_there(yard: Yard, week: list[Haul]) -> Iterator[tuple[int, str]]:
    """Hauls that fetch a machine from where an earlier one has not left it, each with the words.

    What no haul took anywhere is where it is fetched from: nobody says otherwise.
    """
    fetched = [haul for haul in week if haul.fetched_from_id is not None and haul.day is not None]
    moves = moves_of(
        yard, (link.machine_id for h in fetched for link in h.links.all() if link.machine_id)
    )
    for haul in fetched:
        for link in haul.links.all():
            before = [
                one
                for one in moves.get(link.machine_id or 0, ())
                if one.haul != haul.pk and one.left < when(haul)
            ]
            if not before or link.machine is None:
                continue
            there = before[-1].place
            if there.pk != haul.fetched_from_id:
                yield haul.pk, f"{link.machine.name} is at {there.name} by then"
