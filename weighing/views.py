"""The place where things are weighed: ways to choose from, their arithmetic, tickets."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.core.paginator import Paginator
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from book.fields import field_words
from book.kinds import slug_of
from book.models import Ticket
from book.services.photos import PhotoError
from measures import Quantity, UnitSystem
from measures.reading import ReadingError, read_length, read_mass
from measures.writing import write_entered, write_given, write_length, write_mass, write_percent
from mechanics.weighing import Figure, Line, Result
from weighing.finding import FindTickets
from weighing.forms import AboardRows, WeighForm, machines_of, rows_of
from weighing.methods import HAS, METHODS, WANTS, Method
from weighing.scaling import BOX_LABELS
from weighing.scaling import METHOD as HAUL
from weighing.services import StaleTicket, doubts, keep_ticket, offers, take_over, would_offer
from weighing.tools import tools
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
    "axles": "The axles together",
    "truck_front_hitched": "Truck's front axle, hitched",
    "truck_rear_hitched": "Truck's rear axle, hitched",
    "truck_front": "Truck's front axle, alone",
    "truck_rear": "Truck's rear axle, alone",
    "balance": "Balance point, from the first support",
    "left": "Left side",
    "right": "Right side",
    "mean": "The mean",
    "scatter": "Single readings scatter by",
    "front_given_back": "Bars put back on the front axle",
    "part_given_back": "Part of its drop given back",
    "bars_to_trailer": "Bars move to the trailer's axles",
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
        if (has not in HAS or has in method.has) and (want not in WANTS or want in method.wants)
    ]
    context = {
        "methods": found,
        "tools": tools(),
        "has": HAS,
        "wants": WANTS,
        "chosen_has": has if has in HAS else "",
        "chosen_want": want if want in WANTS else "",
        "recent": tickets_of(request)[:5],
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
    initial: dict[str, Any] = {
        "weighed_on": timezone.localdate(),
        "thing": request.GET.get("thing", ""),
        "read_by": request.user.shown_name,
    }
    # what another way of weighing hands over
    initial |= {b.name: request.GET[b.name][:60] for b in method.boxes if b.name in request.GET}
    again = request.GET.get("again", "")
    rows: list[dict[str, Any]] = []
    if again.isdigit():
        first = get_object_or_404(tickets_of(request), pk=int(again))
        rows = rows_of(first)
        initial |= {"first_weighing": (first.first or first).pk, "place": first.place}
        initial |= {"thing": _thing_key(first), "empty": first.readings.get("empty", False)}
    return _weigh(request, method, initial, rows)


@require_http_methods(["GET", "POST"])
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
    context = {
        "method": method,
        "address": reverse("weigh_by", args=[method.slug])
        if ticket is None
        else reverse("edit_ticket", args=[ticket.pk]),
        "form": form,
        "loads": loads,
        "ticket": ticket,
        "outcome": None if result is None else outcome_of(result, unit),
        "doubts": [] if result is None else doubts(form, result, unit),
        "hand_over": _hand_over(form) if result is not None else "",
        "offers": [] if result is None else would_offer(form, result, system=unit),
        "problems": _problems(form) if data is not None and looking else [],
        "title": method.title,
        "place": "weigh",
    }
    if looking:
        return render(request, "weighing/_outcome.html", context)
    return render(request, "weighing/method.html", context, status=status)


def _hand_over(form: WeighForm) -> str:
    """Where a wheel read over a beam goes on to the other wheels, its readings with it."""
    if form.method.slug != "lever":
        return ""
    boxes = {"reading": "left_1", "tare": "tare", "beam": "beam", "arm": "arm"}
    read = {boxes[name]: write_entered(q) for name, q in form.readings().items()}
    return f"{reverse('weigh_by', args=['wheel-by-wheel'])}?{urlencode(read)}"


def _problems(form: WeighForm) -> list[str]:
    """What is wrong with readings that were typed; empty boxes are not wrong yet."""
    return [
        f"{bound.label}: {error}"
        for bound in [*form.boxes, *form.scale]
        for error in form.errors.get(bound.name, [])
        if form.data.get(bound.name) or bound.name == form.cannot_be
    ]


def outcome_of(result: Result, unit: UnitSystem) -> dict[str, Any]:
    """Arithmetic and figures of a result, written out."""
    return {
        "lines": [_line(line, unit) for line in result.lines],
        "main": shown(result.main, unit),
        "figures": [shown(figure, unit) for figure in result.figures[1:]],
    }


def _line(line: Line, unit: UnitSystem) -> Shown:
    if line.bare:
        amount = f"{line.value:.3g}"
    elif line.length:
        amount = write_length(line.value, unit)
    else:
        amount = write_mass(line.value, unit)
    return Shown(name=line.name, amount=f"{line.sign} {amount}")


def shown(figure: Figure, unit: UnitSystem) -> Shown:
    """A figure with its tolerance, written out."""
    if figure.of == "part_given_back":
        amount, tolerance = write_percent(figure.value), write_percent(figure.tolerance)
    else:
        write = write_length if figure.of == "balance" else write_mass
        amount = write(figure.value, unit)
        tolerance = write(figure.tolerance, unit) if figure.tolerance else ""
    name = NAMES.get(figure.of) or figure.of.replace("_", " ").capitalize()
    return Shown(name=name, amount=amount, tolerance=tolerance)


def tickets_of(request: YardRequest) -> Any:
    """The yard's tickets with what a list of them shows."""
    return (
        Ticket.objects.filter(yard=request.yard)
        .select_related("added_by", "first", "configuration__machine", "of_haul__haul")
        .prefetch_related("thing")
    )


@require_GET
@in_yard
def tickets(request: YardRequest) -> HttpResponse:
    """Every ticket of the yard, the newest first, narrowed by words, thing and dates."""
    find = FindTickets(request.GET, yard=request.yard)
    page = Paginator(find.narrowed(tickets_of(request)), LISTED).get_page(request.GET.get("page"))
    context = {
        "page": page,
        "rows": [row_of(ticket) for ticket in page.object_list],
        "find": find,
        "address": find.address(),
        "place": "weigh",
    }
    return render(request, "weighing/tickets.html", context)


def row_of(ticket: Ticket) -> dict[str, Any]:
    """A ticket with its thing, its way of weighing and its figures."""
    method = METHODS.get(ticket.method)
    return {
        "ticket": ticket,
        "thing": ticket.thing,
        "called": str(ticket.configuration or ticket.thing or "Not in the book"),
        "how": method.title if method else "A haul on three pads" if ticket.method == HAUL else "",
        "figures": [
            (field_words(Ticket, name), getattr(ticket, name))
            for name in Ticket.FIGURES
            if getattr(ticket, name) is not None
        ],
    }


DOUBTED = {
    "whole_mass": "whole",
    "tongue_mass": "tongue",
    "front_axle_mass": "front axle",
    "rear_axle_mass": "rear axle",
    "axles_mass": "trailer axles",
}
"""What of a ticket may be off, as the page names it."""


@require_GET
@in_yard
def weighed(request: YardRequest, pk: int) -> HttpResponse:
    """One ticket: what was read, what follows, and what the book could take over."""
    ticket = get_object_or_404(tickets_of(request), pk=pk)
    unit = request.user.unit_system
    method = METHODS.get(ticket.method)
    boxes = {box.name: box.label for box in method.boxes} if method else dict(BOX_LABELS)
    boxes |= {"step": "The scale's step", "capacity": "its capacity"}
    read = ticket.readings.get("boxes", {})
    family = [ticket.first] if ticket.first else list(ticket.again.order_by("weighed_on", "pk"))
    context = {
        **row_of(ticket),
        "tolerances": [
            f"{write_mass(kg, unit)} on the {DOUBTED[name]}"
            for name, kg in ticket.readings.get("tolerance_kg", {}).items()
            if name in DOUBTED and kg
        ],
        "others": [
            shown(Figure(of=of, value=value, tolerance=tolerance), unit)
            for of, value, tolerance in ticket.readings.get("figures", [])
            if of in NAMES
            and of not in ("trailer", "machine", "whole", "tongue", "load")
            and of != "trailer_axles"
        ],
        "read": [
            (label, _as_read(read[name], unit)) for name, label in boxes.items() if name in read
        ],
        "slug": slug_of(ticket.thing) if ticket.thing else "",
        "loads": list(ticket.loads.select_related("machine", "configuration")),
        "photos": list(ticket.photos.all()),
        "family": [(other, _apart(ticket, other, unit)) for other in family if other],
        "offers": offers(ticket),
        "empty": ticket.readings.get("empty", False),
        "may_change": _may_change(request, ticket),
        "method": method,
        "of_haul": getattr(ticket, "of_haul", None),
        "place": "weigh",
    }
    return render(request, "weighing/ticket.html", context)


def _as_read(text: str, unit: UnitSystem) -> str:
    """What was typed into a box, in the person's units where it is a figure."""
    for read, own in ((read_mass, unit.mass_unit), (read_length, unit.length_unit)):
        try:
            return write_given(read(text, own), unit)
        except ReadingError:
            continue
    return text


def _apart(ticket: Ticket, other: Ticket, unit: UnitSystem) -> list[tuple[str, str]]:
    """How far the same figures of two tickets lie apart: this one less the other."""
    found = []
    for name in Ticket.FIGURES:
        one: Quantity | None = getattr(ticket, name)
        two: Quantity | None = getattr(other, name)
        if one is not None and two is not None:
            apart = float(one.si - two.si)
            sign = "+" if apart >= 0 else "−"
            label = field_words(Ticket, name)
            found.append((label, f"{sign} {write_mass(abs(apart), unit)}"))
    return found


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
