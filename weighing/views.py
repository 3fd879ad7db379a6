"""The place where things are weighed: ways to choose from, their arithmetic, tickets."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.contrib import messages
from django.core.paginator import Paginator
from django.db.models import Q
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from book.kinds import slug_of
from book.models import Ticket
from measures import UnitSystem
from measures.writing import write_length, write_mass
from mechanics.weighing import Figure, Line, Result
from weighing.forms import WeighForm
from weighing.methods import HAS, METHODS, WANTS
from weighing.services import doubts, keep_ticket, offers, take_over
from yards.access import YardRequest, in_yard, planners

LISTED = 50
"""Tickets on one page of the list."""

NAMES = {
    "trailer": "The trailer",
    "machine": "The machine",
    "whole": "All of it",
    "tongue": "The tongue",
    "load": "The load on the beam",
    "trailer_axles": "The trailer's axles",
    "balance": "Balance point, from the first support",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Shown:
    """A figure or a line of the arithmetic, written out."""

    name: str
    amount: str
    tolerance: str = ""


@require_GET
@in_yard
def picker(request: YardRequest) -> HttpResponse:
    """Ways to weigh, by what the person has and wants to know."""
    has = request.GET.get("has", "")
    want = request.GET.get("want", "")
    found = [
        method
        for method in METHODS.values()
        if (has not in HAS or method.has == has) and (want not in WANTS or want in method.wants)
    ]
    context = {
        "methods": found,
        "has": HAS,
        "wants": WANTS,
        "chosen_has": has if has in HAS else "",
        "chosen_want": want if want in WANTS else "",
        "recent": _tickets(request)[:5],
        "place": "weigh",
    }
    return render(request, "weighing/picker.html", context)


@require_http_methods(["GET", "POST"])
@in_yard
def weigh(request: YardRequest, slug: str) -> HttpResponse:
    """One way of weighing: the arithmetic as it fills, kept as a ticket when asked."""
    method = METHODS.get(slug)
    if method is None:
        raise Http404(slug)
    unit = request.user.unit_system
    data = request.POST if request.method == "POST" else None
    form = WeighForm(
        data,
        method=method,
        yard=request.yard,
        units=unit,
        initial={"weighed_on": timezone.localdate(), "thing": request.GET.get("thing", "")},
    )
    result = None
    if data is not None:
        valid = form.is_valid()
        result = form.result()
        if valid and result is not None and not form.errors and data.get("keep") == "1":
            ticket = keep_ticket(form, result, user=request.user, system=unit)
            messages.success(request, "The ticket is kept. Nothing in the book has changed.")
            return redirect("weighed", ticket.pk)
    looking = request.headers.get("HX-Request") == "true"
    context = {
        "method": method,
        "form": form,
        "outcome": None if result is None else _outcome(result, unit),
        "doubts": [] if result is None else doubts(form, result, unit),
        "problems": _problems(form) if data is not None and looking else [],
        "title": method.title,
        "place": "weigh",
    }
    if looking:
        return render(request, "weighing/_outcome.html", context)
    status = 422 if data is not None else 200
    return render(request, "weighing/method.html", context, status=status)


def _problems(form: WeighForm) -> list[str]:
    """What is wrong with readings that were typed; empty boxes are not wrong yet."""
    return [
        f"{form.fields[box.name].label}: {error}"
        for box in form.method.boxes
        for error in form.errors.get(box.name, [])
        if form.data.get(box.name)
    ]


def _outcome(result: Result, unit: UnitSystem) -> dict[str, Any]:
    main = result.main
    return {
        "lines": [_line(line, unit) for line in result.lines],
        "main": _figure(main, unit),
        "figures": [_figure(figure, unit) for figure in result.figures[1:]],
    }


def _line(line: Line, unit: UnitSystem) -> Shown:
    if line.bare:
        amount = f"{line.value:.3g}"
    elif line.length:
        amount = write_length(line.value, unit)
    else:
        amount = write_mass(line.value, unit)
    return Shown(name=line.name, amount=f"{line.sign} {amount}")


def _figure(figure: Figure, unit: UnitSystem) -> Shown:
    write = write_length if figure.of == "balance" else write_mass
    name = NAMES.get(figure.of) or figure.of.replace("_", " ").capitalize()
    return Shown(
        name=name,
        amount=write(figure.value, unit),
        tolerance=write(figure.tolerance, unit) if figure.tolerance else "",
    )


def _tickets(request: YardRequest) -> Any:
    return (
        Ticket.objects.filter(yard=request.yard)
        .select_related("added_by")
        .prefetch_related("thing")
    )


@require_GET
@in_yard
def tickets(request: YardRequest) -> HttpResponse:
    """Every ticket of the yard, the newest first; found by place, number or what was aboard."""
    search = request.GET.get("q", "").strip()[:100]
    found = _tickets(request)
    if search:
        found = found.filter(
            Q(place__icontains=search) | Q(number__icontains=search) | Q(aboard__icontains=search)
        )
    page = Paginator(found, LISTED).get_page(request.GET.get("page"))
    context = {
        "page": page,
        "rows": [_row(ticket, request.user.unit_system) for ticket in page.object_list],
        "search": search,
        "place": "weigh",
    }
    return render(request, "weighing/tickets.html", context)


def _row(ticket: Ticket, unit: UnitSystem) -> dict[str, Any]:
    method = METHODS.get(ticket.method)
    return {
        "ticket": ticket,
        "thing": ticket.thing,
        "how": method.title if method else "",
        "figures": [
            (str(Ticket._meta.get_field(name).verbose_name), getattr(ticket, name))
            for name in Ticket.READINGS
            if getattr(ticket, name) is not None
        ],
    }


@require_GET
@in_yard
def weighed(request: YardRequest, pk: int) -> HttpResponse:
    """One ticket: what was read, what follows, and what the book could take over."""
    ticket = get_object_or_404(_tickets(request), pk=pk)
    method = METHODS.get(ticket.method)
    boxes = {box.name: box.label for box in method.boxes} if method else {}
    read = ticket.readings.get("boxes", {})
    context = {
        **_row(ticket, request.user.unit_system),
        "read": [(label, read[name]) for name, label in boxes.items() if name in read],
        "slug": slug_of(ticket.thing) if ticket.thing else "",
        "offers": offers(ticket),
        "empty": ticket.readings.get("empty", False),
        "place": "weigh",
    }
    return render(request, "weighing/ticket.html", context)


@require_POST
@planners
def take_over_ticket(request: YardRequest, pk: int) -> HttpResponse:
    """Put a ticket's figures into the book."""
    ticket = get_object_or_404(_tickets(request), pk=pk)
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
