"""The page of a piece of long work: how far it is, calling it off, and what came of it."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_POST, require_safe

from longwork.models import LongWork
from longwork.running import call_off, kind_of
from measures.writing import write_number
from web.pages import show
from yards.access import YardRequest, planners
from yards.models import Role


@dataclass(frozen=True, kw_only=True)
class WorkPage:
    """A piece of work; ``fallen`` where the server was stopped in the middle of it; ``far`` how far
    it has come, in words, empty before it has begun."""

    work: LongWork
    fallen: bool
    far: str


def _work(request: YardRequest, pk: int) -> LongWork:
    """The piece of that number, for whoever began it and for owners."""
    there = LongWork.objects.filter(yard=request.yard)
    if request.role is not Role.OWNER:
        there = there.filter(begun_by=request.user)
    return get_object_or_404(there, pk=pk)


@require_safe
@planners
def long_work(request: YardRequest, pk: int) -> HttpResponse:
    """How far it is; what came of it once it is done. In the background only the first."""
    work = _work(request, pk)
    part = request.headers.get("HX-Request") == "true"
    if work.state == LongWork.State.DONE and not part:
        return kind_of(work).answer(request, work)
    far = f"{write_number(work.done)} of {write_number(work.total)}" if work.total else ""
    page = WorkPage(work=work, fallen=work.quiet, far=far)
    if not part:
        return show(request, "longwork/work.html", page)
    answer = show(request, "longwork/_work.html", page)
    if work.state == LongWork.State.DONE:
        answer["HX-Redirect"] = request.path
    return answer


@require_POST
@planners
def end_long_work(request: YardRequest, pk: int) -> HttpResponse:
    """Call it off."""
    work = _work(request, pk)
    call_off(work)
    return redirect("long_work", work.pk)
