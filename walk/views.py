"""The tape walk: one figure at a time, in the order a person walks round the outfit."""

from __future__ import annotations

from django.contrib import messages
from django.core.exceptions import ValidationError
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_http_methods

from book.errors import IncompleteError
from mechanics.errors import MechanicsError
from planfile.errors import PlanFileError
from walk.answers import MeanwhileError, answer, asked, leave_out
from walk.forms import read_answer
from walk.models import Walk
from walk.page import beginning, next_address, step_page, walk_page
from walk.services import begin, plan, take
from walk.steps import BY_SLUG, Part
from web.pages import show
from web.sent import whole_number
from yards.access import YardRequest, planners

LONGEST = 200
"""Characters of a box that are read and shown again."""


def _walk(request: YardRequest, pk: int) -> Walk:
    own = Walk.objects.filter(yard=request.yard).select_related(
        "yard", "truck", "hitch", "trailer", "machine", "haul"
    )
    return get_object_or_404(own, pk=pk)


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def walks(request: YardRequest) -> HttpResponse:
    """Begin a walk, or go on with one."""
    if request.method == "POST":
        begun = begin(request.yard, request.user)
        return redirect("walk_step", begun.pk, asked(begun)[0].slug)
    return show(request, "walk/walks.html", beginning(request.yard), place="book")


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def walk(request: YardRequest, pk: int) -> HttpResponse:
    """A walk whole: how far it has come, and the haul it is for."""
    found = _walk(request, pk)
    error, name = "", str(request.POST.get("name", "")).strip()[:LONGEST]
    if request.method == "POST" and request.POST.get("do") == "take":
        return _take(request, found)
    if request.method == "POST" and not found.over:
        try:
            haul = plan(
                found,
                user=request.user,
                name=name or walk_page(found, request.user.unit_system).name,
            )
        except LookupError:
            error = "Truck, trailer and machine each need a figure first."
        except IncompleteError as lacking:
            error = f"{lacking}."
        except (PlanFileError, MechanicsError) as wrong:
            error = f"These figures do not go together. {wrong}."
        else:
            return redirect(haul)
    page = walk_page(found, request.user.unit_system, error=error, name=name)
    return show(request, "walk/walk.html", page, place="book", status=422 if error else 200)


def _take(request: YardRequest, found: Walk) -> HttpResponse:
    try:
        part = Part(request.POST.get("part", ""))
        chosen = str(request.POST.get("thing", ""))
        pk = whole_number(chosen)
        if chosen and pk is None:
            raise LookupError(chosen[:40])
        take(found, part, pk)
    except (ValueError, LookupError):
        messages.error(request, "That is not in the book any more. Choose another.")
    return redirect(found)


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def step(request: YardRequest, pk: int, slug: str) -> HttpResponse:
    """One step: answer it, leave it out, or look at it again."""
    found, unit = _walk(request, pk), request.user.unit_system
    one = BY_SLUG.get(slug)
    if one is None:
        raise Http404(slug)
    if request.method != "POST":
        return show(request, "walk/step.html", step_page(found, one, unit), place="book")
    typed = str(request.POST.get("answer", ""))[:LONGEST]
    if request.POST.get("do") == "leave":
        leave_out(found, one)
        return redirect(next_address(_walk(request, pk), one))
    try:
        value = read_answer(one, typed, unit)
        answer(found, one, value, was=str(request.POST.get("was", "")), user=request.user)
    except ValidationError as wrong:
        page = step_page(found, one, unit, typed=typed, error=" ".join(wrong.messages))
        return show(request, "walk/step.html", page, place="book", status=422)
    except MeanwhileError as meanwhile:
        page = step_page(
            _walk(request, pk),
            one,
            unit,
            typed=typed,
            error=f"Somebody put {meanwhile.theirs or 'nothing'} there in between. Yours is still "
            "in the box: press next to put it in its place.",
        )
        return show(request, "walk/step.html", page, place="book", status=409)
    return redirect(next_address(_walk(request, pk), one))
