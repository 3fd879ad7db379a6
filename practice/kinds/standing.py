"""Loads at their best place, for kinds that ask about something else."""

from __future__ import annotations

from measures import UnitSystem
from measures.marks import STEPS
from mechanics.report import evaluate
from mechanics.standing import stood
from planfile.draft import Draft
from practice.cases import UnfitError


def best_placed(draft: Draft) -> Draft:
    """The only load where it is best put.

    Raises:
        UnfitError: it has no right place.
    """
    if not evaluate(draft.plan).windows[0].intervals:
        raise UnfitError("It has no right place on this deck.")
    return draft.stood(stood(draft.plan, 0, STEPS[UnitSystem.US]))
