"""What the load card says of tying down."""

from __future__ import annotations

from typing import Final

from aspects.registry import CardPart, CardTie, Ground
from aspects.tied_down.driver_list import list_page
from hauls.tying import securing_of
from wording.phrases import within

NOTHING: Final = "No ties are planned. Tie every machine down at four corners at least."


def card(ground: Ground) -> CardPart:
    """What to do to each machine, and the ties in the order to put them on, each with its limit."""
    page = list_page(ground.haul, ground.unit)
    several = len(page.machines) > 1
    before = tuple(
        f"{number}: {within(line.words)}" if several else line.words
        for number, machine in enumerate(page.machines, 1)
        for line in machine.lines
    )
    if not securing_of(ground.draft).ties:
        return CardPart(before=before, ties_said=NOTHING)
    return CardPart(
        before=before,
        ties=tuple(
            CardTie(number=line.number, gear=line.gear, way=line.words, limit=line.limit)
            for line in page.ties
        ),
        ties_said=f"{page.verdict_words[:1].upper()}{page.verdict_words[1:]}. "
        "Hooks up and over, ends secured.",
    )
