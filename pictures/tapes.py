"""Tapes of the planner's drawing: windows on them, and the close-up near the mark."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from measures.marks import write_ends, write_width
from measures.writing import MINUS, UnitSystem
from mechanics.units import M_PER_IN
from mechanics.windows import Window
from pictures.svg import Attributes, Box

CLOSE_X, CLOSE_WIDTH, CLOSE_Y, CLOSE_HEIGHT = 8, 416, 458, 38

WINDOW_OUT = 8
"""How far a window stands out over its tape."""

NUMBER_DOWN = 12
"""How far under a tape's upper edge its numbers stand."""

CLOSE_SPAN_M = 1.4
"""Length of tape shown in the close-up, about 55 in."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Band:
    """A piece of the tape, in drawing units; a window stands out of the tape it lies on."""

    x: float
    width: float
    y: float = 0.0
    height: float = 0.0

    @property
    def svg(self) -> Attributes:
        """The attributes of its rectangle."""
        return Box(x=self.x, y=self.y, width=self.width, height=self.height).svg


@dataclass(frozen=True, kw_only=True, slots=True)
class Label:
    """Text at a place; ``anchor`` is start, middle or end."""

    x: float
    text: str
    anchor: str = "middle"

    @property
    def svg(self) -> str:
        """Its place across."""
        return f"{self.x:.1f}"


@dataclass(frozen=True, kw_only=True, slots=True)
class EndLabel:
    """The end of a window in the close-up: its reading and what makes it."""

    x: float
    line_x: float
    reading: str
    words: str
    anchor: str

    @property
    def line(self) -> str:
        """The line at the end; empty where it lies beyond the close-up."""
        if not CLOSE_X <= self.line_x <= CLOSE_X + CLOSE_WIDTH:
            return ""
        return f"M{self.line_x:.1f} {CLOSE_Y - 10}V{CLOSE_Y + CLOSE_HEIGHT + 4}"


@dataclass(frozen=True, kw_only=True, slots=True)
class TapeScale:
    """The ticks of a tape and its numbers, all at one height."""

    ticks: str
    labels: tuple[Label, ...]
    y: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Tape:
    """A tape with its ticks (one path), numbers, windows and the mark."""

    x: float
    width: float
    ticks: str
    labels: tuple[Label, ...]
    windows: list[Band]
    sure: list[Band]
    mark_x: float | None
    y: float
    height: float
    mark_line: str = ""

    @property
    def box(self) -> Attributes:
        """The tape itself."""
        return Box(x=self.x, y=self.y, width=self.width, height=self.height).svg

    @property
    def scale(self) -> TapeScale:
        """Its ticks and numbers, which stay as they are wherever the items stand."""
        return TapeScale(ticks=self.ticks, labels=self.labels, y=f"{self.y + NUMBER_DOWN:.1f}")

    @property
    def right(self) -> float:
        """Where it ends."""
        return self.x + self.width


def bands(
    window: Window | None,
    to_x: Callable[[float], float],
    low: float,
    high: float,
    y: float = 0.0,
    height: float = 0.0,
) -> tuple[list[Band], list[Band]]:
    """Safe and sure pieces, cut to the part of the tape that is shown."""
    if window is None:
        return [], []
    found: list[list[Band]] = []
    for intervals in (window.intervals, window.sure):
        bands = []
        for piece in intervals:
            start, end = max(to_x(piece.start_m), low), min(to_x(piece.end_m), high)
            if end >= start:
                # a window of one place still has to be seen
                bands.append(Band(x=start, width=max(end - start, 1.5), y=y, height=height))
        found.append(bands)
    return found[0], found[1]


def close_up(
    window: Window | None,
    mark: float | None,
    end_texts: Sequence[tuple[str, str]],
    deck_length: float,
    unit: UnitSystem,
) -> tuple[Tape, list[EndLabel], str]:
    """The tape near the mark, large; the mark stays in the middle and the tape runs past."""
    centre = deck_length / 2 if mark is None else mark
    per_m = CLOSE_WIDTH / CLOSE_SPAN_M
    left = centre - CLOSE_SPAN_M / 2

    def to_x(metres: float) -> float:
        return CLOSE_X + (metres - left) * per_m

    bottom = CLOSE_Y + CLOSE_HEIGHT
    ticks, labels = [], []
    step = M_PER_IN if unit is UnitSystem.US else 0.01
    first = int(left / step) - 1
    for n in range(first, first + int(CLOSE_SPAN_M / step) + 4):
        x = to_x(n * step)
        if not CLOSE_X <= x <= CLOSE_X + CLOSE_WIDTH:
            continue
        if unit is UnitSystem.US:
            size = 18 if n % 12 == 0 else 13 if n % 6 == 0 else 9 if n % 3 == 0 else 6
            text = f"{n // 12} ft" if n % 12 == 0 else "6" if n % 6 == 0 else ""
        else:
            size = 18 if n % 100 == 0 else 13 if n % 10 == 0 else 9 if n % 5 == 0 else 6
            text = f"{n * 10:,}" if n % 20 == 0 else ""
        ticks.append(f"M{x:.1f} {bottom}v-{size}")
        if text and CLOSE_X + 14 < x < CLOSE_X + CLOSE_WIDTH - 14:
            labels.append(Label(x=x, text=text.replace("-", MINUS)))
    safe, sure = bands(
        window,
        to_x,
        CLOSE_X,
        CLOSE_X + CLOSE_WIDTH,
        CLOSE_Y - WINDOW_OUT,
        CLOSE_HEIGHT + WINDOW_OUT,
    )
    tape = Tape(
        x=CLOSE_X,
        width=CLOSE_WIDTH,
        ticks="".join(ticks),
        labels=tuple(labels),
        windows=safe,
        sure=sure,
        mark_x=None if mark is None else to_x(mark),
        y=CLOSE_Y,
        height=CLOSE_HEIGHT,
    )
    ends: list[EndLabel] = []
    sure_label = ""
    if window is not None and window.intervals and mark is not None:
        nearest = min(
            range(len(window.intervals)),
            key=lambda k: _distance(mark, window.intervals[k].start_m, window.intervals[k].end_m),
        )
        piece = window.intervals[nearest]
        low_words, high_words = end_texts[nearest]
        low, high = write_ends(piece.start_m, piece.end_m, unit)
        ends = _end_labels(
            to_x(piece.start_m), to_x(piece.end_m), (low, low_words), (high, high_words)
        )
        width = sum(s.end_m - s.start_m for s in window.sure)
        sure_label = f"sure {write_width(width, unit)}" if window.sure else "no place is sure"
    return tape, ends, sure_label


def _distance(at: float, start: float, end: float) -> float:
    return max(start - at, at - end, 0.0)


def _end_labels(
    start_x: float, end_x: float, low: tuple[str, str], high: tuple[str, str]
) -> list[EndLabel]:
    """Two labels under the close-up that never touch, whatever the window's width."""
    middle = CLOSE_X + CLOSE_WIDTH / 2
    low_x = min(max(start_x - 4, CLOSE_X + 130), middle - 6)
    high_x = max(min(end_x + 4, CLOSE_X + CLOSE_WIDTH - 130), middle + 6)
    low_shown = "← " + low[0] if start_x < CLOSE_X else low[0]
    high_shown = high[0] + " →" if end_x > CLOSE_X + CLOSE_WIDTH else high[0]
    return [
        EndLabel(x=low_x, line_x=start_x, reading=low_shown, words=low[1], anchor="end"),
        EndLabel(x=high_x, line_x=end_x, reading=high_shown, words=high[1], anchor="start"),
    ]
