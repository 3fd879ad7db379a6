"""Setting up weight distribution: what the spring bars give back, and what is then read."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

from mechanics.attitude import ball_height_for_level_m, missing_heights, squat_m
from mechanics.checks import Check, judge
from mechanics.frame import BAR_LENGTH_M
from mechanics.hitch import HitchType, WeightDistribution
from mechanics.limits import load_limits
from mechanics.loads import Loads, compute_loads
from mechanics.plan import Plan
from mechanics.units import KG_PER_LB

HEAVY_KG: Final = 5000 * KG_PER_LB
"""Trailers above this commonly call for weight distribution. Common practice, no source."""

HALF_OF_TRUCK: Final = 0.5
"""So do trailers above this part of the truck's rating. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class BarSetup:
    """Spring bars set to one restoration of the front axle.

    ``bar_force_kg`` is the force at the end of the bars, both sides together;
    ``gauge_kg`` what a gauge under the ball shows with the bars hung. The arch and ball
    heights are ``None`` where the truck's springs or the coupler's height are not known:
    ``front_rise_before_m`` is the front arch against the unhitched truck with slack bars,
    ``front_rise_m`` with the bars set, ``ball_height_m`` the unhitched height of the ball
    at which the loaded trailer rides level with them.
    """

    plan: Plan
    slack: Loads
    loads: Loads
    bar_length_m: float
    bar_force_kg: float
    gauge_kg: float
    slack_checks: tuple[Check, ...]
    checks: tuple[Check, ...]
    front_rise_before_m: float | None
    front_rise_m: float | None
    ball_height_m: float | None


def bars_fit(plan: Plan) -> bool:
    """Whether spring bars can act: a ball behind the rear axle."""
    return plan.hitch.type is HitchType.BALL and plan.truck.hitch_offset_m > 0


def asks_for_bars(plan: Plan) -> tuple[str, ...]:
    """Why handbooks commonly ask for bars here: ``heavy``, ``half_of_truck``, ``hitch_rating``.

    ``hitch_rating``: a part is passed weight-carrying that would hold with bars.
    """
    mass = compute_loads(plan).trailer.mass_kg
    found = []
    if mass > HEAVY_KG:
        found.append("heavy")
    if plan.truck.gvwr_kg is not None and mass > HALF_OF_TRUCK * plan.truck.gvwr_kg:
        found.append("half_of_truck")
    carrying = replace(plan, hitch=replace(plan.hitch, weight_distribution=None))
    tongue = compute_loads(carrying).trailer.tongue_kg
    for part in plan.hitch.parts:
        pairs = (
            (mass, part.max_trailer_mass_kg, part.max_trailer_mass_wd_kg),
            (tongue, part.max_tongue_mass_kg, part.max_tongue_mass_wd_kg),
        )
        for value, carry, with_bars in pairs:
            if carry is not None and with_bars is not None and carry < value <= with_bars:
                found.append("hitch_rating")
    return tuple(dict.fromkeys(found))


def restoration_for_gauge(
    plan: Plan, gauge_kg: float, bar_length_m: float | None = None
) -> float | None:
    """The part of the front axle's drop that bars give back where a gauge under the ball reads
    so much with them hung; may lie outside 0 to 1. ``None`` where bars change no reading.

    The gauge reads ``T + B / b - B / Lc``, and ``B`` grows evenly with the part.
    """
    none, all_of_it = (set_bars(plan, part, bar_length_m).gauge_kg for part in (0.0, 1.0))
    if abs(all_of_it - none) < 1e-9:
        return None
    return (gauge_kg - none) / (all_of_it - none)


def set_bars(plan: Plan, restoration: float, bar_length_m: float | None = None) -> BarSetup:
    """The outfit with slack bars and with bars that give back a part of the front axle's drop.

    ``bar_length_m`` is that of the bars where the plan has none chosen yet.

    Raises:
        InputError: a part below 0 or above 1.
    """
    now = plan.hitch.weight_distribution
    length = (now.bar_length_m if now is not None else None) or bar_length_m
    bars = WeightDistribution(front_axle_restoration=restoration, bar_length_m=length)
    tight = replace(plan, hitch=replace(plan.hitch, weight_distribution=bars))
    carrying = replace(plan, hitch=replace(plan.hitch, weight_distribution=None))
    slack, loads = compute_loads(carrying), compute_loads(tight)
    reach = length or BAR_LENGTH_M
    couple = loads.trailer.couple_kg_m
    force = couple / reach
    before = after = ball = None
    if plan.truck.ride is not None:
        before, after = squat_m(carrying, slack)[1], squat_m(tight, loads)[1]
        if "trailer.coupler_height" not in missing_heights(plan):
            ball = ball_height_for_level_m(tight, loads)
    return BarSetup(
        plan=tight,
        slack=slack,
        loads=loads,
        bar_length_m=reach,
        bar_force_kg=force,
        gauge_kg=loads.trailer.tongue_kg + force - couple / plan.trailer.couple_lever_m,
        slack_checks=tuple(judge(limit) for limit in load_limits(carrying, slack)),
        checks=tuple(judge(limit) for limit in load_limits(tight, loads)),
        front_rise_before_m=before,
        front_rise_m=after,
        ball_height_m=ball,
    )
