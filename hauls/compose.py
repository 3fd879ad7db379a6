"""From the book's entries to the sections of a plan file."""

from __future__ import annotations

from typing import Any, Final

from book.models import Hitch, Machine, Rating, Trailer, Truck
from measures import Quantity, UnitSystem
from mechanics.units import M_PER_IN

MASS_TOLERANCE: Final = {
    Machine.Known.PLATE: 0.02,
    Machine.Known.BUILT_UP: 0.05,
    Machine.Known.BROCHURE: 0.10,
    Machine.Known.GUESS: 0.20,
}
"""Part of a mass by which it may be wrong, by how it is known. Common practice, no source."""

SCALE_STEP_LB: Final = 20
"""Step of a vehicle scale, and so the doubt of a weighed mass (NIST Handbook 44, from memory)."""

BALANCE_TOLERANCE_IN: Final = {
    Machine.BalanceKnown.AXLES: 1,
    Machine.BalanceKnown.BUILT_UP: 4,
    Machine.BalanceKnown.GUESS: 10,
}
"""Inches by which a balance point may be wrong. Common practice, no source."""

NEW_PLACE_MIDDLE: Final = 0.5
"""A machine is first put with its middle at this part of the deck's length."""


class FileUnits:
    """The units one document is written in."""

    def __init__(self, mass: str, length: str) -> None:
        self.mass = mass
        self.length = length

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


def truck_section(truck: Truck, hitch: Hitch, units: FileUnits) -> dict[str, Any]:
    """The ``truck`` object: hitched at one of the truck's hitches, usual load aboard."""
    section: dict[str, Any] = {
        "name": truck.name,
        "front_axle_mass": units.m(truck.front_axle_mass),
        "rear_axle_mass": units.m(truck.rear_axle_mass),
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
    ):
        rating = getattr(truck, field)
        if rating is not None:
            section[field] = units.m(rating)
    section["cargo"] = [
        {
            "name": load.name,
            "mass": units.m(load.mass),
            **(
                {"mass_tolerance": units.m(load.mass_tolerance)}
                if load.mass_tolerance is not None
                else {}
            ),
            "ahead_of_rear_axle": units.x(load.ahead_of_rear_axle),
        }
        for load in truck.loads.all()
    ]
    return section


def hitch_section(hitch: Hitch, trailer: Trailer, units: FileUnits) -> dict[str, Any]:
    """The ``hitch`` object: the truck's parts, then those that stay with the trailer."""
    section: dict[str, Any] = {"type": hitch.type}
    if hitch.mass is not None:
        section["mass"] = units.m(hitch.mass)
    parts = [*hitch.parts.all(), *trailer.parts.all()]
    section["components"] = [_part(part, units) for part in parts]
    if hitch.front_axle_restoration is not None:
        section["weight_distribution"] = {
            "front_axle_restoration": float(hitch.front_axle_restoration) / 100
        }
    return section


def _part(part: Rating, units: FileUnits) -> dict[str, Any]:
    section: dict[str, Any] = {"name": part.name}
    for field in (
        "max_trailer_mass",
        "max_tongue_mass",
        "max_trailer_mass_wd",
        "max_tongue_mass_wd",
    ):
        rating = getattr(part, field)
        if rating is not None:
            section[field] = units.m(rating)
    return section


def trailer_section(trailer: Trailer, units: FileUnits) -> dict[str, Any]:
    """The ``trailer`` object."""
    deck: dict[str, Any] = {
        "start": units.x(trailer.deck_start),
        "length": units.x(trailer.deck_length),
    }
    for name, quantity in (
        ("width", trailer.deck_width),
        ("height", trailer.deck_height),
        ("front_overhang", trailer.front_overhang),
        ("rear_overhang", trailer.rear_overhang),
    ):
        if quantity is not None:
            deck[name] = units.x(quantity)
    section: dict[str, Any] = {
        "name": trailer.name,
        "kind": trailer.kind,
        "empty_mass": units.m(trailer.empty_mass),
        "empty_tongue_mass": units.m(trailer.empty_tongue_mass),
        "axles": [],
        "suspension": trailer.suspension,
        "track_width": units.x(trailer.track_width),
        "deck": deck,
    }
    for name in ("empty_mass_tolerance", "empty_tongue_mass_tolerance", "gvwr"):
        if getattr(trailer, name) is not None:
            section[name] = units.m(getattr(trailer, name))
    for axle in trailer.axles.all():
        entry: dict[str, Any] = {"position": units.x(axle.position)}
        if axle.gawr is not None:
            entry["gawr"] = units.m(axle.gawr)
        if axle.tire_capacity is not None:
            entry["tire_capacity"] = units.m(axle.tire_capacity)
        section["axles"].append(entry)
    return section


def item_section(machine: Machine, item_id: str, units: FileUnits) -> dict[str, Any]:
    """An entry of ``items`` without its ``placement``."""
    cg: dict[str, Any] = {
        "ahead": units.x(machine.balance_ahead),
        "ahead_tolerance": _balance_tolerance(machine, units),
    }
    if machine.balance_left is not None:
        cg["left"] = units.x(machine.balance_left)
    if machine.balance_height is not None:
        cg["height"] = units.x(machine.balance_height)
    section: dict[str, Any] = {
        "id": item_id,
        "name": machine.name,
        "mass": units.m(machine.mass),
        "mass_tolerance": _mass_tolerance(machine, units),
        "cg": cg,
        "front": units.x(machine.reach_front),
        "rear": units.x(machine.reach_rear),
    }
    for name in ("width", "height"):
        if getattr(machine, name) is not None:
            section[name] = units.x(getattr(machine, name))
    drawn: dict[str, Any] = {"shape": machine.shape, "mark": machine.mark_name}
    if machine.wheelbase is not None:
        drawn["wheelbase"] = units.x(machine.wheelbase)
    section["extra"] = {"drawn": drawn}
    return section


def new_placement(section: dict[str, Any], deck_length: float) -> dict[str, Any]:
    """Facing forward, the machine's middle on the deck's middle."""
    middle = deck_length * NEW_PLACE_MIDDLE
    return {
        "reference": round(middle + (section["front"] - section["rear"]) / 2, 3),
        "facing": "forward",
    }


def _mass_tolerance(machine: Machine, units: FileUnits) -> float | int:
    if machine.mass_tolerance is not None:
        return units.m(machine.mass_tolerance)
    if machine.mass_known == Machine.Known.WEIGHED:
        return SCALE_STEP_LB if units.mass == "lb" else 10
    return units.m(machine.mass) * MASS_TOLERANCE[Machine.Known(machine.mass_known)]


def _balance_tolerance(machine: Machine, units: FileUnits) -> float | int:
    if machine.balance_tolerance is not None:
        return units.x(machine.balance_tolerance)
    inches = BALANCE_TOLERANCE_IN[Machine.BalanceKnown(machine.balance_known)]
    return inches if units.length == "in" else inches * M_PER_IN * 1000
