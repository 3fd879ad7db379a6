"""The page of other ways side by side."""

from __future__ import annotations

from django.http import HttpResponse
from django.views.decorators.http import require_GET

from aspects.rooms import aspect_page, with_plan
from aspects.what_if.page import compare, read_variants
from hauls.models import Haul
from mechanics.plan import Plan
from yards.access import YardRequest, in_yard


@require_GET
@in_yard
@with_plan
def what_if(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Two to four ways of the same haul, side by side."""
    asked = read_variants(request.GET, haul, request.yard)
    compared = compare(haul, asked, request.user.unit_system)
    context = {"asked": asked, "compared": compared}
    return aspect_page(request, "what_if/what_if.html", haul, "what_if", context)
