"""What a machine drives over, from the ground behind the ramp to the deck, in side view.

``x`` runs rearward from the coupler, ``z`` up from the ground under the outfit's wheels.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from enum import Enum
from itertools import pairwise
from typing import Final, NamedTuple

from mechanics.errors import InputError
from mechanics.plan import Plan
from mechanics.tail import RampKind

AT_CORNER_M: Final = 1e-9
"""A contact nearer to a corner than this stands on it: on the ground at the ramp's foot, on
the deck at its edge."""


class Part(Enum):
    """The straight parts, from ahead to behind."""

    DECK = "deck"
    DOVETAIL = "dovetail"
    RAMP = "ramp"
    GROUND = "ground"


class Corner(NamedTuple):
    """Where two straight parts meet."""

    x: float
    z: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Terrain:
    """Deck, dovetail, ramp and ground, meeting at ``corners``, from ahead to behind.

    ``edge_m`` is where the ramp hangs on: the tail edge, or the hinge of a tilting deck.
    ``angle`` is the ramp's against the outfit's ground, in radians. Ahead of the deck its
    plane goes on, and behind the foot the ground is flat. Without corners it is the level
    deck alone. ``slopes`` are of the parts, from ahead to behind, in rise over run rearward;
    ``rises`` each corner with the slope of the part that ends there.
    """

    corners: tuple[Corner, ...]
    edge_m: float
    foot_m: float
    angle: float
    deck_z: float
    slopes: tuple[float, ...] = field(init=False, repr=False)
    rises: tuple[tuple[float, float, float], ...] = field(init=False, repr=False)

    def __post_init__(self) -> None:
        slopes = [0.0]
        slopes += [(two.z - one.z) / (two.x - one.x) for one, two in pairwise(self.corners)]
        object.__setattr__(self, "slopes", (*slopes, 0.0))
        rises = tuple((c.x, c.z, s) for c, s in zip(self.corners, slopes, strict=False))
        object.__setattr__(self, "rises", rises)

    def height(self, x: float) -> float:
        """Height of the surface at a place behind the coupler."""
        z = self.deck_z
        for at, corner_z, slope in self.rises:
            if x <= at:
                return corner_z + (x - at) * slope
            z = corner_z
        return z

    def part(self, x: float) -> Part:
        """What a contact there stands on."""
        if not self.corners or x <= self.corners[0].x + AT_CORNER_M:
            return Part.DECK
        if x >= self.foot_m - AT_CORNER_M:
            return Part.GROUND
        return Part.DOVETAIL if x <= self.edge_m + AT_CORNER_M else Part.RAMP

    def behind(self, x: float, z: float, distance: float) -> Corner:
        """The point of the surface behind the one at ``x``, ``z``, at a straight distance."""
        squared = distance * distance
        at_x, at_z = x, z
        for corner_x, corner_z, slope in self.rises:
            if corner_x <= x:
                continue
            across, up = corner_x - x, corner_z - z
            if across * across + up * up >= squared:
                return _along(at_x, at_z, slope, 1.0, x, z, squared)
            at_x, at_z = corner_x, corner_z
        return _along(at_x, at_z, 0.0, 1.0, x, z, squared)

    def ahead(self, x: float, distance: float) -> Corner:
        """The point of the surface ahead of the one at ``x``, at a straight distance."""
        z = self.height(x)
        squared = distance * distance
        at_x, at_z = x, z
        # of a part that is gone back over, the slope is that behind its corner
        for corner, slope in zip(reversed(self.corners), reversed(self.slopes), strict=False):
            if corner.x >= x:
                continue
            if (x - corner.x) ** 2 + (corner.z - z) ** 2 >= squared:
                return _along(at_x, at_z, slope, -1.0, x, z, squared)
            at_x, at_z = corner
        return _along(at_x, at_z, 0.0, -1.0, x, z, squared)


def _along(
    at_x: float, at_z: float, slope: float, way: float, x: float, z: float, squared: float
) -> Corner:
    """Where a straight line from a point leaves the circle about another."""
    # p = at + u (1, slope) way, |p - (x, z)|² = squared
    a = 1.0 + slope * slope
    b = ((at_x - x) + (at_z - z) * slope) * way
    c = (at_x - x) ** 2 + (at_z - z) ** 2 - squared
    u = (-b + math.sqrt(max(b * b - a * c, 0.0))) / a
    return Corner(at_x + u * way, at_z + u * way * slope)


def terrain(plan: Plan) -> Terrain:
    """The way up onto a plan's trailer. Its ramp and its deck's height have to be known.

    Of a tilting deck it is the deck lying on the ground at its tail; see
    :func:`level_deck` for what it is once it has come up.

    Raises:
        InputError: the ramp is no longer than what it has to rise.
    """
    trailer, deck = plan.trailer, plan.trailer.deck
    if trailer.ramp is None or deck.height_m is None:
        raise ValueError("ramp or deck height is not known")
    length, foot_z = trailer.ramp.length_m, plan.site.foot_rise_m
    edge, edge_z = deck.start_m + deck.length_m, deck.height_m
    corners = []
    if trailer.ramp.kind is RampKind.TILT:
        edge -= length
    elif trailer.dovetail is not None:
        corners.append(Corner(edge - trailer.dovetail.length_m, edge_z))
        edge_z -= trailer.dovetail.drop_m
    rise = edge_z - foot_z
    if not abs(rise) < length:
        raise InputError(
            "trailer.ramp.length", "longer than the height it has to reach; this ramp is too short"
        )
    foot = edge + math.sqrt(length * length - rise * rise)
    return Terrain(
        corners=(*corners, Corner(edge, edge_z), Corner(foot, foot_z)),
        edge_m=edge,
        foot_m=foot,
        angle=math.asin(rise / length),
        deck_z=deck.height_m,
    )


def level_deck(ground: Terrain) -> Terrain:
    """A tilting deck that has come up: its plane, and nothing else."""
    return Terrain(
        corners=(),
        edge_m=ground.edge_m,
        foot_m=ground.foot_m,
        angle=ground.angle,
        deck_z=ground.deck_z,
    )
