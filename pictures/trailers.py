"""Trailers from the side, by their kind: places behind the coupler and above the ground, in metres.

Kinds are the book's words. Deck, axles and height stand where they were taped; the rest is
drawing, in usual proportions.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from pictures.outlines import Points, arc, band

TYRE_M: Final = 0.35
"""Radius of a trailer's tyre."""

BEAM_M: Final = 0.17
"""How high a deck's frame is drawn."""

OVER_WHEELS_M: Final = 0.85
"""A deck as high as this goes over its wheels; a lower one has fenders."""

COUPLER_M, PIN_M = 0.5, 1.12
"""Height of a coupler behind the bumper, and over the bed."""


@dataclass(frozen=True, kw_only=True, slots=True)
class TrailerBody:
    """What of a trailer is drawn. ``start_m`` is the deck's front edge behind the coupler, negative
    over the truck; ``drop_m`` what a dovetail of ``dovetail_m`` falls; ``tail`` and ``sides`` are
    words of the book. Without a deck (a boat trailer, a camper) the length is that of its body."""

    kind: str
    over_bed: bool
    start_m: float
    length_m: float
    top_m: float
    axles: tuple[float, ...]
    dovetail_m: float = 0.0
    drop_m: float = 0.0
    tail: str = ""
    sides: str = ""
    ramp_m: float = 1.2

    @property
    def end_m(self) -> float:
        """The deck's rear edge."""
        return self.start_m + self.length_m


Shapes = list[tuple[str, Points]]


def trailer_outline(body: TrailerBody) -> Shapes:
    """Its styles and outlines from the tongue to the tail, wheels aside."""
    draw = {"boat": _boat, "camper": _camper}.get(body.kind)
    if draw is not None:
        return [*_tongue(body), *draw(body)]
    tongue = _neck(body) if body.over_bed else _tongue(body)
    return [*tongue, *_deck(body), *_sides(body), *_fenders(body), *_tail(body)]


def _tongue(body: TrailerBody) -> Shapes:
    """A frame to a point, its jack, its coupler."""
    start, top = max(body.start_m, 0.3), body.top_m
    stand = min(0.75, start * 0.6)
    return [
        ("frame", [(0.06, 0.52), (start, top), (start, top - BEAM_M), (0.15, 0.42), (0.06, 0.42)]),
        ("frame", [(-0.07, 0.46), (-0.05, 0.57), (0.22, 0.57), (0.22, 0.44), (0.05, 0.44)]),
        ("fender", _box(stand - 0.035, stand + 0.035, 0.2, top + 0.22)),
        ("fender", _box(stand - 0.1, stand + 0.1, 0.16, 0.2)),
        ("seam", [(stand - 0.12, top + 0.24), (stand + 0.06, top + 0.24)]),
    ]


def _neck(body: TrailerBody) -> Shapes:
    """A neck over the bed with its pin, and the legs it stands on unhitched."""
    top, start = body.top_m, body.start_m
    high = max(1.62, top + 0.2)
    foot = max(start, 0.55)
    leg = foot + 0.34
    return [
        (
            "frame",
            [
                (-0.09, PIN_M),
                (-0.09, high),
                (foot + 0.2, high),
                (foot + 0.2, top - 0.15),
                (foot, top - 0.15),
                (foot, high - 0.2),
                (0.09, high - 0.2),
                (0.09, PIN_M),
            ],
        ),
        ("frame", [(foot + 0.2, high - 0.22), (foot + 0.2, top), (foot + 0.62, top)]),
        ("fender", _box(leg - 0.05, leg + 0.05, top - 0.62, top)),
        ("fender", _box(leg - 0.12, leg + 0.12, top - 0.66, top - 0.62)),
    ]


def _box(front: float, rear: float, low: float, high: float) -> Points:
    return [(front, low), (front, high), (rear, high), (rear, low)]


def _deck(body: TrailerBody) -> Shapes:
    start, end, top = body.start_m, body.end_m, body.top_m
    along = [(start, top), (end, top)]
    if body.dovetail_m:
        falls = end - body.dovetail_m
        along = [(start, top), (falls, top), (end, top - body.drop_m)]
    under = [(at, up - BEAM_M) for at, up in reversed(along)]
    shapes: Shapes = [("frame", [*along, *under])]
    if body.kind == "tilt":
        # the part that stays, the hinge, the cylinder that lets the rest down slowly
        hinge = sum(body.axles) / len(body.axles) + 0.1
        split = start + 0.24 * body.length_m
        shapes += [
            ("seam", [(split, top), (split, top - BEAM_M)]),
            (
                "fender",
                [
                    (split - 0.35, top - 0.34),
                    (split - 0.35, top - 0.28),
                    (split + 0.5, top - 0.2),
                    (split + 0.5, top - 0.26),
                ],
            ),
            ("fender", arc(hinge, top - BEAM_M, 0.09, 0, 360, 12)),
        ]
    if body.kind == "car_carrier":
        # treads to drive on, a stop in front of the wheels, a winch
        shapes += [
            ("fender", _box(start + 0.02, start + 0.1, top, top + 0.16)),
            ("fender", _box(max(start - 0.28, 0.3), max(start - 0.06, 0.5), top - 0.02, top + 0.2)),
            ("seam", [(start, top - BEAM_M / 2), (end - body.dovetail_m, top - BEAM_M / 2)]),
        ]
    if body.kind in ("gooseneck", "flatbed", "fifth_wheel"):
        # rub rail and pockets
        places = [start + body.length_m * (n + 0.5) / 10 for n in range(10)]
        last = end - body.dovetail_m
        shapes.append(("seam", [(start, top - BEAM_M * 0.45), (last, top - BEAM_M * 0.45)]))
        shapes += [("seam", [(at, top), (at, top - BEAM_M * 0.45)]) for at in places if at < last]
    return shapes


def _sides(body: TrailerBody) -> Shapes:
    start, end, top = body.start_m, body.end_m - body.dovetail_m, body.top_m
    if body.kind == "dump":
        high = top + 0.55
        ribs = max(2, round((end - start) / 0.6))
        places = [start + (end - start) * n / ribs for n in range(1, ribs)]
        return [
            # the box for pump and battery on the tongue, the box with its ribs, its rail
            ("fender", _box(max(start - 0.5, 0.35), max(start - 0.1, 0.7), top - 0.1, top + 0.28)),
            ("sideboard", _box(start, end, top, high)),
            *(("seam", [(at, top), (at, high - 0.07)]) for at in places),
            ("frame", _box(start - 0.02, end + 0.02, high - 0.07, high)),
            (
                "seam",
                [
                    (start + 0.3 * (end - start), top - BEAM_M),
                    (sum(body.axles) / len(body.axles), top - 0.42),
                ],
            ),
        ]
    if body.sides == "rails" or (body.kind == "utility" and body.sides == ""):
        rail = top + 0.4
        posts = max(2, round((end - start) / 0.9))
        places = [start + (end - start) * n / posts for n in range(posts + 1)]
        return [
            *(("seam", [(at, top), (at, rail)]) for at in places),
            ("frame", _box(start - 0.02, end + 0.02, rail - 0.05, rail)),
        ]
    if body.sides == "solid":
        return [("sideboard", _box(start, end, top, top + 0.5))]
    # a headboard
    return [("frame", _box(start - 0.03, start + 0.03, top, top + 0.4))]


def _fenders(body: TrailerBody) -> Shapes:
    first, last = min(body.axles), max(body.axles)
    top = body.top_m
    if top >= OVER_WHEELS_M:
        return []
    if len(body.axles) == 1:
        return [("fender", band(first, TYRE_M, TYRE_M * 1.14, TYRE_M * 1.32, 12, 168))]
    return [
        (
            "fender",
            [
                (first - 0.52, top - 0.06),
                (first - 0.36, top + 0.16),
                (last + 0.36, top + 0.16),
                (last + 0.52, top - 0.06),
                (last + 0.44, top - 0.06),
                (last + 0.32, top + 0.1),
                (first - 0.32, top + 0.1),
                (first - 0.44, top - 0.06),
            ],
        )
    ]


def _tail(body: TrailerBody) -> Shapes:
    """A gate standing at the tail, or ramps slid under the deck."""
    end, top = body.end_m, body.top_m
    if body.tail == "gate":
        high = top + min(body.ramp_m, 1.5)
        bars: Shapes = [
            ("seam", [(end, top + (high - top) * part), (end + 0.06, top + (high - top) * part)])
            for part in (0.2, 0.4, 0.6, 0.8)
        ]
        return [("gate", _box(end, end + 0.06, top - 0.1, high)), *bars]
    if body.tail == "ramps":
        start = max(end - body.ramp_m, body.start_m)
        low = top - BEAM_M - (body.drop_m if body.dovetail_m else 0.0)
        return [("fender", _box(start, end, low - 0.07, low))]
    return []


def _boat(body: TrailerBody) -> Shapes:
    """A boat on its bunks: keel, bow to the front, motor over the transom."""
    start, end, top = body.start_m, body.end_m, body.top_m
    length = end - start
    keel, gunwale = top + 0.06, top + max(0.5, 0.14 * length)
    shapes: Shapes = [
        ("frame", _box(start, end - 0.2 * length, top - 0.1, top)),
        (
            "frame",
            [
                (start + 0.02, top - 0.02),
                (start - 0.02, gunwale - 0.1),
                (start + 0.06, gunwale - 0.1),
                (start + 0.12, top - 0.02),
            ],
        ),
        (
            "body",
            [
                (start + 0.02 * length, gunwale + 0.06),
                (start + 0.09 * length, keel + 0.5 * (gunwale - keel)),
                (start + 0.22 * length, keel + 0.1 * (gunwale - keel)),
                (start + 0.4 * length, keel),
                (end - 0.03 * length, keel),
                (end, gunwale - 0.04),
                (start + 0.5 * length, gunwale - 0.04),
            ],
        ),
        ("seam", [(start + 0.06 * length, gunwale - 0.12), (end - 0.01 * length, gunwale - 0.16)]),
        (
            "glass",
            [
                (start + 0.42 * length, gunwale - 0.03),
                (start + 0.5 * length, gunwale + 0.36),
                (start + 0.52 * length, gunwale + 0.36),
                (start + 0.52 * length, gunwale - 0.04),
            ],
        ),
        (
            "fender",
            [
                (end - 0.02 * length, gunwale - 0.08),
                (end, gunwale + 0.34),
                (end + 0.28, gunwale + 0.32),
                (end + 0.3, gunwale - 0.02),
                (end + 0.16, keel - 0.16),
                (end + 0.08, keel - 0.16),
                (end + 0.06, gunwale - 0.1),
            ],
        ),
    ]
    shapes += [
        ("frame", _box(at - 0.04, at + 0.04, top, keel + 0.08))
        for at in (start + 0.45 * length, start + 0.8 * length)
    ]
    return [*shapes, *_fenders(body)]


def _camper(body: TrailerBody) -> Shapes:
    """A closed body with a door and windows."""
    start, end, top = body.start_m, body.end_m, body.top_m
    low, high = top - BEAM_M, top + 2.0
    length = end - start
    door = start + 0.56 * length
    shapes: Shapes = [
        (
            "body",
            [
                (start + 0.16, low),
                (start, low + 0.5),
                (start, high - 0.34),
                *arc(start + 0.34, high - 0.34, 0.34, 180, 90, 4),
                *arc(end - 0.3, high - 0.3, 0.3, 90, 0, 4),
                (end, low + 0.25),
                (end - 0.25, low),
            ],
        ),
        ("seam", [(start + 0.02, low + 0.85), (end, low + 0.85)]),
        ("glass", _box(start + 0.12 * length, start + 0.34 * length, low + 1.1, low + 1.6)),
        ("glass", _box(end - 0.26 * length, end - 0.1 * length, low + 1.1, low + 1.6)),
        ("seam", [(door, low), (door, high - 0.2), (door + 0.62, high - 0.2), (door + 0.62, low)]),
        ("glass", _box(door + 0.12, door + 0.5, low + 1.2, low + 1.6)),
    ]
    return [*shapes, *_fenders(body)]
