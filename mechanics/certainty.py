"""Which checks of a plan are settled by what is known, and which only by where figures lie in
their bands.

A check is settled where it holds for every figure in its tolerance, or fails for every one, with
the items where they stand and stopped as near their marks as they are. As with the sure window,
each figure is taken at its own worst at once, so what is called settled is.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

from mechanics.item import Item
from mechanics.limits import ROUNDING, Form, Limit
from mechanics.plan import Plan
from mechanics.windows import shifted_limits

Shifted = Sequence[tuple[float, Sequence[Limit]]]
"""Where the deck starts and a plan's load limits, at each end of its taped tolerances
(:func:`mechanics.windows.shifted_limits`)."""


def unsettled(
    plan: Plan, limits: Sequence[Limit], shifted: Shifted | None = None
) -> frozenset[str]:
    """Codes of the load limits that hold for some figures in their tolerances and not for others.

    ``limits`` are the plan's load limits, ``shifted`` the same at every end of its taped places,
    where somebody has them already. One that is not known is unknown, not unsettled.
    """
    return Doubt(plan, None, limits, shifted_limits(plan, limits) if shifted is None else shifted)()


class _Range(NamedTuple):
    """What a form comes to over all tolerances but for the item that moves; ``slack`` counts as
    zero."""

    form: Form
    start_m: float
    least: float
    most: float
    slack: float


class Doubt:
    """The same for one item wherever along the deck it stands, with all that does not move with it
    summed up once.

    ``index`` is the item that moves, ``None`` where none does.
    """

    def __init__(
        self, plan: Plan, index: int | None, limits: Sequence[Limit], shifted: Shifted
    ) -> None:
        self._moving = None if index is None else plan.items[index]
        by_code: dict[str, list[tuple[_Range, ...]]] = {limit.code: [] for limit in limits}
        for start_m, found in shifted:
            for limit in found:
                by_code[limit.code].append(
                    tuple(self._still(plan, start_m, form) for form in limit.forms)
                )
        # no form of a limit that does not move with the item ever changes its answer
        self._settles = {
            code: shifts
            for code, shifts in by_code.items()
            if any(one.form.b for ranges in shifts for one in ranges)
        }
        self._always = frozenset(
            code
            for code, shifts in by_code.items()
            if code not in self._settles and self._open(shifts, self._moving)
        )

    def __call__(self) -> frozenset[str]:
        """What is unsettled with the item where the plan has it."""
        return self.at(None)

    def at(self, item: Item | None) -> frozenset[str]:
        """What is unsettled with the item that moves somewhere else and nothing else changed;
        ``None`` is where the plan has it."""
        here = item or self._moving
        moving = (code for code, shifts in self._settles.items() if self._open(shifts, here))
        return self._always.union(moving)

    def _open(self, shifts: Sequence[tuple[_Range, ...]], item: Item | None) -> bool:
        holds = fails = True
        for ranges in shifts:
            passed = False
            for one in ranges:
                least, most = one.least, one.most
                if item is not None and not math.isinf(least):
                    by_least, by_most = _of_item(item, one.start_m, one.form)
                    least, most = least + by_least, most + by_most
                holds = holds and most <= one.slack
                passed = passed or least > one.slack
            fails = fails and passed
            if not holds and not fails:
                return True
        return False

    def _still(self, plan: Plan, start_m: float, form: Form) -> _Range:
        if math.isinf(form.const):
            return _Range(form, start_m, form.const, form.const, 0.0)
        trailer = plan.trailer
        middle = (
            form.const + form.me * trailer.empty_mass_kg + form.te * trailer.empty_tongue_mass_kg
        )
        off = (
            form.const_tolerance
            + abs(form.me) * trailer.empty_mass_tolerance_kg
            + abs(form.te) * trailer.empty_tongue_mass_tolerance_kg
        )
        least, most = middle - off, middle + off
        for item in plan.items:
            if item is not self._moving:
                by_least, by_most = _of_item(item, start_m, form)
                least, most = least + by_least, most + by_most
        return _Range(form, start_m, least, most, ROUNDING * form.scale)


def _of_item(item: Item, start_m: float, form: Form) -> tuple[float, float]:
    """The least and the greatest that one item is of a form."""
    lever = form.a + form.b * (start_m + item.balance_tape_m) + form.c * item.balance_left_m
    reach = abs(form.b) * (item.cg.ahead_tolerance_m + item.placement.reference_tolerance_m)
    light, heavy = item.mass_kg - item.mass_tolerance_kg, item.mass_kg + item.mass_tolerance_kg
    near, far = lever - reach, lever + reach
    corners = (light * near, light * far, heavy * near, heavy * far)
    return min(corners), max(corners)
