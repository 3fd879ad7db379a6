"""Empty runs: what a truck drives without a load before each haul of a day, and home after."""

from __future__ import annotations

from collections.abc import Iterable

from book.models import Place
from book.ways import way_between, way_words
from day.whereabouts import when
from hauls.models import Haul
from measures import UnitSystem
from yards.models import Yard


def empty_runs(yard: Yard, hauls: Iterable[Haul], units: UnitSystem) -> dict[int, str]:
    """What a truck drives empty before a haul, and home after the last of its day, by haul, in
    words. Only hauls with an hour are in an order, and only those with places begin somewhere."""
    places = {place.pk: place for place in Place.objects.filter(yard=yard).prefetch_related("ways")}
    home = next((place for place in places.values() if place.home), None)
    days: dict[tuple[object, int], list[Haul]] = {}
    for haul in hauls:
        if haul.truck_id is not None and haul.starts is not None:
            days.setdefault((haul.day, haul.truck_id), []).append(haul)
    found: dict[int, str] = {}
    for day in days.values():
        at = home
        ordered = sorted(day, key=lambda one: (when(one), one.pk))
        for haul in ordered:
            begins = places.get(haul.fetched_from_id or 0)
            run = _run(at, begins, units)
            if run and begins is not None and at is not None:
                found[haul.pk] = f"Before it {run} empty from {at.name}."
            at = places.get(haul.taken_to_id or 0)
        back = _run(at, home, units)
        if back:
            last = ordered[-1].pk
            found[last] = f"{found.get(last, '')} Then {back} home empty.".strip()
    return found


def _run(one: Place | None, other: Place | None, units: UnitSystem) -> str:
    """How far it is; empty where that is no way, or nobody says between what."""
    if one is None or other is None or one.pk == other.pk:
        return ""
    way = way_between(one, other)
    return "an unknown way" if way is None else way_words(way, units)
