"""From the book's entries to what a plan says of getting on and off."""

from __future__ import annotations

from typing import Any, Final

from msgspec import UNSET, UnsetType

from book import estimates
from book.clearances import LowPoints
from book.figures import si
from book.models import Machine, Trailer
from hauls.units import FileUnits
from mechanics.item import Underside
from planfile import document
from planfile.plain import plain

KINDS: Final[dict[str, Any]] = {
    Trailer.Tail.RAMPS: "ramps",
    Trailer.Tail.GATE: "gate",
    Trailer.Tail.TILTS: "tilt",
}
"""The plan format's word for each tail that a machine can be driven on over."""


def ramp_section(trailer: Trailer, units: FileUnits) -> document.Ramp | UnsetType:
    """The ``ramp`` object; of a tilting deck as long as what lies behind its hinge."""
    kind = KINDS.get(trailer.tail)
    if kind is None:
        return UNSET
    if kind == "tilt":
        if trailer.bed_hinge is None or trailer.deck_length is None:
            return UNSET
        start = estimates.deck_start(trailer).si
        length = units.metres(start + si(trailer.deck_length) - si(trailer.bed_hinge))
        return document.Ramp(kind=kind, length=length) if length > 0 else UNSET
    if trailer.ramp_length is None:
        return UNSET
    return document.Ramp(
        kind=kind,
        length=units.x(trailer.ramp_length),
        rating=units.m_if(trailer.ramp_rating),
        feet=trailer.ramp_feet,
    )


def dovetail_section(trailer: Trailer, units: FileUnits) -> document.Dovetail | UnsetType:
    """The ``dovetail`` object, where there is one within the deck."""
    length, drop = trailer.dovetail_length, trailer.dovetail_drop
    if length is None or drop is None or not 0 < si(length) <= si(trailer.deck_length):
        return UNSET
    return document.Dovetail(length=units.x(length), drop=units.x(drop))


def stands_section(trailer: Trailer, units: FileUnits) -> document.Stands | UnsetType:
    """The ``stands`` object; without the gap under them nobody can say when they bear."""
    if not trailer.stands or trailer.stands_gap is None:
        return UNSET
    return document.Stands(
        gap=units.x(trailer.stands_gap),
        position=units.x_if(trailer.stands_at),
        rating=units.m_if(trailer.stands_rating),
    )


def bed_section(trailer: Trailer, units: FileUnits) -> document.Bed | UnsetType:
    """The ``bed`` object of a dump bed that lies on its frame."""
    if trailer.kind != Trailer.Kind.DUMP:
        return UNSET
    if trailer.bed_hinge is None or trailer.bed_mass is None or trailer.bed_balance is None:
        return UNSET
    return document.Bed(
        hinge=units.x(trailer.bed_hinge),
        mass=units.m(trailer.bed_mass),
        balance=units.x(trailer.bed_balance),
        latched=trailer.bed_latched,
    )


def beside_ramps(trailer: Trailer, units: FileUnits) -> dict[str, Any]:
    """What of ramps and winch is kept beside the plan."""
    ramps = {
        name: units.x(value)
        for name, value in (
            ("width", trailer.ramp_width),
            ("narrowest", trailer.ramp_narrowest),
            ("widest", trailer.ramp_widest),
        )
        if value is not None
    }
    if trailer.tail == Trailer.Tail.GATE or (
        trailer.tail == Trailer.Tail.RAMPS and trailer.ramps_stored == Trailer.RampsStored.UPRIGHT
    ):
        ramps["upright"] = True
    found: dict[str, Any] = {"ramps": ramps} if ramps else {}
    if trailer.winch_rating is not None:
        winch = {"rating": units.m(trailer.winch_rating)}
        if trailer.winch_height is not None:
            winch["height"] = units.x(trailer.winch_height)
        if trailer.winch_anchor is not None:
            winch["anchor"] = units.m(trailer.winch_anchor)
        found["winch"] = winch
    return found


def tread_of(machine: Machine, units: FileUnits) -> dict[str, Any]:
    """How wide a machine stands, kept beside the plan."""
    tread = {
        name: units.x(value)
        for name, value in (("track", machine.track_width), ("tire", machine.tire_width))
        if value is not None
    }
    return {"tread": tread} if tread else {}


def underside_section(points: LowPoints, units: FileUnits) -> list[document.UndersidePoint]:
    """The ``underside`` of an item: only what was taped."""
    return [_point(point, units) for point in points.taped]


def usual_underside(points: LowPoints, units: FileUnits) -> dict[str, Any]:
    """What is usual for its kind, kept beside the plan where nothing was taped."""
    if not points.least:
        return {}
    return {
        "usual_underside": {
            name: [plain(_point(point, units)) for point in ends]
            for name, ends in (("least", points.least), ("most", points.most))
        }
    }


def _point(point: Underside, units: FileUnits) -> document.UndersidePoint:
    return document.UndersidePoint(
        ahead=units.metres(point.ahead_m), clearance=units.metres(point.clearance_m)
    )
