"""A thing's mass over time: the geometry of a chart, placed by a template."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Final

from pictures.svg import Attributes, circle

WIDTH: Final = 720.0
HEIGHT: Final = 250.0
LEFT, RIGHT, TOP, BOTTOM = 70.0, 16.0, 14.0, 34.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Weighed:
    """One weighing on the chart: when, how much, give or take, and where it leads."""

    day: date
    value: float
    tolerance: float
    words: str
    key: int


@dataclass(frozen=True, kw_only=True, slots=True)
class Point:
    """A weighing's place in the picture; ``low`` and ``high`` are the ends of its tolerance."""

    x: float
    y: float
    low: float
    high: float
    words: str
    key: int

    @property
    def doubt(self) -> str:
        """The line of its tolerance, with a stroke across at either end."""
        ends = "".join(f"M{self.x - 5:.1f} {y:.1f}h10" for y in (self.low, self.high))
        return f"M{self.x:.1f} {self.low:.1f}V{self.high:.1f}{ends}"

    @property
    def dot(self) -> Attributes:
        """Its circle."""
        return circle(self.x, self.y, 6)


@dataclass(frozen=True, kw_only=True, slots=True)
class Tick:
    """A line of the scale with its number, or a date under the picture."""

    at: float
    words: str = ""

    @property
    def line(self) -> str:
        """A level's line across the picture."""
        return f"M{LEFT:.1f} {self.at:.1f}H{WIDTH - RIGHT:.1f}"

    @property
    def text_y(self) -> str:
        """Where a level's number stands, beside its line."""
        return f"{self.at + 4:.1f}"

    @property
    def over_y(self) -> str:
        """Where words stand over its line."""
        return f"{self.at - 5:.1f}"


@dataclass(frozen=True, kw_only=True, slots=True)
class Chart:
    """Everything the template places. ``book`` is where the book's figure lies."""

    points: tuple[Point, ...]
    path: str
    levels: tuple[Tick, ...]
    days: tuple[Tick, ...]
    book: Tick | None
    width: float = WIDTH
    height: float = HEIGHT

    @property
    def days_y(self) -> float:
        """Where the dates stand."""
        return self.height - 10


def step_of(span: float, most: int = 5) -> float:
    """A round step (1, 2 or 5 times a power of ten) that divides a span into few parts.

    Raises:
        ValueError: the span is not positive.
    """
    if not span > 0:
        raise ValueError(f"a span of {span} cannot be divided")
    power = 10.0 ** math.floor(math.log10(span / most))
    return next(power * k for k in (1, 2, 5, 10) if span / (power * k) <= most)


def chart(weighed: Sequence[Weighed], book: float | None) -> Chart | None:
    """The chart of at least one weighing; ``None`` of none. Values in the unit shown."""
    if not weighed:
        return None
    ordered = sorted(weighed, key=lambda w: (w.day, w.key))
    reach = [w.value - w.tolerance for w in ordered] + [w.value + w.tolerance for w in ordered]
    if book is not None:
        reach.append(book)
    low, high = min(reach), max(reach)
    # weights that hardly differ are not blown up: the picture spans a tenth of them at least
    span = max(high - low, 0.1 * max(abs(high), 1.0))
    middle = (low + high) / 2
    step = step_of(span)
    bottom = math.floor((middle - span / 2) / step) * step
    top = math.ceil((middle + span / 2) / step) * step
    first, last = ordered[0].day, ordered[-1].day
    days = max((last - first).days, 1)

    def x(day: date) -> float:
        inner = WIDTH - LEFT - RIGHT
        if first == last:
            return LEFT + inner / 2
        return LEFT + inner * (0.03 + 0.94 * (day - first).days / days)

    def y(value: float) -> float:
        return TOP + (HEIGHT - TOP - BOTTOM) * (top - value) / (top - bottom)

    points = tuple(
        Point(
            x=x(w.day),
            y=y(w.value),
            low=y(w.value - w.tolerance),
            high=y(w.value + w.tolerance),
            words=w.words,
            key=w.key,
        )
        for w in ordered
    )
    count = round((top - bottom) / step)
    return Chart(
        points=points,
        path="M" + "L".join(f"{p.x:.1f} {p.y:.1f}" for p in points),
        levels=tuple(
            Tick(at=y(bottom + n * step), words=f"{bottom + n * step:,.0f}")
            for n in range(count + 1)
        ),
        days=_days(ordered, x),
        book=None if book is None else Tick(at=y(book)),
    )


def _days(ordered: Sequence[Weighed], x: Callable[[date], float]) -> tuple[Tick, ...]:
    """Dates under the picture, as many as have room."""
    found: list[Tick] = []
    for w in ordered:
        at = x(w.day)
        if not found or at - found[-1].at >= 92:
            found.append(Tick(at=at, words=f"{w.day:%-d %b %Y}"))
    return tuple(found)
