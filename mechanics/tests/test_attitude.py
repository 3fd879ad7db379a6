"""How the outfit rides, and what spring bars change."""

from __future__ import annotations

import math
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from mechanics.attitude import (
    attitude,
    axle_rate_wanted,
    missing_heights,
    rates_from_arches,
    weight_moment_kg_m,
)
from mechanics.bars import asks_for_bars, bars_fit, set_bars
from mechanics.errors import InputError
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.tests.outfits import example_plan, inch, lb
from mechanics.trailer import Suspension
from mechanics.truck import Ride


def riding(*, ball_in: float = 22, level_in: float = 20, high_in: float = 30) -> Plan:
    """The example outfit with its heights."""
    plan = example_plan()
    ride = Ride(
        ball_height_m=inch(ball_in),
        rear_rate_kg_per_m=lb(900) / inch(1),
        front_rate_kg_per_m=lb(1100) / inch(1),
    )
    item = plan.items[0]
    return replace(
        plan,
        truck=replace(plan.truck, ride=ride),
        trailer=replace(
            plan.trailer,
            coupler_height_m=inch(level_in),
            axle_height_m=inch(14),
            deck=replace(plan.trailer.deck, height_m=inch(25)),
        ),
        items=(replace(item, cg=replace(item.cg, height_m=inch(high_in))),),
    )


class Riding(SimpleTestCase):
    @given(st.floats(12, 34), st.floats(14, 26), st.floats(5, 60), st.floats(300, 4000))
    def test_the_fixed_point_is_the_direct_solution(
        self, ball: float, level: float, high: float, rate: float
    ) -> None:
        """Tongue = T0 - M h slope / Lc and slope = (ball - c tongue - level) / L at once."""
        plan = riding(ball_in=ball, level_in=level, high_in=high)
        ride = Ride(ball_height_m=inch(ball), rear_rate_kg_per_m=lb(rate) / inch(1))
        plan = replace(plan, truck=replace(plan.truck, ride=ride))
        found = attitude(plan)
        assert found is not None
        truck, lever = plan.truck, plan.trailer.axle_centre_m
        pitch = (truck.wheelbase_m + truck.hitch_offset_m) / truck.wheelbase_m
        gives = pitch**2 / ride.rear_rate_kg_per_m
        high_mass = weight_moment_kg_m(plan, loaded=True)
        level_tongue = compute_loads(plan).trailer.tongue_kg
        tilt = (ride.ball_height_m - inch(level)) / lever
        direct = (level_tongue - high_mass * tilt / lever) / (1 - high_mass * gives / lever**2)
        self.assertAlmostEqual(direct, found.loaded.loads.trailer.tongue_kg, places=5)

    def test_against_a_rigid_trailer_turned_about_its_axle(self) -> None:
        """The lever of every mass by the cosine and sine of the tilt, nothing small left out."""
        plan = riding(ball_in=27)
        found = attitude(plan)
        assert found is not None
        angle = math.atan(found.loaded.slope)
        trailer = plan.trailer
        deck = (trailer.deck.height_m or 0.0) - (trailer.axle_height_m or 0.0)
        lever = trailer.axle_centre_m
        masses = [
            (
                trailer.empty_mass_kg,
                trailer.empty_tongue_mass_kg * lever / trailer.empty_mass_kg,
                deck,
            )
        ]
        masses += [
            (
                i.mass_kg,
                lever - trailer.deck.start_m - i.balance_tape_m,
                deck + (i.cg.height_m or 0.0),
            )
            for i in plan.items
        ]
        turned = sum(m * (d * math.cos(angle) - h * math.sin(angle)) for m, d, h in masses)
        exact = turned / (lever * math.cos(angle))
        self.assertAlmostEqual(exact, found.loaded.loads.trailer.tongue_kg, delta=0.02)

    def test_a_high_nose_takes_load_off_the_tongue_and_a_lower_ball_levels_it(self) -> None:
        plan = riding(ball_in=28)
        found = attitude(plan)
        assert found is not None
        assert plan.truck.ride is not None
        self.assertGreater(found.loaded.nose_up_m, 0)
        self.assertLess(found.tongue_change_kg, 0)
        self.assertLess(found.ball_change_m, 0)
        self.assertGreater(found.before.nose_up_m, found.loaded.nose_up_m)
        lowered = replace(
            plan.truck.ride,
            ball_height_m=plan.truck.ride.ball_height_m + found.ball_change_m,
        )
        level = attitude(replace(plan, truck=replace(plan.truck, ride=lowered)))
        assert level is not None
        self.assertAlmostEqual(0.0, level.loaded.nose_up_m, places=9)
        self.assertAlmostEqual(0.0, level.tongue_change_kg, places=6)

    def test_squat_is_load_over_rate(self) -> None:
        found = attitude(riding())
        assert found is not None
        truck = found.loaded.loads.truck
        self.assertAlmostEqual(
            (truck.rear_kg - truck.rear_unhitched_kg) / (lb(900) / inch(1)),
            found.loaded.rear_squat_m,
        )
        self.assertGreater(found.loaded.front_rise_m, 0)

    def test_without_heights_nothing_is_said_and_what_is_missing_is_named(self) -> None:
        plan = example_plan()
        self.assertIsNone(attitude(plan))
        self.assertEqual(
            (
                "truck.ride",
                "trailer.coupler_height",
                "trailer.axle_height",
                "trailer.deck.height",
                "items[0].cg.height",
            ),
            missing_heights(plan),
        )

    def test_springs_too_soft_to_settle_say_nothing(self) -> None:
        plan = riding()
        soft = Ride(ball_height_m=inch(22), rear_rate_kg_per_m=1.0)
        self.assertIsNone(attitude(replace(plan, truck=replace(plan.truck, ride=soft))))

    def test_rates_from_two_arch_readings(self) -> None:
        """800 lb a foot behind the rear axle of a 160 in wheelbase: 860 lb on it, 60 lb off."""
        front, rear = rates_from_arches(
            mass_kg=lb(800),
            ahead_of_rear_axle_m=inch(-12),
            wheelbase_m=inch(160),
            front_drop_m=inch(-0.125),
            rear_drop_m=inch(1.25),
        )
        assert front is not None
        assert rear is not None
        self.assertAlmostEqual(lb(60) / inch(0.125), front)
        self.assertAlmostEqual(lb(860) / inch(1.25), rear)
        stuck = rates_from_arches(
            mass_kg=lb(800),
            ahead_of_rear_axle_m=inch(-12),
            wheelbase_m=inch(160),
            front_drop_m=inch(0.125),
            rear_drop_m=0.0,
        )
        self.assertEqual((None, None), stuck)


class Bars(SimpleTestCase):
    @given(st.floats(0, 1))
    def test_the_front_axle_gets_back_the_part_asked_for(self, part: float) -> None:
        setup = set_bars(example_plan(), part)
        lost = setup.slack.truck.front_unhitched_kg - setup.slack.truck.front_kg
        regained = setup.loads.truck.front_kg - setup.slack.truck.front_kg
        self.assertAlmostEqual(part * lost, regained, places=6)
        self.assertGreaterEqual(setup.gauge_kg, setup.loads.trailer.tongue_kg - 1e-9)

    def test_the_front_arch_comes_back_with_the_load(self) -> None:
        setup = set_bars(riding(), 0.5)
        assert setup.front_rise_before_m is not None
        assert setup.front_rise_m is not None
        self.assertAlmostEqual(setup.front_rise_before_m / 2, setup.front_rise_m)
        self.assertIsNotNone(setup.ball_height_m)
        full = set_bars(riding(), 1.0)
        self.assertAlmostEqual(0.0, full.front_rise_m or 0.0, places=9)

    def test_when_handbooks_ask(self) -> None:
        plan = example_plan()
        self.assertIn("heavy", asks_for_bars(plan))
        self.assertIn("half_of_truck", asks_for_bars(plan))
        self.assertEqual((), asks_for_bars(replace(plan, items=())))

    def test_over_the_bed_there_are_none(self) -> None:
        plan = example_plan()
        self.assertTrue(bars_fit(plan))
        self.assertFalse(bars_fit(replace(plan, truck=replace(plan.truck, hitch_offset_m=-0.1))))
        with self.assertRaises(InputError):
            set_bars(plan, 1.2)


class TorsionAxles(SimpleTestCase):
    def torsion(self, rate_lb_in: float | None, **heights: float) -> Plan:
        plan = riding(**heights)
        rate = None if rate_lb_in is None else lb(rate_lb_in) / inch(1)
        trailer = replace(plan.trailer, suspension=Suspension.INDEPENDENT, axle_rate_kg_per_m=rate)
        return replace(plan, trailer=trailer)

    def test_nose_low_loads_the_front_axle(self) -> None:
        """Axles at 183 and 217 in turn about 201.4 in; by that they go down per unit of slope."""
        plan = self.torsion(2000.0, ball_in=17)
        found = attitude(plan)
        assert found is not None
        low = -found.loaded.slope
        self.assertGreater(low, 0)
        pivot = (183**2 + 217**2) / (183 + 217)
        moment = weight_moment_kg_m(plan, loaded=True) * found.loaded.slope
        flat = compute_loads(plan, tilt_kg_m=moment).trailer
        front, rear = found.loaded.loads.trailer.axles_kg
        self.assertAlmostEqual(front - flat.axles_kg[0], lb(2000 * low * (pivot - 183)))
        self.assertAlmostEqual(rear - flat.axles_kg[1], lb(2000 * low * (pivot - 217)))
        gained = (front - flat.axles_kg[0]) + (rear - flat.axles_kg[1])
        self.assertAlmostEqual(found.loaded.loads.trailer.tongue_kg, flat.tongue_kg - gained)

    def test_the_rate_is_wanted_of_torsion_groups_alone(self) -> None:
        self.assertTrue(axle_rate_wanted(self.torsion(None)))
        self.assertFalse(axle_rate_wanted(self.torsion(2000.0)))
        self.assertFalse(axle_rate_wanted(riding()))
        single = self.torsion(None)
        one = replace(single.trailer, axles=single.trailer.axles[:1])
        self.assertFalse(axle_rate_wanted(replace(single, trailer=one)))

    def test_a_rate_of_nothing_is_refused(self) -> None:
        with self.assertRaisesMessage(InputError, "trailer.axle_rate"):
            self.torsion(0.0)
