"""Workshop drawings of things of the book: side view with dimension lines.

All of it is in the drawing's own units. What was not entered is drawn in usual
proportions and carries no dimension.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from book import estimates
from book.figures import Built, Empties, si, truck_wheelbase
from book.models import Machine, Trailer, Truck
from measures import Quantity, UnitSystem, write_length, write_mass
from measures.writing import write_entered
from mechanics.kerb import EmptyAxles
from pictures.outfit import DISH, HUB
from pictures.outlines import Points, machine_outline
from pictures.svg import Attributes, circle, moved, path
from pictures.trailers import COUPLER_M, PIN_M, TrailerBody, trailer_outline
from pictures.trailers import TYRE_M as TRAILER_TYRE_M
from pictures.trucks import TYRE_M as TRUCK_TYRE_M
from pictures.trucks import bumper_m, truck_outline

WIDTH = 420
GROUND = 150
SIDE = 26
FIRST_DIMENSION, NEXT_DIMENSION = 172, 24
LETTER = 6.4
"""Width of a letter of the dimension texts, near enough to keep them apart."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Shape:
    """A filled outline and the style class it is drawn with."""

    data: str
    style: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Circle:
    """A wheel or the ball."""

    x: float
    y: float
    radius: float
    style: str
    dual: bool = False

    @property
    def svg(self) -> Attributes:
        """Its attributes."""
        return circle(self.x, self.y, self.radius)

    @property
    def hub(self) -> Attributes | None:
        """A wheel's rim; ``None`` of anything else."""
        return circle(self.x, self.y, self.radius * HUB) if self.style == "tyre" else None

    @property
    def dish(self) -> Attributes | None:
        """The dished rim of one of two wheels side by side; ``None`` of anything else."""
        return circle(self.x, self.y, self.radius * DISH) if self.dual else None


@dataclass(frozen=True, kw_only=True, slots=True)
class Dimension:
    """A dimension line with its text; ``x`` of the text keeps it inside the drawing.

    ``box`` is the box of the book that it stands for, ``entered`` what is in that; empty where
    it stands for none. One that is ``asked`` nobody has taped yet.
    """

    start: float
    end: float
    y: float
    text_x: float
    text: str
    box: str = ""
    entered: str = ""
    asked: bool = False

    @property
    def ends(self) -> str:
        """The lines that bound it."""
        return "".join(
            f"M{x:.1f} {self.y - 14:.1f}V{self.y + 3:.1f}" for x in (self.start, self.end)
        )

    @property
    def line(self) -> str:
        """The line between them."""
        return f"M{self.start:.1f} {self.y:.1f}H{self.end:.1f}"

    @property
    def text_y(self) -> str:
        """Where its text stands."""
        return f"{self.y + 4:.1f}"


@dataclass(frozen=True, kw_only=True, slots=True)
class Note:
    """A text at a place, above or on the drawing."""

    x: float
    y: float
    text: str
    anchor: str = "middle"


@dataclass(frozen=True, kw_only=True)
class Sketch:
    """A thing in side view, its front to the left."""

    shapes: tuple[Shape, ...]
    circles: tuple[Circle, ...]
    dimensions: tuple[Dimension, ...]
    notes: tuple[Note, ...]
    balance: tuple[float, float] | None
    mark_x: float | None
    words: str
    height: float

    @property
    def top(self) -> float:
        """Where the picture begins: nothing is drawn above it."""
        highest = [note.y - 14 for note in self.notes]
        highest += [float(y) for s in self.shapes for y in _heights(s.data)]
        return min(highest, default=0.0) - 6

    @property
    def view_box(self) -> Attributes:
        """What the picture shows."""
        return Attributes(f"0 {self.top:.0f} {WIDTH} {self.height - self.top:.0f}")

    @property
    def balance_at(self) -> Attributes | None:
        """Where the balance point is drawn about; ``None`` where it is not known."""
        return None if self.balance is None else moved(*self.balance)

    @property
    def mark_line(self) -> str:
        """The line down from the mark; empty where there is none."""
        return "" if self.mark_x is None else f"M{self.mark_x:.1f} 28V{self.height - 8:.1f}"


def _heights(data: str) -> list[str]:
    """The y of every point of an outline made by :func:`pictures.svg.path`."""
    return [point.split(" ")[1] for point in data.strip("MZ").split("L")]


@dataclass(frozen=True, slots=True)
class Span:
    """A length of a drawing in metres, its words, and the box it stands for."""

    start_m: float
    end_m: float
    words: str
    box: str = ""
    entered: str = ""
    asked: bool = False


def _span(
    start_m: float, end_m: float, words: str, box: str, entered: Quantity | None, system: UnitSystem
) -> Span:
    """A length that a box holds, its figure in place of ``{}``; where the box is empty the drawing
    asks for it."""
    if entered is None:
        return Span(start_m, end_m, words.format("?"), box, "", True)
    shown = write_length(abs(end_m - start_m), system, step=2)
    return Span(start_m, end_m, words.format(shown), box, write_entered(entered))


@dataclass(frozen=True, kw_only=True, slots=True)
class _Scale:
    """Metres behind the thing's origin to the drawing: x grows rearward, y downward."""

    left_m: float
    per_m: float

    def x(self, metres: float) -> float:
        return SIDE + (metres - self.left_m) * self.per_m

    def y(self, metres: float) -> float:
        return GROUND - metres * self.per_m


def _scale(left_m: float, right_m: float, top_m: float) -> _Scale:
    wide = (WIDTH - 2 * SIDE) / max(right_m - left_m, 0.1)
    high = (GROUND - 26) / max(top_m, 0.1)
    per_m = min(wide, high)
    # what is tall and short stands in the middle
    spare = (WIDTH - 2 * SIDE) / per_m - (right_m - left_m)
    return _Scale(left_m=left_m - spare / 2, per_m=per_m)


def _dimensions(scale: _Scale, spans: Sequence[Span]) -> tuple[tuple[Dimension, ...], float]:
    """Lines under the ground, each on the first row where it meets no other; total height."""
    rows: list[list[tuple[float, float]]] = []
    lines = []
    for span in spans:
        words = span.words
        start, end = sorted((scale.x(span.start_m), scale.x(span.end_m)))
        half = len(words) * LETTER / 2 + 5
        middle = (start + end) / 2
        if end - start < 2 * half + 8:
            # too short for its text, which then stands beside it
            middle = end + half + 2 if end + 2 * half + 4 < WIDTH else start - half - 2
        middle = min(max(middle, half), WIDTH - half)
        taken = (min(start, middle - half), max(end, middle + half))
        row = next(
            (n for n, row in enumerate(rows) if all(taken[1] < a or taken[0] > b for a, b in row)),
            len(rows),
        )
        if row == len(rows):
            rows.append([])
        rows[row].append(taken)
        y = FIRST_DIMENSION + row * NEXT_DIMENSION
        lines.append(
            Dimension(
                start=start,
                end=end,
                y=y,
                text_x=middle,
                text=words,
                box=span.box,
                entered=span.entered,
                asked=span.asked,
            )
        )
    return tuple(lines), FIRST_DIMENSION + max(len(rows), 1) * NEXT_DIMENSION - 6


def usual_height_m(length_m: float) -> float:
    """How high a machine of that length is drawn when nobody said."""
    return min(0.6 * length_m, 2.4)


def deck_top_m(trailer: Trailer) -> float:
    """How high a deck is drawn: as taped, else as such decks are."""
    return 0.65 if trailer.deck_height is None else si(trailer.deck_height)


def machine_sketch(machine: Machine, built: Built, units: UnitSystem) -> Sketch:
    """A machine about its mark, with its reach, balance point and wheelbase."""
    front, rear = built.outline.front_m, built.outline.rear_m
    height = built.outline.height_m or usual_height_m(front + rear)
    wheelbase = None if machine.wheelbase is None else si(machine.wheelbase)
    outline = machine_outline(machine.shape, front, rear, height, wheelbase)
    scale = _scale(-front, rear, height)
    body = built.body

    def length(metres: float) -> str:
        return write_length(abs(metres), units, step=2)

    spans = [
        Span(-front, 0.0, f"{length(front)} ahead", *_own(machine, "reach_front", front)),
        Span(0.0, rear, f"{length(rear)} behind", *_own(machine, "reach_rear", rear)),
    ]
    if "cg.ahead" in built.estimated:
        spans.append(Span(-body.ahead_m, 0.0, "balance ?", "balance_ahead", "", True))
    elif abs(body.ahead_m) > 0.02:
        own = _own(machine, "balance_ahead", body.ahead_m) if built.entered else ("", "")
        spans.append(Span(-body.ahead_m, 0.0, f"balance {length(body.ahead_m)}", *own))
    if wheelbase is not None:
        first = outline.wheels[0][0] if outline.wheels else -wheelbase / 2
        spans.append(
            _span(
                -first,
                -first - wheelbase,
                f"{_feet(machine)} {{}}",
                "wheelbase",
                machine.wheelbase,
                units,
            )
        )
    spans.append(Span(-front, rear, f"{length(front + rear)} over all"))
    dimensions, total = _dimensions(scale, spans)
    up = body.height_m if body.height_m and body.height_m < height else 0.35 * height
    return Sketch(
        shapes=tuple(
            Shape(data=path([(scale.x(-a), scale.y(u)) for a, u in points]), style=style)
            for style, points in outline.shapes
        ),
        circles=tuple(
            Circle(x=scale.x(-a), y=scale.y(r), radius=r * scale.per_m, style="tyre")
            for a, r in outline.wheels
        ),
        dimensions=dimensions,
        notes=(
            Note(
                x=min(max(scale.x(-body.ahead_m), 60), WIDTH - 60),
                y=15,
                text=_about(write_mass(body.mass_kg, units), "mass" in built.estimated),
            ),
        ),
        balance=(scale.x(-body.ahead_m), scale.y(up)),
        mark_x=scale.x(0.0),
        words=f"Side view: reaches {length(front)} ahead and {length(rear)} behind its mark, "
        f"balances {length(body.ahead_m)} {'ahead of' if body.ahead_m >= 0 else 'behind'} it",
        height=total,
    )


def _own(machine: Machine, field: str, drawn_m: float) -> tuple[str, str]:
    """The machine's own box for a length, and what is in it; nothing where parts or a
    configuration make it another."""
    entered: Quantity | None = getattr(machine, field)
    if entered is None or abs(si(entered) - drawn_m) > 1e-6:
        return "", ""
    return field, write_entered(entered)


def _about(figure: str, estimated: bool) -> str:
    """A figure of the drawing, marked where nobody measured it."""
    return f"about {figure}" if estimated else figure


def _feet(machine: Machine) -> str:
    return "track" if machine.running == Machine.Running.TRACKS else "wheelbase"


def trailer_body(
    trailer: Trailer,
    *,
    deck_start: float,
    deck_length: float,
    axles: Sequence[float],
    top: float,
) -> TrailerBody:
    """A trailer as it is drawn, about its coupler."""
    tail = trailer.dovetail_length, trailer.dovetail_drop
    falls = None not in tail
    return TrailerBody(
        kind=trailer.kind,
        over_bed=trailer.over_bed,
        start_m=deck_start,
        length_m=deck_length,
        top_m=top,
        axles=tuple(axles),
        dovetail_m=si(trailer.dovetail_length) if falls else 0.0,
        drop_m=si(trailer.dovetail_drop) if falls else 0.0,
        tail=trailer.tail,
        sides=trailer.sides,
        ramp_m=1.2 if trailer.ramp_length is None else si(trailer.ramp_length),
    )


def truck_body(truck: Truck, wheelbase: float, bumper: float) -> list[tuple[str, Points]]:
    """A truck as it is drawn, about its rear axle; ``bumper`` is where it ends."""
    dual = truck.rear_wheels == Truck.RearWheels.DUAL
    return truck_outline(wheelbase, bumper, cab=truck.cab, dual=dual)


def trailer_sketch(trailer: Trailer, empties: Empties, units: UnitSystem) -> Sketch:
    """A trailer from the ball back: deck, axles, additions, empty loads."""
    start, length = estimates.deck_start(trailer).si, si(trailer.deck_length)
    found = estimates.axle_places(trailer)
    axles = [] if found is None else list(found.places)
    up = deck_top_m(trailer)
    ball_up = PIN_M if trailer.over_bed else COUPLER_M
    end = max(start + length, max(axles) + 0.4)
    scale = _scale(min(0.0, start), end, max(up, ball_up) + (2.1 if trailer.deckless else 0.9))

    def shown(metres: float) -> str:
        return write_length(abs(metres), units, step=2)

    body = trailer_body(trailer, deck_start=start, deck_length=length, axles=axles, top=up)
    outline = trailer_outline(body)
    over_axles = [
        high for _, points in outline for at, high in points if min(axles) <= at <= max(axles) + 0.5
    ]
    shapes = [
        Shape(data=path([(scale.x(at), scale.y(high)) for at, high in points]), style=style)
        for style, points in outline
    ]
    notes = [
        Note(
            x=scale.x(0.0),
            y=scale.y(ball_up) - 14,
            text=_about(write_mass(empties.tongue_kg, units), not empties.entered),
            anchor="start" if scale.x(0.0) < 60 and not empties.entered else "middle",
        ),
        Note(
            x=scale.x(sum(axles) / len(axles)),
            y=scale.y(max(over_axles, default=up)) - 8,
            text=_about(
                write_mass(empties.mass_kg - empties.tongue_kg, units), not empties.entered
            ),
        ),
    ]
    for addition in trailer.additions.all():
        at = si(addition.behind_coupler)
        box = [(at - 0.06, up), (at + 0.06, up), (at + 0.06, up + 0.22), (at - 0.06, up + 0.22)]
        shapes.append(Shape(data=path([(scale.x(x), scale.y(y)) for x, y in box]), style="added"))
    side = "{} over truck" if start < 0 else "{} to deck"
    spans = [
        _span(0.0, start, side, "deck_start", trailer.deck_start, units),
        _span(start, start + length, "deck {}", "deck_length", trailer.deck_length, units),
    ]
    rows = list(trailer.axles.all())
    if any(axle.position is None for axle in rows):
        middle = sum(axles) / len(axles)
        spans.append(_span(0.0, middle, "axles {}", "axles_at", trailer.axles_at, units))
    spans += [
        _span(
            0.0,
            x,
            f"axle {n} {{}}" if len(axles) > 1 else "axle {}",
            f"axle-{n}",
            axle.position,
            units,
        )
        for n, (x, axle) in enumerate(zip(axles, rows, strict=True), 1)
        if axle.position is not None
    ]
    dimensions, total = _dimensions(scale, spans)
    return Sketch(
        shapes=tuple(shapes),
        circles=(
            Circle(x=scale.x(0.0), y=scale.y(ball_up), radius=5, style="ball"),
            *(
                Circle(
                    x=scale.x(x),
                    y=scale.y(TRAILER_TYRE_M),
                    radius=TRAILER_TYRE_M * scale.per_m,
                    style="tyre",
                )
                for x in axles
            ),
        ),
        dimensions=dimensions,
        notes=tuple(notes),
        balance=None,
        mark_x=None,
        words=f"Side view: deck {shown(length)} long, {len(axles)} axle"
        f"{'s' if len(axles) > 1 else ''}, ball at the left",
        height=total,
    )


def truck_sketch(truck: Truck, axles: EmptyAxles, units: UnitSystem) -> Sketch:
    """A truck with its axle loads empty, wheelbase and hitch points."""
    base = truck_wheelbase(truck).si
    hitches = [(hitch, estimates.ball_place(hitch).si) for hitch in truck.hitches.all()]
    balls = [place for _, place in hitches]
    bumper = bumper_m(balls)
    scale = _scale(-0.96, base + max(1.15, *balls, 0.0) + 0.1, 1.95)

    def shown(metres: float) -> str:
        return write_length(abs(metres), units, step=2)

    circles = [
        Circle(
            x=scale.x(x),
            y=scale.y(TRUCK_TYRE_M),
            radius=TRUCK_TYRE_M * scale.per_m,
            style="tyre",
            dual=x > 0 and truck.rear_wheels == Truck.RearWheels.DUAL,
        )
        for x in (0.0, base)
    ]
    spans = [_span(0.0, base, "wheelbase {}", "wheelbase", truck.wheelbase, units)]
    for hitch, place in hitches:
        at = base + place
        over = hitch.type in ("gooseneck", "fifth_wheel")
        circles.append(
            Circle(x=scale.x(at), y=scale.y(1.2 if over else 0.5), radius=5, style="ball")
        )
        box = f"hitch-{hitch.pk}"
        if hitch.offset is None:
            spans.append(Span(base, at, f"{hitch.name} ?", box, "", True))
        elif abs(place) > 0.02:
            side = "behind" if place > 0 else "ahead"
            words = f"{hitch.name} {shown(place)} {side}"
            spans.append(Span(base, at, words, box, write_entered(hitch.offset)))
    dimensions, total = _dimensions(scale, spans)
    front, rear = write_mass(axles.front_kg, units), write_mass(axles.rear_kg, units)
    guessed = estimates.truck_source(truck) != Truck.EmptyFrom.AXLES
    return Sketch(
        shapes=tuple(
            Shape(data=path([(scale.x(base - a), scale.y(u)) for a, u in points]), style=style)
            for style, points in truck_body(truck, base, bumper)
        ),
        circles=tuple(circles),
        dimensions=dimensions,
        notes=(
            Note(x=scale.x(0.0), y=scale.y(1.9) - 8, text=_about(front, guessed)),
            Note(x=scale.x(base), y=scale.y(1.9) - 8, text=_about(rear, guessed)),
        ),
        balance=None,
        mark_x=None,
        words=f"Side view: wheelbase {shown(base)}, axle loads empty",
        height=total,
    )
