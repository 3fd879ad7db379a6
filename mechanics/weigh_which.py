"""Which single weighing would widen the sure window most, and by how much.

Each weighing brings the tolerances it concerns down to what a vehicle scale leaves open;
figures stay as they are, since nobody knows yet what the scale will say.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import Enum
from typing import Final

from mechanics.item import Item
from mechanics.limits import load_limits
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.scales import VEHICLE
from mechanics.units import M_PER_IN
from mechanics.windows import WindowFinder

READING_KG: Final = VEHICLE.step_kg
"""Doubt of one scale reading: its step."""

BALANCE_M: Final = 1 * M_PER_IN
"""Doubt of a balance point from two axle weights. Common practice, no source."""

FLAT: Final = 0.98
"""Part of its length on which a thing has to rest to lie flat: no track is as long as its
machine."""

WORTH_M: Final = 0.5 * M_PER_IN
"""A gain smaller than this is not worth a trip to the scale."""


class Weighing(Enum):
    """What goes on the scale, or under the tape."""

    ITEM_AXLES = "item_axles"
    ITEM_WHOLE = "item_whole"
    TRAILER_TONGUE = "trailer_tongue"
    TRAILER_WHOLE = "trailer_whole"
    TRUCK_AXLES = "truck_axles"
    TRUCK_TAPE = "truck_tape"
    TRAILER_TAPE = "trailer_tape"


@dataclass(frozen=True, kw_only=True, slots=True)
class Gain:
    """One weighing and the sure deck it gives: before and after, in metres.

    ``item`` is the id of the item weighed, ``None`` for trailer and truck.
    """

    weighing: Weighing
    item: str | None
    before_m: float
    after_m: float

    @property
    def gain_m(self) -> float:
        """How much wider the sure window gets."""
        return self.after_m - self.before_m


def lies_flat(item: Item) -> bool:
    """Whether an item rests on all of its length, as a pallet or a heap does: nobody weighs the
    two ends of such a thing."""
    length = sum(contact.length_m for contact in item.contacts)
    return length >= FLAT * (item.front_m + item.rear_m)


def weigh_which(plan: Plan, index: int) -> tuple[Gain, ...]:
    """Weighings that would widen one item's sure window, the greatest gain first.

    Those that gain less than :data:`WORTH_M` are left out, so the answer may be empty; of
    two with the same gain the one that is less work comes first. An item's two axles give
    its mass and its balance point at once; the whole item on the scale only its mass.
    """
    before = _sure_length(plan, index)
    gains = [
        Gain(weighing=weighing, item=item, before_m=before, after_m=_sure_length(known, index))
        for weighing, item, known in weighed(plan)
    ]
    worth = [gain for gain in gains if gain.gain_m >= WORTH_M]
    order = list(Weighing)[::-1]
    effort = {Weighing.ITEM_WHOLE: 0, Weighing.TRAILER_TONGUE: 1, Weighing.TRAILER_WHOLE: 2}
    return tuple(
        sorted(
            worth,
            key=lambda g: (-round(g.gain_m, 4), effort.get(g.weighing, 3), order.index(g.weighing)),
        )
    )


def _sure_length(plan: Plan, index: int) -> float:
    finder = WindowFinder(plan, load_limits(plan, compute_loads(plan)))
    return sum(piece.end_m - piece.start_m for piece in finder.window(index).sure)


def weighed(plan: Plan) -> list[tuple[Weighing, str | None, Plan]]:
    """The plan as each weighing would leave its tolerances; only those that narrow any."""
    found: list[tuple[Weighing, str | None, Plan]] = []
    for item in plan.items:
        mass = min(item.mass_tolerance_kg, 2 * READING_KG)
        balance = min(item.cg.ahead_tolerance_m, BALANCE_M)
        both = replace(item, mass_tolerance_kg=mass, cg=replace(item.cg, ahead_tolerance_m=balance))
        whole = replace(item, mass_tolerance_kg=min(item.mass_tolerance_kg, READING_KG))
        for weighing, known in ((Weighing.ITEM_AXLES, both), (Weighing.ITEM_WHOLE, whole)):
            if weighing is Weighing.ITEM_AXLES and lies_flat(item):
                continue
            if known != item:
                items = tuple(known if i is item else i for i in plan.items)
                found.append((weighing, item.id, plan.carrying(items)))
    trailer, truck = plan.trailer, plan.truck
    if trailer.empty_tongue_mass_tolerance_kg > READING_KG:
        known_tongue = replace(trailer, empty_tongue_mass_tolerance_kg=READING_KG)
        found.append((Weighing.TRAILER_TONGUE, None, replace(plan, trailer=known_tongue)))
    if trailer.empty_mass_tolerance_kg > READING_KG:
        known_mass = replace(trailer, empty_mass_tolerance_kg=READING_KG)
        found.append((Weighing.TRAILER_WHOLE, None, replace(plan, trailer=known_mass)))
    if max(truck.front_axle_mass_tolerance_kg, truck.rear_axle_mass_tolerance_kg) > READING_KG:
        known_truck = replace(
            truck,
            front_axle_mass_tolerance_kg=min(truck.front_axle_mass_tolerance_kg, READING_KG),
            rear_axle_mass_tolerance_kg=min(truck.rear_axle_mass_tolerance_kg, READING_KG),
        )
        found.append((Weighing.TRUCK_AXLES, None, replace(plan, truck=known_truck)))
    return found
