"""The planner's side panel of how the outfit rides."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from aspects.level.words import RideWords, ride_words
from aspects.registry import Ground, Panel

DRAWN: Final = ((1, "true"), (5, "5 times"), (10, "10 times"))
"""How often tilt and squat can be drawn larger, and what that is called."""


@dataclass(frozen=True, kw_only=True, slots=True)
class LevelPanel:
    """How it rides; ``tilts`` are how often tilt can be drawn, in words, and whether it is."""

    haul_pk: int
    ride: RideWords
    tilts: tuple[tuple[int, str, bool], ...]


def panel(ground: Ground) -> Panel:
    """How it rides in one line, and how often the tilt is drawn."""
    tilts = ((times, words, times == ground.times) for times, words in DRAWN)
    return Panel(
        template="level/_panel.html",
        it=LevelPanel(
            haul_pk=ground.haul.pk,
            ride=ride_words(ground.report.plan, ground.riding, ground.unit),
            tilts=() if ground.riding is None else tuple(tilts),
        ),
    )
