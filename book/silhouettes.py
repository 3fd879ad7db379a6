"""Things of the book at a glance: side views at one scale, so that what is longer looks longer."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from book import estimates
from book.drawing import Circle, Shape, deck_top_m, trailer_body, truck_body, usual_height_m
from book.errors import IncompleteError
from book.figures import built_machine, bulk_body, bulk_drawn, drawn_as, si
from book.models import Bulk, Machine, Thing, Trailer, Truck
from book.tolerances import Tolerances
from pictures.outlines import Points, machine_outline
from pictures.svg import Attributes, path
from pictures.trailers import TYRE_M as TRAILER_TYRE_M
from pictures.trailers import trailer_outline
from pictures.trucks import TYRE_M as TRUCK_TYRE_M
from pictures.trucks import bumper_m

PER_M: Final = 30
"""Units of the page to a metre: what is 11 m long still fits a telephone."""

AROUND: Final = 2
"""Units kept free on every side, for the width of a line."""

USUAL_AXLE_AT: Final = 0.61
"""Where a trailer's axles are drawn on its deck when nobody said."""


USUAL_LOAD_M: Final = 0.6
"""How high a load is drawn that nobody measured."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Silhouette:
    """A side view, its front to the left, ``width`` and ``height`` in units of the page."""

    shapes: tuple[Shape, ...]
    circles: tuple[Circle, ...]
    width: float
    height: float

    @property
    def box(self) -> Attributes:
        """Its size and what it shows."""
        wide, high = f"{self.width:.0f}", f"{self.height:.0f}"
        return Attributes(f'width="{wide}" height="{high}" viewBox="0 0 {wide} {high}"')


@dataclass(frozen=True, slots=True)
class _Wheel:
    at: float
    radius: float
    dual: bool = False


def silhouette(thing: Thing, tolerances: Tolerances) -> Silhouette | None:
    """How a truck, trailer, machine or load looks from the side; ``None`` of what is small, and of
    what is not known well enough to be drawn."""
    if isinstance(thing, Truck):
        return _truck(thing)
    if isinstance(thing, Trailer):
        return _trailer(thing)
    if isinstance(thing, Machine):
        return _machine(thing, tolerances)
    return _bulk(thing, tolerances) if isinstance(thing, Bulk) else None


def _drawn(shapes: Sequence[tuple[str, Points]], wheels: Sequence[_Wheel]) -> Silhouette:
    """Places behind the front and above the ground, in metres, at the one scale."""
    reach = [at for _, points in shapes for at, _ in points]
    reach += [w.at + side * w.radius for w in wheels for side in (-1, 1)]
    tops = [up for _, points in shapes for _, up in points] + [2 * w.radius for w in wheels]
    left, high = min(reach), max(tops)

    def x(at: float) -> float:
        return AROUND + (at - left) * PER_M

    def y(up: float) -> float:
        return AROUND + (high - up) * PER_M

    return Silhouette(
        shapes=tuple(
            Shape(data=path([(x(at), y(up)) for at, up in points]), style=style)
            for style, points in shapes
        ),
        circles=tuple(
            Circle(x=x(w.at), y=y(w.radius), radius=w.radius * PER_M, style="tyre", dual=w.dual)
            for w in wheels
        ),
        width=2 * AROUND + (max(reach) - left) * PER_M,
        height=2 * AROUND + high * PER_M,
    )


def _truck(truck: Truck) -> Silhouette | None:
    found = estimates.wheelbase(truck)
    if found is None:
        return None
    bumper = bumper_m(estimates.ball_place(hitch).si for hitch in truck.hitches.all())
    dual = truck.rear_wheels == Truck.RearWheels.DUAL
    body = truck_body(truck, found.si, bumper)
    return _drawn(
        [(style, [(-ahead, up) for ahead, up in points]) for style, points in body],
        [_Wheel(-found.si, TRUCK_TYRE_M), _Wheel(0.0, TRUCK_TYRE_M, dual)],
    )


def _trailer(trailer: Trailer) -> Silhouette | None:
    if trailer.deck_length is None:
        return None
    start, length = estimates.deck_start(trailer).si, si(trailer.deck_length)
    found = estimates.axle_places(trailer)
    axles = (start + USUAL_AXLE_AT * length,) if found is None else found.places
    top = deck_top_m(trailer)
    body = trailer_body(trailer, deck_start=start, deck_length=length, axles=axles, top=top)
    return _drawn(
        trailer_outline(body),
        [_Wheel(at, TRAILER_TYRE_M) for at in axles],
    )


def _machine(machine: Machine, tolerances: Tolerances) -> Silhouette | None:
    try:
        reach = built_machine(machine, drawn_as(machine), tolerances).outline
        front, rear, height = reach.front_m, reach.rear_m, reach.height_m
    except IncompleteError:
        if machine.reach_front is None or machine.reach_rear is None:
            return None
        front, rear = si(machine.reach_front), si(machine.reach_rear)
        height = None if machine.height is None else si(machine.height)
    outline = machine_outline(
        machine.shape,
        front,
        rear,
        height or usual_height_m(front + rear),
        None if machine.wheelbase is None else si(machine.wheelbase),
    )
    return _ahead(outline.shapes, outline.wheels)


def _bulk(bulk: Bulk, tolerances: Tolerances) -> Silhouette | None:
    if bulk.length is None:
        return None
    try:
        built = bulk_body(bulk, tolerances)
    except IncompleteError:
        return None
    half = si(bulk.length) / 2
    shape, height = bulk_drawn(bulk, built)
    return _ahead(machine_outline(shape, half, half, height or USUAL_LOAD_M, None).shapes, [])


def _ahead(
    shapes: Sequence[tuple[str, Points]], wheels: Sequence[tuple[float, float]]
) -> Silhouette:
    """Of what is drawn about a mark, its places ahead of that."""
    return _drawn(
        [(style, [(-ahead, up) for ahead, up in points]) for style, points in shapes],
        [_Wheel(-ahead, radius) for ahead, radius in wheels],
    )
