"""What to move at the scale: a tongue that was read, and how a load gets it to where it should be.

Offered for each load by itself; nothing here says that all other limits hold then.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from book.figures import si
from book.models import Bulk
from hauls.loads import Load
from measures import UnitSystem
from measures.writing import write_length, write_mass, write_percent
from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.shifting import carried_kg, carried_pieces, move_m
from wording.schools import range_words


@dataclass(frozen=True, kw_only=True)
class Shift:
    """What the tongue lacks or has too much of, and what to move; each of the ``ways`` is enough
    alone. No ways where no single load can do it on this deck."""

    words: str
    ways: tuple[str, ...]


def shift(
    plan: Plan,
    loads: Mapping[str, Load],
    *,
    tongue_kg: float,
    trailer_kg: float,
    unit: UnitSystem,
) -> Shift | None:
    """What to move so that the tongue comes to the middle of what the plan's rule of share wants;
    ``None`` where it is right as it is, or weight-distributing bars keep the scale from showing
    it."""
    least, most = plan.share_range
    if plan.hitch.weight_distribution is not None or not 0 < tongue_kg < trailer_kg:
        return None
    share = tongue_kg / trailer_kg
    if least <= share <= most:
        return None
    wanted, edge = (least + most) / 2, least if share < least else most
    aims = [(part * trailer_kg - tongue_kg, part) for part in (wanted, edge)]
    return Shift(
        words=f"{write_percent(share)} of the trailer is on the tongue, {range_words(least, most)} "
        f"is wanted. To bring it to {write_percent(wanted)}:",
        ways=tuple(
            f"{item.called}: {way}"
            for item in plan.items
            for way in _ways(plan, item, loads.get(item.id), aims, unit)
        ),
    )


def _ways(
    plan: Plan,
    item: Item,
    load: Load | None,
    aims: Sequence[tuple[float, float]],
    unit: UnitSystem,
) -> Iterator[str]:
    """Moving the whole of it, and carrying a part of it; where no part is enough for the first of
    the aims, each a tongue to be gained and its share, for the next."""
    lever, deck = plan.trailer.axle_centre_m, plan.trailer.deck
    move = move_m(load_kg=item.mass_kg, tongue_kg=aims[0][0], lever_m=lever)
    if item.foremost_m - move >= 0 and item.rearmost_m - move <= deck.length_m:
        yield f"move it {write_length(abs(move), unit)} {'forward' if move > 0 else 'back'}"
    if load is None or load.bulk is None:
        return
    for (more_kg, share), first in zip(aims, (True, False), strict=True):
        part = _part(item, load.bulk, more_kg, lever, unit)
        if part:
            ends = ("rear", "front") if more_kg > 0 else ("front", "rear")
            aim = write_percent(aims[0][1])
            short = "" if first else f", to {write_percent(share)}; a part is not enough for {aim}"
            yield f"{part} from its {ends[0]} end onto its {ends[1]} end{short}"
            return


def _part(item: Item, bulk: Bulk, more_kg: float, lever_m: float, unit: UnitSystem) -> str:
    """How much of it is carried; empty where half of it is not enough."""
    length = item.front_m + item.rear_m
    if bulk.measured == Bulk.Measured.COUNT and bulk.count and bulk.piece_mass is not None:
        pieces = carried_pieces(
            count=bulk.count,
            piece_kg=si(bulk.piece_mass),
            length_m=length,
            tongue_kg=more_kg,
            lever_m=lever_m,
        )
        return "" if pieces is None else f"carry {pieces} of its {bulk.count} pieces"
    kg = carried_kg(load_kg=item.mass_kg, length_m=length, tongue_kg=more_kg, lever_m=lever_m)
    return "" if kg is None else f"shift {write_mass(kg, unit)} of it"
