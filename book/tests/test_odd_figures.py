"""Figures that are slips of the pen are refused where they are typed, in the person's units."""

from __future__ import annotations

from django.core.exceptions import ValidationError
from django.test import SimpleTestCase

from book.fields import MOST, QuantityFormField
from measures import UnitSystem


class SlipsOfThePen(SimpleTestCase):
    def test_each_kind_has_a_most(self) -> None:
        for kind, typed, us, metric in (
            ("length", "30000000 in", "more than 328 ft", "more than 100 m"),
            ("length", "-30000000 in", "more than 328 ft", "more than 100 m"),
            ("mass", "2000000 lb", "more than 1,100,000 lb", "more than 500 t"),
            ("volume", "9000 m3", "more than 1,300 yd3", "more than 1,000 m3"),
            ("density", "99 t/m3", "more than 42,000 lb/yd3", "more than 25 t/m3"),
        ):
            for units, words in ((UnitSystem.US, us), (UnitSystem.METRIC, metric)):
                field = QuantityFormField(kind=kind, least="any")
                field.units = units
                with self.subTest(typed=typed, units=units):
                    self.assertIn(words, self.refused(field, typed))

    def test_what_may_be_may_be(self) -> None:
        for kind, typed in (("length", "100 m"), ("mass", "500 t"), ("volume", "1000 m3")):
            field = QuantityFormField(kind=kind, least="positive")
            found = field.clean(typed)
            self.assertAlmostEqual(float(found.si), MOST[kind].si)

    def refused(self, field: QuantityFormField, typed: str) -> str:
        with self.assertRaises(ValidationError) as caught:
            field.clean(typed)
        return caught.exception.messages[0]
