"""Loads at their best place, for kinds that ask about something else."""

from __future__ import annotations

from dataclasses import dataclass

from measures import UnitSystem
from measures.marks import STEPS
from mechanics.checks import Status
from mechanics.report import Report, evaluate
from mechanics.standing import stood
from planfile.draft import Draft
from practice.cases import UnfitError


@dataclass(frozen=True, kw_only=True, slots=True)
class Judged:
    """One way to haul something, and what the core says of it."""

    draft: Draft
    report: Report

    @property
    def holds(self) -> bool:
        """Whether it may go."""
        return self.report.verdict in (Status.OK, Status.NEAR)

    def reserve(self, *, share: bool = False) -> float:
        """The least part that is left of a rating, with ``share`` of the share's range too."""
        return self.report.least_reserve(share=share) or 0.0


def best_placed(draft: Draft) -> Draft:
    """The only load where it is best put.

    Raises:
        UnfitError: it has no right place.
    """
    if not evaluate(draft.plan).windows[0].intervals:
        raise UnfitError("It has no right place on this deck.")
    return draft.stood(stood(draft.plan, 0, STEPS[UnitSystem.US]))
