"""The deck with its ties, from above and from the side, true to scale.

The truck heads to the left of the picture, so its driver's left hand is downwards.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Final

from measures.writing import UnitSystem, write_length, write_mass, write_percent
from mechanics.checks import Status
from mechanics.item import Item
from mechanics.plan import Plan
from mechanics.securing import TieUse
from mechanics.ties import Anchor
from pictures.machines import WIDTH_M, Body, body_of, item_height_m, outline_of, tyres_above
from pictures.outfit import Wheel, deck_width_m
from pictures.svg import Attributes, Box, circle, moved, path
from planfile.draft import Drawn
from planfile.tying import Forbidden, Guesses

WIDTH: Final = 880.0
SIDE: Final = 92.0
"""Room at either end, for the arrows."""

TALLEST: Final = 270.0
"""Most height that the deck from above takes."""

ARROW_ROOM: Final = 62.0
"""Room beside the deck, for the arrows to the sides."""

NUMBER: Final = 13.0
"""Radius of a tie's number."""

USE_OUT: Final = 25.0
"""How far beside a tie's number its use is written."""

APART: Final = 40.0
"""Numbers of ties keep so far from each other."""

PLANK_M: Final = 0.5

TYRE_BESIDE: Final = 16.0
"""Width of the trailer's tyres beside the deck."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """A straight line."""

    x1: float
    y1: float
    x2: float
    y2: float

    @property
    def svg(self) -> Attributes:
        """The attributes of a ``line``."""
        return Attributes(
            f'x1="{self.x1:.1f}" y1="{self.y1:.1f}" x2="{self.x2:.1f}" y2="{self.y2:.1f}"'
        )

    def part(self, share: float) -> Line:
        """The first part of it."""
        return Line(
            x1=self.x1,
            y1=self.y1,
            x2=self.x1 + share * (self.x2 - self.x1),
            y2=self.y1 + share * (self.y2 - self.y1),
        )

    def at(self, share: float) -> tuple[float, float]:
        """A place on it."""
        end = self.part(share)
        return end.x2, end.y2


@dataclass(frozen=True, kw_only=True, slots=True)
class DrawnTie:
    """A tie from its anchor to the machine; the filled part is its use."""

    id: str
    number: int
    lines: tuple[Line, ...]
    fills: tuple[Line, ...]
    seen: tuple[Line, ...]
    seen_fills: tuple[Line, ...]
    x: float
    y: float
    use: str
    use_x: float
    use_y: float
    past: bool
    mine: bool
    words: str

    @property
    def disc(self) -> Attributes:
        """Where its number stands."""
        return circle(self.x, self.y, NUMBER)


@dataclass(frozen=True, kw_only=True, slots=True)
class Place:
    """An anchor or a point: what it is called, where it is drawn, from above and from the side."""

    id: str
    item: str
    x: float
    y: float
    side_x: float
    side_y: float
    used: bool
    guess: bool
    words: str
    kind: str

    @property
    def ring(self) -> Attributes:
        """Its mark."""
        return circle(self.x, self.y, 8.5 if self.used else 6.5)

    @property
    def dot(self) -> Attributes:
        """The mark of a point, a square."""
        half = 7.0 if self.used else 5.5
        return Box(x=self.x - half, y=self.y - half, width=2 * half, height=2 * half).svg

    @property
    def hit(self) -> Attributes:
        """What a finger has to meet."""
        return circle(self.x, self.y, 20)

    @property
    def seen(self) -> Attributes:
        """Its mark from the side."""
        return circle(self.side_x, self.side_y, 3.5)


@dataclass(frozen=True, kw_only=True, slots=True)
class Never:
    """A place that must not be used."""

    x: float
    y: float
    words: str

    @property
    def cross(self) -> str:
        """A cross over it."""
        return f"M{self.x - 6:.1f} {self.y - 6:.1f}l12 12M{self.x + 6:.1f} {self.y - 6:.1f}l-12 12"


@dataclass(frozen=True, kw_only=True, slots=True)
class Standing:
    """A machine from above and from the side."""

    mine: bool
    box: Box
    nose: str
    tyres: tuple[Box, ...]
    body: Body


@dataclass(frozen=True, kw_only=True, slots=True)
class Arrow:
    """How much of the rule's push is held in one direction."""

    name: str
    words: str
    figure: str
    status: str
    at: Attributes
    text_x: float
    text_y: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Scene:
    """Everything the picture needs."""

    height: float
    side_height: float
    deck: Box
    planks: str
    tyres: tuple[Box, ...]
    standing: tuple[Standing, ...]
    anchors: tuple[Place, ...]
    points: tuple[Place, ...]
    nevers: tuple[Never, ...]
    ties: tuple[DrawnTie, ...]
    arrows: tuple[Arrow, ...]
    side_deck: str
    wheels: tuple[Wheel, ...]
    ground: str
    front_x: float
    tail_x: float
    ends_y: float
    words: str

    @property
    def view_box(self) -> Attributes:
        """What the picture from above shows."""
        return Attributes(f"0 0 {WIDTH:.0f} {self.height:.0f}")

    @property
    def side_box(self) -> Attributes:
        """What the picture from the side shows."""
        return Attributes(f"0 0 {WIDTH:.0f} {self.side_height:.0f}")


@dataclass(frozen=True, kw_only=True, slots=True)
class Held:
    """One direction's arrow: what is said of it."""

    words: str
    figure: str
    status: Status


@dataclass(frozen=True, kw_only=True)
class Painter:
    """Draws a plan's deck with the ties of all its items, one of them in hand."""

    plan: Plan
    item: Item | None
    drawn: Sequence[Drawn]
    forbidden: Sequence[Sequence[Forbidden]]
    uses: Sequence[TieUse]
    numbers: Mapping[str, int]
    guesses: Guesses
    never_words: Mapping[str, str]
    unit: UnitSystem
    front_m: float = field(init=False)
    scale: float = field(init=False)
    middle: float = field(init=False)

    def __post_init__(self) -> None:
        deck, items = self.plan.trailer.deck, self.plan.items
        anchors = self.plan.trailer.anchors
        front = min([0.0, *(i.foremost_m for i in items), *(a.tape_m for a in anchors)])
        rear = max([deck.length_m, *(i.rearmost_m for i in items), *(a.tape_m for a in anchors)])
        wide = max(deck_width_m(self.plan.trailer), *(i.width_m or WIDTH_M for i in items), 1.0)
        scale = min((WIDTH - 2 * SIDE) / (rear - front), TALLEST / wide)
        spare = (WIDTH - 2 * SIDE) / scale - (rear - front)
        object.__setattr__(self, "scale", scale)
        object.__setattr__(self, "front_m", front - spare / 2)
        object.__setattr__(self, "middle", ARROW_ROOM + TYRE_BESIDE + wide * scale / 2)

    def x(self, tape_m: float) -> float:
        """Across the picture, for a place behind the deck's front edge."""
        return SIDE + (tape_m - self.front_m) * self.scale

    def y(self, left_m: float) -> float:
        """Down the picture from above, for a place left of the deck's middle."""
        return self.middle + left_m * self.scale

    @property
    def half(self) -> float:
        """Half of the deck's width."""
        return deck_width_m(self.plan.trailer) * self.scale / 2

    @property
    def side_y(self) -> float:
        """Where the deck lies in the view from the side."""
        tallest = max((item_height_m(item) for item in self.plan.items), default=0.6)
        return tallest * self.scale + 14

    @property
    def _widest(self) -> float:
        return max((i.width_m or WIDTH_M for i in self.plan.items), default=0.0) * self.scale

    def scene(self, held: Mapping[str, Held]) -> Scene:
        """The picture; ``held`` are the four level directions of the item in hand."""
        deck, trailer = self.plan.trailer.deck, self.plan.trailer
        left, right, side = self.x(0.0), self.x(deck.length_m), self.side_y
        planks = "".join(
            f"M{self.x(n * PLANK_M):.1f} {self.middle - self.half:.1f}v{2 * self.half:.1f}"
            for n in range(1, math.ceil(deck.length_m / PLANK_M))
        )
        up = (deck.height_m or 0.6) * self.scale
        radius = min(0.36 * self.scale, up * 0.6)
        axles = [axle.position_m - deck.start_m for axle in trailer.axles]
        return Scene(
            height=self.middle + max(self.half, self._widest / 2) + TYRE_BESIDE + ARROW_ROOM,
            side_height=side + up + 12,
            deck=Box(x=left, y=self.middle - self.half, width=right - left, height=2 * self.half),
            planks=planks,
            tyres=tuple(
                Box(x=self.x(a) - radius, y=y, width=2 * radius, height=TYRE_BESIDE)
                for a in axles
                for y in (self.middle - self.half - TYRE_BESIDE, self.middle + self.half)
            ),
            standing=tuple(self._standing(n, i) for n, i in enumerate(self.plan.items)),
            anchors=tuple(self._anchor(anchor) for anchor in trailer.anchors),
            points=tuple(p for i in self.plan.items for p in self._points(i)),
            nevers=tuple(self._nevers()),
            ties=tuple(self._ties()),
            arrows=tuple(self._arrows(held)),
            side_deck=f"M{left:.1f} {side:.1f}H{right:.1f}",
            wheels=tuple(Wheel(x=self.x(a), y=side + up - radius, radius=radius) for a in axles),
            ground=f"M{SIDE:.0f} {side + up:.1f}H{WIDTH - SIDE:.0f}",
            front_x=left,
            tail_x=right,
            ends_y=self.middle + self.half + 15,
            words=f"The deck from above, {len(self.uses)} ties",
        )

    def _standing(self, index: int, item: Item) -> Standing:
        outline, mark = outline_of(item, self.drawn[index]), item.placement.reference_m
        width = item.width_m or WIDTH_M
        across = self.y(item.placement.left_m)
        body_half = width * self.scale * (0.5 if not outline.wheels else 0.3)
        front, rear = self.x(item.foremost_m), self.x(item.rearmost_m)
        nose, way = (front, -1) if item.direction < 0 else (rear, 1)

        def along(ahead: float) -> float:
            return self.x(mark + item.direction * ahead)

        def put(ahead: float, up: float) -> tuple[float, float]:
            return along(ahead), self.side_y - up * self.scale

        return Standing(
            mine=item is self.item,
            box=Box(x=front, y=across - body_half, width=rear - front, height=2 * body_half),
            nose=path(
                [
                    (nose - way * 16, across - 9),
                    (nose - way * 5, across),
                    (nose - way * 16, across + 9),
                ],
                closed=False,
            ),
            tyres=tyres_above(outline, along, across, width, self.scale),
            body=body_of(outline, put, self.scale),
        )

    def _anchor(self, anchor: Anchor) -> Place:
        holds = "" if anchor.wll_kg is None else f", holds {write_mass(anchor.wll_kg, self.unit)}"
        at = write_length(abs(anchor.tape_m), self.unit, step=2)
        where = f"{at} {'behind' if anchor.tape_m >= 0 else 'ahead of'} the front edge"
        guess = anchor.id in self.guesses.anchors
        return Place(
            id=anchor.id,
            item="",
            x=self.x(anchor.tape_m),
            y=self.y(anchor.left_m),
            side_x=self.x(anchor.tape_m),
            side_y=self.side_y - anchor.height_m * self.scale,
            used=any(a.id == anchor.id for use in self.uses for a in use.rope.anchors),
            guess=guess,
            words=f"{anchor.id}: {where}{holds}{', a guess' if guess else ''}",
            kind=anchor.kind,
        )

    def _points(self, item: Item) -> list[Place]:
        found = []
        for point in item.points:
            x, y = self._spot(item, point.ahead_m, point.left_m)
            guess = (item.id, point.id) in self.guesses.points
            found.append(
                Place(
                    id=point.id,
                    item=item.id,
                    x=x,
                    y=y,
                    side_x=x,
                    side_y=self.side_y - point.height_m * self.scale,
                    used=any(
                        use.rope.tie.item == item.id and use.rope.machine_point.id == point.id
                        for use in self.uses
                    ),
                    guess=guess,
                    words=f"{point.id} of {item.called}{', a guess' if guess else ''}",
                    kind=point.kind,
                )
            )
        return found

    def _spot(self, item: Item, ahead_m: float, left_m: float) -> tuple[float, float]:
        place = item.placement
        return (
            self.x(place.reference_m + item.direction * ahead_m),
            self.y(place.left_m - item.direction * left_m),
        )

    def _nevers(self) -> list[Never]:
        found = []
        for item, places in zip(self.plan.items, self.forbidden, strict=True):
            for one in places:
                x, y = self._spot(item, one.ahead_m, one.left_m)
                why = self.never_words.get(one.why, "not to be used")
                found.append(Never(x=x, y=y, words=f"{one.name}: {why}"))
        return found

    def _ties(self) -> list[DrawnTie]:
        taken: list[tuple[float, float]] = []
        found = []
        for use in self.uses:
            rope, known = use.rope, [u for u in use.use.values() if u is not None]
            most = max(known) if len(known) == len(use.use) and known else None
            px, py = self.x(rope.point.x), self.y(rope.point.y)
            lines, seen = [], []
            for anchor in rope.anchors:
                ax, ay = self.x(anchor.tape_m), self.y(anchor.left_m)
                lines.append(Line(x1=ax, y1=ay, x2=px, y2=py))
                seen.append(
                    Line(
                        x1=ax,
                        y1=self.side_y - anchor.height_m * self.scale,
                        x2=px,
                        y2=self.side_y - rope.point.z * self.scale,
                    )
                )
            share = 0.0 if most is None else min(1.0, most)
            x, y = _free_place(lines[0], taken)
            taken.append((x, y))
            percent = "?" if most is None else write_percent(most, 0)
            out_x, out_y = self._outward(lines[0])
            found.append(
                DrawnTie(
                    id=rope.tie.id,
                    number=self.numbers[rope.tie.id],
                    lines=tuple(lines),
                    fills=tuple(line.part(share) for line in lines) if share else (),
                    seen=tuple(seen),
                    seen_fills=tuple(line.part(share) for line in seen) if share else (),
                    x=x,
                    y=y,
                    use=percent,
                    use_x=x + USE_OUT * out_x,
                    use_y=y + USE_OUT * out_y + 5,
                    past=most is not None and most > 1,
                    mine=self.item is not None and rope.tie.item == self.item.id,
                    words=f"Tie {self.numbers[rope.tie.id]}, {rope.tie.point} to "
                    f"{rope.tie.anchor}: {percent} of what it may pull",
                )
            )
        return found

    def _outward(self, line: Line) -> tuple[float, float]:
        """Square to a tie, away from the middle of the deck: where its figure has room."""
        along = line.x2 - line.x1, line.y2 - line.y1
        long = math.hypot(*along) or 1.0
        across = -along[1] / long, along[0] / long
        away = 1.0 if (line.y1 + line.y2) / 2 >= self.middle else -1.0
        way = away if across[1] >= 0 else -away
        return across[0] * way, across[1] * way

    def _arrows(self, held: Mapping[str, Held]) -> list[Arrow]:
        item = self.item
        if item is None:
            return []
        centre = self.x((item.foremost_m + item.rearmost_m) / 2)
        out = max(self.half, self._widest / 2) + TYRE_BESIDE
        top, bottom = self.middle - out, self.middle + out
        places = {
            "forward": (46.0, self.middle, 180, 46.0, self.middle + 40),
            "rearward": (WIDTH - 46, self.middle, 0, WIDTH - 46, self.middle + 40),
            "right": (centre, top - 32, 270, centre + 30, top - 26),
            "left": (centre, bottom + 32, 90, centre + 30, bottom + 38),
        }
        found = []
        for name, (x, y, turn, text_x, text_y) in places.items():
            one = held[name]
            found.append(
                Arrow(
                    name=name,
                    words=one.words,
                    figure=one.figure,
                    status=one.status.value,
                    at=Attributes(f"{moved(x, y)} rotate({turn})"),
                    text_x=text_x,
                    text_y=text_y,
                )
            )
        return found


def _free_place(line: Line, taken: Sequence[tuple[float, float]]) -> tuple[float, float]:
    """Where a tie's number stands on it: near its middle, clear of the numbers before it."""
    for share in (0.5, 0.62, 0.38, 0.72, 0.28):
        x, y = line.at(share)
        if all(math.hypot(x - a, y - b) >= APART for a, b in taken):
            return x, y
    return line.at(0.5)
