"""Drafts made of the book: a bare outfit, something put on its deck, the book's present numbers."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from book.models import Hitch, Trailer
from hauls.compose import (
    hitch_section,
    load_section,
    rules_section,
    trailer_section,
    truck_section,
)
from hauls.loads import Load, linked_loads
from hauls.models import Haul
from hauls.units import FileUnits
from measures import UnitSystem
from measures.marks import STEPS
from mechanics.item import Facing
from mechanics.standing import stood, stood_turned
from mechanics.tidying import stood_best
from planfile import document
from planfile.draft import Draft

SEARCH_S: Final = 1.0
"""Time for each search of a best arrangement where nobody asked for one."""

NEW_PLACE: Final = 0.5
"""A machine is first put with its middle at this part of the deck's length."""


def bare_draft(name: str, hitch: Hitch, trailer: Trailer, system: UnitSystem) -> Draft:
    """A draft of truck, hitch and trailer with nothing on the deck.

    Raises:
        IncompleteError: truck or trailer lack figures.
        PlanFileError: the figures do not make a valid plan.
    """
    units = FileUnits.of(system)
    return Draft.bare(
        name=name,
        units=units,
        truck=truck_section(hitch.truck, hitch, units),
        hitch=hitch_section(hitch, trailer, units),
        trailer=trailer_section(trailer, units),
        rules=rules_section(hitch),
    )


def with_loads(
    draft: Draft, loads: Sequence[Load], *, backward: bool = False, seconds: float = SEARCH_S
) -> Draft:
    """The draft with loads put on in turn: one at its best place, ``backward`` if asked, several
    where they leave most.

    Raises:
        IncompleteError: one of them lacks figures.
        PlanFileError: its figures do not make a valid item.
    """
    for load in loads:
        draft = with_load(draft, load)
    if len(loads) > 1:
        return draft.stood(stood_best(draft.plan, seconds=seconds))
    if loads and backward:
        return turned_to_aim(draft)
    return draft


def with_load(draft: Draft, load: Load) -> Draft:
    """The draft with something of the book on the deck, at its aim or the best of what can hold.

    Raises:
        IncompleteError: it lacks figures.
        PlanFileError: its figures do not make a valid item.
    """
    item_id, units = draft.free_id(), FileUnits.of_draft(draft)
    first = load_section(load, item_id, units, document.Placement(reference=0))
    middle = units.metres(draft.plan.trailer.deck.length_m) * NEW_PLACE
    placement = document.Placement(
        reference=round(middle + (first.front - first.rear) / 2, 3),
        facing=Facing.FORWARD.value,
    )
    draft = draft.with_item(load_section(load, item_id, units, placement))
    index = len(draft.plan.items) - 1
    return draft.stood(stood(draft.plan, index, tape_steps(draft)))


def turned_to_aim(draft: Draft) -> Draft:
    """The draft with its first item turned round, at its best place that way if it has one."""
    return draft.stood(stood_turned(draft.plan, 0, tape_steps(draft)))


def tape_steps(draft: Draft) -> tuple[float, ...]:
    """Distances between the marks of the tape that goes with the draft's units, in metres."""
    return STEPS[UnitSystem.of_length(draft.units.length.value)]


def book_draft(haul: Haul) -> Draft:
    """The haul's draft with the book's present numbers, places kept.

    Parts that did not come from the book, or are no longer in it, stay as they are.

    Raises:
        IncompleteError: something of the book lacks figures by now.
        PlanFileError: the figures do not make a valid plan.
    """
    draft = haul.draft
    units = FileUnits.of_draft(draft)
    if haul.hitch is not None and haul.truck is not None and haul.trailer is not None:
        draft = draft.with_outfit(
            truck=truck_section(haul.truck, haul.hitch, units),
            hitch=hitch_section(haul.hitch, haul.trailer, units),
            trailer=trailer_section(haul.trailer, units),
        )
    for item_id, load in linked_loads(haul).items():
        if item_id in draft.item_ids:
            draft = draft.with_figures(figures_of(load, item_id, units))
    return draft


def figures_of(load: Load, item_id: str, units: FileUnits) -> document.Item:
    """An item's figures, to stand where one of its id stands.

    Raises:
        IncompleteError: it lacks figures.
    """
    return load_section(load, item_id, units, document.Placement(reference=0))
