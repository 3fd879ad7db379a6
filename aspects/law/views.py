"""Flags of the law and the room, and a yard's own flags."""

from __future__ import annotations

from dataclasses import replace

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST, require_safe

from aspects.law.own import MOST_OWN, OwnFlagForm
from aspects.law.page import law_page
from aspects.rooms import aspect_page, with_plan
from hauls.assigning import AlreadyChangedError
from hauls.models import Haul
from hauls.road_rules import OwnFlag, RoadRules, keep_rules
from mechanics.plan import Plan
from web.sent import whole_number
from yards.access import YardRequest, in_yard, planners

SLUG = "law"
IN_BETWEEN = (
    "Somebody else changed the yard's rules in between. They are shown as they are now: send it "
    "again if it is still right."
)
TOO_MANY = f"A yard has no more than {MOST_OWN} flags of its own. Remove one first."


@require_safe
@in_yard
@with_plan
def law(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """What the law may ask of this haul, and how far it needs to stop."""
    form = OwnFlagForm(units=request.user.unit_system) if request.role.plans else None
    return _page(request, haul, form)


@require_POST
@planners
@with_plan
def own_flag(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Add a flag of the yard's own."""
    rules = RoadRules.of(request.yard)
    form = OwnFlagForm(request.POST, units=request.user.unit_system)
    if not form.is_valid():
        return _page(request, haul, form)
    if len(rules.own_flags) >= MOST_OWN:
        return _page(request, haul, form, wrong=TOO_MANY)
    return _keep(request, haul, form, (*rules.own_flags, form.flag))


@require_POST
@planners
@with_plan
def remove_own_flag(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Remove a flag of the yard's own."""
    rules = RoadRules.of(request.yard)
    number = whole_number(request.POST.get("flag")) or 0
    left = tuple(one for n, one in enumerate(rules.own_flags, 1) if n != number)
    return _keep(request, haul, OwnFlagForm(units=request.user.unit_system), left)


def _keep(
    request: YardRequest,
    haul: Haul,
    form: OwnFlagForm,
    flags: tuple[OwnFlag, ...],
) -> HttpResponse:
    try:
        keep_rules(
            request.yard,
            lambda rules: replace(rules, own_flags=flags),
            was=request.POST.get("was", ""),
        )
    except AlreadyChangedError:
        request.yard.refresh_from_db()
        haul.yard.refresh_from_db()
        return _page(request, haul, form, wrong=IN_BETWEEN)
    messages.success(request, "Kept.")
    return redirect("haul_law", haul.pk)


def _page(
    request: YardRequest,
    haul: Haul,
    form: OwnFlagForm | None,
    *,
    wrong: str = "",
) -> HttpResponse:
    page = law_page(
        haul,
        request.user.unit_system,
        law=request.GET.get("set", "")[:20],
        form=form,
        was=RoadRules.of(haul.yard).mark,
        wrong=wrong,
    )
    faulty = form is not None and form.is_bound and not form.is_valid()
    return aspect_page(request, "law/law.html", haul, SLUG, page, wrong=faulty or bool(wrong))
