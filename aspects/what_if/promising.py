"""The other ways of a haul that promise most, found without anybody asking."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Final

from book.errors import IncompleteError
from hauls.models import Haul
from hauls.variants import Otherwise, others_that_fit, otherwise
from mechanics.arrange import Wishes
from mechanics.checks import Status
from mechanics.errors import MechanicsError
from mechanics.report import Report, evaluate
from planfile.errors import PlanFileError
from yards.models import Yard

ORDER: Final = (Status.OK, Status.NEAR, Status.UNKNOWN, Status.OVER)
"""Verdicts, the best first."""

Sent = dict[str, str]
"""What the boxes of one way would hold, by the name of the box."""


def promising(haul: Haul, yard: Yard, most: int) -> list[Sent]:
    """The ways that promise most, the best first: another outfit or configuration that would do,
    the same turned round or arranged anew. Ways that leave it as it is are none."""
    found = [
        (_rank(report), sent)
        for sent, report in _ways(haul, yard)
        if report.plan != haul.draft.plan
    ]
    found.sort(key=lambda one: one[0])
    return [sent for _, sent in found[:most]]


def _ways(haul: Haul, yard: Yard) -> Iterator[tuple[Sent, Report]]:
    items = haul.draft.plan.items
    if not items:
        return
    others, _ = others_that_fit(haul, yard, Wishes())
    for other in others:
        change = other.change
        if change.hitch is not None and change.trailer is not None:
            yield _placed(outfit=f"{change.hitch.pk}-{change.trailer.pk}"), evaluate(other.plan)
        for item_id, configuration in change.configurations.items():
            yield _placed(**{"with": f"{item_id}-{configuration.pk}"}), evaluate(other.plan)
    own = [(_placed(), Otherwise(best=True))]
    own += [
        (_placed(turned=item.id), Otherwise(turned=frozenset({item.id}), best=True))
        for item in items
    ]
    for sent, change in own:
        try:
            yield sent, evaluate(otherwise(haul, change).plan)
        except (IncompleteError, PlanFileError, MechanicsError):
            # it cannot be worked out, so it promises nothing
            continue


def _placed(**boxes: str) -> Sent:
    return {**boxes, "best": "1"}


def _rank(report: Report) -> tuple[int, float]:
    reserve = report.least_reserve(share=True)
    return ORDER.index(report.verdict), -(reserve if reserve is not None else -1.0)
