"""Dots within round scales."""

from __future__ import annotations

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from pictures.scatter import Dot, scatter

FIGURE = st.floats(-1e6, 1e6)


class Scales(unittest.TestCase):
    @given(st.lists(st.tuples(FIGURE, FIGURE), min_size=1, max_size=30))
    def test_every_dot_lies_within_and_in_order(self, figures: list[tuple[float, float]]) -> None:
        dots = [Dot(x=x, y=y, words="") for x, y in figures]
        made = scatter(dots, x_name="x", y_name="y")
        for dot in made.dots:
            self.assertTrue(made.left - 0.01 <= dot.x <= made.right + 0.01)
            self.assertTrue(made.top - 0.01 <= dot.y <= made.bottom + 0.01)
        placed = [dot.x for dot in made.dots]
        for i in range(len(figures) - 1):
            if figures[i][0] < figures[i + 1][0]:
                self.assertLessEqual(placed[i], placed[i + 1] + 1e-6)
        self.assertGreaterEqual(len(made.across), 2)

    def test_marks_stand_on_a_scale_of_their_own(self) -> None:
        dots = [Dot(x=10, y=2, words="a", odd=True)]
        made = scatter(dots, x_name="x", y_name="y", y_range=(1, 5))
        self.assertEqual([line.words for line in made.up], ["1", "2", "3", "4", "5"])
        self.assertTrue(made.dots[0].odd)

    def test_nothing_to_draw_is_an_error(self) -> None:
        for dots in ([], [Dot(x=math.nan, y=1, words="")]):
            with self.assertRaises(ValueError):
                scatter(dots, x_name="x", y_name="y")
