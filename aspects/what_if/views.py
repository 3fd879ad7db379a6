"""The page of other ways side by side."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from aspects.rooms import aspect_page, with_plan
from aspects.what_if.page import AskedVariant, Column, compare, read_variants
from hauls.models import Haul
from mechanics.plan import Plan
from web.budget import costly
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class WhatIfView:
    """What was asked for, and the ways side by side."""

    asked: list[AskedVariant]
    compared: list[Column]


@require_safe
@in_yard
@with_plan
@costly(12, "Compare fewer ways at once.")
def what_if(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Two to four ways of the same haul, side by side."""
    asked = read_variants(request.GET, haul, request.yard)
    compared = compare(haul, asked, request.user.unit_system)
    page = WhatIfView(asked=asked, compared=compared)
    return aspect_page(request, "what_if/what_if.html", haul, "what_if", page)
