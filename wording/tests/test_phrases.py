"""Short pieces that other words are made of."""

from __future__ import annotations

from django.test import SimpleTestCase

from measures import UnitSystem
from mechanics.tests.outfits import inch, lb
from wording.phrases import signed_inches, signed_mass, some_inches

US, METRIC = UnitSystem.US, UnitSystem.METRIC


class Signs(SimpleTestCase):
    def test_more_and_less_each_with_its_sign(self) -> None:
        self.assertEqual(signed_mass(lb(380), US), "+ 380 lb")
        self.assertEqual(signed_mass(-40.0, METRIC), "− 40 kg")
        self.assertEqual(signed_inches(inch(2), US), "+ 2 in")
        self.assertEqual(signed_inches(-0.05, METRIC), "− 50 mm")

    def test_next_to_nothing_is_not_less_than_nothing(self) -> None:
        self.assertEqual(signed_mass(-0.01, METRIC), "+ 0 kg")
        self.assertEqual(signed_inches(-inch(0.01), US), "+ 0 in")


class SomeInches(SimpleTestCase):
    def test_what_there_is_never_reads_as_none(self) -> None:
        self.assertEqual(some_inches(0.0, US), "0 in")
        self.assertEqual(some_inches(inch(0.1), US), "less than 1/2 in")
        self.assertEqual(some_inches(0.0003, METRIC), "less than 1 mm")
        self.assertEqual(some_inches(inch(2), US), "2 in")
