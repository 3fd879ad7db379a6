"""The load card's picture: the outfit with what stands on it, and how far back each mark is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from measures import UnitSystem
from mechanics.report import Report
from pictures.drawing import Drawing, draw
from pictures.outfit import GROUND_Y, WIDTH
from pictures.svg import Attributes
from planfile.draft import Draft

ROW: Final = 30
"""Height of one dimension under the ground."""

BESIDE: Final = 8
"""Between the end of a dimension and words that have no room on it."""

LETTER: Final = 9.5
"""Usual width of one letter of a dimension's words."""


@dataclass(frozen=True, kw_only=True, slots=True)
class MarkDimension:
    """From the headboard to one load's mark: the line with its ticks, and where its words stand.

    ``anchor`` is how they stand there: ``middle`` over the line where it is long enough, else
    ``start`` behind it.
    """

    line: str
    drop: str
    x: float
    y: float
    anchor: str
    text: str


@dataclass(frozen=True, kw_only=True, slots=True)
class CardPicture:
    """The drawing, its dimensions, and what of it is shown."""

    drawing: Drawing
    marks: tuple[MarkDimension, ...]
    headboard: str
    top: float
    height: float
    width: int = WIDTH

    @property
    def view_box(self) -> Attributes:
        """All of it."""
        return Attributes(f"0 {self.top:.0f} {self.width} {self.height:.0f}")


def picture_of(
    report: Report, draft: Draft, figures: Sequence[str], unit: UnitSystem
) -> CardPicture:
    """The picture of a report; ``figures`` is how far back each mark is, in words."""
    drawing = draw(
        report, drawn=draft.drawn, selected=None, end_texts=[], unit=unit, look=draft.look
    )
    headboard = drawing.tape.x
    marks = []
    for n, (item, words) in enumerate(zip(drawing.items, figures, strict=True)):
        text = words if drawing.one else f"{item.number}: {words}"
        y = GROUND_Y + 22 + ROW * n
        room = abs(item.mark_x - headboard)
        fits = room > LETTER * len(text) + 2 * BESIDE
        marks.append(
            MarkDimension(
                line=f"M{headboard:.1f} {y}H{item.mark_x:.1f}"
                f"M{headboard:.1f} {y - 5}v10M{item.mark_x:.1f} {y - 5}v10",
                drop=f"M{item.mark_x:.1f} {drawing.deck_y:.1f}V{y + 6}",
                x=(headboard + item.mark_x) / 2 if fits else max(headboard, item.mark_x) + BESIDE,
                y=y - 6 if fits else y + 5,
                anchor="middle" if fits else "start",
                text=text,
            )
        )
    bottom = GROUND_Y + 22 + ROW * len(marks)
    top = min((drawing.outfit.top, *(item.top_y for item in drawing.items))) - 8
    return CardPicture(
        drawing=drawing,
        marks=tuple(marks),
        headboard=f"M{headboard:.1f} {drawing.deck_y:.1f}V{bottom - ROW + 8}",
        top=top,
        height=bottom - top,
    )
