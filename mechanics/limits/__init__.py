"""Every limit of a plan, split by what is limited."""

from __future__ import annotations

from mechanics.limits.deck import deck_limits
from mechanics.limits.hitch import hitch_limits
from mechanics.limits.limit import ROUNDING, SAME_SIZE_M, Form, Limit, Quantity, Sense, passes
from mechanics.limits.share import share_limits
from mechanics.limits.trailer import trailer_limits
from mechanics.limits.truck import truck_limits
from mechanics.loads import Loads
from mechanics.plan import Plan

__all__ = [
    "ROUNDING",
    "SAME_SIZE_M",
    "Form",
    "Limit",
    "Quantity",
    "Sense",
    "deck_limits",
    "load_limits",
    "passes",
]


def load_limits(plan: Plan, loads: Loads) -> list[Limit]:
    """Limits of trailer, truck, combination, hitch and share, in the order of their codes.

    A limit that a practitioner must know is listed even when the plan lacks it; optional
    ones are left out then. An empty trailer is not judged by a share: its tongue is the
    maker's.
    """
    return [
        *trailer_limits(plan, loads),
        *truck_limits(plan, loads),
        *hitch_limits(plan, loads),
        *(share_limits(plan, loads) if plan.items else ()),
    ]
