"""The place where things are weighed: ways to choose from, their arithmetic, tickets."""

from __future__ import annotations

from typing import Any

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.core.paginator import Paginator
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from book.kinds import slug_of
from book.models import Ticket
from book.services.photos import PhotoError
from web.pages import show
from web.sent import whole_number
from weighing.finding import FindTickets
from weighing.forms import AboardRows, WeighForm, machines_of, rows_of
from weighing.methods import HAS, METHODS, WANTS, Method
from weighing.pages import Picker, TicketList, row_of, ticket_page, weigh_page
from weighing.services import StaleTicket, keep_ticket, take_over
from weighing.tools import tools
from yards.access import YardRequest, in_yard, planners

LISTED = 50
"""Tickets on one page of the list."""


@require_safe
@in_yard
def picker(request: YardRequest) -> HttpResponse:
    """Ways to weigh, by what the person has and wants to know."""
    has = request.GET.get("has", "")
    want = request.GET.get("want", "")
    found = [
        method
        for method in METHODS.values()
        if (has not in HAS or has in method.has) and (want not in WANTS or want in method.wants)
    ]
    page = Picker(
        methods=found,
        tools=tools(),
        has=HAS,
        wants=WANTS,
        chosen_has=has if has in HAS else "",
        chosen_want=want if want in WANTS else "",
        recent=tickets_of(request)[:5],
    )
    return show(request, "weighing/picker.html", page, place="weigh")


@require_http_methods(["GET", "HEAD", "POST"])
@in_yard
def weigh(request: YardRequest, slug: str) -> HttpResponse:
    """One way of weighing: the arithmetic as it fills, kept as a ticket when asked."""
    method = METHODS.get(slug)
    if method is None:
        raise Http404(slug)
    initial: dict[str, Any] = {
        "weighed_on": timezone.localdate(),
        "thing": request.GET.get("thing", ""),
        "read_by": request.user.shown_name,
    }
    # what another way of weighing hands over
    initial |= {b.name: request.GET[b.name][:60] for b in method.boxes if b.name in request.GET}
    again = whole_number(request.GET.get("again"))
    rows: list[dict[str, Any]] = []
    if again is not None:
        first = get_object_or_404(tickets_of(request), pk=again)
        rows = rows_of(first)
        initial |= {"first_weighing": (first.first or first).pk, "place": first.place}
        initial |= {"thing": _thing_key(first), "empty": first.readings.get("empty", False)}
    return _weigh(request, method, initial, rows)


@require_http_methods(["GET", "HEAD", "POST"])
@in_yard
def edit_ticket(request: YardRequest, pk: int) -> HttpResponse:
    """A ticket corrected: one's own, or any for those who plan."""
    ticket = get_object_or_404(tickets_of(request), pk=pk)
    method = METHODS.get(ticket.method)
    if method is None:
        raise Http404(pk)
    if not _may_change(request, ticket):
        raise PermissionDenied
    typed: dict[str, Any] = ticket.readings.get("boxes", {})
    initial = {
        **typed,
        "weighed_on": ticket.weighed_on,
        "thing": _thing_key(ticket),
        "empty": ticket.readings.get("empty", False),
        "first_weighing": ticket.first_id,
        "choice": ticket.readings.get("choice", ""),
    }
    for name in ("place", "number", "fee", "read_by", "aboard"):
        initial[name] = getattr(ticket, name)
    return _weigh(request, method, initial, rows_of(ticket), ticket)


def _may_change(request: YardRequest, ticket: Ticket) -> bool:
    return request.role.plans or ticket.added_by_id == request.user.pk


def _thing_key(ticket: Ticket) -> str:
    thing = ticket.thing
    if thing is None:
        return ""
    key = f"{slug_of(thing)}-{thing.pk}"
    return key if ticket.configuration_id is None else f"{key}-{ticket.configuration_id}"


def _weigh(
    request: YardRequest,
    method: Method,
    initial: dict[str, Any],
    rows: list[dict[str, Any]],
    ticket: Ticket | None = None,
) -> HttpResponse:
    unit = request.user.unit_system
    data = request.POST if request.method == "POST" else None
    form = WeighForm(
        data,
        request.FILES if data is not None else None,
        method=method,
        yard=request.yard,
        units=unit,
        ticket=ticket,
        initial=initial,
    )
    loads = AboardRows(
        data if data is not None and "aboard-TOTAL_FORMS" in data else None,
        prefix="aboard",
        initial=rows,
        form_kwargs={"machines": machines_of(request.yard), "units": unit},
    )
    # the arithmetic as it fills is asked for with the button's value too, once it has the focus
    looking = request.headers.get("HX-Request") == "true"
    keeping = data is not None and data.get("keep") == "1" and not looking
    result, status = None, 200
    if data is not None:
        valid = form.is_valid() & (loads.is_valid() if loads.is_bound else True)
        result = form.result()
        status = 422
        if valid and result is not None and not form.errors and keeping:
            aboard = [
                row for one in loads.forms if loads.is_bound and (row := one.as_row()) is not None
            ]
            try:
                kept = keep_ticket(
                    form,
                    result,
                    user=request.user,
                    system=unit,
                    aboard=aboard,
                    ticket=ticket,
                    version=data.get("version", ""),
                )
            except StaleTicket:
                status = 409
                form.add_error(
                    None,
                    "Somebody corrected this ticket in between. What you typed is still here; "
                    "open the ticket in another window, compare, and keep yours or leave it.",
                )
                if ticket is not None:
                    ticket.refresh_from_db()
            except PhotoError as error:
                form.add_error("photo", str(error))
            else:
                messages.success(request, "The ticket is kept. Nothing in the book has changed.")
                return redirect("weighed", kept.pk)
    page = weigh_page(
        form, loads, result, unit, ticket=ticket, looking=data is not None and looking
    )
    if looking:
        return show(request, "weighing/_outcome.html", page)
    return show(request, "weighing/method.html", page, place="weigh", status=status)


def tickets_of(request: YardRequest) -> Any:
    """The yard's tickets with what a list of them shows."""
    return (
        Ticket.objects.filter(yard=request.yard)
        .select_related("added_by", "first", "configuration__machine", "of_haul__haul")
        .prefetch_related("thing")
    )


@require_safe
@in_yard
def tickets(request: YardRequest) -> HttpResponse:
    """Every ticket of the yard, the newest first, narrowed by words, thing and dates."""
    find = FindTickets(request.GET, yard=request.yard)
    page = Paginator(find.narrowed(tickets_of(request)), LISTED).get_page(request.GET.get("page"))
    listed = TicketList(
        page=page,
        rows=[row_of(ticket) for ticket in page.object_list],
        find=find,
        address=find.address(),
    )
    return show(request, "weighing/tickets.html", listed, place="weigh")


@require_safe
@in_yard
def weighed(request: YardRequest, pk: int) -> HttpResponse:
    """One ticket: what was read, what follows, and what the book could take over."""
    ticket = get_object_or_404(tickets_of(request), pk=pk)
    page = ticket_page(ticket, request.user.unit_system, may_change=_may_change(request, ticket))
    return show(request, "weighing/ticket.html", page, place="weigh")


@require_POST
@planners
def take_over_ticket(request: YardRequest, pk: int) -> HttpResponse:
    """Put a ticket's figures into the book."""
    ticket = get_object_or_404(tickets_of(request), pk=pk)
    thing = take_over(ticket, user=request.user)
    if thing is None:
        messages.error(request, "There is nothing of this ticket that the book does not have.")
        return redirect("weighed", ticket.pk)
    messages.success(
        request,
        f"{thing.name} now says what was weighed. Hauls planned on the old figure say so and keep "
        "it until you take the new one over.",
    )
    return redirect("edit_thing", slug_of(thing), thing.pk)
