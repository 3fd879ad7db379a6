"""Where each tie runs, and how it takes part when the load moves."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import NamedTuple

from mechanics.errors import InputError
from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.ties import Anchor, Point, Tie


class Vector(NamedTuple):
    """Rearward, to the driver's left, upward."""

    x: float
    y: float
    z: float

    def dot(self, other: Vector) -> float:
        """The product of both along each other."""
        return self.x * other.x + self.y * other.y + self.z * other.z


FORWARD = Vector(-1.0, 0.0, 0.0)
REARWARD = Vector(1.0, 0.0, 0.0)
LEFT = Vector(0.0, 1.0, 0.0)
RIGHT = Vector(0.0, -1.0, 0.0)
UP = Vector(0.0, 0.0, 1.0)

EVERY_WAY = (FORWARD, REARWARD, LEFT, RIGHT, UP)
"""The directions that ties are asked about."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Rope:
    """A tie as it runs: from the point along one leg, or along two over it.

    ``legs`` are unit vectors from the point to its anchors, ``length_m`` of all of it. A
    rope over a smooth edge pulls alike in both legs. ``stiffness`` is its pull in kg per metre
    that it is lengthened, ``nan`` where its limit is not known; ``shares`` how much it is
    lengthened in each of the five directions.
    """

    tie: Tie
    point: Vector
    machine_point: Point
    anchors: tuple[Anchor, ...]
    legs: tuple[Vector, ...]
    length_m: float
    stiffness: float
    shares: dict[Vector, float]

    def share(self, way: Vector) -> float:
        """How much it is lengthened by when the load moves a unit that way; never negative."""
        return self.shares[way]

    @property
    def pressing(self) -> float:
        """Part of its pretension that presses the load down."""
        return sum(max(0.0, -leg.z) for leg in self.legs)


def ropes(plan: Plan, item: Item) -> tuple[Rope, ...]:
    """The ties of one item, in their order."""
    if plan.securing is None:
        return ()
    return tuple(rope_of(plan, item, tie) for tie in plan.securing.ties if tie.item == item.id)


def rope_of(plan: Plan, item: Item, tie: Tie) -> Rope:
    """One tie of an item as it runs.

    Raises:
        InputError: both its ends are one place.
    """
    anchors = {anchor.id: anchor for anchor in plan.trailer.anchors}
    machine_point = next(point for point in item.points if point.id == tie.point)
    point = Vector(
        item.placement.reference_m + item.direction * machine_point.ahead_m,
        item.placement.left_m - item.direction * machine_point.left_m,
        machine_point.height_m,
    )
    ends = [anchors[tie.anchor]] + ([] if tie.over is None else [anchors[tie.over]])
    legs, length = [], 0.0
    for anchor in ends:
        along = Vector(anchor.tape_m - point.x, anchor.left_m - point.y, anchor.height_m - point.z)
        long = math.sqrt(along.dot(along))
        if not long > 0:
            raise InputError(f"securing.ties.{tie.id}", "a tie between two places")
        legs.append(Vector(along.x / long, along.y / long, along.z / long))
        length += long
    return Rope(
        tie=tie,
        point=point,
        machine_point=machine_point,
        anchors=tuple(ends),
        legs=tuple(legs),
        length_m=length,
        stiffness=math.nan if tie.wll_kg is None else tie.wll_kg / (tie.kind.stretch * length),
        shares={way: max(0.0, -sum(leg.dot(way) for leg in legs)) for way in EVERY_WAY},
    )
