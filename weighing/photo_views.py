"""Photos of tickets: kept and removed by whoever may correct the ticket."""

from __future__ import annotations

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_POST

from book.forms import PhotoForm
from book.models import Ticket
from book.services.photos import PhotoError, attach, detach
from web.middleware import takes_long
from web.sent import faults_of
from yards.access import YardRequest, in_yard


def _own(request: YardRequest, pk: int) -> Ticket:
    ticket = get_object_or_404(Ticket.objects.filter(yard=request.yard), pk=pk)
    if not request.role.plans and ticket.added_by_id != request.user.pk:
        raise PermissionDenied
    return ticket


@takes_long
@require_POST
@in_yard
def add_ticket_photo(request: YardRequest, pk: int) -> HttpResponse:
    """Keep a photo of a ticket."""
    ticket = _own(request, pk)
    form = PhotoForm(request.POST, request.FILES)
    try:
        if not form.is_valid():
            words = faults_of(form)
            raise PhotoError(words)
        attach(ticket, form.cleaned_data["file"], caption="Ticket", user=request.user)
    except PhotoError as error:
        messages.error(request, f"The photo was not kept. {error}")
    else:
        messages.success(request, "The photo is kept.")
    return redirect("weighed", ticket.pk)


@require_POST
@in_yard
def remove_ticket_photo(request: YardRequest, pk: int, photo: int) -> HttpResponse:
    """Remove a photo of a ticket."""
    ticket = _own(request, pk)
    detach(get_object_or_404(ticket.photos, pk=photo))
    messages.success(request, "The photo is removed.")
    return redirect("weighed", ticket.pk)
