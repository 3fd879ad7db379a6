"""Photos of plates and scale tickets: kept, shown to their yard, removed."""

from __future__ import annotations

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.http import FileResponse, Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_POST, require_safe

from book.forms import PhotoForm, TicketForm
from book.kinds import kind_of, slug_of, things_of
from book.models import Machine, Photo, Thing, Ticket, Trailer, Truck
from book.removed_views import told_removed
from book.services.photos import PhotoError, attach, detach
from book.services.removal import remove
from book.views import thing_page
from web.middleware import takes_long
from web.sent import faults_of
from yards.access import YardRequest, in_yard, planners
from yards.throttle import address_of


@takes_long
@require_POST
@planners
def add_photo(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Keep a photo of a plate with the thing."""
    kind = kind_of(slug)
    thing = get_object_or_404(things_of(kind, request.yard), pk=pk)
    form = PhotoForm(request.POST, request.FILES)
    if not form.is_valid():
        words = faults_of(form)
        messages.error(request, f"The photo was not kept. {words}")
    else:
        try:
            attach(
                thing,
                form.cleaned_data["file"],
                caption=form.cleaned_data["caption"],
                user=request.user,
            )
        except PhotoError as error:
            messages.error(request, f"The photo was not kept. {error}")
        else:
            messages.success(request, "The photo is kept.")
    return redirect("edit_thing", kind.slug, thing.pk)


@require_safe
@in_yard
def photo(request: YardRequest, pk: int) -> FileResponse:
    """The picture itself, to people of its yard."""
    found = get_object_or_404(Photo.objects.filter(yard=request.yard), pk=pk)
    try:
        opened = found.file.open("rb")
    except FileNotFoundError:
        raise Http404(pk) from None
    answer = FileResponse(opened, content_type="image/jpeg")
    answer["Cache-Control"] = "private, max-age=3600"
    return answer


@require_POST
@planners
def remove_photo(request: YardRequest, pk: int) -> HttpResponse:
    """Remove a photo."""
    found = get_object_or_404(Photo.objects.filter(yard=request.yard), pk=pk)
    thing = found.thing
    if not isinstance(thing, Thing):
        raise Http404(pk)
    detach(found)
    messages.success(request, "The photo is removed.")
    return redirect("edit_thing", slug_of(thing), thing.pk)


@require_POST
@in_yard
def add_ticket(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Record a weighing; open to drivers too, since it changes no figure of the book."""
    kind = kind_of(slug)
    if kind.model not in (Truck, Trailer, Machine):
        raise Http404(slug)
    thing = get_object_or_404(things_of(kind, request.yard), pk=pk)
    form = TicketForm(request.POST, units=request.user.unit_system, prefix="ticket")
    if not form.is_valid():
        return thing_page(request, kind, thing, form)
    ticket = form.save(commit=False)
    ticket.yard, ticket.thing, ticket.added_by = request.yard, thing, request.user
    ticket.save()
    messages.success(request, "The ticket is kept. It changes nothing in the book by itself.")
    return redirect("edit_thing", kind.slug, thing.pk)


@require_POST
@in_yard
def remove_ticket(request: YardRequest, pk: int) -> HttpResponse:
    """Remove a ticket: one's own, or any for those who plan."""
    ticket = get_object_or_404(Ticket.objects.filter(yard=request.yard), pk=pk)
    if not request.role.plans and ticket.added_by_id != request.user.pk:
        raise PermissionDenied
    thing = ticket.thing
    of = ticket.place if thing is None else thing.name
    remove(
        ticket,
        what="ticket",
        name=f"{of}, {ticket.weighed_on:%d %b %Y}".removeprefix(", "),
        yard=request.yard,
        user=request.user,
        address=address_of(request),
    )
    told_removed(request, "The ticket is removed.")
    if thing is None or request.GET.get("next") == "tickets":
        return redirect("tickets")
    return redirect("edit_thing", slug_of(thing), thing.pk)
