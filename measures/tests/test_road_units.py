"""Ways, speeds and pressures, as people write them."""

from __future__ import annotations

import unittest

from measures import READERS, Quantity, ReadingError, UnitSystem
from measures.writing import write_given, write_in


class Reading(unittest.TestCase):
    def test_as_people_write_them(self) -> None:
        for kind, text, unit, expected in (
            ("distance", "42", "mi", "42 mi"),
            ("distance", "42.5 miles", "mi", "42.5 mi"),
            ("distance", "1,250 km", "mi", "1250 km"),
            ("speed", "55", "mph", "55 mph"),
            ("speed", "80 kph", "mph", "80 km/h"),
            ("pressure", "50", "psi", "50 psi"),
            ("pressure", "3.5 bar", "kPa", "3.5 bar"),
            ("pressure", "350", "kPa", "350 kPa"),
        ):
            with self.subTest(text=text):
                self.assertEqual(str(READERS[kind](text, unit)), expected)

    def test_what_is_none_is_told_how_to_write_it(self) -> None:
        for kind, text in (("distance", "42 kg"), ("speed", "fast"), ("pressure", "-3")):
            with self.assertRaises(ReadingError) as told:
                READERS[kind](text, UnitSystem.US.bare_unit(kind))
            self.assertIn("Write it like", str(told.exception))
        with self.assertRaises(ReadingError):
            READERS["pressure"]("1,250 psi", "psi")

    def test_exact_in_the_international_system(self) -> None:
        self.assertEqual(float(Quantity.parse("1 mi").si), 1609.344)
        self.assertEqual(float(Quantity.parse("1 mph").si), 0.44704)
        self.assertAlmostEqual(float(Quantity.parse("1 psi").si), 6894.757, places=3)


class Writing(unittest.TestCase):
    def test_in_the_persons_units_with_what_was_typed(self) -> None:
        for text, us, metric in (
            ("62 mi", "62 mi", "99.8 km (62 mi)"),
            ("55 mph", "55 mph", "89 km/h (55 mph)"),
            ("50 psi", "50 psi", "345 kPa (50 psi)"),
            ("3.5 bar", "51 psi (3.5 bar)", "3.5 bar"),
        ):
            quantity = Quantity.parse(text)
            self.assertEqual(write_given(quantity, UnitSystem.US), us)
            self.assertEqual(write_given(quantity, UnitSystem.METRIC), metric)
        self.assertEqual(write_in(3_218_688.0, "mi"), "2,000 mi")
