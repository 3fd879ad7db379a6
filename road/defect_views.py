"""Defects: told from a haul, listed, decided, mended."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from book.services.photos import PhotoError
from offline.once import kept, noted_at, once
from planfile.errors import PlanFileError
from road.defects import AlreadyDecidedError, decide, defects_in, mend, shown, tell
from road.forms import DecisionForm, DefectForm
from road.haul_page import Decided
from road.lists import lists_of
from road.models import Defect
from road.views import haul_of, not_noted, not_right
from web.middleware import takes_long
from web.pages import show
from yards.access import YardRequest, in_yard, planners

NOT_IN_BOOK = "Its {} is not in the book any more, so the defect has nothing to be kept with."
DECIDED = (
    "Somebody else decided about that, or mended it, in between. It is shown as it is now, with "
    "what you entered: send it again if it is still right."
)


@dataclass(frozen=True, kw_only=True)
class DefectsPage:
    """Defects of the yard; ``wrong`` says what was not kept."""

    defects: list[Decided]
    wrong: str
    plans: bool


@takes_long
@require_POST
@in_yard
@once
def tell_defect(request: YardRequest, pk: int) -> HttpResponse:
    """Keep what somebody found wrong."""
    haul, unit = haul_of(request, pk), request.user.unit_system
    form = DefectForm(request.POST, request.FILES, units=unit)
    if not form.is_valid():
        return not_right(request, haul, defect=form)
    told = form.cleaned_data
    thing = haul.truck if told["on"] == "truck" else haul.trailer
    if thing is None:
        return not_noted(request, haul, NOT_IN_BOOK.format(told["on"]))
    try:
        lists = lists_of(haul, unit, timezone.localdate())
    except PlanFileError:
        lists = ()
    line = next((x for one in lists for x in one.every if x.words == told["what"]), None)
    try:
        tell(
            thing,
            what=told["what"],
            note=told["note"],
            key="" if line is None else line.key,
            haul=haul,
            photo=told["photo"],
            user=request.user,
            at=noted_at(request),
        )
    except PhotoError as error:
        form.add_error("photo", str(error))
        words = f"The photo cannot be kept. {error}"
        return not_right(request, haul, words, defect=form)
    return kept(redirect("road_haul", pk))


@require_safe
@in_yard
def defects(request: YardRequest) -> HttpResponse:
    """All of the yard, what holds hauls up first."""
    return _page(request)


@require_POST
@planners
def decide_defect(request: YardRequest, pk: int) -> HttpResponse:
    """Decide whether hauls may go with a defect."""
    defect = get_object_or_404(Defect.objects.filter(yard=request.yard), pk=pk)
    form = DecisionForm(request.POST, units=request.user.unit_system)
    if not form.is_valid():
        return _page(request, sent={pk: form}, status=422)
    told = form.cleaned_data
    try:
        decide(
            defect,
            told["decision"],
            reason=told["reason"],
            was=request.POST.get("was", "")[:4],
            user=request.user,
            at=timezone.now(),
        )
    except AlreadyDecidedError:
        return _page(request, sent={pk: form}, wrong=DECIDED, status=409)
    messages.success(request, "Decided.")
    return redirect("defects")


@require_POST
@planners
def mend_defect(request: YardRequest, pk: int) -> HttpResponse:
    """Note that it is mended."""
    defect = get_object_or_404(Defect.objects.filter(yard=request.yard), pk=pk)
    mend(defect, user=request.user, at=timezone.now())
    messages.success(request, "Mended. It holds nothing up any more.")
    return redirect("defects")


def _page(
    request: YardRequest,
    *,
    sent: dict[int, Any] | None = None,
    wrong: str = "",
    status: int = 200,
) -> HttpResponse:
    plans = request.role.plans
    forms = sent or {}
    page = DefectsPage(
        defects=[
            Decided(
                it=shown(one),
                form=forms.get(one.pk) or DecisionForm(units=request.user.unit_system)
                if plans
                else None,
            )
            for one in defects_in(request.yard)
        ],
        wrong=wrong,
        plans=plans,
    )
    return show(request, "road/defects.html", page, place="road", status=status)
