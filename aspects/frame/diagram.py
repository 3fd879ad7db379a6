"""Shear and bending along the frame, as a diagram."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from aspects.frame.words import bending_words
from measures.writing import UnitSystem, write_number
from mechanics.frame import Beam, FrameUse, stands
from mechanics.plan import Plan
from pictures.svg import Attributes, Box, path

DIAGRAM_WIDTH, DIAGRAM_HEIGHT = 760, 118


FOOT_OUT = 2
"""How far a foot is drawn past where it presses, so that it is seen."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Support:
    """Where the frame rests, and what that is called."""

    x: float
    words: str
    anchor: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Diagram:
    """Shear and bending along the frame, as SVG paths about their own base lines.

    ``feet`` are where the loads press; ``peak`` is marked.
    """

    shear: str
    bending: str
    rated: str
    base: float
    supports: list[Support]
    deck: Attributes
    feet: list[Attributes]
    peak_x: float
    peak_y: float
    peak_text: str
    peak_text_y: float
    peak_anchor: str
    text_y: float
    shear_text: str


def diagram(plan: Plan, use: FrameUse, unit: UnitSystem) -> Diagram:
    """The diagram of a frame: bending drawn on the side that is pulled, sagging down."""
    beam = use.beam
    beams = [beam] if use.rated is None else [beam, use.rated]
    first = min(b.places[0] for b in beams)
    last = max(b.places[-1] for b in beams)
    scale_x = DIAGRAM_WIDTH / (last - first)
    base = DIAGRAM_HEIGHT / 2

    def x(at: float) -> float:
        return (at - first) * scale_x

    most = max(1e-9, *(_most(b, 2) for b in beams))
    most_shear = max(_most(beam, 1), 1e-9)
    height = base - 8
    points = beam.diagram()
    start = plan.trailer.deck.start_m
    at, peak = use.peak
    jump = max(abs(v) for _, v, _ in points)
    peak_y = base + peak / most * height
    return Diagram(
        shear=_curve([(x(a), base - v / most_shear * height) for a, v, _ in points]),
        bending=_curve([(x(a), base + m / most * height) for a, _, m in points]),
        rated=_curve([(x(a), base + m / most * height) for a, _, m in use.rated.diagram()])
        if use.rated
        else "",
        base=base,
        supports=_supports(plan, x),
        deck=Box(x=x(start), y=4, width=plan.trailer.deck.length_m * scale_x, height=7).svg,
        feet=[
            Box(x=a - FOOT_OUT, y=-5, width=b - a + 2 * FOOT_OUT, height=9).svg
            for a, b in _feet(plan, x)
        ],
        peak_x=x(at),
        peak_y=peak_y,
        peak_text_y=peak_y - 10 if peak_y > base else peak_y + 18,
        peak_anchor="end" if x(at) > 640 else "start" if x(at) < 120 else "middle",
        text_y=base + 4,
        peak_text=bending_words(abs(peak), unit),
        shear_text=f"{write_number(jump / unit.kg)} {unit.mass_unit}",
    )


def _supports(plan: Plan, x: Callable[[float], float]) -> list[Support]:
    """Coupler and axles; of many axles the first and the last are named."""
    places = [(0.0, "coupler")]
    places += [(a.position_m, f"axle {n}") for n, a in enumerate(plan.trailer.axles, 1)]
    last = len(places) - 1
    return [
        Support(
            x=x(at),
            words=words if n in (0, last) else "",
            anchor="start" if n == 0 else "middle",
        )
        for n, (at, words) in enumerate(places)
    ]


def _most(beam: Beam, column: int) -> float:
    return max(abs(row[column]) for row in beam.diagram())


def _curve(points: Sequence[tuple[float, float]]) -> str:
    return path(points, closed=False)


def _feet(plan: Plan, x: Callable[[float], float]) -> list[tuple[float, float]]:
    """Where the items press on the floor, from and to, across the diagram."""
    found = []
    start = plan.trailer.deck.start_m
    for item in plan.items:
        mark = start + item.placement.reference_m
        if not stands(item):
            found.append((x(start + item.foremost_m), x(start + item.rearmost_m)))
            continue
        for contact in item.contacts:
            middle, half = mark + item.direction * contact.ahead_m, contact.length_m / 2
            found.append((x(middle - half), x(middle + half)))
    return found
