"""Kinds of scale: how finely each shows, and how far it may be off."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from mechanics.units import KG_PER_LB


@dataclass(frozen=True, kw_only=True, slots=True)
class Scale:
    """The step of what it shows, in kg, and the part of the load it may be off by beside that."""

    step_kg: float
    part: float

    def doubt_kg(self, kg: float) -> float:
        """How far a reading may be off: half a step, and its part of the load."""
        return self.step_kg / 2 + self.part * abs(kg)


VEHICLE: Final = Scale(step_kg=20 * KG_PER_LB, part=0.002)
"""A vehicle scale: step and maintenance tolerance (NIST Handbook 44, from memory)."""

SMALL: Final = Scale(step_kg=2 * KG_PER_LB, part=0.01)
"""A bathroom or tongue scale. Common practice, no source."""

CELL: Final = Scale(step_kg=2 * KG_PER_LB, part=0.002)
"""A load cell. Common practice, no source."""

HITCH_GAUGE: Final = Scale(step_kg=20 * KG_PER_LB, part=0.01)
"""A gauge in the hitch. Common practice, no source."""
