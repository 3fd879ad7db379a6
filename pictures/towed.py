"""Truck and trailer from above, each about the point it turns about: the truck about its centre of
gravity, the trailer about the ball. They drive to the left, so their own left is further down."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.sway import Towing
from pictures.machines import TYRE_M, WIDTH_M
from pictures.outfit import Shape, deck_width_m
from pictures.svg import path
from pictures.trucks import TYRE_M as TYRE_RADIUS_M
from pictures.trucks import bumper_m

TRUCK_M: Final = 1.95
"""Width of a pickup; nothing of it is in a figure."""

AHEAD_M: Final = 0.95
"""A pickup's nose ahead of its front axle."""

HOOD_M: Final = 1.0
CAB_M: Final = 2.1


@dataclass(frozen=True, kw_only=True, slots=True)
class Towed:
    """The outfit from above in drawing units, ``scale`` to the metre."""

    truck: tuple[Shape, ...]
    trailer: tuple[Shape, ...]
    scale: float
    length: float
    ahead: float

    @property
    def behind(self) -> float:
        """How far it reaches behind the truck's centre of gravity."""
        return self.length - self.ahead


def towed(plan: Plan, towing: Towing, width: float) -> Towed:
    """The outfit, as large as fits across ``width``."""
    deck = plan.trailer.deck
    tail = deck.start_m + deck.length_m
    reach = max([tail, *(deck.start_m + one.rearmost_m for one in plan.items)])
    ahead = towing.front_m + AHEAD_M
    scale = width / (ahead + towing.ball_m + reach)
    return Towed(
        truck=_truck(plan, towing, scale),
        trailer=_trailer(plan, scale),
        scale=scale,
        length=width,
        ahead=ahead * scale,
    )


def _box(x: float, y: float, long: float, wide: float, scale: float, style: str) -> Shape:
    """A rectangle about a place on its own middle line, from ``x`` rearward."""
    corners = [(x, y - wide / 2), (x + long, y - wide / 2), (x + long, y + wide / 2)]
    corners.append((x, y + wide / 2))
    return Shape(data=path([(scale * a, scale * b) for a, b in corners]), style=style)


def _wheels(x: float, track: float, radius: float, scale: float) -> list[Shape]:
    inside = (track - TYRE_M) / 2
    return [_box(x - radius, side * inside, 2 * radius, TYRE_M, scale, "tyre") for side in (-1, 1)]


def _truck(plan: Plan, towing: Towing, scale: float) -> tuple[Shape, ...]:
    nose = -towing.front_m - AHEAD_M
    rear = towing.rear_m - bumper_m([plan.truck.hitch_offset_m])
    cab = -towing.front_m + AHEAD_M - 0.2
    shapes = _wheels(-towing.front_m, TRUCK_M + 0.1, TYRE_RADIUS_M, scale)
    shapes += _wheels(towing.rear_m, TRUCK_M + 0.1, TYRE_RADIUS_M, scale)
    body = [
        (nose + 0.25, -TRUCK_M / 2 + 0.12),
        (nose + 0.7, -TRUCK_M / 2),
        (rear, -TRUCK_M / 2),
        (rear, TRUCK_M / 2),
        (nose + 0.7, TRUCK_M / 2),
        (nose + 0.25, TRUCK_M / 2 - 0.12),
        (nose, 0.4),
        (nose, -0.4),
    ]
    shapes.append(Shape(data=path([(scale * a, scale * b) for a, b in body]), style="body"))
    shapes.append(_box(cab, 0, 0.5, TRUCK_M - 0.3, scale, "glass"))
    shapes.append(_box(cab + CAB_M - 0.15, 0, 0.2, TRUCK_M - 0.4, scale, "glass"))
    bed = max(cab + CAB_M + 0.25, 0.0)
    if rear - bed > 0.5:
        shapes.append(_box(bed, 0, rear - bed - 0.12, TRUCK_M - 0.3, scale, "towed-floor"))
    shapes.append(_box(rear, 0, max(towing.ball_m - rear, 0.05), 0.12, scale, "tyre"))
    return tuple(shapes)


def _trailer(plan: Plan, scale: float) -> tuple[Shape, ...]:
    deck, wide = plan.trailer.deck, deck_width_m(plan.trailer)
    track = max(plan.trailer.track_width_m + TYRE_M, wide)
    shapes = [
        shape
        for axle in plan.trailer.axles
        for shape in _wheels(axle.position_m, track, TYRE_RADIUS_M, scale)
    ]
    front = max(deck.start_m, 0.2)
    tongue = [(0.0, -0.06), (front, -wide * 0.35), (front, wide * 0.35), (0.0, 0.06)]
    shapes.append(Shape(data=path([(scale * a, scale * b) for a, b in tongue]), style="frame"))
    shapes.append(_box(deck.start_m, 0, deck.length_m, wide, scale, "towed-floor"))
    shapes += [_item(one, deck.start_m, scale) for one in plan.items]
    return tuple(shapes)


def _item(item: Item, start: float, scale: float) -> Shape:
    return _box(
        start + item.foremost_m,
        item.placement.left_m,
        item.front_m + item.rear_m,
        item.width_m or WIDTH_M,
        scale,
        "mach",
    )
