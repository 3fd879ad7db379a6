"""Hauls in a yard file: their plans whole, and what of the book they were planned with."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from django.db import models

from book.models import Bulk, Machine, Thing, Trailer, Truck
from exchange.jobs import dump_job, read_job
from hauls.assigning import FIELDS, Job, assign, assigned
from hauls.models import Haul, HaulItem
from hauls.store import put_plan
from mechanics.patience import go_on
from planfile.draft import Draft
from yards.models import User, Yard


def hauls_of(yard: Yard) -> Any:
    """A yard's hauls with all that the file says of them, in the order they were last changed."""
    return (
        Haul.objects.filter(yard=yard)
        .select_related("truck", "hitch", "trailer", "fetched_from", "taken_to")
        .prefetch_related("links__machine", "links__configuration", "links__bulk")
        .order_by("changed_at", "pk")
    )


def dump_haul(haul: Haul) -> dict[str, Any]:
    """A haul as the file has it."""
    go_on()
    document: dict[str, Any] = {"name": haul.name, "plan": haul.document}
    if haul.archived:
        document["put_away"] = True
    if job := dump_job(haul):
        document["job"] = job
    if haul.truck and haul.hitch and haul.trailer:
        document |= {
            "truck": haul.truck.name,
            "hitch": haul.hitch.name,
            "trailer": haul.trailer.name,
        }
    items = {}
    for link in haul.links.all():
        if link.bulk is not None:
            items[link.item_id] = {"bulk": link.bulk.name}
        elif link.machine is not None:
            items[link.item_id] = {"machine": link.machine.name}
            if link.configuration is not None:
                items[link.item_id]["configuration"] = link.configuration.name
    return {**document, "items": items} if items else document


@dataclass(frozen=True, kw_only=True, slots=True)
class HaulRead:
    """A haul of a file, for a yard: its plan with what is said of it, and links to the book."""

    name: str
    draft: Draft
    verdict: str
    archived: bool
    outfit: dict[str, models.Model]
    job: Job
    items: tuple[HaulItem, ...]

    def store(self, *, yard: Yard, user: User) -> Haul:
        """As a haul of its own."""
        haul = Haul.objects.create(
            yard=yard,
            name=self.name,
            document=self.draft.json(),
            verdict=self.verdict,
            archived=self.archived,
            changed_by=user,
            **self.outfit,
            **{name: getattr(self.job, name) for name in FIELDS},
        )
        for item in self.items:
            item.haul = haul
            item.save()
        return haul

    def store_onto(self, haul: Haul, *, user: User) -> Haul:
        """As the plan of a haul that is there, one step of it."""
        for item in self.items:
            item.haul = haul
        # who drives is no part of a file
        assign(haul, replace(self.job, driver=haul.driver), was=assigned(haul))
        return put_plan(haul, self.draft, outfit=self.outfit, items=self.items, user=user)


def read_haul(
    entry: dict[str, Any],
    plan: tuple[Draft, str],
    *,
    yard: Yard,
    path: str,
    problems: list[str],
    kept: frozenset[int],
) -> HaulRead | None:
    """A haul of a file; what is wrong goes into ``problems``. Nothing is stored.

    ``kept`` are keys of machines that stay the yard's own although the file has them otherwise:
    an item in a configuration that such a machine has not is linked to nothing.
    """
    draft, verdict = plan
    archived, items = entry.get("put_away", False), entry.get("items", {})
    if not isinstance(archived, bool):
        problems.append(f"{path}.put_away: expected true or false")
        return None
    if not isinstance(items, dict):
        problems.append(f"{path}.items: expected an object")
        return None
    truck = named(Truck, entry.get("truck"), yard)
    hitch = None if truck is None else truck.hitches.filter(name=entry.get("hitch")).first()
    trailer = named(Trailer, entry.get("trailer"), yard)
    outfit = {"truck": truck, "hitch": hitch, "trailer": trailer} if hitch else {}
    links: list[HaulItem] = []
    for item_id, said in items.items():
        link = _link(item_id, said, yard) if item_id in set(draft.item_ids) else None
        if link is None:
            problems.append(f"{path}.items.{item_id}: not an item of the plan and of the book")
        elif "configuration" not in said or link.configuration is not None:
            links.append(link)
        elif link.machine_id not in kept:
            problems.append(f"{path}.items.{item_id}: not a configuration of the machine")
    return HaulRead(
        name=str(entry.get("name") or draft.name or "Haul")[:200],
        draft=draft,
        verdict=verdict,
        archived=archived,
        outfit=outfit,
        job=read_job(entry.get("job", {}), yard=yard, path=f"{path}.job", problems=problems),
        items=tuple(links),
    )


def named(model: type[Thing], name: Any, yard: Yard) -> Any:
    """The thing of that name in a list of the yard, or nothing."""
    return model._default_manager.filter(yard=yard, name=name).first() if name else None


def _link(item_id: str, said: Any, yard: Yard) -> HaulItem | None:
    if not isinstance(said, dict):
        return None
    if "bulk" in said:
        bulk = named(Bulk, said["bulk"], yard)
        return None if bulk is None else HaulItem(item_id=item_id, bulk=bulk)
    machine: Machine | None = named(Machine, said.get("machine"), yard)
    if machine is None:
        return None
    configuration = None
    if "configuration" in said:
        configuration = machine.configurations.filter(name=said["configuration"]).first()
    return HaulItem(item_id=item_id, machine=machine, configuration=configuration)
