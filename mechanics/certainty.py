"""Which checks of a plan are settled by what is known, and which only by where figures lie in
their bands.

A check is settled where it holds for every figure in its tolerance, or fails for every one, with
the items where they stand and stopped as near their marks as they are. As with the sure window,
each figure is taken at its own worst at once, so what is called settled is.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from mechanics.limits import ROUNDING, Form, Limit
from mechanics.plan import Plan
from mechanics.windows import shifted_limits


def unsettled(
    plan: Plan,
    limits: Sequence[Limit],
    shifted: Sequence[tuple[float, Sequence[Limit]]] | None = None,
) -> frozenset[str]:
    """Codes of the load limits that hold for some figures in their tolerances and not for others.

    ``limits`` are the plan's load limits, ``shifted`` the same at every end of its taped places,
    where somebody has them already. One that is not known is unknown, not unsettled.
    """
    holds = dict.fromkeys((limit.code for limit in limits), True)
    fails = dict(holds)
    for start_m, found in shifted_limits(plan, limits) if shifted is None else shifted:
        for limit in found:
            ranges = [_range(plan, start_m, form) for form in limit.forms]
            holds[limit.code] &= all(most <= slack for _, most, slack in ranges)
            fails[limit.code] &= any(least > slack for least, _, slack in ranges)
    return frozenset(code for code in holds if not holds[code] and not fails[code])


def _range(plan: Plan, start_m: float, form: Form) -> tuple[float, float, float]:
    """The least and the greatest a form comes to over all tolerances, and what counts as zero."""
    if math.isinf(form.const):
        return form.const, form.const, 0.0
    trailer = plan.trailer
    middle = form.const + form.me * trailer.empty_mass_kg + form.te * trailer.empty_tongue_mass_kg
    off = (
        form.const_tolerance
        + abs(form.me) * trailer.empty_mass_tolerance_kg
        + abs(form.te) * trailer.empty_tongue_mass_tolerance_kg
    )
    least, most = middle - off, middle + off
    for item in plan.items:
        lever = form.a + form.b * (start_m + item.balance_tape_m) + form.c * item.balance_left_m
        reach = abs(form.b) * (item.cg.ahead_tolerance_m + item.placement.reference_tolerance_m)
        corners = [
            mass * (lever + by)
            for mass in (
                item.mass_kg - item.mass_tolerance_kg,
                item.mass_kg + item.mass_tolerance_kg,
            )
            for by in (-reach, reach)
        ]
        least, most = least + min(corners), most + max(corners)
    return least, most, ROUNDING * form.scale
