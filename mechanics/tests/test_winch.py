"""Winching: by hand."""

from __future__ import annotations

import math

from django.test import SimpleTestCase

from mechanics.loading import way
from mechanics.loading.winch import Rolling, haulage, layer_rating_kg, pull_kg
from mechanics.tests.climbing import climbing_plan
from mechanics.tests.outfits import inch, lb


class ByHand(SimpleTestCase):
    def test_up_a_3_4_5_slope_with_the_line_along_it(self) -> None:
        slope = math.asin(3 / 5)
        self.assertAlmostEqual(pull_kg(1000, slope, slope, 0.0), 600)
        # and a tenth of what presses on it, 800, for rolling
        self.assertAlmostEqual(pull_kg(1000, slope, slope, 0.1), 680)

    def test_a_level_line_on_a_slope_pulls_into_it(self) -> None:
        slope = math.asin(3 / 5)
        # along: 4/5 of the pull; it also presses with 3/5 of it
        expected = (600 + 0.1 * 800) / (4 / 5 - 0.1 * 3 / 5)
        self.assertAlmostEqual(pull_kg(1000, slope, 0.0, 0.1), expected)

    def test_a_line_square_to_the_slope_pulls_nowhere(self) -> None:
        self.assertEqual(pull_kg(1000, 0.0, -math.pi / 2, 0.1), math.inf)

    def test_each_layer_loses_a_tenth(self) -> None:
        self.assertEqual(
            [round(layer_rating_kg(5000, n)) for n in (1, 2, 3, 11, 20)],
            [5000, 4500, 4000, 0, 0],
        )

    def test_resistances_rise_from_hard_wheels_to_locked_ones(self) -> None:
        order = (
            Rolling.WHEELS_ON_DECK,
            Rolling.TIRES_ON_GRAVEL,
            Rolling.TRACKS,
            Rolling.SOFT_GROUND,
            Rolling.DRAGGED,
        )
        values = [one.resistance for one in order]
        self.assertEqual(values, sorted(values))

    def test_the_hardest_pull_along_the_way(self) -> None:
        found = way(climbing_plan(), 0)
        assert found.walk is not None
        assert found.path is not None

        def pulled(*, doubled: bool) -> float:
            assert found.walk is not None
            assert found.path is not None
            return haulage(
                found.walk,
                found.path,
                rating_kg=lb(5000),
                winch_height_m=inch(10),
                hook_height_m=inch(18),
                rolling=0.1,
                layer=2,
                doubled=doubled,
            ).winch_kg

        slope = math.asin(26 / 66)
        along = lb(5350) * (math.sin(slope) + 0.1 * math.cos(slope))
        # the line runs flatter than the ramp, so it takes more than along it
        self.assertGreater(pulled(doubled=False), along)
        self.assertLess(pulled(doubled=False), 1.25 * along)
        self.assertAlmostEqual(pulled(doubled=True), pulled(doubled=False) / 2)
