"""An outfit's swing over time: a gust or a lane change at a speed that is held or changed.

The model of :mod:`mechanics.sway` stepped through time in inertial coordinates, with two things
added to it that it can hold: an angle of the front wheels, which is slip they have beside their
own, and a side push on the trailer. The speed enters as it is at the moment; what makes it change
(brakes, the push of the trailer on the ball) is not in it. Nobody steers after the lane change.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum
from typing import Any, Final

import numpy as np

from mechanics.sway import G, Towing, matrices

FRAMES_PER_S: Final = 60
"""States kept of each second."""

STEPS_PER_FRAME: Final = 2

STARTS_S: Final = 0.5
"""When the gust or the lane change begins."""

GUST_S: Final = 1.5
GUST: Final = 0.05
"""A gust, as of a lorry that passes: how long it pushes away and then draws in, and with what part
of the trailer's weight at most, a radius of gyration behind its centre of gravity. An assumption,
there to be seen: the model is linear, so that how fast a swing dies out does not depend on it."""

LANE_S: Final = 4.0
LANE_M: Final = 3.6
"""A lane change: how long, and how far a truck by itself would go. A width of lanes on main roads
(12 ft), common practice, no source."""

CHANGES_M_S2: Final = 0.5
"""How fast the speed changes: about that of a foot off the pedal on the level; an assumption."""

SLOWEST_M_S: Final = 9.0
"""Slowing down ends here."""

MOST_RAD: Final = math.radians(15)
"""Angle between truck and trailer up to which small angles are a fair assumption: tires' side force
no longer grows with slip well before."""


class Push(str, Enum):
    """What sets the outfit swinging."""

    GUST = "gust"
    LANE = "lane"

    @property
    def ends_s(self) -> float:
        """When it is over."""
        return STARTS_S + (GUST_S if self is Push.GUST else LANE_S)


class Course(str, Enum):
    """What is done about the speed once the push is over."""

    SLOWER = "slower"
    HELD = "held"
    FASTER = "faster"

    @property
    def change_m_s2(self) -> float:
        """How the speed changes."""
        return {"slower": -CHANGES_M_S2, "held": 0.0, "faster": CHANGES_M_S2}[self.value]


@dataclass(frozen=True, kw_only=True, slots=True)
class Motion:
    """One run: a value for each frame, the first at 0 s.

    ``side_m`` is the lateral place of the truck's centre of gravity, left positive; ``truck_rad``
    and ``trailer_rad`` are the yaw angles, ``speed_m_s`` the speed. ``past`` says that it ends
    where the angle between the two passes what the model may be asked.
    """

    course: Course
    speed_m_s: tuple[float, ...]
    side_m: tuple[float, ...]
    truck_rad: tuple[float, ...]
    trailer_rad: tuple[float, ...]
    past: bool

    @property
    def swing_rad(self) -> tuple[float, ...]:
        """The angle between truck and trailer."""
        return tuple(q - p for p, q in zip(self.truck_rad, self.trailer_rad, strict=True))

    def largest_rad(self, start_s: float, end_s: float) -> float:
        """The largest angle between truck and trailer in a stretch of time; 0 where the run was
        over before."""
        first, last = round(start_s * FRAMES_PER_S), round(end_s * FRAMES_PER_S)
        return max((abs(one) for one in self.swing_rad[first : last + 1]), default=0.0)


def motions(
    towing: Towing, cornering: float, speed_m_s: float, push: Push, *, seconds: float
) -> tuple[Motion, ...]:
    """How an outfit that stands on all its axles swings after a push: slowing down, holding the
    speed, speeding up, in the order of :class:`Course`."""
    courses = tuple(Course)
    step = 1 / (FRAMES_PER_S * STEPS_PER_FRAME)
    count = round(seconds * FRAMES_PER_S) * STEPS_PER_FRAME
    # at the ends and the middle of each step
    times = np.arange(2 * count + 1) * step / 2
    speeds = np.stack([_speeds(one, speed_m_s, push, times) for one in courses])
    moved = _stepped(_system(towing, cornering, speeds, push, times, speed_m_s), step)
    kept = moved[:, ::STEPS_PER_FRAME]
    told = speeds[:, :: 2 * STEPS_PER_FRAME]
    return tuple(_motion(one, kept[n], told[n]) for n, one in enumerate(courses))


def _speeds(course: Course, start: float, push: Push, times: Any) -> Any:
    changed = start + course.change_m_s2 * np.maximum(times - push.ends_s, 0.0)
    return np.maximum(changed, min(SLOWEST_M_S, start))


def _system(
    towing: Towing, cornering: float, speeds: Any, push: Push, times: Any, start: float
) -> Any:
    """``x' = A x`` over (y, p, q, y', p', q', 1) for each course and each time."""
    mass, damping, stiffness = matrices(towing, cornering)
    inverse = np.linalg.inv(mass)
    system = np.zeros((*speeds.shape, 7, 7))
    system[..., :3, 3:6] = np.eye(3)
    system[..., 3:6, :3] = -inverse @ stiffness
    system[..., 3:6, 3:6] = -inverse @ damping / speeds[..., None, None]
    system[..., 3:6, 6] = (inverse @ _force(towing, cornering, push, times, start)).T
    return system


def _force(towing: Towing, cornering: float, push: Push, times: Any, start: float) -> Any:
    """What pushes (y, p, q) at each time: a row for each of the three."""
    since = times - STARTS_S
    if push is Push.GUST:
        on = (since >= 0) & (since < GUST_S)
        body = towing.trailer
        size = GUST * body.mass_kg * G * np.sin(2 * np.pi * since / GUST_S)
        behind = math.sqrt(body.yaw_inertia_kg_m2 / body.mass_kg)
        reach = (1.0, -towing.ball_m, -body.centre_m - behind)
    else:
        on = (since >= 0) & (since < LANE_S)
        # sideways acceleration that goes there and back and leaves a lane between
        across = LANE_M * 2 * np.pi / LANE_S**2 * np.sin(2 * np.pi * since / LANE_S)
        angle = across * (towing.front_m + towing.rear_m) / start**2
        size = cornering * towing.front_load_kg * G * angle
        reach = (1.0, towing.front_m, 0.0)
    return np.outer(reach, np.where(on, size, 0.0))


def _stepped(system: Any, step: float) -> Any:
    """The states at the ends of the steps, from rest (classical Runge and Kutta, which is linear in
    the state, so that every step is a matrix)."""
    one = np.eye(7)
    start, middle, end = system[:, :-1:2], system[:, 1::2], system[:, 2::2]
    first = start
    second = middle @ (one + step / 2 * first)
    third = middle @ (one + step / 2 * second)
    fourth = end @ (one + step * third)
    steps = one + step / 6 * (first + 2 * second + 2 * third + fourth)
    states = np.zeros((system.shape[0], steps.shape[1] + 1, 7))
    states[:, 0, 6] = 1.0
    for n in range(steps.shape[1]):
        states[:, n + 1] = np.einsum("cij,cj->ci", steps[:, n], states[:, n])
    return states


def _motion(course: Course, states: Any, speeds: Any) -> Motion:
    swing = np.abs(states[:, 2] - states[:, 1])
    wide = np.flatnonzero(swing > MOST_RAD)
    last = int(wide[0]) if len(wide) else len(states)
    return Motion(
        course=course,
        speed_m_s=tuple(speeds[:last].tolist()),
        side_m=tuple(states[:last, 0].tolist()),
        truck_rad=tuple(states[:last, 1].tolist()),
        trailer_rad=tuple(states[:last, 2].tolist()),
        past=bool(len(wide)),
    )
