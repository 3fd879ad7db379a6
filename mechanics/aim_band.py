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

from mechanics.errors import InputError
from mechanics.item import Item
from mechanics.limits import load_limits
from mechanics.loads import compute_loads
from mechanics.placing import moved
from mechanics.plan import Plan
from mechanics.windows import WindowFinder

Move = Callable[[Plan, int], Plan]
"""Puts one figure to the lower (-1) or upper (+1) end of its tolerance."""


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
    trailer, truck = plan.trailer, plan.truck
    found: list[Move] = []
    for n, item in enumerate(plan.items):
        if item.mass_tolerance_kg:
            found.append(_mass_of(n))
        if item.cg.ahead_tolerance_m:
            found.append(_balance_of(n))
    if trailer.empty_mass_tolerance_kg:
        found.append(_empty_mass)
    if trailer.empty_tongue_mass_tolerance_kg:
        found.append(_empty_tongue)
    if trailer.axles_tolerance_m:
        found.append(_axles)
    if trailer.deck.start_tolerance_m:
        found.append(_deck)
    if truck.front_axle_mass_tolerance_kg:
        found.append(_front_axle)
    if truck.rear_axle_mass_tolerance_kg:
        found.append(_rear_axle)
    if truck.wheelbase_tolerance_m:
        found.append(_wheelbase)
    if truck.hitch_offset_tolerance_m:
        found.append(_ball)
    return found


def _mass_of(n: int) -> Move:
    def move(plan: Plan, way: int) -> Plan:
        item = plan.items[n]
        mass = item.mass_kg + way * item.mass_tolerance_kg
        return _with_item(plan, n, replace(item, mass_kg=mass, mass_tolerance_kg=0.0))

    return move


def _balance_of(n: int) -> Move:
    def move(plan: Plan, way: int) -> Plan:
        item = plan.items[n]
        ahead = item.cg.ahead_m + way * item.cg.ahead_tolerance_m
        return _with_item(
            plan, n, replace(item, cg=replace(item.cg, ahead_m=ahead, ahead_tolerance_m=0.0))
        )

    return move


def _with_item(plan: Plan, n: int, item: Item) -> Plan:
    return replace(plan, items=(*plan.items[:n], item, *plan.items[n + 1 :]))


def _empty_mass(plan: Plan, way: int) -> Plan:
    trailer = plan.trailer
    mass = trailer.empty_mass_kg + way * trailer.empty_mass_tolerance_kg
    return replace(plan, trailer=replace(trailer, empty_mass_kg=mass, empty_mass_tolerance_kg=0.0))


def _empty_tongue(plan: Plan, way: int) -> Plan:
    trailer = plan.trailer
    tongue = trailer.empty_tongue_mass_kg + way * trailer.empty_tongue_mass_tolerance_kg
    return replace(
        plan,
        trailer=replace(trailer, empty_tongue_mass_kg=tongue, empty_tongue_mass_tolerance_kg=0.0),
    )


def _axles(plan: Plan, way: int) -> Plan:
    off = plan.trailer.axles_tolerance_m
    exact = replace(plan.trailer, axles_tolerance_m=0.0)
    return replace(plan, trailer=exact.with_axles_shifted(way * off))


def _deck(plan: Plan, way: int) -> Plan:
    deck = plan.trailer.deck
    start = deck.start_m + way * deck.start_tolerance_m
    return replace(
        plan,
        trailer=replace(plan.trailer, deck=replace(deck, start_m=start, start_tolerance_m=0.0)),
    )


def _front_axle(plan: Plan, way: int) -> Plan:
    truck = plan.truck
    mass = truck.front_axle_mass_kg + way * truck.front_axle_mass_tolerance_kg
    return replace(
        plan, truck=replace(truck, front_axle_mass_kg=mass, front_axle_mass_tolerance_kg=0.0)
    )


def _rear_axle(plan: Plan, way: int) -> Plan:
    truck = plan.truck
    mass = truck.rear_axle_mass_kg + way * truck.rear_axle_mass_tolerance_kg
    return replace(
        plan, truck=replace(truck, rear_axle_mass_kg=mass, rear_axle_mass_tolerance_kg=0.0)
    )


def _wheelbase(plan: Plan, way: int) -> Plan:
    truck = plan.truck
    wheelbase = truck.wheelbase_m + way * truck.wheelbase_tolerance_m
    return replace(plan, truck=replace(truck, wheelbase_m=wheelbase, wheelbase_tolerance_m=0.0))


def _ball(plan: Plan, way: int) -> Plan:
    truck = plan.truck
    offset = truck.hitch_offset_m + way * truck.hitch_offset_tolerance_m
    return replace(plan, truck=replace(truck, hitch_offset_m=offset, hitch_offset_tolerance_m=0.0))
