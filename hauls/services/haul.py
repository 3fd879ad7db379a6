"""Make, save, import and recompose hauls."""

from __future__ import annotations

import copy
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from django.db import transaction
from django.utils import timezone

from book.models import Hitch, Trailer
from book.tolerances import Tolerances
from hauls.compose import (
    FileUnits,
    Load,
    hitch_section,
    load_section,
    new_placement,
    rules_section,
    stopping,
    trailer_section,
    truck_section,
)
from hauls.models import Haul, HaulItem
from hauls.services.steps import StaleRevision, stepping
from hauls.standing import best_standing, is_sure, piece_at
from measures import UnitSystem
from measures.marks import mark_within
from mechanics.arrange import Wishes, arrange, changing_reserve, lines_of
from mechanics.checks import Status
from mechanics.limits import Quantity
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.units import LengthUnit
from planfile.reading import read_document, read_plan
from yards.models import User, Yard

ROOM_BETWEEN_M = 0.05
"""Left between two machines that are lined up, about two inches."""

TAPE_STEP_M = 0.0127
"""Half an inch: as finely as a crew stops a machine."""

KEPT_RESERVE = 0.9
"""Part of the least reserve that has to be left after a mark is put on the tape's marks."""

SEARCH_S = 1.0
"""Time for each search of a best arrangement where nobody asked for one."""

SHIFTS = 100
"""Places tried along the free part of the deck."""


@transaction.atomic
def create_haul(
    *,
    yard: Yard,
    user: User,
    name: str,
    hitch: Hitch,
    trailer: Trailer,
    loads: Sequence[Load],
    backward: bool = False,
) -> Haul:
    """A haul from the book, in the units the person reads in.

    One machine is put at its aim where it has one, ``backward`` if asked; several as
    :func:`stand_best` says.

    Raises:
        IncompleteError: something of the book lacks figures.
        PlanFileError: the book's figures do not make a valid plan.
    """
    document = bare_document(name, hitch, trailer, UnitSystem(user.units))
    for load in loads:
        append_item(document, load)
    if len(loads) > 1:
        stand_best(document)
    elif loads and backward:
        turn_to_aim(document)
    plan = read_document(document)
    haul = Haul.objects.create(
        yard=yard,
        name=name,
        document=document,
        truck=hitch.truck,
        hitch=hitch,
        trailer=trailer,
        verdict=evaluate(plan).verdict.value,
        changed_by=user,
    )
    _link(haul, dict(zip([item["id"] for item in document["items"]], loads, strict=True)))
    return haul


def bare_document(name: str, hitch: Hitch, trailer: Trailer, system: UnitSystem) -> dict[str, Any]:
    """A plan of truck, hitch and trailer with nothing on the deck.

    Raises:
        IncompleteError: truck or trailer lack figures.
    """
    units = FileUnits.of(system)
    return {
        "format": "eyebolt.plan",
        "version": 1,
        "name": name,
        "units": {"mass": units.mass, "length": units.length},
        "truck": truck_section(hitch.truck, hitch, units),
        "hitch": hitch_section(hitch, trailer, units),
        "trailer": trailer_section(trailer, units),
        "items": [],
        "rules": rules_section(hitch),
    }


def append_item(document: dict[str, Any], load: Load) -> str:
    """Put something of the book on the deck, at its aim or the best of what can hold; its id.

    Raises:
        IncompleteError: it lacks figures.
        PlanFileError: its figures do not make a valid item.
    """
    taken = {item["id"] for item in document["items"]}
    item_id = next(f"m{n}" for n in range(1, 1000) if f"m{n}" not in taken)
    units = FileUnits.of_document(document)
    section = load_section(load, item_id, units)
    section["placement"] = new_placement(
        section, document["trailer"]["deck"]["length"], Tolerances.of(load.yard), units
    )
    document["items"].append(section)
    plan = read_document(document)
    index = len(plan.items) - 1
    best = best_standing(plan, index, UnitSystem.of_length(document["units"]["length"]))
    aim = None if best is None else best.at_m
    if aim is None and index:
        # no room is left: behind the others it is at least clear of them, and where the
        # deck is full it stands flush with the tail
        item, deck = plan.items[index], plan.trailer.deck
        behind = max(i.rearmost_m for i in plan.items[:index]) + item.reach_forward_m
        aim = min(behind, deck.length_m - item.reach_rearward_m)
    if aim is not None:
        set_reference(document, index, aim)
    return item_id


def turn_to_aim(document: dict[str, Any]) -> None:
    """Turn the first item round, at its aim that way if it has one."""
    plan = placed(read_document(document), 0, turn=True)
    placement = plan.items[0].placement
    document["items"][0]["placement"]["facing"] = placement.facing.value
    best = best_standing(plan, 0, UnitSystem.of_length(document["units"]["length"]))
    set_reference(document, 0, placement.reference_m if best is None else best.at_m)


def stand_best(document: dict[str, Any], *, seconds: float = SEARCH_S) -> None:
    """Put several items where the least reserve is largest, of the limits that can hold where
    some are passed however they stand; in a row where not even that is found."""
    plan = read_document(document)
    for room in (ROOM_BETWEEN_M, 0.0):
        found = arrange(plan, Wishes(room_m=room), seconds=seconds, despite=True).found
        if found:
            take_places(document, on_the_tape(found[0].plan))
            return
    line_up(document)


def on_the_tape(plan: Plan) -> Plan:
    """The plan with every mark on a half inch of the tape, or finer where that costs reserve
    or takes an item out of its sure window."""
    was_over, was_left = _left_over(plan)
    was_sure = _sure(plan)
    for step in (TAPE_STEP_M, TAPE_STEP_M / 2, TAPE_STEP_M / 4, TAPE_STEP_M / 8):
        tidy = plan
        for index in range(len(plan.items)):
            tidy = _on_a_step(tidy, index, step)
        over, left = _left_over(tidy)
        if over <= was_over and left >= was_left * KEPT_RESERVE and was_sure <= _sure(tidy):
            return tidy
    return plan


def _sure(plan: Plan) -> set[int]:
    """Which items stand in their sure windows."""
    report = evaluate(plan)
    return {index for index in range(len(plan.items)) if is_sure(report, index)}


def _on_a_step(plan: Plan, index: int, step_m: float) -> Plan:
    """The plan with one item on the nearest mark, of those in its window where there are any."""
    item, window = plan.items[index], evaluate(plan).windows[index]
    at = item.placement.reference_m
    piece = piece_at(window.sure, at) or piece_at(window.intervals, at)
    mark = None if piece is None else mark_within(at, piece.start_m, piece.end_m, step_m)
    if mark is None:
        mark = round(at / step_m) * step_m
    return plan.with_placement(item.id, replace(item.placement, reference_m=mark))


def _left_over(plan: Plan) -> tuple[int, float]:
    """How many limits are passed, and the least reserve on loads."""
    checks = evaluate(plan).checks
    over = sum(check.status is Status.OVER for check in checks)
    return over, min(
        (c.reserve for c in checks if c.reserve is not None and c.quantity is not Quantity.LENGTH),
        default=0.0,
    )


def take_places(document: dict[str, Any], plan: Plan) -> None:
    """Stand the document's items as the plan has them, in the document's unit."""
    per = LengthUnit(document["units"]["length"]).m
    for entry in document.get("items", []):
        place = plan.item(entry["id"]).placement
        placement = entry["placement"]
        placement["reference"] = round(place.reference_m / per, 6)
        placement["facing"] = place.facing.value
        left = round(place.left_m / per, 6)
        if left or "left" in placement:
            placement["left"] = left


def line_up(document: dict[str, Any]) -> None:
    """Put the items one behind the other in their order, all of it where reserve is largest.

    The row is tried along the deck in steps of two inches; this is a start for the person
    who plans, and no claim that another order would not be better.
    """
    plan = read_document(document)
    row, at = [], 0.0
    for item in plan.items:
        row.append(at + item.reach_forward_m)
        at = row[-1] + item.reach_rearward_m + ROOM_BETWEEN_M
    free = plan.trailer.deck.length_m - (at - ROOM_BETWEEN_M)
    best = max(
        (max(free, 0.0) * step / SHIFTS for step in range(SHIFTS + 1)),
        key=lambda shift: _least_reserve(plan, row, shift),
    )
    for index, place in enumerate(row):
        set_reference(document, index, place + best)


def _least_reserve(plan: Plan, row: Sequence[float], shift: float) -> float:
    for index, place in enumerate(row):
        plan = placed(plan, index, reference_m=place + shift)
    # what no place changes says nothing of this one
    return changing_reserve(plan, lines_of(plan))


def set_reference(document: dict[str, Any], index: int, reference_m: float) -> None:
    """Put an item's mark at a place on the tape, kept in the document's unit."""
    per = LengthUnit(document["units"]["length"]).m
    document["items"][index]["placement"]["reference"] = round(reference_m / per, 6)


def save_haul(
    haul: Haul,
    document: dict[str, Any],
    *,
    base: int,
    user: User,
    what: str = "a change",
    plan: Plan | None = None,
) -> Haul:
    """Save a changed document on top of revision ``base``, as one step to be undone.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
        PlanFileError: the document is not a valid plan; nothing is stored.
    """
    with stepping(haul, user=user, what=what):
        _store(haul, document, base=base, user=user, plan=plan)
    return haul


def _store(
    haul: Haul, document: dict[str, Any], *, base: int, user: User, plan: Plan | None = None
) -> None:
    verdict = evaluate(plan or read_document(document)).verdict.value
    changed = Haul.objects.filter(pk=haul.pk, revision=base).update(
        document=document,
        name=document.get("name") or haul.name,
        verdict=verdict,
        revision=base + 1,
        changed_by=user,
        changed_at=timezone.now(),
        truck=haul.truck_id,
        hitch=haul.hitch_id,
        trailer=haul.trailer_id,
    )
    if not changed:
        raise StaleRevision(Haul.objects.select_related("changed_by").get(pk=haul.pk))
    haul.document, haul.verdict, haul.revision = document, verdict, base + 1


def import_plan(*, yard: Yard, user: User, data: bytes, fallback_name: str) -> Haul:
    """A haul from a plan file, kept exactly as the file has it.

    Raises:
        PlanFileError: the file is not a valid plan; nothing is stored.
    """
    raw, plan = read_plan(data)
    name = (raw.get("name") or fallback_name or "Imported haul")[:200]
    return Haul.objects.create(
        yard=yard,
        name=name,
        document=raw,
        verdict=evaluate(plan).verdict.value,
        changed_by=user,
    )


@transaction.atomic
def copy_haul(haul: Haul, document: dict[str, Any], *, user: User, name: str) -> Haul:
    """The haul again under another name, with the same links to the book."""
    copied = Haul.objects.create(
        yard=haul.yard,
        name=name[:200],
        document={**document, "name": name},
        truck=haul.truck,
        hitch=haul.hitch,
        trailer=haul.trailer,
        verdict=evaluate(read_document(document)).verdict.value,
        changed_by=user,
    )
    HaulItem.objects.bulk_create(
        HaulItem(
            haul=copied,
            machine_id=link.machine_id,
            configuration_id=link.configuration_id,
            bulk_id=link.bulk_id,
            item_id=link.item_id,
        )
        for link in haul.links.all()
    )
    return copied


def book_document(haul: Haul) -> dict[str, Any]:
    """The haul's document with the book's present numbers, places kept.

    Parts that did not come from the book, or are no longer in it, stay as they are.

    Raises:
        IncompleteError: something of the book lacks figures by now.
    """
    document = copy.deepcopy(haul.document)
    units = FileUnits.of_document(document)
    if haul.hitch is not None and haul.truck is not None and haul.trailer is not None:
        document["truck"] = truck_section(haul.truck, haul.hitch, units)
        document["hitch"] = hitch_section(haul.hitch, haul.trailer, units)
        document["trailer"] = trailer_section(haul.trailer, units)
    loads = linked_loads(haul)
    for index, item in enumerate(document.get("items", [])):
        load = loads.get(item["id"])
        if load is not None:
            section = load_section(load, item["id"], units)
            placement = stopping(item["placement"], Tolerances.of(load.yard), units)
            document["items"][index] = {**section, "placement": placement}
    return document


def swap_outfit(
    haul: Haul,
    *,
    hitch: Hitch,
    trailer: Trailer,
    loads: Sequence[Load],
    name: str,
    base: int,
    user: User,
) -> Haul:
    """Another truck, trailer or set of machines; machines that stay keep their place.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
        IncompleteError: something of the book lacks figures.
        PlanFileError: the book's figures do not make a valid plan.
    """
    with stepping(haul, user=user, what="another outfit"):
        _swap(haul, hitch, trailer, loads, name, base, user)
    return haul


def _swap(
    haul: Haul,
    hitch: Hitch,
    trailer: Trailer,
    loads: Sequence[Load],
    name: str,
    base: int,
    user: User,
) -> None:
    haul.hitch, haul.truck, haul.trailer = hitch, hitch.truck, trailer
    document = book_document(haul)
    document["name"] = name
    linked = {item_id: load.key for item_id, load in linked_loads(haul).items()}
    wanted = list(loads)
    kept, links = [], {}
    units = FileUnits.of_document(document)
    for item in document.get("items", []):
        key = linked.get(item["id"])
        if key is None:
            kept.append(item)
            continue
        same = next((load for load in wanted if load.key == key), None)
        if same is None and key[0] is not None and key not in [load.key for load in loads]:
            # the same machine in another configuration keeps its place
            same = next((load for load in wanted if load.key[0] == key[0]), None)
            if same is not None:
                section = load_section(same, item["id"], units)
                kept.append({**section, "placement": item["placement"]})
                wanted.remove(same)
                links[item["id"]] = same
                continue
        if same is not None:
            wanted.remove(same)
            kept.append(item)
            links[item["id"]] = same
    document["items"] = kept
    for load in wanted:
        links[append_item(document, load)] = load
    _store(haul, document, base=base, user=user)
    haul.links.all().delete()
    _link(haul, links)


def put_on(haul: Haul, document: dict[str, Any], load: Load, *, base: int, user: User) -> str:
    """Put something more of the book on the deck; its item id.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
        IncompleteError: it lacks figures.
        PlanFileError: its figures do not make a valid item.
    """
    document = copy.deepcopy(document)
    document.setdefault("items", [])
    with stepping(haul, user=user, what=f"put {load.name} on"):
        item_id = append_item(document, load)
        _store(haul, document, base=base, user=user)
        _link(haul, {item_id: load})
    return item_id


def take_off(haul: Haul, document: dict[str, Any], item_id: str, *, base: int, user: User) -> None:
    """Take an item off the deck.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
        KeyError: there is no such item.
    """
    gone = next((item for item in document.get("items", []) if item["id"] == item_id), None)
    if gone is None:
        raise KeyError(item_id)
    left = {**document, "items": [item for item in document["items"] if item is not gone]}
    with stepping(haul, user=user, what=f"took {gone.get('name') or item_id} off"):
        _store(haul, left, base=base, user=user)
        haul.links.filter(item_id=item_id).delete()


def linked_loads(haul: Haul) -> dict[str, Load]:
    """What of the book each item was taken from, by item id."""
    links = haul.links.select_related(
        "machine__yard", "configuration__machine", "bulk__yard"
    ).prefetch_related("machine__parts", "configuration__parts")
    return {
        link.item_id: Load(machine=link.machine, configuration=link.configuration, bulk=link.bulk)
        for link in links
    }


def placed(plan: Plan, index: int, *, reference_m: float | None = None, turn: bool = False) -> Plan:
    """The plan with one item moved, or turned round on the piece of deck it covers."""
    item = plan.items[index]
    place = item.placement
    facing, at = place.facing, place.reference_m
    if turn:
        facing, at = facing.turned, item.foremost_m + item.reach_rearward_m
    if reference_m is not None:
        at = reference_m
    return plan.with_placement(item.id, replace(place, reference_m=at, facing=facing))


def _link(haul: Haul, loads: dict[str, Load]) -> None:
    HaulItem.objects.bulk_create(
        HaulItem(
            haul=haul,
            machine=load.machine,
            configuration=load.configuration,
            bulk=load.bulk,
            item_id=item_id,
        )
        for item_id, load in loads.items()
    )
