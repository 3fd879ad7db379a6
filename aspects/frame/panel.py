"""The planner's side panel of the frame."""

from __future__ import annotations

from aspects.frame.words import frame_words
from aspects.registry import Ground, Panel


def panel(ground: Ground) -> Panel:
    """The frame in one line."""
    return Panel(
        template="frame/_panel.html",
        context={
            "haul_pk": ground.haul.pk,
            "frame": frame_words(ground.report.plan, ground.unit),
        },
    )
