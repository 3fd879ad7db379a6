"""Tickets out and in as a table."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.views.decorators.http import require_http_methods, require_safe

from book.table_views import (
    TableFileForm,
    TakeIn,
    asker,
    csv_file,
    told_apart,
    tried_or_begun,
    try_apart,
)
from longwork.models import LongWork
from longwork.running import Progress
from measures.writing import in_units_of
from web.pages import show
from weighing.finding import FindTickets
from weighing.ticket_table import COLUMNS, take_tickets_in, write_tickets
from weighing.views import tickets_of
from yards.access import YardRequest, in_yard, planners


@require_safe
@in_yard
def tickets_out(request: YardRequest) -> HttpResponse:
    """The tickets that the list shows, as a CSV file in the units the person reads in."""
    find = FindTickets(request.GET, yard=request.yard)
    found = find.narrowed(tickets_of(request)).prefetch_related(
        "loads__machine", "loads__configuration"
    )
    text = write_tickets(found, request.user.unit_system)
    return csv_file(request, text, "tickets")


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def tickets_in(request: YardRequest) -> HttpResponse:
    """Try a table of tickets; taken in only when the person says so after seeing what it does."""
    page = _page(request)
    if request.method != "POST":
        return show(request, "weighing/tickets_in.html", page, place="weigh")
    return tried_or_begun(
        request,
        page,
        template="weighing/tickets_in.html",
        place="weigh",
        kind="tickets",
        title="Table of tickets",
        asked_for={},
        take=lambda text, stamp: take_tickets_in(
            text, yard=request.yard, user=request.user, stamp=stamp
        ),
    )


def _page(request: YardRequest) -> TakeIn:
    unit = request.user.unit_system
    return TakeIn(
        columns=[(c.header(unit), in_units_of(c.words, unit)) for c in COLUMNS],
        form=TableFileForm(),
    )


def try_tickets(work: LongWork, progress: Progress) -> dict[str, Any]:
    """A large table of tickets, worked through apart."""
    return try_apart(
        work,
        lambda text, stamp: take_tickets_in(
            text, yard=work.yard, user=asker(work), stamp=stamp, progress=progress
        ),
    )


def tickets_tried(request: YardRequest, work: LongWork) -> HttpResponse:
    """The page that shows what came of it."""
    return told_apart(
        request, _page(request), work, template="weighing/tickets_in.html", place="weigh"
    )
