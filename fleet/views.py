"""The fleet."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpResponse
from django.utils import timezone
from django.views.decorators.http import require_safe

from fleet.page import Fleet, fleet_of
from web.pages import show
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class FleetPage:
    """The fleet."""

    fleet: Fleet


@require_safe
@in_yard
def fleet(request: YardRequest) -> HttpResponse:
    """Every truck, trailer, machine and piece of gear, and what to do next."""
    today = timezone.localdate(timezone=request.yard.clock)
    page = FleetPage(fleet=fleet_of(request.yard, today, request.user.unit_system))
    return show(request, "fleet/fleet.html", page)
