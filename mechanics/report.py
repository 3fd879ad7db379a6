"""One call for everything: loads, checks, windows, verdict."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from mechanics.certainty import unsettled
from mechanics.checks import Check, Status, judge, worst
from mechanics.limits import Quantity, deck_limits, load_limits
from mechanics.loads import Loads, compute_loads, tongue_per_metre_kg
from mechanics.plan import Plan
from mechanics.windows import Compromise, Window, WindowFinder


@dataclass(frozen=True, kw_only=True, slots=True)
class Report:
    """What is said about a plan. ``tongue_per_metre_kg`` is ``None`` with no items.

    ``unsettled`` are the codes of checks whose answer depends on where figures lie in their
    bands; empty for a plan in which nothing is estimated, which is judged as entered.
    """

    plan: Plan
    loads: Loads
    checks: tuple[Check, ...]
    windows: tuple[Window, ...]
    tongue_per_metre_kg: float | None
    unsettled: frozenset[str] = frozenset()

    @property
    def verdict(self) -> Status:
        """The worst status of all checks."""
        return worst(self.checks)

    def least_reserve(self, *, share: bool = False, without: Collection[str] = ()) -> float | None:
        """The least part that any rating has left, negative where one is passed; ``None`` where
        none is known. With ``share`` the share's two ends count too; ``without`` are codes of
        limits left aside."""
        kinds = (Quantity.MASS, Quantity.SHARE) if share else (Quantity.MASS,)
        return min(
            (
                check.reserve
                for check in self.checks
                if check.quantity in kinds
                and check.reserve is not None
                and check.code not in without
            ),
            default=None,
        )

    def check(self, code: str) -> Check | None:
        """The first check of a code; ``None`` where there is none."""
        return next((check for check in self.checks if check.code == code), None)


def compromise(plan: Plan, index: int) -> Compromise | None:
    """Where to stand an item that has no right place (:meth:`WindowFinder.compromise`)."""
    loads = compute_loads(plan)
    return WindowFinder(plan, load_limits(plan, loads)).compromise(index)


def evaluate(plan: Plan) -> Report:
    """Loads, checks and windows of a plan.

    Raises:
        InputError: the figures are so extreme that the loads overflow.
    """
    loads = compute_loads(plan)
    limits = load_limits(plan, loads)
    checks = tuple(judge(limit) for limit in (*limits, *deck_limits(plan)))
    finder = WindowFinder(plan, limits)
    return Report(
        plan=plan,
        loads=loads,
        checks=checks,
        windows=tuple(finder.window(index) for index in range(len(plan.items))),
        tongue_per_metre_kg=tongue_per_metre_kg(plan),
        unsettled=unsettled(plan, limits, finder.shifted) if plan.estimated else frozenset(),
    )
