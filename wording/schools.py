"""Schools of tongue share and of trailer GVWR: their names, and why somebody holds them."""

from __future__ import annotations

from typing import Final

from mechanics.report import Report
from mechanics.rules import (
    AXLE_COUNT_RANGES,
    FIXED_RANGES,
    TongueSchool,
    TrailerGvwrSchool,
    resolve_school,
)

SCHOOL_LABELS: Final = {
    TongueSchool.DEFAULT: "usual for the hitch",
    TongueSchool.SHARE_10_15: "general",
    TongueSchool.SHARE_10_12: "narrow",
    TongueSchool.SHARE_9_15: "wide",
    TongueSchool.SHARE_10_20: "builder's",
    TongueSchool.BY_AXLE_COUNT: "by axle count",
    TongueSchool.GOOSENECK_15_25: "gooseneck",
    TongueSchool.GOOSENECK_13_15: "gooseneck, short of payload",
    TongueSchool.FIFTH_WHEEL_15_20: "fifth wheel",
    TongueSchool.NOSE_4_7: "nose plate",
    TongueSchool.CUSTOM: "our own numbers",
}

GVWR_LABELS: Final = {
    TrailerGvwrSchool.WHOLE: "the whole loaded trailer",
    TrailerGvwrSchool.AXLES: "what its axles carry",
}
"""What is held against the trailer's plate."""

GVWR_REASONS: Final = {
    TrailerGvwrSchool.WHOLE: "The plate is the maker's limit for the vehicle and its load, and "
    "the frame carries the part on the hitch too.",
    TrailerGvwrSchool.AXLES: "Some take off what rides on the truck. Each axle and its tires are "
    "checked either way; ask which way your inspector counts.",
}


def range_words(least: float, greatest: float) -> str:
    """A range of share: ``10–15 %``."""
    return f"{least * 100:g}–{greatest * 100:g} %"


def school_words(school: TongueSchool, axle_count: int | None = None) -> str:
    """A school with its range; that of one by axle count only where the count is known."""
    if school is TongueSchool.BY_AXLE_COUNT and axle_count is not None:
        return f"{range_words(*AXLE_COUNT_RANGES[min(axle_count, 3)])}, {SCHOOL_LABELS[school]}"
    if school in FIXED_RANGES:
        return f"{range_words(*FIXED_RANGES[school])}, {SCHOOL_LABELS[school]}"
    return SCHOOL_LABELS[school]


def school_label(school: TongueSchool, report: Report) -> str:
    """A school with its range, as the chooser lists it."""
    resolved = resolve_school(school, report.plan.hitch.type)
    words = school_words(resolved, len(report.plan.trailer.axles))
    if school is resolved:
        return words
    return f"{words.split(', ')[0]}, {SCHOOL_LABELS[school]}"
