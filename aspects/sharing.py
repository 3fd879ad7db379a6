"""A haul in words that can be handed on: verdict, where each load stops, where it opens."""

from __future__ import annotations

from hauls.models import Haul
from measures import UnitSystem
from mechanics.item import Facing
from mechanics.report import Report, evaluate
from planfile.draft import Drawn
from planfile.errors import PlanFileError
from wording.places import place_words, way_words
from wording.statuses import before_hauling, verdict_of


def load_line(report: Report, index: int, drawn: Drawn, unit: UnitSystem) -> str:
    """Where a load stands and which way round, in a line."""
    item = report.plan.items[index]
    way = way_words(drives=drawn.drives, forward=item.placement.facing is Facing.FORWARD)
    place = place_words(report, index, unit)
    return f"{item.called}: {drawn.mark} {place} behind the headboard, {way}."


def shared_words(haul: Haul, unit: UnitSystem) -> str:
    """What is read out of a haul: its verdict, and the mark of every load."""
    try:
        draft = haul.draft
        report = evaluate(draft.plan)
    except PlanFileError:
        return f"{haul.name}. Its plan cannot be read."
    verdict = verdict_of(report)
    lines = [f"{haul.name}: {verdict.word}.", f"{draft.truck_name}, {draft.trailer_name}."]
    for index, drawn in enumerate(draft.drawn):
        lines.append(load_line(report, index, drawn, unit))
    if words := before_hauling(verdict):
        lines.append(words)
    return "\n".join(lines)
