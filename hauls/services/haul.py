"""Make, save, import and recompose hauls."""

from __future__ import annotations

import copy
from collections.abc import Sequence
from typing import Any

from django.db import transaction
from django.utils import timezone

from book.models import Hitch, Machine, Trailer
from hauls.compose import (
    FileUnits,
    hitch_section,
    item_section,
    new_placement,
    trailer_section,
    truck_section,
)
from hauls.models import Haul, HaulMachine
from measures import UnitSystem
from mechanics.checks import judge
from mechanics.item import Placement
from mechanics.limits import load_limits
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.units import LengthUnit
from planfile.reading import read_document, read_plan
from yards.models import User, Yard

ROOM_BETWEEN_M = 0.05
"""Left between two machines that are lined up, about two inches."""

SHIFTS = 100
"""Places tried along the free part of the deck."""


class StaleRevision(Exception):
    """Somebody saved the haul in between; ``haul`` is as it stands now."""

    def __init__(self, haul: Haul) -> None:
        self.haul = haul
        super().__init__(f"haul {haul.pk} is at revision {haul.revision}")


@transaction.atomic
def create_haul(
    *,
    yard: Yard,
    user: User,
    name: str,
    hitch: Hitch,
    trailer: Trailer,
    machines: Sequence[Machine],
) -> Haul:
    """A haul from the book, in the units the person reads in.

    One machine is put at its aim where it has one; several are lined up.

    Raises:
        PlanFileError: the book's figures do not make a valid plan.
    """
    units = FileUnits.of(UnitSystem(user.units))
    document: dict[str, Any] = {
        "format": "eyebolt.plan",
        "version": 1,
        "name": name,
        "units": {"mass": units.mass, "length": units.length},
        "truck": truck_section(hitch.truck, hitch, units),
        "hitch": hitch_section(hitch, trailer, units),
        "trailer": trailer_section(trailer, units),
        "items": [],
        "rules": {"tongue": "default"},
    }
    for machine in machines:
        append_item(document, machine)
    if len(machines) > 1:
        line_up(document)
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
    _link(haul, machines, [item["id"] for item in document["items"]])
    return haul


def append_item(document: dict[str, Any], machine: Machine) -> str:
    """Put a machine of the book on the deck, at its aim if it has one; its new id.

    Raises:
        PlanFileError: the machine's figures do not make a valid item.
    """
    taken = {item["id"] for item in document["items"]}
    item_id = next(f"m{n}" for n in range(1, 1000) if f"m{n}" not in taken)
    section = item_section(machine, item_id, FileUnits.of_document(document))
    section["placement"] = new_placement(section, document["trailer"]["deck"]["length"])
    document["items"].append(section)
    plan = read_document(document)
    index = len(plan.items) - 1
    aim = evaluate(plan).windows[index].aim_m
    if aim is None and index:
        # no place is right: behind the others it is at least clear of them
        aim = max(i.rearmost_m for i in plan.items[:index]) + plan.items[index].reach_forward_m
    if aim is not None:
        set_reference(document, index, aim)
    return item_id


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
    limits = load_limits(plan, compute_loads(plan))
    return min(
        (check.reserve for check in map(judge, limits) if check.reserve is not None), default=0.0
    )


def set_reference(document: dict[str, Any], index: int, reference_m: float) -> None:
    """Put an item's mark at a place on the tape, kept in the document's unit."""
    per = LengthUnit(document["units"]["length"]).m
    document["items"][index]["placement"]["reference"] = round(reference_m / per, 6)


@transaction.atomic
def save_haul(
    haul: Haul, document: dict[str, Any], *, base: int, user: User, plan: Plan | None = None
) -> Haul:
    """Save a changed document on top of revision ``base``.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
        PlanFileError: the document is not a valid plan; nothing is stored.
    """
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
    return haul


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
    HaulMachine.objects.bulk_create(
        HaulMachine(haul=copied, machine_id=link.machine_id, item_id=link.item_id)
        for link in haul.machines.all()
    )
    return copied


def book_document(haul: Haul) -> dict[str, Any]:
    """The haul's document with the book's present numbers, places kept.

    Parts that did not come from the book, or are no longer in it, stay as they are.
    """
    document = copy.deepcopy(haul.document)
    units = FileUnits.of_document(document)
    if haul.hitch is not None and haul.truck is not None and haul.trailer is not None:
        document["truck"] = truck_section(haul.truck, haul.hitch, units)
        document["hitch"] = hitch_section(haul.hitch, haul.trailer, units)
        document["trailer"] = trailer_section(haul.trailer, units)
    machines = {link.item_id: link.machine for link in haul.machines.select_related("machine")}
    for index, item in enumerate(document.get("items", [])):
        machine = machines.get(item["id"])
        if machine is not None:
            section = item_section(machine, item["id"], units)
            document["items"][index] = {**section, "placement": item["placement"]}
    return document


@transaction.atomic
def swap_outfit(
    haul: Haul,
    *,
    hitch: Hitch,
    trailer: Trailer,
    machines: Sequence[Machine],
    name: str,
    base: int,
    user: User,
) -> Haul:
    """Another truck, trailer or set of machines; machines that stay keep their place.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
        PlanFileError: the book's figures do not make a valid plan.
    """
    haul.hitch, haul.truck, haul.trailer = hitch, hitch.truck, trailer
    document = book_document(haul)
    document["name"] = name
    linked = {link.item_id: link.machine_id for link in haul.machines.all()}
    wanted = [machine.pk for machine in machines]
    kept = []
    for item in document.get("items", []):
        pk = linked.get(item["id"])
        if pk is None:
            kept.append(item)
        elif pk in wanted:
            wanted.remove(pk)
            kept.append(item)
    document["items"] = kept
    links = {item["id"]: linked[item["id"]] for item in kept if item["id"] in linked}
    by_pk = {machine.pk: machine for machine in machines}
    for pk in wanted:
        links[append_item(document, by_pk[pk])] = pk
    save_haul(haul, document, base=base, user=user)
    haul.machines.all().delete()
    HaulMachine.objects.bulk_create(
        HaulMachine(haul=haul, machine_id=pk, item_id=item_id) for item_id, pk in links.items()
    )
    return haul


def placed(plan: Plan, index: int, *, reference_m: float | None = None, turn: bool = False) -> Plan:
    """The plan with one item moved, or turned round on the piece of deck it covers."""
    item = plan.items[index]
    place = item.placement
    facing, at = place.facing, place.reference_m
    if turn:
        facing, at = facing.turned, item.foremost_m + item.reach_rearward_m
    if reference_m is not None:
        at = reference_m
    return plan.with_placement(
        item.id, Placement(reference_m=at, facing=facing, left_m=place.left_m)
    )


def _link(haul: Haul, machines: Sequence[Machine], item_ids: Sequence[str]) -> None:
    HaulMachine.objects.bulk_create(
        HaulMachine(haul=haul, machine=machine, item_id=item_id)
        for machine, item_id in zip(machines, item_ids, strict=True)
    )
