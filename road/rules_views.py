"""How a yard goes on the road: its lists, stops and law."""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_http_methods

from hauls.road_rules import RoadRules
from road.rules_forms import RoadRulesForm
from web.pages import show
from yards.access import YardRequest, planners
from yards.models import Yard

IN_BETWEEN = (
    "Somebody else changed the rules in between. What you entered is still in the boxes: keep "
    "it if "
    "it is right beside theirs."
)


@dataclass(frozen=True, kw_only=True)
class RulesPage:
    """The boxes, with what the rules were when they were shown."""

    form: RoadRulesForm
    was: str
    wrong: str


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def road_rules(request: YardRequest) -> HttpResponse:
    """See and change them."""
    rules, units = RoadRules.of(request.yard), request.user.unit_system
    if request.method != "POST":
        return _page(request, RoadRulesForm(rules=rules, units=units), rules)
    form = RoadRulesForm(request.POST, rules=rules, units=units)
    if not form.is_valid():
        return _page(request, form, rules, status=422)
    if request.POST.get("was") != _digest(rules):
        return _page(request, form, rules, wrong=IN_BETWEEN, status=409)
    Yard.objects.filter(pk=request.yard.pk).update(road=form.rules(rules).own())
    messages.success(request, "Kept. Lists that are open are as the rules say from now on.")
    return redirect("road_rules")


def _digest(rules: RoadRules) -> str:
    return hashlib.sha256(json.dumps(rules.own(), sort_keys=True).encode()).hexdigest()[:16]


def _page(
    request: YardRequest,
    form: RoadRulesForm,
    rules: RoadRules,
    *,
    wrong: str = "",
    status: int = 200,
) -> HttpResponse:
    page = RulesPage(form=form, was=_digest(rules), wrong=wrong)
    return show(request, "road/rules.html", page, place="road", status=status)
