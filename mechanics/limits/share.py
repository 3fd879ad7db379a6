"""Limits of the tongue's share, by the school the yard holds."""

from __future__ import annotations

from mechanics.codes import Family
from mechanics.limits.limit import Form, Limit, Quantity, Sense
from mechanics.loads import Loads
from mechanics.plan import Plan


def _share(loads: Loads) -> float:
    return loads.trailer.share


def share_limits(plan: Plan, loads: Loads) -> list[Limit]:
    """The least and the greatest share of the loaded trailer's mass that rests on the hitch."""
    least, greatest = plan.share_range
    lever = plan.trailer.couple_lever_m
    share, scale = loads.trailer.share, loads.trailer.mass_kg
    return [
        Limit(
            code=Family.SHARE_MIN.of(),
            quantity=Quantity.SHARE,
            value=share,
            limit=least,
            read=_share,
            sense=Sense.AT_LEAST,
            forms=(Form(const=0.0, me=least, te=-1.0, a=least - 1, b=1 / lever, scale=scale),),
        ),
        Limit(
            code=Family.SHARE_MAX.of(),
            quantity=Quantity.SHARE,
            value=share,
            limit=greatest,
            read=_share,
            forms=(
                Form(const=0.0, me=-greatest, te=1.0, a=1 - greatest, b=-1 / lever, scale=scale),
            ),
        ),
    ]
