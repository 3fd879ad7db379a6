"""What the pages of the book show of a thing, next to its boxes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Final

from django.forms import BoundField

from book import estimates
from book.asides import asides
from book.data_sheet import DataSheet, data_sheet
from book.doubts import Doubt, doubts
from book.drawing import Sketch, machine_sketch, trailer_sketch, truck_sketch
from book.errors import IncompleteError
from book.fields import field_words
from book.figures import built_machine, drawn_as, empty_axles, empty_trailer, si
from book.forms import PhotoForm, TicketForm
from book.gaps import Gap, gaps
from book.gear import gear_limit
from book.kinds import Group, Kind, Rows, kind_of, slug_of
from book.models import (
    Aboard,
    Configuration,
    Gear,
    Hitch,
    HitchPart,
    Machine,
    Photo,
    Place,
    Thing,
    Ticket,
    Trailer,
    Truck,
)
from book.plan_view import PlanView
from book.summary import ChainShown, Derived, Sum, chain_shown, derived, fluid_sources, sums
from book.tolerances import Tolerances
from measures import UnitSystem
from measures.writing import write_given, write_length, write_mass
from yards.access import YardRequest

PLACED: Final = ("anchors", "points")
"""Inner lists of places, which are filled on a drawing."""

NEWEST: Final = 5
"""Tickets beside a thing's boxes; the others stand on its page of weighings."""


def figures_of(thing: Any, units: UnitSystem, tolerances: Tolerances) -> list[tuple[str, str]]:
    """The two figures of a thing that matter when it is chosen; of small things what kind they are
    before that."""

    def mass(quantity: Any) -> str:
        return UNKNOWN if quantity is None else write_given(quantity, units)

    if isinstance(thing, Truck):
        return [("payload", mass(thing.payload)), ("tow rating", mass(thing.max_trailer_mass))]
    if isinstance(thing, Trailer):
        deck = thing.deck_length
        return [
            ("carries", _carries(thing, units)),
            ("deck", UNKNOWN if deck is None else write_length(si(deck), units, step=1)),
        ]
    if isinstance(thing, HitchPart):
        return [
            ("is a", str(thing.get_kind_display()).lower()),
            ("trailer", mass(thing.max_trailer_mass)),
            ("tongue", mass(thing.max_tongue_mass)),
        ]
    if isinstance(thing, Machine):
        return _machine_figures(thing, units, tolerances)
    if isinstance(thing, Gear):
        limit = gear_limit(thing)
        return [
            ("is a", str(thing.get_kind_display()).lower()),
            ("holds", "nothing" if limit.kg is None else write_mass(limit.kg, units)),
            ("retired", str(thing.get_retired_display()).lower())
            if thing.retired
            else ("on the rack", str(thing.count)),
        ]
    if isinstance(thing, Place):
        ground = str(thing.get_surface_display()) if thing.surface else UNKNOWN
        return [("from the yard", _how_far(thing, units)), ("ground", ground)]
    worked = {row.name: row.figure for row in derived(thing, units, tolerances)}
    return [("mass", worked.get("Mass", UNKNOWN)), ("balances", worked.get("Balances", UNKNOWN))]


def _how_far(place: Place, units: UnitSystem) -> str:
    if place.home:
        return "the yard itself"
    if place.from_yard is not None:
        return write_given(place.from_yard, units)
    return UNKNOWN if place.latitude is None else "by its coordinates"


def _carries(trailer: Trailer, units: UnitSystem) -> str:
    """What its plate leaves for a load; marked where its own mass is an estimate."""
    empty = estimates.empty_mass(trailer)
    if trailer.gvwr is None or empty is None:
        return UNKNOWN
    figure = write_mass(si(trailer.gvwr) - empty.si, units)
    return f"about {figure}" if empty.tolerance else figure


def _machine_figures(
    machine: Machine, units: UnitSystem, tolerances: Tolerances
) -> list[tuple[str, str]]:
    """What it weighs and by which way that is known, and how long it is."""
    known = (
        str(machine.get_mass_known_display()).lower()
        if machine.built == Machine.Built.WHOLE
        else str(machine.get_built_display()).lower()
    )
    try:
        built = built_machine(machine, drawn_as(machine), tolerances)
    except IncompleteError:
        front, rear = machine.reach_front, machine.reach_rear
        mass = UNKNOWN if machine.mass is None else f"{write_given(machine.mass, units)}, {known}"
        length = None if front is None or rear is None else si(front) + si(rear)
    else:
        mass = f"{write_mass(built.body.mass_kg, units)}, {known}"
        length = built.outline.front_m + built.outline.rear_m
    return [
        ("mass", mass),
        ("length", UNKNOWN if length is None else write_length(length, units, step=1)),
    ]


UNKNOWN: Final = "not known"


@dataclass(frozen=True, kw_only=True)
class Sheet:
    """One sheet of the page: a group of boxes, or an inner list. ``filled`` is how many of its
    boxes hold something, where it is folded away; ``plan`` is drawn over an inner list that is
    filled on it, ``usual`` tells that usual rows are offered for it."""

    heading: str
    help: str
    folded: bool
    open: bool
    group: Group | None = None
    fields: Sequence[BoundField] = ()
    rows: Any = None
    plan: PlanView | None = None
    usual: bool = False
    filled: int = 0


def sheets(
    kind: Kind, form: Any, rows: list[tuple[Rows, Any]], plan: PlanView | None = None
) -> list[Sheet]:
    """Groups of boxes and inner lists in the order of the page; ``plan`` is the drawing from
    above."""
    sheets = []
    for group in kind.groups:
        fields = [form[name] for name in group.fields]
        sheets.append(
            Sheet(
                heading=group.heading,
                help=group.help,
                group=group,
                fields=fields,
                folded=group.folded,
                open=any(b.errors for b in fields),
                filled=sum(_differs(b) for b in fields) if group.folded else 0,
            )
        )
    lists = [
        Sheet(
            heading=row.heading,
            help=row.help,
            rows=formset,
            plan=plan if row.prefix in PLACED else None,
            usual=row.prefix in PLACED and not formset.initial_form_count(),
            folded=row.folded,
            open=bool(formset.initial_form_count())
            or any(f.has_changed() for f in formset.forms if formset.is_bound)
            or (row.prefix == "parts" and form["built"].value() == "parts")
            if row.folded
            else True,
        )
        for row, formset in rows
    ]
    after = {"new": "Coupler and chains"}
    for entry, (row, _) in zip(lists, rows, strict=True):
        heading = after.get(row.prefix)
        at = next(
            (n + 1 for n, s in enumerate(sheets) if heading and _is(s.group, heading)),
            len(sheets) - 1,
        )
        sheets.insert(at, entry)
    return sheets


def _is(group: Group | None, heading: str) -> bool:
    return group is not None and group.heading == heading


def _differs(bound: Any) -> bool:
    """Whether a box holds something other than its default."""
    columns = bound.form._meta.model._meta.concrete_fields
    defaults = {column.name: column.get_default() for column in columns}
    return bound.value() not in (None, "", False, [], defaults.get(bound.name))


@dataclass(frozen=True, kw_only=True)
class Weighed:
    """A scale ticket beside the boxes: its readings, and with what aboard."""

    ticket: Ticket
    readings: list[tuple[str, str]]
    loaded: str


def _tickets(thing: Thing, units: UnitSystem) -> list[Weighed] | None:
    """The thing's newest scale tickets with their readings; ``None`` for what nobody weighs."""
    if not isinstance(thing, (Truck, Trailer, Machine)):
        return None
    newest = thing.tickets.select_related("added_by", "configuration").prefetch_related("loads")
    return [
        Weighed(
            ticket=ticket,
            readings=[
                (field_words(ticket, name), write_given(reading, units))
                for name in Ticket.READINGS
                if (reading := getattr(ticket, name)) is not None
            ],
            loaded=_with(ticket),
        )
        for ticket in newest[:NEWEST]
    ]


def _with(ticket: Ticket) -> str:
    """With what on it, or how set up, a thing was weighed; empty as the book has it."""
    items = [str(load) for load in ticket.loads.all() if load.kind == Aboard.Kind.ITEM]
    if items:
        return "with " + ", ".join(items)
    return ticket.configuration.name if ticket.configuration else ""


@dataclass(frozen=True, kw_only=True)
class HitchChains:
    """A hitch of a truck: its chain alone, and with each trailer that has parts of its own."""

    hitch: Hitch
    alone: ChainShown
    pairs: list[tuple[Trailer, ChainShown]]


@dataclass(frozen=True, kw_only=True)
class Aside:
    """What stands beside a thing's boxes.

    ``sheet`` is all of it on paper, ``sketch_of`` the configuration a built-up machine is drawn
    in, ``on`` where a part is in use, ``parts`` the templates that other apps bring; ``tickets``
    is ``None`` for what nobody weighs.
    """

    sheet: DataSheet
    sketch: Sketch | None
    sketch_of: Configuration | None
    derived: list[Derived]
    gaps: list[Gap]
    doubts: list[Doubt]
    sums: list[Sum]
    chains: list[HitchChains]
    photos: list[Photo]
    photo_form: PhotoForm
    tickets: list[Weighed] | None
    ticket_count: int
    ticket_form: TicketForm
    on: list[str]
    parts: tuple[str, ...]
    fluids: list[tuple[str, str]]
    reasons: list[tuple[str, str]]


def beside(thing: Thing, request: YardRequest, ticket_form: TicketForm | None = None) -> Aside:
    """What stands beside the boxes: drawing, derived figures, gaps, doubts, photos."""
    units, tolerances = request.user.unit_system, Tolerances.of(request.yard)
    chains = []
    if isinstance(thing, Truck):
        trailers = list(
            Trailer.objects.filter(yard=request.yard).prefetch_related("axles", "links__part")
        )
        for hitch in thing.hitches.all():
            chains.append(
                HitchChains(
                    hitch=hitch,
                    alone=chain_shown(hitch, None, units),
                    pairs=[
                        (trailer, chain_shown(hitch, trailer, units))
                        for trailer in trailers
                        if trailer.links.all()
                    ],
                )
            )
    found, lacking = derived(thing, units, tolerances), gaps(thing, units)
    return Aside(
        sheet=data_sheet(thing, kind_of(slug_of(thing)), derived=found, gaps=lacking, units=units),
        sketch=_sketch(thing, units, tolerances),
        sketch_of=drawn_as(thing) if isinstance(thing, Machine) else None,
        derived=found,
        gaps=lacking,
        doubts=doubts(thing, units, tolerances),
        sums=sums(thing, units, tolerances) if isinstance(thing, Machine) else [],
        chains=chains,
        photos=list(thing.photos.all()),
        photo_form=PhotoForm(),
        tickets=_tickets(thing, units),
        ticket_count=thing.tickets.count(),
        ticket_form=ticket_form or TicketForm(units=units, prefix="ticket"),
        on=_whereabouts(thing),
        parts=asides(),
        fluids=fluid_sources(units) if isinstance(thing, Machine) else [],
        reasons=[(one.value, str(one.label)) for one in Gear.Retired if one.value],
    )


def _whereabouts(thing: Thing) -> list[str]:
    if not isinstance(thing, HitchPart):
        return []
    return [
        *(str(link.hitch) for link in thing.on_hitches.all()),
        *(link.trailer.name for link in thing.on_trailers.all()),
    ]


def _sketch(thing: Thing, units: UnitSystem, tolerances: Tolerances) -> Sketch | None:
    """The drawing, where there are figures enough for one."""
    try:
        if isinstance(thing, Truck):
            return truck_sketch(thing, empty_axles(thing, tolerances), units)
        if isinstance(thing, Trailer):
            return trailer_sketch(thing, empty_trailer(thing, tolerances), units)
        if isinstance(thing, Machine):
            built = built_machine(thing, drawn_as(thing), tolerances)
            return machine_sketch(thing, built, units)
    except IncompleteError:
        return None
    return None
