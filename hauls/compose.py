"""From the book's entries to the sections of a plan file.

A figure that was entered goes into the document exactly as entered, converted once; one
that the book works out is rounded far below what any scale or tape can show.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

from book.chain import assemble, coupler_size
from book.errors import IncompleteError
from book.figures import (
    Built,
    axle_rate_kg_per_m,
    built_machine,
    bulk_body,
    empty_axles,
    empty_trailer,
    machine_contacts,
    si,
    tow_limit_kg,
    truck_ride,
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
)
from book.schools import rules_for
from book.tolerances import Tolerances
from measures import Quantity, UnitSystem
from mechanics.units import LengthUnit, MassUnit
from yards.models import Yard

NEW_PLACE_MIDDLE: Final = 0.5
"""A machine is first put with its middle at this part of the deck's length."""

DIGITS: Final = 6
"""Decimals of a figure that the book works out."""

PLAN_KINDS: Final = {"utility", "dump", "gooseneck", "flatbed", "tilt"}
"""Trailer kinds that the plan format names; any other is ``other`` there."""


class FileUnits:
    """The units one document is written in."""

    def __init__(self, mass: str, length: str) -> None:
        self.mass = mass
        self.length = length
        self._kg = MassUnit(mass).kg
        self._m = LengthUnit(length).m

    @classmethod
    def of(cls, system: UnitSystem) -> FileUnits:
        """The units a person's new hauls are written in."""
        return cls(system.mass_unit, system.length_unit)

    @classmethod
    def of_document(cls, document: dict[str, Any]) -> FileUnits:
        """The units a document is written in already."""
        return cls(document["units"]["mass"], document["units"]["length"])

    def m(self, quantity: Quantity) -> float | int:
        """A mass in the document's unit."""
        return quantity.in_unit(self.mass)

    def x(self, quantity: Quantity) -> float | int:
        """A length in the document's unit."""
        return quantity.in_unit(self.length)

    def kg(self, kilograms: float) -> float | int:
        """A worked-out mass in the document's unit."""
        return _tidy(kilograms / self._kg)

    def rate(self, kg_per_m: float) -> float | int:
        """A worked-out mass per length in the document's units."""
        return _tidy(kg_per_m / self._kg * self._m)

    def metres(self, metres: float) -> float | int:
        """A worked-out length in the document's unit."""
        return _tidy(metres / self._m)


def _tidy(number: float) -> float | int:
    rounded = round(number, DIGITS)
    return int(rounded) if rounded == int(rounded) else rounded


@dataclass(frozen=True, kw_only=True)
class Load:
    """Something of the book that goes on a deck: a machine as configured, or bulk."""

    machine: Machine | None = None
    configuration: Configuration | None = None
    bulk: Bulk | None = None

    @property
    def name(self) -> str:
        """What the plan calls it."""
        if self.bulk is not None:
            return self.bulk.name
        return str(self.configuration or self.machine)

    @property
    def yard(self) -> Yard:
        """Whose it is."""
        thing = self.bulk or self.machine
        if thing is None:
            raise IncompleteError("the load", ["a machine or a bulk load"])
        return thing.yard

    @property
    def key(self) -> tuple[int | None, int | None, int | None]:
        """Primary keys of machine, configuration, bulk."""
        return (
            self.machine and self.machine.pk,
            self.configuration and self.configuration.pk,
            self.bulk and self.bulk.pk,
        )


def truck_section(truck: Truck, hitch: Hitch, units: FileUnits) -> dict[str, Any]:
    """The ``truck`` object: hitched at one of the truck's hitches, usual load aboard.

    Raises:
        IncompleteError: the truck lacks figures.
    """
    tolerances = Tolerances.of(truck.yard)
    axles = empty_axles(truck, tolerances)
    exact = truck.empty_from == Truck.EmptyFrom.AXLES and truck.aboard_mass is None
    section: dict[str, Any] = {
        "name": truck.name,
        "front_axle_mass": units.m(truck.front_axle_mass) if exact else units.kg(axles.front_kg),
        "rear_axle_mass": units.m(truck.rear_axle_mass) if exact else units.kg(axles.rear_kg),
        "front_axle_mass_tolerance": units.kg(axles.front_tolerance_kg),
        "rear_axle_mass_tolerance": units.kg(axles.rear_tolerance_kg),
        "wheelbase": units.x(truck.wheelbase),
        "hitch_offset": units.x(hitch.offset),
    }
    for field in (
        "front_gawr",
        "rear_gawr",
        "gvwr",
        "gcwr",
        "max_trailer_mass",
        "payload",
        "max_tongue_mass",
        "front_tire_capacity",
        "rear_tire_capacity",
    ):
        rating = getattr(truck, field)
        if rating is not None:
            section[field] = units.m(rating)
    tow = tow_limit_kg(truck)
    if truck.max_trailer_mass is None and tow is not None:
        section["max_trailer_mass"] = units.kg(tow)
    ride = truck_ride(truck, hitch)
    if ride is not None:
        section["ride"] = {"ball_height": units.x(hitch.ball_height)} | {
            name: units.rate(rate) for name, rate in ride.items()
        }
    section["cargo"] = [
        {
            "name": load.name,
            "mass": units.m(load.mass),
            **_tolerance(
                "mass_tolerance",
                0.0
                if not load.known and load.mass_tolerance is None
                else tolerances.mass_kg(si(load.mass), load.known, load.mass_tolerance),
                load.mass_tolerance,
                units,
            ),
            "ahead_of_rear_axle": units.x(load.ahead_of_rear_axle),
        }
        for load in truck.loads.all()
    ]
    return section


def _tolerance(
    name: str, kilograms: float, entered: Quantity | None, units: FileUnits
) -> dict[str, Any]:
    if entered is not None:
        return {name: units.m(entered)}
    return {name: units.kg(kilograms)} if kilograms else {}


def hitch_section(hitch: Hitch, trailer: Trailer, units: FileUnits) -> dict[str, Any]:
    """The ``hitch`` object: the chain of the truck's parts and those on the trailer."""
    chain = assemble(hitch, trailer)
    section: dict[str, Any] = {"type": hitch.type}
    if hitch.mass is not None:
        section["mass"] = units.m(hitch.mass)
    else:
        # a receiver is bolted to the frame and weighed with the truck
        hung = [
            si(link.part.mass)
            for link in hitch.links.all()
            if link.part.mass is not None
            and link.part.kind != HitchPart.Kind.RECEIVER
            and link.part in chain.parts
        ]
        if hung:
            section["mass"] = units.kg(sum(hung))
    names = chain.names()
    section["components"] = [_part(part, names[part.pk], units) for part in chain.parts]
    if chain.ball_size is not None:
        section["ball_diameter"] = units.x(chain.ball_size)
    if hitch.front_axle_restoration is not None:
        section["weight_distribution"] = {
            "front_axle_restoration": float(hitch.front_axle_restoration) / 100
        }
    if hitch.bar_length is not None:
        # with no give-back chosen yet the bars are known all the same
        kept = section.get("weight_distribution") or section.setdefault("extra", {})
        kept["bar_length"] = units.x(hitch.bar_length)
    return section


def _part(part: HitchPart, name: str, units: FileUnits) -> dict[str, Any]:
    section: dict[str, Any] = {"name": name}
    for field in (
        "max_trailer_mass",
        "max_tongue_mass",
        "max_trailer_mass_wd",
        "max_tongue_mass_wd",
    ):
        rating = getattr(part, field)
        if rating is not None:
            section[field] = units.m(rating)
    if name != part.name:
        section["extra"] = {"part": part.name}
    return section


def trailer_section(trailer: Trailer, units: FileUnits) -> dict[str, Any]:
    """The ``trailer`` object, additions counted in.

    Raises:
        IncompleteError: the trailer lacks figures.
    """
    tolerances = Tolerances.of(trailer.yard)
    empties = empty_trailer(trailer, tolerances)
    deck: dict[str, Any] = {
        "start": units.x(trailer.deck_start),
        "length": units.x(trailer.deck_length),
    }
    if tolerances.tape_m:
        deck["start_tolerance"] = units.x(tolerances.tape)
    for name, quantity in (
        ("width", trailer.deck_width),
        ("height", trailer.deck_height),
        ("front_overhang", trailer.front_overhang),
        ("rear_overhang", trailer.rear_overhang),
    ):
        if quantity is not None:
            deck[name] = units.x(quantity)
    if trailer.concentration_mass is not None and trailer.concentration_length is not None:
        deck["concentration"] = {
            "mass": units.m(trailer.concentration_mass),
            "length": units.x(trailer.concentration_length),
        }
    drawn = {
        name: value for name in ("tail", "sides", "fenders") if (value := getattr(trailer, name))
    }
    if trailer.ramp_length is not None and drawn.get("tail") in ("gate", "ramps"):
        drawn["ramp_length"] = units.x(trailer.ramp_length)
    exact = empties.as_entered
    section: dict[str, Any] = {
        "name": trailer.name,
        "kind": trailer.kind if trailer.kind in PLAN_KINDS else "other",
        "empty_mass": units.m(trailer.empty_mass) if exact else units.kg(empties.mass_kg),
        "empty_mass_tolerance": units.kg(empties.mass_tolerance_kg),
        "empty_tongue_mass": units.m(trailer.empty_tongue_mass)
        if exact
        else units.kg(empties.tongue_kg),
        "empty_tongue_mass_tolerance": units.kg(empties.tongue_tolerance_kg),
        "axles": [],
        "suspension": trailer.suspension,
        "track_width": units.x(trailer.track_width),
        "deck": deck,
    }
    if tolerances.tape_m:
        section["axles_tolerance"] = units.x(tolerances.tape)
    rate = axle_rate_kg_per_m(trailer)
    if rate is not None:
        section["axle_rate"] = units.rate(rate)
    if trailer.gvwr is not None:
        section["gvwr"] = units.m(trailer.gvwr)
    coupler = coupler_size(trailer)
    if coupler is not None:
        section["coupler_size"] = units.x(coupler)
    for field in ("coupler_height", "axle_height"):
        height = getattr(trailer, field)
        if height is not None:
            section[field] = units.x(height)
    extra: dict[str, Any] = {"drawn": drawn} if drawn else {}
    brakes = {axle.brake for axle in trailer.axles.all()}
    if brakes == {TrailerAxle.Brake.NONE}:
        extra["brakes"] = "none"
    if extra:
        section["extra"] = extra
    for axle in trailer.axles.all():
        entry: dict[str, Any] = {"position": units.x(axle.position)}
        if axle.gawr is not None:
            entry["gawr"] = units.m(axle.gawr)
        if axle.tire_capacity is not None:
            entry["tire_capacity"] = units.m(axle.tire_capacity)
        section["axles"].append(entry)
    return section


def load_section(load: Load, item_id: str, units: FileUnits) -> dict[str, Any]:
    """An entry of ``items`` without its ``placement``.

    Raises:
        IncompleteError: the machine or bulk load lacks figures.
    """
    if load.bulk is not None:
        return _bulk_section(load.bulk, item_id, units)
    if load.machine is None:
        raise IncompleteError("the load", ["a machine or a bulk load"])
    return item_section(load.machine, item_id, units, load.configuration)


def item_section(
    machine: Machine,
    item_id: str,
    units: FileUnits,
    configuration: Configuration | None = None,
) -> dict[str, Any]:
    """A machine as configured, as an entry of ``items`` without its ``placement``.

    Raises:
        IncompleteError: the machine lacks figures.
    """
    built = built_machine(machine, configuration, Tolerances.of(machine.yard))
    body, outline = built.body, built.outline
    cg: dict[str, Any] = {
        "ahead": units.x(machine.balance_ahead) if built.entered else units.metres(body.ahead_m),
        "ahead_tolerance": units.metres(body.ahead_tolerance_m),
    }
    if body.left_m:
        cg["left"] = (
            units.x(machine.balance_left)
            if machine.balance_left is not None
            else units.metres(body.left_m)
        )
    if body.height_m is not None and body.height_m > 0:
        cg["height"] = units.metres(body.height_m)
    section: dict[str, Any] = {
        "id": item_id,
        "name": machine.name if configuration is None else str(configuration),
        "mass": units.m(machine.mass) if built.entered else units.kg(body.mass_kg),
        "mass_tolerance": units.kg(body.mass_tolerance_kg),
        "cg": cg,
        "front": units.metres(outline.front_m),
        "rear": units.metres(outline.rear_m),
    }
    if machine.width is not None:
        section["width"] = units.x(machine.width)
    if outline.height_m is not None:
        section["height"] = units.metres(outline.height_m)
    contacts = machine_contacts(machine)
    if contacts:
        section["contacts"] = [
            {"ahead": units.metres(c.ahead_m)}
            | ({"length": units.metres(c.length_m)} if c.length_m else {})
            for c in contacts
        ]
    drawn: dict[str, Any] = {"shape": machine.shape, "mark": machine.mark_name}
    if machine.wheelbase is not None:
        drawn["wheelbase"] = units.x(machine.wheelbase)
    section["extra"] = {"drawn": drawn, **_made_of(built, units)}
    return section


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


def _bulk_section(bulk: Bulk, item_id: str, units: FileUnits) -> dict[str, Any]:
    body = bulk_body(bulk, Tolerances.of(bulk.yard))
    half = units.metres(si(bulk.length) / 2)
    cg: dict[str, Any] = {
        "ahead": units.metres(body.ahead_m),
        "ahead_tolerance": units.metres(body.ahead_tolerance_m),
    }
    if body.height_m is not None:
        cg["height"] = units.metres(body.height_m)
    section: dict[str, Any] = {
        "id": item_id,
        "name": bulk.name,
        "mass": units.kg(body.mass_kg),
        "mass_tolerance": units.kg(body.mass_tolerance_kg),
        "cg": cg,
        "front": half,
        "rear": half,
    }
    if bulk.width is not None:
        section["width"] = units.x(bulk.width)
    if bulk.height is not None:
        section["height"] = units.x(bulk.height)
    elif body.height_m is not None:
        # of a level load the top is twice as high as its balance point, of a heap three times
        times = 2 if bulk.heap == Bulk.Heap.LEVEL else 3
        section["height"] = units.metres(body.height_m * times)
    section["contacts"] = [{"ahead": 0, "length": units.metres(si(bulk.length))}]
    stacked = bulk.measured == Bulk.Measured.COUNT and bulk.heap == Bulk.Heap.LEVEL
    shape = "pallet" if stacked else f"heap_{bulk.heap}"
    section["extra"] = {"drawn": {"shape": shape, "mark": "middle of the load"}}
    return section


def rules_section(hitch: Hitch) -> dict[str, Any]:
    """The ``rules`` object of a new haul: the yard's own schools, where they fit this truck."""
    return rules_for(
        hitch.truck.yard.rules,
        hitch_type=hitch.type,
        nose_plate=hitch.truck.max_tongue_mass is not None,
    )


def new_placement(
    section: dict[str, Any], deck_length: float, tolerances: Tolerances, units: FileUnits
) -> dict[str, Any]:
    """Facing forward, the machine's middle on the deck's middle."""
    middle = deck_length * NEW_PLACE_MIDDLE
    placement = {
        "reference": round(middle + (section["front"] - section["rear"]) / 2, 3),
        "facing": "forward",
    }
    return stopping(placement, tolerances, units)


def stopping(placement: dict[str, Any], tolerances: Tolerances, units: FileUnits) -> dict[str, Any]:
    """A placement with how near its mark the yard's machines come to stop."""
    found = {k: v for k, v in placement.items() if k != "reference_tolerance"}
    if tolerances.stop_m:
        found["reference_tolerance"] = units.x(tolerances.stop)
    return found
