"""Stopping against published tables, worked by hand.

Sources, all from memory: AASHTO, A Policy on Geometric Design of Highways and Streets, tables of
stopping sight distance on level roads and on grades; the model Commercial Driver's License Manual,
section 2.7.
"""

from __future__ import annotations

from django.test import SimpleTestCase

from mechanics.stopping import Brakes, seconds_ahead
from mechanics.units import KG_PER_LB, M_PER_FT, M_S_PER_MPH

LEVEL_US = ((15, 76.7), (30, 196.7), (45, 359.8), (60, 566.0), (75, 815.5))
"""Miles an hour, and feet as calculated in the table of level roads."""

LEVEL_METRIC = ((50, 63.5), (80, 129.0), (100, 184.2))
"""Kilometres an hour, and metres as calculated there."""

GRADES = (
    (30, -0.03, 205),
    (30, -0.06, 215),
    (60, -0.03, 598),
    (60, -0.06, 638),
    (60, -0.09, 686),
    (60, 0.03, 538),
    (60, 0.06, 515),
    (60, 0.09, 495),
)
"""Miles an hour, grade, and feet of the table of grades."""

ALONE = Brakes(mass_kg=3000.0, truck_kg=4000.0, trailer_kg=0.0)


class StoppingSightDistance(SimpleTestCase):
    def test_level_roads_in_feet(self) -> None:
        for mph, feet in LEVEL_US:
            found = ALONE.distance_m(mph * M_S_PER_MPH)
            assert found is not None
            self.assertLess(abs(found / M_PER_FT - feet), 0.01 * feet, mph)

    def test_level_roads_in_metres(self) -> None:
        for kmh, metres in LEVEL_METRIC:
            found = ALONE.distance_m(kmh / 3.6)
            assert found is not None
            self.assertLess(abs(found - metres), 0.01 * metres, kmh)

    def test_grades(self) -> None:
        for mph, slope, feet in GRADES:
            found = ALONE.distance_m(mph * M_S_PER_MPH, slope)
            assert found is not None
            self.assertLess(abs(found / M_PER_FT - feet), 0.015 * feet, (mph, slope))


class RoomAhead(SimpleTestCase):
    def test_the_manuals_own_examples(self) -> None:
        """A 40 ft vehicle: 4 seconds; one of 60 ft above 40 mph: 7."""
        self.assertEqual(seconds_ahead(40 * M_PER_FT, 30 * M_S_PER_MPH), 4)
        self.assertEqual(seconds_ahead(60 * M_PER_FT, 55 * M_S_PER_MPH), 7)


class ByHand(SimpleTestCase):
    def test_a_trailer_without_brakes(self) -> None:
        """6,000 lb of truck at its plate pull 3,000 lb without brakes: 9,000 over 6,000 is 1.5
        times, and the braking part of the way grows by as much."""
        with_it = Brakes(mass_kg=9000 * KG_PER_LB, truck_kg=6000 * KG_PER_LB, trailer_kg=0.0)
        self.assertAlmostEqual(with_it.times, 1.5)
        v = 60 * M_S_PER_MPH
        alone, found = ALONE.distance_m(v), with_it.distance_m(v)
        assert alone is not None
        assert found is not None
        reaction = 2.5 * v
        self.assertAlmostEqual(found - reaction, 1.5 * (alone - reaction))

    def test_the_same_with_brakes_on_both_axles(self) -> None:
        braked = Brakes(
            mass_kg=9000 * KG_PER_LB, truck_kg=6000 * KG_PER_LB, trailer_kg=7000 * KG_PER_LB
        )
        self.assertEqual(braked.times, 1.0)
