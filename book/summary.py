"""What a thing's entries come to, each figure with its arithmetic in the person's units."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, Final

from book.chain import Chain, assemble
from book.errors import IncompleteError
from book.estimates import truck_source, whole_mass
from book.figures import (
    built_machine,
    bulk_body,
    empty_axles,
    empty_trailer,
    lever_m,
    si,
    tow_limit_kg,
)
from book.gear import called_limit, gear_limit
from book.models import (
    Bulk,
    Configuration,
    Gear,
    Hitch,
    HitchPart,
    Known,
    Machine,
    Place,
    Thing,
    Trailer,
    Truck,
)
from book.tolerances import Tolerances
from book.ways import way_between, way_words
from measures import Quantity, UnitSystem, write_length, write_mass
from measures.writing import write_densities, write_given, write_inches, write_percent
from mechanics.fluids import FLUIDS
from mechanics.heap import MATERIALS
from mechanics.rules import NEAR_HITCH
from wording.phrases import signed_mass

NOT_KNOWN: Final = "not known"


@dataclass(frozen=True, kw_only=True, slots=True)
class Derived:
    """One worked-out figure: its name, the figure, how it came about."""

    name: str
    figure: str
    arithmetic: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class PartLine:
    """One part in a machine's sum."""

    name: str
    mass: str
    tolerance: str
    ahead: str
    off: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Sum:
    """A machine in one configuration: its parts and what they come to."""

    title: str
    lines: tuple[PartLine, ...]
    mass: str
    tolerance: str
    ahead: str
    ahead_tolerance: str
    height: str
    lacks: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True, slots=True)
class Link:
    """One part in a hitch chain as the page shows it."""

    name: str
    kind: str
    pk: int
    trailer: str
    tongue: str
    weakest_trailer: bool
    weakest_tongue: bool


FIT_WORDS = {"ok": "fits", "over": "wrong ball", "unknown": "cannot say"}


@dataclass(frozen=True, kw_only=True, slots=True)
class ChainShown:
    """A hitch chain with its weakest parts and whether the ball fits."""

    title: str
    links: tuple[Link, ...]
    verdict: str
    words: str
    left_off: str

    @property
    def verdict_words(self) -> str:
        """Whether the ball goes into the coupler, in a word."""
        return FIT_WORDS.get(self.verdict, "")


Told = tuple[UnitSystem, Tolerances]


def derived(thing: Thing, units: UnitSystem, tolerances: Tolerances) -> list[Derived]:
    """The figures that follow from the entries; what cannot be worked out is left out."""
    return list(_DERIVED[type(thing)](thing, (units, tolerances)))


def _with(kg: float, tolerance: float, units: UnitSystem) -> str:
    return f"{write_mass(kg, units)}, give or take {write_mass(tolerance, units)}"


def _truck(truck: Truck, told: Told) -> Iterator[Derived]:
    units, tolerances = told

    def mass(kg: float) -> str:
        return write_mass(kg, units)

    empty_kg: float | None = None
    try:
        empty = empty_axles(truck, tolerances)
    except IncompleteError:
        pass
    else:
        empty_kg = empty.front_kg + empty.rear_kg
        how = {
            Truck.EmptyFrom.AXLES: "both axles on the scale"
            + (
                f", less {write_given(truck.aboard_mass, units)} aboard"
                if truck.aboard_mass is not None
                else ""
            ),
            Truck.EmptyFrom.KERB: "curb mass"
            + (", less a driver of 75 kg" if truck.kerb_with_driver else ""),
            Truck.EmptyFrom.STICKER: "GVWR less payload",
            "": "estimated: a usual part of the GVWR",
        }[truck_source(truck)]
        yield Derived(
            name="Empty truck",
            figure=mass(empty_kg),
            arithmetic=f"{how}; front {_with(empty.front_kg, empty.front_tolerance_kg, units)}; "
            f"rear {_with(empty.rear_kg, empty.rear_tolerance_kg, units)}",
        )
    limit = "MAM" if truck.plate == Truck.Plate.METRIC else "GVWR"
    payload: float | None = None
    if truck.payload is not None:
        payload = si(truck.payload)
        if truck.gvwr is not None and empty_kg is not None:
            yield Derived(
                name=f"{limit} less the empty truck",
                figure=mass(si(truck.gvwr) - empty_kg),
                arithmetic=f"{mass(si(truck.gvwr))} − {mass(empty_kg)}; the sticker says "
                f"{mass(payload)}, and that is the one used",
            )
    elif truck.gvwr is not None and empty_kg is not None:
        payload = si(truck.gvwr) - empty_kg
        yield Derived(
            name="Payload",
            figure=mass(payload),
            arithmetic=f"{limit} {mass(si(truck.gvwr))} − empty {mass(empty_kg)}",
        )
    loads = [si(load.mass) for load in truck.loads.all()]
    if payload is not None and loads:
        yield Derived(
            name="Left for hitch and tongue",
            figure=mass(payload - sum(loads)),
            arithmetic=f"payload {mass(payload)} − usual load {mass(sum(loads))}",
        )
    tow = tow_limit_kg(truck)
    if truck.max_trailer_mass is None and tow is not None:
        yield Derived(
            name="Towing limit",
            figure=mass(tow),
            arithmetic=f"gross train mass {write_given(truck.gcwr, units)} − MAM "
            f"{write_given(truck.gvwr, units)}",
        )


def _trailer(trailer: Trailer, told: Told) -> Iterator[Derived]:
    units, tolerances = told

    def mass(kg: float) -> str:
        return write_mass(kg, units)

    try:
        empties = empty_trailer(trailer, tolerances)
    except IncompleteError:
        if trailer.gvwr is not None and trailer.empty_mass is not None:
            yield Derived(
                name="It carries",
                figure=mass(si(trailer.gvwr) - si(trailer.empty_mass)),
                arithmetic="GVWR less its own weight",
            )
        return
    if trailer.gvwr is not None:
        yield Derived(
            name="It carries",
            figure=mass(si(trailer.gvwr) - empties.mass_kg),
            arithmetic=f"GVWR {write_given(trailer.gvwr, units)} − own weight "
            f"{mass(empties.mass_kg)}",
        )
    if trailer.tongue_taken_at is not None and trailer.tongue_taken_at.si > 0:
        lever = lever_m(trailer) or 1.0
        at = si(trailer.tongue_taken_at)
        yield Derived(
            name="Tongue at the ball",
            figure=mass(empties.weighed_tongue_kg * (lever - at) / lever),
            arithmetic=f"{mass(empties.weighed_tongue_kg)} × "
            f"({write_length(lever, units)} − {write_length(at, units)}) ÷ "
            f"{write_length(lever, units)}",
        )
    if empties.added:
        before = (
            "estimated"
            if trailer.empty_mass is None
            else f"weighed {write_given(trailer.empty_mass, units)}"
        )
        terms = "; ".join(
            f"{a.name} {mass(a.mass_kg)}, tongue {signed_mass(a.tongue_kg, units)}"
            for a in empties.added
        )
        yield Derived(
            name="Empty as hauled",
            figure=f"{mass(empties.mass_kg)}, tongue {mass(empties.tongue_kg)}",
            arithmetic=f"{before}; {terms}",
        )
    if not empties.entered:
        yield Derived(
            name="Empty, as estimated",
            figure=_with(empties.mass_kg, empties.mass_tolerance_kg, units),
            arithmetic=f"tongue {_with(empties.tongue_kg, empties.tongue_tolerance_kg, units)}; "
            "see the gaps for what would say it",
        )
    yield Derived(
        name="Empty tongue share",
        figure=write_percent(empties.tongue_kg / empties.mass_kg),
        arithmetic=f"{mass(empties.tongue_kg)} of {mass(empties.mass_kg)}",
    )
    brakes = [axle.get_brake_display() for axle in trailer.axles.all() if axle.brake]
    if brakes:
        braked = sum(axle.brake not in ("", "none") for axle in trailer.axles.all())
        yield Derived(name="Brakes", figure=f"on {braked} of {len(trailer.axles.all())} axles")


def _hitch_part(part: HitchPart, told: Told) -> Iterator[Derived]:
    units, _ = told
    for name, rating in (
        ("Usable on the trailer", part.max_trailer_mass),
        ("Usable on the tongue", part.max_tongue_mass),
    ):
        if rating is not None:
            yield Derived(
                name=name,
                figure=write_mass(si(rating) * NEAR_HITCH, units),
                arithmetic=f"{write_given(rating, units)} ÷ 1.2: above it the plan says near, "
                "for 20 % spare",
            )


def _bulk(bulk: Bulk, told: Told) -> Iterator[Derived]:
    units, tolerances = told
    try:
        body = bulk_body(bulk, tolerances)
    except IncompleteError:
        return
    if bulk.measured == Bulk.Measured.COUNT:
        how = f"{bulk.count} × {write_given(bulk.piece_mass, units)}"
    elif bulk.density is not None:
        how = f"{write_given(bulk.volume, units)} × {write_given(bulk.density, units)}"
    else:
        material = MATERIALS[bulk.material]
        usual = write_densities(material.least_kg_m3, material.greatest_kg_m3, system=units)
        how = (
            f"{write_given(bulk.volume, units)} of {material.name.lower()}, {usual}. "
            f"{material.source}"
        )
    yield Derived(
        name="Mass", figure=_with(body.mass_kg, body.mass_tolerance_kg, units), arithmetic=how
    )
    from_front = si(bulk.length) / 2 - body.ahead_m
    yield Derived(
        name="Balances",
        figure=f"{write_length(from_front, units)} behind its front edge",
        arithmetic=f"{bulk.get_heap_display().lower()}, over {write_given(bulk.length, units)}; "
        f"give or take {write_inches(body.ahead_tolerance_m, units)}",
    )


def _machine(machine: Machine, told: Told) -> Iterator[Derived]:
    units, tolerances = told
    try:
        built = built_machine(machine, None, tolerances)
    except IncompleteError:
        return
    body, outline = built.body, built.outline
    if machine.built != Machine.Built.PARTS or not machine.configurations.all():
        yield Derived(
            name="Mass as hauled",
            figure=_with(body.mass_kg, body.mass_tolerance_kg, units),
            arithmetic=_how_known(machine, built.pieces, units),
        )
        yield Derived(
            name="Balances",
            figure=f"{_ahead(body.ahead_m, units)} of the {machine.mark_name}",
            arithmetic=("estimated, " if "cg.ahead" in built.estimated else "")
            + f"give or take {write_inches(body.ahead_tolerance_m, units)}",
        )
    yield Derived(name="Length", figure=write_length(outline.front_m + outline.rear_m, units))


def _how_known(machine: Machine, pieces: tuple[Any, ...], units: UnitSystem) -> str:
    if machine.built == Machine.Built.PARTS:
        return f"sum of {len(pieces)} parts"
    if len(pieces) > 1:
        return "the weighed whole, with parts put on and taken off"
    if machine.built == Machine.Built.AXLES:
        front, rear = machine.front_axle_mass, machine.rear_axle_mass
        return f"{write_given(front, units)} + {write_given(rear, units)}"
    known = str(Known(machine.mass_known).label).lower()
    found = whole_mass(machine)
    if found is not None and found.guessed is not None:
        told = write_given(machine.mass, units)
        return f"estimated: {told} by its {known}, and what that leaves out"
    return known


def _ahead(metres: float, units: UnitSystem) -> str:
    way = "ahead" if metres >= 0 else "behind"
    return f"{write_length(abs(metres), units, step=2)} {way}"


def _place(place: Place, told: Told) -> Iterator[Derived]:
    units, _ = told
    home = Place.objects.filter(yard=place.yard_id, home=True).first()
    way = None if home is None or home.pk == place.pk else way_between(home, place)
    if way is not None:
        yield Derived(name="From the yard", figure=way_words(way, units), arithmetic=way.how)
    for driven in place.ways.all():
        yield Derived(name=f"To {driven.name}", figure=write_given(driven.distance, units))


def _gear(gear: Gear, told: Told) -> Iterator[Derived]:
    units, _ = told
    limit = gear_limit(gear)
    yield Derived(
        name="Holds",
        figure="nothing" if limit.kg is None else write_mass(limit.kg, units),
        arithmetic=f"{limit.source}. {called_limit(gear, units)}".strip(),
    )
    if gear.count > 1 and limit.kg is not None:
        yield Derived(name="On the rack", figure=f"{gear.count} pieces")


_DERIVED: dict[type, Callable[[Any, Told], Iterator[Derived]]] = {
    Truck: _truck,
    Trailer: _trailer,
    HitchPart: _hitch_part,
    Machine: _machine,
    Bulk: _bulk,
    Gear: _gear,
    Place: _place,
}


def sums(machine: Machine, units: UnitSystem, tolerances: Tolerances) -> list[Sum]:
    """The machine's build-up: as it stands, or once for each configuration."""
    configurations: list[Configuration | None] = list(machine.configurations.all())
    if machine.built != Machine.Built.PARTS or not configurations:
        configurations.insert(0, None)
    if not machine.parts.all() and len(configurations) == 1:
        return []
    return [_sum(machine, c, units, tolerances) for c in configurations]


def _sum(
    machine: Machine,
    configuration: Configuration | None,
    units: UnitSystem,
    tolerances: Tolerances,
) -> Sum:
    title = "As it stands" if configuration is None else configuration.name
    try:
        built = built_machine(machine, configuration, tolerances)
    except IncompleteError as error:
        return Sum(
            title=title,
            lines=(),
            mass="",
            tolerance="",
            ahead="",
            ahead_tolerance="",
            height="",
            lacks=error.lacks,
        )
    body = built.body
    return Sum(
        title=title,
        lines=tuple(
            PartLine(
                name=piece.name,
                mass=("− " if piece.removed else "") + write_mass(piece.mass_kg, units),
                tolerance=write_mass(piece.mass_tolerance_kg, units),
                ahead=write_length(piece.ahead_m, units, step=2),
                off=piece.removed,
            )
            for piece in built.pieces
        ),
        mass=write_mass(body.mass_kg, units),
        tolerance=write_mass(body.mass_tolerance_kg, units),
        ahead=write_length(body.ahead_m, units, step=2),
        ahead_tolerance=write_inches(body.ahead_tolerance_m, units),
        height=NOT_KNOWN if body.height_m is None else write_length(body.height_m, units, step=2),
    )


def chain_shown(hitch: Hitch, trailer: Trailer | None, units: UnitSystem) -> ChainShown:
    """A hitch's chain, alone or with a trailer's own parts at its end."""
    chain = assemble(hitch, trailer)
    weakest_trailer, weakest_tongue = chain.weakest_trailer, chain.weakest_tongue
    verdict, words = _chain_words(chain, trailer, units)
    return ChainShown(
        title=hitch.name if trailer is None else f"{hitch.name} with {trailer.name}",
        links=tuple(
            Link(
                name=part.name,
                kind=str(part.get_kind_display()),
                pk=part.pk,
                trailer=_rating(chain.trailer_rating(part), units),
                tongue=_rating(chain.tongue_rating(part), units),
                weakest_trailer=part is weakest_trailer,
                weakest_tongue=part is weakest_tongue,
            )
            for part in chain.parts
        ),
        verdict=verdict,
        words=words,
        left_off=", ".join(part.name for part in chain.left_off),
    )


def _chain_words(chain: Chain, trailer: Trailer | None, units: UnitSystem) -> tuple[str, str]:
    parts = []
    for word, part, rating in (
        ("trailer", chain.weakest_trailer, chain.trailer_rating),
        ("tongue", chain.weakest_tongue, chain.tongue_rating),
    ):
        if part is not None:
            parts.append(f"{word}: {part.name}, {_rating(rating(part), units)}")
    weakest = "Weakest for the " + "; for the ".join(parts) + "." if parts else ""
    if trailer is None or not trailer.links.all():
        return "", weakest
    if chain.fits is False:
        return (
            "over",
            f"The ball is {_rating(chain.ball_size, units)}, the coupler is made for "
            f"{_rating(chain.coupler_size, units)}. {weakest}",
        )
    if chain.fits is None and (chain.ball_size or chain.coupler_size):
        lacking = "coupler's ball size" if chain.coupler_size is None else "ball's size"
        return "unknown", f"The {lacking} is not known. {weakest}"
    return ("ok" if chain.fits else ""), weakest


def _rating(rating: Quantity | None, units: UnitSystem) -> str:
    return NOT_KNOWN if rating is None else write_given(rating, units)


def fluid_sources(units: UnitSystem) -> list[tuple[str, str]]:
    """Each fluid of the table with its density and where that is from."""
    return [
        (
            fluid.name,
            f"{write_densities(fluid.density_kg_m3, system=units, fluid=True)}. {fluid.source}",
        )
        for fluid in FLUIDS.values()
    ]
