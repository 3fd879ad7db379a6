"""Pulling on a machine that does not run: what the line has to pull, and what the winch can."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum
from typing import Final

from mechanics.loading.path import Path, Walk
from mechanics.loading.terrain import Part


class Rolling(Enum):
    """How a machine rolls."""

    WHEELS_ON_DECK = "wheels_on_deck"
    TIRES_ON_GRAVEL = "tires_on_gravel"
    SOFT_GROUND = "soft_ground"
    TRACKS = "tracks"
    DRAGGED = "dragged"

    @property
    def resistance(self) -> float:
        """Part of its weight that rolling takes: the high end of what engineering handbooks
        give (from memory); dragged with wheels or tracks that do not turn, rubber on wood or
        steel (common practice, no source)."""
        return _RESISTANCE[self]


_RESISTANCE: Final = {
    Rolling.WHEELS_ON_DECK: 0.02,
    Rolling.TIRES_ON_GRAVEL: 0.1,
    Rolling.SOFT_GROUND: 0.3,
    Rolling.TRACKS: 0.2,
    Rolling.DRAGGED: 0.6,
}

LAYER_LOSS: Final = 0.1
"""Part of its first-layer rating that a winch loses with each further layer on the drum."""


def pull_kg(mass_kg: float, slope: float, line: float, rolling: float) -> float:
    """Pull in a line that just moves a machine up a straight slope, as a mass at 1 g.

    ``slope`` and ``line`` are angles above the horizontal, in radians; a line steeper than the
    slope also lifts, and takes weight off what rolls. Infinite where the line pulls the
    machine nowhere.
    """
    apart = line - slope
    along = math.cos(apart) + rolling * math.sin(apart)
    if along <= 0:
        return math.inf
    return mass_kg * (math.sin(slope) + rolling * math.cos(slope)) / along


def layer_rating_kg(rating_kg: float, layer: int) -> float:
    """What a winch pulls on a layer of its drum, counted from one."""
    return rating_kg * max(1 - LAYER_LOSS * (layer - 1), 0.0)


@dataclass(frozen=True, kw_only=True, slots=True)
class Haulage:
    """The hardest pull along the way. ``line_kg`` is in the line, ``winch_kg`` at the drum,
    ``anchor_kg`` on the winch's mount, ``can_kg`` what the winch pulls on that layer."""

    line_kg: float
    winch_kg: float
    anchor_kg: float
    can_kg: float
    line_degrees: float


def haulage(
    walk: Walk,
    path: Path,
    *,
    rating_kg: float,
    winch_height_m: float,
    hook_height_m: float,
    rolling: float,
    layer: int,
    doubled: bool,
) -> Haulage:
    """The hardest pull while any of the machine stands on the ramp.

    The winch stands at the deck's front edge, the hook on the leading end. A line that is
    ``doubled`` runs through a block on the machine: the drum pulls half, the mounts of winch
    and line's end together hold the whole.
    """
    deck = walk.plan.trailer.deck
    winch_z = walk.ground.deck_z + winch_height_m
    hardest, angle = 0.0, 0.0
    slope = walk.ground.angle
    for station in path.stations:
        stance = station.stance
        on = (walk.ground.part(stance.lead_x), walk.ground.part(stance.trail_x))
        if Part.RAMP not in on or stance.lead_x <= deck.start_m:
            continue
        hook_z = stance.lead_z + hook_height_m
        line = math.atan2(winch_z - hook_z, stance.lead_x - deck.start_m)
        pull = pull_kg(walk.machine.mass_kg, slope, line, rolling)
        if pull > hardest:
            hardest, angle = pull, line
    return Haulage(
        line_kg=hardest,
        winch_kg=hardest / 2 if doubled else hardest,
        anchor_kg=hardest,
        can_kg=layer_rating_kg(rating_kg, layer),
        line_degrees=math.degrees(angle),
    )
