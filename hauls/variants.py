"""The same haul otherwise: another truck, trailer, configuration, facing or school."""

from __future__ import annotations

import copy
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Final

from book.errors import IncompleteError
from book.models import Configuration, Hitch, Trailer
from hauls.compose import (
    FileUnits,
    Load,
    hitch_section,
    load_section,
    trailer_section,
    truck_section,
)
from hauls.models import Haul
from hauls.pairs import pairs_of
from hauls.services.haul import linked_loads, on_the_tape, stand_best, take_places
from mechanics.arrange import Wishes, arrange
from mechanics.errors import MechanicsError
from mechanics.plan import Plan
from planfile.errors import PlanFileError
from planfile.reading import read_document
from yards.models import Yard

SEARCH_S: Final = 0.3
"""Time for arranging the loads on one other outfit."""

MOST_OUTFITS: Final = 24
"""Other outfits that are tried; a yard has a handful."""


@dataclass(frozen=True, kw_only=True)
class Otherwise:
    """What is otherwise. ``None`` or empty leaves it as it is.

    ``configurations`` are by item id. ``turned`` items stand the other way round.
    ``best`` arranges everything anew, else the places stay.
    """

    hitch: Hitch | None = None
    trailer: Trailer | None = None
    configurations: dict[str, Configuration] = field(default_factory=dict)
    turned: frozenset[str] = frozenset()
    school: str = ""
    best: bool = False


def otherwise(haul: Haul, change: Otherwise, loads: dict[str, Load]) -> dict[str, Any]:
    """The haul's document with the change made; nothing is stored.

    ``loads`` are what of the book the items were taken from.

    Raises:
        IncompleteError: something of the book lacks figures.
        PlanFileError: the figures do not make a valid plan.
    """
    document: dict[str, Any] = copy.deepcopy(haul.document)
    units = FileUnits.of_document(document)
    hitch, trailer = change.hitch or haul.hitch, change.trailer or haul.trailer
    if (change.hitch or change.trailer) and hitch is not None and trailer is not None:
        document["truck"] = truck_section(hitch.truck, hitch, units)
        document["hitch"] = hitch_section(hitch, trailer, units)
        if change.trailer is not None:
            document["trailer"] = trailer_section(trailer, units)
    for index, item in enumerate(document.get("items", [])):
        configuration = change.configurations.get(item["id"])
        if configuration is not None:
            load = Load(machine=configuration.machine, configuration=configuration)
            section = load_section(load, item["id"], units)
            document["items"][index] = {**section, "placement": item["placement"]}
    if change.school:
        rules = document.setdefault("rules", {})
        rules["tongue"] = change.school
        rules.pop("share_min", None)
        rules.pop("share_max", None)
    if change.turned:
        plan = read_document(document)
        for item in plan.items:
            if item.id in change.turned:
                place = item.placement
                plan = plan.with_placement(
                    item.id,
                    replace(
                        place,
                        facing=place.facing.turned,
                        reference_m=item.foremost_m + item.reach_rearward_m,
                    ),
                )
        take_places(document, plan)
    if change.best and document.get("items"):
        stand_best(document, seconds=SEARCH_S)
    return document


@dataclass(frozen=True, kw_only=True)
class Other:
    """Another outfit or configuration on which the loads fit, and how much it leaves."""

    change: Otherwise
    plan: Plan
    least_reserve: float


def others_that_fit(haul: Haul, yard: Yard, wishes: Wishes) -> tuple[list[Other], bool]:
    """Trucks and trailers of the yard, and configurations, that would do; the best first.

    Whether some were left out comes with them. What lacks figures is not among them.
    """
    loads = linked_loads(haul)
    changes: list[Otherwise] = []
    if haul.hitch is not None and haul.trailer is not None:
        pairs = [
            (h, t) for h, t in pairs_of(yard) if (h.pk, t.pk) != (haul.hitch_id, haul.trailer_id)
        ]
        # a change of one thing comes before a change of both
        pairs.sort(key=lambda p: (p[0].pk != haul.hitch_id) + (p[1].pk != haul.trailer_id))
        changes += [Otherwise(hitch=h, trailer=t, best=True) for h, t in pairs]
    for item_id, load in loads.items():
        if load.machine is None:
            continue
        for configuration in load.machine.configurations.select_related("machine__yard"):
            if load.configuration is None or configuration.pk != load.configuration.pk:
                changes.append(Otherwise(configurations={item_id: configuration}, best=True))
    found = []
    for change in changes[:MOST_OUTFITS]:
        fits = _fits(haul, change, loads, wishes)
        if fits is not None:
            found.append(fits)
    found.sort(key=lambda other: -other.least_reserve)
    return found, len(changes) > MOST_OUTFITS


def _fits(haul: Haul, change: Otherwise, loads: dict[str, Load], wishes: Wishes) -> Other | None:
    try:
        plan = read_document(otherwise(haul, replace(change, best=False), loads))
        # places kept fast on one deck mean nothing on another
        free = replace(wishes, locked=frozenset()) if change.trailer else wishes
        result = arrange(plan, free, seconds=SEARCH_S)
    except (IncompleteError, PlanFileError, MechanicsError):
        return None
    if not result.found:
        return None
    best = result.found[0]
    return Other(change=change, plan=on_the_tape(best.plan), least_reserve=best.least_reserve)


def names_of(haul: Haul, change: Otherwise, items: Sequence[dict[str, Any]]) -> str:
    """A change in a few words, for a heading."""
    words = []
    if change.hitch is not None and change.hitch.pk != haul.hitch_id:
        words.append(str(change.hitch))
    if change.trailer is not None and change.trailer.pk != haul.trailer_id:
        words.append(change.trailer.name)
    words += [str(c) for c in change.configurations.values()]
    names = {item["id"]: item.get("name") or item["id"] for item in items}
    words += [f"{names[i]} turned round" for i in sorted(change.turned) if i in names]
    if change.best:
        words.append("arranged anew")
    return ", ".join(words)
