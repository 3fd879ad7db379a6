"""Where a machine is loaded or unloaded: the ground, and what holds the outfit there."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum
from typing import Final

from mechanics.errors import InputError


class Surface(str, Enum):
    """What the outfit stands on."""

    CONCRETE_DRY = "concrete_dry"
    CONCRETE_WET = "concrete_wet"
    GRAVEL = "gravel"
    GRASS_DRY = "grass_dry"
    GRASS_WET = "grass_wet"
    ICE = "ice"

    @property
    def friction(self) -> float:
        """Tire on this surface, the low end of what engineering handbooks give (from memory)."""
        return _FRICTION[self]


_FRICTION: Final = {
    Surface.CONCRETE_DRY: 0.7,
    Surface.CONCRETE_WET: 0.5,
    Surface.GRAVEL: 0.4,
    Surface.GRASS_DRY: 0.35,
    Surface.GRASS_WET: 0.2,
    Surface.ICE: 0.1,
}

PUSH: Final = 0.1
"""Part of the machine's weight with which starting and stopping pushes the outfit. An
assumption, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Site:
    """The place, and what holds the outfit.

    ``slope`` is rise over run, positive with the truck uphill of the trailer.
    ``friction`` replaces the surface's. ``foot_rise_m`` is how much higher than the ground
    under the outfit the ramp's foot stands, on a bank or on blocks. ``held_trailer_axles``
    are chocked or braked, counted from one.
    """

    slope: float = 0.0
    surface: Surface = Surface.CONCRETE_DRY
    friction: float | None = None
    foot_rise_m: float = 0.0
    parking_brake: bool = True
    park_four_wheel: bool = False
    held_trailer_axles: tuple[int, ...] = ()
    stands_down: bool = False
    push: float = PUSH

    def __post_init__(self) -> None:
        if not math.isfinite(self.slope):
            raise InputError("site.slope", "a finite number")
        if self.friction is not None and not self.friction >= 0:
            raise InputError("site.friction", "zero or more")
        if not self.push >= 0:
            raise InputError("site.push", "zero or more")
        if any(number < 1 for number in self.held_trailer_axles):
            raise InputError("site.held_trailer_axles", "numbers of axles, counted from one")

    @property
    def grip(self) -> float:
        """The friction that counts."""
        return self.surface.friction if self.friction is None else self.friction
