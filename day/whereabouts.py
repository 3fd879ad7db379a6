"""Where machines are when somebody comes to fetch them: where the haul before took them."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, time

from hauls.models import Haul, HaulItem
from yards.models import Yard


def not_there(yard: Yard, week: list[Haul]) -> Iterator[tuple[int, str]]:
    """Hauls that fetch a machine from where an earlier one has not left it, each with the words.

    What no haul took anywhere is where it is fetched from: nobody says otherwise.
    """
    fetched = [haul for haul in week if haul.fetched_from_id is not None and haul.day is not None]
    wanted = {link.machine_id for haul in fetched for link in haul.links.all() if link.machine_id}
    if not wanted:
        return
    moved = (
        HaulItem.objects.filter(
            machine_id__in=wanted,
            haul__yard=yard,
            haul__day__isnull=False,
            haul__taken_to__isnull=False,
        )
        .select_related("haul__taken_to", "machine")
        .only("machine__name", "haul__day", "haul__starts", "haul__taken_to__name")
    )
    ways: dict[int, list[HaulItem]] = {}
    for item in moved:
        if item.machine_id is not None:
            ways.setdefault(item.machine_id, []).append(item)
    for haul in fetched:
        for link in haul.links.all():
            before = [
                item
                for item in ways.get(link.machine_id or 0, ())
                if item.haul_id != haul.pk and _when(item.haul) < _when(haul)
            ]
            if not before:
                continue
            last = max(before, key=lambda item: (_when(item.haul), item.haul_id))
            there = last.haul.taken_to
            if there is not None and there.pk != haul.fetched_from_id and link.machine is not None:
                yield haul.pk, f"{link.machine.name} is at {there.name} by then"


def _when(haul: Haul) -> tuple[date, time]:
    """Its day and hour; one without an hour comes first on its day."""
    return haul.day or date.min, haul.starts or time.min
