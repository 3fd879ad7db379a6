"""What a browser sends for a page of the book."""

from __future__ import annotations

from typing import Any


def formset(prefix: str, *rows: dict[str, Any], initial: int = 0) -> dict[str, Any]:
    """A formset's fields as a browser sends them."""
    data: dict[str, Any] = {
        f"{prefix}-TOTAL_FORMS": len(rows),
        f"{prefix}-INITIAL_FORMS": initial,
        f"{prefix}-MIN_NUM_FORMS": 0,
        f"{prefix}-MAX_NUM_FORMS": 1000,
    }
    for n, row in enumerate(rows):
        data |= {f"{prefix}-{n}-{name}": value for name, value in row.items()}
    return data


TRUCK: dict[str, Any] = {
    "name": "Field truck",
    "plate": "sticker",
    "empty_from": "axles",
    "front_axle_mass": "3,900",
    "rear_axle_mass": "1.2 t",
    "wheelbase": "12 ft 4",
    "version": "",
    **formset("loads"),
}
TRAILER: dict[str, Any] = {
    "name": "Small tilt",
    "kind": "tilt",
    "empty_mass": "1,640",
    "empty_known": "weighed",
    "empty_tongue_mass": "205 lb",
    "tongue_known": "weighed",
    "suspension": "independent",
    "track_width": "76",
    "deck_start": "-3 in",
    "deck_length": "14'",
    "version": "",
    **formset("axles"),
    **formset("new"),
    **formset("additions"),
    **formset("anchors"),
}
MACHINE: dict[str, Any] = {
    "name": "Borrowed roller",
    "shape": "implement",
    "built": "whole",
    "running": "skids",
    "mass": "1,2 t",
    "mass_known": "guess",
    "mark_name": "drum",
    "balance_ahead": "-4",
    "balance_known": "guess",
    "reach_front": "40",
    "reach_rear": "2' 6",
    "version": "",
    **formset("parts"),
    **formset("points"),
}
HITCH: dict[str, Any] = {"name": "Front ball", "type": "ball", "offset": "-46", **formset("new")}
BULK: dict[str, Any] = {
    "name": "Sand for the arena",
    "measured": "volume",
    "material": "sand_dry",
    "volume": "2 yd3",
    "heap": "peaked",
    "length": "12 ft",
    "version": "",
}
PART: dict[str, Any] = {
    "name": "Spare ball",
    "kind": "ball",
    "ball_size": "2 5/16",
    "max_trailer_mass": "3.5 t",
    "version": "",
}
