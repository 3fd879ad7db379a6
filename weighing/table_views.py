"""Tickets out and in as a table."""

from __future__ import annotations

from django.http import HttpResponse
from django.views.decorators.http import require_GET, require_http_methods

from book.table_views import TableFileForm, TakeIn, csv_file, report
from measures.writing import in_units_of
from web.pages import show
from weighing.finding import FindTickets
from weighing.ticket_table import COLUMNS, take_tickets_in, write_tickets
from weighing.views import tickets_of
from yards.access import YardRequest, in_yard, planners


@require_GET
@in_yard
def tickets_out(request: YardRequest) -> HttpResponse:
    """The tickets that the list shows, as a CSV file in the units the person reads in."""
    find = FindTickets(request.GET, yard=request.yard)
    found = find.narrowed(tickets_of(request)).prefetch_related(
        "loads__machine", "loads__configuration"
    )
    text = write_tickets(found, request.user.unit_system)
    return csv_file(text, "tickets")


@require_http_methods(["GET", "POST"])
@planners
def tickets_in(request: YardRequest) -> HttpResponse:
    """Try a table of tickets; taken in only when the person says so after seeing what it does."""
    unit = request.user.unit_system
    page, status = (
        TakeIn(
            columns=[(c.header(unit), in_units_of(c.words, unit)) for c in COLUMNS],
            form=TableFileForm(),
        ),
        200,
    )
    if request.method == "POST":
        page, status = report(
            request,
            page,
            lambda text: take_tickets_in(
                text, yard=request.yard, user=request.user, stamp=request.POST.get("stamp")
            ),
        )
    return show(request, "weighing/tickets_in.html", page, place="weigh", status=status)
