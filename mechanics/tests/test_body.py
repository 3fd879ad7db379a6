"""Machines built up from parts, or read off two axles."""

from __future__ import annotations

import itertools
import random

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.body import Body, Piece, build_up, from_two_axles
from mechanics.errors import InputError
from mechanics.tests.outfits import inch, lb


def pieces_from(seed: int, count: int) -> tuple[Piece, ...]:
    """Random parts; the first is the heaviest, some of the others are taken off."""
    rng = random.Random(seed)
    base = Piece(
        mass_kg=3000,
        mass_tolerance_kg=rng.uniform(0, 300),
        ahead_m=rng.uniform(-0.2, 1),
        ahead_tolerance_m=rng.uniform(0, 0.2),
        height_m=1.0,
    )
    return (
        base,
        *(
            Piece(
                mass_kg=rng.uniform(20, 300),
                mass_tolerance_kg=rng.uniform(0, 15),
                ahead_m=rng.uniform(-2, 3),
                ahead_tolerance_m=rng.uniform(0, 0.3),
                left_m=rng.uniform(-1, 1),
                height_m=rng.uniform(0, 2),
                removed=rng.random() < 0.3,
            )
            for _ in range(count - 1)
        ),
    )


built = st.builds(pieces_from, st.integers(0, 2**32), st.integers(1, 5))


class BuildUp(SimpleTestCase):
    def test_two_parts_by_hand(self) -> None:
        body = build_up(
            (
                Piece(mass_kg=lb(4000), ahead_m=inch(30), mass_tolerance_kg=lb(80), height_m=0.9),
                Piece(mass_kg=lb(1000), ahead_m=inch(105), mass_tolerance_kg=lb(20), height_m=0.4),
            )
        )
        self.assertAlmostEqual(body.mass_kg, lb(5000))
        self.assertAlmostEqual(body.ahead_m, inch((4000 * 30 + 1000 * 105) / 5000))
        self.assertAlmostEqual(body.mass_tolerance_kg, lb(100))
        self.assertAlmostEqual(body.height_m or 0, (4 * 0.9 + 0.4) / 5)

    def test_one_unknown_height_leaves_the_height_unknown(self) -> None:
        body = build_up((Piece(mass_kg=9, ahead_m=0, height_m=1), Piece(mass_kg=1, ahead_m=0)))
        self.assertIsNone(body.height_m)

    @given(built)
    @settings(max_examples=150)
    def test_forces_and_moments_balance(self, pieces: tuple[Piece, ...]) -> None:
        body = build_up(pieces)
        sign = [-1 if p.removed else 1 for p in pieces]
        self.assertAlmostEqual(
            body.mass_kg, sum(s * p.mass_kg for s, p in zip(sign, pieces, strict=True))
        )
        for name in ("ahead_m", "left_m", "height_m"):
            moment = sum(
                s * p.mass_kg * (getattr(p, name)) for s, p in zip(sign, pieces, strict=True)
            )
            self.assertAlmostEqual(body.mass_kg * getattr(body, name), moment, places=6)

    @given(built)
    @settings(max_examples=120)
    def test_tolerance_is_the_worst_of_every_corner(self, pieces: tuple[Piece, ...]) -> None:
        body = build_up(pieces)
        worst = 0.0
        for corner in itertools.product((-1, 1), repeat=2 * len(pieces)):
            mass = moment = 0.0
            for n, p in enumerate(pieces):
                m = (p.mass_kg + corner[2 * n] * p.mass_tolerance_kg) * (-1 if p.removed else 1)
                mass += m
                moment += m * (p.ahead_m + corner[2 * n + 1] * p.ahead_tolerance_m)
            worst = max(worst, abs(moment / mass - body.ahead_m))
        self.assertAlmostEqual(body.ahead_tolerance_m, worst, places=9)

    @given(built, st.floats(-3, 3))
    @settings(max_examples=80)
    def test_another_mark_moves_the_balance_point_and_nothing_else(
        self, pieces: tuple[Piece, ...], by: float
    ) -> None:
        moved = tuple(
            Piece(
                mass_kg=p.mass_kg,
                mass_tolerance_kg=p.mass_tolerance_kg,
                ahead_m=p.ahead_m + by,
                ahead_tolerance_m=p.ahead_tolerance_m,
                removed=p.removed,
            )
            for p in pieces
        )
        here, there = build_up(pieces), build_up(moved)
        self.assertAlmostEqual(there.ahead_m - here.ahead_m, by)
        self.assertAlmostEqual(there.ahead_tolerance_m, here.ahead_tolerance_m, places=9)

    def test_taking_a_part_off_undoes_putting_it_on(self) -> None:
        base = Piece(mass_kg=2000, ahead_m=0.5)
        bucket = Piece(mass_kg=300, ahead_m=2.5)
        off = Piece(mass_kg=300, ahead_m=2.5, removed=True)
        body = build_up((base, bucket, off))
        self.assertAlmostEqual(body.mass_kg, 2000)
        self.assertAlmostEqual(body.ahead_m, 0.5)

    def test_refusals(self) -> None:
        one = Piece(mass_kg=100, ahead_m=0)
        for build, words in (
            (lambda: build_up(()), "parts: expected parts that weigh more"),
            (
                lambda: build_up((one, Piece(mass_kg=200, ahead_m=0, removed=True))),
                "parts that weigh more than what is taken off",
            ),
            (
                lambda: build_up((Piece(mass_kg=100, ahead_m=0, mass_tolerance_kg=100),)),
                "something is left for sure",
            ),
            (lambda: Piece(mass_kg=0, ahead_m=0), "parts.mass"),
            (lambda: Piece(mass_kg=1, ahead_m=0, mass_tolerance_kg=-1), "parts.mass_tolerance"),
            (lambda: Piece(mass_kg=1, ahead_m=0, ahead_tolerance_m=-1), "parts.ahead_tolerance"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(InputError, words):
                build()


class TwoAxles(SimpleTestCase):
    def body(self, **more: float) -> Body:
        figures = {"front_kg": lb(2000), "rear_kg": lb(3000), "wheelbase_m": inch(80)}
        return from_two_axles(**{**figures, **more})

    def test_front_share_of_the_wheelbase(self) -> None:
        body = self.body()
        self.assertAlmostEqual(body.mass_kg, lb(5000))
        self.assertAlmostEqual(body.ahead_m, inch(32))
        self.assertEqual((body.mass_tolerance_kg, body.ahead_tolerance_m), (0, 0))

    def test_a_mark_elsewhere(self) -> None:
        body = self.body(mark_ahead_of_rear_axle_m=inch(40))
        self.assertAlmostEqual(body.ahead_m, inch(-8))

    def test_tolerances_of_readings_and_tape(self) -> None:
        body = self.body(reading_tolerance_kg=lb(20), tape_tolerance_m=inch(1))
        self.assertAlmostEqual(body.mass_tolerance_kg, lb(40))
        worst = max(2020 / 5000 - 0.4, 0.4 - 1980 / 5000) * 80
        self.assertAlmostEqual(body.ahead_tolerance_m, inch(worst + 1))

    def test_refusals(self) -> None:
        for more, words in (
            ({"front_kg": 0}, "front_axle_mass"),
            ({"rear_kg": lb(10), "reading_tolerance_kg": lb(20)}, "rear_axle_mass"),
            ({"wheelbase_m": 0}, "wheelbase"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(InputError, words):
                self.body(**more)
