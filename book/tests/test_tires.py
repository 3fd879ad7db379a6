"""A tire's week and year, and its age."""

from __future__ import annotations

from datetime import date

from django.core.exceptions import ValidationError
from django.test import SimpleTestCase

from book.tires import date_code, made_on, years_old


class DateCode(SimpleTestCase):
    def test_week_and_year(self) -> None:
        self.assertEqual(made_on("2319"), date(2019, 6, 3))
        self.assertEqual(made_on("0100"), date(2000, 1, 3))
        # 2019 has 52 weeks by the calendar; a sidewall may still say 53
        self.assertEqual(made_on("5319"), date(2019, 12, 30))

    def test_what_names_no_week(self) -> None:
        for wrong in ("", "231", "5419", "0019", "23a9", "²319", "23199"):
            self.assertIsNone(made_on(wrong), wrong)
            with self.assertRaises(ValidationError):
                date_code(wrong)

    def test_age(self) -> None:
        self.assertAlmostEqual(years_old("2319", date(2029, 6, 3)) or 0, 10.0, places=1)
        self.assertEqual(years_old("5230", date(2026, 1, 1)), 0.0)
        self.assertIsNone(years_old("", date(2026, 1, 1)))
