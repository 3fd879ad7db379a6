"""Planning a day: what is asked, the plan, keeping some of its trips, putting it on the board."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from django.contrib import messages
from django.core.exceptions import ObjectDoesNotExist
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST

from book.models import Place
from day.asking import Asked, Kept
from day.board import asked_day, monday
from day.plan_forms import PlanForm, tomorrow
from day.plan_page import PlanLine, day_words, plan_lines
from day.proposing import Found, NoLoadError, find
from day.putting import PUT, PutError, put_on_board
from day.stays import due
from hauls.loads import read_load
from longwork.models import LongWork
from longwork.running import BusyError, Progress, begin
from web.pages import show
from web.sent import counted, whole_number
from yards.access import YardRequest, planners

KIND = "day-plan"


@dataclass(frozen=True, kw_only=True)
class AskPage:
    """The boxes of a day's plan; ``wrong`` is why it was not begun."""

    form: PlanForm
    wrong: str
    known: int


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def plan_day(request: YardRequest) -> HttpResponse:
    """Ask for a day's plan."""
    day = asked_day(request.GET.get("day")) or tomorrow(request.yard)
    posted = request.method == "POST"
    form = PlanForm(
        request.POST if posted else None,
        yard=request.yard,
        units=request.user.unit_system,
        day=day,
    )
    known = [] if posted else due(request.yard, day)
    form.with_rows(known, {p.pk: p for p in Place.objects.filter(yard=request.yard)})
    wrong = ""
    if posted and not request.POST.get("more") and form.whole():
        try:
            return redirect("long_work", _begin(request, form.asked).pk)
        except BusyError as error:
            wrong = str(error)
    failed = posted and not request.POST.get("more")
    page = AskPage(form=form, wrong=wrong, known=len(known))
    return show(request, "day/plan.html", page, place="day", status=422 if failed else 200)


def _begin(request: YardRequest, asked: Asked) -> LongWork:
    return begin(
        kind=KIND,
        yard=request.yard,
        user=request.user,
        title=f"The plan of {day_words(asked)}",
        data=b"",
        asked_for=asked.json(),
    )


def work_out(work: LongWork, told: Progress) -> dict[str, Any]:
    """Work a day's plan out."""
    by = work.begun_by
    if by is None:
        raise NoLoadError("Whoever asked is not there any more.")
    return find(work.yard, Asked.read(work.asked), by.unit_system, told=told).json()


@dataclass(frozen=True, kw_only=True)
class PlannedPage:
    """What was found for a day."""

    work: LongWork
    day: str
    week: str
    plans: tuple[PlanLine, ...]
    notes: tuple[str, ...]
    put: int
    again: str


def planned(request: YardRequest, work: LongWork, *, wrong: str = "") -> HttpResponse:
    """The plan that was found."""
    asked, found = Asked.read(work.asked), Found.read(_bare(work.result))
    names = [_name(request, one.load) for one in asked.wanted]
    page = PlannedPage(
        work=work,
        day=day_words(asked),
        week=monday(asked.day).isoformat(),
        plans=plan_lines(found, asked, names, request.yard, request.user.unit_system),
        notes=found.notes,
        put=len(work.result.get(PUT, ())),
        again=f"{reverse('plan_day')}?{urlencode({'day': asked.day.isoformat()})}",
    )
    if wrong:
        messages.error(request, wrong)
    return show(request, "day/planned.html", page, place="day", status=409 if wrong else 200)


def _bare(result: dict[str, Any]) -> dict[str, Any]:
    return {name: result[name] for name in ("plans", "notes")}


def _name(request: YardRequest, load: str) -> str:
    try:
        return read_load(load, request.yard).name
    except (ObjectDoesNotExist, ValueError):
        return "something that is not in the book any more"


def _done(request: YardRequest, pk: int) -> LongWork:
    there = LongWork.objects.filter(yard=request.yard, kind=KIND, state=LongWork.State.DONE)
    return get_object_or_404(there, pk=pk)


@require_POST
@planners
def put_plan(request: YardRequest, pk: int) -> HttpResponse:
    """Put one of the plans on the board."""
    work = _done(request, pk)
    try:
        made = put_on_board(work, counted(request.POST.get("plan")), user=request.user)
    except PutError as error:
        return planned(request, work, wrong=f"{error} Nothing was put on the board.")
    count = len(made)
    messages.success(request, f"{count} haul{'s are' if count != 1 else ' is'} on the board.")
    week = monday(Asked.read(work.asked).day).isoformat()
    return redirect(f"{reverse('day')}?{urlencode({'week': week})}")


@require_POST
@planners
def plan_again(request: YardRequest, pk: int) -> HttpResponse:
    """Plan the same day with the ticked trips kept."""
    work = _done(request, pk)
    asked, found = Asked.read(work.asked), Found.read(_bare(work.result))
    trips = found.plans[0].trips if found.plans else ()
    ticked = {whole_number(one) for one in request.POST.getlist("keep")}
    kept = tuple(
        Kept(wanted=trip.wanted, outfit=trip.outfit, driver=trip.driver)
        for n, trip in enumerate(trips)
        if n in ticked
    )
    try:
        return redirect("long_work", _begin(request, asked.keeping(kept)).pk)
    except BusyError as error:
        return planned(request, work, wrong=str(error))
