"""The planner's side panel of how the outfit rides."""

from __future__ import annotations

from typing import Final

from aspects.level.words import ride_words
from aspects.registry import Ground, Panel

DRAWN: Final = ((1, "true"), (5, "5 times"), (10, "10 times"))
"""How often tilt and squat can be drawn larger, and what that is called."""


def panel(ground: Ground) -> Panel:
    """How it rides in one line, and how often the tilt is drawn."""
    return Panel(
        template="level/_panel.html",
        context={
            "haul_pk": ground.haul.pk,
            "ride": ride_words(ground.report.plan, ground.riding, ground.unit),
            "tilts": []
            if ground.riding is None
            else [(times, words, times == ground.times) for times, words in DRAWN],
        },
    )
