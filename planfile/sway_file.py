"""The sway format: how the outfit of a plan swings, in the plan's units."""

from __future__ import annotations

from typing import Any, Final

from mechanics.plan import Plan
from mechanics.sway import Case, Swing, cases, towing_of
from mechanics.units import M_S_PER_KMH, M_S_PER_MPH
from planfile.convert import Scale

SPEEDS: Final = {
    "mph": (M_S_PER_MPH, tuple(range(20, 81, 5)), 150),
    "km/h": (M_S_PER_KMH, tuple(range(30, 131, 10)), 240),
}
"""Of each unit: m/s, the speeds that are told, and the end of the range."""

STEP: Final = 0.01
"""How finely speeds are told at which something does not die out."""


def speed_unit(mass: str) -> str:
    """The unit of speed that goes with a plan's unit of mass."""
    return "mph" if mass == "lb" else "km/h"


def sway_document(plan: Plan, unit: Scale) -> dict[str, Any]:
    """The sway file. An outfit with an axle that carries nothing has no result, and ``missing``
    says so."""
    speed = speed_unit(unit.words["mass"])
    metres, told, most = SPEEDS[speed]
    towing = towing_of(plan)
    document: dict[str, Any] = {
        "format": "eyebolt.sway",
        "version": 1,
        "units": {"speed": speed},
        "missing": [],
        "trailer": None,
        "cases": [],
    }
    if not towing.stands:
        return {**document, "missing": ["load"]}
    body = towing.trailer
    found = cases(
        towing, [one * metres for one in told], most_m_s=most * metres, step_m_s=STEP * metres
    )
    return {
        **document,
        "trailer": {
            "mass": body.mass_kg / unit.kg,
            "centre": body.centre_m / unit.m,
            "yaw_inertia": body.yaw_inertia_kg_m2 / (unit.kg * unit.m**2),
        },
        "cases": [_case(one, told, metres) for one in found],
    }


def _case(case: Case, told: tuple[int, ...], metres: float) -> dict[str, Any]:
    return {
        "case": case.name,
        "critical_speed": _speed(case.critical_m_s, metres),
        "divergence_speed": _speed(case.divergence_m_s, metres),
        "speeds": [_swing(one, speed) for one, speed in zip(case.swings, told, strict=True)],
    }


def _swing(swing: Swing, speed: int) -> dict[str, Any]:
    return {
        "speed": speed,
        "damping": swing.damping,
        "frequency": swing.frequency_hz,
        "half_life": swing.half_life_s,
    }


def _speed(found: float | None, metres: float) -> float | None:
    return None if found is None else round(found / metres, 2)
