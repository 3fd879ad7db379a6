"""Where it really stopped: reading mark, gauge and wheel arches."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_http_methods

from aspects.rooms import with_plan
from hauls.models import Haul
from mechanics.plan import Plan
from mechanics.report import evaluate
from road.forms import StoppedForm
from road.page import StoppedAt, stopped_at
from road.services import keep_stopped
from web.pages import show
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class StoppedPage:
    """The boxes, and what was read last of this haul."""

    form: StoppedForm
    name: str
    pk: int
    before: StoppedAt | None


@require_http_methods(["GET", "HEAD", "POST"])
@in_yard
@with_plan
def stopped(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Read where it really stopped."""
    unit, posted = request.user.unit_system, request.method == "POST"
    form = StoppedForm(request.POST if posted else None, draft=haul.draft, units=unit)
    if posted and form.is_valid():
        keep_stopped(haul, evaluate(plan), form, user=request.user)
        return redirect("road_haul", haul.pk)
    page = StoppedPage(form=form, name=haul.name, pk=haul.pk, before=stopped_at(haul, unit))
    return show(request, "road/stopped.html", page, place="road", status=422 if posted else 200)
