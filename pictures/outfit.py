"""Truck and trailer in side view and from above: the same wherever the items stand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from measures.writing import UnitSystem
from mechanics.hitch import HitchType
from mechanics.trailer import Deck, Trailer
from mechanics.truck import Truck
from mechanics.units import M_PER_IN
from pictures.outlines import pickup_outline
from pictures.svg import Attributes, Box, circle, path
from pictures.tapes import Label
from planfile.draft import Look

WIDTH = 868
GROUND_Y = 214
SIDE = 24
TAPE_Y, TAPE_HEIGHT = 352, 28
ABOVE_LEFT, ABOVE_Y, ABOVE_MAX = 450, 465, 98


HUB, ARCH = 0.48, 1.22
"""A rim's and an arch's radius as a part of the tyre's."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Wheel:
    """A wheel in side view."""

    x: float
    y: float
    radius: float

    @property
    def tyre(self) -> Attributes:
        """The tyre's circle."""
        return circle(self.x, self.y, self.radius)

    @property
    def hub(self) -> Attributes:
        """The rim's circle."""
        return circle(self.x, self.y, self.radius * HUB)

    @property
    def arch(self) -> Attributes:
        """The circle of the arch over it."""
        return circle(self.x, self.y, self.radius * ARCH)


@dataclass(frozen=True, kw_only=True, slots=True)
class Shape:
    """A filled outline and the style class it is drawn with."""

    data: str
    style: str


@dataclass(frozen=True, kw_only=True)
class Outfit:
    """Truck and trailer in side view, and the tape's ticks: the same at every place."""

    truck: tuple[Shape, ...]
    truck_wheels: tuple[Wheel, ...]
    trailer: tuple[Shape, ...]
    trailer_wheels: tuple[Wheel, ...]
    ticks: str
    tape_labels: tuple[Label, ...]
    fenders: tuple[Box, ...]
    rails: str
    ball_x: float
    ball_y: float
    top: float
    bumper_x: float
    bumper_y: float

    @property
    def wheels(self) -> tuple[Wheel, ...]:
        """Wheels of truck and trailer."""
        return self.truck_wheels + self.trailer_wheels

    @property
    def ball(self) -> Attributes:
        """The ball's circle."""
        return circle(self.ball_x, self.ball_y, 3.5)


class Frame:
    """From metres of the outfit to drawing units. ``x`` runs rearward from the coupler.

    ``tallest`` is the height of the tallest item, ``behind`` how far behind the coupler there
    has to be room, in metres.
    """

    def __init__(
        self,
        truck: Truck,
        trailer: Trailer,
        hitch: HitchType,
        tallest: float,
        behind: float = 0.0,
    ) -> None:
        deck = trailer.deck
        nose = truck.wheelbase_m + truck.hitch_offset_m + 1.0
        tail = max(deck.start_m + deck.length_m, *(a.position_m + 0.45 for a in trailer.axles))
        tail = max(tail + min(deck.rear_overhang_m, 1.5) + 0.3, behind)
        self.front = min(-nose, deck.start_m - deck.front_overhang_m)
        self.deck_height = deck.height_m or (0.95 if hitch is not HitchType.BALL else 0.65)
        top = max(2.1, self.deck_height + tallest) + 0.25
        self.scale = min((WIDTH - 2 * SIDE) / (tail - self.front), (GROUND_Y - 24) / top)
        span = (tail - self.front) * self.scale
        self.left = SIDE + (WIDTH - 2 * SIDE - span) / 2

    def x(self, metres: float) -> float:
        """Across, for a place behind the coupler."""
        return self.left + (metres - self.front) * self.scale

    def y(self, metres: float) -> float:
        """Down, for a height above the ground."""
        return GROUND_Y - metres * self.scale


class AboveFrame:
    """The view from above: one scale both ways, in the room right of the close-up."""

    def __init__(self, trailer: Trailer) -> None:
        deck = trailer.deck
        self.front = min(deck.start_m - deck.front_overhang_m, 0.0)
        length = deck.start_m + deck.length_m + deck.rear_overhang_m - self.front
        room = WIDTH - SIDE - ABOVE_LEFT
        self.scale = min(room / length, ABOVE_MAX / (deck_width_m(trailer) + 0.3))
        self.left = WIDTH - SIDE - length * self.scale

    def x(self, metres: float) -> float:
        """Across, for a place behind the coupler."""
        return self.left + (metres - self.front) * self.scale


@lru_cache(maxsize=128)
def draw_outfit(
    truck: Truck,
    trailer: Trailer,
    hitch: HitchType,
    tallest: float,
    unit: UnitSystem,
    look: Look,
    behind: float = 0.0,
) -> tuple[Frame, Outfit]:
    """What stays the same wherever the items stand, drawn once and kept."""
    frame, above = Frame(truck, trailer, hitch, tallest, behind), AboveFrame(trailer)
    shapes, wheels = _truck(frame, truck)
    ticks, labels = _ticks(frame, trailer.deck, unit)
    half = deck_width_m(trailer) / 2 * above.scale
    return frame, Outfit(
        truck=tuple(shapes),
        truck_wheels=tuple(wheels),
        trailer=(*_trailer(frame, trailer, hitch), *_tail(frame, trailer, look)),
        trailer_wheels=tuple(
            Wheel(x=frame.x(a.position_m), y=frame.y(0.35), radius=0.35 * frame.scale)
            for a in trailer.axles
        ),
        ticks=ticks,
        tape_labels=tuple(labels),
        fenders=tuple(_fenders(above, trailer, half)),
        rails=_rails(above, trailer, half, look),
        ball_x=frame.x(0),
        ball_y=frame.y(1.12 if hitch.over_bed else 0.5),
        top=frame.y(
            max(
                2.05,
                frame.deck_height + (min(look.ramp_m, 1.5) + 0.1 if look.tail == "gate" else 0.6),
            )
        ),
        bumper_x=frame.x(-0.13),
        bumper_y=frame.y(0.47),
    )


def deck_width_m(trailer: Trailer) -> float:
    """Width of the deck, or of the track where that is not known."""
    return trailer.deck.width_m or trailer.track_width_m


def _truck(frame: Frame, truck: Truck) -> tuple[list[Shape], list[Wheel]]:
    """A pickup about its wheelbase; the bumper stands just ahead of a ball behind it."""
    wheelbase, offset = truck.wheelbase_m, truck.hitch_offset_m
    rear = -(offset - 0.13) if offset > 0.5 else -1.15

    def at(points: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
        return [(frame.x(-offset - ahead), frame.y(up)) for ahead, up in points]

    shapes = [
        Shape(data=path(at(points)), style=style)
        for style, points in pickup_outline(wheelbase, rear)
    ]
    wheels = [
        Wheel(x=frame.x(-offset - ahead), y=frame.y(0.42), radius=0.42 * frame.scale)
        for ahead in (wheelbase, 0.0)
    ]
    return shapes, wheels


def _trailer(frame: Frame, trailer: Trailer, hitch: HitchType) -> list[Shape]:
    deck = trailer.deck
    top, start, end = frame.deck_height, deck.start_m, deck.start_m + deck.length_m
    x, y = frame.x, frame.y
    shapes = []
    if not hitch.over_bed:
        shapes.append(
            Shape(
                data=path(
                    [
                        (x(0), y(0.5)),
                        (x(start), y(top)),
                        (x(start), y(top - 0.17)),
                        (x(0.15), y(0.42)),
                    ]
                ),
                style="frame",
            )
        )
        stand = min(0.75, start * 0.6)
        shapes.append(
            Shape(data=path([(x(stand), y(0.43)), (x(stand), y(0.14))], closed=False), style="post")
        )
    else:
        neck = max(1.62, top + 0.2)
        foot = max(start, 0.55)
        shapes.append(
            Shape(
                data=path(
                    [
                        (x(-0.09), y(1.12)),
                        (x(-0.09), y(neck)),
                        (x(foot + 0.2), y(neck)),
                        (x(foot + 0.2), y(top - 0.15)),
                        (x(foot), y(top - 0.15)),
                        (x(foot), y(neck - 0.2)),
                        (x(0.09), y(neck - 0.2)),
                        (x(0.09), y(1.12)),
                    ]
                ),
                style="frame",
            )
        )
    along = [(start, top), (end, top)]
    if trailer.dovetail is not None:
        falls, drop = end - trailer.dovetail.length_m, trailer.dovetail.drop_m
        along = [(start, top), (falls, top), (end, top - drop)]
    outline = [(x(at), y(up)) for at, up in along]
    outline += [(x(at), y(up - 0.17)) for at, up in reversed(along)]
    shapes.append(Shape(data=path(outline), style="frame"))
    if trailer.kind == "dump":
        shapes.append(
            Shape(
                data=path(
                    [
                        (x(start), y(top)),
                        (x(start), y(top + 0.55)),
                        (x(end), y(top + 0.55)),
                        (x(end), y(top)),
                    ]
                ),
                style="sideboard",
            )
        )
    else:
        shapes.append(
            Shape(
                data=path([(x(start), y(top)), (x(start), y(top + 0.4))], closed=False),
                style="post",
            )
        )
    first, last = trailer.axles[0].position_m, trailer.axles[-1].position_m
    if first > last:
        first, last = last, first
    if top < 0.85:
        shapes.append(
            Shape(
                data=path(
                    [
                        (x(first - 0.5), y(top)),
                        (x(first - 0.42), y(top + 0.18)),
                        (x(last + 0.42), y(top + 0.18)),
                        (x(last + 0.5), y(top)),
                    ]
                ),
                style="fender",
            )
        )
    return shapes


def _tail(frame: Frame, trailer: Trailer, look: Look) -> list[Shape]:
    """A gate standing at the tail, or ramps slid under the deck."""
    top = frame.deck_height
    end = trailer.deck.start_m + trailer.deck.length_m
    x, y = frame.x, frame.y
    high = min(look.ramp_m, 1.5)
    if look.tail == "gate":
        bars = [
            path([(x(end), y(top + up)), (x(end + 0.06), y(top + up))], closed=False)
            for up in (high * 0.33, high * 0.66)
        ]
        upright = path(
            [
                (x(end), y(top - 0.1)),
                (x(end), y(top + high)),
                (x(end + 0.06), y(top + high)),
                (x(end + 0.06), y(top - 0.1)),
            ]
        )
        return [Shape(data=upright + "".join(bars), style="gate")]
    if look.tail == "ramps":
        start = max(end - look.ramp_m, trailer.deck.start_m)
        slid = [(start, top - 0.17), (end, top - 0.17), (end, top - 0.24), (start, top - 0.24)]
        return [Shape(data=path([(x(a), y(b)) for a, b in slid]), style="fender")]
    return []


def _rails(above: AboveFrame, trailer: Trailer, half: float, look: Look) -> str:
    """Rails, boards or stake pockets along both sides, seen from above."""
    deck = trailer.deck
    left, right = above.x(deck.start_m), above.x(deck.start_m + deck.length_m)
    if look.sides == "stakes":
        count = max(int(deck.length_m / 0.6), 1)
        step = (right - left) / count
        return "".join(
            f"M{left + step * (n + 0.5) - 2:.1f} {ABOVE_Y + side * half:.1f}h4"
            for n in range(count)
            for side in (-1, 1)
        )
    if look.sides in ("rails", "solid"):
        inset = 2.5
        return "".join(
            f"M{left:.1f} {ABOVE_Y + side * (half - inset):.1f}H{right:.1f}" for side in (-1, 1)
        )
    return ""


def _fenders(above: AboveFrame, trailer: Trailer, half: float) -> list[Box]:
    axles = [a.position_m for a in trailer.axles]
    x, width = above.x(min(axles) - 0.5), (max(axles) - min(axles) + 1.0) * above.scale
    return [
        Box(x=x, y=y, width=width, height=FENDER) for y in (ABOVE_Y - half - FENDER, ABOVE_Y + half)
    ]


FENDER = 7
"""Width of a fender seen from above."""


def _ticks(frame: Frame, deck: Deck, unit: UnitSystem) -> tuple[str, list[Label]]:
    """The main tape's ticks as one path, and its numbers: feet, or metres."""
    x0, width = frame.x(deck.start_m), deck.length_m * frame.scale
    bottom = TAPE_Y + TAPE_HEIGHT
    ticks, labels = [], []
    if unit is UnitSystem.US:
        step, per_big, big_label = 3 * M_PER_IN, 4, 2
    else:
        step, per_big, big_label = 0.1, 5, 2
    for n in range(int(deck.length_m / step + 1e-6) + 1):
        x = x0 + n * step * frame.scale
        big = n % per_big == 0
        middle = n % per_big == per_big // 2 and unit is UnitSystem.US
        ticks.append(f"M{x:.1f} {bottom}v{-13 if big else -9 if middle else -5}")
        if n % (per_big * big_label) == 0 and x < x0 + width + 6:
            feet = n // per_big
            text = str(feet) if unit is UnitSystem.US else f"{n * step:.0f}"
            labels.append(Label(x=x, text=text))
    return "".join(ticks), labels
