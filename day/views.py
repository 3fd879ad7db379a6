"""The board of a week, moving its cards, and a haul's own job."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from urllib.parse import urlencode

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from aspects.rooms import aspect_page, with_plan
from day.board import Board, asked_day, board, monday
from day.forms import JobForm, MoveForm
from day.services import BY, MoveError, move, say
from hauls.assigning import AlreadyChangedError, assigned
from hauls.models import Haul
from hauls.steps import StaleRevision
from mechanics.errors import MechanicsError
from mechanics.plan import Plan
from web.pages import show
from web.sent import counted
from yards.access import YardRequest, in_yard, planners

IN_BETWEEN = (
    "Somebody else changed that haul in between. The board is shown as it is now; move it again if "
    "that is still right."
)
SAID_IN_BETWEEN = (
    "Somebody else said when or where it goes in between. It is stored as they said; what you "
    "entered is still in the boxes. Keep it if it is still right."
)


@dataclass(frozen=True, kw_only=True)
class BoardPage:
    """A week; ``wrong`` is why a card was not moved."""

    board: Board
    wrong: str
    may_move: bool


def _today(request: YardRequest) -> date:
    return timezone.localdate(timezone=request.yard.clock)


def _shown(
    request: YardRequest, first: date, by: str, *, wrong: str = "", status: int = 200
) -> HttpResponse:
    part = request.headers.get("HX-Request") == "true"
    page = BoardPage(
        board=board(
            request.yard,
            first,
            by=by,
            today=_today(request),
            units=request.user.unit_system,
            may_move=request.role.plans,
            in_hand=counted(request.GET.get("move")),
        ),
        wrong=wrong,
        may_move=request.role.plans,
    )
    template = "day/_board.html" if part else "day/board.html"
    return show(request, template, page, place="day", status=200 if part else status)


@require_safe
@in_yard
def week(request: YardRequest) -> HttpResponse:
    """The week that a day is in, this one where none is asked for."""
    by = request.GET.get("by", "")
    first = monday(asked_day(request.GET.get("week")) or _today(request))
    return _shown(request, first, by if by in BY else BY[0])


@require_POST
@planners
def move_card(request: YardRequest) -> HttpResponse:
    """Put a haul on another day, truck or driver."""
    form = MoveForm(request.POST)
    first, by, wrong, status = monday(_today(request)), BY[0], "", 409
    if not form.is_valid():
        return _shown(request, first, by, wrong="That is no place on the board.", status=422)
    sent = form.cleaned_data
    first, by = monday(sent["week"]), sent["by"]
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard).with_book(), pk=sent["haul"])
    try:
        move(
            haul,
            day=sent["day"],
            by=by,
            key=sent["key"],
            was=sent["was"],
            base=sent["base"],
            user=request.user,
        )
    except (AlreadyChangedError, StaleRevision):
        wrong = IN_BETWEEN
    except (MoveError, MechanicsError) as error:
        wrong, status = str(error), 422
    if wrong or request.headers.get("HX-Request") == "true":
        return _shown(request, first, by, wrong=wrong, status=status)
    return redirect(f"{reverse('day')}?{urlencode({'week': first.isoformat(), 'by': by})}")


@dataclass(frozen=True, kw_only=True)
class JobPage:
    """A haul's job: the boxes, what was shown with them, why they were not kept."""

    form: JobForm
    was: str
    not_kept: str


@require_http_methods(["GET", "HEAD", "POST"])
@planners
@with_plan
def job(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """When and where a haul goes, and who drives."""
    form = JobForm(request.POST if request.method == "POST" else None, haul=haul)
    not_kept = ""
    if form.is_bound and form.is_valid():
        try:
            say(haul, form.job, was=request.POST.get("was", ""), user=request.user)
        except (AlreadyChangedError, StaleRevision):
            haul.refresh_from_db()
            not_kept = SAID_IN_BETWEEN
        else:
            messages.success(request, "Kept.")
            return redirect("haul_job", haul.pk)
    page = JobPage(form=form, was=assigned(haul), not_kept=not_kept)
    wrong = bool(not_kept) or bool(form.errors)
    return aspect_page(request, "day/job.html", haul, "job", page, wrong=wrong)
