"""Whole numbers and ways back, whatever a request holds."""

from __future__ import annotations

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from web.sent import DIGITS, counted, way_back, whole_number


class WholeNumbers(SimpleTestCase):
    def test_plain_digits_are_read(self) -> None:
        for text, number in (("7", 7), (" 12 ", 12), ("-3", -3), (5, 5), ("007", 7)):
            self.assertEqual(whole_number(text), number)

    def test_anything_else_is_nobodys(self) -> None:
        for text in (None, "", "²", "٣", "1_000", "+5", "--1", "1.0", "0x10", "9" * 50_000, "a"):
            self.assertIsNone(whole_number(text), repr(text)[:20])
            self.assertEqual(counted(text), 0)
            self.assertEqual(whole_number(text, 4), 4)

    @given(st.text(max_size=40))
    def test_it_always_fits_into_the_database(self, text: str) -> None:
        found = whole_number(text)
        if found is not None:
            self.assertLess(abs(found), 10**DIGITS)


class WaysBack(SimpleTestCase):
    def test_only_addresses_of_ours(self) -> None:
        self.assertEqual(way_back("/hauls/new/?name=A"), "/hauls/new/?name=A")
        for bad in (
            None,
            "",
            "hauls/",
            "//elsewhere.example/",
            "https://elsewhere.example/",
            "/\\elsewhere.example",
            "javascript:x",
            "/" + "9" * 50_000,
        ):
            self.assertEqual(way_back(bad), "", str(bad)[:30])
