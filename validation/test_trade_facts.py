"""Facts of the trade as check values. All of them: common practice, no source."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase

from mechanics.hitch import HitchType
from mechanics.item import BalancePoint, Item, Placement
from mechanics.loads import compute_loads, tongue_per_metre_kg
from mechanics.report import evaluate
from mechanics.rules import Rules, TongueSchool
from mechanics.tests.outfits import example_plan, inch, lb
from mechanics.units import KG_PER_LB


class TradeFacts(SimpleTestCase):
    def test_175_lb_on_the_ball_of_a_1420_lb_trailer_is_12_3_percent(self) -> None:
        plan = replace(example_plan(), items=())
        trailer = replace(plan.trailer, empty_mass_kg=lb(1420), empty_tongue_mass_kg=lb(175))
        share = compute_loads(replace(plan, trailer=trailer)).trailer.share
        self.assertEqual(round(share * 100, 1), 12.3)

    def test_10_to_15_percent_of_2460_lb_is_about_250_to_370_lb(self) -> None:
        low, high = Rules().share_range(HitchType.BALL, 2)
        self.assertAlmostEqual(low * 2460, 250, delta=5)
        self.assertAlmostEqual(high * 2460, 370, delta=5)

    def test_15_to_25_percent_of_14400_lb_is_2160_to_3600_lb(self) -> None:
        low, high = Rules().share_range(HitchType.GOOSENECK, 2)
        self.assertAlmostEqual(low * 14400, 2160)
        self.assertAlmostEqual(high * 14400, 3600)

    def test_335_kg_is_about_739_lb(self) -> None:
        self.assertEqual(round(335 / KG_PER_LB), 739)

    def test_a_foot_and_a_half_with_a_5500_lb_tractor_is_worth_some_600_lb(self) -> None:
        """Seen with machines of 5,000 to 6,000 lb on trailers of this length."""
        plan = example_plan()
        heavy = replace(plan.items[0], mass_kg=lb(5500))
        trailer = replace(
            plan.trailer,
            axles=tuple(replace(a, position_m=a.position_m - inch(36)) for a in plan.trailer.axles),
        )
        per_metre = tongue_per_metre_kg(replace(plan, items=(heavy,), trailer=trailer)) or 0.0
        self.assertAlmostEqual(per_metre * inch(18) / lb(1), 600, delta=30)

    def test_a_7000_lb_trailer_carries_7000_lb_less_its_own_weight(self) -> None:
        plan = example_plan()
        trailer = replace(
            plan.trailer, gvwr_kg=lb(7000), empty_mass_kg=lb(1900), empty_tongue_mass_kg=lb(200)
        )
        for mass, expected in ((5099, False), (5101, True)):
            item = replace(plan.items[0], mass_kg=lb(mass))
            report = evaluate(replace(plan, trailer=trailer, items=(item,)))
            over = {c.code for c in report.checks if c.status.value == "over"}
            self.assertEqual("trailer.gvwr" in over, expected)

    def test_centred_over_the_axles_adds_nothing_to_the_tongue(self) -> None:
        plan = example_plan()
        over_axles = Item(
            id="m",
            mass_kg=lb(4000),
            cg=BalancePoint(ahead_m=0.0),
            front_m=1.0,
            rear_m=1.0,
            placement=Placement(reference_m=inch(200 - 52)),
        )
        loads = compute_loads(replace(plan, items=(over_axles,))).trailer
        self.assertAlmostEqual(loads.tongue_kg, loads.empty_tongue_kg)

    def test_100_lb_hung_3_ft_behind_a_bumper_takes_about_50_lb_off_the_tongue(self) -> None:
        """On a trailer whose axles stand 10 ft back and whose bumper is 2 ft behind them."""
        plan = example_plan()
        trailer = replace(
            plan.trailer,
            axles=tuple(
                replace(a, position_m=inch(at))
                for a, at in zip(plan.trailer.axles, (103, 137), strict=True)
            ),
        )
        rack = Item(
            id="rack",
            mass_kg=lb(100),
            cg=BalancePoint(ahead_m=0.0),
            front_m=0.2,
            rear_m=0.2,
            placement=Placement(reference_m=inch(120 + 24 + 36 - 52)),
        )
        loads = compute_loads(replace(plan, trailer=trailer, items=(rack,))).trailer
        self.assertAlmostEqual((loads.empty_tongue_kg - loads.tongue_kg) / lb(1), 50, delta=1)

    def test_a_light_truck_under_a_gooseneck_takes_only_the_lowest_part_of_the_school(self) -> None:
        plan = example_plan()
        goose = replace(
            plan,
            truck=replace(plan.truck, hitch_offset_m=inch(-3)),
            hitch=replace(plan.hitch, type=HitchType.GOOSENECK, parts=()),
            rules=Rules(tongue=TongueSchool.GOOSENECK_15_25),
        )
        piece = evaluate(goose).windows[0].intervals[0]
        self.assertEqual(piece.end_limit, "tongue.share_min")
