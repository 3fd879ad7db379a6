"""The motion over time against a general solver of differential equations, written down anew.

Source: ``scipy.integrate`` on the slip of each axle as the model states it; nothing of the core's
matrices is used. Half-lives of a held speed are those of the eigenvalues.
"""

from __future__ import annotations

import math
import random
from dataclasses import replace
from typing import Any

import numpy as np
from django.test import SimpleTestCase
from scipy.integrate import solve_ivp

from mechanics.motion import FRAMES_PER_S, MOST_RAD, Course, Push, motions
from mechanics.sway import CORNERING, Towing, eigenvalues, swing_at
from validation.test_sway import some_towing

G = 9.80665
SECONDS = 10.0


def rate(towing: Towing, k: float, push: Push, start: float, course: Course) -> Any:
    """The accelerations, axle by axle."""
    a, b, c, e = towing.front_m, towing.rear_m, towing.ball_m, towing.trailer.centre_m
    big, inertia = towing.trailer.mass_kg, towing.trailer.yaw_inertia_kg_m2
    mass = np.array(
        [
            [towing.truck_kg + big, -big * c, -big * e],
            [-big * c, towing.truck_kg * a * b + big * c * c, big * c * e],
            [-big * e, big * c * e, inertia + big * e * e],
        ]
    )
    over = 2.0 if push is Push.GUST else 4.5
    tail = e + math.sqrt(inertia / big)

    def moves(t: float, state: Any) -> Any:
        _, p, q, dy, dp, dq = state
        speed = start + {"slower": -0.5, "held": 0, "faster": 0.5}[course.value] * max(t - over, 0)
        speed = max(speed, 9.0)
        steer, side = 0.0, 0.0
        if 0.5 <= t < over:
            if push is Push.GUST:
                side = 0.05 * big * G * math.sin(2 * math.pi * (t - 0.5) / 1.5)
            else:
                turn = 3.6 * 2 * math.pi / 16 * math.sin(2 * math.pi * (t - 0.5) / 4)
                steer = turn * (a + b) / start**2
        front = -k * G * towing.front_load_kg * ((dy + a * dp) / speed - p - steer)
        rear = -k * G * towing.rear_load_kg * ((dy - b * dp) / speed - p)
        total = [front + rear + side, a * front - b * rear - c * side, -tail * side]
        for load, x in zip(towing.axle_loads_kg, towing.axles_m, strict=True):
            force = -k * G * load * ((dy - c * dp - x * dq) / speed - q)
            total = [total[0] + force, total[1] - c * force, total[2] - x * force]
        return np.concatenate([state[3:], np.linalg.solve(mass, np.array(total))])

    return moves


class Motions(SimpleTestCase):
    def test_every_course_after_either_push_is_that_of_a_general_solver(self) -> None:
        rng = random.Random(21)
        for push in Push:
            for _ in range(4):
                towing, start = some_towing(rng), rng.uniform(14, 30)
                k = rng.choice(sorted(CORNERING.values()))
                for ours in motions(towing, k, start, push, seconds=SECONDS):
                    at = np.arange(len(ours.side_m)) / FRAMES_PER_S
                    theirs = solve_ivp(
                        rate(towing, k, push, start, ours.course),
                        (0, SECONDS),
                        np.zeros(6),
                        t_eval=at,
                        rtol=1e-8,
                        atol=1e-10,
                        max_step=0.02,
                    ).y
                    for mine, row in (
                        (ours.side_m, 0),
                        (ours.truck_rad, 1),
                        (ours.trailer_rad, 2),
                    ):
                        most = max(np.abs(theirs[row]).max(), 1e-3)
                        np.testing.assert_allclose(mine, theirs[row], atol=2e-3 * most)

    def test_at_a_held_speed_a_swing_halves_as_its_eigenvalue_says(self) -> None:
        rng, seen = random.Random(22), 0
        for _ in range(400):
            towing, speed = some_towing(rng), rng.uniform(20, 34)
            values = eigenvalues(towing, 8.0, [speed])[0]
            swing = swing_at(values, speed)
            if swing.damping is None or not 0.03 < swing.damping < 0.2 or not swing.half_life_s:
                continue
            assert swing.frequency_hz is not None
            slow = sum(-one.real < 2 * math.log(2) / swing.half_life_s for one in values)
            if slow > 2:
                # another motion lasts as long
                continue
            held = motions(towing, 8.0, speed, Push.GUST, seconds=14)[1]
            if held.past:
                continue
            period = 1 / swing.frequency_hz
            # whole swings apart, so that both stretches have the same part of one
            apart = period * round(4 * swing.frequency_hz)
            early = held.largest_rad(7, 7 + period)
            late = held.largest_rad(7 + apart, 7 + apart + period)
            told = 2 ** (apart / swing.half_life_s)
            self.assertAlmostEqual(early / late, told, delta=0.08 * told)
            seen += 1
            if seen == 8:
                break
        self.assertEqual(seen, 8)

    def test_a_run_ends_where_small_angles_end(self) -> None:
        rng, seen = random.Random(23), 0
        for _ in range(200):
            towing = some_towing(rng)
            tail = replace(
                towing.trailer,
                centre_m=towing.trailer.centre_m * 1.12,
                yaw_inertia_kg_m2=towing.trailer.yaw_inertia_kg_m2 * 2,
            )
            towing = replace(towing, trailer=tail)
            for one in motions(towing, 6.0, 50.0, Push.LANE, seconds=SECONDS):
                self.assertTrue(all(abs(angle) <= MOST_RAD for angle in one.swing_rad))
                self.assertEqual(one.past, len(one.side_m) < SECONDS * FRAMES_PER_S + 1)
                seen += one.past
            if seen > 3:
                break
        self.assertGreater(seen, 3)
