"""Where it really stopped: reading mark, gauge and wheel arches, and letting the book learn of
it."""

from __future__ import annotations

from dataclasses import dataclass

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_http_methods, require_POST

from aspects.rooms import with_plan
from book.services.photos import PhotoError
from hauls.models import Haul
from mechanics.plan import Plan
from mechanics.report import evaluate
from offline.once import kept, noted_at, once, refused
from planfile.errors import PlanFileError
from road.forms import StoppedForm
from road.models import Stopped
from road.services import ReadInBetweenError, keep_stopped, teach
from road.stopped_page import StoppedAt, shown, stopped_at
from web.middleware import takes_long
from web.pages import show
from web.sent import faults_of, whole_number
from yards.access import YardRequest, in_yard, planners

IN_BETWEEN = "Somebody else read where it stopped in between."
ALSO = "Keep mine as the newest"


@dataclass(frozen=True, kw_only=True)
class StoppedPage:
    """The boxes, what was read last of this haul, and what somebody else read in between."""

    form: StoppedForm
    name: str
    pk: int
    before: StoppedAt | None
    base: int
    theirs: str


@takes_long
@require_http_methods(["GET", "HEAD", "POST"])
@in_yard
@once
@with_plan
def stopped(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Read where it really stopped."""
    unit, posted = request.user.unit_system, request.method == "POST"
    if not posted:
        return _page(request, haul, StoppedForm(draft=haul.draft, units=unit))
    form = StoppedForm(request.POST, request.FILES, draft=haul.draft, units=unit)
    if not form.is_valid():
        words = faults_of(form)
        return refused(request, words, lambda: _page(request, haul, form, status=422))
    base = None if request.POST.get("mine") else whole_number(request.POST.get("base"))
    try:
        keep_stopped(haul, evaluate(plan), form, user=request.user, at=noted_at(request), base=base)
    except ReadInBetweenError as between:
        theirs = shown(haul, between.theirs, unit).words
        return refused(
            request,
            IN_BETWEEN,
            lambda: _page(request, haul, form, status=409, theirs=theirs),
            theirs=theirs,
            over="mine",
            status=409,
        )
    except PhotoError as error:
        form.add_error("photo", str(error))
        words = f"The photo cannot be kept. {error}"
        return refused(request, words, lambda: _page(request, haul, form, status=422))
    return kept(redirect("road_haul", haul.pk))


def _page(
    request: YardRequest, haul: Haul, form: StoppedForm, *, status: int = 200, theirs: str = ""
) -> HttpResponse:
    before = stopped_at(haul, request.user.unit_system)
    page = StoppedPage(
        form=form,
        name=haul.name,
        pk=haul.pk,
        before=before,
        base=before.pk if before else 0,
        theirs=theirs,
    )
    return show(request, "road/stopped.html", page, place="road", status=status)


@require_POST
@planners
def teach_book(request: YardRequest, pk: int) -> HttpResponse:
    """Make a ticket of where it stopped, and go where readings are put together."""
    found = get_object_or_404(
        Stopped.objects.select_related("haul__yard", "haul__trailer", "ticket"),
        pk=pk,
        haul__yard=request.yard,
    )
    try:
        ticket = teach(found, user=request.user)
    except (ValueError, PlanFileError):
        messages.error(
            request,
            "The book cannot learn from that: it takes the gauge, every mark, and a trailer of the "
            "book.",
        )
        return redirect("road_haul", found.haul_id)
    messages.success(
        request,
        "It is a ticket now, and changes nothing by itself. Put the readings together to take it "
        "over into the book.",
    )
    return redirect("weighed", ticket.pk)
