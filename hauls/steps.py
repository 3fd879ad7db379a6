"""Undo and redo: every saved change of a haul is a step that can be gone back over."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from django.db import transaction
from django.utils import timezone

from book.models import Bulk, Configuration, Machine
from hauls.models import Haul, HaulItem, HaulStep
from mechanics.report import evaluate
from planfile.draft import Draft
from yards.models import User

KEPT = 60
"""Steps of a haul that can be undone; older ones are forgotten."""


class StaleRevision(Exception):
    """Somebody saved the haul in between; ``haul`` is as it stands now."""

    def __init__(self, haul: Haul) -> None:
        self.haul = haul
        super().__init__(f"haul {haul.pk} is at revision {haul.revision}")


class NothingToUndo(Exception):
    """There is no earlier, or no later, step."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Around:
    """What undo and redo would do, in a few words; empty where there is nothing."""

    undo: str = ""
    redo: str = ""


def around(haul: Haul) -> Around:
    """What undo and redo would do now."""
    near = haul.steps.filter(number__range=(max(haul.step - 1, 0), haul.step + 1))
    steps = dict(near.values_list("number", "what"))
    # the oldest step kept cannot be undone: what was before it is forgotten
    before = haul.step - 1 in steps
    return Around(
        undo=steps.get(haul.step, "") if before else "", redo=steps.get(haul.step + 1, "")
    )


@contextmanager
def stepping(haul: Haul, *, user: User, what: str) -> Iterator[None]:
    """Make what happens inside one step: all of it or nothing, to be undone as one.

    The block changes and saves ``haul``; whatever could have been done again is dropped.
    """
    with transaction.atomic():
        if haul.step == 0 and not haul.steps.exists():
            before = Haul.objects.get(pk=haul.pk)
            _keep(before, number=0, what="as it was", user=user)
        yield
        number = haul.step + 1
        haul.steps.filter(number__gte=number).delete()
        _keep(haul, number=number, what=what, user=user)
        haul.steps.filter(number__lt=number - KEPT).delete()
        Haul.objects.filter(pk=haul.pk).update(step=number)
        haul.step = number


def _keep(haul: Haul, *, number: int, what: str, user: User) -> None:
    HaulStep.objects.create(
        haul=haul,
        number=number,
        what=what[:200],
        document=haul.document,
        links=[list(row) for row in haul.links.values_list(*LINK)],
        truck_id=haul.truck_id,
        hitch_id=haul.hitch_id,
        trailer_id=haul.trailer_id,
        by=user,
    )


LINK = ("item_id", "machine_id", "configuration_id", "bulk_id")


def _next_other(haul: Haul, way: int) -> HaulStep | None:
    """The next step that way at which the haul stood otherwise than now: one that changed nothing
    is passed over. Without such a step the next one at all."""
    links = [list(row) for row in haul.links.values_list(*LINK)]
    now = (haul.document, sorted(links), haul.truck_id, haul.hitch_id, haul.trailer_id)
    beyond = (
        haul.steps.filter(number__lt=haul.step).order_by("-number")
        if way < 0
        else haul.steps.filter(number__gt=haul.step).order_by("number")
    )
    for step in beyond:
        then = (step.document, sorted(step.links), step.truck_id, step.hitch_id, step.trailer_id)
        if then != now:
            return step
    return beyond.first()


@transaction.atomic
def walk(haul: Haul, way: int, *, base: int, user: User) -> Haul:
    """Undo (``way`` -1) or do again (+1) one step, on top of revision ``base``.

    What was deleted from the book in between stays deleted: its item keeps its figures
    and loses its link.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
        NothingToUndo: there is no such step.
    """
    step = _next_other(haul, way)
    if step is None:
        raise NothingToUndo
    changed = Haul.objects.filter(pk=haul.pk, revision=base).update(
        document=step.document,
        name=step.document.get("name") or haul.name,
        verdict=evaluate(Draft.read(step.document).plan).verdict.value,
        revision=base + 1,
        changed_by=user,
        changed_at=timezone.now(),
        truck=step.truck_id,
        hitch=step.hitch_id,
        trailer=step.trailer_id,
        step=step.number,
    )
    if not changed:
        raise StaleRevision(Haul.objects.select_related("changed_by").get(pk=haul.pk))
    haul.links.all().delete()
    there = {
        model: set(model._default_manager.filter(yard=haul.yard).values_list("pk", flat=True))
        for model in (Machine, Bulk)
    }
    ways = set(Configuration.objects.filter(machine__yard=haul.yard).values_list("pk", flat=True))
    HaulItem.objects.bulk_create(
        HaulItem(
            haul=haul,
            item_id=item_id,
            machine_id=machine,
            configuration_id=configuration,
            bulk_id=bulk,
        )
        for item_id, machine, configuration, bulk in step.links
        if (machine in there[Machine] or bulk in there[Bulk])
        and (configuration is None or configuration in ways)
    )
    haul.refresh_from_db()
    return haul
