"""Silhouettes of machines, in usual proportions about their reference mark.

The plan says how far a machine reaches and how high it is; the rest is drawing, and takes
no part in any figure.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import cos, radians, sin

Points = list[tuple[float, float]]


@dataclass(frozen=True, slots=True)
class Outline:
    """A machine about its mark: ``ahead`` and ``up`` in metres, styles, wheels."""

    shapes: list[tuple[str, Points]]
    wheels: list[tuple[float, float]]


def arc(x: float, y: float, radius: float, start: float, end: float, steps: int = 8) -> Points:
    """Points of an arc about ``x``, ``y``; degrees from straight ahead, up over the top."""
    turn = (radians(start + (end - start) * n / steps) for n in range(steps + 1))
    return [(x + radius * cos(a), y + radius * sin(a)) for a in turn]


def band(x: float, y: float, inner: float, outer: float, start: float, end: float) -> Points:
    """A fender: the band between two arcs."""
    return [*arc(x, y, outer, start, end), *arc(x, y, inner, end, start)]


@lru_cache(maxsize=256)
def machine_outline(
    shape: str,
    front: float,
    rear: float,
    height: float,
    wheelbase: float | None,
    carried: float = 0.0,
) -> Outline:
    """A silhouette that reaches exactly ``front``, ``rear`` and ``height``.

    ``carried`` is how high over the ground its bucket is held; parked it lies on the deck.
    """
    if shape == "loader":
        return _loader(front, rear, height, wheelbase, carried)
    if shape == "excavator":
        return _excavator(front, rear, height, wheelbase, carried)
    if shape == "roller":
        return _roller(front, rear, height, wheelbase)
    if shape == "car":
        return _car(front, rear, height, wheelbase)
    if shape == "implement":
        return _implement(front, rear, height)
    if shape == "pallet":
        return _pallet(front, rear, height)
    if shape.startswith("heap"):
        return _heap(shape, front, rear, height)
    return _tractor(front, rear, height, wheelbase, carried)


def _heap(shape: str, f: float, r: float, h: float) -> Outline:
    """A bulk load: a box, a roof, or a wedge highest at one end."""
    level = [(-r, h), (f, h)]
    top = {
        "heap_peaked": [((f - r) / 2, h)],
        "heap_front": [(f, h)],
        "heap_rear": [(-r, h)],
    }.get(shape, level)
    return Outline([("mach", [(-r, 0.0), *top, (f, 0.0)])], [])


CAB_M = 2.15
"""A tractor from this height on is drawn with a cab, a lower one with a roll bar."""


def _tractor(f: float, r: float, h: float, wheelbase: float | None, up: float) -> Outline:
    wb = wheelbase or min(0.62 * f, 2.4)
    big, small = min(0.29 * h, 0.42 * wb, r * 1.2), min(0.17 * h, 0.26 * wb)
    hood = 0.57 * h
    has_loader = f > wb + small * 1.6
    nose = min(wb + small * 1.05, f) if has_loader else f
    fire = 0.46 * wb
    shapes: list[tuple[str, Points]] = [
        # the links behind, down to the ends of the lower arms
        (
            "arm",
            [
                (-0.35 * big, big * 0.95),
                (-0.72 * r, big * 0.78),
                (-r, big * 0.42),
                (-r, big * 0.24),
                (-0.68 * r, big * 0.55),
                (-0.3 * big, big * 0.6),
            ],
        ),
        # gearbox and engine
        (
            "arm",
            [
                (-0.5 * big, 0.8 * big),
                (-0.5 * big, hood * 0.72),
                (nose * 0.92, hood * 0.66),
                (nose * 0.92, small * 1.15),
                (fire, small * 1.3),
                (0.3 * wb, 0.75 * big),
            ],
        ),
        # hood, its nose leaning a little
        (
            "mach",
            [
                (fire - 0.04 * wb, hood * 0.6),
                (fire - 0.1 * wb, hood),
                (0.72 * wb, hood * 0.985),
                (nose - 0.05, hood * 0.9),
                (nose, hood * 0.8),
                (nose - 0.02, hood * 0.5),
                (0.8 * wb, hood * 0.47),
                (0.62 * wb, hood * 0.6),
            ],
        ),
        ("seam", [(nose - 0.12, hood * 0.88), (nose - 0.12, hood * 0.5)]),
    ]
    if h >= CAB_M:
        shapes += [
            (
                "cab",
                [
                    (-0.62 * big, hood * 0.9),
                    (-0.5 * big, h - 0.09),
                    (0.36 * wb, h - 0.09),
                    (fire - 0.06 * wb, hood * 0.98),
                ],
            ),
            ("seam", [(0.02 * wb, h - 0.09), (0.06 * wb, hood * 0.92)]),
            (
                "mach",
                [(-0.66 * big, h - 0.1), (-0.62 * big, h), (0.38 * wb, h), (0.43 * wb, h - 0.1)],
            ),
        ]
    else:
        shapes += [
            # roll bar, seat, wheel
            (
                "arm",
                [
                    (-0.62 * big, hood * 0.8),
                    (-0.74 * big, h),
                    (-0.74 * big + 0.07, h),
                    (-0.62 * big + 0.08, hood * 0.8),
                ],
            ),
            (
                "mach",
                [
                    (-0.42 * big, hood * 0.82),
                    (-0.52 * big, hood * 1.22),
                    (-0.42 * big, hood * 1.24),
                    (-0.3 * big, hood * 0.95),
                    (0.2 * big, hood * 0.93),
                    (0.2 * big, hood * 0.82),
                ],
            ),
            ("seam", [(fire - 0.1 * wb, hood), (0.27 * wb, hood * 1.14)]),
            ("seam", [(0.21 * wb, hood * 1.06), (0.33 * wb, hood * 1.22)]),
        ]
    shapes.append(("mach", band(0.0, big, 1.05 * big, 1.2 * big, 28, 152)))
    if has_loader:
        shapes += [
            # loader: its post, its arms, its bucket
            (
                "arm",
                [
                    (0.52 * wb, hood * 0.5),
                    (0.5 * wb, hood * 0.9),
                    (0.57 * wb, hood * 1.02),
                    (0.64 * wb, hood * 0.9),
                    (0.66 * wb, hood * 0.5),
                ],
            ),
            (
                "arm",
                [
                    (0.53 * wb, hood * 0.84),
                    (0.56 * wb, hood * 1.0),
                    (wb + 0.25 * (f - wb), hood * 0.78),
                    (f - 0.33, 0.44 + up),
                    (f - 0.3, 0.2 + up),
                    (f - 0.45, 0.2 + up),
                    (wb + 0.2 * (f - wb), hood * 0.62),
                ],
            ),
            (
                "mach",
                _raised(
                    [
                        (f - 0.5, 0.03),
                        (f - 0.52, 0.46),
                        (f - 0.36, 0.52),
                        (f - 0.3, 0.3),
                        (f, 0.08),
                        (f, 0.03),
                    ],
                    up,
                ),
            ),
        ]
    return Outline(shapes, [(0.0, big), (wb, small)])


def _loader(f: float, r: float, h: float, wheelbase: float | None, up: float) -> Outline:
    wb = wheelbase or 0.4 * (f + r)
    # the mark is the rear axle, or the middle where the machine reaches alike both ways
    rear_wheel = 0.0 if f > 1.4 * r else -wb / 2
    wheel = min(0.2 * h, wb * 0.42)
    body = rear_wheel + wb + wheel
    back = -0.42 * r
    shapes: list[tuple[str, Points]] = [
        # chassis and engine, its door at the rear
        (
            "mach",
            [
                (-0.97 * r, wheel * 0.75),
                (-r, wheel * 1.1),
                (-r, 0.44 * h),
                (-0.9 * r, 0.56 * h),
                (back, 0.58 * h),
                (back, 0.36 * h),
                (body * 0.78, 0.34 * h),
                (body, 0.26 * h),
                (body, wheel * 0.7),
            ],
        ),
        ("seam", [(-0.86 * r, 0.5 * h), (-0.86 * r, wheel * 1.1)]),
        # cage over the seat
        (
            "cab",
            [
                (back, 0.4 * h),
                (back - 0.02, h - 0.07),
                (body * 0.5, h - 0.07),
                (body * 0.78, 0.36 * h),
            ],
        ),
        (
            "mach",
            [(back - 0.06, h - 0.08), (back - 0.04, h), (body * 0.5, h), (body * 0.56, h - 0.08)],
        ),
        (
            "seam",
            [
                (back + 0.3 * (body * 0.5 - back), h - 0.07),
                (back + 0.3 * (body * 0.5 - back), 0.4 * h),
            ],
        ),
        # arms from the rear, past the cage, down to the bucket
        (
            "arm",
            [
                (-0.96 * r, 0.5 * h),
                (-0.92 * r, 0.7 * h),
                (-0.78 * r, 0.72 * h),
                (body * 0.78, 0.52 * h),
                (f - 0.4, 0.34 + up),
                (f - 0.32, 0.16 + up),
                (f - 0.5, 0.16 + up),
                (body * 0.72, 0.4 * h),
                (-0.74 * r, 0.59 * h),
                (-0.8 * r, 0.5 * h),
            ],
        ),
        (
            "mach",
            _raised(
                [
                    (f - 0.55, 0.02),
                    (f - 0.57, 0.44),
                    (f - 0.42, 0.48),
                    (f - 0.34, 0.28),
                    (f, 0.06),
                    (f, 0.02),
                ],
                up,
            ),
        ),
    ]
    return Outline(shapes, [(rear_wheel, wheel), (rear_wheel + wb, wheel)])


def _track(half: float, tall: float) -> Points:
    """A crawler's belt: round at both ends, a little longer below."""
    radius = tall / 2
    return [
        *arc(half - radius, radius, radius, -90, 90, 6),
        *arc(-half + radius, radius, radius, 90, 270, 6),
    ]


def _excavator(f: float, r: float, h: float, wheelbase: float | None, carried: float) -> Outline:
    tall = 0.2 * h
    half = (wheelbase or 1.0 * min(f, r) * 1.5) / 2 + tall / 2
    floor, deck = 1.12 * tall, 0.5 * h
    hinge = 0.55 * half
    shapes: list[tuple[str, Points]] = [
        # blade and its arm
        (
            "arm",
            [
                (half * 0.5, 0.62 * tall),
                (half + 0.16, 0.5 * tall),
                (half + 0.16, 0.32 * tall),
                (half * 0.5, 0.4 * tall),
            ],
        ),
        (
            "mach",
            [
                (half + 0.1, 0.0),
                (half + 0.1, 0.95 * tall),
                (half + 0.2, 0.9 * tall),
                (half + 0.24, 0.02),
            ],
        ),
        ("tyre", _track(half, tall)),
        ("seam", [(-half + tall / 2, tall * 0.5), (half - tall / 2, tall * 0.5)]),
        # turntable, house with its weight at the tail
        (
            "arm",
            [(-0.3 * half, tall), (-0.3 * half, floor), (0.3 * half, floor), (0.3 * half, tall)],
        ),
        (
            "mach",
            [
                (-0.8 * r, floor),
                (-r, floor + 0.1 * h),
                (-r, deck - 0.05 * h),
                (-0.9 * r, deck),
                (-0.1 * r, deck + 0.02 * h),
                (0.1 * half, deck - 0.06 * h),
                (hinge, deck - 0.1 * h),
                (hinge + 0.05, floor),
            ],
        ),
        ("seam", [(-0.62 * r, floor), (-0.62 * r, deck)]),
        (
            "cab",
            [
                (-0.34 * r, deck),
                (-0.34 * r, h - 0.07),
                (0.3 * half, h - 0.07),
                (0.52 * half, deck - 0.02 * h),
                (0.52 * half, floor + 0.06 * h),
                (-0.1 * r, floor + 0.06 * h),
                (-0.1 * r, deck),
            ],
        ),
        ("mach", [(-0.38 * r, h - 0.08), (-0.36 * r, h), (0.3 * half, h), (0.36 * half, h - 0.08)]),
        # boom up and over, stick down to the bucket
        (
            "arm",
            [
                (hinge - 0.1, deck - 0.14 * h),
                (0.42 * f, 0.9 * h),
                (0.6 * f, 0.9 * h),
                (0.68 * f, 0.82 * h),
                (0.64 * f, 0.74 * h),
                (0.48 * f, 0.76 * h),
                (hinge + 0.12, deck - 0.18 * h),
            ],
        ),
        (
            "arm",
            [
                (0.6 * f, 0.92 * h),
                (0.7 * f, 0.86 * h),
                (f - 0.02, 0.2 * h + carried),
                (f - 0.16, 0.16 * h + carried),
                (0.58 * f, 0.78 * h),
            ],
        ),
        (
            "mach",
            _raised(
                [
                    (f - 0.52, 0.05),
                    (f - 0.44, 0.02),
                    (f - 0.14, 0.06),
                    (f, 0.24 * h),
                    (f - 0.12, 0.26 * h),
                    (f - 0.36, 0.2 * h),
                ],
                carried,
            ),
        ),
    ]
    return Outline(shapes, [])


def _roller(f: float, r: float, h: float, wheelbase: float | None) -> Outline:
    wb = wheelbase or 0.6 * (f + r)
    drum = min(0.3 * h, 0.42 * wb)
    joint = 0.52 * wb
    shapes: list[tuple[str, Points]] = [
        # rear frame with the engine, front frame, the joint between them
        (
            "mach",
            [
                (-r, 1.25 * drum),
                (-r, 1.9 * drum),
                (-0.85 * r, 2.25 * drum),
                (joint - 0.14, 2.25 * drum),
                (joint - 0.14, 0.9 * drum),
                (0.95 * drum, 0.9 * drum),
                (0.6 * drum, 1.7 * drum),
                (-0.6 * drum, 1.7 * drum),
                (-0.95 * drum, 1.25 * drum),
            ],
        ),
        (
            "mach",
            [
                (joint + 0.08, 0.9 * drum),
                (joint + 0.08, 2.4 * drum),
                (0.9 * f, 2.3 * drum),
                (f, 1.9 * drum),
                (f, 1.25 * drum),
                (wb + 0.95 * drum, 1.25 * drum),
                (wb + 0.6 * drum, 1.7 * drum),
                (wb - 0.6 * drum, 1.7 * drum),
                (wb - 0.95 * drum, 0.9 * drum),
            ],
        ),
        (
            "arm",
            [
                (joint - 0.16, 1.1 * drum),
                (joint - 0.16, 1.5 * drum),
                (joint + 0.1, 1.5 * drum),
                (joint + 0.1, 1.1 * drum),
            ],
        ),
        # forks down to the drums
        ("arm", [(-0.09, drum), (-0.12, 1.75 * drum), (0.12, 1.75 * drum), (0.09, drum)]),
        (
            "arm",
            [
                (wb - 0.09, drum),
                (wb - 0.12, 1.75 * drum),
                (wb + 0.12, 1.75 * drum),
                (wb + 0.09, drum),
            ],
        ),
        # seat and wheel under a roof on two posts
        (
            "arm",
            [
                (-0.05 * r, 2.25 * drum),
                (-0.16 * r, 2.95 * drum),
                (-0.04 * r, 2.95 * drum),
                (0.04 * wb, 2.45 * drum),
                (0.2 * wb, 2.45 * drum),
                (0.2 * wb, 2.25 * drum),
            ],
        ),
        ("seam", [(joint + 0.1, 2.4 * drum), (0.34 * wb, 2.9 * drum)]),
        (
            "arm",
            [
                (-0.34 * r, 2.2 * drum),
                (-0.34 * r, h - 0.06),
                (-0.34 * r + 0.07, h - 0.06),
                (-0.34 * r + 0.07, 2.2 * drum),
            ],
        ),
        ("mach", [(-0.5 * r, h - 0.08), (-0.46 * r, h), (0.6 * wb, h), (0.66 * wb, h - 0.08)]),
    ]
    return Outline(shapes, [(0.0, drum), (wb, drum)])


def _car(f: float, r: float, h: float, wheelbase: float | None) -> Outline:
    wb = wheelbase or 0.6 * (f + r)
    wheel = min(0.22 * h, 0.2 * wb)
    belt, sill = 0.62 * h, 0.75 * wheel
    shapes: list[tuple[str, Points]] = [
        (
            "mach",
            [
                (-r, sill),
                (-r, 0.5 * h),
                (-0.94 * r, belt),
                (-0.5 * r, belt + 0.02 * h),
                (-0.16 * r, h - 0.02),
                (0.06 * wb, h),
                (0.42 * wb, h - 0.01),
                (0.55 * wb, 0.94 * h),
                (0.84 * wb, belt),
                (0.97 * f, 0.54 * h),
                (f, 0.44 * h),
                (f, sill),
            ],
        ),
        (
            "cab",
            [
                (-0.34 * r, belt + 0.02 * h),
                (-0.1 * r, 0.93 * h),
                (0.2 * wb, 0.93 * h),
                (0.2 * wb, belt),
            ],
        ),
        ("cab", [(0.25 * wb, belt), (0.25 * wb, 0.93 * h), (0.5 * wb, 0.9 * h), (0.74 * wb, belt)]),
        ("seam", [(0.225 * wb, belt), (0.2 * wb, sill)]),
        ("seam", [(0.74 * wb, belt), (0.72 * wb, sill)]),
    ]
    return Outline(shapes, [(0.0, wheel), (wb, wheel)])


def _raised(points: list[tuple[float, float]], up: float) -> list[tuple[float, float]]:
    """A bucket held higher."""
    return [(ahead, at + up) for ahead, at in points]


def _implement(f: float, r: float, h: float) -> Outline:
    """Something that hangs on three links: its frame towards the tractor, its deck behind."""
    return Outline(
        [
            # A-frame with the stay to the rear
            (
                "arm",
                [
                    (f, h * 0.24),
                    (f, h * 0.38),
                    (f * 0.62, h),
                    (f * 0.42, h),
                    (f * 0.34, h * 0.86),
                    (-0.55 * r, h * 0.56),
                    (-0.55 * r, h * 0.48),
                    (f * 0.4, h * 0.74),
                    (f * 0.5, h * 0.86),
                    (f * 0.78, h * 0.34),
                ],
            ),
            # deck with its skid, gearbox on top
            (
                "mach",
                [
                    (-r, 0.1 * h),
                    (-r, 0.34 * h),
                    (-0.88 * r, 0.46 * h),
                    (f * 0.5, 0.5 * h),
                    (f * 0.72, 0.34 * h),
                    (f * 0.72, 0.1 * h),
                ],
            ),
            ("arm", [(-0.92 * r, 0.0), (-r, 0.1 * h), (f * 0.72, 0.1 * h), (f * 0.64, 0.0)]),
            (
                "mach",
                [
                    (-0.3 * r, 0.48 * h),
                    (-0.3 * r, 0.66 * h),
                    (0.08 * f, 0.66 * h),
                    (0.08 * f, 0.48 * h),
                ],
            ),
            ("seam", [(-0.5 * r, 0.14 * h), (-0.5 * r, 0.46 * h)]),
        ],
        [],
    )


def _pallet(f: float, r: float, h: float) -> Outline:
    """Boxes in layers on a pallet."""
    base = min(0.14, 0.3 * h)
    board = base / 4
    length = f + r
    shapes: list[tuple[str, Points]] = [("mach", _box(-r, f, base, h))]
    layers = max(1, min(5, round((h - base) / 0.28)))
    shapes += [
        ("seam", [(-r, base + (h - base) * n / layers), (f, base + (h - base) * n / layers)])
        for n in range(1, layers)
    ]
    for n in range(layers):
        low, high = (base + (h - base) * (n + k) / layers for k in (0, 1))
        for part in (1 / 3, 2 / 3) if n % 2 == 0 else (1 / 6, 1 / 2, 5 / 6):
            shapes.append(("seam", [(-r + part * length, low), (-r + part * length, high)]))
    shapes += [("arm", _box(-r, f, base - board, base)), ("arm", _box(-r, f, 0.0, board))]
    shapes += [
        ("arm", _box(-r + at * length, -r + (at + 0.14) * length, board, base - board))
        for at in (0.0, 0.43, 0.86)
    ]
    return Outline(shapes, [])


def _box(rear: float, front: float, low: float, high: float) -> Points:
    return [(rear, low), (rear, high), (front, high), (front, low)]
