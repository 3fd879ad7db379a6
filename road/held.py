"""Pages that a driver's phone holds: his hauls of today and tomorrow, whole."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import timedelta
from typing import Final

from django.db.models import Q
from django.urls import reverse
from django.utils import timezone

from hauls.models import Haul
from yards.access import YardRequest

MOST_HAULS: Final = 12
"""Hauls of two days that are held; nobody drives more."""

OF_A_HAUL: Final = ("road_haul", "haul_stopped", "haul_card", "haul_tied_list")


def pages(request: YardRequest) -> Iterator[str]:
    """The day, what to do when it sways, and each haul of today and tomorrow, or under way
    still."""
    yield reverse("road")
    yield reverse("sways")
    tomorrow = timezone.localdate() + timedelta(days=1)
    soon = Q(day__isnull=False, day__lte=tomorrow) | Q(state=Haul.State.ON_THE_ROAD)
    hauls = Haul.objects.filter(soon, yard=request.yard, driver=request.user, archived=False)
    for pk in (
        hauls.exclude(state=Haul.State.BACK)
        .order_by("day", "pk")
        .values_list("pk", flat=True)[:MOST_HAULS]
    ):
        for name in OF_A_HAUL:
            yield reverse(name, args=[pk])


PAGES = (pages,)
