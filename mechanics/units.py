"""Units of mass and length, with their exact factors to SI.

Source: NIST SP 811 (2008), appendix B.8: the pound is 0.453 592 37 kg and the inch
0.0254 m, both exact by definition; the foot is 12 in.
"""

from __future__ import annotations

from enum import Enum
from typing import Final

KG_PER_LB: Final = 0.45359237
"""Kilograms in one avoirdupois pound, exact."""

M_PER_IN: Final = 0.0254
"""Metres in one inch, exact."""

M_PER_FT: Final = 0.3048
"""Metres in one foot, exact (12 in)."""

M_PER_MI: Final = 1609.344
"""Metres in one mile, exact."""

M_S_PER_MPH: Final = 0.44704
"""Metres a second in a mile an hour, exact."""

M_S_PER_KMH: Final = 1 / 3.6
"""The same in a kilometre an hour."""


class MassUnit(str, Enum):
    """A unit of mass that a plan file may use."""

    LB = "lb"
    KG = "kg"

    @property
    def kg(self) -> float:
        """Kilograms in one of this unit."""
        return _KG[self]


class LengthUnit(str, Enum):
    """A unit of length that a plan file may use."""

    IN = "in"
    FT = "ft"
    MM = "mm"
    CM = "cm"
    M = "m"

    @property
    def m(self) -> float:
        """Metres in one of this unit."""
        return _M[self]


_KG: Final = {MassUnit.LB: KG_PER_LB, MassUnit.KG: 1.0}
_M: Final = {
    LengthUnit.IN: M_PER_IN,
    LengthUnit.FT: M_PER_FT,
    LengthUnit.MM: 0.001,
    LengthUnit.CM: 0.01,
    LengthUnit.M: 1.0,
}
