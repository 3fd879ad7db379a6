"""Which truck and trailer can take a load."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from matching.forms import MatchForm
from matching.pairs import PAIRS, matches
from mechanics.errors import MechanicsError
from planfile.errors import PlanFileError
from yards.access import YardRequest, in_yard

NAME_LETTERS = 180
"""Letters of a new haul's name that the loads' names may fill."""


@require_GET
@in_yard
def match(request: YardRequest) -> HttpResponse:
    """Which truck and trailer can take a load: every pair with its verdict and why."""
    asked = any(key.startswith("load_") for key in request.GET)
    form = MatchForm(request.GET if asked else None, yard=request.yard)
    context: dict[str, Any] = {"form": form, "asked": False, "wrong": "", "place": "match"}
    if asked and form.is_valid():
        try:
            loads = form.loads
            rows, cut = matches(request.yard, loads, request.user.unit_system)
        except (PlanFileError, MechanicsError) as error:
            context["wrong"] = f"The book's figures do not fit together. {error}."
        else:
            context |= {
                "asked": True,
                "rows": rows,
                "cut": PAIRS if cut else 0,
                "name": ", ".join(load.name for load in loads)[:NAME_LETTERS],
                "keys": [(f"load_{n}", str(load.key)) for n, load in enumerate(loads, 1)],
                "single": len(loads) == 1,
            }
    status = 422 if form.errors or context["wrong"] else 200
    return render(request, "matching/match.html", context, status=status)
