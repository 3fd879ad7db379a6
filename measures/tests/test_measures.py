"""Reading and writing masses and lengths the way people do."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

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
from measures.marks import STEPS, write_ends, write_place, write_width
from measures.writing import (
    in_units_of,
    write_entered,
    write_excess,
    write_given,
    write_inches,
    write_length,
    write_mass,
    write_masses_apart,
    write_number,
    write_percent,
    write_rate,
    write_share_against,
    write_signed,
)
from mechanics.marks import nearest_mark

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

    def test_in_the_persons_units_with_what_was_typed_in_brackets(self) -> None:
        for quantity, us, metric in (
            ("7000 lb", "7,000 lb", "3,175 kg (7,000 lb)"),
            ("3.5 t", "7,716 lb (3.5 t)", "3,500 kg (3.5 t)"),
            ("1 ton", "2,000 lb (1 ton)", "907 kg (1 ton)"),
            ("198 in", "16 ft 6 in", "5,029 mm (16 ft 6 in)"),
            ("16 ft", "16 ft", "4,877 mm (16 ft)"),
            ("2.3125 in", "2 5/16 in", "59 mm (2 5/16 in)"),
            ("-46 in", "−3 ft 10 in", "−1,168 mm (−3 ft 10 in)"),
            ("3.82 m", "12 ft 6 3/8 in (3.82 m)", "3,820 mm"),
            ("82 gal", "82 gal", "310 L (82 gal)"),
            ("4 yd3", "4 yd3", "3.1 m3 (4 yd3)"),
            ("310 L", "81.9 gal (310 L)", "310 L"),
            ("2700 lb/yd3", "2,700 lb/yd3", "1,602 kg/m3 (2,700 lb/yd3)"),
            ("1.6 t/m3", "2,697 lb/yd3 (1.6 t/m3)", "1.6 t/m3"),
        ):
            with self.subTest(quantity=quantity):
                self.assertEqual(us, write_given(Quantity.parse(quantity), US))
                self.assertEqual(metric, write_given(Quantity.parse(quantity), METRIC))

    def test_a_text_with_both_systems_keeps_one(self) -> None:
        text = "ends at {300 lb|135 kg}, or {2 ft|60 cm} on"
        self.assertEqual("ends at 300 lb, or 2 ft on", in_units_of(text, US))
        self.assertEqual("ends at 135 kg, or 60 cm on", in_units_of(text, METRIC))
        self.assertEqual("a {brace", in_units_of("a {brace", US))


class TwoReadings(SimpleTestCase):
    """What two people would read differently is asked about, and what is written never is."""

    def test_each_is_asked_about_with_both_ways(self) -> None:
        for reader, text, unit, both in (
            (read_mass, "7.000", "lb", "7 lb or 7000 lb"),
            (read_mass, "1.250 kg", "lb", "1.25 kg or 1250 kg"),
            (read_mass, "1,250 t", "lb", "1.25 t or 1250 t"),
            (read_length, "3,820 m", "in", "3.82 m or 3820 m"),
            (read_length, "3.820", "mm", "3.82 mm or 3820 mm"),
            (read_length, "-1,168 m", "mm", "1.168 m or 1168 m"),
            (read_length, "10-3/4", "in", "10 ft 3/4 in or 10 3/4 in"),
            (read_volume, "1,500 m3", "L", "1.5 m3 or 1500 m3"),
            (read_density, "1,600 t/m3", "kg/m3", "1.6 t/m3 or 1600 t/m3"),
        ):
            with self.subTest(text=text), self.assertRaisesMessage(ReadingError, both):
                reader(text, unit)

    def test_what_can_only_be_one_thing_is_read(self) -> None:
        for reader, text, unit, expected in (
            (read_mass, "7,000", "lb", "7000 lb"),
            (read_mass, "7.0", "lb", "7 lb"),
            (read_mass, "0.500", "t", "0.5 t"),
            (read_mass, "1.250 t", "lb", "1.25 t"),
            (read_mass, "1,25 t", "lb", "1.25 t"),
            (read_mass, "12.3456 kg", "lb", "12.3456 kg"),
            (read_length, "3.820 m", "in", "3.82 m"),
            (read_length, "3,820 mm", "in", "3820 mm"),
            (read_length, "10-3 1/4", "in", "123.25 in"),
            (read_length, "10 3/4", "in", "10.75 in"),
            (read_length, "10' 3/4", "in", "120.75 in"),
            (read_length, "16ft6", "in", "198 in"),
            (read_length, "16ft6in", "in", "198 in"),
            (read_length, "16foot6 1/2", "in", "198.5 in"),
        ):
            with self.subTest(text=text):
                self.assertEqual(Quantity.parse(expected), reader(text, unit))

    @given(
        st.decimals(min_value="0.001", max_value="99999", places=3),
        st.sampled_from([("lb", read_mass), ("t", read_mass), ("in", read_length)]),
    )
    def test_what_is_written_is_read_as_the_same(
        self, number: Decimal, kind: tuple[str, Any]
    ) -> None:
        unit, reader = kind
        quantity = Quantity(number, unit)
        for text in (str(quantity), write_entered(quantity)):
            self.assertEqual(reader(text, "kg" if unit != "in" else "mm").si, quantity.si)


class Marks(SimpleTestCase):
    def test_the_nearest_mark_that_lies_inside(self) -> None:
        """Half inches first, finer ones where none lies inside, the place itself where no mark
        does."""
        inch = 0.0254
        for at, low, high, expected in (
            (155.40125, 150.9, 155.40125, 155.0),
            (155.3, 155.3, 155.4, 155.375),
            (155.2, 155.06, 155.3, 155.25),
            (155.41, 155.39, 155.42, 155.41),
            (150.0, 151.2, 160.0, 151.5),
            (155.5, 155.5, 156.0, 155.5),
        ):
            with self.subTest(at=at):
                found = nearest_mark(at * inch, low * inch, high * inch, STEPS[US])
                self.assertAlmostEqual(expected, found / inch)
        self.assertAlmostEqual(3.94, nearest_mark(3.9471, 3.83, 3.9471, STEPS[METRIC]))

    def test_ends_are_rounded_into_the_window(self) -> None:
        inch = 0.0254
        self.assertEqual(
            ("12 ft 6 1/4 in", "12 ft 11 1/4 in"), write_ends(150.1 * inch, 155.42 * inch, US)
        )
        self.assertEqual(("3,707 mm", "3,998 mm"), write_ends(3.70692, 3.9988, METRIC))
        self.assertEqual(
            ("12 ft 11.4010 in", "12 ft 11.4200 in"), write_ends(155.401 * inch, 155.42 * inch, US)
        )

    @given(st.floats(0.1, 9), st.floats(0, 0.4), st.sampled_from([US, METRIC]))
    def test_an_end_never_reads_as_outside(
        self, start: float, width: float, system: UnitSystem
    ) -> None:
        unit = "in" if system is US else "mm"
        self.assertLessEqual(float(read_length(write_width(width, system), "in").si), width + 1e-5)
        for text in write_ends(start, start + width, system):
            at = float(read_length(text, unit).si)
            self.assertGreaterEqual(at, start - 2e-5)
            self.assertLessEqual(at, start + width + 2e-5)

    def test_a_place_reads_on_the_side_of_an_end_where_it_stands(self) -> None:
        inch = 0.0254
        end = 155.40125 * inch
        self.assertEqual("12 ft 11 3/8 in", write_place(end, US, 150 * inch, end))
        self.assertEqual("12 ft 11 7/16 in", write_place(155.41 * inch, US, 150 * inch, end))
        self.assertEqual("12 ft 6 in", write_place(150 * inch, US))


class Apart(SimpleTestCase):
    """A value never reads like the limit it breaks."""

    def test_digits_are_added_until_they_differ(self) -> None:
        self.assertEqual(("9.97 %", "10.0 %"), (write_share_against(0.0997, 0.1), "10.0 %"))
        self.assertEqual("9.999 %", write_share_against(0.09999, 0.1))
        self.assertEqual("10.0 %", write_share_against(0.1, 0.1))
        self.assertEqual("13.7 %", write_share_against(0.1368, 0.15))
        self.assertEqual("0.3 lb", write_excess(0.3 * 0.45359237, US))
        self.assertEqual("0.02 kg", write_excess(-0.02, METRIC))
        self.assertEqual("371 lb", write_excess(-371 * 0.45359237, US))
        self.assertEqual(
            ("5,200.3 lb", "5,200.0 lb"),
            write_masses_apart(5200.3 * 0.45359237, 5200 * 0.45359237, US),
        )
        self.assertEqual(("5,201 lb", "5,200 lb"), write_masses_apart(2359.1, 2358.68, US))

    def test_one_way_to_write_a_minus(self) -> None:
        self.assertEqual("−636 lb", write_mass(-636 * 0.45359237, US))
        self.assertEqual("−7.7 %", write_percent(-0.077))
        self.assertEqual("− 40", write_signed(-40.2))
        self.assertEqual("+ 0", write_signed(-0.2))
        self.assertEqual("740 lb/in", write_rate(740 * 0.45359237 / 0.0254, US))
        self.assertEqual("132 kg/cm", write_rate(13200, METRIC))


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
