"""Keep what the gauge showed."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Any

from django.db import transaction
from django.utils import timezone

from book.models import Ticket
from gauge.coaching import METHOD
from gauge.models import Gauge
from hauls.models import Haul
from measures import Quantity
from measures.writing import write_entered
from mechanics.coach import Gauge as GaugeFacts
from weighing.models import HaulTicket
from weighing.scaling import loads_of
from yards.models import User


@dataclass(frozen=True, kw_only=True)
class Reading:
    """A frozen reading: the figure, where the item's mark stood (``None``: not on it yet)."""

    mass: Quantity
    index: int
    reference: Quantity | None


@transaction.atomic
def keep_reading(
    haul: Haul, gauge: Gauge | None, reading: Reading, *, user: User, day: date | None = None
) -> Ticket:
    """A held reading as a ticket of the haul, with what stood on the deck and where.

    Without a ``gauge`` it was read off a dial, whose step is the one a gauge has where
    nothing else is known.
    """
    kg = float(reading.mass.si)
    boxes = {"reading": write_entered(reading.mass)}
    if gauge is not None and gauge.step is not None:
        boxes["step"] = write_entered(gauge.step)
    step_kg = GaugeFacts().step_kg if gauge is None else gauge.step_kg
    tolerance = step_kg / 2 + 0.01 * abs(kg)
    readings: dict[str, Any] = {
        "boxes": boxes,
        "figures": [["tongue", kg, tolerance]],
        "tolerance_kg": {"tongue_mass": tolerance},
        "empty": reading.reference is None,
    }
    ticket = Ticket(
        yard=haul.yard,
        weighed_on=day or timezone.localdate(),
        method=METHOD,
        tongue_mass=reading.mass,
        place="" if gauge is None else gauge.name,
        read_by=user.shown_name,
        added_by=user,
        readings=readings,
    )
    ticket.thing = haul.trailer
    ticket.save()
    if reading.reference is not None:
        item = 0
        for load in loads_of(haul):
            if load.kind == load.Kind.ITEM:
                if item == reading.index:
                    load.reference = reading.reference
                item += 1
            load.ticket = ticket
            load.save()
    HaulTicket.objects.create(ticket=ticket, haul=haul)
    return ticket
