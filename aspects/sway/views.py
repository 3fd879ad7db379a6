"""How it tows."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from aspects.rooms import part_or_page, with_plan
from aspects.sway.moving_view import MovingView, moving_view
from aspects.sway.page import SwayPage, Ways, sway_page
from aspects.sway.run import Run
from hauls.last_time import last_time, really_stood
from hauls.models import Haul
from mechanics.plan import Plan
from wording.sway import CALMER, NO_LOAD, UNKNOWN
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class SwayView:
    """How it tows, and what is said of every outfit."""

    towing: SwayPage
    moving: MovingView
    calmer: str
    unknown: str
    no_load: str


@require_safe
@in_yard
@with_plan
def sway(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """How fast a swing dies out, as it stands and otherwise; for the part of the page that a
    slider changes, that part."""
    unit = request.user.unit_system
    run = Run.of(request.GET, plan, unit)
    others = _others(haul, plan)
    page = SwayView(
        towing=sway_page(plan, unit, run.speed, others=others),
        moving=moving_view(haul.draft, run, unit),
        calmer=CALMER,
        unknown=UNKNOWN,
        no_load=NO_LOAD,
    )
    return part_or_page(request, ("sway/sway.html", "sway/_sway.html"), haul, "sway", page)


def _others(haul: Haul, plan: Plan) -> Ways:
    """Where it really stopped, and the last time, where they are known and not as it stands."""
    found = []
    stopped = really_stood(haul)
    if stopped is not None and stopped != plan:
        found.append(("Where it really stopped", stopped))
    before = last_time(haul)
    if before is not None and before[1] != plan:
        found.append((f"The last time ({before[0].name})", before[1]))
    return tuple(found)
