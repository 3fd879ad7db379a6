"""Limits of the trailer: its plate, its axles and tires, its two sides."""

from __future__ import annotations

from collections.abc import Callable

from mechanics.codes import Family
from mechanics.limits.limit import Form, Limit, mass_limit
from mechanics.limits.tongue import trailer_mass, trailer_mass_forms
from mechanics.loads import Loads, bar_factor_m
from mechanics.plan import Plan
from mechanics.rules import TrailerGvwrSchool


def trailer_limits(plan: Plan, loads: Loads) -> list[Limit]:
    """Plate, axles, tires, sides; tires and sides only where their ratings are known."""
    trailer = plan.trailer
    bars = bar_factor_m(plan)
    lever = trailer.couple_lever_m
    factors = trailer.axle_factors_per_m
    count = len(trailer.axles)

    if plan.rules.trailer_gvwr is TrailerGvwrSchool.WHOLE:
        read_gvwr = trailer_mass
        gvwr_forms = trailer_mass_forms(trailer.gvwr_kg)
    else:
        read_gvwr = _axles_mass
        gvwr_forms = _axle_forms(trailer.gvwr_kg, 1.0, 1 / lever, bars, lever)
    found = [
        mass_limit(
            Family.TRAILER_GVWR.of(),
            loads,
            read_gvwr,
            trailer.gvwr_kg,
            missing="trailer.gvwr",
            forms=gvwr_forms,
        )
    ]
    for index, (axle, factor) in enumerate(zip(trailer.axles, factors, strict=True)):
        found.append(
            mass_limit(
                Family.TRAILER_AXLE.of(index + 1),
                loads,
                _axle_reader(index),
                axle.gawr_kg,
                missing=f"trailer.axles[{index}].gawr",
                forms=_axle_forms(axle.gawr_kg, 1 / count, factor, bars, lever),
            )
        )
    for index, (axle, factor) in enumerate(zip(trailer.axles, factors, strict=True)):
        if axle.tire_capacity_kg is not None:
            found.append(
                mass_limit(
                    Family.TRAILER_TIRES.of(index + 1),
                    loads,
                    _axle_reader(index),
                    axle.tire_capacity_kg,
                    forms=_axle_forms(axle.tire_capacity_kg, 1 / count, factor, bars, lever),
                )
            )
    side_limit = trailer.side_limit_kg
    if side_limit is not None:
        for side, read, sign in (
            ("left", _left_side, 1),
            ("right", _right_side, -1),
        ):
            forms = _axle_forms(
                side_limit, 0.5, 0.5 / lever, bars, lever, c=sign / trailer.track_width_m
            )
            found.append(
                mass_limit(Family.TRAILER_SIDE.of(side), loads, read, side_limit, forms=forms)
            )
    return found


def _axles_mass(loads: Loads) -> float:
    return loads.trailer.axles_mass_kg


def _left_side(loads: Loads) -> float:
    return loads.trailer.left_kg


def _right_side(loads: Loads) -> float:
    return loads.trailer.right_kg


def _axle_reader(index: int) -> Callable[[Loads], float]:
    return lambda loads: loads.trailer.axles_kg[index]


def _axle_forms(
    limit: float | None, empty: float, factor: float, bars: float, lever: float, c: float = 0.0
) -> tuple[Form, ...]:
    """``empty (Me - Te) + factor (P + bars max(T, 0)) <= limit``.

    The load is convex in the tongue, so it stays below the limit exactly when both of
    its straight pieces do.
    """
    if limit is None:
        return ()
    scale = max(limit, 1.0)
    slack = Form(const=-limit, me=empty, te=-empty, b=factor, c=c, scale=scale)
    if not bars:
        return (slack,)
    pull = factor * bars
    tight = Form(
        const=-limit,
        me=empty,
        te=pull - empty,
        a=pull,
        b=factor - pull / lever,
        c=c,
        scale=scale,
    )
    return (slack, tight)
