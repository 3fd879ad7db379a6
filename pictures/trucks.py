"""Pickups from the side: single or crew cab, single or dual rear wheels."""

from __future__ import annotations

from collections.abc import Iterable

from pictures.outlines import Points, band

TYRE_M = 0.42
"""Radius of a pickup's tyre."""

CABS: dict[str, float] = {"single": 1.0, "extended": 1.45, "crew": 2.0}
"""From the foot of the windshield to the cab's rear wall, in m, by the kind of cab."""

BEHIND_BUMPER_M = 0.5
"""A ball that is further behind the rear axle hangs behind the bumper."""

ROOM_M = 0.12
"""The least of a bed ahead of the rear axle, however long the cab is."""


def bumper_m(balls: Iterable[float]) -> float:
    """Where a truck is drawn to end, negative behind its rear axle: just ahead of the rearmost of
    its balls, each so far behind the axle; one over the bed says nothing of that."""
    behind = [place for place in balls if place > BEHIND_BUMPER_M]
    return -(max(behind) - 0.13) if behind else -1.15


def truck_outline(
    wheelbase: float, rear: float, *, cab: str = "", dual: bool = False
) -> list[tuple[str, Points]]:
    """A pickup about its rear axle: style and points, metres ahead and up.

    ``rear`` is where its bumper ends, negative behind the axle. A cab that nobody said is as long
    as such trucks usually have it for their wheelbase.
    """
    shield = wheelbase - 1.12
    usual = shield - min(1.06, wheelbase * 0.27)
    wall = max(shield - CABS.get(cab, usual), ROOM_M)
    roof_front = wheelbase - 1.67
    shapes: list[tuple[str, Points]] = [
        # the bed with its rail, then cab and hood in one line
        (
            "body",
            [
                (wall - 0.06, 0.56),
                (wall - 0.06, 1.4),
                (rear + 0.02, 1.4),
                (rear, 1.36),
                (rear - 0.02, 0.66),
                (rear + 0.5, 0.58),
            ],
        ),
        ("seam", [(wall - 0.06, 1.3), (rear, 1.3)]),
        (
            "body",
            [
                (wheelbase + 0.93, 0.51),
                (wheelbase + 0.97, 0.72),
                (wheelbase + 0.94, 1.02),
                (wheelbase + 0.8, 1.2),
                (wheelbase - 0.25, 1.29),
                (shield, 1.37),
                (roof_front, 1.9),
                (roof_front - 0.2, 1.95),
                (wall + 0.1, 1.95),
                (wall, 1.86),
                (wall - 0.04, 1.4),
                (wall - 0.04, 0.56),
                (wheelbase - 0.5, 0.54),
            ],
        ),
    ]
    doors = 2 if shield - wall > 1.7 else 1
    pillar = (roof_front + wall + 0.1) / 2 if doors == 2 else wall + 0.08
    shapes.append(
        (
            "glass",
            [
                (shield - 0.17, 1.38),
                (roof_front - 0.06, 1.83),
                (pillar + 0.05, 1.84),
                (pillar + 0.05, 1.38),
            ],
        )
    )
    if doors == 2:
        shapes.append(
            (
                "glass",
                [
                    (pillar - 0.05, 1.38),
                    (pillar - 0.05, 1.84),
                    (wall + 0.12, 1.84),
                    (wall + 0.06, 1.38),
                ],
            )
        )
    elif shield - wall > 1.3:
        # the small window behind the door of an extended cab
        shapes[-1] = (
            "glass",
            [
                (shield - 0.17, 1.38),
                (roof_front - 0.06, 1.83),
                (wall + 0.5, 1.84),
                (wall + 0.46, 1.38),
            ],
        )
        shapes.append(
            (
                "glass",
                [(wall + 0.38, 1.38), (wall + 0.4, 1.84), (wall + 0.1, 1.84), (wall + 0.06, 1.38)],
            )
        )
    seams = [shield - 0.1, pillar] if doors == 2 else [shield - 0.1]
    shapes += [("seam", [(at, 1.34), (at, 0.6)]) for at in seams]
    shapes += [
        ("seam", [(wheelbase + 0.96, 0.86), (wheelbase + 0.72, 0.9)]),
        (
            "arm",
            [
                (wheelbase + 0.99, 0.5),
                (wheelbase + 1.0, 0.68),
                (wheelbase + 0.7, 0.68),
                (wheelbase + 0.7, 0.5),
            ],
        ),
    ]
    if dual:
        # the fender stands out over the outer of two wheels
        shapes.append(("body", band(0.0, TYRE_M, TYRE_M * 1.12, TYRE_M * 1.55, -8, 188)))
    return shapes
