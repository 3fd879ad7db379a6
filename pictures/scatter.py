"""Dots of one figure against another: the geometry of a small chart, placed by a template."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

WIDTH: Final = 420.0
HEIGHT: Final = 240.0
LEFT, RIGHT, TOP, BOTTOM = 56.0, 30.0, 28.0, 48.0
MOST_LINES: Final = 5


@dataclass(frozen=True, kw_only=True, slots=True)
class Dot:
    """One thing: its two figures, and what is said of it. One that is ``odd`` is drawn
    otherwise."""

    x: float
    y: float
    words: str
    odd: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class Placed:
    """A dot's place in the picture."""

    x: float
    y: float
    words: str
    odd: bool

    @property
    def path(self) -> str:
        """A full square for what is odd, so that it needs no colour to be told apart."""
        return f"M{self.x - 6:.1f} {self.y - 6:.1f}h12v12h-12z"


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """A line of a scale, with its figure."""

    at: float
    words: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Scatter:
    """All that the template places."""

    dots: tuple[Placed, ...]
    across: tuple[Line, ...]
    up: tuple[Line, ...]
    x_name: str
    y_name: str
    width: float = WIDTH
    height: float = HEIGHT
    left: float = LEFT
    right: float = WIDTH - RIGHT
    top: float = TOP
    bottom: float = HEIGHT - BOTTOM


def scatter(
    dots: Sequence[Dot],
    *,
    x_name: str,
    y_name: str,
    y_range: tuple[float, float] | None = None,
) -> Scatter:
    """Dots within round scales that hold them all; ``y_range`` fixes the upright one.

    Raises:
        ValueError: no dots, or figures that are not finite.
    """
    if not dots or not all(math.isfinite(dot.x + dot.y) for dot in dots):
        raise ValueError("dots with finite figures")
    across = _scale([dot.x for dot in dots])
    up = (
        _scale([dot.y for dot in dots])
        if y_range is None
        else [y_range[0] + n for n in range(round(y_range[1] - y_range[0]) + 1)]
    )

    def x(value: float) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * (value - across[0]) / (across[-1] - across[0])

    def y(value: float) -> float:
        return HEIGHT - BOTTOM - (HEIGHT - TOP - BOTTOM) * (value - up[0]) / (up[-1] - up[0])

    return Scatter(
        dots=tuple(Placed(x=x(d.x), y=y(d.y), words=d.words, odd=d.odd) for d in dots),
        across=tuple(Line(at=x(value), words=f"{value:,.10g}") for value in across),
        up=tuple(Line(at=y(value), words=f"{value:,.10g}") for value in up),
        x_name=x_name,
        y_name=y_name,
    )


def _scale(values: Sequence[float]) -> list[float]:
    """Round figures below, between and above all values; at least two."""
    low, high = min(values), max(values)
    span = max(high - low, 0.05 * max(abs(low), abs(high)), 1e-6)
    power = 10.0 ** math.floor(math.log10(span / MOST_LINES))
    step = next(power * k for k in (1, 2, 5, 10) if span / (power * k) <= MOST_LINES)
    first, last = math.floor(low / step), math.ceil(high / step)
    if first == last:
        last += 1
    return [round(n * step, 10) for n in range(first, last + 1)]
