"""The swing against a general mechanics package, against the motion in time, and published trends.

Sources: ``sympy.physics.mechanics`` (Lagrange's equations, which it derives from the energy alone),
``scipy.integrate`` (the motion in time, with no eigenvalue in it); that more share on the tongue, a
longer trailer, less yaw inertia and less speed calm a swing is what handbooks of vehicle dynamics
tell, from memory.
"""

from __future__ import annotations

import math
import random
from dataclasses import replace
from typing import Any

import numpy as np
import sympy
from django.test import SimpleTestCase
from scipy.integrate import solve_ivp
from sympy.physics.mechanics import LagrangesMethod, dynamicsymbols

from mechanics.sway import (
    CORNERING,
    Body,
    Towing,
    cases,
    eigenvalues,
    matrices,
    swing_at,
    towing_of,
)
from mechanics.tests.outfits import random_plan

MPH = 0.44704


def standing(
    *,
    front: float,
    rear: float,
    truck: float,
    mass: float,
    axle: float,
    ball: float,
    share: float,
    spread: float,
) -> Towing:
    """An outfit with its loads as statics have them; ``spread`` is the trailer's yaw inertia over
    its mass."""
    tongue, base = mass * share, front + rear
    lifted = tongue * (ball - rear) / base
    return Towing(
        truck_kg=truck,
        front_m=front,
        rear_m=rear,
        ball_m=ball,
        front_load_kg=truck * rear / base - lifted,
        rear_load_kg=truck * front / base + tongue + lifted,
        trailer=Body(mass_kg=mass, centre_m=axle * (1 - share), yaw_inertia_kg_m2=mass * spread),
        axles_m=(axle - 0.43, axle + 0.43),
        axle_loads_kg=((mass - tongue) / 2,) * 2,
    )


def by_chance(rng: random.Random) -> dict[str, float]:
    """An outfit's figures by chance: a pickup and a trailer of two axles."""
    rear = rng.uniform(1.6, 2.6)
    return {
        "front": rng.uniform(1.2, 1.9),
        "rear": rear,
        "truck": rng.uniform(2000, 4000),
        "mass": rng.uniform(2500, 7000),
        "axle": rng.uniform(3.5, 7.0),
        "ball": rear + rng.uniform(1.1, 1.5),
        "share": rng.uniform(0.08, 0.2),
        "spread": rng.uniform(1.0, 4.0),
    }


def some_towing(rng: random.Random) -> Towing:
    """An outfit by chance."""
    return standing(**by_chance(rng))


class Derived(SimpleTestCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.names = sympy.symbols("m1 a b c M e I U Cf Cr C1 C2 x1 x2", positive=True)
        m1, a, b, c, big, e, inertia, speed, cf, cr, c1, c2, x1, x2 = cls.names
        y, p, q = dynamicsymbols("y p q")
        dy, dp, dq = (one.diff() for one in (y, p, q))
        energy = (
            m1 * dy**2 / 2
            + m1 * a * b * dp**2 / 2
            + big * (dy - c * dp - e * dq) ** 2 / 2
            + inertia * dq**2 / 2
        )
        # each tire pushes at its own point, by virtual work
        pushes = (
            (cf, y + a * p, (dy + a * dp) / speed - p),
            (cr, y - b * p, (dy - b * dp) / speed - p),
            (c1, y - c * p - x1 * q, (dy - c * dp - x1 * dq) / speed - q),
            (c2, y - c * p - x2 * q, (dy - c * dp - x2 * dq) / speed - q),
        )
        forces = [
            sum(-stiff * slip * point.diff(one) for stiff, point, slip in pushes)
            for one in (y, p, q)
        ]
        equations = LagrangesMethod(sympy.Matrix([energy]), [y, p, q]).form_lagranges_equations()
        balance = equations - sympy.Matrix(forces)
        coordinates = (y, p, q)
        cls.mass = balance.jacobian([one.diff().diff() for one in coordinates])
        cls.damping = balance.jacobian([one.diff() for one in coordinates])
        cls.stiffness = balance.jacobian(coordinates)

    def test_the_matrices_are_those_of_lagranges_equations(self) -> None:
        rng = random.Random(7)
        for _ in range(12):
            towing, k = some_towing(rng), rng.uniform(5, 12)
            speed = rng.uniform(5, 45)
            g = 9.80665
            given = dict(
                zip(
                    self.names,
                    (
                        towing.truck_kg,
                        towing.front_m,
                        towing.rear_m,
                        towing.ball_m,
                        towing.trailer.mass_kg,
                        towing.trailer.centre_m,
                        towing.trailer.yaw_inertia_kg_m2,
                        speed,
                        k * g * towing.front_load_kg,
                        k * g * towing.rear_load_kg,
                        *(k * g * load for load in towing.axle_loads_kg),
                        *towing.axles_m,
                    ),
                    strict=True,
                )
            )
            ours = matrices(towing, k)
            ours = (ours[0], ours[1] / speed, ours[2])
            for mine, theirs in zip(ours, (self.mass, self.damping, self.stiffness), strict=True):
                derived = np.array(theirs.subs(given).evalf(), dtype=float)
                np.testing.assert_allclose(mine, derived, rtol=1e-10, atol=1e-6)

    def test_the_four_eigenvalues_are_those_of_the_whole_that_are_not_zero(self) -> None:
        rng = random.Random(8)
        for _ in range(30):
            towing, speed = some_towing(rng), rng.uniform(8, 45)
            mass, damping, stiffness = matrices(towing, 8.0)
            inverse = np.linalg.inv(mass)
            whole = np.zeros((6, 6))
            whole[:3, 3:] = np.eye(3)
            whole[3:, :3], whole[3:, 3:] = -inverse @ stiffness, -inverse @ damping / speed
            six = sorted(np.linalg.eigvals(whole), key=abs)
            self.assertLess(abs(six[1]), 1e-4)
            four = eigenvalues(towing, 8.0, [speed])[0]
            ours = sorted(four, key=lambda one: (round(one.real, 6), one.imag))
            theirs = sorted(six[2:], key=lambda one: (round(one.real, 6), one.imag))
            np.testing.assert_allclose(ours, theirs, rtol=1e-6, atol=1e-6)


class InTime(SimpleTestCase):
    def test_a_swing_dies_out_in_time_as_its_eigenvalue_says(self) -> None:
        rng = random.Random(9)
        seen = 0
        for _ in range(90):
            towing, speed = some_towing(rng), rng.uniform(15, 40)
            swing = swing_at(eigenvalues(towing, 8.0, [speed])[0], speed)
            if swing.damping is None or not 0.02 < swing.damping < 0.25:
                continue
            assert swing.frequency_hz is not None
            assert swing.half_life_s is not None
            peaks = self.peaks(towing, speed)
            if len(peaks) < 4:
                continue
            seen += 1
            period = np.diff([at for at, _ in peaks[-3:]]).mean()
            self.assertAlmostEqual(1 / period, swing.frequency_hz, delta=0.02 * swing.frequency_hz)
            (one, high), (other, low) = peaks[-3], peaks[-1]
            half = math.log(2) * (other - one) / math.log(high / low)
            self.assertAlmostEqual(half, swing.half_life_s, delta=0.03 * swing.half_life_s)
        self.assertGreater(seen, 5)

    def peaks(self, towing: Towing, speed: float) -> list[tuple[float, float]]:
        """Times and heights of the angle between truck and trailer, after a push at the trailer."""
        mass, damping, stiffness = matrices(towing, 8.0)
        inverse = np.linalg.inv(mass)

        def moves(_: float, state: Any) -> Any:
            place, rate = state[:3], state[3:]
            return np.concatenate([rate, -inverse @ (stiffness @ place + damping @ rate / speed)])

        times = np.linspace(0, 14, 7001)
        start = np.array([0, 0, 0.02, 0, 0, 0])
        found = solve_ivp(moves, (0, 14), start, t_eval=times, rtol=1e-10, atol=1e-13)
        angle = found.y[2] - found.y[1]
        return [
            (times[n], angle[n])
            for n in range(1, len(times) - 1)
            if angle[n - 1] < angle[n] >= angle[n + 1] and angle[n] > 1e-9
        ]


class Trends(SimpleTestCase):
    """Of one outfit, one thing changed; a few of many are not calmer, since what is least damped
    may change with it."""

    def damping(self, towing: Towing, speed: float = 26.0) -> float | None:
        return swing_at(eigenvalues(towing, 8.0, [speed])[0], speed).damping

    def test_slower_is_calmer(self) -> None:
        rng = random.Random(10)
        for _ in range(60):
            towing = some_towing(rng)
            found = [self.damping(towing, speed) for speed in (12, 18, 24, 30, 36)]
            told = [one for one in found if one is not None]
            self.assertEqual(told, sorted(told, reverse=True))

    def test_less_inertia_more_on_the_tongue_and_a_longer_trailer_are_calmer(self) -> None:
        rng = random.Random(11)
        for name, calm, rough in (
            ("spread", 2.0, 3.0),
            ("share", 0.13, 0.07),
            ("axle", 6.0, 4.5),
        ):
            calmer = tried = 0
            for _ in range(80):
                figures = by_chance(rng)
                one, other = (
                    self.damping(standing(**{**figures, name: value})) for value in (calm, rough)
                )
                if one is None or other is None:
                    continue
                tried += 1
                calmer += one > other
            with self.subTest(name):
                self.assertGreater(tried, 50)
                self.assertGreaterEqual(calmer, tried * 0.95, f"{calmer} of {tried}")

    def test_the_first_speed_that_grows_is_the_first(self) -> None:
        rng = random.Random(12)
        found = 0
        for _ in range(80):
            towing = some_towing(rng)
            tail = replace(
                towing.trailer,
                centre_m=towing.trailer.centre_m * 1.12,
                yaw_inertia_kg_m2=towing.trailer.yaw_inertia_kg_m2 * 2,
            )
            towing = replace(towing, trailer=tail)
            for case in cases(towing, [20.0], most_m_s=150 * MPH, step_m_s=0.01 * MPH):
                if case.critical_m_s is None:
                    continue
                found += 1
                just = case.critical_m_s
                for speed, grows in ((just * 0.9995, False), (just * 1.0005, True)):
                    values = eigenvalues(towing, CORNERING[case.name], [speed])[0]
                    swings = [v for v in values if v.imag > 1e-6]
                    self.assertEqual(any(v.real >= 0 for v in swings), grows)
        self.assertGreater(found, 20)


class OfAPlan(SimpleTestCase):
    def test_bodies_add_up(self) -> None:
        for seed in range(40):
            plan = random_plan(random.Random(seed), items=2)
            towing = towing_of(plan)
            body = towing.trailer
            # moved to the ball, inertias of parts add up
            start, tail = plan.trailer.deck.start_m, 0.0
            tail = start + plan.trailer.deck.length_m
            empty = plan.trailer.empty_mass_kg
            own = (empty - plan.trailer.empty_tongue_mass_kg) * plan.trailer.axle_centre_m / empty
            about = empty * (tail**2 / 12 + own**2)
            for item in plan.items:
                at = start + item.balance_tape_m
                size = (item.front_m + item.rear_m) ** 2 + (item.width_m or 0.0) ** 2
                about += item.mass_kg * (size / 12 + at**2)
            whole = body.yaw_inertia_kg_m2 + body.mass_kg * body.centre_m**2
            self.assertAlmostEqual(about, whole, delta=1e-9 * whole)
