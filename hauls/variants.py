"""The same haul otherwise: another truck, trailer, configuration, facing or school."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Final

from book.errors import IncompleteError
from book.models import Configuration, Hitch, Trailer
from hauls.compose import hitch_section, trailer_section, truck_section
from hauls.drafting import figures_of
from hauls.loads import Load, linked_loads
from hauls.models import Haul
from hauls.pairs import pairs_of
from hauls.units import FileUnits
from mechanics.arrange import Wishes, arrange
from mechanics.errors import MechanicsError
from mechanics.plan import Plan
from mechanics.rules import TongueSchool
from mechanics.tidying import on_the_tape, stood_best
from planfile.draft import Draft
from planfile.errors import PlanFileError
from wording.phrases import names_of
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
    school: TongueSchool | None = None
    best: bool = False


def otherwise(haul: Haul, change: Otherwise) -> Draft:
    """The haul's draft with the change made; nothing is stored.

    Raises:
        IncompleteError: something of the book lacks figures.
        PlanFileError: the figures do not make a valid plan.
    """
    draft = haul.draft
    units = FileUnits.of_draft(draft)
    hitch, trailer = change.hitch or haul.hitch, change.trailer or haul.trailer
    if (change.hitch or change.trailer) and hitch is not None and trailer is not None:
        draft = draft.with_outfit(
            truck=truck_section(hitch.truck, hitch, units),
            hitch=hitch_section(hitch, trailer, units),
            trailer=None if change.trailer is None else trailer_section(trailer, units),
        )
    for item_id, configuration in change.configurations.items():
        load = Load(machine=configuration.machine, configuration=configuration)
        draft = draft.with_figures(figures_of(load, item_id, units))
    if change.school is not None:
        draft = draft.with_school(change.school)
    for item_id in change.turned:
        draft = draft.turned(draft.item_ids.index(item_id))
    if change.best and draft.plan.items:
        draft = draft.stood(stood_best(draft.plan, seconds=SEARCH_S))
    return draft


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
        fits = _fits(haul, change, wishes)
        if fits is not None:
            found.append(fits)
    found.sort(key=lambda other: -other.least_reserve)
    return found, len(changes) > MOST_OUTFITS


def _fits(haul: Haul, change: Otherwise, wishes: Wishes) -> Other | None:
    try:
        plan = otherwise(haul, replace(change, best=False)).plan
        # places kept fast on one deck mean nothing on another
        free = replace(wishes, locked=frozenset()) if change.trailer else wishes
        result = arrange(plan, free, seconds=SEARCH_S)
    except (IncompleteError, PlanFileError, MechanicsError):
        return None
    if not result.found:
        return None
    best = result.found[0]
    return Other(change=change, plan=on_the_tape(best.plan), least_reserve=best.least_reserve)


def change_names(haul: Haul, change: Otherwise) -> str:
    """A change in a few words, for a heading."""
    words = []
    if change.hitch is not None and change.hitch.pk != haul.hitch_id:
        words.append(str(change.hitch))
    if change.trailer is not None and change.trailer.pk != haul.trailer_id:
        words.append(change.trailer.name)
    words += [str(c) for c in change.configurations.values()]
    names = names_of(haul.draft.plan)
    words += [f"{names[i]} turned round" for i in sorted(change.turned) if i in names]
    if change.best:
        words.append("arranged anew")
    return ", ".join(words)
