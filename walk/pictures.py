"""What a step of the walk shows: the part that is taped, true to scale as far as it is known.

What nobody has taped yet is drawn faint, in usual proportions. All in the drawing's own units.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from book import estimates
from book.figures import si
from book.models import Machine, Trailer, Truck
from measures import Quantity, UnitSystem, write_length
from pictures.outlines import machine_outline
from pictures.svg import Attributes, Box, circle, path
from pictures.trucks import TYRE_M as TRUCK_TYRE_M
from pictures.trucks import truck_outline
from walk.models import Walk
from walk.steps import Part, Step

WIDTH: Final = 358.0
"""A phone's width less its margins."""

GROUND: Final = 104.0
TOP: Final = 6.0
SIDE: Final = 22.0
LIT_Y: Final = 131.0
KNOWN_Y: Final = 160.0
HEIGHT: Final = 168.0
LABEL: Final = (104.0, 27.0)
"""Width and height of the box that asks how far."""

USUAL_BASE: Final = 3.85
USUAL_DECK: Final = 4.9
"""Drawn faint, in metres, where nothing at all is known."""

DECK_UP: Final = 0.62
BALL_UP: Final = 0.47
WHEEL: Final = 0.34


@dataclass(frozen=True, kw_only=True, slots=True)
class Shape:
    """An outline and the style it is drawn with; ``faint`` where its size is not known yet."""

    data: str
    style: str
    faint: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class Wheel:
    """A wheel, or the ball; ``faint`` as above."""

    svg: Attributes
    style: str
    faint: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class Lit:
    """The dimension that is asked for, with the box in the middle of it."""

    ends: str
    line: str
    box: Box
    text_x: float
    text_y: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Known:
    """A dimension that is known already, under the drawing."""

    line: str
    x: float
    text: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Spot:
    """Where to read something: a ring about it."""

    svg: Attributes


@dataclass(frozen=True, kw_only=True)
class Picture:
    """A part in side view, its front to the left. ``words`` say it to whoever cannot see it."""

    shapes: tuple[Shape, ...]
    wheels: tuple[Wheel, ...]
    lit: Lit | None
    known: tuple[Known, ...]
    spot: Spot | None
    words: str
    width: float = WIDTH
    height: float = HEIGHT
    ground: float = GROUND
    known_y: float = KNOWN_Y - 4


@dataclass(frozen=True, kw_only=True)
class Drawn:
    """A part in its own metres: x from its origin rearward, y up."""

    shapes: list[tuple[str, list[tuple[float, float]], bool]]
    wheels: list[tuple[float, float, float, str, bool]]
    lengths: dict[str, tuple[float, float]]
    spots: dict[str, tuple[float, float]]
    known: list[tuple[float, float, str]]
    left: float
    right: float
    top: float


def picture(walk: Walk, step: Step, unit: UnitSystem) -> Picture | None:
    """The drawing of a step; ``None`` where there is nothing to show yet."""
    made = {
        Part.TRUCK: lambda: truck_drawn(walk.truck, walk, unit),
        Part.BALL: lambda: truck_drawn(walk.truck, walk, unit),
        Part.TRAILER: lambda: trailer_drawn(walk.trailer, unit),
        Part.MACHINE: lambda: machine_drawn(walk.machine, unit),
    }[step.part]()
    return _to_scale(made, step)


def outfit(walk: Walk, unit: UnitSystem) -> Picture:
    """Truck, trailer and machine together, on one scale."""
    truck = truck_drawn(walk.truck, walk, unit)
    trailer = trailer_drawn(walk.trailer, unit)
    ball = truck.spots["hitch"][0]
    shapes, wheels = list(truck.shapes), list(truck.wheels)
    shapes += [(s, [(x + ball, y) for x, y in points], f) for s, points, f in trailer.shapes]
    wheels += [(x + ball, y, r, s, f) for x, y, r, s, f in trailer.wheels]
    if walk.machine is not None:
        machine = machine_drawn(walk.machine, unit)
        start, end = trailer.lengths["deck_length"]
        at = ball + (start + end) / 2 - (machine.left + machine.right) / 2
        up = DECK_UP
        shapes += [(s, [(x + at, y + up) for x, y in points], f) for s, points, f in machine.shapes]
        wheels += [(x + at, y + up, r, s, f) for x, y, r, s, f in machine.wheels]
    whole = Drawn(
        shapes=shapes,
        wheels=wheels,
        lengths={},
        spots={},
        known=[],
        left=truck.left,
        right=ball + trailer.right,
        top=3.2,
    )
    return _to_scale(whole, None)


def _to_scale(drawn: Drawn, step: Step | None) -> Picture:
    wide = (WIDTH - 2 * SIDE) / (drawn.right - drawn.left)
    high = (GROUND - TOP) / drawn.top
    per_m = min(wide, high)
    spare = (WIDTH - 2 * SIDE) / per_m - (drawn.right - drawn.left)
    left = drawn.left - spare / 2

    def x(metres: float) -> float:
        return SIDE + (metres - left) * per_m

    def y(metres: float) -> float:
        return GROUND - metres * per_m

    lit = spot = None
    if step is not None and step.lit in drawn.lengths:
        start, end = drawn.lengths[step.lit]
        lit = _lit(x(start), x(end))
    elif step is not None and step.lit in drawn.spots:
        at, up = drawn.spots[step.lit]
        spot = Spot(svg=circle(x(at), y(up), 13))
    return Picture(
        shapes=tuple(
            Shape(data=path([(x(a), y(b)) for a, b in points]), style=style, faint=faint)
            for style, points, faint in drawn.shapes
        ),
        wheels=tuple(
            Wheel(svg=circle(x(a), y(b), max(r * per_m, 3.0)), style=style, faint=faint)
            for a, b, r, style, faint in drawn.wheels
        ),
        lit=lit,
        known=_known(drawn.known, x) if step is not None else (),
        spot=spot,
        words=f"Side view, {'true to scale' if step is None else step.part.title.lower()}",
    )


def _known(found: Sequence[tuple[float, float, str]], x: object) -> tuple[Known, ...]:
    """Only the longest of what is known stands under the drawing: the phone is narrow."""
    if not found or not callable(x):
        return ()
    start, end, words = max(found, key=lambda one: abs(one[1] - one[0]))
    one, two = sorted((x(start), x(end)))
    half = len(words) * 3.3
    middle = min(max((one + two) / 2, half), WIDTH - half)
    return (Known(line=f"M{one:.1f} {KNOWN_Y:.1f}H{two:.1f}", x=middle, text=words),)


def _lit(one: float, two: float) -> Lit:
    start, end = sorted((one, two))
    wide, high = LABEL
    middle = min(max((start + end) / 2, wide / 2 + 2), WIDTH - wide / 2 - 2)
    return Lit(
        ends="".join(f"M{at:.1f} {GROUND - 30:.1f}V{LIT_Y + 8:.1f}" for at in (start, end)),
        line=f"M{start + 1:.1f} {LIT_Y:.1f}H{end - 1:.1f}"
        f"M{start + 10:.1f} {LIT_Y - 5:.1f}L{start + 1:.1f} {LIT_Y:.1f}"
        f"L{start + 10:.1f} {LIT_Y + 5:.1f}"
        f"M{end - 10:.1f} {LIT_Y - 5:.1f}L{end - 1:.1f} {LIT_Y:.1f}L{end - 10:.1f} {LIT_Y + 5:.1f}",
        box=Box(x=middle - wide / 2, y=LIT_Y - high / 2, width=wide, height=high),
        text_x=middle,
        text_y=LIT_Y + 5.5,
    )


def truck_drawn(truck: Truck | None, walk: Walk, unit: UnitSystem) -> Drawn:
    """The truck from its front axle back, with the ball behind it or over its bed."""
    base = USUAL_BASE
    guess = None if truck is None else estimates.wheelbase(truck)
    if guess is not None:
        base = guess.si
    known = truck is not None and truck.wheelbase is not None
    hitch = walk.hitch
    place = 1.25 if hitch is None else estimates.ball_place(hitch).si
    over_bed = hitch is not None and place < 0.5
    ball = (base + place, 1.2 if over_bed else BALL_UP)
    bumper = -1.1 if over_bed else -max(place - 0.13, 0.6)
    shapes = [
        (style, [(base - ahead, up) for ahead, up in points], not known)
        for style, points in truck_outline(base, bumper, cab="" if truck is None else truck.cab)
    ]
    wheels = [(at, TRUCK_TYRE_M, TRUCK_TYRE_M, "tyre", not known) for at in (0.0, base)]
    wheels.append((*ball, 0.06, "ball", hitch is None or hitch.offset is None))
    told = []
    if truck is not None and truck.wheelbase is not None:
        told.append((0.0, base, f"wheelbase {_words(truck.wheelbase, unit)}"))
    return Drawn(
        shapes=shapes,
        wheels=wheels,
        lengths={"wheelbase": (0.0, base), "offset": (base, base + place)},
        spots={
            "door": (base * 0.5, 1.0),
            "front": (0.0, 0.4),
            "rear": (base, 0.4),
            "bed": (base - 0.2, 1.15),
            "hitch": ball,
        },
        known=told,
        left=-0.98,
        right=base + max(place + 0.2, 1.3),
        top=2.0,
    )


def trailer_drawn(trailer: Trailer | None, unit: UnitSystem) -> Drawn:
    """A trailer from its coupler back."""
    length, long_known = USUAL_DECK, False
    neck = trailer is not None and trailer.over_bed
    start = 2.1 if neck else 1.3
    axles = [start + 0.55 * length, start + 0.55 * length + 0.88]
    start_known = axles_known = False
    if trailer is not None:
        start = estimates.deck_start(trailer).si
        start_known = trailer.deck_start is not None
        if trailer.deck_length is not None:
            length, long_known = si(trailer.deck_length), True
        found = estimates.axle_places(trailer)
        count = len(trailer.axles.all()) or 2
        middle = start + 0.61 * length if found is None else found.middle
        axles = [middle + (n - (count - 1) / 2) * 0.88 for n in range(count)]
        if found is not None:
            axles = list(found.places)
            axles_known = found.guessed is None
    end = max(start + length, max(axles) + 0.4)
    up, ball_up = DECK_UP, 1.2 if neck else BALL_UP
    nose = max(start, 0.5)
    faint = not start_known
    tongue = [
        (0.0, ball_up + 0.06),
        (nose, up),
        (nose, up - 0.16),
        (0.12, ball_up - 0.06),
    ]
    deck = [(start, up), (start + length, up), (start + length, up - 0.16), (start, up - 0.16)]
    board = [(start, up), (start + 0.06, up), (start + 0.06, up + 0.45), (start, up + 0.45)]
    told = []
    if trailer is not None and trailer.deck_length is not None:
        told.append((start, start + length, f"deck {_words(trailer.deck_length, unit)}"))
    middle = sum(axles) / len(axles)
    return Drawn(
        shapes=[
            ("frame", tongue, faint),
            ("frame", deck, not long_known),
            ("post", board, not long_known),
        ],
        wheels=[
            *((at, WHEEL, WHEEL, "tyre", not axles_known) for at in axles),
            (0.0, ball_up, 0.06, "ball", False),
        ],
        lengths={
            "deck_start": (0.0, start),
            "deck_length": (start, start + length),
            "axles_at": (0.0, middle),
        },
        spots={"plate": (nose * 0.7, ball_up), "axle": (axles[0], WHEEL), "ball": (0.0, ball_up)},
        known=told,
        left=min(0.0, start) - 0.25,
        right=end + 0.1,
        top=1.9,
    )


def machine_drawn(machine: Machine | None, unit: UnitSystem) -> Drawn:
    """A machine about its mark, its front to the left."""
    shape = "tractor" if machine is None else machine.shape
    base = 1.65
    known = machine is not None and machine.wheelbase is not None
    if machine is not None and machine.wheelbase is not None:
        base = si(machine.wheelbase)
    tracks = machine is not None and machine.running != Machine.Running.WHEELS
    front = base * (0.9 if tracks else 1.7)
    rear = base * 0.6 if tracks else base * 0.45
    told = []
    if machine is not None:
        if machine.reach_front is not None:
            front = si(machine.reach_front)
        if machine.reach_rear is not None:
            rear = si(machine.reach_rear)
        if machine.wheelbase is not None and not tracks:
            told.append((-base, 0.0, f"wheel to wheel {_words(machine.wheelbase, unit)}"))
    whole = machine is not None and None not in (machine.reach_front, machine.reach_rear)
    height = min(max(0.62 * (front + rear), 0.9), 2.3)
    outline = machine_outline(shape, front, rear, height, base)
    faint = not (known or whole)
    wheels = [(-ahead, r, r, "tyre", faint) for ahead, r in outline.wheels]
    first = base / 2 if tracks else base
    return Drawn(
        shapes=[
            (style, [(-ahead, up) for ahead, up in points], faint)
            for style, points in outline.shapes
        ],
        wheels=wheels,
        lengths={
            "machine_base": (-first, -first + base),
            "reach_front": (-front, 0.0),
            "reach_rear": (0.0, rear),
        },
        spots={"body": (-base * 0.4, height * 0.5)},
        known=told,
        left=-front,
        right=rear,
        top=height + 0.1,
    )


def _words(quantity: Quantity, unit: UnitSystem) -> str:
    return write_length(si(quantity), unit, step=2)
