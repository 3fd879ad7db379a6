"""Schools of tongue share and of trailer GVWR, and the reserve below a rating.

The schools are common practice with no published source; practitioners name them with
these numbers. Which one holds is the yard's choice.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import Final

from mechanics.errors import InputError
from mechanics.hitch import HitchType

NEAR_RATING: Final = 0.9
"""Above this part of a rating the status is *near* (the yard's default reserve)."""

NEAR_HITCH: Final = 1 / 1.2
"""The same for hitch parts: 20 % spare on the load, common practice, no source."""


LIGHT: Final = 0.8
"""Below this part of what a truck axle carries unhitched the status is *near*: steering goes
vague, headlights high, or the rear wheels lose their grip. Common practice, no source."""


class TongueSchool(str, Enum):
    """A range of tongue share that a yard holds to."""

    DEFAULT = "default"
    SHARE_10_15 = "share_10_15"
    SHARE_10_12 = "share_10_12"
    SHARE_9_15 = "share_9_15"
    SHARE_10_20 = "share_10_20"
    BY_AXLE_COUNT = "by_axle_count"
    GOOSENECK_15_25 = "gooseneck_15_25"
    GOOSENECK_13_15 = "gooseneck_13_15"
    FIFTH_WHEEL_15_20 = "fifth_wheel_15_20"
    NOSE_4_7 = "nose_4_7"
    CUSTOM = "custom"


FIXED_RANGES: Final[dict[TongueSchool, tuple[float, float]]] = {
    TongueSchool.SHARE_10_15: (0.10, 0.15),
    TongueSchool.SHARE_10_12: (0.10, 0.12),
    TongueSchool.SHARE_9_15: (0.09, 0.15),
    TongueSchool.SHARE_10_20: (0.10, 0.20),
    TongueSchool.GOOSENECK_15_25: (0.15, 0.25),
    TongueSchool.GOOSENECK_13_15: (0.13, 0.15),
    TongueSchool.FIFTH_WHEEL_15_20: (0.15, 0.20),
    TongueSchool.NOSE_4_7: (0.04, 0.07),
}
"""Least and greatest share of each school that is the same for every trailer."""

AXLE_COUNT_RANGES: Final[dict[int, tuple[float, float]]] = {
    1: (0.12, 0.15),
    2: (0.09, 0.11),
    3: (0.05, 0.07),
}
"""Least and greatest share by number of axles; more than three count as three."""


class TrailerGvwrSchool(str, Enum):
    """What is held against the trailer's GVWR: the whole trailer, or what its axles carry."""

    WHOLE = "whole"
    AXLES = "axles"


@dataclass(frozen=True, kw_only=True, slots=True)
class Rules:
    """The schools a plan is judged by; ``share_min`` and ``share_max`` only with custom."""

    tongue: TongueSchool = TongueSchool.DEFAULT
    trailer_gvwr: TrailerGvwrSchool = TrailerGvwrSchool.WHOLE
    share_min: float | None = None
    share_max: float | None = None

    def __post_init__(self) -> None:
        custom = self.tongue is TongueSchool.CUSTOM
        for name, value in (("share_min", self.share_min), ("share_max", self.share_max)):
            if custom and value is None:
                raise InputError(f"rules.{name}", 'a fraction, as "tongue" is "custom"')
            if not custom and value is not None:
                raise InputError(f"rules.{name}", 'to be left out unless "tongue" is "custom"')
            if value is not None and not 0.0 <= value <= 1.0:
                raise InputError(f"rules.{name}", "a fraction from 0 to 1")
        if (
            self.share_min is not None
            and self.share_max is not None
            and self.share_min > self.share_max
        ):
            raise InputError("rules.share_max", "a fraction not below share_min")

    def share_range(self, hitch_type: HitchType, axle_count: int) -> tuple[float, float]:
        """Least and greatest tongue share for a hitch and a number of trailer axles."""
        if self.share_min is not None and self.share_max is not None:
            return self.share_min, self.share_max
        school = resolve_school(self.tongue, hitch_type)
        if school is TongueSchool.BY_AXLE_COUNT:
            return AXLE_COUNT_RANGES[min(axle_count, 3)]
        return FIXED_RANGES[school]


def resolve_school(school: TongueSchool, hitch_type: HitchType) -> TongueSchool:
    """The school that ``default`` stands for under a hitch; any other as it is."""
    if school is not TongueSchool.DEFAULT:
        return school
    if hitch_type is HitchType.GOOSENECK:
        return TongueSchool.GOOSENECK_15_25
    if hitch_type is HitchType.FIFTH_WHEEL:
        return TongueSchool.FIFTH_WHEEL_15_20
    return TongueSchool.SHARE_10_15


OVER_BED: Final = (
    TongueSchool.GOOSENECK_15_25,
    TongueSchool.GOOSENECK_13_15,
    TongueSchool.FIFTH_WHEEL_15_20,
)
BEHIND: Final = (TongueSchool.SHARE_10_15, TongueSchool.SHARE_9_15, TongueSchool.SHARE_10_20)


def usual_schools(hitch_type: HitchType) -> tuple[TongueSchool, ...]:
    """Schools that people use over a truck bed, or behind a bumper. Common practice, no source."""
    return OVER_BED if hitch_type.over_bed else BEHIND
