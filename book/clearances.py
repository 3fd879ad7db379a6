"""How low a machine hangs, from its mark: what was taped, or what is usual for its kind."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from book.figures import Outline, machine_contacts, si
from book.models import Configuration, Machine
from mechanics.item import Underside
from mechanics.units import M_PER_IN

INCHES = tuple[float, float]


@dataclass(frozen=True, kw_only=True, slots=True)
class Usual:
    """Least and greatest clearance that machines of a kind commonly have, in inches."""

    belly: INCHES
    tail: INCHES


USUAL: Final = {
    Machine.Shape.TRACTOR: Usual(belly=(12, 18), tail=(14, 24)),
    Machine.Shape.LOADER: Usual(belly=(7, 9), tail=(14, 20)),
    Machine.Shape.EXCAVATOR: Usual(belly=(9, 13), tail=(18, 30)),
}
"""Common practice, no source. A bucket has none: it is carried as high as it needs to be."""


@dataclass(frozen=True, kw_only=True, slots=True)
class LowPoints:
    """The low points of a machine as carried up a ramp, from its tail to its nose.

    Where nothing was taped ``taped`` is empty, and ``least`` and ``most`` are the usual ones
    of its kind, if it has any.
    """

    taped: tuple[Underside, ...] = ()
    least: tuple[Underside, ...] = ()
    most: tuple[Underside, ...] = ()


def low_points(
    machine: Machine, configuration: Configuration | None, outline: Outline
) -> LowPoints:
    """How low a machine hangs.

    The belly hangs flat from wheel to wheel. An overhang without a clearance of its own has
    none that is known. Nothing where it is not known where the machine stands.
    """
    ends = [
        contact.ahead_m + side * contact.length_m / 2
        for contact in machine_contacts(machine)
        for side in (-1, 1)
    ]
    if not ends:
        return LowPoints()

    def points(
        tail: float | None, belly: float | None, nose: float | None
    ) -> tuple[Underside, ...]:
        found = []
        if tail is not None and -outline.rear_m < min(ends):
            found.append(Underside(ahead_m=-outline.rear_m, clearance_m=tail))
        if belly is not None:
            found += [Underside(ahead_m=at, clearance_m=belly) for at in (min(ends), max(ends))]
        if nose is not None and outline.front_m > max(ends):
            found.append(Underside(ahead_m=outline.front_m, clearance_m=nose))
        return tuple(found)

    def taped(name: str) -> float | None:
        own = None if configuration is None else getattr(configuration, name)
        found = own if own is not None else getattr(machine, name)
        return None if found is None else si(found)

    measured = points(taped("tail_clearance"), taped("belly_clearance"), taped("nose_clearance"))
    usual = USUAL.get(Machine.Shape(machine.shape))
    if measured or usual is None:
        return LowPoints(taped=measured)
    least, most = (
        points(usual.tail[end] * M_PER_IN, usual.belly[end] * M_PER_IN, None) for end in (0, 1)
    )
    return LowPoints(least=least, most=most)
