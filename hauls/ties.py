"""From the book's entries to what a plan says of anchors and points."""

from __future__ import annotations

from typing import Any, Final

from msgspec import UNSET

from book.figures import si
from book.models import Bulk, Configuration, Machine, MachinePoint, Trailer, TrailerAnchor
from book.ties import Spot, points_there, spots
from hauls.units import FileUnits
from planfile import document
from planfile.tying import FORBIDDEN, GUESS

_PLAN_KINDS: Final = {
    kind: kind.value for kind in MachinePoint.Kind if kind not in MachinePoint.FORBIDDEN
}


def anchor_sections(trailer: Trailer, units: FileUnits) -> list[document.Anchor]:
    """A trailer's ``anchors``, a pair as two."""
    return [_anchor(spot, units) for spot in spots(trailer.anchors.all())]


def _anchor(spot: Spot, units: FileUnits) -> document.Anchor:
    row: Any = spot.row
    kind: Any = TrailerAnchor.Kind(row.kind).value
    return document.Anchor(
        id=spot.id,
        tape=units.x(row.tape),
        left=spot.side * units.x(row.off),
        height=0 if row.height is None else units.x(row.height),
        wll=units.m_if(row.wll),
        kind=kind,
        extra={GUESS: True} if row.guess else UNSET,
    )


def point_sections(
    machine: Machine, configuration: Configuration | None, units: FileUnits
) -> list[document.TiePoint]:
    """A machine's ``points`` as it is hauled, without those that must not be used."""
    usable = (p for p in points_there(machine, configuration) if p.usable)
    return [_point(spot, units) for spot in spots(usable)]


def _point(spot: Spot, units: FileUnits) -> document.TiePoint:
    row: Any = spot.row
    kind: Any = _PLAN_KINDS[MachinePoint.Kind(row.kind)]
    return document.TiePoint(
        id=spot.id,
        ahead=units.x(row.ahead),
        left=spot.side * units.x(row.off),
        height=units.x(row.height),
        strength=units.m_if(row.strength),
        kind=kind,
        extra={GUESS: True} if row.guess else UNSET,
    )


def over_sections(bulk: Bulk, units: FileUnits) -> list[document.TiePoint]:
    """Where a strap runs over a stack: a quarter from either end, and over its middle; none of a
    heap, or of a stack that nobody measured."""
    if bulk.measured != Bulk.Measured.COUNT or bulk.height is None or bulk.length is None:
        return []
    quarter = si(bulk.length) / 4
    return [
        document.TiePoint(
            id=f"over the {word}",
            ahead=units.metres(ahead),
            left=0,
            height=units.x(bulk.height),
        )
        for word, ahead in (("front", quarter), ("middle", 0.0), ("rear", -quarter))
    ]


def beside_points(
    machine: Machine, configuration: Configuration | None, units: FileUnits
) -> dict[str, Any]:
    """For the ``extra`` object: places that must not be used."""
    found = [
        {
            "name": spot.id,
            "why": MachinePoint.Kind(spot.row.kind).value,
            "ahead": units.x(spot.row.ahead),
            "left": spot.side * units.x(spot.row.off),
            "height": units.x(spot.row.height),
        }
        for spot in spots(p for p in points_there(machine, configuration) if p.forbidden)
        if isinstance(spot.row, MachinePoint)
    ]
    return {FORBIDDEN: found} if found else {}
