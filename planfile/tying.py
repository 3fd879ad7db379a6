"""Ties of a document when what they run between changes."""

from __future__ import annotations

from typing import Any


def without_loose_ties(raw: dict[str, Any]) -> dict[str, Any]:
    """The document without ties to an item, a point or an anchor that is gone."""
    securing = raw.get("securing")
    if not isinstance(securing, dict) or not securing.get("ties"):
        return raw
    anchors = {anchor["id"] for anchor in raw["trailer"].get("anchors", [])}
    points = {
        (item["id"], point["id"])
        for item in raw.get("items", [])
        for point in item.get("points", [])
    }
    ties = [
        tie
        for tie in securing["ties"]
        if (tie["item"], tie["point"]) in points
        and tie["anchor"] in anchors
        and tie.get("over", tie["anchor"]) in anchors
    ]
    if len(ties) == len(securing["ties"]):
        return raw
    return {**raw, "securing": {**securing, "ties": ties}}


def keeping_places(new: dict[str, Any], old: dict[str, Any], name: str) -> dict[str, Any]:
    """A section that says nothing of its ``anchors`` or ``points``, with those it had."""
    kept = old.get(name)
    return {**new, name: kept} if kept and not new.get(name) else new
