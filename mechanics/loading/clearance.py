"""What scrapes: the underside of a machine above what it drives over, measured vertically."""

from __future__ import annotations

import math
from enum import Enum
from itertools import pairwise
from typing import NamedTuple

from mechanics.loading.stance import Stance
from mechanics.loading.terrain import Terrain


class Touch(Enum):
    """What comes nearest: a low point of the machine to the surface below it, or a corner of
    the surface to the machine above it."""

    UNDERSIDE = "underside"
    TERRAIN = "terrain"


class Clearance(NamedTuple):
    """The least clearance of one stance, and where along the outfit."""

    least_m: float
    at: Touch
    x: float


class Gauge:
    """Measures a machine's underside against what it drives over.

    ``underside`` are places from the trailing contact towards the leading one, with their
    clearance square above the line through both, in rising order.
    """

    def __init__(
        self, underside: tuple[tuple[float, float], ...], ground: Terrain, up: Terrain | None
    ) -> None:
        self.underside, self.ground, self.up = underside, ground, up

    def at(self, stance: Stance) -> Clearance:
        """The least clearance of one stance."""
        ground = self.up if stance.level and self.up is not None else self.ground
        cos, sin = math.cos(stance.pitch), math.sin(stance.pitch)
        base_x, base_z = stance.trail_x, stance.trail_z
        height = ground.height
        best, where, found = math.inf, 0.0, Touch.UNDERSIDE
        points = []
        foremost, rearmost = math.inf, -math.inf
        for along, up in self.underside:
            x, z = base_x - along * cos + up * sin, base_z + along * sin + up * cos
            points.append((x, z))
            foremost = min(foremost, x)
            rearmost = max(rearmost, x)
            gap = z - height(x)
            if gap < best:
                best, where = gap, x
        for corner_x, corner_z in ground.corners:
            if not foremost <= corner_x <= rearmost:
                continue
            for (x1, z1), (x2, z2) in pairwise(points):
                if (x1 - corner_x) * (x2 - corner_x) <= 0 and x1 != x2:
                    gap = z1 + (z2 - z1) * (corner_x - x1) / (x2 - x1) - corner_z
                    if gap < best:
                        best, where, found = gap, corner_x, Touch.TERRAIN
        return Clearance(best, found, where)
