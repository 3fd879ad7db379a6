"""What all readings say together: a thing's weighings over time, and the fit."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any
from urllib.parse import urlencode

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_POST, require_safe

from book.errors import IncompleteError
from book.kinds import KINDS, slug_of
from book.models import Configuration, Machine, Thing, Ticket, Trailer, Truck
from hauls.models import Haul
from measures import Quantity, UnitSystem
from measures.writing import write_mass
from web.budget import costly
from web.pages import show
from web.sent import whole_number
from weighing.chart import Chart, Weighed, chart
from weighing.fitting import (
    Estimate,
    Residual,
    StaleFit,
    Together,
    accept,
    agreement,
    all_explained,
    estimates,
    hauls_on,
    put_together,
    residuals,
    slip_words,
    versions,
)
from weighing.gathering import Gathered, Subject, subjects_of
from weighing.learning import Learned, bias_of
from weighing.models import AcceptedFit
from weighing.pages import TicketRow, row_of
from weighing.views import tickets_of
from yards.access import YardRequest, in_yard, planners

FEWEST_CHARTED = 2
"""One weighing is no line over time."""

SERIES: dict[str, tuple[str, dict[type[Thing], str]]] = {
    "whole_mass": ("The whole", {Trailer: "empty_mass", Machine: "mass"}),
    "tongue_mass": ("The tongue", {Trailer: "empty_tongue_mass"}),
    "front_axle_mass": (
        "Front axle",
        {Truck: "front_axle_mass", Machine: "front_axle_mass"},
    ),
    "rear_axle_mass": ("Rear axle", {Truck: "rear_axle_mass", Machine: "rear_axle_mass"}),
}
"""Figures that are charted, and the book's field that each is beside."""


@dataclass(frozen=True, kw_only=True)
class Weighings:
    """Every weighing of a thing: its charts, its tickets, what they can be put together to, and
    how its plans have compared with the scale."""

    thing: Thing
    slug: str
    charts: list[tuple[str, Chart | None]]
    rows: list[TicketRow]
    fits: list[tuple[Subject, int, str]]
    bias: list[Learned]
    unit: UnitSystem


@dataclass(frozen=True, kw_only=True)
class FitPage:
    """Readings put together.

    ``lacks`` says what the book has to know first. ``left`` are readings left out,
    ``unusable`` tickets that say too little. The rest is of the fit ``found``, if there is one;
    ``at`` are the versions of the book's entries it was made of.
    """

    subject: Subject
    address: str
    since: str
    things: Sequence[tuple[Thing, str]]
    accepted: Iterable[AcceptedFit]
    lacks: str = ""
    left: Sequence[Gathered] = ()
    unusable: Sequence[tuple[Ticket, str]] = ()
    without: Collection[str] = ()
    found: Together | None = None
    estimates: Sequence[Estimate] = ()
    offered: bool = False
    residuals: Sequence[Residual] = ()
    agreement: str = ""
    contradict: bool = False
    slips: Sequence[str] = ()
    all_explained: bool = True
    hauls: Sequence[Haul] = ()
    at: str = ""


@dataclass(frozen=True, kw_only=True)
class FitList:
    """What there are readings of: the address of its fit, the subject, how many tickets."""

    listed: list[tuple[str, Subject, int]]


@require_safe
@in_yard
def weighings(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Every weighing of a thing over time, and what they can be put together to."""
    kind = KINDS.get(slug)
    if kind is None or kind.model not in (Truck, Trailer, Machine):
        raise Http404(slug)
    thing = get_object_or_404(kind.model._default_manager.filter(yard=request.yard), pk=pk)
    unit = request.user.unit_system
    found = list(
        tickets_of(request).filter(pk__in=thing.tickets.values("pk")).prefetch_related("loads")
    )
    charts = []
    for field, (title, beside) in SERIES.items():
        own = [t for t in found if getattr(t, field) is not None and _alike(t, thing)]
        name = beside.get(type(thing))
        book: Quantity | None = getattr(thing, name) if name else None
        if len(own) < FEWEST_CHARTED:
            continue
        drawn = chart(
            [_weighed(t, field, unit) for t in own],
            None if book is None else float(book.si) / unit.kg,
        )
        charts.append((title, drawn))
    subjects = [] if isinstance(thing, Truck) else subjects_of(request.yard, thing)
    page = Weighings(
        thing=thing,
        slug=slug,
        charts=charts,
        rows=[row_of(ticket) for ticket in found],
        fits=[(subject, count, _address(subject)) for subject, count in subjects],
        bias=bias_of(thing, unit) if isinstance(thing, Trailer) else [],
        unit=unit,
    )
    return show(request, "weighing/weighings.html", page, place="weigh")


def _alike(ticket: Ticket, thing: Any) -> bool:
    """Whether a ticket is of the thing as the book has it: empty, in no configuration."""
    if isinstance(thing, Trailer):
        loaded = any(load.kind == "item" for load in ticket.loads.all())
        return not loaded and (bool(ticket.readings.get("empty")) or not ticket.method)
    return ticket.configuration_id is None


def _weighed(ticket: Ticket, field: str, unit: UnitSystem) -> Weighed:
    mass: Quantity = getattr(ticket, field)
    tolerance = float(ticket.readings.get("tolerance_kg", {}).get(field, 0.0))
    kg = float(mass.si)
    where = ", ".join(part for part in (ticket.place, ticket.number) if part)
    words = f"{ticket.weighed_on:%-d %b %Y}: {write_mass(kg, unit)}"
    return Weighed(
        day=ticket.weighed_on,
        value=kg / unit.kg,
        tolerance=tolerance / unit.kg,
        words=f"{words}, {where}" if where else words,
        key=ticket.pk,
    )


def _address(subject: Subject, **more: str) -> str:
    asked: dict[str, Any] = {**more}
    if subject.trailer is not None:
        asked["trailer"] = subject.trailer.pk
    if subject.machine is not None:
        asked["machine"] = subject.machine.pk
    if subject.configuration is not None:
        asked["as"] = subject.configuration.pk
    return urlencode(asked)


def _subject(request: YardRequest, sent: Any) -> Subject:
    """What is asked about; a thing of another yard is not there."""
    trailer = machine = configuration = None
    if (wanted := whole_number(sent.get("trailer"))) is not None:
        trailer = get_object_or_404(Trailer.objects.filter(yard=request.yard), pk=wanted)
    if (wanted := whole_number(sent.get("machine"))) is not None:
        machine = get_object_or_404(Machine.objects.filter(yard=request.yard), pk=wanted)
        if (way := whole_number(sent.get("as"))) is not None:
            those = Configuration.objects.filter(machine=machine)
            configuration = get_object_or_404(those, pk=way)
    if trailer is None and machine is None:
        raise Http404("nothing to put together")
    return Subject(trailer=trailer, machine=machine, configuration=configuration)


@require_safe
@in_yard
@costly(8, "Put fewer readings together: say since when they count.")
def together(request: YardRequest) -> HttpResponse:
    """Readings about a trailer, a machine or both, put together by least squares."""
    if not {"trailer", "machine"} & set(request.GET):
        return _choose(request)
    subject = _subject(request, request.GET)
    unit = request.user.unit_system
    without = set(request.GET.getlist("without"))
    since = _since(request.GET)
    page = FitPage(
        subject=subject,
        address=_address(subject),
        since=since.isoformat() if since else "",
        things=[(t, slug_of(t)) for t in (subject.trailer, subject.machine) if t is not None],
        accepted=AcceptedFit.objects.filter(
            yard=request.yard,
            trailer=subject.trailer,
            machine=subject.machine,
            configuration=subject.configuration,
        ).select_related("accepted_by")[:5],
    )
    try:
        found, (left, unusable) = put_together(subject, without, since)
    except IncompleteError as error:
        page = replace(page, lacks=str(error))
    else:
        page = replace(page, left=left, unusable=unusable, without=without)
        if found is not None:
            page = _with_fit(page, found, unit)
    return show(request, "weighing/fit.html", page, place="weigh")


def _with_fit(page: FitPage, found: Together, unit: UnitSystem) -> FitPage:
    """The page with what the readings say together."""
    rows = estimates(found, unit)
    return replace(
        page,
        found=found,
        estimates=rows,
        offered=any(row.offered for row in rows),
        residuals=residuals(found, unit),
        agreement=agreement(found),
        contradict=found.fitted.contradict,
        slips=slip_words(found, unit),
        all_explained=all_explained(found),
        hauls=hauls_on(page.subject),
        at=versions(page.subject),
    )


def _since(sent: Any) -> date | None:
    """From when readings count; ``None`` for all of them, and for what is no date."""
    try:
        return date.fromisoformat(str(sent.get("since", "")))
    except ValueError:
        return None


def _choose(request: YardRequest) -> HttpResponse:
    """What there are readings of."""
    listed = [(_address(s), s, count) for s, count in subjects_of(request.yard)]
    return show(request, "weighing/fits.html", FitList(listed=listed), place="weigh")


@require_POST
@planners
def take_over_fit(request: YardRequest) -> HttpResponse:
    """Put the chosen figures of a fit into the book."""
    subject = _subject(request, request.POST)
    without = request.POST.getlist("without")
    since = _since(request.POST)
    more = {"since": since.isoformat()} if since else {}
    address = "?".join((redirect("fit").url, _address(subject, **more)))
    if without:
        address += "&" + urlencode([("without", key) for key in without])
    try:
        found, _ = put_together(subject, set(without), since)
        if found is None:
            raise StaleFit
        if request.POST.get("readings") != str(len(found.readings)):
            raise StaleFit
        changed = accept(
            found,
            set(request.POST.getlist("take")),
            at=request.POST.get("at", ""),
            user=request.user,
            system=request.user.unit_system,
        )
    except (StaleFit, IncompleteError):
        messages.error(
            request,
            "The book or its tickets have changed since this page was drawn. Nothing was stored. "
            "Look again, then take it over.",
        )
        return redirect(address)
    if not changed:
        messages.error(request, "Nothing was chosen. Tick what the book should take over.")
        return redirect(address)
    count = len(hauls_on(subject))
    told = f" {count} haul{'s were' if count != 1 else ' was'} planned on the old figures"
    each = " and say" if count != 1 else " and says"
    messages.success(
        request,
        f"The book now has the fitted {', '.join(changed)}."
        + (f"{told}{each} so until you take the new ones over." if count else ""),
    )
    return redirect(address)
