"""Tickets, for programs: as a yard file has them."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from ninja import Router, Status

from api.models import Scope
from api.schemas import Page, Ticket, TicketIn, Tickets
from api.service import WRONG, Asking, WrongError, needs, page_of
from book.models import Ticket as TicketRow
from book.ticketfile import dump_ticket, read_ticket

router = Router(tags=["tickets"])


def _out(ticket: TicketRow) -> Ticket:
    return Ticket(id=ticket.pk, entry=dump_ticket(ticket, {}))


@router.get("", response={200: Tickets, **WRONG}, summary="Tickets")
@needs(Scope.TICKETS_READ)
def tickets(request: Asking, page: Page = 1) -> Tickets:
    """The newest first, fifty to a page."""
    rows = TicketRow.objects.filter(yard=request.yard)
    found = [_out(one) for one in page_of(rows, page)]
    return Tickets(count=rows.count(), page=page, tickets=found)


@router.post("", response={201: Ticket, **WRONG}, summary="Add a ticket")
@needs(Scope.TICKETS_WRITE)
def add_ticket(request: Asking, sent: TicketIn) -> Any:
    """Checked exactly as the page checks it; the book's figures change only when asked there."""
    problems: list[str] = []
    read = read_ticket(
        sent.entry,
        yard=request.yard,
        user=request.user,
        path="entry",
        problems=problems,
        before=[],
    )
    if read is None:
        raise WrongError(*problems)
    with transaction.atomic():
        made = read.store()
    return Status(201, _out(made))
