"""Make, save and change hauls: each function is one change, whole or not at all."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.db import transaction
from django.utils import timezone

from book.models import Configuration, Hitch, Trailer
from book.services.things import seat_people
from hauls.compose import truck_section
from hauls.drafting import bare_draft, book_draft, figures_of, with_load, with_loads
from hauls.loads import Load, link, linked_loads
from hauls.models import Haul, HaulItem
from hauls.steps import StaleRevision, stepping
from hauls.units import FileUnits
from measures import UnitSystem
from mechanics.report import evaluate
from planfile.draft import Draft
from yards.models import User, Yard


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

    One machine is put at its aim where it has one, ``backward`` if asked; several where they
    leave most.

    Raises:
        IncompleteError: something of the book lacks figures.
        PlanFileError: the book's figures do not make a valid plan.
    """
    draft = with_loads(bare_draft(name, hitch, trailer, user.unit_system), loads, backward=backward)
    return create_stood(
        yard=yard, user=user, name=name, hitch=hitch, trailer=trailer, loads=loads, draft=draft
    )


@transaction.atomic
def create_stood(
    *,
    yard: Yard,
    user: User,
    name: str,
    hitch: Hitch,
    trailer: Trailer,
    loads: Sequence[Load],
    draft: Draft,
) -> Haul:
    """A haul from the book that has been worked out already: ``draft`` has the loads in turn."""
    haul = _create(yard, user, name, draft, hitch=hitch, trailer=trailer)
    link(haul, zip(draft.item_ids, loads, strict=True))
    return haul


def import_haul(*, yard: Yard, user: User, draft: Draft, fallback_name: str) -> Haul:
    """A haul of a draft that came from elsewhere, kept exactly as it is."""
    return _create(yard, user, (draft.name or fallback_name or "Imported haul")[:200], draft)


def _create(
    yard: Yard,
    user: User,
    name: str,
    draft: Draft,
    *,
    hitch: Hitch | None = None,
    trailer: Trailer | None = None,
) -> Haul:
    return Haul.objects.create(
        yard=yard,
        name=name,
        document=draft.json(),
        truck=None if hitch is None else hitch.truck,
        hitch=hitch,
        trailer=trailer,
        verdict=evaluate(draft.plan).verdict.value,
        changed_by=user,
    )


def save_haul(haul: Haul, draft: Draft, *, base: int, user: User, what: str = "a change") -> Haul:
    """Save a changed draft on top of revision ``base``, as one step to be undone.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
    """
    with stepping(haul, user=user, what=what):
        _store(haul, draft, base=base, user=user)
    return haul


def _store(haul: Haul, draft: Draft, *, base: int, user: User) -> None:
    verdict, document = evaluate(draft.plan).verdict.value, draft.json()
    changed = Haul.objects.filter(pk=haul.pk, revision=base).update(
        document=document,
        name=draft.name or haul.name,
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


@transaction.atomic
def copy_haul(haul: Haul, draft: Draft, *, user: User, name: str) -> Haul:
    """The haul again under another name, with the same links to the book."""
    copied = _create(
        haul.yard, user, name[:200], draft.renamed(name), hitch=haul.hitch, trailer=haul.trailer
    )
    HaulItem.objects.bulk_create(
        HaulItem(
            haul=copied,
            machine_id=kept.machine_id,
            configuration_id=kept.configuration_id,
            bulk_id=kept.bulk_id,
            item_id=kept.item_id,
        )
        for kept in haul.links.all()
    )
    return copied


def put_plan(
    haul: Haul,
    draft: Draft,
    *,
    outfit: Mapping[str, Any],
    items: Sequence[HaulItem],
    user: User,
) -> Haul:
    """Another plan in a haul's place, as one step: with its outfit of the book, or none, and what
    of the book its items are.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
    """
    with stepping(haul, user=user, what="the plan of a file"):
        for name in ("truck", "hitch", "trailer"):
            setattr(haul, name, outfit.get(name))
        _store(haul, draft, base=haul.revision, user=user)
        haul.links.all().delete()
        HaulItem.objects.bulk_create(items)
    return haul


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
        haul.hitch, haul.truck, haul.trailer = hitch, hitch.truck, trailer
        draft, links = _with_other_loads(book_draft(haul).renamed(name), haul, loads)
        _store(haul, draft, base=base, user=user)
        haul.links.all().delete()
        link(haul, links.items())
    return haul


def _with_other_loads(
    draft: Draft, haul: Haul, loads: Sequence[Load]
) -> tuple[Draft, dict[str, Load]]:
    """The draft with these loads of the book and what came from a file, and whose each item is.

    A machine in another configuration keeps its place.
    """
    linked = {item_id: load.key for item_id, load in linked_loads(haul).items()}
    asked = [load.key for load in loads]
    wanted, units = list(loads), FileUnits.of_draft(draft)
    kept: list[str] = []
    links: dict[str, Load] = {}
    for item_id in draft.item_ids:
        key = linked.get(item_id)
        if key is None:
            kept.append(item_id)
            continue
        same = next((load for load in wanted if load.key == key), None)
        if same is None and key.machine is not None and key not in asked:
            same = next((load for load in wanted if load.key.machine == key.machine), None)
            if same is not None:
                draft = draft.with_figures(figures_of(same, item_id, units))
        if same is not None:
            wanted.remove(same)
            kept.append(item_id)
            links[item_id] = same
    draft = draft.keeping(kept)
    for load in wanted:
        draft = with_load(draft, load)
        links[draft.item_ids[-1]] = load
    return draft, links


def with_people(
    haul: Haul, draft: Draft, count: int, *, base: int, user: User, units: UnitSystem
) -> int:
    """Say how many people ride in the haul's truck, where the book says nothing of it, and put them
    into the haul; how many came in.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
        IncompleteError: the truck lacks figures.
    """
    if haul.truck is None or haul.hitch is None:
        return 0
    with transaction.atomic(), stepping(haul, user=user, what="who rides in the truck"):
        seated = seat_people(haul.truck, count, units=units, user=user)
        hitch = Hitch.objects.select_related("truck__yard").get(pk=haul.hitch.pk)
        section = truck_section(hitch.truck, hitch, FileUnits.of_draft(draft))
        _store(haul, draft.with_outfit(truck=section), base=base, user=user)
    return seated


def put_on(haul: Haul, draft: Draft, load: Load, *, base: int, user: User) -> str:
    """Put something more of the book on the deck; its item id.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
        IncompleteError: it lacks figures.
        PlanFileError: its figures do not make a valid item.
    """
    with stepping(haul, user=user, what=f"put {load.name} on"):
        draft = with_load(draft, load)
        _store(haul, draft, base=base, user=user)
        link(haul, [(draft.item_ids[-1], load)])
    return draft.item_ids[-1]


def take_off(haul: Haul, draft: Draft, item_id: str, *, base: int, user: User) -> None:
    """Take an item off the deck.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
        KeyError: there is no such item.
    """
    gone = draft.plan.item(item_id)
    left = draft.keeping([one for one in draft.item_ids if one != item_id])
    with stepping(haul, user=user, what=f"took {gone.called} off"):
        _store(haul, left, base=base, user=user)
        haul.links.filter(item_id=item_id).delete()


def reconfigure(
    haul: Haul,
    draft: Draft,
    item_id: str,
    configuration: Configuration,
    *,
    base: int,
    user: User,
) -> None:
    """Take one of a haul's machines in another configuration; ``draft`` has its figures already.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
    """
    with stepping(haul, user=user, what=f"{configuration}"):
        _store(haul, draft, base=base, user=user)
        haul.links.filter(item_id=item_id).update(configuration=configuration)
