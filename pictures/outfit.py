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
from pictures.svg import Attributes, Box, circle, path
from pictures.tapes import Label
from pictures.trailers import TYRE_M as TRAILER_TYRE_M
from pictures.trailers import TrailerBody, trailer_outline
from pictures.trucks import TYRE_M as TRUCK_TYRE_M
from pictures.trucks import bumper_m, truck_outline
from planfile.draft import Look

WIDTH = 868
GROUND_Y = 214
SIDE = 24
TAPE_Y, TAPE_HEIGHT = 352, 28
ABOVE_LEFT, ABOVE_Y, ABOVE_MAX = 450, 465, 98


HUB, ARCH, DISH = 0.48, 1.22, 0.28
"""A rim's, an arch's and a dished rim's radius as a part of the tyre's."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Wheel:
    """A wheel in side view."""

    x: float
    y: float
    radius: float
    dual: bool = False

    @property
    def tyre(self) -> Attributes:
        """The tyre's circle."""
        return circle(self.x, self.y, self.radius)

    @property
    def hub(self) -> Attributes:
        """The rim's circle."""
        return circle(self.x, self.y, self.radius * HUB)

    @property
    def dish(self) -> Attributes | None:
        """The dished rim of one of two wheels side by side; ``None`` of a single one."""
        return circle(self.x, self.y, self.radius * DISH) if self.dual else None

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
    shapes, wheels = _truck(frame, truck, look)
    ticks, labels = _ticks(frame, trailer.deck, unit)
    half = deck_width_m(trailer) / 2 * above.scale
    return frame, Outfit(
        truck=tuple(shapes),
        truck_wheels=tuple(wheels),
        trailer=_trailer(frame, trailer, hitch, look),
        trailer_wheels=tuple(
            Wheel(
                x=frame.x(a.position_m),
                y=frame.y(TRAILER_TYRE_M),
                radius=TRAILER_TYRE_M * frame.scale,
            )
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


def _truck(frame: Frame, truck: Truck, look: Look) -> tuple[list[Shape], list[Wheel]]:
    """A pickup about its wheelbase; the bumper stands just ahead of a ball behind it."""
    wheelbase, offset = truck.wheelbase_m, truck.hitch_offset_m
    rear = bumper_m([offset])

    def at(points: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
        return [(frame.x(-offset - ahead), frame.y(up)) for ahead, up in points]

    shapes = [
        Shape(data=path(at(points)), style=style)
        for style, points in truck_outline(wheelbase, rear, cab=look.cab, dual=look.dual)
    ]
    wheels = [
        Wheel(
            x=frame.x(-offset - ahead),
            y=frame.y(TRUCK_TYRE_M),
            radius=TRUCK_TYRE_M * frame.scale,
            dual=look.dual and ahead == 0,
        )
        for ahead in (wheelbase, 0.0)
    ]
    return shapes, wheels


def _trailer(frame: Frame, trailer: Trailer, hitch: HitchType, look: Look) -> tuple[Shape, ...]:
    deck, tail = trailer.deck, trailer.dovetail
    body = TrailerBody(
        kind=look.kind or trailer.kind,
        over_bed=hitch.over_bed,
        start_m=deck.start_m,
        length_m=deck.length_m,
        top_m=frame.deck_height,
        axles=tuple(axle.position_m for axle in trailer.axles),
        dovetail_m=0.0 if tail is None else tail.length_m,
        drop_m=0.0 if tail is None else tail.drop_m,
        tail=look.tail,
        sides=look.sides,
        ramp_m=look.ramp_m,
    )
    return tuple(
        Shape(data=path([(frame.x(at), frame.y(up)) for at, up in points]), style=style)
        for style, points in trailer_outline(body)
    )


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
