"""Files that were taken in lately, and undoing one."""

from __future__ import annotations

from dataclasses import dataclass

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_POST, require_safe

from book.models import Intake
from book.services.intakes import UndoneError, lately, undo
from book.services.removal import KEPT
from web.pages import show
from yards.access import YardRequest, planners
from yards.models import Role
from yards.throttle import address_of

SHOWN = 60


@dataclass(frozen=True, kw_only=True)
class Row:
    """A file that was taken in; ``may`` whether this person may undo it."""

    intake: Intake
    may: bool

    @property
    def new(self) -> int:
        """How many entries came new."""
        return len(self.intake.made)

    @property
    def changed(self) -> int:
        """How many that were there it changed."""
        return len(self.intake.changed)


@dataclass(frozen=True, kw_only=True)
class TakenInPage:
    """Files that were taken in, the newest first, and for how many days each can be undone."""

    rows: list[Row]
    days: int


def _may_undo(request: YardRequest, intake: Intake) -> bool:
    """Whoever took it in, and owners."""
    return request.role is Role.OWNER or intake.taken_by_id == request.user.pk


@require_safe
@planners
def taken_in(request: YardRequest) -> HttpResponse:
    """What was taken in lately."""
    rows = [
        Row(intake=one, may=_may_undo(request, one))
        for one in lately(request.yard).select_related("taken_by")[:SHOWN]
    ]
    return show(request, "book/taken_in.html", TakenInPage(rows=rows, days=KEPT.days), place="book")


@require_POST
@planners
def undo_taken_in(request: YardRequest, pk: int) -> HttpResponse:
    """Undo one."""
    intake = get_object_or_404(lately(request.yard), pk=pk)
    if not _may_undo(request, intake):
        messages.error(request, "Only an owner, or whoever took it in, can undo it.")
        return redirect("taken_in")
    try:
        left = undo(intake, user=request.user, address=address_of(request))
    except UndoneError as error:
        messages.error(request, str(error))
    else:
        more = f" {len(left)} stay as they are." if len(left) > 1 else ""
        more = " One stays as it is." if len(left) == 1 else more
        messages.success(request, f"Undone: {intake.what}.{more}")
    return redirect("taken_in")
