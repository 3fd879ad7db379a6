"""From the book's entries to the figures a plan needs, with the arithmetic in between.

What nobody measured is taken as :mod:`book.estimates` has it, with its band for a tolerance. Each
function either returns the figure whole or raises :class:`IncompleteError` naming everything
that is wanting at once and cannot be estimated.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Any, Final

from book import estimates
from book.errors import IncompleteError
from book.estimates import Figure
from book.models import Bulk, Configuration, Hitch, Known, Machine, MachinePart, Trailer, Truck
from book.tolerances import Tolerances
from measures import Quantity
from mechanics.attitude import rates_from_arches
from mechanics.body import Body, Piece, build_up, from_two_axles
from mechanics.errors import InputError
from mechanics.fluids import FLUIDS, fluid_mass_kg
from mechanics.heap import MATERIALS, HeapShape, bulk_by_count, bulk_by_volume
from mechanics.item import Contact
from mechanics.kerb import EmptyAxles, axles_from_kerb_mass, axles_from_ticket
from mechanics.typical import curb_kg

SUSPENDED: Final = Trailer.Suspension.INDEPENDENT


def si(quantity: Quantity) -> float:
    """A quantity in SI, as a float."""
    return float(quantity.si)


def _lacking(thing: Any, names: Iterable[tuple[str, str]]) -> list[str]:
    return [words for field, words in names if getattr(thing, field) is None]


# trucks -------------------------------------------------------------------------------


def truck_lacks(truck: Truck) -> list[str]:
    """What no plan can be made without, and nothing stands in for: with its GVWR all else of a
    truck can be estimated."""
    lacks = []
    if not estimates.truck_source(truck) and truck.gvwr is None:
        metric = truck.plate == Truck.Plate.METRIC
        lacks.append("MAM" if metric else "GVWR")
    if estimates.wheelbase(truck) is None and not lacks:
        lacks.append("wheelbase")
    return lacks


def empty_axles(truck: Truck, tolerances: Tolerances) -> EmptyAxles:
    """The empty truck on its axles.

    Raises:
        IncompleteError: a figure is wanting, or what was entered leaves nothing on an axle.
    """
    lacks = truck_lacks(truck)
    if lacks:
        raise IncompleteError(truck.name, lacks)
    source = estimates.truck_source(truck)
    try:
        if source == Truck.EmptyFrom.AXLES:
            aboard = truck.aboard_mass
            wheelbase = truck_wheelbase(truck).si
            return axles_from_ticket(
                front_kg=si(truck.front_axle_mass),
                rear_kg=si(truck.rear_axle_mass),
                wheelbase_m=wheelbase,
                aboard_kg=0.0 if aboard is None else si(aboard),
                aboard_ahead_of_rear_axle_m=(
                    wheelbase / 2 if truck.aboard_ahead is None else si(truck.aboard_ahead)
                ),
                reading_tolerance_kg=tolerances.mass_kg(0.0, Known.WEIGHED, None),
            )
        share = None if truck.front_share is None else float(truck.front_share) / 100
        part, with_driver = tolerances.plate_percent / 100, False
        if source == Truck.EmptyFrom.KERB:
            kerb, with_driver = si(truck.kerb_mass), truck.kerb_with_driver
        elif source == Truck.EmptyFrom.STICKER:
            kerb = si(truck.gvwr) - si(truck.payload)
            if kerb <= 0:
                raise IncompleteError(truck.name, ["a payload below its GVWR"])
        else:
            usual = curb_kg(si(truck.gvwr), None)
            kerb, part = usual.value, usual.tolerance / usual.value
        return axles_from_kerb_mass(
            kerb_kg=kerb,
            kerb_part=part,
            front_share=share,
            with_driver=with_driver,
        )
    except InputError as error:
        raise IncompleteError(truck.name, [f"an empty weight that works out: {error}"]) from None


def truck_wheelbase(truck: Truck) -> Figure:
    """Its wheelbase, entered or as usual.

    Raises:
        IncompleteError: neither can be told.
    """
    found = estimates.wheelbase(truck)
    if found is None:
        raise IncompleteError(truck.name, ["wheelbase"])
    return found


def tow_limit_kg(truck: Truck) -> float | None:
    """The tow rating; on a metric plate without one, gross train mass less MAM."""
    if truck.max_trailer_mass is not None:
        return si(truck.max_trailer_mass)
    if (
        truck.plate == Truck.Plate.METRIC
        and truck.gcwr is not None
        and truck.gvwr is not None
        and truck.gcwr.si > truck.gvwr.si
    ):
        return si(truck.gcwr) - si(truck.gvwr)
    return None


# trailers -----------------------------------------------------------------------------


@dataclass(frozen=True, kw_only=True, slots=True)
class Added:
    """What one addition does to the empty trailer."""

    name: str
    mass_kg: float
    tongue_kg: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Empties:
    """The empty trailer as it is hauled today: mass, tongue, tolerances, additions."""

    mass_kg: float
    mass_tolerance_kg: float
    tongue_kg: float
    tongue_tolerance_kg: float
    weighed_tongue_kg: float
    added: tuple[Added, ...]
    entered: bool = True
    """Whether both figures, before what was added, are somebody's and not estimates."""

    @property
    def as_entered(self) -> bool:
        """Whether both figures are the ones that were entered."""
        return self.entered and not self.added and self.weighed_tongue_kg == self.tongue_kg


def trailer_lacks(trailer: Trailer) -> list[str]:
    """What no plan can be made without, and nothing stands in for: with rating, deck length and
    the number of axles all else of a trailer can be estimated."""
    if trailer.deckless:
        return ["a deck to put a load on"]
    lacks = _lacking(trailer, (("deck_length", "deck length"),))
    if trailer.empty_mass is None and trailer.gvwr is None:
        lacks.append("GVWR, or what it weighs empty")
    return lacks if trailer.axles.all() else [*lacks, "axles"]


def lever_m(trailer: Trailer) -> float | None:
    """Lever with which a load reaches the axles; ``None`` without axles.

    The middle of the group for equalized springs, the sum of squared places over their
    sum for independent ones (see :class:`mechanics.trailer.Trailer`).
    """
    found = estimates.axle_places(trailer)
    return lever_of(found.places, trailer.suspension) if found is not None else None


def lever_of(places: Sequence[float], suspension: str) -> float:
    """The same of axles at these places behind the ball, in m; there is at least one."""
    if suspension == SUSPENDED:
        return sum(x * x for x in places) / sum(places)
    return sum(places) / len(places)


def axle_rate_kg_per_m(trailer: Trailer) -> float | None:
    """Spring rate of one independent axle, from a known load and how far it sank under it.

    ``None`` where that is not known, and for leaf springs with an equalizer.
    """
    if trailer.suspension != SUSPENDED or trailer.sink_mass is None or trailer.sink_drop is None:
        return None
    return si(trailer.sink_mass) / si(trailer.sink_drop)


def empty_trailer(trailer: Trailer, tolerances: Tolerances) -> Empties:
    """Empty mass and tongue: a reading at the jack brought to the ball, additions on top.

    Raises:
        IncompleteError: a figure is wanting, or they do not fit together.
    """
    lacks = trailer_lacks(trailer)
    if lacks:
        raise IncompleteError(trailer.name, lacks)
    lever = lever_m(trailer) or 1.0
    mass, tongue = estimates.empty_mass(trailer), estimates.empty_tongue(trailer)
    if mass is None or tongue is None:
        raise IncompleteError(trailer.name, ["axles behind the coupler"])
    reading, at_ball, taken_at = tongue.si, tongue.si, 0.0
    if tongue.guessed is None and trailer.tongue_taken_at is not None:
        taken_at = si(trailer.tongue_taken_at)
    if taken_at >= lever:
        raise IncompleteError(trailer.name, ["a tongue reading taken ahead of its axles"])
    at_ball = reading * (lever - taken_at) / lever
    mass_kg, mass_tolerance, tongue_tolerance = mass.si, mass.tolerance, tongue.tolerance
    if mass.guessed is None:
        mass_tolerance = tolerances.mass_kg(
            mass_kg, trailer.empty_known, trailer.empty_mass_tolerance
        )
    if tongue.guessed is None:
        tongue_tolerance = tolerances.mass_kg(
            at_ball, trailer.tongue_known, trailer.empty_tongue_mass_tolerance
        )
    added = []
    for addition in trailer.additions.all():
        if addition.weighed_in:
            continue
        m, x = si(addition.mass), si(addition.behind_coupler)
        doubt = tolerances.mass_kg(m, addition.known, addition.mass_tolerance)
        added.append(Added(name=addition.name, mass_kg=m, tongue_kg=m * (1 - x / lever)))
        mass_tolerance += doubt
        tongue_tolerance += doubt * abs(1 - x / lever)
    empties = Empties(
        mass_kg=mass_kg + sum(a.mass_kg for a in added),
        mass_tolerance_kg=mass_tolerance,
        tongue_kg=at_ball + sum(a.tongue_kg for a in added),
        tongue_tolerance_kg=tongue_tolerance,
        weighed_tongue_kg=reading,
        added=tuple(added),
        entered=mass.guessed is None and tongue.guessed is None,
    )
    if not 0 < empties.tongue_kg < empties.mass_kg:
        raise IncompleteError(
            trailer.name, ["an empty tongue weight between nothing and the whole trailer"]
        )
    return empties


def truck_ride(truck: Truck, hitch: Hitch) -> dict[str, float] | None:
    """Spring rates of the truck in kg/m, where the ball's height and the rear arch give them."""
    readings = (truck.arch_rear, truck.arch_rear_loaded, truck.arch_load_mass)
    base = estimates.wheelbase(truck)
    if hitch.ball_height is None or base is None or None in readings:
        return None
    fronts = (truck.arch_front, truck.arch_front_loaded)
    front_drop = 0.0 if None in fronts else si(fronts[0]) - si(fronts[1])
    front, rear = rates_from_arches(
        mass_kg=si(truck.arch_load_mass),
        ahead_of_rear_axle_m=0.0 if truck.arch_load_ahead is None else si(truck.arch_load_ahead),
        wheelbase_m=base.si,
        front_drop_m=front_drop,
        rear_drop_m=si(truck.arch_rear) - si(truck.arch_rear_loaded),
    )
    if rear is None:
        return None
    return {"rear_rate": rear} | ({} if front is None else {"front_rate": front})


# machines -----------------------------------------------------------------------------


@dataclass(frozen=True, kw_only=True, slots=True)
class Outline:
    """How far the machine reaches, from its mark."""

    front_m: float
    rear_m: float
    height_m: float | None


@dataclass(frozen=True, kw_only=True, slots=True)
class Built:
    """A machine as configured: its body, the pieces that make it up, its outline."""

    body: Body
    pieces: tuple[Piece, ...]
    outline: Outline
    entered: bool
    """Whether mass and balance point are the entered ones, with nothing summed or estimated."""
    estimated: tuple[str, ...] = ()
    """What of it nobody measured, as a plan calls that."""
    height_tolerance_m: float = 0.0
    """How far the height of its balance point may be off."""


def parts_on(machine: Machine, configuration: Configuration | None) -> list[MachinePart]:
    """The parts that are on: fixed ones, and the chosen removable ones.

    Without a configuration, a machine that was weighed has on what was on then; one that
    is built up has everything on.
    """
    parts = list(machine.parts.all())
    if configuration is not None:
        chosen = {part.pk for part in configuration.parts.all()}
        return [p for p in parts if not p.removable or p.pk in chosen]
    if machine.built == Machine.Built.PARTS:
        return parts
    return [p for p in parts if not p.removable or p.weighed_in]


def machine_contacts(machine: Machine) -> tuple[Contact, ...]:
    """Where it stands on the floor, from its mark: two axles, or tracks of a length.

    A track's middle is at the mark unless the mark is said to be ahead of its rear end.
    Empty where the wheelbase is not known, or it stands on skids.
    """
    if machine.wheelbase is None or machine.running == Machine.Running.SKIDS:
        return ()
    length = si(machine.wheelbase)
    if machine.running == Machine.Running.TRACKS:
        middle = 0.0 if machine.mark_ahead is None else length / 2 - si(machine.mark_ahead)
        return (Contact(ahead_m=middle, length_m=length),)
    rear = 0.0 if machine.mark_ahead is None else -si(machine.mark_ahead)
    return (Contact(ahead_m=rear), Contact(ahead_m=rear + length))


def part_mass_kg(part: MachinePart) -> float | None:
    """Its mass, else what its contents come to; ``None`` where neither is known."""
    if part.mass is not None:
        return si(part.mass)
    if part.volume is not None and part.fluid and part.fill is not None:
        return fluid_mass_kg(
            volume_m3=si(part.volume), fill=float(part.fill) / 100, fluid=FLUIDS[part.fluid]
        )
    return None


def _piece(part: MachinePart, tolerances: Tolerances, *, removed: bool = False) -> Piece:
    mass = part_mass_kg(part) or 0.0
    doubt = tolerances.mass_kg(mass, part.known, part.mass_tolerance)
    if part.mass is None and part.mass_tolerance is None:
        doubt = max(doubt, mass * FLUIDS[part.fluid].part)
    return Piece(
        name=part.name,
        mass_kg=mass,
        # a part known to a scale's step may weigh less than the step itself
        mass_tolerance_kg=doubt if part.mass_tolerance is not None else min(doubt, mass),
        ahead_m=si(part.ahead),
        ahead_tolerance_m=tolerances.balance_m(Machine.BalanceKnown.BUILT_UP, part.ahead_tolerance),
        height_m=None if part.height is None else si(part.height),
        removed=removed,
    )


def machine_lacks(machine: Machine, configuration: Configuration | None = None) -> list[str]:
    """What no plan can be made without."""
    lacks = []
    weighed_so = _weighed_so(configuration)
    parts = parts_on(machine, configuration)
    if not weighed_so:
        if machine.built == Machine.Built.WHOLE:
            lacks += _lacking(machine, (("mass", "mass"),))
            lacks += ["where it balances"] * (estimates.balance(machine) is None)
        elif machine.built == Machine.Built.AXLES:
            lacks += _lacking(
                machine,
                (
                    ("front_axle_mass", "front axle mass"),
                    ("rear_axle_mass", "rear axle mass"),
                    ("wheelbase", "wheelbase"),
                ),
            )
        elif not parts:
            lacks.append("parts")
        for part in machine.parts.all():
            if machine.built == Machine.Built.PARTS or (part in parts) != part.weighed_in:
                lacks += [f"mass of {part.name}"] * (part_mass_kg(part) is None)
                lacks += [f"place of {part.name}"] * (part.ahead is None)
    elif machine.wheelbase is None:
        lacks.append("wheelbase")
    front, rear = _reach(machine, configuration, parts)
    return lacks + ["reach ahead"] * (front is None) + ["reach behind"] * (rear is None)


def _weighed_so(configuration: Configuration | None) -> bool:
    return (
        configuration is not None
        and configuration.front_axle_mass is not None
        and configuration.rear_axle_mass is not None
    )


def _reach(
    machine: Machine, configuration: Configuration | None, parts: list[MachinePart]
) -> tuple[float | None, float | None]:
    found: list[float | None] = []
    for name in ("reach_front", "reach_rear"):
        own = None if configuration is None else getattr(configuration, name)
        if own is not None:
            found.append(si(own))
            continue
        reaches = [getattr(p, name) for p in parts] + [getattr(machine, name)]
        known = [si(r) for r in reaches if r is not None]
        found.append(max(known) if known else None)
    return found[0], found[1]


def drawn_as(machine: Machine) -> Configuration | None:
    """The configuration a built-up machine is drawn and listed in: its first."""
    if machine.built == Machine.Built.PARTS:
        return next(iter(machine.configurations.all()), None)
    return None


def built_machine(
    machine: Machine, configuration: Configuration | None, tolerances: Tolerances
) -> Built:
    """Mass, balance point and outline of a machine as configured.

    Raises:
        IncompleteError: a figure is wanting, or they do not fit together.
    """
    name = machine.name if configuration is None else str(configuration)
    lacks = machine_lacks(machine, configuration)
    if lacks:
        raise IncompleteError(name, lacks)
    parts = parts_on(machine, configuration)
    try:
        pieces = _pieces(machine, configuration, parts, tolerances)
        body = build_up(pieces)
    except InputError as error:
        raise IncompleteError(name, [f"parts that add up: {error}"]) from None
    if _weighed_so(configuration) or (len(pieces) == 1 and machine.built != Machine.Built.PARTS):
        # a single whole keeps its own doubt of the balance point
        body = Body(
            mass_kg=pieces[0].mass_kg,
            mass_tolerance_kg=pieces[0].mass_tolerance_kg,
            ahead_m=pieces[0].ahead_m,
            ahead_tolerance_m=pieces[0].ahead_tolerance_m,
            left_m=pieces[0].left_m,
            height_m=pieces[0].height_m,
        )
    front, rear = _reach(machine, configuration, parts)
    estimated: tuple[str, ...] = ()
    height_off = 0.0
    if not _weighed_so(configuration):
        estimated = tuple(guess.name for guess in estimates.guesses(machine))
        high = estimates.balance_height(machine)
        if "cg.height" in estimated and body.height_m is None and high is not None:
            body, height_off = replace(body, height_m=high.si), high.tolerance
    height = (
        (configuration.height if configuration is not None else None)
        or machine.folded_height
        or machine.height
    )
    return Built(
        body=body,
        pieces=pieces,
        outline=Outline(
            front_m=front or 0.0,
            rear_m=rear or 0.0,
            height_m=None if height is None else si(height),
        ),
        entered=len(pieces) == 1
        and machine.built == Machine.Built.WHOLE
        and not _weighed_so(configuration)
        and not estimated,
        estimated=estimated,
        height_tolerance_m=height_off,
    )


def _pieces(
    machine: Machine,
    configuration: Configuration | None,
    parts: list[MachinePart],
    tolerances: Tolerances,
) -> tuple[Piece, ...]:
    mark = 0.0 if machine.mark_ahead is None else si(machine.mark_ahead)
    height = None if machine.balance_height is None else si(machine.balance_height)
    left = 0.0 if machine.balance_left is None else si(machine.balance_left)

    def from_axles(front: Quantity, rear: Quantity) -> Piece:
        body = from_two_axles(
            front_kg=si(front),
            rear_kg=si(rear),
            wheelbase_m=si(machine.wheelbase),
            mark_ahead_of_rear_axle_m=mark,
            reading_tolerance_kg=tolerances.mass_kg(0.0, Known.WEIGHED, None),
        )
        return Piece(
            name="both axles weighed",
            mass_kg=body.mass_kg,
            mass_tolerance_kg=body.mass_tolerance_kg,
            ahead_m=body.ahead_m,
            ahead_tolerance_m=max(
                body.ahead_tolerance_m,
                tolerances.balance_m(Machine.BalanceKnown.AXLES, machine.balance_tolerance),
            ),
            left_m=left,
            height_m=height,
        )

    if configuration is not None and _weighed_so(configuration):
        return (from_axles(configuration.front_axle_mass, configuration.rear_axle_mass),)
    if machine.built == Machine.Built.PARTS:
        return tuple(_piece(part, tolerances) for part in parts)
    if machine.built == Machine.Built.AXLES:
        whole = from_axles(machine.front_axle_mass, machine.rear_axle_mass)
    else:
        mass, ahead = estimates.whole_mass(machine), estimates.balance(machine)
        if mass is None or ahead is None:
            raise IncompleteError(machine.name, machine_lacks(machine, configuration))
        whole = Piece(
            name="whole machine",
            mass_kg=mass.si,
            mass_tolerance_kg=mass.tolerance
            if mass.guessed is not None
            else tolerances.mass_kg(mass.si, machine.mass_known, machine.mass_tolerance),
            ahead_m=ahead.si,
            ahead_tolerance_m=ahead.tolerance
            if ahead.guessed is not None
            else tolerances.balance_m(machine.balance_known, machine.balance_tolerance),
            left_m=left,
            height_m=height,
        )
    on = {part.pk for part in parts}
    changes = [
        _piece(part, tolerances, removed=part.pk not in on)
        for part in machine.parts.all()
        if (part.pk in on) != part.weighed_in
    ]
    return (whole, *changes)


# bulk ---------------------------------------------------------------------------------


def bulk_lacks(bulk: Bulk) -> list[str]:
    """What no plan can be made without."""
    if bulk.measured == Bulk.Measured.COUNT:
        lacks = _lacking(bulk, (("count", "how many"), ("piece_mass", "mass of each")))
    else:
        lacks = _lacking(bulk, (("volume", "volume"),))
        if bulk.density is None and not bulk.material:
            lacks.append("material or density")
    return lacks + _lacking(bulk, (("length", "length on the deck"),))


def bulk_drawn(bulk: Bulk, body: Body) -> tuple[str, float | None]:
    """The word for how a load is drawn, and how high it is in m: as entered, else by its balance
    point; ``None`` where neither is known."""
    stacked = bulk.measured == Bulk.Measured.COUNT and bulk.heap == Bulk.Heap.LEVEL
    shape = "pallet" if stacked else f"heap_{bulk.heap}"
    if bulk.height is not None:
        return shape, si(bulk.height)
    if body.height_m is None:
        return shape, None
    # of a level load the top is twice as high as its balance point, of a heap three times
    return shape, body.height_m * (2 if bulk.heap == Bulk.Heap.LEVEL else 3)


def bulk_body(bulk: Bulk, tolerances: Tolerances) -> Body:
    """Mass and balance point of a bulk load; its mark is the middle of its length.

    Raises:
        IncompleteError: a figure is wanting.
    """
    lacks = bulk_lacks(bulk)
    if lacks:
        raise IncompleteError(bulk.name, lacks)
    usual = tolerances.bulk_percent / 100
    shape, length = HeapShape(bulk.heap), si(bulk.length)
    if bulk.measured == Bulk.Measured.COUNT:
        body = bulk_by_count(
            count=bulk.count or 1,
            each_kg=si(bulk.piece_mass),
            part=usual,
            length_m=length,
            height_m=None if bulk.height is None else si(bulk.height),
            shape=shape,
        )
    else:
        material = MATERIALS.get(bulk.material)
        if bulk.density is not None:
            density, part = si(bulk.density), usual
        else:
            density, part = material.density_kg_m3, max(usual, material.part)  # type: ignore[union-attr]
        body = bulk_by_volume(
            volume_m3=si(bulk.volume),
            density_kg_m3=density,
            density_part=part,
            length_m=length,
            width_m=None if bulk.width is None else si(bulk.width),
            shape=shape,
        )
    if bulk.mass_tolerance is None:
        return body
    return Body(
        mass_kg=body.mass_kg,
        mass_tolerance_kg=si(bulk.mass_tolerance),
        ahead_m=body.ahead_m,
        ahead_tolerance_m=body.ahead_tolerance_m,
        height_m=body.height_m,
    )
