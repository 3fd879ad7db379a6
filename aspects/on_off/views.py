"""The page of getting on and off; keeping the place, doing a measure."""

from __future__ import annotations

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST, require_safe

from aspects.on_off.measures import do_measure
from aspects.on_off.page import Asked, OnOffPage, address_of, on_off_page
from aspects.on_off.site_form import SiteBoxes, read_site
from aspects.rooms import CONFLICT, base_sent, part_or_page, with_plan
from hauls.models import Haul
from hauls.steps import StaleRevision
from hauls.store import save_haul
from mechanics.plan import Plan
from yards.access import YardRequest, in_yard, planners

TEMPLATES = ("on_off/on_off.html", "on_off/_show.html")


def _answer(
    request: YardRequest, haul: Haul, page: OnOffPage, *, wrong: bool = False
) -> HttpResponse:
    return part_or_page(request, TEMPLATES, haul, "on_off", page, wrong=wrong)


@require_safe
@in_yard
@with_plan
def on_off(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """What happens while a machine climbs, and whether the truck holds."""
    asked = Asked.of(request.GET)
    page = on_off_page(haul, asked, request.user.unit_system, winch=request.GET)
    return _answer(request, haul, page, wrong=page.pull is not None and bool(page.pull.wrong))


@require_POST
@planners
@with_plan
def set_site(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Keep the place of loading, or of unloading."""
    asked, unit, draft = Asked.of(request.POST), request.user.unit_system, haul.draft
    kept = draft.site(asked.place)
    axles = len(draft.plan.trailer.axles)
    site, boxes = read_site(request.POST, kept, draft.units, unit, axles)
    if site is None:
        return _refused(request, haul, asked, boxes)
    if site != kept:
        try:
            save_haul(
                haul,
                draft.with_site(site, asked.place),
                base=base_sent(request),
                user=request.user,
                what=f"place of {asked.place.value}",
            )
        except StaleRevision as stale:
            return _stale(request, stale.haul, asked)
    return _kept(request, haul, asked)


@require_POST
@planners
@with_plan
def do(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Do what would hold it."""
    asked = Asked.of(request.POST)
    try:
        done = do_measure(
            haul,
            asked.place,
            item_id=asked.item,
            code=str(request.POST.get("do", "")),
            base=base_sent(request),
            user=request.user,
        )
    except StaleRevision as stale:
        return _stale(request, stale.haul, asked)
    if not done:
        messages.error(request, "There is nothing to do of that kind any more.")
    return _kept(request, haul, asked)


def _kept(request: YardRequest, haul: Haul, asked: Asked) -> HttpResponse:
    """The haul as it is now: in place, or by its own address."""
    if request.headers.get("HX-Request"):
        return _answer(request, haul, on_off_page(haul, asked, request.user.unit_system))
    return redirect(address_of(haul, asked))


def _refused(request: YardRequest, haul: Haul, asked: Asked, boxes: SiteBoxes) -> HttpResponse:
    page = on_off_page(haul, asked, request.user.unit_system, boxes=boxes)
    return _answer(request, haul, page, wrong=True)


def _stale(request: YardRequest, now: Haul, asked: Asked) -> HttpResponse:
    page = on_off_page(now, asked, request.user.unit_system, conflict=CONFLICT)
    return _answer(request, now, page, wrong=True)
