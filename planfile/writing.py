"""Writing a report file, in the units of the plan it answers."""

from __future__ import annotations

from typing import Any

from mechanics.checks import Check
from mechanics.limits import Quantity
from mechanics.report import Report
from mechanics.windows import Interval, Window
from planfile.convert import Scale


def report_document(report: Report, unit: Scale) -> dict[str, Any]:
    """The report as the format writes it: full precision, nothing rounded."""
    trailer, truck = report.loads.trailer, report.loads.truck
    share_min, share_max = report.plan.share_range
    slope = report.tongue_per_metre_kg
    return {
        "format": "eyebolt.report",
        "version": 1,
        "units": unit.words,
        "tongue": {
            "mass": trailer.tongue_kg / unit.kg,
            "share": trailer.share,
            "share_min": share_min,
            "share_max": share_max,
            "added_share": trailer.added_share,
            "mass_per_length": None if slope is None else slope / unit.kg * unit.m,
        },
        "trailer": {
            "mass": trailer.mass_kg / unit.kg,
            "axles_mass": trailer.axles_mass_kg / unit.kg,
            "axles": [a / unit.kg for a in trailer.axles_kg],
            "left": trailer.left_kg / unit.kg,
            "right": trailer.right_kg / unit.kg,
        },
        "truck": {
            "front": truck.front_kg / unit.kg,
            "rear": truck.rear_kg / unit.kg,
            "mass": truck.mass_kg / unit.kg,
            "front_unhitched": truck.front_unhitched_kg / unit.kg,
            "rear_unhitched": truck.rear_unhitched_kg / unit.kg,
            "payload_used": truck.payload_used_kg / unit.kg,
        },
        "combination": {"mass": report.loads.combination_kg / unit.kg},
        "checks": [_check(check, unit) for check in report.checks],
        "windows": [_window(window, unit) for window in report.windows],
        "verdict": report.verdict.value,
    }


def _check(check: Check, unit: Scale) -> dict[str, Any]:
    per = {Quantity.MASS: unit.kg, Quantity.LENGTH: unit.m, Quantity.SHARE: 1.0}[check.quantity]
    return {
        "code": check.code,
        "item": check.item,
        "status": check.status.value,
        "value": check.value / per,
        "limit": None if check.limit is None else check.limit / per,
        "margin": None if check.margin is None else check.margin / per,
        "missing": list(check.missing),
    }


def _window(window: Window, unit: Scale) -> dict[str, Any]:
    return {
        "item": window.item,
        "intervals": [_interval(i, unit) for i in window.intervals],
        "aim": None if window.aim_m is None else window.aim_m / unit.m,
        "sure": [_interval(i, unit) for i in window.sure],
        "contradiction": None if window.contradiction is None else list(window.contradiction),
    }


def _interval(interval: Interval, unit: Scale) -> dict[str, Any]:
    return {
        "from": interval.start_m / unit.m,
        "to": interval.end_m / unit.m,
        "from_limit": interval.start_limit,
        "to_limit": interval.end_limit,
    }
