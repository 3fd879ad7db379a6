"""The planner's side panel of getting on and off."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from aspects.registry import Ground, Panel
from hauls.climbs import climb_of, driven
from wording.loading import ground_words, holds_words
from wording.phrases import begun

MOST: Final = 3
"""Machines of which the panel tells; with more, every step of a drag would wait for it."""


@dataclass(frozen=True, kw_only=True, slots=True)
class ClimbPanel:
    """Getting on and off in one line; no word where there is too much to work out."""

    haul_pk: int
    status: str
    word: str
    place: str


def panel(ground: Ground) -> Panel:
    """How what is planned gets on where it is loaded."""
    draft = ground.draft
    status, word = "", ""
    if len(driven(draft)) <= MOST:
        climb = climb_of(draft)
        status, word = climb.status.value, begun(climb.word)
    return Panel(
        template="on_off/_panel.html",
        it=ClimbPanel(
            haul_pk=ground.haul.pk,
            status=status,
            word=word,
            place=f"{begun(holds_words(draft.plan))}, {ground_words(draft.plan.site)}.",
        ),
    )
