"""The planner's side panel of the frame."""

from __future__ import annotations

from dataclasses import dataclass

from aspects.frame.words import FrameWords, frame_words
from aspects.registry import Ground, Panel


@dataclass(frozen=True, kw_only=True, slots=True)
class FramePanel:
    """The frame in one line."""

    haul_pk: int
    frame: FrameWords


def panel(ground: Ground) -> Panel:
    """The frame of what is planned."""
    frame = frame_words(ground.report.plan, ground.unit)
    return Panel(template="frame/_panel.html", it=FramePanel(haul_pk=ground.haul.pk, frame=frame))
