"""The load card as a PDF: one sheet, black on white, readable at arm's length in rain."""

from __future__ import annotations

from collections.abc import Sequence
from io import BytesIO
from pathlib import Path
from typing import Final

import segno
from fpdf import FPDF
from fpdf.drawing_primitives import Transform
from fpdf.enums import MethodReturnValue, XPos, YPos
from fpdf.svg import SVGObject

from aspects.card.ink import inked
from aspects.card.page import CardList, LoadCard
from aspects.card.picture import CardPicture
from measures import UnitSystem

FONTS: Final = Path(__file__).resolve().parent / "fonts"
TEXT, HEAD, FURTHER = "text", "head", "further"

MARGIN: Final = 30.0
GAP: Final = 9.0
QR: Final = 62.0

SIZES: Final = (1.0, 0.93, 0.86, 0.79, 0.72, 0.65)
"""How large everything is written, the largest at which it fits on one sheet."""

SIZE: Final = {UnitSystem.US: "letter", UnitSystem.METRIC: "a4"}


def printed(card: LoadCard, unit: UnitSystem) -> bytes:
    """The card as a PDF. Where it does not fit on one sheet at any size that can be read, it runs
    over to a second."""
    fitting = (size for size in SIZES[:-1] if _Sheet(card, unit, size, drawn=False).fits)
    return _Sheet(card, unit, next(fitting, SIZES[-1])).done()


class _Sheet:
    """A sheet being filled from top to bottom; not ``drawn``, only to see whether all fits."""

    def __init__(
        self, card: LoadCard, unit: UnitSystem, size: float, *, drawn: bool = True
    ) -> None:
        self.card, self.size, self.drawn = card, size, drawn
        pdf = self.pdf = FPDF(unit="pt", format=SIZE[unit])
        pdf.set_title(f"Load card: {card.name}")
        pdf.set_creator("Eyebolt")
        pdf.set_creation_date(card.printed)
        pdf.set_margin(MARGIN)
        pdf.c_margin = 0
        for family, style, weight in ((TEXT, "", "barlow-400"), (TEXT, "B", "barlow-600")):
            pdf.add_font(family, style, FONTS / f"{weight}-latin.ttf")
            pdf.add_font(FURTHER, style, FONTS / f"{weight}-latin-ext.ttf")
        pdf.add_font(HEAD, "B", FONTS / "barlow-semi-condensed-600-latin.ttf")
        pdf.set_fallback_fonts([FURTHER])
        pdf.set_auto_page_break(size == SIZES[-1], margin=MARGIN)
        pdf.add_page()
        self.width = pdf.epw
        for part in (
            self._head,
            self._alarm,
            self._marks,
            self._picture,
            self._figures,
            self._warnings,
            self._columns,
            self._sways,
            self._foot,
        ):
            part()
            if not drawn and not self.fits:
                return

    @property
    def fits(self) -> bool:
        """Whether all of it stands on one sheet."""
        return self.pdf.page_no() == 1 and self.pdf.get_y() <= self.pdf.h - MARGIN

    def done(self) -> bytes:
        """The file."""
        return bytes(self.pdf.output())

    def _font(self, points: float, *, bold: bool = False, head: bool = False) -> None:
        self.pdf.set_font(HEAD if head else TEXT, "B" if bold or head else "", points * self.size)

    def _text(
        self,
        words: str,
        points: float,
        *,
        width: float = 0.0,
        x: float = MARGIN,
        bold: bool = False,
        head: bool = False,
    ) -> None:
        """A paragraph from here down."""
        self._font(points, bold=bold, head=head)
        self.pdf.set_x(x)
        self.pdf.multi_cell(
            width or self.width - (x - MARGIN),
            points * self.size * 1.25,
            words,
            align="L",
            new_x=XPos.LMARGIN,
            new_y=YPos.NEXT,
        )

    def _mixed(
        self, parts: Sequence[tuple[str, bool]], points: float, *, x: float, width: float
    ) -> None:
        """A paragraph of which some parts are bold."""
        pdf = self.pdf
        pdf.set_left_margin(x)
        pdf.set_right_margin(pdf.w - x - width)
        pdf.set_x(x)
        line = points * self.size * 1.25
        for words, bold in parts:
            self._font(points, bold=bold)
            pdf.write(line, words)
        pdf.set_left_margin(MARGIN)
        pdf.set_right_margin(MARGIN)
        pdf.set_xy(MARGIN, pdf.get_y() + line)

    def _down(self, points: float = GAP) -> None:
        self.pdf.set_y(self.pdf.get_y() + points * self.size)

    def _head(self) -> None:
        card, pdf = self.card, self.pdf
        top = pdf.get_y()
        width = self.width - QR - GAP
        self._text(card.name, 20, width=width, head=True)
        self._text(card.who, 10.5, width=width)
        for load in card.loads:
            number = f"{load.number}  " if load.numbered else ""
            parts = ((f"{number}{load.name}, {load.mass}, ", False), (load.way, True))
            self._mixed(parts, 10.5, x=MARGIN, width=width)
        if self.drawn:
            code = BytesIO()
            segno.make(card.address, error="m").save(code, kind="png", scale=8, border=0)
            pdf.image(code, x=MARGIN + self.width - QR, y=top, w=QR, h=QR)
        pdf.set_y(max(pdf.get_y(), top + QR) + 5)
        self._rule(1.6)

    def _rule(self, width: float) -> None:
        self.pdf.set_line_width(width)
        y = self.pdf.get_y()
        self.pdf.line(MARGIN, y, MARGIN + self.width, y)
        self._down(6)

    def _alarm(self) -> None:
        if self.card.alarm is None:
            return
        alarm = self.card.alarm
        self._block(f"{alarm.word}. {alarm.words}", 13)
        self._down()

    def _block(self, words: str, points: float) -> None:
        """White on black, the width of the sheet."""
        pdf = self.pdf
        self._font(points, bold=True)
        line, inset = points * self.size * 1.3, 8.0
        height = pdf.multi_cell(
            self.width - 2 * inset,
            line,
            words,
            align="L",
            dry_run=True,
            output=MethodReturnValue.HEIGHT,
        )
        bottom = pdf.get_y() + float(height) + inset  # type: ignore[arg-type]
        y = pdf.get_y()
        pdf.set_fill_color(0)
        pdf.rect(MARGIN, y, self.width, bottom - y, style="F")
        pdf.set_text_color(255)
        pdf.set_xy(MARGIN + inset, y + inset / 2)
        pdf.multi_cell(
            self.width - 2 * inset,
            line,
            words,
            align="L",
            new_x=XPos.LMARGIN,
            new_y=YPos.NEXT,
        )
        pdf.set_text_color(0)
        pdf.set_y(bottom)

    def _marks(self) -> None:
        """How far back each mark is, as large as there is room for."""
        card, pdf = self.card, self.pdf
        large = 46 if len(card.loads) < 2 else 30 if len(card.loads) < 4 else 20
        if not card.loads:
            self._text("Empty: nothing stands on the deck", 20, head=True)
        for load in card.loads:
            self._font(large, head=True)
            number = f"{load.number}  " if load.numbered else ""
            y = pdf.get_y()
            width = pdf.get_string_width(number + load.figure)
            pdf.set_x(MARGIN)
            pdf.cell(width, large * self.size, number + load.figure)
            self._font(14, bold=True)
            x = MARGIN + width + GAP
            pdf.set_xy(x, y + large * self.size * 0.5 - 7 * self.size)
            pdf.multi_cell(
                self.width - width - GAP,
                16 * self.size,
                load.to,
                align="L",
                new_x=XPos.LMARGIN,
                new_y=YPos.NEXT,
            )
            pdf.set_y(max(pdf.get_y(), y + large * self.size))
        self._down(4)

    def _picture(self) -> None:
        picture, pdf = self.card.picture, self.pdf
        per = self.width / picture.width * min(1.0, self.size + 0.1)
        y, left = pdf.get_y(), MARGIN + (self.width - picture.width * per) / 2
        if self.drawn:
            self._lines(picture, left, y, per)
        pdf.set_y(y + picture.height * per)
        self._down()

    def _lines(self, picture: CardPicture, left: float, y: float, per: float) -> None:
        """The picture, from there on, so many points for a unit of it."""
        pdf, drawing = self.pdf, SVGObject(inked(picture))
        _, _, paths = drawing.transform_to_rect_viewport(
            scale=1, width=picture.width * per, height=picture.height * per
        )
        placed = Transform.identity() if paths.transform is None else paths.transform
        paths.transform = placed.translate(left, y)
        pdf.draw_path(paths)
        self._font(12, head=True)
        for mark in picture.marks:
            text_width = pdf.get_string_width(mark.text)
            x = left + mark.x * per - (text_width / 2 if mark.anchor == "middle" else 0)
            pdf.text(x, y + (mark.y - picture.top) * per, mark.text)

    def _figures(self) -> None:
        """Boxes side by side: what it is, the figure, what it is held against."""
        figures, pdf = self.card.figures, self.pdf
        each, y = self.width / len(figures), pdf.get_y()
        bottom = y
        for n, one in enumerate(figures):
            x = MARGIN + each * n + 5
            pdf.set_y(y + 3)
            self._text(one.label, 9, x=x, width=each - 8)
            self._text(one.figure, 17, x=x, width=each - 8, head=True)
            self._text(one.note, 9, x=x, width=each - 8)
            bottom = max(bottom, pdf.get_y() + 3)
        pdf.set_line_width(1.2)
        for n in range(len(figures)):
            pdf.rect(MARGIN + each * n, y, each, bottom - y)
        pdf.set_y(bottom)
        self._down()

    def _warnings(self) -> None:
        pdf = self.pdf
        for first, then in self.card.warnings:
            y = pdf.get_y()
            pdf.set_y(y + 4)
            parts = ((f"{first} ", True), (then, False))
            self._mixed(parts, 11, x=MARGIN + 7, width=self.width - 14)
            pdf.set_line_width(1.2)
            pdf.rect(MARGIN, y, self.width, pdf.get_y() + 4 - y)
            pdf.set_y(pdf.get_y() + 4)
            self._down(5)

    def _columns(self) -> None:
        """Ties on the left; each list of what to tick under the shorter of both columns."""
        pdf, half = self.pdf, (self.width - 2 * GAP) / 2
        left, right = MARGIN, MARGIN + half + 2 * GAP
        top = pdf.get_y()
        self._ties(left, half)
        ends = {left: pdf.get_y(), right: top}
        for one in self.card.lists:
            x = min(ends, key=lambda column: ends[column])
            pdf.set_y(ends[x])
            self._list(one, x, half)
            ends[x] = pdf.get_y()
        pdf.set_y(max(ends.values()))

    def _ties(self, x: float, width: float) -> None:
        pdf, card = self.pdf, self.card
        self._title("Tie down in this order", x, width)
        for tie in card.ties:
            y = pdf.get_y()
            self._font(10.5, bold=True)
            pdf.set_xy(x, y)
            pdf.cell(18, 13 * self.size, str(tie.number))
            pdf.set_xy(x, y)
            self._text(f"{tie.gear}, {tie.limit}", 10.5, x=x + 18, width=width - 18, bold=True)
            self._text(tie.way, 10.5, x=x + 18, width=width - 18)
            self._down(2)
        for words in card.ties_said:
            self._text(words, 10.5, x=x, width=width)
        self._down(6)

    def _list(self, one: CardList, x: float, width: float) -> None:
        pdf, box = self.pdf, 9 * self.size
        self._title(one.title, x, width)
        for words in one.lines:
            y = pdf.get_y()
            pdf.set_line_width(1)
            pdf.rect(x, y + 2 * self.size, box, box)
            self._text(words, 10.5, x=x + box + 6, width=width - box - 6)
            self._down(1.5)
        self._down(6)

    def _title(self, words: str, x: float, width: float) -> None:
        self._text(words, 12, x=x, width=width, head=True)
        self.pdf.set_line_width(0.8)
        y = self.pdf.get_y()
        self.pdf.line(x, y, x + width, y)
        self._down(3)

    def _sways(self) -> None:
        self._block(f"It sways: {self.card.sways}", 12.5)
        self._down(7)

    def _foot(self) -> None:
        card, pdf = self.card, self.pdf
        room = (("On the road ", True), (card.room, False))
        self._mixed(room, 10.5, x=MARGIN, width=self.width)
        parts = (
            ("First stop ", True),
            (f"{card.stops} ", False),
            (card.yard, True),
            (f" {card.phone}" if card.phone else "", False),
        )
        self._mixed(parts, 10.5, x=MARGIN, width=self.width)
        self._down(20)
        each, y = (self.width - 2 * GAP) / 3, pdf.get_y()
        self._font(9)
        for n, words in enumerate(("where it stopped", "gauge", "driver, time")):
            x = MARGIN + n * (each + GAP)
            pdf.set_line_width(0.8)
            pdf.line(x, y, x + each, y)
            pdf.text(x, y + 10 * self.size, words)
        pdf.set_y(y + 14 * self.size)
        self._text(card.foot, 8.5)
