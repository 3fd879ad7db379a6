"""Each way of weighing against an example worked by hand. Common practice, no source, unless
one is named."""

from __future__ import annotations

import random
import statistics
from collections.abc import Callable

from django.test import SimpleTestCase

from mechanics.units import KG_PER_LB, M_PER_IN
from mechanics.weighing import (
    Beam,
    Reading,
    Result,
    again,
    at_the_ball,
    at_the_jack,
    axle_by_axle,
    before_and_after,
    hitched_axle_by_axle,
    hung,
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


def taped(number: float, within: float = 0.0) -> Reading:
    """A taped length in inches."""
    return Reading(value=inches(number), tolerance=inches(within))


def beam(within: float = 0.0) -> Beam:
    """A beam of 33 in with the load 11 in from the pivot, 12 lb by itself."""
    return Beam(tare=lb(12), beam_m=taped(33, within), arm_m=taped(11, within))


class WorkedByHand(SimpleTestCase):
    def assert_pounds(self, expected: float, kilograms: float, delta: float = 0.5) -> None:
        self.assertAlmostEqual(expected, kilograms / KG_PER_LB, delta=delta)

    def test_303_net_on_a_33_in_beam_11_in_from_the_load_is_909(self) -> None:
        result = lever(lb(315), beam=beam())
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
        result = at_the_jack(lb(400), jack_m=taped(15), axles_m=taped(200))
        self.assert_pounds(370, result.main.value)

    def test_wheels(self) -> None:
        """700 and 740 on the left, 720 and 720 on the right: 2,880, of which 1,440 a side."""
        result = wheel_by_wheel([lb(700), lb(740)], [lb(720), lb(720)], of="machine")
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
        # at the worst corner the arch stood at 37 3/4, 37 1/4 and 36 1/4: 200 + 3 x 400
        self.assert_pounds(1400 - 800, result.main.tolerance)

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
        result = two_placements(lb(1129), lb(648), moved_m=taped(18), axles_m=taped(200))
        self.assert_pounds(5344, result.main.value, delta=1)

    def test_half_an_inch_on_an_11_in_arm_is_43_of_909(self) -> None:
        """With the beam's own tape exact: 303 x 33 / 10 1/2 is 952."""
        exact = Beam(tare=lb(12), beam_m=taped(33), arm_m=taped(11, 0.5))
        self.assert_pounds(43, lever(lb(315), beam=exact).main.tolerance)

    def test_wheels_of_909_and_696_over_a_beam(self) -> None:
        """(311 - 8) x 3 and (240 - 8) x 3."""
        over = Beam(tare=lb(8), beam_m=taped(33), arm_m=taped(11))
        result = wheel_by_wheel([lb(311)], [lb(240)], of="trailer", beam=over)
        left, right = result.figures[1:3]
        self.assert_pounds(909, left.value)
        self.assert_pounds(696, right.value)

    def test_an_empty_trailer_of_2900_on_four_wheels_of_630(self) -> None:
        """Its wheels carry 2,520; with 380 on the ball it is 2,900."""
        wheels = ([lb(630), lb(630)], [lb(630), lb(630)])
        self.assert_pounds(2520, wheel_by_wheel(*wheels, of="trailer").main.value)
        whole = wheel_by_wheel(*wheels, of="trailer", tongue=lb(380))
        self.assert_pounds(2900, whole.main.value)

    def test_a_hitched_ticket_of_3100_6900_13600(self) -> None:
        """Front 3,100, rear 3,800 with the tongue in it, trailer axles 6,700; the truck alone at
        3,280 and 5,900 leaves 1,000 on the tongue and 7,700 for the trailer."""
        steps = [lb(3100), lb(6900), lb(13600)]
        found = {f.of: f.value for f in hitched_axle_by_axle(steps).figures}
        self.assert_pounds(6700, found["trailer_axles"])
        self.assert_pounds(3800, found["truck_rear_hitched"])
        both = hitched_axle_by_axle(steps, (lb(3280), lb(5900))).figures
        found = {f.of: f.value for f in both}
        self.assert_pounds(7700, found["trailer"])
        self.assert_pounds(1000, found["tongue"])
        self.assert_pounds(2620, found["truck_rear"])

    def test_a_pin_of_1352_with_20_of_rigging_is_1332(self) -> None:
        self.assert_pounds(1332, hung(lb(1352), rigging=lb(20)).main.value)


class AgainstSampling(SimpleTestCase):
    """The stated doubt against 4,000 draws of every reading within its own: never passed, and
    reached where all are unlucky at once. Source: arithmetic of chance."""

    def sampled(self, weigh: Callable[..., Result], readings: dict[str, Reading]) -> None:
        def exact(**values: float) -> float:
            return weigh(**{n: Reading(value=v) for n, v in values.items()}).main.value

        stated = weigh(**readings).main
        rng = random.Random(11)
        worst = 0.0
        for _ in range(4000):
            drawn = {
                n: r.value + r.tolerance * rng.choice((-1.0, 1.0, rng.uniform(-1, 1)))
                for n, r in readings.items()
            }
            worst = max(worst, abs(exact(**drawn) - stated.value))
        self.assertLessEqual(worst, stated.tolerance * (1 + 1e-9))
        self.assertGreaterEqual(worst, 0.97 * stated.tolerance)

    def test_a_load_over_a_beam(self) -> None:
        self.sampled(
            lambda reading, tare, length, arm: lever(
                reading, beam=Beam(tare=tare, beam_m=length, arm_m=arm)
            ),
            {
                "reading": Reading(value=143.0, tolerance=1.9),
                "tare": Reading(value=5.4, tolerance=0.5),
                "length": taped(33, 0.5),
                "arm": taped(11, 0.5),
            },
        )

    def test_wheels_over_a_beam_and_a_tongue(self) -> None:
        wheels = {f"w{n}": Reading(value=120.0 + 7 * n, tolerance=1.7) for n in range(4)}
        over = Beam(
            tare=Reading(value=4.0, tolerance=0.5), beam_m=taped(36, 0.25), arm_m=taped(12, 0.25)
        )

        def weigh(**found: Reading) -> Result:
            # the beam is the same for all wheels; here each is as unlucky as it can be by itself
            return wheel_by_wheel(
                [found["w0"], found["w1"]], [found["w2"], found["w3"]], of="trailer", beam=over
            )

        stated = weigh(**wheels).main
        rng = random.Random(3)
        worst = 0.0
        for _ in range(4000):
            luck = rng.choice((-1.0, 1.0))
            tare = 4.0 + 0.5 * luck
            factor = inches(36 - 0.25 * luck) / inches(12 + 0.25 * luck)
            total = sum(
                (r.value - r.tolerance * luck * rng.random() ** 0.05 - tare) * factor
                for r in wheels.values()
            )
            worst = max(worst, abs(total - stated.value))
        self.assertLessEqual(worst, stated.tolerance * (1 + 1e-9))
        self.assertGreaterEqual(worst, 0.95 * stated.tolerance)

    def test_wheels_without_a_beam(self) -> None:
        self.sampled(
            lambda **found: wheel_by_wheel(
                [found["a"], found["b"]], [found["c"], found["d"]], of="trailer", tongue=found["t"]
            ),
            {n: Reading(value=300.0, tolerance=4.0) for n in "abcdt"},
        )

    def test_two_places_a_foot_apart(self) -> None:
        self.sampled(
            lambda first, second, moved, axles: two_placements(
                first, second, moved_m=moved, axles_m=axles
            ),
            {
                "first": Reading(value=512.0, tolerance=9.6),
                "second": Reading(value=380.0, tolerance=8.3),
                "moved": taped(12, 0.5),
                "axles": taped(200, 0.5),
            },
        )

    def test_an_arch_under_two_known_loads(self) -> None:
        self.sampled(
            lambda now, one, two: squat(
                now, first_kg=90.0, first_height=one, second_kg=290.0, second_height=two
            ),
            {"now": taped(36.5, 0.25), "one": taped(38, 0.25), "two": taped(36.75, 0.25)},
        )

    def test_a_jack_and_its_tapes(self) -> None:
        self.sampled(
            lambda reading, jack, axles: at_the_jack(reading, jack_m=jack, axles_m=axles),
            {
                "reading": Reading(value=181.0, tolerance=2.3),
                "jack": taped(15, 0.5),
                "axles": taped(120, 0.5),
            },
        )
