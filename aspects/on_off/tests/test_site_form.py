"""Slopes as people write them."""

from __future__ import annotations

import math

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from aspects.on_off.site_form import read_slope, write_slope
from measures import ReadingError, UnitSystem

US, METRIC = UnitSystem.US, UnitSystem.METRIC


class Slopes(SimpleTestCase):
    def test_every_usual_way(self) -> None:
        for typed, unit, slope in (
            ("", US, 0.0),
            ("0", US, 0.0),
            ("3", US, 0.03),
            ("3 %", US, 0.03),
            ("3,5 %", METRIC, 0.035),
            ("3 in 100", US, 0.03),
            ("1 in 12", US, 1 / 12),
            ("2 in over 48 in", US, 2 / 48),
            ("50 mm over 1200 mm", METRIC, 50 / 1200),
            ("50 over 1200", METRIC, 50 / 1200),
            ("6 in along 16 ft", US, 6 / math.sqrt(192**2 - 36)),
            ("2.3°", US, math.tan(math.radians(2.3))),
            ("2 deg", US, math.tan(math.radians(2))),
        ):
            with self.subTest(typed=typed):
                self.assertAlmostEqual(read_slope(typed, unit), slope)

    def test_refusals_say_what_would_be_right(self) -> None:
        for typed in (
            "steep",
            "3 in",
            "90°",
            "over 4",
            "3 over",
            "5 in over 0 in",
            "6 ft along 1 ft",
        ):
            with self.subTest(typed=typed), self.assertRaises(ReadingError):
                read_slope(typed, US)
        with self.assertRaisesMessage(ReadingError, "steeper than 45 degrees"):
            read_slope("150 %", US)

    @given(st.integers(6, 9999))
    def test_what_is_written_is_read_again(self, hundredths: int) -> None:
        slope = hundredths / 10000
        self.assertAlmostEqual(read_slope(write_slope(slope), US), slope, places=9)
