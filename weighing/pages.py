"""What the pages of the place Weigh show, as typed values; views only fill them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final
from urllib.parse import urlencode

from django.core.paginator import Page
from django.forms import BaseFormSet
from django.urls import reverse

from book.fields import field_words
from book.kinds import slug_of
from book.models import Aboard, Photo, Thing, Ticket, Trailer
from measures import Quantity, UnitSystem
from measures.reading import ReadingError, read_length, read_mass
from measures.writing import (
    write_entered,
    write_given,
    write_length,
    write_mass,
    write_percent,
)
from mechanics.weighing import Figure, Line, Result
from planfile.errors import PlanFileError
from web.pages import parts
from weighing.finding import FindTickets
from weighing.forms import AboardRow, WeighForm
from weighing.methods import METHODS, Method
from weighing.models import HaulTicket
from weighing.scaling import BOX_LABELS
from weighing.scaling import METHOD as HAUL
from weighing.services import Offer, doubts, offers, would_offer
from weighing.share import hitch_words, rated_parts, share_words, yard_hitches
from weighing.tools import Tool
from wording.phrases import signed_mass

NAMES: Final = {
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


ON_TOP: Final = ("trailer", "machine", "whole", "tongue", "load", "trailer_axles")
"""Figures of a ticket that have a column of their own, or say the same as one."""


@dataclass(frozen=True, kw_only=True)
class Picker:
    """Ways to weigh that go with what a person has and wants to know; other tools, last tickets."""

    methods: list[Method]
    tools: Sequence[Tool]
    has: Mapping[str, str]
    wants: Mapping[str, str]
    chosen_has: str
    chosen_want: str
    recent: Sequence[Ticket]


@dataclass(frozen=True, kw_only=True)
class WeighPage:
    """One way of weighing as it fills; ``ticket`` where one is being corrected.

    ``hand_over`` is where the reading may go on to, ``offers`` what the book could take over,
    ``problems`` what is wrong with readings that were typed so far.
    """

    method: Method
    address: str
    form: WeighForm
    loads: BaseFormSet[AboardRow]
    ticket: Ticket | None
    outcome: Outcome | None
    doubts: list[str]
    hand_over: str
    offers: list[Offer]
    problems: list[str]
    title: str


def weigh_page(
    form: WeighForm,
    loads: BaseFormSet[AboardRow],
    result: Result | None,
    unit: UnitSystem,
    *,
    ticket: Ticket | None,
    looking: bool,
) -> WeighPage:
    """The page of a way of weighing; ``looking`` at the arithmetic while boxes are filled."""
    method = form.method
    return WeighPage(
        method=method,
        address=reverse("weigh_by", args=[method.slug])
        if ticket is None
        else reverse("edit_ticket", args=[ticket.pk]),
        form=form,
        loads=loads,
        ticket=ticket,
        outcome=None if result is None else outcome_of(result, unit, form),
        doubts=[] if result is None else doubts(form, result, unit),
        hand_over=_hand_over(form) if result is not None else "",
        offers=[] if result is None else would_offer(form, result, system=unit),
        problems=_problems(form) if looking and form.is_bound else [],
        title=method.title,
    )


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


@dataclass(frozen=True, kw_only=True, slots=True)
class Outcome:
    """A result written out: its arithmetic, the figure it is about, and the others."""

    lines: list[Shown]
    main: Shown
    figures: list[Shown]
    share: str
    hitches: list[tuple[str, str]]


def outcome_of(result: Result, unit: UnitSystem, form: WeighForm) -> Outcome:
    """Arithmetic and figures of a result, written out."""
    thing = form.thing_chosen
    trailer = thing if isinstance(thing, Trailer) else None
    tongue = {figure.of: figure.value for figure in result.figures}.get("tongue")
    return Outcome(
        lines=[_line(line, unit) for line in result.lines],
        main=shown(result.main, unit),
        figures=[shown(figure, unit) for figure in result.figures[1:]],
        share=_share_of(result, unit, over_bed=trailer is not None and trailer.over_bed),
        hitches=[]
        if tongue is None or form.cleaned_data.get("empty")
        else yard_hitches(tongue, form.yard, trailer, unit),
    )


def _share_of(result: Result, unit: UnitSystem, *, over_bed: bool) -> str:
    """What tongue and trailer say together, where a weighing gives both."""
    kg = {figure.of: figure.value for figure in result.figures}
    if "tongue" not in kg or "trailer" not in kg:
        return ""
    return share_words(kg["tongue"], kg["trailer"], unit, over_bed=over_bed)


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


@dataclass(frozen=True, kw_only=True)
class TicketRow:
    """A ticket in a list: its thing, what that is called, how it was weighed, its figures."""

    ticket: Ticket
    thing: Thing | None
    called: str
    how: str
    figures: list[tuple[str, Quantity]]


def row_of(ticket: Ticket) -> TicketRow:
    """A ticket with its thing, its way of weighing and its figures."""
    method = METHODS.get(ticket.method)
    return TicketRow(
        ticket=ticket,
        thing=ticket.thing,
        called=str(ticket.configuration or ticket.thing or "Not in the book"),
        how=method.title if method else "A haul on three pads" if ticket.method == HAUL else "",
        figures=[
            (field_words(Ticket, name), getattr(ticket, name))
            for name in Ticket.FIGURES
            if getattr(ticket, name) is not None
        ],
    )


DOUBTED: Final = {
    "whole_mass": "whole",
    "tongue_mass": "tongue",
    "front_axle_mass": "front axle",
    "rear_axle_mass": "rear axle",
    "axles_mass": "trailer axles",
}
"""What of a ticket may be off, as the page names it."""


@dataclass(frozen=True, kw_only=True)
class TicketPage(TicketRow):
    """One ticket: what was read, what follows, and what the book could take over.

    ``family`` are the weighings of the same thing that it belongs to, and how far the
    figures lie apart.
    """

    tolerances: list[str]
    share: str
    hitches: list[tuple[str, str]]
    others: list[Shown]
    read: list[tuple[str, str]]
    slug: str
    loads: list[Aboard]
    photos: list[Photo]
    family: list[tuple[Ticket, list[tuple[str, str]]]]
    offers: list[Offer]
    empty: bool
    may_change: bool
    method: Method | None
    of_haul: HaulTicket | None


def ticket_page(ticket: Ticket, unit: UnitSystem, *, may_change: bool) -> TicketPage:
    """Everything that is shown of a ticket, in the person's units."""
    method = METHODS.get(ticket.method)
    boxes = {box.name: box.label for box in method.boxes} if method else dict(BOX_LABELS)
    boxes |= {"step": "The scale's step", "capacity": "its capacity"}
    read = ticket.readings.get("boxes", {})
    family = [ticket.first] if ticket.first else list(ticket.again.order_by("weighed_on", "pk"))
    return TicketPage(
        **parts(row_of(ticket)),
        tolerances=[
            f"{write_mass(kg, unit)} on the {DOUBTED[name]}"
            for name, kg in ticket.readings.get("tolerance_kg", {}).items()
            if name in DOUBTED and kg
        ],
        share=_share_on(ticket, unit),
        hitches=_hitches_on(ticket, unit),
        others=[
            shown(Figure(of=of, value=value, tolerance=tolerance), unit)
            for of, value, tolerance in ticket.readings.get("figures", [])
            if of in NAMES and of not in ON_TOP
        ],
        read=[(label, _as_read(read[name], unit)) for name, label in boxes.items() if name in read],
        slug=slug_of(ticket.thing) if ticket.thing else "",
        loads=list(ticket.loads.select_related("machine", "configuration")),
        photos=list(ticket.photos.all()),
        family=[(other, _apart(ticket, other, unit)) for other in family],
        offers=offers(ticket),
        empty=ticket.readings.get("empty", False),
        may_change=may_change,
        method=method,
        of_haul=getattr(ticket, "of_haul", None),
    )


def _share_on(ticket: Ticket, unit: UnitSystem) -> str:
    """What the tongue and the whole of a trailer's ticket say together; empty where it lacks one,
    or was read of the empty trailer, whose share says nothing yet."""
    tongue, whole, thing = ticket.tongue_mass, ticket.whole_mass, ticket.thing
    if tongue is None or whole is None or ticket.readings.get("empty"):
        return ""
    over_bed = isinstance(thing, Trailer) and thing.over_bed
    return share_words(float(tongue.si), float(whole.si), unit, over_bed=over_bed)


def _hitches_on(ticket: Ticket, unit: UnitSystem) -> list[tuple[str, str]]:
    """What hitches make of the tongue on a ticket: the haul's, of a ticket of no haul each of the
    yard that the trailer can be coupled to. None where there is no tongue on it, or that of an
    empty trailer, or the haul's plan cannot be read any more."""
    if ticket.tongue_mass is None or ticket.readings.get("empty"):
        return []
    kg = float(ticket.tongue_mass.si)
    of_haul = getattr(ticket, "of_haul", None)
    if of_haul is None:
        thing = ticket.thing
        return yard_hitches(kg, ticket.yard, thing if isinstance(thing, Trailer) else None, unit)
    try:
        hitch = of_haul.haul.draft.plan.hitch
    except PlanFileError:
        return []
    return [(of_haul.haul.name, hitch_words(kg, rated_parts(hitch), unit))]


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
            label = field_words(Ticket, name)
            found.append((label, signed_mass(apart, unit)))
    return found


@dataclass(frozen=True, kw_only=True)
class TicketList:
    """A page of the yard's tickets, and the form that narrows them; ``address`` its query."""

    page: Page[Ticket]
    rows: list[TicketRow]
    find: FindTickets
    address: str
