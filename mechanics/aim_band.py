"""How far the best place may lie from where it is with the figures as they stand.

Each figure is put to either end of its tolerance by itself, to see which way that moves the best
place of one item; then all that move it forward are put there at once, and all that move it
back. For a share in the middle of its school that is exact, since the place is monotone in every
figure; where other limits set it, it is what the figures' ends come to.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any, Final, TypeVar

from mechanics.errors import InputError
from mechanics.item import BalancePoint, Item
from mechanics.limits import load_limits
from mechanics.loads import compute_loads
from mechanics.placing import moved
from mechanics.plan import Plan
from mechanics.trailer import Deck, Trailer
from mechanics.truck import Truck
from mechanics.windows import WindowFinder

Part = TypeVar("Part", Item, BalancePoint, Deck, Trailer, Truck)

Move = Callable[[Plan, int], Plan]
"""Puts one figure to the lower (-1) or upper (+1) end of its tolerance."""

OF_TRAILER: Final = (
    ("empty_mass_kg", "empty_mass_tolerance_kg"),
    ("empty_tongue_mass_kg", "empty_tongue_mass_tolerance_kg"),
)
OF_TRUCK: Final = (
    ("front_axle_mass_kg", "front_axle_mass_tolerance_kg"),
    ("rear_axle_mass_kg", "rear_axle_mass_tolerance_kg"),
    ("wheelbase_m", "wheelbase_tolerance_m"),
    ("hitch_offset_m", "hitch_offset_tolerance_m"),
)
"""Figures that stand by themselves, each with its tolerance."""


@dataclass(frozen=True, kw_only=True, slots=True)
class AimBand:
    """The best place with the figures as they stand, and how far forward and back it may be.

    Tape positions of the item's mark, in metres.
    """

    aim_m: float
    foremost_m: float
    rearmost_m: float

    @property
    def width_m(self) -> float:
        """From the foremost to the rearmost."""
        return self.rearmost_m - self.foremost_m


def aim_band(plan: Plan, index: int) -> AimBand | None:
    """The band of one item's best place; ``None`` where the deck has no room for it.

    Where the item itself stands does not matter, so a drag asks only once.
    """
    return _aim_band(moved(plan, index, 0.0), index)


@lru_cache(maxsize=256)
def _aim_band(plan: Plan, index: int) -> AimBand | None:
    aim = _best(plan, index)
    if aim is None:
        return None
    forward, back = plan, plan
    for move in _moves(plan):
        low, high = (_best_after(plan, move, way, index) for way in (-1, 1))
        if low is None or high is None or low == high:
            continue
        sign = 1 if high > low else -1
        forward, back = _tried(move, forward, -sign), _tried(move, back, sign)
    found = [aim, *(at for at in (_best(forward, index), _best(back, index)) if at is not None)]
    return AimBand(aim_m=aim, foremost_m=min(found), rearmost_m=max(found))


def _best(plan: Plan, index: int) -> float | None:
    plan = _as_known(plan)
    finder = WindowFinder(plan, load_limits(plan, compute_loads(plan)))
    window = finder.window(index)
    if window.aim_m is not None:
        return window.aim_m
    found = finder.compromise(index)
    return None if found is None else found.at_m


def _as_known(plan: Plan) -> Plan:
    """The plan without what only the sure window asks for."""
    deck = replace(plan.trailer.deck, start_tolerance_m=0.0)
    truck = plan.truck
    return replace(
        plan,
        truck=replace(truck, wheelbase_tolerance_m=0.0, hitch_offset_tolerance_m=0.0),
        trailer=replace(plan.trailer, deck=deck, axles_tolerance_m=0.0),
    )


def _best_after(plan: Plan, move: Move, way: int, index: int) -> float | None:
    return _best(_tried(move, plan, way), index)


def _tried(move: Move, plan: Plan, way: int) -> Plan:
    """The plan with one figure at an end of its band, where such a plan can be."""
    try:
        return move(plan, way)
    except InputError:
        return plan


def _moves(plan: Plan) -> list[Move]:
    """One for every figure that has a tolerance."""
    found: list[Move] = []
    for n, item in enumerate(plan.items):
        if item.mass_tolerance_kg:
            found.append(_mass_of(n))
        if item.cg.ahead_tolerance_m:
            found.append(_balance_of(n))
    found += [_of_trailer(figure, off) for figure, off in OF_TRAILER if getattr(plan.trailer, off)]
    if plan.trailer.axles_tolerance_m:
        found.append(_axles)
    if plan.trailer.deck.start_tolerance_m:
        found.append(_deck)
    found += [_of_truck(figure, off) for figure, off in OF_TRUCK if getattr(plan.truck, off)]
    return found


def _at_end(part: Part, figure: str, off: str, way: int) -> Part:
    """A part with one figure at an end of its tolerance, and exact there."""
    value = getattr(part, figure) + way * getattr(part, off)
    changes: dict[str, Any] = {figure: value, off: 0.0}
    return replace(part, **changes)


def _of_truck(figure: str, off: str) -> Move:
    return lambda plan, way: replace(plan, truck=_at_end(plan.truck, figure, off, way))


def _of_trailer(figure: str, off: str) -> Move:
    return lambda plan, way: replace(plan, trailer=_at_end(plan.trailer, figure, off, way))


def _mass_of(n: int) -> Move:
    return lambda plan, way: _with_item(
        plan, n, _at_end(plan.items[n], "mass_kg", "mass_tolerance_kg", way)
    )


def _balance_of(n: int) -> Move:
    def move(plan: Plan, way: int) -> Plan:
        item = plan.items[n]
        cg = _at_end(item.cg, "ahead_m", "ahead_tolerance_m", way)
        return _with_item(plan, n, replace(item, cg=cg))

    return move


def _with_item(plan: Plan, n: int, item: Item) -> Plan:
    return replace(plan, items=(*plan.items[:n], item, *plan.items[n + 1 :]))


def _axles(plan: Plan, way: int) -> Plan:
    off = plan.trailer.axles_tolerance_m
    exact = replace(plan.trailer, axles_tolerance_m=0.0)
    return replace(plan, trailer=exact.with_axles_shifted(way * off))


def _deck(plan: Plan, way: int) -> Plan:
    deck = _at_end(plan.trailer.deck, "start_m", "start_tolerance_m", way)
    return replace(plan, trailer=replace(plan.trailer, deck=deck))
