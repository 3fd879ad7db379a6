"""From the book's entries to the sections of a plan file.

A figure that was entered goes into the document exactly as entered, converted once; one
that the book works out is rounded far below what any scale or tape can show. What nobody
measured goes in as it usually is, with its band for a tolerance, and is named among the
estimates.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, Final

from msgspec import UNSET, UnsetType

from book import estimates
from book.chain import assemble, coupler_size
from book.clearances import low_points
from book.errors import IncompleteError
from book.figures import (
    Built,
    axle_rate_kg_per_m,
    built_machine,
    bulk_body,
    bulk_drawn,
    empty_axles,
    empty_trailer,
    machine_contacts,
    si,
    tow_limit_kg,
    trailer_lacks,
    truck_ride,
    truck_wheelbase,
)
from book.models import (
    Bulk,
    Configuration,
    Hitch,
    HitchPart,
    Machine,
    Trailer,
    TrailerAxle,
    Truck,
    TruckLoad,
)
from book.schools import rules_for
from book.tolerances import Tolerances
from hauls.loads import Load
from hauls.ramps import (
    bed_section,
    beside_ramps,
    dovetail_section,
    ramp_section,
    stands_section,
    tread_of,
    underside_section,
    usual_underside,
)
from hauls.ties import anchor_sections, beside_points, over_sections, point_sections
from hauls.units import FileUnits
from measures import Quantity
from planfile import document

PLAN_KINDS: Final = {"utility", "dump", "gooseneck", "flatbed", "tilt"}
"""Trailer kinds that the plan format names; any other is ``other`` there."""


def truck_section(truck: Truck, hitch: Hitch, units: FileUnits) -> document.Truck:
    """The ``truck`` object: hitched at one of the truck's hitches, usual load aboard.

    Raises:
        IncompleteError: the truck lacks figures.
    """
    tolerances = Tolerances.of(truck.yard)
    axles = empty_axles(truck, tolerances)
    exact = estimates.truck_source(truck) == Truck.EmptyFrom.AXLES and truck.aboard_mass is None
    base, ball, person = truck_wheelbase(truck), estimates.ball_place(hitch), _driver(truck, units)
    seat, tow = estimates.front_seat(base), tow_limit_kg(truck)
    drawn = {name: word for name in ("cab", "rear_wheels") if (word := getattr(truck, name))}
    towed: float | UnsetType = UNSET
    if truck.max_trailer_mass is not None:
        towed = units.m(truck.max_trailer_mass)
    elif tow is not None:
        towed = units.kg(tow)
    return document.Truck(
        name=truck.name,
        front_axle_mass=units.m(truck.front_axle_mass) if exact else units.kg(axles.front_kg),
        rear_axle_mass=units.m(truck.rear_axle_mass) if exact else units.kg(axles.rear_kg),
        front_axle_mass_tolerance=units.kg(axles.front_tolerance_kg),
        rear_axle_mass_tolerance=units.kg(axles.rear_tolerance_kg),
        empty_mass_tolerance=UNSET
        if axles.mass_tolerance_kg is None
        else units.kg(axles.mass_tolerance_kg),
        wheelbase=_place(base, truck.wheelbase, units),
        wheelbase_tolerance=units.metres(base.tolerance),
        hitch_offset=_place(ball, hitch.offset, units),
        hitch_offset_tolerance=units.metres(ball.tolerance),
        front_gawr=units.m_if(truck.front_gawr),
        rear_gawr=units.m_if(truck.rear_gawr),
        gvwr=units.m_if(truck.gvwr),
        gcwr=units.m_if(truck.gcwr),
        max_trailer_mass=towed,
        payload=units.m_if(truck.payload),
        max_tongue_mass=units.m_if(truck.max_tongue_mass),
        front_tire_capacity=units.m_if(truck.front_tire_capacity),
        rear_tire_capacity=units.m_if(truck.rear_tire_capacity),
        ride=_ride(truck, hitch, units),
        drive=_word(f"{truck.drive}_wheel") if truck.drive else UNSET,
        cargo=[_load(one, seat, tolerances, units) for one in truck.loads.all()] + person,
        estimates=_named(guess for guess in estimates.truck_guesses(truck, hitch)),
        extra={"drawn": drawn} if drawn else UNSET,
    )


def _load(
    load: TruckLoad, seat: estimates.Figure, tolerances: Tolerances, units: FileUnits
) -> document.Cargo:
    """Who or what rides in the truck; on a front seat, give or take, where nobody says where."""
    exact = not load.known and load.mass_tolerance is None
    off = 0.0 if exact else tolerances.mass_kg(si(load.mass), load.known, load.mass_tolerance)
    place = load.ahead_of_rear_axle
    at = seat if place is None else estimates.Figure.entered(place)
    return document.Cargo(
        name=load.name,
        mass=units.m(load.mass),
        mass_tolerance=_tolerance(off, load.mass_tolerance, units),
        ahead_of_rear_axle=_place(at, place, units),
        ahead_of_rear_axle_tolerance=units.metres(at.tolerance),
    )


def _driver(truck: Truck, units: FileUnits) -> list[document.Cargo]:
    """One person, where the book says nothing of who or what rides in the truck."""
    found = estimates.driver(truck)
    if found is None:
        return []
    mass, place = found
    return [
        document.Cargo(
            name=estimates.ONE_PERSON,
            mass=units.kg(mass.si),
            mass_tolerance=units.kg(mass.tolerance),
            ahead_of_rear_axle=units.metres(place.si),
            ahead_of_rear_axle_tolerance=units.metres(place.tolerance),
        )
    ]


def _place(figure: estimates.Figure, entered: Quantity | None, units: FileUnits) -> float:
    """A length exactly as entered, else as estimated."""
    return units.metres(figure.si) if entered is None else units.x(entered)


def _named(guesses: Iterable[estimates.Guessed]) -> list[Any]:
    """What the plan calls its estimates; the draft refuses any other word."""
    return list(dict.fromkeys(guess.name for guess in guesses))


def _ride(truck: Truck, hitch: Hitch, units: FileUnits) -> document.Ride | UnsetType:
    rates = truck_ride(truck, hitch)
    if rates is None:
        return UNSET
    front = rates.get("front_rate")
    return document.Ride(
        ball_height=units.x(hitch.ball_height),
        rear_rate=units.rate(rates["rear_rate"]),
        front_rate=UNSET if front is None else units.rate(front),
    )


def _tolerance(kilograms: float, entered: Quantity | None, units: FileUnits) -> float:
    return units.kg(kilograms) if entered is None else units.m(entered)


def hitch_section(hitch: Hitch, trailer: Trailer | None, units: FileUnits) -> document.Hitch:
    """The ``hitch`` object: the chain of the truck's parts and those on the trailer, if it is
    known."""
    chain = assemble(hitch, trailer)
    mass = 0.0
    if hitch.mass is not None:
        mass = units.m(hitch.mass)
    else:
        # a receiver is bolted to the frame and weighed with the truck
        hung = [
            si(link.part.mass)
            for link in hitch.links.all()
            if link.part.mass is not None
            and link.part.kind != HitchPart.Kind.RECEIVER
            and link.part in chain.parts
        ]
        mass = units.kg(sum(hung))
    names = chain.names()
    bars = None
    extra: dict[str, Any] | UnsetType = UNSET
    if hitch.front_axle_restoration is not None:
        bars = document.WeightDistribution(
            front_axle_restoration=float(hitch.front_axle_restoration) / 100,
            bar_length=units.x_if(hitch.bar_length),
        )
    elif hitch.bar_length is not None:
        # with no give-back chosen yet the bars are known all the same
        extra = {"bar_length": units.x(hitch.bar_length)}
    return document.Hitch(
        type=_word(hitch.type),
        mass=mass,
        components=[_part(part, names[part.pk], units) for part in chain.parts],
        ball_diameter=units.x_if(chain.ball_size),
        weight_distribution=bars,
        extra=extra,
    )


def _word(word: str) -> Any:
    """A word of the book that the plan format has too; the draft refuses any other."""
    return word


def _part(part: HitchPart, name: str, units: FileUnits) -> document.HitchComponent:
    return document.HitchComponent(
        name=name,
        max_trailer_mass=units.m_if(part.max_trailer_mass),
        max_tongue_mass=units.m_if(part.max_tongue_mass),
        max_trailer_mass_wd=units.m_if(part.max_trailer_mass_wd),
        max_tongue_mass_wd=units.m_if(part.max_tongue_mass_wd),
        extra={"part": part.name} if name != part.name else UNSET,
    )


def trailer_section(trailer: Trailer, units: FileUnits) -> document.Trailer:
    """The ``trailer`` object, additions counted in.

    Raises:
        IncompleteError: the trailer lacks figures.
    """
    tolerances = Tolerances.of(trailer.yard)
    empties = empty_trailer(trailer, tolerances)
    exact = empties.as_entered
    places, track = estimates.axle_places(trailer), estimates.track_width(trailer)
    if places is None:
        raise IncompleteError(trailer.name, trailer_lacks(trailer))
    rate = axle_rate_kg_per_m(trailer)
    axles = list(trailer.axles.all())
    drawn: dict[str, Any] = {
        name: value for name in ("tail", "sides", "fenders") if (value := getattr(trailer, name))
    }
    if trailer.kind not in PLAN_KINDS | {"other"}:
        drawn["kind"] = str(trailer.kind)
    extra: dict[str, Any] = {"drawn": drawn} if drawn else {}
    extra |= beside_ramps(trailer, units)
    if {axle.brake for axle in axles} == {TrailerAxle.Brake.NONE}:
        extra["brakes"] = "none"
    return document.Trailer(
        name=trailer.name,
        kind=_word(trailer.kind if trailer.kind in PLAN_KINDS else "other"),
        empty_mass=units.m(trailer.empty_mass) if exact else units.kg(empties.mass_kg),
        empty_mass_tolerance=units.kg(empties.mass_tolerance_kg),
        empty_tongue_mass=units.m(trailer.empty_tongue_mass)
        if exact
        else units.kg(empties.tongue_kg),
        empty_tongue_mass_tolerance=units.kg(empties.tongue_tolerance_kg),
        axles=[
            document.Axle(
                position=units.metres(place) if axle.position is None else units.x(axle.position),
                gawr=units.m_if(axle.gawr),
                tire_capacity=units.m_if(axle.tire_capacity),
            )
            for axle, place in zip(axles, places.places, strict=True)
        ],
        suspension=_word(trailer.suspension),
        track_width=_place(track, trailer.track_width, units),
        track_width_tolerance=units.metres(track.tolerance),
        deck=_deck(trailer, tolerances, units),
        axles_tolerance=_taped(tolerances, places.tolerance, units),
        estimates=_named(estimates.guesses(trailer)),
        axle_rate=UNSET if rate is None else units.rate(rate),
        gvwr=units.m_if(trailer.gvwr),
        coupler_size=units.x_if(coupler_size(trailer)),
        coupler_height=units.x_if(trailer.coupler_height),
        axle_height=units.x_if(trailer.axle_height),
        ramp=ramp_section(trailer, units),
        dovetail=dovetail_section(trailer, units),
        stands=stands_section(trailer, units),
        bed=bed_section(trailer, units),
        anchors=anchor_sections(trailer, units),
        extra=extra or UNSET,
    )


def _taped(tolerances: Tolerances, off_m: float, units: FileUnits) -> float:
    """How far a taped place may be off, and one that nobody taped."""
    if off_m:
        return units.metres(off_m)
    return units.x(tolerances.tape) if tolerances.tape_m else 0


def _deck(trailer: Trailer, tolerances: Tolerances, units: FileUnits) -> document.Deck:
    start = estimates.deck_start(trailer)
    concentration: document.Concentration | UnsetType = UNSET
    if trailer.concentration_mass is not None and trailer.concentration_length is not None:
        concentration = document.Concentration(
            mass=units.m(trailer.concentration_mass), length=units.x(trailer.concentration_length)
        )
    overhangs = (trailer.front_overhang, trailer.rear_overhang)
    front, rear = (0 if over is None else units.x(over) for over in overhangs)
    return document.Deck(
        start=_place(start, trailer.deck_start, units),
        length=units.x(trailer.deck_length),
        start_tolerance=_taped(tolerances, start.tolerance, units),
        width=units.x_if(trailer.deck_width),
        height=units.x_if(trailer.deck_height),
        front_overhang=front,
        rear_overhang=rear,
        concentration=concentration,
    )


def load_section(
    load: Load, item_id: str, units: FileUnits, placement: document.Placement
) -> document.Item:
    """An entry of ``items``, standing as ``placement`` says, stopped as near as the yard does.

    Raises:
        IncompleteError: the machine or bulk load lacks figures.
    """
    placement = _stopping(placement, Tolerances.of(load.yard), units)
    if load.bulk is not None:
        return _bulk_section(load.bulk, item_id, units, placement)
    if load.machine is None:
        raise IncompleteError("the load", ["a machine or a bulk load"])
    return _machine_section(load.machine, load.configuration, item_id, units, placement)


def _machine_section(
    machine: Machine,
    configuration: Configuration | None,
    item_id: str,
    units: FileUnits,
    placement: document.Placement,
) -> document.Item:
    built = built_machine(machine, configuration, Tolerances.of(machine.yard))
    body, outline = built.body, built.outline
    left: float = 0
    if body.left_m:
        left = (
            units.x(machine.balance_left)
            if machine.balance_left is not None
            else units.metres(body.left_m)
        )
    drawn: dict[str, Any] = {"shape": machine.shape, "mark": machine.mark_name}
    if machine.wheelbase is not None:
        drawn["wheelbase"] = units.x(machine.wheelbase)
    low = low_points(machine, configuration, outline)
    return document.Item(
        id=item_id,
        name=machine.name if configuration is None else str(configuration),
        estimates=[_word(name) for name in built.estimated],
        mass=units.m(machine.mass) if built.entered else units.kg(body.mass_kg),
        mass_tolerance=units.kg(body.mass_tolerance_kg),
        cg=document.BalancePoint(
            ahead=units.x(machine.balance_ahead) if built.entered else units.metres(body.ahead_m),
            ahead_tolerance=units.metres(body.ahead_tolerance_m),
            left=left,
            height=_height(body.height_m, units),
            height_tolerance=units.metres(built.height_tolerance_m),
        ),
        front=units.metres(outline.front_m),
        rear=units.metres(outline.rear_m),
        width=units.x_if(machine.width),
        height=_height(outline.height_m, units),
        contacts=[
            document.Contact(ahead=units.metres(c.ahead_m), length=units.metres(c.length_m))
            for c in machine_contacts(machine)
        ],
        underside=underside_section(low, units),
        points=point_sections(machine, configuration, units),
        placement=placement,
        extra={
            "drawn": drawn,
            **_made_of(built, units),
            **tread_of(machine, units),
            **usual_underside(low, units),
            **beside_points(machine, configuration, units),
        },
    )


def _height(metres: float | None, units: FileUnits) -> float | UnsetType:
    return units.metres(metres) if metres is not None and metres > 0 else UNSET


def _made_of(built: Built, units: FileUnits) -> dict[str, Any]:
    """The parts that were summed, kept with the haul so that it can show where from."""
    if len(built.pieces) < 2:
        return {}
    return {
        "made_of": [
            {
                "name": piece.name,
                "mass": units.kg(piece.signed_kg),
                "ahead": units.metres(piece.ahead_m),
            }
            for piece in built.pieces
        ]
    }


def _bulk_section(
    bulk: Bulk, item_id: str, units: FileUnits, placement: document.Placement
) -> document.Item:
    body = bulk_body(bulk, Tolerances.of(bulk.yard))
    half = units.metres(si(bulk.length) / 2)
    shape, high = bulk_drawn(bulk, body)
    height = units.x_if(bulk.height)
    if bulk.height is None and high is not None:
        height = units.metres(high)
    return document.Item(
        id=item_id,
        name=bulk.name,
        mass=units.kg(body.mass_kg),
        mass_tolerance=units.kg(body.mass_tolerance_kg),
        cg=document.BalancePoint(
            ahead=units.metres(body.ahead_m),
            ahead_tolerance=units.metres(body.ahead_tolerance_m),
            height=UNSET if body.height_m is None else units.metres(body.height_m),
        ),
        front=half,
        rear=half,
        width=units.x_if(bulk.width),
        height=height,
        contacts=[document.Contact(ahead=0, length=units.metres(si(bulk.length)))],
        points=over_sections(bulk, units),
        placement=placement,
        extra={"drawn": {"shape": shape, "mark": "middle of the load"}},
    )


def rules_section(hitch: Hitch) -> document.Rules:
    """The ``rules`` object of a new haul: the yard's own schools, where they fit this truck."""
    return document.Rules(
        **rules_for(
            hitch.truck.yard.rules,
            hitch_type=hitch.type,
            nose_plate=hitch.truck.max_tongue_mass is not None,
        )
    )


def _stopping(
    placement: document.Placement, tolerances: Tolerances, units: FileUnits
) -> document.Placement:
    """A placement with how near its mark the yard's machines come to stop."""
    stop = units.x(tolerances.stop) if tolerances.stop_m else 0
    return document.Placement(
        reference=placement.reference,
        facing=placement.facing,
        left=placement.left,
        reference_tolerance=stop,
    )
