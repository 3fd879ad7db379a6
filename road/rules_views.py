"""How a yard goes on the road: its lists, stops and law."""

from __future__ import annotations

from dataclasses import dataclass

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_http_methods

from hauls.assigning import AlreadyChangedError
from hauls.road_rules import RoadRules, keep_rules
from road.rules_forms import RoadRulesForm
from web.pages import show
from yards.access import YardRequest, planners

IN_BETWEEN = (
    "Somebody else changed the rules in between. What you entered is still in the boxes: keep it "
    "if it is right beside theirs."
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
    try:
        keep_rules(request.yard, form.rules, was=request.POST.get("was", ""))
    except AlreadyChangedError:
        request.yard.refresh_from_db()
        return _page(request, form, RoadRules.of(request.yard), wrong=IN_BETWEEN, status=409)
    messages.success(request, "Kept. Lists that are open are as the rules say from now on.")
    return redirect("road_rules")


def _page(
    request: YardRequest,
    form: RoadRulesForm,
    rules: RoadRules,
    *,
    wrong: str = "",
    status: int = 200,
) -> HttpResponse:
    page = RulesPage(form=form, was=rules.mark, wrong=wrong)
    return show(request, "road/rules.html", page, place="road", status=status)
