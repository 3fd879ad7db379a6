"""How high and how wide the road lets an outfit be without a permit, and when to stop and look."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from measures.writing import UnitSystem
from mechanics.units import M_PER_FT, M_PER_IN


@dataclass(frozen=True, kw_only=True, slots=True)
class RoadSize:
    """How high and how wide the road lets an outfit be, and where that is from."""

    height_m: float
    width_m: float
    source: str


ROAD: Final = {
    UnitSystem.US: RoadSize(
        height_m=13.5 * M_PER_FT,
        width_m=102 * M_PER_IN,
        source="13 ft 6 in in most states, 102 in by 23 CFR 658.15, from memory: ask your own",
    ),
    UnitSystem.METRIC: RoadSize(
        height_m=4.0,
        width_m=2.55,
        source="4.00 m and 2.55 m by Directive 96/53/EC, from memory: ask your own",
    ),
}
"""By the units a page is in; states and countries differ."""

FIRST_STOP: Final = "after about 20 minutes and within {50 miles|80 km}"
"""When it is looked over first. The twenty minutes are common practice, no source."""

LATER_STOPS: Final = "{150 miles|240 km} or 3 hours"
"""How often after that."""

STOPS_SOURCE: Final = (
    "{Within 50 miles, then at every change of duty, 3 hours or 150 miles|Within 80 km, then at "
    "every change of duty, 3 hours or 240 km} (49 CFR 392.9, from memory)."
)
