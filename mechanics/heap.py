"""Bulk load: how much it weighs, and where its balance point lies by how it was dropped."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import Final

from mechanics.body import Body
from mechanics.errors import InputError

KG_PER_M3_PER_LB_PER_YD3: Final = 0.45359237 / 0.764554857984
"""Exact: the pound over the cubic yard (NIST SP 811)."""


class HeapShape(str, Enum):
    """How a load lies along the bed."""

    LEVEL = "level"
    PEAKED = "peaked"
    FRONT = "front"
    REAR = "rear"


CENTRE_FROM_FRONT: Final = {
    HeapShape.LEVEL: 1 / 2,
    HeapShape.PEAKED: 1 / 2,
    HeapShape.FRONT: 1 / 3,
    HeapShape.REAR: 2 / 3,
}
"""Balance point behind the load's front edge, as a part of its length: a box, a roof, and
wedges that are highest at one end (centroids of a rectangle and of triangles)."""

SHAPE_DOUBT: Final = {
    HeapShape.LEVEL: 1 / 24,
    HeapShape.PEAKED: 1 / 12,
    HeapShape.FRONT: 1 / 12,
    HeapShape.REAR: 1 / 12,
}
"""Part of the length by which the balance point may be wrong. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Material:
    """A bulk material: usual least and greatest loose density in kg/m3."""

    name: str
    least_kg_m3: float
    greatest_kg_m3: float
    source: str

    @property
    def density_kg_m3(self) -> float:
        """The middle of the range."""
        return (self.least_kg_m3 + self.greatest_kg_m3) / 2

    @property
    def part(self) -> float:
        """How far the density may be from the middle, as a part of it."""
        return (self.greatest_kg_m3 - self.least_kg_m3) / 2 / self.density_kg_m3


def _per_yard(name: str, least: float, greatest: float) -> Material:
    return Material(
        name=name,
        least_kg_m3=least * KG_PER_M3_PER_LB_PER_YD3,
        greatest_kg_m3=greatest * KG_PER_M3_PER_LB_PER_YD3,
        source="Common handbook range; from memory.",
    )


MATERIALS: Final[dict[str, Material]] = {
    "gravel_dry": _per_yard("Gravel, dry", 2600, 2900),
    "gravel_wet": _per_yard("Gravel, wet", 3000, 3400),
    "crushed_stone": _per_yard("Crushed stone", 2500, 2800),
    "sand_dry": _per_yard("Sand, dry", 2550, 2850),
    "sand_wet": _per_yard("Sand, wet", 3000, 3500),
    "topsoil": _per_yard("Topsoil", 2000, 2400),
    "clay_dug": _per_yard("Clay, dug and moist", 2400, 2900),
    "mulch": _per_yard("Mulch", 500, 800),
    "compost": _per_yard("Compost", 800, 1200),
    "concrete_broken": _per_yard("Concrete, broken", 2000, 2600),
}
"""By a code that stays."""


def bulk_by_volume(
    *,
    volume_m3: float,
    density_kg_m3: float,
    density_part: float,
    length_m: float,
    width_m: float | None,
    shape: HeapShape,
) -> Body:
    """A heap: ``ahead`` is from the middle of its length, positive towards its front edge.

    Height is that of the balance point above the bed: half of a level load, a third of a
    roof or wedge; unknown without a width.

    Raises:
        InputError: a volume, density or length that is not greater than zero.
    """
    for path, value in (("volume", volume_m3), ("density", density_kg_m3), ("length", length_m)):
        if not value > 0:
            raise InputError(path, "a figure greater than zero")
    mass = volume_m3 * density_kg_m3
    height: float | None = None
    if width_m is not None and width_m > 0:
        level = volume_m3 / (length_m * width_m)
        # a roof or wedge of the same volume is twice as high, and balances at a third
        height = level / 2 if shape is HeapShape.LEVEL else 2 * level / 3
    return Body(
        mass_kg=mass,
        mass_tolerance_kg=mass * density_part,
        ahead_m=(1 / 2 - CENTRE_FROM_FRONT[shape]) * length_m,
        ahead_tolerance_m=SHAPE_DOUBT[shape] * length_m,
        height_m=height,
    )


def bulk_by_count(
    *,
    count: int,
    each_kg: float,
    part: float,
    length_m: float,
    height_m: float | None,
    shape: HeapShape,
) -> Body:
    """Bales, pallets, pipes: so many of so much each, stacked as ``shape`` says.

    ``part`` is how far the mass of each may be wrong. ``height_m`` is of the stack.

    Raises:
        InputError: none, or a mass or length that is not greater than zero.
    """
    if count < 1:
        raise InputError("count", "at least one")
    for path, value in (("each", each_kg), ("length", length_m)):
        if not value > 0:
            raise InputError(path, "a figure greater than zero")
    mass = count * each_kg
    stack = None if height_m is None else height_m / (2 if shape is HeapShape.LEVEL else 3)
    return Body(
        mass_kg=mass,
        mass_tolerance_kg=mass * part,
        ahead_m=(1 / 2 - CENTRE_FROM_FRONT[shape]) * length_m,
        ahead_tolerance_m=SHAPE_DOUBT[shape] * length_m,
        height_m=stack,
    )
