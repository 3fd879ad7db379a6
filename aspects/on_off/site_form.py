"""The place of loading or unloading as a person enters it."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any, Final

import msgspec
from msgspec import UNSET

from measures import ReadingError, UnitSystem, read_length, write_length
from measures.writing import write_number
from mechanics.site import Surface
from planfile.climbing import inner
from planfile.document import Site
from planfile.draft import Units
from wording.loading import LEVEL, SURFACES

STEEPEST: Final = 1.0
"""Slopes above 45 degrees are a slip of the pen."""

TOO_STEEP: Final = 0.3
"""A slope of more than this is no place to load: nothing holds there. An assumption, no source."""

_ANGLE = re.compile(r"^(?P<number>[\d.,]+)\s*(?:°|deg|degrees?)$", re.IGNORECASE)
_PERCENT = re.compile(r"^(?P<number>[\d.,]+)\s*(?:%|percent|per cent)?$", re.IGNORECASE)
_IN_HUNDRED = re.compile(r"^(?P<rise>[\d.,]+)\s+in\s+(?P<run>[\d.,]+)$", re.IGNORECASE)
_PAIR = re.compile(r"^(?P<rise>.+?)\s+(?P<how>over|along)\s+(?P<run>.+)$", re.IGNORECASE)

HOW_TO: Final = (
    "Write what you measured: a rise over a level's length, {2 in over 48 in|50 mm over 1200 mm}; "
    "a rise along the ground, {6 in along 16 ft|150 mm along 5 m}; a percentage, 4 %; or an angle, "
    "2.3°."
)
"""How a slope may be written."""


def read_slope(text: str, unit: UnitSystem) -> float:
    """Rise over run of a slope as people write it; nothing is level.

    ``2 in over 48 in`` is a rise under a level held level; ``6 in along 16 ft`` a rise along
    the ground; ``4 %``, ``3 in 100`` and ``2.3°`` are what they say; a bare number is percent.

    Raises:
        ReadingError: it is none of these, or steeper than 45 degrees.
    """
    text = text.strip()
    if not text:
        return 0.0
    slope = _slope(text, unit)
    if slope is None:
        raise ReadingError(
            "Write a slope such as 2 in over 48 in, 6 in along 16 ft, 4 % or 2.3°."
            if unit is UnitSystem.US
            else "Write a slope such as 50 mm over 1200 mm, 150 mm along 5 m, 4 % or 2.3°."
        )
    if not 0 <= slope <= STEEPEST:
        raise ReadingError("Nobody stands on a slope steeper than 45 degrees. Measured otherwise?")
    return slope


def _slope(text: str, unit: UnitSystem) -> float | None:
    if match := _ANGLE.match(text):
        degrees = _number(match["number"])
        return None if degrees is None or degrees >= 90 else math.tan(math.radians(degrees))
    if match := _IN_HUNDRED.match(text):
        rise, run = _number(match["rise"]), _number(match["run"])
        return None if rise is None or not run else rise / run
    if match := _PERCENT.match(text):
        percent = _number(match["number"])
        return None if percent is None else percent / 100
    if match := _PAIR.match(text):
        rise = float(read_length(match["rise"], unit.length_unit).si)
        run = float(read_length(match["run"], unit.length_unit).si)
        if run <= 0 or rise < 0:
            return None
        if match["how"].lower() == "over":
            return rise / run
        return None if rise >= run else rise / math.sqrt(run * run - rise * rise)
    return None


def _number(text: str) -> float | None:
    try:
        return float(Decimal(text.replace(",", ".")))
    except ArithmeticError:
        return None


def write_slope(slope: float) -> str:
    """A slope as it stands in its box: ``3 %``."""
    if abs(slope) < LEVEL:
        return ""
    return f"{write_number(abs(slope) * 100, 2).rstrip('0').rstrip('.')} %"


@dataclass(frozen=True, kw_only=True, slots=True)
class SiteBoxes:
    """The boxes of one place, as entered; ``wrong`` says of each what cannot be read."""

    slope: str
    uphill: bool
    surface: str
    foot_rise: str
    brake: bool
    four_wheel: bool
    held: tuple[int, ...]
    stands: bool
    wrong: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True, slots=True)
class Held:
    """A box to tick: an axle's chocks."""

    number: int
    ticked: bool


def boxes_of(site: Site, units: Units, unit: UnitSystem) -> SiteBoxes:
    """The boxes of a place that is kept."""
    typed = inner({} if isinstance(site.extra, msgspec.UnsetType) else site.extra, "as_typed")
    foot = site.foot_rise * units.length.m
    slope = str(typed.get("slope", "")) if typed.get("of") == site.slope else ""
    return SiteBoxes(
        slope=slope or write_slope(site.slope),
        uphill=site.slope >= 0,
        surface=site.surface,
        foot_rise=write_length(foot, unit) if foot else "",
        brake=site.parking_brake,
        four_wheel=site.park_four_wheel,
        held=tuple(site.held_trailer_axles),
        stands=site.stands_down,
    )


def read_site(
    data: Mapping[str, Any], kept: Site, units: Units, unit: UnitSystem, axles: int
) -> tuple[Site | None, SiteBoxes]:
    """The place that was entered, and its boxes as typed; ``None`` where one cannot be read."""
    wrong: dict[str, str] = {}
    typed_slope = str(data.get("slope", ""))[:60]
    slope = 0.0
    try:
        slope = read_slope(typed_slope, unit)
    except ReadingError as error:
        wrong["slope"] = str(error)
    uphill = data.get("uphill") != "0"
    typed_foot = str(data.get("foot_rise", ""))[:40]
    foot = 0.0
    if typed_foot.strip():
        try:
            foot = float(read_length(typed_foot, unit.length_unit).si)
        except ReadingError as error:
            wrong["foot_rise"] = str(error)
        if foot < 0:
            wrong["foot_rise"] = "How much higher the foot stands, or nothing."
    surface = str(data.get("surface", ""))
    if surface not in {one.value for one in Surface}:
        surface = kept.surface
        wrong["surface"] = "Choose what the outfit stands on."
    held = tuple(n for n in range(1, axles + 1) if data.get(f"held_{n}"))
    boxes = SiteBoxes(
        slope=typed_slope,
        uphill=uphill,
        surface=surface,
        foot_rise=typed_foot,
        brake=bool(data.get("brake")),
        four_wheel=bool(data.get("four_wheel")),
        held=held,
        stands=bool(data.get("stands")),
        wrong=wrong,
    )
    if wrong:
        return None, boxes
    signed = slope if uphill else -slope
    extra = {} if isinstance(kept.extra, msgspec.UnsetType) else dict(kept.extra)
    extra.pop("as_typed", None)
    if typed_slope.strip():
        extra["as_typed"] = {"slope": typed_slope.strip(), "of": signed}
    site = msgspec.structs.replace(
        kept,
        slope=signed,
        surface=surface,
        friction=kept.friction if surface == kept.surface else UNSET,
        foot_rise=units.metres(foot),
        parking_brake=boxes.brake,
        park_four_wheel=boxes.four_wheel,
        held_trailer_axles=list(held),
        stands_down=boxes.stands,
        extra=extra or UNSET,
    )
    return site, boxes


SURFACE_CHOICES: Final = tuple((one.value, words) for one, words in SURFACES.items())
"""What the outfit may stand on, to choose from."""
