"""How it tows."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from aspects.rooms import aspect_page, with_plan
from aspects.sway.page import SwayPage, sway_page
from hauls.models import Haul
from mechanics.plan import Plan
from web.sent import whole_number
from wording.sway import CALMER, NO_LOAD, UNKNOWN
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class SwayView:
    """How it tows, and what is said of every outfit."""

    towing: SwayPage
    calmer: str
    unknown: str
    no_load: str


@require_safe
@in_yard
@with_plan
def sway(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """How fast a swing dies out, as it stands and otherwise."""
    asked = whole_number(request.GET.get("speed"))
    page = SwayView(
        towing=sway_page(plan, request.user.unit_system, asked),
        calmer=CALMER,
        unknown=UNKNOWN,
        no_load=NO_LOAD,
    )
    return aspect_page(request, "sway/sway.html", haul, "sway", page)
