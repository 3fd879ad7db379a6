"""The driver's day, one haul on its way, and what to do when it sways."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.db.models import F, QuerySet
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_POST, require_safe

from hauls.models import Haul
from offline.once import kept, noted_at, once, refused, waits
from road.haul_page import haul_page
from road.models import Step
from road.page import day_page, done_line, so_far
from road.services import HeldUpError, NotNextError, do_step, take_back
from web.notices import notices
from web.pages import show
from web.sent import faults_of
from wording.swaying import AFTER, sways
from yards.access import YardRequest, in_yard

LISTED = 60
"""Hauls that the page lists at most: the next ones."""

MOVED_ON = (
    "Somebody noted something else of this haul in between. It is shown as it is now: look again."
)

FIRST = "Somebody else had noted that already; theirs stays."

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
    page = day_page(
        mine, listed, request.user.unit_system, everybody=everybody, notices=notices(request)
    )
    return show(request, "road/day.html", page, place="road")


@require_safe
@in_yard
def one(request: YardRequest, pk: int) -> HttpResponse:
    """One haul on its way."""
    return way_page(request, haul_of(request, pk))


@require_POST
@in_yard
@once
def do(request: YardRequest, pk: int) -> HttpResponse:
    """Note that the next step is done."""
    haul, asked = haul_of(request, pk), request.POST.get("step", "")
    if asked not in Step.values:
        return not_noted(request, haul, NO_STEP, status=422)
    try:
        noted = do_step(haul, Step(asked), user=request.user, at=noted_at(request))
    except NotNextError:
        return not_noted(request, haul, MOVED_ON, theirs=so_far(haul))
    except HeldUpError as held:
        return not_noted(request, haul, str(held))
    if waits(request) and noted.by_id != request.user.pk:
        return not_noted(request, haul, FIRST, theirs=done_line(noted))
    return kept(redirect("road_haul", pk))


@require_POST
@in_yard
@once
def undo(request: YardRequest, pk: int) -> HttpResponse:
    """Take the last step back."""
    haul, asked = haul_of(request, pk), request.POST.get("step", "")
    if asked not in Step.values:
        return not_noted(request, haul, NO_STEP, status=422)
    try:
        take_back(haul, Step(asked))
    except NotNextError:
        return not_noted(request, haul, MOVED_ON, theirs=so_far(haul))
    return kept(redirect("road_haul", pk))


def haul_of(request: YardRequest, pk: int) -> Haul:
    """A haul of the yard."""
    hauls = Haul.objects.filter(yard=request.yard).with_book().select_related("driver")
    return get_object_or_404(hauls, pk=pk)


def way_page(
    request: YardRequest, haul: Haul, *, wrong: str = "", status: int = 200, **forms: Any
) -> HttpResponse:
    """The page of a haul on its way, with forms that were sent and are not right."""
    page = haul_page(
        haul, request.user.unit_system, plans=request.role.plans, wrong=wrong, forms=forms
    )
    return show(request, "road/haul.html", page, place="road", status=status)


def not_right(request: YardRequest, haul: Haul, words: str = "", **form: Any) -> HttpResponse:
    """Say what is wrong with the one form that was sent, by its name on the page: there, or to a
    phone that had no signal; in ``words`` of its own where it has some."""
    (sent,) = form.values()
    return refused(
        request,
        words or faults_of(sent),
        lambda: way_page(request, haul, status=422, **form),
    )


def not_noted(
    request: YardRequest, haul: Haul, words: str, *, theirs: str = "", status: int = 409
) -> HttpResponse:
    """Say why something was not noted: to a page, or to a phone that had no signal."""

    def page() -> HttpResponse:
        return way_page(request, haul, wrong=words, status=status)

    return refused(request, words, page, theirs=theirs, status=status)


@require_safe
@in_yard
def it_sways(request: YardRequest) -> HttpResponse:
    """What to do when the trailer sways: four lines, read at a glance."""
    page = SwaysPage(lines=sways(braked=True), after=AFTER)
    return show(request, "road/sways.html", page, place="road")
