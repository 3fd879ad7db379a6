"""What the book lacks for a haul that somebody wants to plan: all of it at once."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from django.urls import reverse

from book.gaps import Gap, gaps
from book.kinds import slug_of
from book.models import Hitch, Thing, Trailer
from hauls.loads import Load
from measures import UnitSystem


@dataclass(frozen=True, kw_only=True, slots=True)
class Wanting:
    """One thing of the book with its gaps: those that stop every plan, those that an estimate
    stands in for, and others; ``address`` is its page, which comes back."""

    name: str
    address: str
    stops: tuple[str, ...]
    estimated: tuple[Gap, ...]
    others: tuple[Gap, ...]


def wanting(
    hitch: Hitch,
    trailer: Trailer,
    loads: Iterable[Load],
    units: UnitSystem,
    back: str,
) -> tuple[Wanting, ...]:
    """What each thing of a haul lacks, in the order of the choice; those are left out whose gaps
    neither stop a plan nor are estimated otherwise than every such thing is."""
    things: list[Thing] = [hitch.truck, trailer]
    for load in loads:
        own = load.machine or load.bulk
        if own is not None and own not in things:
            things.append(own)
    found = []
    for thing in things:
        lacks = gaps(thing, units)
        stops = tuple(gap.words for gap in lacks if gap.stops_plans)
        estimated = tuple(gap for gap in lacks if gap.estimate)
        if stops or any(not gap.usual for gap in estimated):
            address = reverse("edit_thing", args=[slug_of(thing), thing.pk])
            found.append(
                Wanting(
                    name=thing.name,
                    address=f"{address}?{urlencode({'back': back})}",
                    stops=stops,
                    estimated=estimated,
                    others=tuple(g for g in lacks if not g.stops_plans and not g.estimate),
                )
            )
    return tuple(found)


def address_with(address: str, data: Mapping[str, Any], names: Iterable[str]) -> str:
    """The page of a choice with what was chosen in its address, so that it can be come back to."""
    chosen = {name: str(data[name])[:200] for name in names if data.get(name)}
    return f"{address}?{urlencode(chosen)}" if chosen else address
