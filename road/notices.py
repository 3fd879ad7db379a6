"""Defects that hold hauls up, and inspections that are due, for whoever plans."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from django.urls import reverse
from django.utils import timezone

from road.defects import holding_up
from road.inspections import dues_of
from web.notices import Notice
from wording.phrases import begun
from yards.access import YardRequest

MOST: Final = 5
"""Of each kind; the others are on their own page."""


def of_the_road(request: YardRequest) -> Iterator[Notice]:
    """What has to be decided or inspected; drivers see it with their hauls."""
    if not request.role.plans:
        return
    for one in holding_up(request.yard, MOST):
        yield Notice(
            words=f"Holds hauls up: {one.thing.name}: {one.what}.",
            address=reverse("defects"),
            status="over",
        )
    dues = dues_of(request.yard, timezone.localdate(), request.user.unit_system, everything=True)
    for due in [due for due in dues if due.overdue or due.soon][:MOST]:
        yield Notice(
            words=f"{begun(due.thing)}: {due.what} {due.words}.",
            address=reverse("inspections"),
            status="over" if due.overdue else "near",
        )


NOTICES = (of_the_road,)
