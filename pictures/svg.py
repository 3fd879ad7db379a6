"""Numbers as a drawing's attributes: to a tenth of its unit, ready to be placed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


class Attributes(str):
    """Attributes of an element, made of numbers alone: nothing in them has to be escaped."""

    __slots__ = ()

    def __html__(self) -> str:
        """As it is."""
        return self


@dataclass(frozen=True, kw_only=True, slots=True)
class Box:
    """An upright rectangle."""

    x: float
    y: float
    width: float
    height: float

    @property
    def svg(self) -> Attributes:
        """The attributes of a ``rect``."""
        return Attributes(
            f'x="{self.x:.1f}" y="{self.y:.1f}" width="{self.width:.1f}" height="{self.height:.1f}"'
        )


def circle(x: float, y: float, radius: float) -> Attributes:
    """The attributes of a ``circle``."""
    return Attributes(f'cx="{x:.1f}" cy="{y:.1f}" r="{radius:.1f}"')


def moved(x: float, y: float) -> Attributes:
    """A ``transform`` that draws about a place what was drawn about nothing."""
    return Attributes(f"translate({x:.1f} {y:.1f})")


def path(points: Sequence[tuple[float, float]], *, closed: bool = True) -> str:
    """Path data through points."""
    data = "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points)
    return data + "Z" if closed else data
