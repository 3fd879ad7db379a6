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
    deck alone. ``slopes`` are of the parts, from ahead to behind, in rise over run rearward.
    """

    corners: tuple[Corner, ...]
    edge_m: float
    foot_m: float
    angle: float
    deck_z: float
    slopes: tuple[float, ...] = field(init=False, repr=False)

    def __post_init__(self) -> None:
        slopes = [0.0]
        slopes += [(two.z - one.z) / (two.x - one.x) for one, two in pairwise(self.corners)]
        object.__setattr__(self, "slopes", (*slopes, 0.0))

    def height(self, x: float) -> float:
        """Height of the surface at a place behind the coupler."""
        z = self.deck_z
        slopes = self.slopes
        for index, (at, corner_z) in enumerate(self.corners):
            if x <= at:
                return corner_z + (x - at) * slopes[index]
            z = corner_z
        return z

    def part(self, x: float) -> Part:
        """What a contact there stands on."""
        if not self.corners or x <= self.corners[0].x + AT_CORNER_M:
            return Part.DECK
        if x >= self.foot_m - AT_CORNER_M:
            return Part.GROUND
        return Part.DOVETAIL if x <= self.edge_m + AT_CORNER_M else Part.RAMP

    def behind(self, x: float, distance: float) -> Corner:
        """The point of the surface behind ``x`` at a straight distance from the one there."""
        return self._at_distance(x, distance, 1.0)

    def ahead(self, x: float, distance: float) -> Corner:
        """The point of the surface ahead of ``x`` at a straight distance from the one there."""
        return self._at_distance(x, distance, -1.0)

    def _at_distance(self, x: float, distance: float, way: float) -> Corner:
        """Along the straight parts one by one, until one reaches as far as is asked."""
        z = self.height(x)
        at_x, at_z = x, z
        squared = distance * distance
        corners = self.corners if way > 0 else tuple(reversed(self.corners))
        for corner in corners:
            ahead = (corner.x - at_x) * way
            if ahead <= 0:
                continue
            if (corner.x - x) ** 2 + (corner.z - z) ** 2 >= squared:
                slope = (corner.z - at_z) / (corner.x - at_x)
                return _along(at_x, at_z, slope, way, x, z, squared)
            at_x, at_z = corner
        return _along(at_x, at_z, 0.0, way, x, z, squared)


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
