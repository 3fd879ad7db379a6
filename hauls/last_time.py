"""Where loads really stopped, and how the same loads rode on the same outfit the last time."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Final

from hauls.models import Haul
from mechanics.errors import InputError
from mechanics.plan import Plan
from planfile.errors import PlanFileError
from web.registry import brought

MODULE: Final = "stopped_marks"
"""The module of an app that knows where a haul's loads really stopped; ``MARKS`` are functions from
a haul to the marks by item id, in metres behind the headboard, empty where nobody has read any."""

Marks = Callable[[Haul], Mapping[str, float]]

DONE: Final = (Haul.State.DELIVERED, Haul.State.BACK)
"""How hauls stand whose loads have ridden."""


def really_stood(haul: Haul) -> Plan | None:
    """A haul's plan with its loads where they really stopped; ``None`` where nobody has read that,
    or the plan has none of them any more.

    Raises:
        PlanFileError: its document is not a valid plan.
    """
    ways: tuple[Marks, ...] = brought(MODULE, "MARKS")
    marks = {item: at for way in ways for item, at in way(haul).items()}
    plan = haul.draft.plan
    if not any(item.id in marks for item in plan.items):
        return None
    return plan.carrying(
        [
            replace(
                item,
                placement=replace(
                    item.placement, reference_m=marks.get(item.id, item.placement.reference_m)
                ),
            )
            for item in plan.items
        ]
    )


def last_time(haul: Haul) -> tuple[Haul, Plan] | None:
    """The last haul before this one of the same loads with the same truck and trailer that has been
    driven, and how its loads stood: where they stopped if that was read, else as planned."""
    loads = _loads_of(haul)
    if not loads or haul.trailer_id is None or haul.truck_id is None:
        return None
    done = Haul.objects.filter(
        yard=haul.yard_id, trailer=haul.trailer_id, truck=haul.truck_id, state__in=DONE
    ).exclude(pk=haul.pk)
    if haul.day is not None:
        done = done.filter(day__lte=haul.day)
    for other in done.order_by("-day", "-pk").prefetch_related("links"):
        if _loads_of(other) != loads:
            continue
        try:
            return other, really_stood(other) or other.draft.plan
        except (PlanFileError, InputError):
            # of a plan that cannot be read nothing is known
            continue
    return None


def _loads_of(haul: Haul) -> list[tuple[int | None, int | None, int | None]]:
    return sorted(
        ((one.machine_id, one.configuration_id, one.bulk_id) for one in haul.links.all()),
        key=lambda load: tuple(part or 0 for part in load),
    )
