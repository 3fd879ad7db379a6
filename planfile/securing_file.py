"""Writing a securing file: every item's ties, in the units of the plan it answers."""

from __future__ import annotations

from typing import Any

from mechanics.securing import ItemTied, SecuringReport, TieUse
from planfile.compared import written
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
        "checks": [written(finding.code, finding, unit) for finding in item.findings],
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
