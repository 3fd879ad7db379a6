"""Begin a walk, and plan the haul that it was for."""

from __future__ import annotations

from django.db import transaction

from book.models import Hitch, Machine, Trailer, Truck
from hauls.loads import Load
from hauls.models import Haul
from hauls.store import create_haul
from walk.models import Walk
from walk.steps import Part
from yards.models import User, Yard


def begin(yard: Yard, user: User) -> Walk:
    """A walk with nothing on it yet."""
    return Walk.objects.create(yard=yard, started_by=user)


@transaction.atomic
def take(walk: Walk, part: Part, pk: int | None) -> None:
    """Walk round a thing that the book has already, or with ``None`` round a new one.

    Raises:
        LookupError: the yard has no such thing.
    """
    now = Walk.objects.get(pk=walk.pk)
    model = {Part.TRUCK: Truck, Part.TRAILER: Trailer, Part.MACHINE: Machine}.get(part)
    if model is None:
        raise LookupError(part.value)
    found = None
    if pk is not None:
        found = model._default_manager.filter(yard=walk.yard, pk=pk).first()
        if found is None:
            raise LookupError(pk)
    setattr(now, part.value, found)
    if part is Part.TRUCK:
        now.hitch = None if pk is None else Hitch.objects.filter(truck_id=pk).first()
    now.marks = [one for one in now.marks if one != f"+{part.value}"]
    now.save()


@transaction.atomic
def plan(walk: Walk, *, user: User, name: str) -> Haul:
    """The haul that the walk was for, planned with what was found and with estimates for the rest;
    the walk is over with it. Where somebody planned it in between, theirs.

    Raises:
        IncompleteError: something is wanting that nothing stands in for.
        PlanFileError: the figures do not make a valid plan.
        LookupError: truck, trailer or machine are missing.
    """
    now = Walk.objects.select_related("haul", "truck", "hitch", "trailer", "machine").get(
        pk=walk.pk
    )
    if now.over and now.haul is not None:
        return now.haul
    if now.hitch is None or now.trailer is None or now.machine is None:
        raise LookupError(walk.pk)
    load = Load(machine=now.machine)
    haul = create_haul(
        yard=now.yard,
        user=user,
        name=name,
        hitch=now.hitch,
        trailer=now.trailer,
        loads=[load],
    )
    now.haul, now.over = haul, True
    now.save()
    return haul
