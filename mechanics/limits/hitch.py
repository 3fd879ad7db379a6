"""Limits of the hitch: the ball in the coupler, and what each part of the chain may carry."""

from __future__ import annotations

from mechanics.codes import Family
from mechanics.limits.limit import SAME_SIZE_M, Form, Limit, Quantity, Sense, mass_limit
from mechanics.limits.tongue import tongue, tongue_form, trailer_mass, trailer_mass_forms
from mechanics.loads import Loads
from mechanics.plan import Plan
from mechanics.rules import NEAR_HITCH


def _ball_size_limits(plan: Plan) -> list[Limit]:
    """The ball against the coupler; cannot say where only one of the two is known."""
    ball, coupler = plan.hitch.ball_diameter_m, plan.trailer.coupler_size_m
    if ball is None and coupler is None:
        return []
    forms: tuple[Form, ...] = ()
    if ball is not None and coupler is not None:
        forms = (Form(const=abs(ball - coupler) - SAME_SIZE_M),)
    return [
        Limit(
            code=Family.BALL_SIZE.of(),
            quantity=Quantity.LENGTH,
            value=ball or 0.0,
            limit=None if ball is None else coupler,
            sense=Sense.EQUAL,
            missing="hitch.ball_diameter" if ball is None else "trailer.coupler_size",
            forms=forms,
        )
    ]


def hitch_limits(plan: Plan, loads: Loads) -> list[Limit]:
    """Ball and coupler of one size, then trailer and tongue rating of each part of the chain."""
    lever = plan.trailer.couple_lever_m
    found = _ball_size_limits(plan)
    for family, quantity, rating, forms in (
        (Family.PART_TRAILER, trailer_mass, plan.hitch.trailer_limit_kg, trailer_mass_forms),
        (
            Family.PART_TONGUE,
            tongue,
            plan.hitch.tongue_limit_kg,
            lambda limit: (tongue_form(0.0, (1.0, 1.0), limit, 0.0, lever),),
        ),
    ):
        for part in plan.hitch.parts:
            limit = rating(part)
            if limit is not None:
                found.append(
                    mass_limit(
                        family.of(part.name),
                        loads,
                        quantity,
                        limit,
                        near=NEAR_HITCH,
                        forms=forms(limit),
                    )
                )
    return found
