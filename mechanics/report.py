"""One call for everything: loads, checks, windows, verdict."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

from mechanics.certainty import Doubt, unsettled
from mechanics.checks import Check, Status, judge, worst
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
    report, limits, finder = _worked_out(plan)
    if not plan.estimated:
        return report
    return replace(report, unsettled=unsettled(plan, limits, finder.shifted))


class Elsewhere:
    """Reports of a plan in which one item stands elsewhere along the deck and nothing else is
    changed; much quicker than :func:`evaluate`.

    That item's window is the plan's, for its own place moves none of its own; those of other items
    are not looked at again.

    Raises:
        InputError: as :func:`evaluate`.
    """

    def __init__(self, plan: Plan, index: int) -> None:
        report, limits, finder = _worked_out(plan)
        self._index = index
        self._doubt = Doubt(plan, index, limits, finder.shifted) if plan.estimated else None
        self.report = report
        """The plan's own, but for what is unsettled."""

    def at(self, plan: Plan) -> Report:
        """The report of the plan with the item where this one has it."""
        loads = compute_loads(plan)
        return replace(
            self.report,
            plan=plan,
            loads=loads,
            checks=_judged(plan, load_limits(plan, loads)),
            unsettled=self._doubt.at(plan.items[self._index]) if self._doubt else frozenset(),
        )


def _worked_out(plan: Plan) -> tuple[Report, Sequence[Limit], WindowFinder]:
    """A plan's report but for what is unsettled, with what that is found from."""
    loads = compute_loads(plan)
    limits = load_limits(plan, loads)
    finder = WindowFinder(plan, limits)
    report = Report(
        plan=plan,
        loads=loads,
        checks=_judged(plan, limits),
        windows=tuple(finder.window(index) for index in range(len(plan.items))),
        tongue_per_metre_kg=tongue_per_metre_kg(plan),
    )
    return report, limits, finder


def _judged(plan: Plan, limits: Sequence[Limit]) -> tuple[Check, ...]:
    return tuple(judge(limit) for limit in (*limits, *deck_limits(plan)))
