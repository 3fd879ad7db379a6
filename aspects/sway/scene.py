"""The moving view from above, its still frames and the swing over time, in drawing units.

What stands still is drawn once about the point that moves it; a frame is two transforms, the
road's place and words, ready to be put in place. Sideways places are true to scale, angles are
drawn larger, and by how much is said.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Final

from aspects.sway.page import Tick
from aspects.sway.speeds import Speeds
from measures.writing import write_number
from mechanics.motion import FRAMES_PER_S, GUST_S, LANE_M, STARTS_S, Course, Motion, Push
from mechanics.plan import Plan
from mechanics.sway import Towing
from pictures.outfit import WIDTH
from pictures.svg import path
from pictures.towed import Towed, towed
from wording.sway import COURSES, PAST

WIDE: Final = {Push.GUST: 0.8, Push.LANE: 0.55}
"""What part of the view from above the outfit is long; a lane change needs room for two lanes."""

BESIDE: Final = 28.0
"""Room beside the lanes, where the gust is drawn."""

SECONDS: Final = 12.0

DASH_M: Final = 12.0
"""From one dash of the middle line to the next."""

TIMES: Final = (1, 2, 5, 10, 20, 50, 100)
"""How often larger angles may be drawn."""

DRAWN_DEG: Final = 12.0
"""The largest angle there is room for."""

STILL_S: Final = (0, 2, 4, 6, 8)
"""Moments that are shown beside each other."""

CHART_HEIGHT: Final = 180
CHART_LEFT: Final = 110
CHART_WIDTH: Final = 730


@dataclass(frozen=True, kw_only=True, slots=True)
class Frame:
    """One frame: where truck, trailer and road are put, and what is said of it."""

    truck: str
    trailer: str
    road: str
    words: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Curve:
    """The swing over time on one course; ``shown`` is that of the moving view."""

    name: str
    style: str
    line: str
    shown: bool
    past: str


@dataclass(frozen=True, kw_only=True)
class Scene:
    """The moving view; ``strip`` is what the page plays it from."""

    outfit: Towed
    view_box: str
    larger: str
    lanes: tuple[float, ...]
    dashes: str
    gust: str
    first: Frame
    stills: tuple[Frame, ...]
    curves: tuple[Curve, ...]
    seconds: tuple[Tick, ...]
    angles: tuple[Tick, ...]
    strip: dict[str, Any]
    last: int

    @property
    def said(self) -> str:
        """The curves in words, for who cannot see them."""
        return "Angle between truck and trailer over time: " + "; ".join(
            f"{one.name}{', ' + PAST if one.past else ''}" for one in self.curves
        )


def scene(
    plan: Plan, towing: Towing, runs: Sequence[Motion], push: Push, course: Course, unit: Speeds
) -> Scene:
    """The picture of some runs, the chosen one moving."""
    shown = next(one for one in runs if one.course is course)
    outfit = towed(plan, towing, WIDTH * WIDE[push])
    painter = _Painter(outfit=outfit, towing=towing, motion=shown, push=push, unit=unit)
    frames = [painter.frame(n) for n in range(len(shown.side_m))]
    most = max(math.degrees(max(map(abs, one.swing_rad))) for one in runs)
    high = _round_up(most)
    last = len(frames) - 1
    return Scene(
        outfit=outfit,
        view_box=f"0 0 {WIDTH} {painter.lanes[-1] + BESIDE:.0f}",
        larger="" if painter.times == 1 else f"angles drawn {painter.times} times larger",
        lanes=painter.lanes,
        dashes=painter.dashes,
        gust=painter.gust,
        first=frames[0],
        stills=tuple(frames[at] for n in STILL_S if (at := n * FRAMES_PER_S) <= last),
        curves=tuple(_curve(one, high, shown=one is shown) for one in runs),
        seconds=tuple(Tick(at=_across(n), words=f"{n} s") for n in range(0, round(SECONDS) + 1, 2)),
        angles=tuple(Tick(at=_down(one, high), words=_degrees(one)) for one in (high, 0.0, -high)),
        strip={
            "rate": FRAMES_PER_S,
            "truck": [one.truck for one in frames],
            "trailer": [one.trailer for one in frames],
            "road": [one.road for one in frames],
            "words": [one.words for one in frames],
            "gust": painter.blows(),
            "cursor": [f"translate({_across(n / FRAMES_PER_S):.1f} 0)" for n in range(len(frames))],
        },
        last=last,
    )


class _Painter:
    """Where everything is in each frame."""

    def __init__(
        self, *, outfit: Towed, towing: Towing, motion: Motion, push: Push, unit: Speeds
    ) -> None:
        self.outfit, self.towing, self.motion, self.unit = outfit, towing, motion, unit
        self.push = push
        turned = max(map(abs, (*motion.truck_rad, *motion.trailer_rad)))
        room = DRAWN_DEG / max(math.degrees(turned), 1e-9)
        self.times = max(one for one in TIMES if one <= max(room, 1))
        self.left = (WIDTH - outfit.length) / 2 + outfit.ahead
        scale = outfit.scale
        lane = LANE_M * scale
        self.middle = BESIDE + lane / 2
        lanes = 2 if push is Push.LANE else 1
        self.lanes = tuple(self.middle + lane * (n - 0.5) for n in range(lanes + 1))
        gap = DASH_M * scale
        count = math.ceil(WIDTH / gap) + 1
        self.dashes = "".join(
            f"M{n * gap:.1f} {y:.1f}h{gap / 3:.1f}"
            for y in self.lanes[1:2]
            for n in range(-1, count)
        )
        self.gap = gap
        # over the trailer's tail, where it pushes
        x = self.left + outfit.length - outfit.ahead - 20
        y = self.lanes[0]
        shaft = [(x - 5, y - 12), (x + 5, y - 12), (x + 5, y + 4)]
        self.gust = path([*shaft, (x + 12, y + 4), (x, y + 18), (x - 12, y + 4), (x - 5, y + 4)])
        self.driven = [0.0]
        for speed in motion.speed_m_s[1:]:
            self.driven.append(self.driven[-1] + speed / FRAMES_PER_S)

    def frame(self, n: int) -> Frame:
        """What is seen in a frame."""
        motion, scale = self.motion, self.outfit.scale
        truck, trailer = (self.times * one for one in (motion.truck_rad[n], motion.trailer_rad[n]))
        x, y = self.left, self.middle + motion.side_m[n] * scale
        back = self.towing.ball_m * scale
        ball_x, ball_y = x + back * math.cos(truck), y - back * math.sin(truck)
        speed = write_number(motion.speed_m_s[n] / self.unit.m_s)
        swing = math.degrees(motion.trailer_rad[n] - motion.truck_rad[n])
        return Frame(
            truck=_placed(x, y, truck),
            trailer=_placed(ball_x, ball_y, trailer),
            road=f"translate({self.driven[n] * scale % self.gap:.1f} 0)",
            words=f"{write_number(n / FRAMES_PER_S, 1)} s, {speed} {self.unit.name}, "
            f"{_degrees(abs(swing))} between truck and trailer",
        )

    def blows(self) -> list[int]:
        """In which frames the gust pushes; in its other half it draws in."""
        first = STARTS_S * FRAMES_PER_S
        last = (STARTS_S + GUST_S / 2) * FRAMES_PER_S
        return [
            int(self.push is Push.GUST and first <= n < last)
            for n in range(len(self.motion.side_m))
        ]


def _placed(x: float, y: float, left_rad: float) -> str:
    return f"translate({x:.1f} {y:.1f}) rotate({-math.degrees(left_rad):.2f})"


def _degrees(angle: float) -> str:
    return f"{write_number(angle, 2 if abs(angle) < 1 else 1)}°"


def _round_up(angle: float) -> float:
    """A round angle that is no smaller."""
    steps = (0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 15.0)
    return next((one for one in steps if one >= angle), steps[-1])


def _across(seconds: float) -> float:
    return CHART_LEFT + seconds / SECONDS * CHART_WIDTH


def _down(angle: float, high: float) -> float:
    return 14 + (high - angle) / (2 * high) * CHART_HEIGHT


def _curve(motion: Motion, high: float, *, shown: bool) -> Curve:
    points = [
        (_across(n / FRAMES_PER_S), _down(math.degrees(angle), high))
        for n, angle in enumerate(motion.swing_rad)
        if n % 3 == 0
    ]
    end = points[-1]
    return Curve(
        name=COURSES[motion.course],
        style=motion.course.value,
        line=path(points, closed=False),
        shown=shown,
        past=f"M{end[0] - 5:.1f} {end[1] - 5:.1f}l10 10m0 -10l-10 10" if motion.past else "",
    )
