"""The page of arrangements."""

from __future__ import annotations

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from aspects.arrange.page import arrange_page
from aspects.rooms import aspect_page, with_plan
from hauls.models import Haul
from mechanics.plan import Plan
from web.budget import costly
from yards.access import YardRequest, in_yard


@require_safe
@in_yard
@with_plan
@costly(12, "Arrange fewer loads at once, or hold some of them where they are.")
def arrange(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """The best order, facing and place of the loads; without one, what would make them fit."""
    page = arrange_page(haul, request.yard, request.GET, request.user.unit_system)
    return aspect_page(
        request, "arrange/arrange.html", haul, "arrange", page, wrong=bool(page.wrong)
    )
