"""Each way of weighing against an example worked by hand. Common practice, no source, unless
one is named."""

from __future__ import annotations

import statistics

from django.test import SimpleTestCase

from mechanics.units import KG_PER_LB, M_PER_IN
from mechanics.weighing import (
    Reading,
    again,
    at_the_ball,
    at_the_jack,
    axle_by_axle,
    before_and_after,
    lever,
    lifts,
    segmented,
    squat,
    together_and_alone,
    two_placements,
    wheel_by_wheel,
)


def lb(number: float) -> Reading:
    """A reading in pounds."""
    return Reading(value=number * KG_PER_LB)


def inches(number: float) -> float:
    """A length in metres."""
    return number * M_PER_IN


class WorkedByHand(SimpleTestCase):
    def assert_pounds(self, expected: float, kilograms: float, delta: float = 0.5) -> None:
        self.assertAlmostEqual(expected, kilograms / KG_PER_LB, delta=delta)

    def test_303_net_on_a_33_in_beam_11_in_from_the_load_is_909(self) -> None:
        result = lever(lb(315), tare=lb(12), beam_m=inches(33), arm_m=inches(11))
        self.assert_pounds(909, result.main.value)
        self.assertAlmostEqual(3.0, result.lines[-1].value)

    def test_lifts_of_3854_and_3758_with_20_of_rigging_are_7592(self) -> None:
        self.assert_pounds(7592, lifts(lb(3854), lb(3758), rigging=lb(20)).main.value)

    def test_7420_less_6000_with_175_on_the_ball_is_12_3_percent(self) -> None:
        trailer = together_and_alone(lb(7420), lb(6000)).main.value
        tongue = at_the_ball(lb(175)).main.value
        self.assertAlmostEqual(12.3, tongue / trailer * 100, delta=0.05)

    def test_pads_hitched_and_unhitched(self) -> None:
        """Steer 3,260 and drive 4,520, alone 3,480 and 3,420: 880 on the tongue; with 6,640 on
        the trailer's pad the trailer is 7,520."""
        result = segmented(
            steer=lb(3260),
            drive=lb(4520),
            trailer_pad=lb(6640),
            steer_alone=lb(3480),
            drive_alone=lb(3420),
        )
        tongue, trailer, _ = result.figures
        self.assert_pounds(880, tongue.value)
        self.assert_pounds(7520, trailer.value)

    def test_axle_by_axle(self) -> None:
        result = axle_by_axle([lb(3260), lb(7780), lb(11100), lb(14420)])
        for expected, figure in zip((14420, 3260, 4520, 3320, 3320), result.figures, strict=True):
            self.assert_pounds(expected, figure.value)

    def test_before_and_after(self) -> None:
        self.assert_pounds(5340, before_and_after(lb(15360), lb(10020)).main.value)

    def test_jack_15_in_behind_the_ball_of_a_200_in_trailer(self) -> None:
        """400 at the jack times 185 over 200 is 370 on the ball."""
        result = at_the_jack(lb(400), jack_m=inches(15), axles_m=inches(200))
        self.assert_pounds(370, result.main.value)

    def test_wheels(self) -> None:
        """700 and 740 on the left, 720 and 720 on the right: 2,880, of which 1,440 a side."""
        result = wheel_by_wheel([lb(700), lb(740)], [lb(720), lb(720)])
        for expected, figure in zip((2880, 1440, 1440, 1420, 1460), result.figures, strict=True):
            self.assert_pounds(expected, figure.value)

    def test_an_arch_that_sank_an_inch_under_640_and_an_inch_and_a_half_now(self) -> None:
        result = squat(
            Reading(value=inches(36.5)),
            first_kg=0.0,
            first_height=Reading(value=inches(38)),
            second_kg=640 * KG_PER_LB,
            second_height=Reading(value=inches(37)),
        )
        self.assert_pounds(960, result.main.value)

    def test_two_known_loads_of_200_and_600_at_38_and_37(self) -> None:
        """400 lb sank it by an inch; at 36 1/2 it is 200 + 1 1/2 x 400 = 800."""
        result = squat(
            Reading(value=inches(36.5), tolerance=inches(0.25)),
            first_kg=200 * KG_PER_LB,
            first_height=Reading(value=inches(38), tolerance=inches(0.25)),
            second_kg=600 * KG_PER_LB,
            second_height=Reading(value=inches(37), tolerance=inches(0.25)),
        )
        self.assert_pounds(800, result.main.value)
        # a quarter inch each: of the third tape 1, of the first 1/2, of the second 1 1/2 times
        self.assert_pounds(400 * 0.25 * 3, result.main.tolerance)

    def test_bars_give_back_180_of_the_220_that_the_front_axle_lost(self) -> None:
        """Slack 3,260, 4,520, 6,640; hung 3,440, 4,240, 6,740; alone 3,480: the front axle lost
        220 and has 180 back, 82 %; 100 went to the trailer's axles; 280 left the drive axle."""
        result = segmented(
            steer=lb(3260),
            drive=lb(4520),
            trailer_pad=lb(6640),
            steer_alone=lb(3480),
            drive_alone=lb(3420),
            tight=(lb(3440), lb(4240), lb(6740)),
        )
        found = {figure.of: figure.value for figure in result.figures}
        self.assert_pounds(880, found["tongue"])
        self.assert_pounds(180, found["front_given_back"])
        self.assertAlmostEqual(180 / 220, found["part_given_back"])
        self.assert_pounds(100, found["bars_to_trailer"])

    def test_the_same_thing_read_three_times(self) -> None:
        """380, 400 and 390: mean 390, scatter 10 (a handbook's sample standard deviation)."""
        result = again([lb(380), lb(400), lb(390)])
        self.assert_pounds(390, result.main.value)
        self.assert_pounds(10, result.figures[1].value)
        self.assert_pounds(statistics.stdev([380, 400, 390]), result.figures[1].value)

    def test_moved_18_in_on_a_200_in_lever_the_tongue_changed_by_481(self) -> None:
        """481 x 200 / 18 is 5,344."""
        result = two_placements(
            lb(1129), lb(648), moved_m=Reading(value=inches(18)), axles_m=inches(200)
        )
        self.assert_pounds(5344, result.main.value, delta=1)
