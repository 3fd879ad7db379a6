"""Each way of weighing against an example worked by hand. Common practice, no source, unless
one is named."""

from __future__ import annotations

from django.test import SimpleTestCase

from mechanics.units import KG_PER_LB, M_PER_IN
from mechanics.weighing import (
    Reading,
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
        self.assert_pounds(2880, wheel_by_wheel([lb(700), lb(720), lb(740), lb(720)]).main.value)

    def test_an_arch_that_sank_an_inch_under_640_and_an_inch_and_a_half_now(self) -> None:
        result = squat(Reading(value=inches(1.5)), known_kg=640 * KG_PER_LB, known_drop_m=inches(1))
        self.assert_pounds(960, result.main.value)

    def test_moved_18_in_on_a_200_in_lever_the_tongue_changed_by_481(self) -> None:
        """481 x 200 / 18 is 5,344."""
        result = two_placements(
            lb(1129), lb(648), moved_m=Reading(value=inches(18)), axles_m=inches(200)
        )
        self.assert_pounds(5344, result.main.value, delta=1)
