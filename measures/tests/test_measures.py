"""Reading and writing masses and lengths the way people do."""

from __future__ import annotations

from decimal import Decimal

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from measures import (
    Quantity,
    ReadingError,
    UnitSystem,
    read_density,
    read_length,
    read_mass,
    read_volume,
)
from measures.writing import (
    write_entered,
    write_inches,
    write_length,
    write_mass,
    write_number,
    write_percent,
    write_understood,
)

US, METRIC = UnitSystem.US, UnitSystem.METRIC


class VolumesAndDensities(SimpleTestCase):
    def test_usual_ways_of_a_volume(self) -> None:
        for text, number, unit in (
            ("82 gal", "82", "gal"),
            ("82", "82", "gal"),
            ("310 L", "310", "L"),
            ("310 litres", "310", "L"),
            ("4 1/2 yd3", "4.5", "yd3"),
            ("4 cubic yards", "4", "yd3"),
            ("3,5 m3", "3.5", "m3"),
            ("3.5 m³", "3.5", "m3"),
        ):
            with self.subTest(text=text):
                self.assertEqual(read_volume(text, "gal"), Quantity(Decimal(number), unit))

    def test_usual_ways_of_a_density(self) -> None:
        for text, number, unit in (
            ("2,700 lb/yd3", "2700", "lb/yd3"),
            ("2700", "2700", "lb/yd3"),
            ("10.7 lb/gal", "10.7", "lb/gal"),
            ("1.6 t/m3", "1.6", "t/m3"),
            ("1,6 kg/L", "1.6", "kg/L"),
            ("150 lb per cubic foot", "150", "lb/ft3"),
        ):
            with self.subTest(text=text):
                self.assertEqual(read_density(text, "lb/yd3"), Quantity(Decimal(number), unit))

    def test_what_is_neither_is_refused_with_a_way_to_write_it(self) -> None:
        for text in ("", "much", "3 lb", "3 gal/lb", "5 in", "1/0 gal"):
            with self.subTest(text=text):
                with self.assertRaises(ReadingError):
                    read_volume(text, "gal")
                with self.assertRaises(ReadingError):
                    read_density(text, "lb/yd3")

    def test_a_gallon_and_a_cubic_yard_are_exact(self) -> None:
        self.assertEqual(float(read_volume("1", "gal").si), 0.003785411784)
        self.assertEqual(float(read_volume("1 yd3", "gal").si), 0.764554857984)

    def test_what_a_box_understood(self) -> None:
        for text, read, shown in (
            ("7,000", read_mass("7,000", "lb"), "7,000 lb, 3,175 kg"),
            ("3.5 t", read_mass("3.5 t", "lb"), "3.5 t, 7,716 lb"),
            ("1 ton", read_mass("1 ton", "lb"), "1 ton, 2,000 lb, 907 kg"),
            ("16 ft 6", read_length("16 ft 6", "in"), "16 ft 6 in, 5,029 mm"),
            ("192 in", read_length("192 in", "in"), "16 ft, 4,877 mm"),
            ("2 5/16", read_length("2 5/16", "in"), "2 5/16 in, 59 mm"),
            ("3.82 m", read_length("3.82 m", "in"), "3.82 m, 12 ft 6 1/2 in"),
            ("82 gal", read_volume("82 gal", "gal"), "82 gal, 310 L"),
            ("4 yd3", read_volume("4 yd3", "gal"), "4 yd3, 3.06 m3"),
            ("2,700", read_density("2,700", "lb/yd3"), "2,700 lb/yd3, 1,602 kg/m3"),
        ):
            with self.subTest(text=text):
                self.assertEqual(write_understood(read, US), shown)


class Lengths(SimpleTestCase):
    def test_every_usual_way_of_a_tape_reading(self) -> None:
        for text, number, unit in (
            ("12' 6 1/2\"", "150.5", "in"),
            ("12'6.5", "150.5", "in"),
            ("12′ 6½″".replace("½", " 1/2"), "150.5", "in"),
            ("12-6.5", "150.5", "in"),
            ("12 - 6", "150", "in"),
            ("12 ft 6 in", "150", "in"),
            ("12ft 6in", "150", "in"),
            ("12 feet 6 1/4 inches", "150.25", "in"),
            ("16 ft 6", "198", "in"),
            ("16'", "16", "ft"),
            ("16 ft", "16", "ft"),
            ("150.5", "150.5", "in"),
            ("150 1/2 in", "150.5", "in"),
            ("1/2", "0.5", "in"),
            (".5 in", "0.5", "in"),
            ("192 in", "192", "in"),
            ('192"', "192", "in"),
            ("3.82 m", "3.82", "m"),
            ("3,82 m", "3.82", "m"),
            ("3820 mm", "3820", "mm"),
            ("3 820 mm", "3820", "mm"),
            ("3,820 mm", "3820", "mm"),
            ("382cm", "382", "cm"),
            ("-4", "-4", "in"),
            ("−1' 2\"", "-14", "in"),
        ):
            with self.subTest(text=text):
                self.assertEqual(read_length(text, "in"), Quantity(Decimal(number), unit))

    def test_a_bare_number_is_in_the_unit_people_read_in(self) -> None:
        self.assertEqual(read_length("3820", "mm").unit, "mm")

    def test_what_is_no_length_is_refused_with_a_way_to_write_it(self) -> None:
        for text in ("", "twelve", "12' 6' 3", "1/0 in x", "7 lb", "12..5", "--4", "1e5", "nan"):
            with self.subTest(text=text), self.assertRaisesMessage(ReadingError, "Write it like"):
                read_length(text, "in")

    def test_more_than_eleven_inches_beside_feet(self) -> None:
        with self.assertRaisesMessage(ReadingError, "Inches beside feet go up to 11"):
            read_length("12' 14", "in")

    def test_division_by_zero_and_giants(self) -> None:
        with self.assertRaisesMessage(ReadingError, "divides by zero"):
            read_length("1/0", "in")
        with self.assertRaisesMessage(ReadingError, "larger than anything"):
            read_length("99999999999", "in")

    def test_write_length_as_a_tape_reads(self) -> None:
        for metres, expected in (
            (150 * 0.0254, "12 ft 6 in"),
            (150.5 * 0.0254, "12 ft 6 1/2 in"),
            (144 * 0.0254, "12 ft"),
            (144.25 * 0.0254, "12 ft 1/4 in"),
            (7 * 0.0254, "7 in"),
            (0.0, "0 in"),
            (-14 * 0.0254, "−1 ft 2 in"),
            (11.95 * 0.0254, "1 ft"),
        ):
            with self.subTest(expected=expected):
                self.assertEqual(write_length(metres, US), expected)
        self.assertEqual(write_length(3.81, METRIC), "3,810 mm")
        self.assertEqual(write_inches(0.0127, US), "1/2 in")
        self.assertEqual(write_inches(-0.0381, US), "−1 1/2 in")
        self.assertEqual(write_inches(0.18, METRIC), "180 mm")

    @given(st.integers(0, 4000))
    def test_what_is_written_reads_back(self, quarters: int) -> None:
        metres = quarters * 0.0254 / 4
        again = read_length(write_length(metres, US), "in")
        self.assertAlmostEqual(float(again.si), metres, places=9)


class Masses(SimpleTestCase):
    def test_every_usual_way_of_a_mass(self) -> None:
        for text, number, unit in (
            ("7,000", "7000", "lb"),
            ("7000 lb", "7000", "lb"),
            ("7 000 lbs", "7000", "lb"),
            ("3.5 t", "3.5", "t"),
            ("3,5 t", "3.5", "t"),
            ("1.234,5 kg", "1234.5", "kg"),
            ("2 tons", "2", "ton"),
            ("335kg", "335", "kg"),
            ("45 1/2 lb.", "45.5", "lb"),
        ):
            with self.subTest(text=text):
                self.assertEqual(read_mass(text, "lb"), Quantity(Decimal(number), unit))

    def test_what_is_no_mass(self) -> None:
        for text in ("", "heavy", "12 in", "7000 bananas"):
            with self.subTest(text=text), self.assertRaisesMessage(ReadingError, "is not a mass"):
                read_mass(text, "lb")

    def test_7000_lb_reads_7000_lb_for_ever(self) -> None:
        entered = read_mass("7,000", "lb")
        stored = str(entered)
        again = Quantity.parse(stored)
        self.assertEqual((stored, write_entered(again)), ("7000 lb", "7,000 lb"))
        self.assertEqual(again.in_unit("lb"), 7000)
        self.assertIsInstance(again.in_unit("lb"), int)
        self.assertEqual(write_mass(float(again.si), US), "7,000 lb")
        self.assertEqual(write_mass(float(again.si), METRIC), "3,175 kg")

    @given(st.decimals(0, 100000, places=2), st.sampled_from(["lb", "kg", "t", "ton"]))
    def test_quantities_survive_storage_exactly(self, number: Decimal, unit: str) -> None:
        quantity = Quantity(number, unit)
        self.assertEqual(Quantity.parse(str(quantity)).si, quantity.si)

    def test_units_of_another_kind_are_refused(self) -> None:
        with self.assertRaisesMessage(ValueError, "cannot be given in in"):
            Quantity(Decimal(1), "lb").in_unit("in")
        with self.assertRaisesMessage(ValueError, "not a unit"):
            Quantity(Decimal(1), "stone")

    def test_numbers_and_percents(self) -> None:
        self.assertEqual(write_number(-0.2), "0")
        self.assertEqual(write_number(12345.6), "12,346")
        self.assertEqual(write_percent(0.1368), "13.7 %")
        self.assertEqual(write_percent(-0.02), "−2.0 %")
        self.assertEqual(write_entered(Quantity(Decimal("0.50"), "in")), "0.5 in")
