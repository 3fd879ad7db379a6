"""Stopping: what may not be, and what has to hold whatever the figures are."""

from __future__ import annotations

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from mechanics.errors import InputError
from mechanics.stopping import Brakes, seconds_ahead

KG = st.floats(100, 50_000)


class Stopping(SimpleTestCase):
    @given(mass=KG, truck=KG, trailer=st.floats(0, 50_000), speed=st.floats(0.1, 45))
    def test_more_mass_or_speed_never_stops_sooner(
        self, mass: float, truck: float, trailer: float, speed: float
    ) -> None:
        one = Brakes(mass_kg=mass, truck_kg=truck, trailer_kg=trailer)
        heavier = Brakes(mass_kg=2 * mass, truck_kg=truck, trailer_kg=trailer)
        self.assertGreaterEqual(one.times, 1.0)
        ways = [each.distance_m(at) for each in (one, heavier) for at in (speed, 1.1 * speed)]
        slow, fast, heavy_slow, heavy_fast = (way or 0.0 for way in ways)
        self.assertLess(slow, fast)
        self.assertLessEqual(slow, heavy_slow)
        self.assertLessEqual(fast, heavy_fast)

    def test_a_slope_can_be_more_than_the_brakes_hold(self) -> None:
        unbraked = Brakes(mass_kg=20_000, truck_kg=4000, trailer_kg=0)
        self.assertIsNone(unbraked.distance_m(10, -0.08))
        self.assertIsNotNone(unbraked.distance_m(10))
        self.assertEqual(unbraked.distance_m(0.0), 0.0)

    def test_what_makes_no_sense_is_refused(self) -> None:
        for mass, truck, trailer in (
            (0, 1, 0),
            (1, 0, 0),
            (1, 1, -1),
            (float("inf"), 1, 0),
            (float("nan"), 1, 0),
        ):
            with self.assertRaises(InputError):
                Brakes(mass_kg=mass, truck_kg=truck, trailer_kg=trailer)
        with self.assertRaises(InputError):
            Brakes(mass_kg=1, truck_kg=1, trailer_kg=0).distance_m(-1)
        with self.assertRaises(InputError):
            seconds_ahead(0, 10)

    def test_begun_pieces_of_length_count_whole(self) -> None:
        self.assertEqual(seconds_ahead(12.2, 10), 5)
        self.assertEqual(seconds_ahead(12.192, 10), 4)
