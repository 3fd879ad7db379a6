"""A haul looked at from its other sides: arranged, riding, its frame, and what if."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import wraps
from typing import Any

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_GET, require_POST

from hauls.arranging import (
    MOST_ITEMS,
    arranged,
    change_words,
    changes_for,
    nothing_fits,
    places_fields,
    read_asked,
    ways_to_load,
)
from hauls.barring import bars_page, read_gauge, read_restoration
from hauls.comparing import compare, read_variants
from hauls.framing import diagram, frame_words, length_rows
from hauls.holding import ActionError
from hauls.models import Haul
from hauls.outfit_drawing import WIDTH
from hauls.reasons import all_reasons
from hauls.riding import ride_page
from hauls.services.haul import save_haul
from hauls.services.steps import StaleRevision
from hauls.variants import names_of, others_that_fit
from hauls.wording import STATUS_WORDS
from measures.writing import write_percent
from mechanics.arrange import Wishes
from mechanics.frame import frame_use
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.solver import SolverError
from planfile.errors import PlanFileError
from planfile.reading import read_document
from yards.access import YardRequest, in_yard, planners


def with_plan(
    view: Callable[[YardRequest, Haul, Plan], HttpResponse],
) -> Callable[[YardRequest, int], HttpResponse]:
    """A view of a haul of the yard with its plan; a plan that cannot be read is said at home."""

    @wraps(view)
    def found(request: YardRequest, pk: int) -> HttpResponse:
        hauls = Haul.objects.filter(yard=request.yard).with_book()
        haul = get_object_or_404(hauls, pk=pk)
        try:
            plan = read_document(haul.document)
        except PlanFileError as error:
            messages.error(request, f"The plan cannot be read. {error}. It is kept as it is.")
            return redirect("home")
        return view(request, haul, plan)

    return found


def aspect_page(
    request: YardRequest, template: str, haul: Haul, context: dict[str, Any]
) -> HttpResponse:
    """A haul's other view; what is wrong makes it a refusal."""
    status = 422 if context.get("wrong") or context.get("wrong_gauge") else 200
    return render(
        request,
        template,
        {
            **context,
            "haul": haul,
            "place": "haul",
            "title": haul.name,
            "may_save": request.role.plans,
            "unit": request.user.unit_system,
            "width": WIDTH,
        },
        status=status,
    )


@require_GET
@in_yard
@with_plan
def arrange_page(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """The best order, facing and place of the loads; without one, what would make them fit."""
    unit = request.user.unit_system
    context: dict[str, Any] = {"view": "arrange", "ways": [], "wrong": "", "why_not": ""}
    try:
        asked = read_asked(request.GET, plan, unit)
    except ActionError as error:
        without = request.GET.copy()
        without["room"] = ""
        asked = read_asked(without, plan, unit)
        context["wrong"], context["typed_room"] = str(error), error.typed
    context |= {"asked": asked, "items": plan.items, "changes": [], "others": []}
    context |= {"blame": [], "cut": False}
    if plan.items and len(plan.items) <= MOST_ITEMS and not context["wrong"]:
        try:
            context |= _arranged(request, haul, plan, asked.wishes)
        except SolverError as error:
            context["why_not"] = f"The search failed: {error}. The haul is as it was."
    context["too_many"] = MOST_ITEMS if len(plan.items) > MOST_ITEMS else 0
    return aspect_page(request, "hauls/arrange.html", haul, context)


def _arranged(request: YardRequest, haul: Haul, plan: Plan, wishes: Wishes) -> dict[str, Any]:
    unit = request.user.unit_system
    found = arranged(plan, wishes)
    ways = ways_to_load(found, haul.document, unit)
    if ways:
        return {
            "ways": [(way, places_fields(way.places), STATUS_WORDS) for way in ways],
            "proved": found.proved,
        }
    room = wishes.room_m
    least_wrong = []
    if found.always_over:
        # overloaded, but it has to stand somewhere
        least_wrong = ways_to_load(arranged(plan, wishes, despite=True), haul.document, unit)
    bulk = frozenset(haul.links.filter(bulk__isnull=False).values_list("item_id", flat=True))
    others, cut = others_that_fit(haul, request.yard, wishes)
    found_changes = changes_for(plan, wishes, bulk)
    items = haul.document.get("items", [])
    return {
        "ways": [(way, places_fields(way.places), STATUS_WORDS) for way in least_wrong],
        "proved": found.proved,
        "why_not": nothing_fits(plan, found, unit, room),
        "changes": [change_words(c, plan, unit, room) for c in found_changes if not c.ratings],
        "others": [
            (names_of(haul, replace(other.change, best=False), items), other) for other in others
        ],
        "blame": [change_words(c, plan, unit, room) for c in found_changes if c.ratings],
        "percent": write_percent,
        "cut": cut,
    }


@require_GET
@in_yard
@with_plan
def ride(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Level, squat, ball height, and weight distribution."""
    unit = request.user.unit_system
    part, wrong = read_restoration(request.GET.get("restore"), plan)
    wanted = request.GET.get("gauge")
    by_gauge, wrong_gauge = read_gauge(wanted, plan, haul.document, unit)
    part = part if by_gauge is None else by_gauge
    context = {
        "view": "ride",
        "wrong": wrong,
        "wanted": (wanted or "")[:40],
        "wrong_gauge": wrong_gauge,
        **ride_page(plan, unit),
        "bars": bars_page(plan, part, haul.document, unit),
        "base": haul.revision,
    }
    if request.headers.get("HX-Request"):
        return aspect_page(request, "hauls/_bars.html", haul, context)
    return aspect_page(request, "hauls/ride.html", haul, context)


@require_POST
@planners
@with_plan
def set_restoration(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Hang spring bars on the haul, or take them off."""
    hitch = dict(haul.document["hitch"])
    if request.POST.get("bars") == "off":
        gone = hitch.pop("weight_distribution", None) or {}
        if "bar_length" in gone:
            hitch["extra"] = {**hitch.get("extra", {}), "bar_length": gone["bar_length"]}
        what = "bars off"
    else:
        part, wrong = read_restoration(request.POST.get("restore"), plan)
        if wrong:
            messages.error(request, wrong)
            return redirect("haul_ride", haul.pk)
        length = hitch.get("extra", {}).get("bar_length")
        kept = hitch.get("weight_distribution") or ({"bar_length": length} if length else {})
        hitch["weight_distribution"] = {**kept, "front_axle_restoration": round(part, 4)}
        what = f"bars give back {round(part * 100)} %"
    try:
        save_haul(
            haul,
            {**haul.document, "hitch": hitch},
            base=int(request.POST.get("base") or 0),
            user=request.user,
            what=what,
        )
    except StaleRevision:
        messages.error(request, "Somebody changed this haul in between. Look again, then set it.")
    else:
        messages.success(request, f"Set in this haul: {what}.")
    return redirect("haul_ride", haul.pk)


@require_GET
@in_yard
@with_plan
def frame(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """The frame as a beam, and the largest mass within a length of deck."""
    unit = request.user.unit_system
    rows, typed, wrong = length_rows(plan, request.GET.get("length", ""), unit)
    use = frame_use(plan)
    context = {
        "view": "frame",
        "words": frame_words(plan, unit),
        "diagram": diagram(plan, use, unit),
        "lengths": rows,
        "typed": typed,
        "wrong": wrong,
        "items": plan.items,
    }
    return aspect_page(request, "hauls/frame.html", haul, context)


@require_GET
@in_yard
@with_plan
def figures(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Every figure and limit with its arithmetic, to read, print or copy."""
    unit = request.user.unit_system
    names = {item.id: item.name or item.id for item in plan.items}
    reasons = all_reasons(evaluate(plan), names, unit)
    text = "\n\n".join([haul.name, *(r.text for r in reasons)])
    context = {"view": "figures", "reasons": reasons, "text": text}
    return aspect_page(request, "hauls/figures.html", haul, context)


@require_GET
@in_yard
@with_plan
def what_if(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Two to four ways of the same haul, side by side."""
    unit = request.user.unit_system
    asked = read_variants(request.GET, haul, request.yard)
    context = {
        "view": "what_if",
        "asked": asked,
        "compared": compare(haul, plan, asked, unit),
        "wrong": "",
    }
    return aspect_page(request, "hauls/what_if.html", haul, context)
