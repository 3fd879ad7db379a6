"""A haul in words that can be handed on: verdict, where each load stops, where it opens."""

from __future__ import annotations

from hauls.models import Haul
from measures import UnitSystem
from mechanics.report import evaluate
from planfile.errors import PlanFileError
from wording.phrases import begun
from wording.places import place_words
from wording.statuses import before_hauling, verdict_of


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
        item = report.plan.items[index]
        place = place_words(report, index, unit)
        way = item.placement.facing.value
        lines.append(
            f"{item.called}: {begun(drawn.mark)} {place} behind the headboard, facing {way}."
        )
    if words := before_hauling(verdict):
        lines.append(words)
    return "\n".join(lines)
