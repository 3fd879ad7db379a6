"""Several items stood at once: arranged where that leaves most, brought onto marks, in a row."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from mechanics.arrange import Wishes, arrange, changing_reserve, lines_of
from mechanics.checks import Status
from mechanics.marks import mark_within
from mechanics.placing import ROOM_BETWEEN_M, moved
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.standing import is_sure, piece_at

TAPE_STEP_M: Final = 0.0127
"""Half an inch: as finely as a crew stops a machine."""

KEPT_RESERVE: Final = 0.9
"""Part of the least reserve that has to be left after a mark is put on the tape's marks."""

SHIFTS: Final = 100
"""Places tried along the free part of the deck."""


def stood_best(plan: Plan, *, seconds: float) -> Plan:
    """Several items where the least reserve is largest, of the limits that can hold where some
    are passed however they stand; in a row where not even that is found.

    ``seconds`` bounds each search.
    """
    for room in (ROOM_BETWEEN_M, 0.0):
        found = arrange(plan, Wishes(room_m=room), seconds=seconds, despite=True).found
        if found:
            return on_the_tape(found[0].plan)
    return lined_up(plan)


def on_the_tape(plan: Plan) -> Plan:
    """The plan with every mark on a half inch of the tape, or finer where that costs reserve
    or takes an item out of its sure window."""
    was_over, was_left = _left_over(plan)
    was_sure = _sure(plan)
    for step in (TAPE_STEP_M, TAPE_STEP_M / 2, TAPE_STEP_M / 4, TAPE_STEP_M / 8):
        tidy = plan
        for index in range(len(plan.items)):
            tidy = _on_a_step(tidy, index, step)
        over, left = _left_over(tidy)
        if over <= was_over and left >= was_left * KEPT_RESERVE and was_sure <= _sure(tidy):
            return tidy
    return plan


def _sure(plan: Plan) -> set[int]:
    """Which items stand in their sure windows."""
    report = evaluate(plan)
    return {index for index in range(len(plan.items)) if is_sure(report, index)}


def _on_a_step(plan: Plan, index: int, step_m: float) -> Plan:
    """The plan with one item on the nearest mark, of those in its window where there are any."""
    at, window = plan.items[index].placement.reference_m, evaluate(plan).windows[index]
    piece = piece_at(window.sure, at) or piece_at(window.intervals, at)
    mark = None if piece is None else mark_within(at, piece.start_m, piece.end_m, step_m)
    return moved(plan, index, round(at / step_m) * step_m if mark is None else mark)


def _left_over(plan: Plan) -> tuple[int, float]:
    """How many limits are passed, and the least reserve on loads and share."""
    report = evaluate(plan)
    over = sum(check.status is Status.OVER for check in report.checks)
    return over, report.least_reserve(share=True) or 0.0


def lined_up(plan: Plan) -> Plan:
    """The items one behind the other in their order, all of it where reserve is largest.

    The row is tried along the deck in steps; this is a start for the person who plans, and
    no claim that another order would not be better.
    """
    row, at = [], 0.0
    for item in plan.items:
        row.append(at + item.reach_forward_m)
        at = row[-1] + item.reach_rearward_m + ROOM_BETWEEN_M
    free = plan.trailer.deck.length_m - (at - ROOM_BETWEEN_M)
    rows = (_in_a_row(plan, row, max(free, 0.0) * step / SHIFTS) for step in range(SHIFTS + 1))
    # what no place changes says nothing of this one
    return max(rows, key=lambda one: changing_reserve(one, lines_of(one)))


def _in_a_row(plan: Plan, row: Sequence[float], shift_m: float) -> Plan:
    for index, place in enumerate(row):
        plan = moved(plan, index, place + shift_m)
    return plan
