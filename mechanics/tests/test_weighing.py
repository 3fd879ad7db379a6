"""Readings that cannot be, and doubts that add up."""

from __future__ import annotations

from typing import Any

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from mechanics.errors import InputError
from mechanics.weighing import (
    Reading,
    Result,
    again,
    at_the_ball,
    at_the_jack,
    axle_by_axle,
    before_and_after,
    lever,
    lifts,
    scale_reading,
    segmented,
    squat,
    together_and_alone,
    two_placements,
    wheel_by_wheel,
)

kg = st.floats(10, 20000)
doubts = st.floats(0, 40)


def read(value: float, tolerance: float = 0.0) -> Reading:
    """A reading."""
    return Reading(value=value, tolerance=tolerance)


def pads(tight: tuple[Reading, Reading, Reading] | None = None) -> Result:
    """Pads slack and unhitched, and perhaps with the bars hung."""
    return segmented(
        steer=read(3000),
        drive=read(2300),
        trailer_pad=read(3000),
        steer_alone=read(3200),
        drive_alone=read(1700),
        tight=tight,
    )


def arch(**given: Any) -> Result:
    """Arch heights of two known loads and a trailer, some of them changed."""
    right = {
        "height": read(0.93),
        "first_kg": 0.0,
        "first_height": read(0.97),
        "second_kg": 300.0,
        "second_height": read(0.94),
    } | given
    return squat(right.pop("height"), **right)


class Impossible(SimpleTestCase):
    def test_each_says_in_one_sentence_what_is_wrong(self) -> None:
        for path, weigh in (
            ("alone", lambda: together_and_alone(read(3000), read(3100))),
            ("without", lambda: before_and_after(read(900), read(900))),
            (
                "drive",
                lambda: segmented(
                    steer=read(1500),
                    drive=read(1400),
                    trailer_pad=read(2000),
                    steer_alone=read(1600),
                    drive_alone=read(1500),
                ),
            ),
            (
                "trailer_pad",
                lambda: segmented(
                    steer=read(1500),
                    drive=read(1900),
                    trailer_pad=read(0),
                    steer_alone=read(1600),
                    drive_alone=read(1500),
                ),
            ),
            ("axle_1", lambda: axle_by_axle([])),
            ("axle_2", lambda: axle_by_axle([read(900), read(800)])),
            ("reading", lambda: at_the_ball(read(0))),
            ("jack", lambda: at_the_jack(read(200), jack_m=5.0, axles_m=4.0)),
            ("jack", lambda: at_the_jack(read(200), jack_m=-0.1, axles_m=4.0)),
            ("tare", lambda: lever(read(100), tare=read(-1), beam_m=1, arm_m=0.5)),
            ("reading", lambda: lever(read(5), tare=read(6), beam_m=1, arm_m=0.5)),
            ("arm", lambda: lever(read(100), tare=read(5), beam_m=0.4, arm_m=0.5)),
            ("right_1", lambda: wheel_by_wheel([read(400)], [])),
            ("left_2", lambda: wheel_by_wheel([read(400)], [read(400), read(390)])),
            ("right_1", lambda: wheel_by_wheel([read(400)], [read(-3)])),
            ("reading_2", lambda: again([read(400)])),
            ("reading_1", lambda: again([read(0), read(3)])),
            ("steer_tight", lambda: pads(tight=(read(2900), read(2200), read(3200)))),
            ("trailer_tight", lambda: pads(tight=(read(3100), read(2100), read(3900)))),
            ("rigging", lambda: lifts(read(400), read(300), rigging=read(-2))),
            ("first", lambda: lifts(read(4), read(3), rigging=read(20))),
            ("apart", lambda: lifts(read(400), read(300), rigging=read(2), apart_m=0.0)),
            ("known_1", lambda: arch(first_kg=-1.0)),
            ("known_2", lambda: arch(second_kg=0.0)),
            ("height_2", lambda: arch(second_height=read(0.99))),
            ("height", lambda: arch(height=read(0.99))),
            (
                "second",
                lambda: two_placements(read(300), read(300), moved_m=read(0.4), axles_m=5.0),
            ),
            ("moved", lambda: two_placements(read(300), read(200), moved_m=read(0), axles_m=5.0)),
            ("reading.tolerance", lambda: read(1, -1)),
        ):
            with self.subTest(path=path), self.assertRaises(InputError) as caught:
                weigh()
            self.assertEqual(path, caught.exception.path)
            self.assertTrue(caught.exception.expected)


class Doubts(SimpleTestCase):
    @given(kg, kg, doubts, doubts)
    def test_the_worst_of_both_readings_lies_at_the_edge(
        self, truck: float, trailer: float, one: float, two: float
    ) -> None:
        found = together_and_alone(read(truck + trailer, one), read(truck, two)).main
        self.assertAlmostEqual(trailer, found.value, places=6)
        self.assertAlmostEqual(one + two, found.tolerance)

    @given(st.floats(50, 900), st.floats(0.3, 1.2), st.floats(3, 8), st.floats(0, 9))
    def test_a_jack_reading_is_never_less_than_the_tongue(
        self, tongue: float, jack: float, axles: float, doubt: float
    ) -> None:
        """The jack stands nearer to the axles than the ball, so it carries more."""
        shown = tongue * axles / (axles - jack)
        found = at_the_jack(read(shown, doubt), jack_m=jack, axles_m=axles).main
        self.assertAlmostEqual(tongue, found.value, places=6)
        self.assertLessEqual(found.tolerance, doubt)

    @given(st.lists(kg, min_size=1, max_size=6), doubts)
    def test_axles_add_up_to_the_last_reading(self, axles: list[float], doubt: float) -> None:
        running, readings = 0.0, []
        for axle in axles:
            running += axle
            readings.append(read(running, doubt))
        result = axle_by_axle(readings)
        self.assertAlmostEqual(running, result.main.value, places=6)
        self.assertAlmostEqual(running, sum(f.value for f in result.figures[1:]), places=5)

    @given(kg, kg, st.floats(0.5, 4))
    def test_the_balance_point_lies_between_the_supports(
        self, one: float, two: float, apart: float
    ) -> None:
        result = lifts(read(one), read(two), rigging=read(0), apart_m=apart)
        balance = result.figures[1].value
        self.assertTrue(0 <= balance <= apart)
        self.assertAlmostEqual(one * balance, two * (apart - balance), places=4)

    def test_a_scales_step_and_part(self) -> None:
        reading = scale_reading(4000, step_kg=10, part=0.002)
        self.assertAlmostEqual(5 + 8, reading.tolerance)
