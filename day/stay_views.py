"""Where machines have to be, and who drives when and what."""

from __future__ import annotations

from dataclasses import dataclass

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from book.services.things import StaleThing, keep_over
from day.models import DriverTerms, Stay
from day.plan_forms import StayForm, TermsForm
from day.stays import MOST, begins, late_words, since_words, stays_of, until_words
from day.whereabouts import moves_of, place_at
from measures.writing import write_given
from web.pages import show
from yards.access import YardRequest, in_yard, planners
from yards.models import User

IN_BETWEEN = (
    "Somebody else changed it in between. It is stored as they said; what you entered is still in "
    "the boxes. Keep it if it is still right."
)


@dataclass(frozen=True, kw_only=True)
class StayLine:
    """One stay in words; ``wrong`` is why it will not be so, empty where it will."""

    stay: Stay
    since: str
    until: str
    wrong: str


@dataclass(frozen=True, kw_only=True)
class StaysPage:
    """Stays that go on or are to come."""

    lines: list[StayLine]
    plans: bool
    full: bool


@require_safe
@in_yard
def stays(request: YardRequest) -> HttpResponse:
    """Where machines have to be, from today on."""
    today = timezone.localdate(timezone=request.yard.clock)
    found = stays_of(request.yard, today, today.replace(year=today.year + 5, day=1))
    moves = moves_of(request.yard, {one.machine_id for one in found})
    lines = []
    for one in found:
        there = place_at(moves, one.machine_id, begins(one))
        right = there is not None and there.pk == one.place_id
        lines.append(
            StayLine(
                stay=one,
                since=since_words(one),
                until=until_words(one),
                wrong="" if right else late_words(one, moves),
            )
        )
    page = StaysPage(lines=lines, plans=request.role.plans, full=len(lines) >= MOST)
    return show(request, "day/stays.html", page, place="day")


@dataclass(frozen=True, kw_only=True)
class StayPage:
    """The boxes of a stay, and which version of it they were filled from."""

    form: StayForm
    pk: int | None
    version: int
    not_kept: str


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def stay(request: YardRequest, pk: int | None = None) -> HttpResponse:
    """Say where a machine has to be."""
    one = None if pk is None else get_object_or_404(Stay, yard=request.yard, pk=pk)
    version = 0 if one is None else one.version
    form = StayForm(
        request.POST if request.method == "POST" else None, instance=one, yard=request.yard
    )
    not_kept = ""
    if form.is_bound and form.is_valid():
        try:
            keep_over(form, one, request.POST.get("version"))
        except StaleThing:
            not_kept = IN_BETWEEN
        else:
            messages.success(request, "Kept.")
            return redirect("stays")
    page = StayPage(form=form, pk=pk, version=version, not_kept=not_kept)
    failed = bool(form.errors) or bool(not_kept)
    status = 409 if not_kept else 422 if failed else 200
    return show(request, "day/stay.html", page, place="day", status=status)


@require_POST
@planners
def remove_stay(request: YardRequest, pk: int) -> HttpResponse:
    """It need not be there any more."""
    get_object_or_404(Stay, yard=request.yard, pk=pk).delete()
    messages.success(request, "Taken out. Its hauls stay as they are.")
    return redirect("stays")


@dataclass(frozen=True, kw_only=True)
class DriverLine:
    """Somebody, when he drives and what he may."""

    user: User
    hours: str
    may: str


@dataclass(frozen=True, kw_only=True)
class DriversPage:
    """Who drives when and what."""

    lines: list[DriverLine]


@require_safe
@planners
def drivers(request: YardRequest) -> HttpResponse:
    """Who drives when and what."""
    there = {one.user_id: one for one in DriverTerms.objects.filter(yard=request.yard)}
    lines = [
        _driver_line(user, there.get(user.pk), request)
        for user in request.yard.members.order_by("username")
    ]
    return show(request, "day/drivers.html", DriversPage(lines=lines), place="day")


def _driver_line(user: User, terms: DriverTerms | None, request: YardRequest) -> DriverLine:
    if terms is None:
        return DriverLine(user=user, hours="not said", may="not said")
    units = request.user.unit_system
    limits = [
        f"{words} up to {write_given(mass, units)}"
        for words, mass in (
            ("trailers", terms.most_trailer),
            ("truck and trailer together", terms.most_together),
        )
        if mass is not None
    ]
    hours = f"{terms.starts:%H:%M} to {terms.ends:%H:%M}" if terms.drives else "does not drive"
    return DriverLine(user=user, hours=hours, may=", ".join(limits) or "not said")


@dataclass(frozen=True, kw_only=True)
class TermsPage:
    """The boxes of a driver's terms."""

    form: TermsForm
    who: User
    version: int
    not_kept: str


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def terms(request: YardRequest, pk: int) -> HttpResponse:
    """Say when somebody drives and what he may."""
    who = get_object_or_404(request.yard.members, pk=pk)
    one = DriverTerms.objects.filter(yard=request.yard, user=who).first()
    one = one or DriverTerms(yard=request.yard, user=who)
    version = one.version
    form = TermsForm(
        request.POST if request.method == "POST" else None,
        instance=one,
        units=request.user.unit_system,
    )
    not_kept = ""
    if form.is_bound and form.is_valid():
        try:
            keep_over(form, one if one.pk else None, request.POST.get("version"))
        except StaleThing:
            not_kept = IN_BETWEEN
        else:
            messages.success(request, "Kept.")
            return redirect("drivers")
    page = TermsPage(form=form, who=who, version=version, not_kept=not_kept)
    status = 409 if not_kept else 422 if form.errors else 200
    return show(request, "day/terms.html", page, place="day", status=status)
