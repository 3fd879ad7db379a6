"""How far it is between places."""

from __future__ import annotations

from math import pi
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from mechanics.errors import InputError
from mechanics.way import DETOUR, EARTH_M, by_road_m, straight_m

places = st.tuples(st.floats(-90, 90), st.floats(-180, 180))


class Ways(TestCase):
    def test_degrees_of_a_great_circle(self) -> None:
        # a degree is a 360th of the way round: 111.195 km on a sphere of that radius
        for one, other, degrees in (
            ((0.0, 0.0), (1.0, 0.0), 1),
            ((0.0, 10.0), (0.0, 11.0), 1),
            ((0.0, 179.5), (0.0, -179.5), 1),
            ((0.0, 0.0), (90.0, 33.0), 90),
            ((0.0, 0.0), (0.0, 180.0), 180),
            # at 60 degrees a parallel is half as long, and the great circle a little shorter yet
            ((60.0, 0.0), (60.0, 1.0), 0.49998),
        ):
            self.assertAlmostEqual(straight_m(one, other) / (EARTH_M * pi / 180), degrees, 4)

    @given(places, places, places)
    def test_it_is_a_distance(
        self, one: tuple[float, float], other: tuple[float, float], third: tuple[float, float]
    ) -> None:
        there = straight_m(one, other)
        self.assertAlmostEqual(there, straight_m(other, one), delta=1)
        self.assertLessEqual(there, straight_m(one, third) + straight_m(third, other) + 1)
        self.assertAlmostEqual(straight_m(one, one), 0, delta=1)
        road = by_road_m(one, other)
        self.assertAlmostEqual(road.least, there * DETOUR.least, delta=1e-3)
        self.assertGreaterEqual(road.most, road.least)

    def test_degrees_that_are_on_no_globe(self) -> None:
        for place in ((91.0, 0.0), (0.0, 181.0), (float("nan"), 0.0)):
            with self.assertRaises(InputError):
                straight_m((0.0, 0.0), place)
