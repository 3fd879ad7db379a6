"""Silhouettes of trucks and machines, in usual proportions about their reference mark.

The plan says how far a machine reaches and how high it is; the rest is drawing, and takes
no part in any figure.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache


@dataclass(frozen=True, slots=True)
class Outline:
    """A machine about its mark: ``ahead`` and ``up`` in metres, styles, wheels."""

    shapes: list[tuple[str, list[tuple[float, float]]]]
    wheels: list[tuple[float, float]]


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
        return Outline(
            [
                ("mach", [(-rear, 0.14), (-rear, height), (front, height), (front, 0.14)]),
                ("arm", [(-rear, 0.0), (-rear, 0.12), (front, 0.12), (front, 0.0)]),
            ],
            [],
        )
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


def _tractor(f: float, r: float, h: float, wheelbase: float | None, up: float) -> Outline:
    wb = wheelbase or min(0.62 * f, 2.4)
    big, small = min(0.28 * h, 0.42 * wb, r * 1.2), min(0.18 * h, 0.26 * wb)
    hood = 0.55 * h
    nose = min(wb + small * 0.9, f)
    shapes = [
        (
            "arm",
            [
                (-0.3 * r, big * 0.9),
                (-r, big * 0.8),
                (-r, big * 0.3),
                (-0.85 * r, big * 0.3),
                (-0.8 * r, big * 0.6),
            ],
        ),
        (
            "mach",
            [
                (-0.6 * big, hood * 0.62),
                (-0.6 * big, hood),
                (nose, hood * 0.94),
                (nose, hood * 0.5),
                (0.4 * wb, hood * 0.45),
            ],
        ),
        (
            "cab",
            [(-0.5 * big, hood), (-0.35 * big, h - 0.06), (0.42 * wb, h - 0.06), (0.52 * wb, hood)],
        ),
        (
            "mach",
            [(-0.65 * big, h - 0.06), (-0.65 * big, h), (0.46 * wb, h), (0.46 * wb, h - 0.06)],
        ),
    ]
    if f > wb + small * 1.6:
        shapes += [
            (
                "arm",
                [
                    (0.5 * wb, hood * 0.86),
                    (0.62 * wb, hood * 0.97),
                    (f - 0.35, 0.42 + up),
                    (f - 0.3, 0.2 + up),
                    (f - 0.45, 0.2 + up),
                ],
            ),
            (
                "mach",
                _raised(
                    [(f - 0.5, 0.03), (f - 0.5, 0.5), (f - 0.34, 0.5), (f, 0.08), (f, 0.03)], up
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
    shapes = [
        (
            "mach",
            [
                (-r, wheel * 0.9),
                (-r, 0.52 * h),
                (body * 0.55, 0.5 * h),
                (body, 0.3 * h),
                (body, wheel * 0.8),
            ],
        ),
        ("cab", [(-0.35 * r, 0.52 * h), (-0.35 * r, h), (body * 0.5, h), (body * 0.72, 0.42 * h)]),
        (
            "arm",
            [
                (-0.9 * r, 0.5 * h),
                (-0.85 * r, 0.64 * h),
                (body * 0.7, 0.5 * h),
                (f - 0.4, 0.28 + up),
                (f - 0.5, 0.16 + up),
                (body * 0.66, 0.38 * h),
            ],
        ),
        (
            "mach",
            _raised(
                [(f - 0.55, 0.02), (f - 0.55, 0.42), (f - 0.4, 0.44), (f, 0.06), (f, 0.02)], up
            ),
        ),
    ]
    return Outline(shapes, [(rear_wheel, wheel), (rear_wheel + wb, wheel)])


def _excavator(f: float, r: float, h: float, wheelbase: float | None, carried: float) -> Outline:
    track = (wheelbase or 1.0 * min(f, r) * 1.5) / 2
    up = 0.17 * h
    shapes = [
        (
            "tyre",
            [
                (-track, 0.06),
                (-track - 0.12, up),
                (-track, 2 * up),
                (track, 2 * up),
                (track + 0.12, up),
                (track, 0.06),
            ],
        ),
        (
            "mach",
            [(-r, 2.3 * up), (-r, 0.55 * h), (0.25 * track, 0.55 * h), (0.55 * track, 2.3 * up)],
        ),
        ("cab", [(-0.35 * r, 0.55 * h), (-0.3 * r, h), (0.35 * track, h), (0.6 * track, 2.4 * up)]),
        (
            "arm",
            [
                (0.4 * track, 2.5 * up),
                (0.5 * f, 0.86 * h),
                (0.62 * f, 0.84 * h),
                (f, 0.2 * h + carried),
                (f - 0.12, 0.1 * h + carried),
                (0.56 * f, 0.7 * h),
                (0.62 * track, 2.3 * up),
            ],
        ),
        (
            "mach",
            _raised(
                [(f - 0.5, 0.02), (f - 0.42, 0.25 * h), (f, 0.22 * h), (f - 0.1, 0.02)], carried
            ),
        ),
    ]
    return Outline(shapes, [])


def _roller(f: float, r: float, h: float, wheelbase: float | None) -> Outline:
    wb = wheelbase or 0.6 * (f + r)
    drum = min(0.3 * h, 0.42 * wb)
    body = [
        (-r, 1.3 * drum),
        (-r, 2.1 * drum),
        (0.5 * wb, 2.4 * drum),
        (f, 1.9 * drum),
        (f, 1.2 * drum),
    ]
    roof = [(-0.2 * r, h - 0.06), (-0.2 * r, h), (0.62 * wb, h), (0.62 * wb, h - 0.06)]
    posts = [(0.0, 2.1 * drum), (0.0, h - 0.06), (0.5 * wb, h - 0.06), (0.5 * wb, 2.4 * drum)]
    return Outline([("mach", body), ("cab", posts), ("mach", roof)], [(0.0, drum), (wb, drum)])


def _car(f: float, r: float, h: float, wheelbase: float | None) -> Outline:
    wb = wheelbase or 0.6 * (f + r)
    wheel = min(0.22 * h, 0.2 * wb)
    body = [
        (-r, 0.7 * wheel),
        (-r, 0.58 * h),
        (f, 0.5 * h),
        (f, 0.7 * wheel),
    ]
    top = [(-0.6 * r, 0.58 * h), (-0.2 * r, h), (0.5 * wb, h), (0.78 * wb, 0.55 * h)]
    return Outline([("mach", body), ("cab", top)], [(0.0, wheel), (wb, wheel)])


def _raised(points: list[tuple[float, float]], up: float) -> list[tuple[float, float]]:
    """A bucket held higher."""
    return [(ahead, at + up) for ahead, at in points]


def _implement(f: float, r: float, h: float) -> Outline:
    return Outline(
        [
            ("arm", [(f, h * 0.3), (f, h * 0.45), (f * 0.4, h), (f * 0.2, h), (f * 0.3, h * 0.3)]),
            ("mach", [(-r, 0.05), (-r, h * 0.55), (f * 0.55, h * 0.6), (f * 0.7, 0.05)]),
        ],
        [],
    )


def pickup_outline(wheelbase: float, rear: float) -> list[tuple[str, list[tuple[float, float]]]]:
    """A pickup about its rear axle: style and points, metres ahead and up.

    ``rear`` is where its bumper ends, negative behind the axle.
    """
    cab_rear = min(1.06, wheelbase * 0.27)
    pillar = (wheelbase - 1.67 + cab_rear) / 2
    return [
        (
            "body",
            [
                (wheelbase + 0.93, 0.51),
                (wheelbase + 0.96, 0.91),
                (wheelbase + 0.86, 1.17),
                (wheelbase - 0.25, 1.27),
                (wheelbase - 1.12, 1.35),
                (wheelbase - 1.67, 1.90),
                (cab_rear, 1.93),
                (cab_rear - 0.2, 1.40),
                (rear, 1.40),
                (rear - 0.03, 0.61),
                (rear + 0.6, 0.56),
                (wheelbase - 0.5, 0.56),
            ],
        ),
        (
            "glass",
            [
                (wheelbase - 1.27, 1.38),
                (wheelbase - 1.75, 1.81),
                (pillar + 0.06, 1.82),
                (pillar + 0.06, 1.38),
            ],
        ),
        (
            "glass",
            [
                (pillar - 0.04, 1.38),
                (pillar - 0.04, 1.82),
                (cab_rear + 0.07, 1.82),
                (cab_rear - 0.05, 1.38),
            ],
        ),
    ]
