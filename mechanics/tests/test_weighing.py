"""Readings that cannot be, and doubts that add up."""

from __future__ import annotations

from typing import Any

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from mechanics.errors import InputError
from mechanics.scales import Scale
from mechanics.weighing import (
    Beam,
    Reading,
    Result,
    again,
    at_the_ball,
    at_the_jack,
    axle_by_axle,
    before_and_after,
    furthest,
    hitched_axle_by_axle,
    hung,
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


def beam(*, tare: float = 5.0, arm: float = 0.3, taped: float = 0.0) -> Beam:
    """A beam a metre long."""
    return Beam(tare=read(tare), beam_m=read(1.0, taped), arm_m=read(arm, taped))


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
            ("axle_3", lambda: hitched_axle_by_axle([read(900), read(1800)])),
            ("axle_3", lambda: hitched_axle_by_axle([read(900), read(1800), read(1700)])),
            (
                "alone_2",
                lambda: hitched_axle_by_axle(
                    [read(900), read(1800), read(2700)], (read(950), read(1900))
                ),
            ),
            (
                "alone_2",
                lambda: hitched_axle_by_axle(
                    [read(900), read(1800), read(2700)], (read(950), read(940))
                ),
            ),
            (
                "alone_1",
                lambda: hitched_axle_by_axle(
                    [read(900), read(1800), read(2700)], (read(0), read(940))
                ),
            ),
            ("jack", lambda: at_the_jack(read(200), jack_m=read(5.0), axles_m=read(4.0))),
            ("jack", lambda: at_the_jack(read(200), jack_m=read(-0.1), axles_m=read(4.0))),
            ("axles", lambda: at_the_jack(read(200), jack_m=read(0), axles_m=read(0.2, 0.3))),
            ("reading", lambda: hung(read(20), rigging=read(20))),
            ("rigging", lambda: hung(read(200), rigging=read(-1))),
            ("tare", lambda: beam(tare=-1)),
            ("reading", lambda: lever(read(5), beam=beam(tare=6))),
            ("arm", lambda: beam(arm=1.5)),
            ("arm", lambda: beam(arm=0.01, taped=0.02)),
            ("left_1", lambda: wheel_by_wheel([read(5)], [read(90)], beam=beam(tare=6))),
            ("tongue", lambda: wheel_by_wheel([read(5)], [read(9)], tongue=read(0))),
            (
                "tongue",
                lambda: wheel_by_wheel([read(5)], [read(9)], of="machine", tongue=read(90)),
            ),
            ("right_1", lambda: wheel_by_wheel([read(400)], [])),
            ("left_2", lambda: wheel_by_wheel([read(400)], [read(400), read(390)])),
            ("right_1", lambda: wheel_by_wheel([read(400)], [read(-3)])),
            ("reading_2", lambda: again([read(400)])),
            ("reading_1", lambda: again([read(0), read(3)])),
            ("steer_tight", lambda: pads(tight=(read(2900), read(2200), read(3200)))),
            ("trailer_tight", lambda: pads(tight=(read(3100), read(2100), read(3900)))),
            ("rigging", lambda: lifts(read(400), read(300), rigging=read(-2))),
            ("first", lambda: lifts(read(4), read(3), rigging=read(20))),
            ("apart", lambda: lifts(read(400), read(300), rigging=read(2), apart_m=read(0))),
            ("known_1", lambda: arch(first_kg=-1.0)),
            ("known_2", lambda: arch(second_kg=0.0)),
            ("height_2", lambda: arch(second_height=read(0.99))),
            ("height", lambda: arch(height=read(0.99))),
            ("height_2", lambda: arch(second_height=read(0.94, 0.03))),
            (
                "second",
                lambda: two_placements(read(300), read(300), moved_m=read(0.4), axles_m=read(5)),
            ),
            (
                "moved",
                lambda: two_placements(read(300), read(200), moved_m=read(0), axles_m=read(5)),
            ),
            (
                "moved",
                lambda: two_placements(
                    read(300), read(200), moved_m=read(0.01, 0.012), axles_m=read(5)
                ),
            ),
            (
                "axles",
                lambda: two_placements(read(300), read(200), moved_m=read(1), axles_m=read(0)),
            ),
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
        found = at_the_jack(read(shown, doubt), jack_m=read(jack), axles_m=read(axles)).main
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
        result = lifts(read(one), read(two), rigging=read(0), apart_m=read(apart))
        balance = result.figures[1].value
        self.assertTrue(0 <= balance <= apart)
        self.assertAlmostEqual(one * balance, two * (apart - balance), places=4)

    def test_a_scales_step_and_part(self) -> None:
        reading = scale_reading(4000, Scale(step_kg=10, part=0.002))
        self.assertAlmostEqual(5 + 8, reading.tolerance)

    @given(kg, kg, st.lists(kg, min_size=1, max_size=3), kg, kg)
    def test_a_hitched_truck_and_trailer_add_up(
        self, front: float, rear: float, axles: list[float], own_front: float, own_rear: float
    ) -> None:
        """Trailer is its axles and the tongue; the truck's own axles are those unhitched."""
        steps = [front, front + rear]
        for axle in axles:
            steps.append(steps[-1] + axle)
        alone = (read(own_front), read(own_front + own_rear))
        if not front + rear > own_front + own_rear:
            with self.assertRaisesMessage(InputError, "alone_2"):
                hitched_axle_by_axle([read(s) for s in steps], alone)
            return
        result = hitched_axle_by_axle([read(s) for s in steps], alone)
        found = {figure.of: figure.value for figure in result.figures}
        self.assertAlmostEqual(found["trailer"], found["tongue"] + found["trailer_axles"], places=5)
        self.assertAlmostEqual(sum(axles), found["trailer_axles"], places=5)
        self.assertAlmostEqual(own_front, found["truck_front"])
        self.assertAlmostEqual(own_rear, found["truck_rear"], places=5)
        without = hitched_axle_by_axle([read(s) for s in steps])
        self.assertEqual("trailer_axles", without.main.of)
        self.assertNotIn("tongue", {figure.of for figure in without.figures})

    def test_wheels_say_no_more_than_they_carry(self) -> None:
        """Of a trailer its axles' load; with the tongue the trailer; of a machine all of it."""
        four = ([read(285), read(286)], [read(285), read(287)])
        for of, tongue, name, value in (
            ("trailer", None, "trailer_axles", 1143),
            ("", None, "axles", 1143),
            ("machine", None, "whole", 1143),
            ("trailer", read(172), "trailer", 1315),
            ("", read(172), "trailer", 1315),
        ):
            with self.subTest(of=of, tongue=tongue):
                main = wheel_by_wheel(*four, of=of, tongue=tongue).main
                self.assertEqual((name, value), (main.of, main.value))

    def test_furthest_of_a_sum_is_the_sum_of_doubts(self) -> None:
        self.assertAlmostEqual(
            5.0,
            furthest(
                lambda a, b: a - b,
                read(100, 2),
                read(40, 3),
            ),
        )
        self.assertEqual(0.0, furthest(lambda a: a * a, read(7)))
