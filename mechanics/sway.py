"""How an outfit tows: the swing of truck and trailer in the plane, and how fast it dies out.

A linear model for small swings at constant speed. ``y`` is the lateral place of the truck's centre
of gravity (left positive), ``p`` and ``q`` the yaw angles of truck and trailer. The trailer's
centre of gravity then lies at ``y - c p - e q`` to the side, with ``c`` from the truck's centre of
gravity back to the ball and ``e`` from the ball back to the trailer's. Each axle's tires push
sideways by ``-k P g`` times their slip, ``P`` what they carry.

Silent on brakes, sway bars, friction dampers, gusts and worn tires. Its speeds are worth little by
themselves, its comparisons much: the same outfit with the load elsewhere, loaded and empty. It
never says which speed is allowed.

Of the six eigenvalues two are zero at every speed: the outfit may drive anywhere and in any
direction. They are left out by counting in the truck's own direction: ``w = y' - U p`` to the side,
``p'``, ``q'`` and the angle ``q - p`` between the two.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Final

import numpy as np

from mechanics.loads import TrailerLoads, compute_loads
from mechanics.plan import Plan

G: Final = 9.80665
"""Standard gravity, m/s² (exact by definition)."""

CORNERING: Final = {"low": 6.0, "mid": 8.0, "high": 11.0}
"""Side force over load and slip, per radian, for all tires alike: ranges of engineering handbooks
for light-truck and trailer tires, from memory."""

DIVERGES: Final = 0.001
"""Growth per second above which what does not swing is said to grow."""

ALIKE: Final = 1e-9
"""Part of an eigenvalue below which its imaginary part is rounding."""

SCANNED: Final = 400
"""Speeds at which the first that does not die out is looked for before it is narrowed down."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Body:
    """A trailer with its load as one body: mass, how far its centre of gravity is behind the ball,
    yaw inertia about it; kg and m."""

    mass_kg: float
    centre_m: float
    yaw_inertia_kg_m2: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Towing:
    """What the swing of an outfit depends on, in SI; lengths as the module has them.

    ``front_m`` and ``rear_m`` are from the truck's centre of gravity to its axles, ``ball_m`` to
    the ball. ``axles_m`` are behind the ball; loads are as hitched.
    """

    truck_kg: float
    front_m: float
    rear_m: float
    ball_m: float
    front_load_kg: float
    rear_load_kg: float
    trailer: Body
    axles_m: tuple[float, ...]
    axle_loads_kg: tuple[float, ...]

    @property
    def stands(self) -> bool:
        """Whether every axle carries something; of any other there is no result."""
        return min(self.front_load_kg, self.rear_load_kg, *self.axle_loads_kg) > 0


@dataclass(frozen=True, kw_only=True, slots=True)
class Swing:
    """How the outfit swings at a speed, by its least damped pair; all ``None`` where none swings.

    ``damping`` is its damping ratio, below zero where it grows, ``frequency_hz`` how often it
    swings, ``half_life_s`` how long until it is half as large, ``None`` where it never is.
    """

    speed_m_s: float
    damping: float | None
    frequency_hz: float | None
    half_life_s: float | None


@dataclass(frozen=True, kw_only=True, slots=True)
class Case:
    """One assumption about the tires. ``critical_m_s`` is the lowest speed at which a swing stops
    dying out, ``divergence_m_s`` that at which the outfit turns in without a swing; ``None`` where
    there is none up to the end of the range."""

    name: str
    cornering: float
    swings: tuple[Swing, ...]
    critical_m_s: float | None
    divergence_m_s: float | None


def body_of(plan: Plan, loads: TrailerLoads) -> Body:
    """The trailer with its load as one body."""
    trailer = plan.trailer
    centre = loads.moment_kg_m / loads.mass_kg
    tail = trailer.deck.start_m + trailer.deck.length_m
    empty = trailer.empty_mass_kg
    own = (empty - trailer.empty_tongue_mass_kg) * trailer.axle_centre_m / empty
    inertia = empty * (tail**2 / 12 + (own - centre) ** 2)
    for item in plan.items:
        at = trailer.deck.start_m + item.balance_tape_m
        long, wide = item.front_m + item.rear_m, item.width_m or 0.0
        inertia += item.mass_kg * (long**2 / 12 + wide**2 / 12 + (at - centre) ** 2)
    return Body(mass_kg=loads.mass_kg, centre_m=centre, yaw_inertia_kg_m2=inertia)


def towing_of(plan: Plan) -> Towing:
    """What the swing of a plan's outfit depends on."""
    loads = compute_loads(plan)
    truck = loads.truck
    whole, base = truck.unhitched_mass_kg, plan.truck.wheelbase_m
    rear = base * truck.front_unhitched_kg / whole
    return Towing(
        truck_kg=whole,
        front_m=base * truck.rear_unhitched_kg / whole,
        rear_m=rear,
        ball_m=rear + plan.truck.hitch_offset_m,
        front_load_kg=truck.front_kg,
        rear_load_kg=truck.rear_kg,
        trailer=body_of(plan, loads.trailer),
        axles_m=loads.trailer.axle_positions_m,
        axle_loads_kg=loads.trailer.axles_kg,
    )


def matrices(towing: Towing, cornering: float) -> tuple[Any, Any, Any]:
    """``M``, ``D U`` and ``K`` of ``M q'' + D q' + K q = 0`` over (y, p, q): the damping is given
    times the speed, which it is inversely as."""
    m1, big = towing.truck_kg, towing.trailer.mass_kg
    a, b, c, e = towing.front_m, towing.rear_m, towing.ball_m, towing.trailer.centre_m
    reach = np.array([1.0, -c, -e])
    mass = np.diag([m1, m1 * a * b, towing.trailer.yaw_inertia_kg_m2]) + big * np.outer(
        reach, reach
    )
    axles = [
        (towing.front_load_kg, (1.0, a, 0.0), (0.0, 1.0, 0.0)),
        (towing.rear_load_kg, (1.0, -b, 0.0), (0.0, 1.0, 0.0)),
    ]
    axles += [
        (load, (1.0, -c, -x), (0.0, 0.0, 1.0))
        for load, x in zip(towing.axle_loads_kg, towing.axles_m, strict=True)
    ]
    damping, stiffness = np.zeros((3, 3)), np.zeros((3, 3))
    for load, moved, turned in axles:
        stiff = cornering * load * G
        damping += stiff * np.outer(moved, moved)
        stiffness -= stiff * np.outer(moved, turned)
    return mass, damping, stiffness


def eigenvalues(
    towing: Towing, cornering: float | Sequence[float], speeds_m_s: Sequence[float]
) -> Any:
    """The four eigenvalues that are not zero at every speed, per second; a row for each speed, of
    the same tires or of one entry of ``cornering`` each."""
    # what tires push with is all in proportion to how they corner
    mass, damping, stiffness = matrices(towing, 1.0)
    inverse = np.linalg.inv(mass)
    speeds = np.asarray(speeds_m_s, dtype=float)
    held = np.broadcast_to(np.asarray(cornering, dtype=float), speeds.shape)
    system = np.zeros((len(speeds), 4, 4))
    system[:, :3, :3] = (-inverse @ damping)[None] * (held / speeds)[:, None, None]
    # the truck's own direction turns with it
    system[:, 0, 1] -= speeds
    system[:, :3, 3] = (-inverse @ stiffness[:, 2])[None] * held[:, None]
    system[:, 3, 1], system[:, 3, 2] = -1.0, 1.0
    return np.linalg.eigvals(system)


def swing_at(values: Any, speed_m_s: float) -> Swing:
    """How it swings, by the eigenvalues at a speed."""
    pairs = [one for one in values.tolist() if _swings(one)]
    if not pairs:
        return Swing(speed_m_s=speed_m_s, damping=None, frequency_hz=None, half_life_s=None)
    least = min(pairs, key=lambda one: -one.real / abs(one))
    return Swing(
        speed_m_s=speed_m_s,
        damping=-least.real / abs(least),
        frequency_hz=least.imag / (2 * math.pi),
        half_life_s=math.log(2) / -least.real if least.real < 0 else None,
    )


def _swings(one: complex) -> bool:
    return one.imag > ALIKE * abs(one)


def swings(towing: Towing, speed_m_s: float) -> tuple[Swing, ...]:
    """How an outfit that stands on all its axles swings at a speed, in each of the three cases."""
    held = tuple(CORNERING.values())
    found = eigenvalues(towing, held, (speed_m_s,) * len(held))
    return tuple(swing_at(values, speed_m_s) for values in found)


def cases(
    towing: Towing, speeds_m_s: Sequence[float], *, most_m_s: float, step_m_s: float
) -> tuple[Case, ...]:
    """The three cases of an outfit that stands on all its axles: the swing at some speeds, and the
    lowest speeds up to ``most_m_s``, to within ``step_m_s``, at which it does not die out."""
    return tuple(
        _case(towing, name, k, speeds_m_s, most_m_s, step_m_s) for name, k in CORNERING.items()
    )


def _case(
    towing: Towing,
    name: str,
    cornering: float,
    speeds: Sequence[float],
    most: float,
    step: float,
) -> Case:
    found = eigenvalues(towing, cornering, speeds)
    return Case(
        name=name,
        cornering=cornering,
        swings=tuple(swing_at(v, s) for v, s in zip(found, speeds, strict=True)),
        critical_m_s=_first(towing, cornering, most, step, _grows_swinging),
        divergence_m_s=_first(towing, cornering, most, step, _grows_straight),
    )


def _grows_swinging(values: Any) -> Any:
    """Whether an oscillating pair does not decay; a row for each speed."""
    return ((values.imag > ALIKE * np.abs(values)) & (values.real >= 0)).any(axis=1)


def _grows_straight(values: Any) -> Any:
    """Whether a real eigenvalue grows."""
    real = np.abs(values.imag) <= ALIKE * np.abs(values)
    return (real & (values.real > DIVERGES)).any(axis=1)


def _first(towing: Towing, cornering: float, most: float, step: float, grows: Any) -> float | None:
    """The lowest speed at which something grows."""
    speeds = [most * n / SCANNED for n in range(1, SCANNED + 1)]
    growing = np.flatnonzero(grows(eigenvalues(towing, cornering, speeds)))
    if not len(growing):
        return None
    high = speeds[int(growing[0])]
    low = high - most / SCANNED if growing[0] else step / 100
    while high - low > step / 4:
        middle = (low + high) / 2
        if grows(eigenvalues(towing, cornering, [middle]))[0]:
            high = middle
        else:
            low = middle
    return high
