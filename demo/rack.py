"""What hangs on Fernbeck Drainage's rack, where it is hooked, and what is tied down. All of it
invented.

Masses are in pounds, lengths in inches.
"""

from __future__ import annotations

from typing import Any, Final

GEAR: Final[list[dict[str, Any]]] = [
    # marked by grade: the published limit counts
    {"name": "3/8 chain, grade 70", "kind": "chain", "size": 0.375, "grade": "70", "length": 240,
     "count": 6, "seen": 21},
    {"name": "5/16 chain, grade 70", "kind": "chain", "size": 0.3125, "grade": "70",
     "length": 192, "count": 6, "seen": 21},
    # nobody can read what it is
    {"name": "Old 5/16 chain", "kind": "chain", "size": 0.3125, "length": 144, "count": 2,
     "seen": 410},
    {"name": "Chain with the opened hook", "kind": "chain", "size": 0.375, "grade": "70",
     "length": 240, "retired": "stretched", "seen": 21},
    {"name": "Lever binder, 3/8", "kind": "binder", "wll": 6600, "count": 4, "seen": 21},
    {"name": "Ratchet binder, 5/16", "kind": "binder", "wll": 5400, "count": 6, "seen": 21},
    {"name": "Ratchet strap, 2 in", "kind": "strap", "size": 2, "wll": 3300, "length": 324,
     "ratchet": True, "count": 4, "seen": 55},
    {"name": "Strap without its tag", "kind": "strap", "size": 2, "length": 300, "ratchet": True,
     "count": 2},
    {"name": "Shackle, 1/2", "kind": "shackle", "size": 0.5, "wll": 4000, "count": 4, "seen": 21},
]  # fmt: skip
"""``seen`` is how many days ago somebody looked it over."""

ANCHORS: Final[dict[str, list[tuple[str, str, float, float, float | None]]]] = {
    # name, kind, behind the front edge, off the middle, what each holds
    "20 ft equipment trailer": [
        ("front ring", "ring", 4, 39, 6600),
        ("first ring", "ring", 78, 39, 5000),
        ("second ring", "ring", 150, 39, 5000),
        ("rear ring", "ring", 236, 39, 6600),
        ("stake pocket", "stake_pocket", 114, 43, 2500),
    ],
    "12 ft dump trailer": [
        ("front ring", "ring", 5, 36, 5000),
        ("rear ring", "ring", 139, 36, 5000),
    ],
    "25 ft gooseneck": [
        ("front ring", "ring", 4, 46, 7000),
        ("first ring", "ring", 76, 46, 7000),
        ("second ring", "ring", 148, 46, 7000),
        ("third ring", "ring", 220, 46, 7000),
        ("rear ring", "ring", 294, 46, 7000),
    ],
}
"""Of the tilt nobody has measured any: it has the usual ones, as guesses."""

POINTS: Final[dict[str, list[tuple[str, str, float, float, float, dict[str, Any]]]]] = {
    # name, kind, ahead of the mark, off the middle (none: one on it), above the ground
    "Harrow 48 tractor with loader": [
        ("front axle", "axle", 66, 17, 14, {}),
        ("loader tube", "torque_tube", 38, 13, 26, {}),
        ("rear axle", "axle", 0, 17, 22, {}),
        ("drawbar", "drawbar", -28, 0, 14, {}),
        ("step", "handle", 16, 24, 22, {}),
        ("loader arm", "arms", 56, 16, 44, {}),
    ],
    "Kestrel T6 compact loader": [
        ("front eye", "eye", 58, 22, 12, {"strength": 7500}),
        ("rear eye", "eye", -26, 20, 14, {"strength": 7500}),
        ("grab handle", "handle", 40, 26, 50, {}),
    ],
    "Burrow 17 excavator": [
        ("track frame front", "frame", 22, 15, 9, {}),
        ("track frame rear", "frame", -22, 15, 9, {}),
        ("hose bundle", "hose", 34, 0, 40, {}),
    ],
    "Harrow 90 tractor": [
        ("front axle", "axle", 86, 22, 18, {}),
        ("rear axle", "axle", 0, 22, 27, {}),
        ("drawbar", "drawbar", -38, 0, 17, {}),
        ("cab floor", "floor", 18, 26, 44, {}),
    ],
    "Trench plough": [
        ("headstock", "frame", -4, 14, 22, {}),
        ("beam end", "frame", -52, 12, 24, {}),
    ],
    "Harrow 60 backhoe tractor": [
        ("front axle", "axle", 76, 20, 16, {}),
        ("rear axle", "axle", 0, 20, 24, {}),
        ("backhoe frame", "frame", -34, 18, 18, {"with": "Backhoe"}),
        ("drawbar", "drawbar", -34, 0, 16, {"hidden": "Backhoe"}),
        ("canopy post", "handle", 20, 22, 60, {"with": "Canopy"}),
    ],
    "Ridge R5 roller": [
        ("front yoke", "eye", 66, 18, 16, {}),
        ("rear eye", "eye", -18, 16, 16, {}),
    ],
    # a single strong point
    "Wren 9 mini dumper": [("tow hook", "hitch", -34, 0, 14, {})],
}

CHAIN_38: Final = ("3/8 chain, grade 70", "Lever binder, 3/8")
CHAIN_516: Final = ("5/16 chain, grade 70", "Ratchet binder, 5/16")
STRAP: Final = ("Ratchet strap, 2 in",)

TIED: Final[dict[str, list[tuple[str, str, tuple[str, ...], dict[str, str]]]]] = {
    # point, anchor, pieces of the rack, what was answered
    "Orchard tractor to the Quarry Lane block": [
        ("front axle left", "front ring left", CHAIN_38, {"hooks": "up", "slack": "secured"}),
        ("front axle right", "front ring right", CHAIN_38, {"hooks": "up", "slack": "secured"}),
        ("drawbar", "rear ring left", CHAIN_516, {"hooks": "up", "slack": "secured"}),
        ("drawbar", "rear ring right", CHAIN_516, {"hooks": "up"}),
    ],
    # straps that pull it forward only: nothing stops it under braking
    "Orchard tractor back from Mill Ponds": [
        ("front axle left", "front ring left", STRAP, {"edge": "bare"}),
        ("front axle right", "front ring right", STRAP, {"edge": "padded"}),
    ],
}

FROM_THE_RACK: Final = (
    "Compact loader to the Stony Bank culvert",
    "Big tractor to Upper Fern on the gooseneck",
)
"""Hauls that are tied as the rack suggests."""
