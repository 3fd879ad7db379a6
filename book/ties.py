"""Places of the book that ties run between: anchors of a trailer, points of a machine."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from decimal import Decimal

from book.figures import machine_contacts, parts_on, si
from book.models import Configuration, Machine, MachinePoint, Trailer, TrailerAnchor
from measures import Quantity, UnitSystem
from mechanics.units import M_PER_IN

SIDES = (("left", 1), ("right", -1))
"""Both of a pair: the word, and the sign of what lies to the left."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Spot:
    """One anchor or point: its id in a plan, the row it comes from, which side of the middle."""

    id: str
    row: TrailerAnchor | MachinePoint
    side: int

    @property
    def left_m(self) -> float:
        """Metres to the left of the middle."""
        return self.side * si(self.row.off)


def spots(rows: Iterable[TrailerAnchor | MachinePoint]) -> Iterator[Spot]:
    """Every place of the rows; a pair is two."""
    for row in rows:
        if row.both:
            for word, side in SIDES:
                yield Spot(id=f"{row.name} {word}", row=row, side=side)
        else:
            yield Spot(id=row.name, row=row, side=1)


def pair_of(place_id: str) -> str:
    """What the pair is called that a place of a plan is one of; its own id of a single one."""
    for word, _ in SIDES:
        if place_id.endswith(f" {word}"):
            return place_id.removesuffix(f" {word}")
    return place_id


def points_there(machine: Machine, configuration: Configuration | None) -> list[MachinePoint]:
    """The points that are in reach as a machine is hauled: with the parts that are on."""
    on = {part.name for part in parts_on(machine, configuration)}
    return [
        point
        for point in machine.points.all()
        if (not point.with_part or point.with_part in on)
        and not (point.hidden_by and point.hidden_by in on)
    ]


def usual_anchors(trailer: Trailer) -> list[TrailerAnchor]:
    """Rings as trailers commonly have them: at both ends and between, near the edge.

    Empty where the deck is not measured. Common practice, no source: guesses until taped.
    """
    if trailer.deck_length is None or trailer.deck_width is None:
        return []
    unit = trailer.deck_length.unit
    length, half = si(trailer.deck_length), si(trailer.deck_width) / 2 - 2 * M_PER_IN
    inset = 6 * M_PER_IN
    places = (("front", inset), ("first", length / 3), ("second", 2 * length / 3))
    return [
        TrailerAnchor(
            trailer=trailer,
            name=f"{name} ring",
            tape=_rounded(at, unit),
            off=_rounded(half, unit),
            guess=True,
        )
        for name, at in (*places, ("rear", length - inset))
    ]


def usual_points(machine: Machine) -> list[MachinePoint]:
    """Points as machines of a kind commonly have them, at their axles' ends.

    Empty where it is not known where the machine stands. Common practice, no source: guesses
    until taped.
    """
    contacts = machine_contacts(machine)
    if not contacts or machine.wheelbase is None or machine.width is None:
        return []
    unit = machine.wheelbase.unit
    ends = [c.ahead_m + side * c.length_m / 2 for c in contacts for side in (-1, 1)]
    tractor = machine.shape == Machine.Shape.TRACTOR
    kind = MachinePoint.Kind.AXLE if tractor else MachinePoint.Kind.FRAME
    word = "axle" if tractor else "frame"
    return [
        MachinePoint(
            machine=machine,
            name=f"{end} {word}",
            kind=kind,
            ahead=_rounded(at, unit),
            off=_rounded(si(machine.width) / 4, unit),
            height=_rounded(16 * M_PER_IN, unit),
            guess=True,
        )
        for end, at in (("front", max(ends)), ("rear", min(ends)))
    ]


def _rounded(metres: float, like: str) -> Quantity:
    """A guessed length to the inch or the centimetre, whichever the unit ``like`` belongs to."""
    if UnitSystem.of_length(like) is UnitSystem.US:
        return Quantity(Decimal(round(metres / M_PER_IN)), "in")
    return Quantity(Decimal(10 * round(metres * 100)), "mm")
