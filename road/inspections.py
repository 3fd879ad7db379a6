"""What is due to be inspected, by date and by miles driven."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final

from django.db import transaction
from django.db.models import Q

from book.models import Trailer, Truck
from measures import UnitSystem
from measures.writing import write_in
from road.forms import InspectionForm
from road.models import Inspection, Looked, Trip, on
from yards.models import User, Yard

SOON: Final = timedelta(days=21)
"""So long before its date an inspection is reminded of."""

SOON_PART: Final = 0.1
"""And with so much of its miles left."""

NEVER: Final = "never inspected"


@dataclass(frozen=True, kw_only=True, slots=True)
class Due:
    """One inspection: when it was done last and what is left, in words.

    ``key`` is which thing of the book it is of. ``overdue`` it should have been done; ``soon`` it
    is about to be.
    """

    pk: int
    what: str
    thing: str
    key: tuple[type, int]
    words: str
    rule: str
    overdue: bool
    soon: bool
    last: date | None


@transaction.atomic
def add(form: InspectionForm, *, yard: Yard, user: User) -> Inspection:
    """Keep an inspection and, where it is known, when it was done last. The form has been found
    right."""
    told, thing = form.cleaned_data, form.thing
    made = Inspection.objects.create(
        yard=yard,
        **on(thing),
        what=told["what"],
        every_days=told["every_days"],
        every_way=told["every_way"],
    )
    if told["last"]:
        Looked.objects.create(inspection=made, on=told["last"], by=user)
    return made


def dues_of(
    yard: Yard,
    today: date,
    unit: UnitSystem = UnitSystem.US,
    *,
    truck: Truck | None = None,
    trailer: Trailer | None = None,
    everything: bool = False,
) -> list[Due]:
    """Inspections of a truck and trailer, or ``everything`` of the yard; what is due first."""
    asked = Inspection.objects.filter(yard=yard).select_related("truck", "trailer")
    if not everything:
        asked = asked.filter(
            Q(truck__isnull=False, truck=truck) | Q(trailer__isnull=False, trailer=trailer)
        )
    rows = list(asked.prefetch_related("looked"))
    driven = list(_driven(yard, rows))
    found = [_due(one, driven, today, unit) for one in rows]
    return sorted(found, key=lambda due: (not due.overdue, not due.soon, due.thing, due.what))


def _driven(
    yard: Yard, rows: Iterable[Inspection]
) -> Iterator[tuple[int | None, int | None, date, float]]:
    """Ways driven since the first of the inspections: truck, trailer, day, metres."""
    if not any(row.every_way for row in rows):
        return
    for trip in Trip.objects.filter(yard=yard).only(
        "truck_id", "trailer_id", "driven_on", "distance"
    ):
        yield trip.truck_id, trip.trailer_id, trip.driven_on, float(trip.distance.si)


def _due(
    row: Inspection,
    driven: Iterable[tuple[int | None, int | None, date, float]],
    today: date,
    unit: UnitSystem,
) -> Due:
    looked = next(iter(row.looked.all()), None)
    last = None if looked is None else looked.on
    words, over, soon = [], last is None, False
    if last is None:
        words.append(NEVER)
    if row.every_days is not None and last is not None:
        by = last + timedelta(days=row.every_days)
        over |= by < today
        soon |= by - SOON <= today
        words.append(f"{'was due' if by < today else 'due'} {by:%d %b %Y}")
    if row.every_way is not None and last is not None:
        way = sum(
            metres
            for truck, trailer, day, metres in driven
            if day >= last
            and (truck if row.truck_id else trailer) == (row.truck_id or row.trailer_id)
        )
        left = float(row.every_way.si) - way
        over |= left < 0
        soon |= left <= SOON_PART * float(row.every_way.si)
        shown = write_in(abs(left), unit.bare_unit("distance"))
        words.append(f"{shown} {'over' if left < 0 else 'left'}")
    return Due(
        pk=row.pk,
        what=row.what,
        thing=row.thing.name,
        key=(type(row.thing), row.thing.pk),
        words=", ".join(words),
        rule=_rule(row, unit),
        overdue=over,
        soon=soon and not over,
        last=last,
    )


def _rule(row: Inspection, unit: UnitSystem) -> str:
    parts = []
    if row.every_days is not None:
        parts.append(f"{row.every_days} days")
    if row.every_way is not None:
        parts.append(write_in(float(row.every_way.si), unit.bare_unit("distance")))
    return f"every {' or '.join(parts)}"
