"""Writing a figure against its limit, in the units of the plan it answers."""

from __future__ import annotations

from typing import Any

from mechanics.finding import Compared, Measure
from planfile.convert import Scale


def written(code: str, found: Compared, unit: Scale) -> dict[str, Any]:
    """One finding as loading and securing files have it: full precision, nothing rounded."""
    per = {
        Measure.MASS: unit.kg,
        Measure.LENGTH: unit.m,
        Measure.MOMENT: unit.kg * unit.m,
    }.get(found.measure, 1.0)
    figures = {"value": found.value, "limit": found.limit, "margin": found.margin}
    return {
        "code": code,
        "status": found.status.value,
        **{name: None if one is None else one / per for name, one in figures.items()},
        "missing": list(found.missing),
    }
