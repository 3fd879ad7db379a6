"""Writing a securing file: every item's ties, in the units of the plan it answers."""

from __future__ import annotations

from typing import Any

from mechanics.securing import Finding, ItemTied, Measure, SecuringReport, TieUse
from planfile.convert import Scale


def securing_document(report: SecuringReport, unit: Scale) -> dict[str, Any]:
    """The securing file: full precision, nothing rounded."""
    return {
        "format": "eyebolt.securing",
        "version": 1,
        "units": unit.words,
        "school": report.school.value,
        "items": [_item(item, unit) for item in report.items],
        "verdict": report.verdict.value,
    }


def _item(item: ItemTied, unit: Scale) -> dict[str, Any]:
    return {
        "item": item.item,
        "ties": [_tie(tie, unit) for tie in item.ties],
        "checks": [_finding(finding, unit) for finding in item.findings],
    }


def _tie(tie: TieUse, unit: Scale) -> dict[str, Any]:
    rope = tie.rope
    first, limit = rope.legs[0], rope.tie.wll_kg
    return {
        "id": rope.tie.id,
        "length": rope.length_m / unit.m,
        "along": first.x,
        "left": first.y,
        "up": first.z,
        "wll": None if limit is None else limit / unit.kg,
        "use": tie.use,
    }


def _finding(finding: Finding, unit: Scale) -> dict[str, Any]:
    per = unit.kg if finding.measure is Measure.MASS else 1.0

    def written(figure: float | None) -> float | None:
        return None if figure is None else figure / per

    return {
        "code": finding.code,
        "status": finding.status.value,
        "value": written(finding.value),
        "limit": written(finding.limit),
        "margin": written(finding.margin),
        "missing": list(finding.missing),
    }
