"""One call for everything: loads, checks, windows, verdict."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

from mechanics.certainty import unsettled
from mechanics.checks import Check, Status, judge, worst
from mechanics.errors import InputError
from mechanics.limits import Limit, Quantity, deck_limits, load_limits
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
    finder = WindowFinder(plan, limits)
    return Report(
        plan=plan,
        loads=loads,
        checks=_judged(plan, limits),
        windows=tuple(finder.window(index) for index in range(len(plan.items))),
        tongue_per_metre_kg=tongue_per_metre_kg(plan),
        unsettled=unsettled(plan, limits, finder.shifted) if plan.estimated else frozenset(),
    )


def with_item_elsewhere(report: Report, plan: Plan) -> Report:
    """The report of a plan in which one item stands elsewhere and nothing else is changed; much
    quicker than :func:`evaluate`. That item's window is the old one, for its own place moves none
    of its own; those of other items are not looked at again.

    Raises:
        InputError: figures are estimated; which checks are settled has to be worked out anew.
    """
    if plan.estimated:
        raise InputError("estimates", "measured figures alone")
    loads = compute_loads(plan)
    checks = _judged(plan, load_limits(plan, loads))
    return replace(report, plan=plan, loads=loads, checks=checks)


def _judged(plan: Plan, limits: Sequence[Limit]) -> tuple[Check, ...]:
    return tuple(judge(limit) for limit in (*limits, *deck_limits(plan)))
