"""What the load card says of getting on."""

from __future__ import annotations

from typing import Final

from aspects.on_off.page import refused
from aspects.on_off.stations import Teller
from aspects.on_off.words import said
from aspects.registry import CardPart, Ground
from hauls.climbs import clear_by_usual, driven
from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.loading import way
from planfile.climbing import Place
from wording.inputs import missing_of

NOT_SAID: Final = "What happens while it climbs cannot be said."
CARE: Final = "Nobody beside or behind the ramps."


def card(ground: Ground) -> CardPart:
    """What happens while each machine climbs, where that is more than nothing; where it cannot be
    worked out, that."""
    draft, unit, found = ground.draft, ground.unit, []
    plan = draft.plan_at(Place.LOADING)
    several = len(driven(draft)) > 1
    for index in driven(draft):
        name = f"{plan.items[index].called}: " if several else ""
        try:
            one = way(plan, index)
        except InputError as error:
            found.append((f"{name}{NOT_SAID}", f"{refused(error)} {CARE}"))
            continue
        if one.walk is None or one.path is None:
            lacking = ", ".join(missing_of(one.missing, plan))
            found.append((f"{name}{NOT_SAID}", f"Not known: {lacking}. {CARE}"))
            continue
        usual = clear_by_usual(plan, draft, index)
        told = said(plan, one, Teller(plan.items[index], one.walk, unit), unit, usual)
        if told.status == Status.OK.value and one.path.lowest.tongue_kg >= 0:
            continue
        first = f"{told.before} {told.figure}{'' if told.after == '.' else ' '}{told.after}"
        found.append((f"{name}{first}", f"{told.second} {CARE}"))
    return CardPart(warnings=tuple(found))
