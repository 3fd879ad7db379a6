"""The page of other ways side by side."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from aspects.rooms import aspect_page, with_plan
from aspects.what_if.lists_out import ways_table
from aspects.what_if.page import VARIANTS, AskedVariant, Column, compare, read_variants
from aspects.what_if.promising import promising
from book.table_views import csv_file
from hauls.models import Haul
from mechanics.plan import Plan
from web.budget import costly
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class WhatIfView:
    """What was asked for, and the ways side by side."""

    asked: list[AskedVariant]
    compared: list[Column]
    found: bool
    """Whether the ways are those that promise most, and nobody asked for them."""


@require_safe
@in_yard
@with_plan
@costly(12, "Compare fewer ways at once.")
def what_if(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Two to four ways of the same haul, side by side; as a table where that is asked for."""
    sent: Mapping[str, str] = request.GET
    found = not any(name.startswith("v") for name in request.GET)
    if found:
        # nobody has asked yet: the ways that promise most
        ways = promising(haul, request.yard, VARIANTS)
        sent = {
            f"v{number}_{box}": value
            for number, way in enumerate(ways, 1)
            for box, value in way.items()
        }
    asked = read_variants(sent, haul, request.yard)
    compared = compare(haul, asked, request.user.unit_system)
    if request.GET.get("as") in ("csv", "xlsx"):
        return csv_file(request, ways_table(compared), "what-if")
    page = WhatIfView(asked=asked, compared=compared, found=found and len(compared) > 1)
    return aspect_page(request, "what_if/what_if.html", haul, "what_if", page)
