"""Densities of what is filled into tires and tanks, and the mass it makes there.

Each density is a handbook value at about 20 C; the brines are checked against a general
property library in ``validation/``. ``part`` is how far a usual mix may be from it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from mechanics.errors import InputError

KG_PER_M3_PER_LB_PER_GAL: Final = 0.45359237 / 0.003785411784
"""Exact: the pound over the US gallon (NIST SP 811)."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Fluid:
    """A fluid: density in kg/m3, the part by which it varies, and where the value is from."""

    name: str
    density_kg_m3: float
    part: float
    source: str


FLUIDS: Final[dict[str, Fluid]] = {
    "water": Fluid(
        name="Water",
        density_kg_m3=998.2,
        part=0.01,
        source="Handbook value at room temperature.",
    ),
    "calcium_chloride_20": Fluid(
        name="Calcium chloride, 20 % by mass",
        density_kg_m3=1178.0,
        part=0.03,
        source="Handbook value at room temperature, from memory.",
    ),
    "calcium_chloride_30": Fluid(
        name="Calcium chloride, 30 % by mass",
        density_kg_m3=1282.0,
        part=0.03,
        source="Handbook value at room temperature, from memory.",
    ),
    "beet_juice": Fluid(
        name="Beet juice",
        density_kg_m3=10.7 * KG_PER_M3_PER_LB_PER_GAL,
        part=0.03,
        source="Common practice, no source; from memory.",
    ),
    "glycol_50": Fluid(
        name="Antifreeze (ethylene glycol), half and half",
        density_kg_m3=1068.0,
        part=0.02,
        source="Handbook value at room temperature, from memory.",
    ),
    "methanol_30": Fluid(
        name="Washer fluid (methanol), 30 %",
        density_kg_m3=951.0,
        part=0.02,
        source="Handbook value at room temperature, from memory.",
    ),
    "diesel": Fluid(
        name="Diesel",
        density_kg_m3=7.1 * KG_PER_M3_PER_LB_PER_GAL,
        part=0.03,
        source="Common handbook value; from memory.",
    ),
    "petrol": Fluid(
        name="Petrol",
        density_kg_m3=6.2 * KG_PER_M3_PER_LB_PER_GAL,
        part=0.03,
        source="Middle of the common handbook range; from memory.",
    ),
}
"""By a code that stays; tire fluids first, then fuels."""


def fluid_mass_kg(*, volume_m3: float, fill: float, fluid: Fluid) -> float:
    """Volume, how much of it is filled (0 to 1), density: the mass in kg.

    ``volume_m3`` is of all tires or the whole tank together.

    Raises:
        InputError: a volume or a fill that nothing can have.
    """
    if not volume_m3 > 0:
        raise InputError("volume", "a volume greater than zero")
    if not 0 < fill <= 1:
        raise InputError("fill", "more than 0 and at most 100 %")
    return volume_m3 * fill * fluid.density_kg_m3
