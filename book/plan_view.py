"""A trailer's deck and a machine from above, with the places that ties run between.

A tap on it puts a pair there: the drawing says what a place on it is in the person's unit.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final

from book.errors import IncompleteError
from book.figures import built_machine, drawn_as, si
from book.models import Machine, MachinePoint, Thing, Trailer, TrailerAnchor
from book.ties import Spot, spots
from book.tolerances import Tolerances
from measures import UnitSystem
from mechanics.units import M_PER_IN
from pictures.machines import WIDTH_M, tyres_above
from pictures.outlines import machine_outline
from pictures.svg import Attributes, Box, circle

WIDTH: Final = 560.0
SIDE: Final = 24.0
TALLEST: Final = 240.0

STEP_M: Final = {UnitSystem.US: M_PER_IN, UnitSystem.METRIC: 0.01}
"""What a tap is rounded to: an inch, a centimetre."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Mark:
    """An anchor or point on the drawing."""

    x: float
    y: float
    words: str
    never: bool
    guess: bool

    @property
    def ring(self) -> Attributes:
        """Where it is drawn."""
        return circle(self.x, self.y, 6)

    @property
    def cross(self) -> str:
        """A cross over a place that must not be used."""
        return f"M{self.x - 5:.1f} {self.y - 5:.1f}l10 10M{self.x + 5:.1f} {self.y - 5:.1f}l-10 10"


@dataclass(frozen=True, kw_only=True, slots=True)
class PlanView:
    """The drawing, and how a script reads places off it.

    A place ``x`` of the drawing lies ``(x - x0) / per`` of the person's unit along the first
    box ``along``, the other way round with ``back``; ``y - y0`` likewise off the middle.
    """

    height: float
    deck: Box | None
    boxes: tuple[Box, ...]
    tyres: tuple[Box, ...]
    marks: tuple[Mark, ...]
    nose: str
    x0: float
    y0: float
    per: float
    step: float
    unit: str
    along: str
    back: bool
    word: str
    words: str

    @property
    def view_box(self) -> Attributes:
        """What it shows."""
        return Attributes(f"0 0 {WIDTH:.0f} {self.height:.0f}")


def plan_view(thing: Thing | None, units: UnitSystem, tolerances: Tolerances) -> PlanView | None:
    """The drawing of a trailer or machine; ``None`` of anything else, or without its size."""
    if isinstance(thing, Trailer):
        return _trailer(thing, units)
    if isinstance(thing, Machine):
        return _machine(thing, units, tolerances)
    return None


def _trailer(trailer: Trailer, units: UnitSystem) -> PlanView | None:
    if trailer.deck_length is None or trailer.deck_width is None:
        return None
    length, width = si(trailer.deck_length), si(trailer.deck_width)
    rows = list(trailer.anchors.all())
    front = min([0.0, *(si(row.tape) for row in rows)])
    rear = max([length, *(si(row.tape) for row in rows)])
    wide = max([width, *(2 * abs(si(row.off)) for row in rows)])
    scale = min((WIDTH - 2 * SIDE) / (rear - front), TALLEST / wide)
    x0, y0 = SIDE - front * scale, SIDE + wide * scale / 2
    return PlanView(
        height=2 * SIDE + wide * scale,
        deck=Box(x=x0, y=y0 - width * scale / 2, width=length * scale, height=width * scale),
        boxes=(),
        tyres=(),
        marks=_marks(spots(rows), x0, y0, scale, back=False),
        nose="",
        x0=x0,
        y0=y0,
        per=scale * units.m,
        step=STEP_M[units] / units.m,
        unit=units.length_unit,
        along="tape",
        back=False,
        word="anchor",
        words="The deck from above, its front to the left",
    )


def _machine(machine: Machine, units: UnitSystem, tolerances: Tolerances) -> PlanView | None:
    try:
        outline = built_machine(machine, drawn_as(machine), tolerances).outline
    except IncompleteError:
        return None
    front, rear = outline.front_m, outline.rear_m
    width = WIDTH_M if machine.width is None else si(machine.width)
    rows = list(machine.points.all())
    ahead = max([front, *(si(row.ahead) for row in rows)])
    behind = max([rear, *(-si(row.ahead) for row in rows)])
    wide = max([width, *(2 * abs(si(row.off)) for row in rows)])
    scale = min((WIDTH - 2 * SIDE) / (ahead + behind), TALLEST / wide)
    x0, y0 = SIDE + ahead * scale, SIDE + wide * scale / 2
    wheelbase = None if machine.wheelbase is None else si(machine.wheelbase)
    shape = machine_outline(machine.shape, front, rear, outline.height_m or 1.5, wheelbase)
    half = width * scale * (0.3 if shape.wheels else 0.5)
    nose = x0 - front * scale
    return PlanView(
        height=2 * SIDE + wide * scale,
        deck=None,
        boxes=(Box(x=nose, y=y0 - half, width=(front + rear) * scale, height=2 * half),),
        tyres=tyres_above(shape, lambda at: x0 - at * scale, y0, width, scale),
        marks=_marks(spots(rows), x0, y0, scale, back=True),
        nose=f"M{nose + 16:.1f} {y0 - 9:.1f}l-11 9l11 9",
        x0=x0,
        y0=y0,
        per=scale * units.m,
        step=STEP_M[units] / units.m,
        unit=units.length_unit,
        along="ahead",
        back=True,
        word="point",
        words="The machine from above, its front to the left",
    )


def _marks(
    found: Iterable[Spot], x0: float, y0: float, scale: float, *, back: bool
) -> tuple[Mark, ...]:
    marks = []
    for spot in found:
        row = spot.row
        along = si(row.tape) if isinstance(row, TrailerAnchor) else si(row.ahead)
        marks.append(
            Mark(
                x=x0 + (-1 if back else 1) * along * scale,
                # the front is to the left, so what lies left of the middle is downwards
                y=y0 + spot.left_m * scale,
                words=f"{spot.id}: {row.get_kind_display()}{', a guess' if row.guess else ''}",
                never=isinstance(row, MachinePoint) and row.forbidden,
                guess=row.guess,
            )
        )
    return tuple(marks)
