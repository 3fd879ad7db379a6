"""How low a machine hangs, from its mark: what was taped, or what is usual for its kind."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from book.figures import Outline, machine_contacts, si
from book.models import Configuration, Machine
from mechanics.item import Underside
from mechanics.units import M_PER_IN


@dataclass(frozen=True, kw_only=True, slots=True)
class Usual:
    """Clearances at nose, belly and tail that machines of a kind commonly have, in inches."""

    nose: float
    belly: float
    tail: float


USUAL: Final = {
    Machine.Shape.TRACTOR: Usual(nose=12, belly=12, tail=12),
    Machine.Shape.LOADER: Usual(nose=8, belly=7, tail=8),
    Machine.Shape.EXCAVATOR: Usual(nose=16, belly=9, tail=20),
}
"""The low end of each, as carried. Common practice, no source."""

NAMES: Final = ("tail_clearance", "belly_clearance", "nose_clearance")


def low_points(
    machine: Machine, configuration: Configuration | None, outline: Outline
) -> tuple[list[Underside], bool]:
    """The low points of a machine as carried up a ramp, from its tail to its nose.

    The belly hangs flat from wheel to wheel. An overhang without a clearance of its own has
    none that is known. Where nothing at all was taped the usual ones of its kind stand in,
    and the second answer says so. Empty where it is not known where it stands, or its kind
    has no usual ones.
    """
    ends = [
        contact.ahead_m + side * contact.length_m / 2
        for contact in machine_contacts(machine)
        for side in (-1, 1)
    ]
    if not ends:
        return [], False
    tail, belly, nose = (_taped(machine, configuration, name) for name in NAMES)
    estimated = tail is None and belly is None and nose is None
    if estimated:
        usual = USUAL.get(Machine.Shape(machine.shape))
        if usual is None:
            return [], False
        tail, belly, nose = (inches * M_PER_IN for inches in (usual.tail, usual.belly, usual.nose))
    rear, front = min(ends), max(ends)
    found = []
    if tail is not None and -outline.rear_m < rear:
        found.append(Underside(ahead_m=-outline.rear_m, clearance_m=tail))
    if belly is not None:
        found += [Underside(ahead_m=at, clearance_m=belly) for at in (rear, front)]
    if nose is not None and outline.front_m > front:
        found.append(Underside(ahead_m=outline.front_m, clearance_m=nose))
    return found, estimated


def _taped(machine: Machine, configuration: Configuration | None, name: str) -> float | None:
    own = None if configuration is None else getattr(configuration, name)
    found = own if own is not None else getattr(machine, name)
    return None if found is None else si(found)
