"""How truck and trailer ride: squat, the coupler's height, the trailer's tilt and its effect.

Angles are small, so heights are straight lines in the tongue mass: the rear springs give
under it, the ball sinks, the trailer's nose comes down, and a lower nose puts load back on
the tongue. The loop is run to its fixed point; each turn changes it by a small part of the
one before.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from mechanics.checks import Check, Status, judge
from mechanics.limits import load_limits
from mechanics.loads import Loads, compute_loads
from mechanics.plan import Plan
from mechanics.trailer import Suspension
from mechanics.units import M_PER_IN

SETTLED_KG: Final = 1e-9
"""Change of the tongue mass at which the loop has settled."""

STEEPEST: Final = 0.5
"""A slope past which nothing rides on the road: heights or springs are wrong."""

TURNS: Final = 200
"""Turns after which the loop is given up: the springs are too soft to carry any tongue."""

LEVEL_M: Final = 0.5 * M_PER_IN
"""A nose that is off level by less than this over the coupler is called level. Common
practice, no source."""

NOSE_UP_BEFORE_M: Final = 1.0 * M_PER_IN
"""How high the nose may ride before loading. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Attitude:
    """How the outfit rides.

    ``before`` is hitched with the trailer empty, ``loaded`` with the plan's items;
    ``level`` are the loads of a level trailer, for comparison. ``ball_change_m`` is what
    the ball's height has to change by so that the trailer rides level when loaded (negative
    is down). ``worse`` are the limits that are passed as it rides and would hold with the
    trailer level.
    """

    before: Riding
    loaded: Riding
    level: Loads
    ball_change_m: float
    worse: tuple[Check, ...]

    @property
    def tongue_change_kg(self) -> float:
        """What the tilt adds to the tongue; negative with the nose high."""
        return self.loaded.loads.trailer.tongue_kg - self.level.trailer.tongue_kg


@dataclass(frozen=True, kw_only=True, slots=True)
class Riding:
    """One state of the outfit.

    ``nose_up_m`` is the coupler above where it stands on a level trailer, ``slope`` that
    height over the coupler-to-axle distance. ``rear_squat_m`` and ``front_rise_m`` are
    read at the wheel arches, against the unhitched truck; ``coupler_height_m`` above the
    ground.
    """

    loads: Loads
    nose_up_m: float
    slope: float
    coupler_height_m: float
    rear_squat_m: float
    front_rise_m: float

    @property
    def level(self) -> bool:
        """Whether a person would call it level."""
        return abs(self.nose_up_m) <= LEVEL_M


def missing_heights(plan: Plan) -> tuple[str, ...]:
    """Inputs without which nothing can be said of how the outfit rides."""
    found = []
    if plan.truck.ride is None:
        found.append("truck.ride")
    if plan.trailer.coupler_height_m is None:
        found.append("trailer.coupler_height")
    if plan.trailer.axle_height_m is None:
        found.append("trailer.axle_height")
    if plan.trailer.deck.height_m is None:
        found.append("trailer.deck.height")
    found += [
        f"items[{index}].cg.height"
        for index, item in enumerate(plan.items)
        if item.cg.height_m is None
    ]
    return tuple(found)


def attitude(plan: Plan) -> Attitude | None:
    """How the outfit rides; ``None`` where heights are missing or the springs do not
    settle at any slope a trailer can ride at.

    The front end is taken as stiff where its rate is not known. The empty trailer's own
    balance point is taken at the height of its deck. Independent axles of a known rate are
    pressed unequally by the tilt; without the rate that is not counted
    (:func:`axle_rate_wanted`).
    """
    if missing_heights(plan):
        return None
    from_empty = _ride_empty(plan.carrying(()))
    riding = _settle(plan, weight_moment_kg_m(plan, loaded=True))
    if from_empty is None or riding is None:
        return None
    level = compute_loads(plan)
    return Attitude(
        before=from_empty,
        loaded=riding,
        level=level,
        ball_change_m=ball_height_for_level_m(plan, level) - ride_of(plan).ball_height_m,
        worse=_worse(plan, riding.loads, level),
    )


def _worse(plan: Plan, riding: Loads, level: Loads) -> tuple[Check, ...]:
    """Limits that are passed under the first loads and not under the second."""
    over = [c for limit in load_limits(plan, riding) if (c := judge(limit)).status is Status.OVER]
    if not over:
        return ()
    holds = {
        limit.code for limit in load_limits(plan, level) if judge(limit).status is not Status.OVER
    }
    return tuple(check for check in over if check.code in holds)


def axle_rate_wanted(plan: Plan) -> bool:
    """Whether a tilted trailer loads its axles by more than is shown: independent axles, more
    than one, of a rate that is not known."""
    trailer = plan.trailer
    return (
        trailer.suspension is Suspension.INDEPENDENT
        and len(trailer.axles) > 1
        and trailer.axle_rate_kg_per_m is None
    )


def ball_height_for_level_m(plan: Plan, level: Loads) -> float:
    """Unhitched ball height at which the trailer, loaded like this, rides level."""
    return (plan.trailer.coupler_height_m or 0.0) + _ball_drop(plan, level)


def ride_of(plan: Plan) -> _Ride:
    """The truck's ball height and spring gives, in metres and metres per kg.

    Raises:
        ValueError: the plan has none.
    """
    ride = plan.truck.ride
    if ride is None:
        raise ValueError("the truck's ball height and springs are not known")
    soft = 0.0 if ride.front_rate_kg_per_m is None else 1 / ride.front_rate_kg_per_m
    return _Ride(ball_height_m=ride.ball_height_m, rear=1 / ride.rear_rate_kg_per_m, front=soft)


@dataclass(frozen=True, kw_only=True, slots=True)
class _Ride:
    ball_height_m: float
    rear: float
    front: float


def squat_m(plan: Plan, loads: Loads) -> tuple[float, float]:
    """How far the rear arch sinks and the front arch rises against the unhitched truck."""
    ride, truck = ride_of(plan), loads.truck
    return (
        (truck.rear_kg - truck.rear_unhitched_kg) * ride.rear,
        -(truck.front_kg - truck.front_unhitched_kg) * ride.front,
    )


def _ball_drop(plan: Plan, loads: Loads) -> float:
    """How far the ball sinks: the truck pitches about its two axles as they move."""
    sinks, rises = squat_m(plan, loads)
    return sinks + (sinks + rises) * plan.truck.hitch_offset_m / plan.truck.wheelbase_m


def weight_moment_kg_m(plan: Plan, *, loaded: bool) -> float:
    """Mass times height above the axle line, of the trailer and, loaded, of its items."""
    trailer = plan.trailer
    deck, axle = trailer.deck.height_m or 0.0, trailer.axle_height_m or 0.0
    total = trailer.empty_mass_kg * (deck - axle)
    if loaded:
        total += sum(i.mass_kg * (deck + (i.cg.height_m or 0.0) - axle) for i in plan.items)
    return total


@lru_cache(maxsize=128)
def _ride_empty(plan: Plan) -> Riding | None:
    """The outfit with nothing on it: the same wherever the items will stand."""
    return _settle(plan, weight_moment_kg_m(plan, loaded=False))


def _settle(plan: Plan, high: float) -> Riding | None:
    """Squat, tilt, tongue, squat again, until nothing changes."""
    ball = ride_of(plan).ball_height_m
    level = plan.trailer.coupler_height_m or 0.0
    loads, slope = compute_loads(plan), 0.0
    for _ in range(TURNS):
        coupler = ball - _ball_drop(plan, loads)
        # the trailer turns about the place where a couple on the ball meets its axles
        slope = (coupler - level) / plan.trailer.couple_lever_m
        if abs(slope) > STEEPEST:
            return None
        settled = compute_loads(plan, tilt_kg_m=high * slope, slope=slope)
        moved = abs(settled.trailer.tongue_kg - loads.trailer.tongue_kg)
        loads = settled
        if moved <= SETTLED_KG:
            sinks, rises = squat_m(plan, loads)
            return Riding(
                loads=loads,
                nose_up_m=slope * plan.trailer.couple_lever_m,
                slope=slope,
                coupler_height_m=coupler,
                rear_squat_m=sinks,
                front_rise_m=rises,
            )
    return None


def rates_from_arches(
    *,
    mass_kg: float,
    ahead_of_rear_axle_m: float,
    wheelbase_m: float,
    front_drop_m: float,
    rear_drop_m: float,
) -> tuple[float | None, float | None]:
    """Front and rear spring rates from the wheel arches before and after a known load.

    The load's part of each axle by the lever, over how far that arch sank; both in kg/m.
    ``None`` where the arch did not move, or moved against its load: the tape or the
    springs' friction is then larger than what was to be measured.
    """
    front = mass_kg * ahead_of_rear_axle_m / wheelbase_m
    found: list[float | None] = []
    for load, drop in ((front, front_drop_m), (mass_kg - front, rear_drop_m)):
        found.append(load / drop if load and drop and load / drop > 0 else None)
    return found[0], found[1]
