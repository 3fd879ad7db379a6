"""Machines as they stand, from the side and from above."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from mechanics.item import Item
from pictures.outfit import Shape, Wheel
from pictures.outlines import Outline, machine_outline
from pictures.svg import Box, path
from planfile.draft import Drawn

TYRE_M: Final = 0.3
"""Width of a tyre that is not measured."""

WIDTH_M: Final = 1.5
"""Width of an item that is not measured."""

Put = Callable[[float, float], tuple[float, float]]
"""Where a place ahead of the mark and above the ground it stands on is drawn."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Body:
    """A machine in side view."""

    shapes: tuple[Shape, ...]
    wheels: tuple[Wheel, ...]


def item_height_m(item: Item) -> float:
    """How high it is drawn: its height, or a usual one for its length."""
    return item.height_m or min(2.4, 0.8 + 0.4 * (item.front_m + item.rear_m))


def outline_of(item: Item, drawn: Drawn, carried_m: float = 0.0) -> Outline:
    """Its silhouette; ``carried_m`` is how high its bucket is held."""
    return machine_outline(
        drawn.shape,
        item.front_m,
        item.rear_m,
        item_height_m(item),
        drawn.wheelbase_m,
        carried_m,
    )


def body_of(outline: Outline, put: Put, scale: float) -> Body:
    """A machine from the side, each of its places put where it is drawn."""
    wheels = []
    for ahead, radius in outline.wheels:
        x, y = put(ahead, radius)
        wheels.append(Wheel(x=x, y=y, radius=radius * scale))
    return Body(
        shapes=tuple(
            Shape(data=path([put(*point) for point in points]), style=style)
            for style, points in outline.shapes
        ),
        wheels=tuple(wheels),
    )


def tyres_above(
    outline: Outline, x: Callable[[float], float], across: float, width: float, scale: float
) -> tuple[Box, ...]:
    """A machine's tyres from above, their outsides as far apart as it is wide.

    ``x`` draws a place ahead of the mark, ``across`` is the machine's own middle.
    """
    return tuple(
        Box(
            x=x(ahead) - radius * scale,
            y=across + side * width / 2 * scale - (0 if side < 0 else TYRE_M * scale),
            width=2 * radius * scale,
            height=TYRE_M * scale,
        )
        for ahead, radius in outline.wheels
        for side in (-1, 1)
    )
