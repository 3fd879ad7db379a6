"""The driver's day, one haul on its way, and what to do when it sways."""

from __future__ import annotations

from dataclasses import dataclass

from django.db.models import F, QuerySet
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from hauls.models import Haul
from road.models import Step
from road.page import HaulPage, day_page, on_the_way
from road.services import NotNextError, do_step, take_back
from web.pages import show
from wording.swaying import AFTER, sways
from yards.access import YardRequest, in_yard

LISTED = 60
"""Hauls that the page lists at most: the next ones."""

MOVED_ON = (
    "Somebody noted something else of this haul in between. It is shown as it is now: look again."
)

NO_STEP = "That is no step of a haul. It is shown as it is now: press what comes next."


@dataclass(frozen=True, kw_only=True)
class SwaysPage:
    """What to do, in four lines, and what after that."""

    lines: tuple[str, ...]
    after: str


def _open(request: YardRequest) -> QuerySet[Haul]:
    """Hauls of the yard that are not back yet, in the order in which they come."""
    there = Haul.objects.filter(yard=request.yard, archived=False).exclude(state=Haul.State.BACK)
    by_day = there.order_by(F("day").asc(nulls_last=True), "pk")
    return by_day.select_related("driver").prefetch_related("steps_done")


@require_safe
@in_yard
def day(request: YardRequest) -> HttpResponse:
    """The hauls of whoever looks, by day; for everybody's the page is asked for all."""
    everybody = request.GET.get("who") == "all"
    mine = list(_open(request).filter(driver=request.user)[:LISTED])
    listed = list(_open(request)[:LISTED]) if everybody else mine
    page = day_page(mine, listed, request.user.unit_system, everybody=everybody)
    return show(request, "road/day.html", page, place="road")


@require_safe
@in_yard
def one(request: YardRequest, pk: int) -> HttpResponse:
    """One haul on its way."""
    return _haul(request, pk)


@require_POST
@in_yard
def do(request: YardRequest, pk: int) -> HttpResponse:
    """Note that the next step is done."""
    return _noted(request, pk, undo=False)


@require_POST
@in_yard
def undo(request: YardRequest, pk: int) -> HttpResponse:
    """Take the last step back."""
    return _noted(request, pk, undo=True)


def _noted(request: YardRequest, pk: int, *, undo: bool) -> HttpResponse:
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard), pk=pk)
    asked = request.POST.get("step", "")
    if asked not in Step.values:
        return _haul(request, pk, wrong=NO_STEP, status=422)
    try:
        if undo:
            take_back(haul, Step(asked))
        else:
            do_step(haul, Step(asked), user=request.user)
    except NotNextError:
        return _haul(request, pk, wrong=MOVED_ON, status=409)
    return redirect("road_haul", pk)


def _haul(request: YardRequest, pk: int, *, wrong: str = "", status: int = 200) -> HttpResponse:
    hauls = Haul.objects.filter(yard=request.yard).select_related("driver")
    haul = get_object_or_404(hauls, pk=pk)
    page = HaulPage(
        it=on_the_way(haul, request.user.unit_system, timezone.localdate()), wrong=wrong
    )
    return show(request, "road/haul.html", page, place="road", status=status)


@require_safe
@in_yard
def it_sways(request: YardRequest) -> HttpResponse:
    """What to do when the trailer sways: four lines, read at a glance."""
    page = SwaysPage(lines=sways(braked=True), after=AFTER)
    return show(request, "road/sways.html", page, place="road")
