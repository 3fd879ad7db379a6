"""Windows, their ends, contradictions and aims."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given, settings

from mechanics.checks import Status
from mechanics.item import Facing, Placement
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.rules import Rules, TongueSchool
from mechanics.tests.outfits import example_plan, inch, lb, loaded_plans, with_bars
from mechanics.windows import Interval


def moved(plan: Plan, index: int, at: float) -> Plan:
    """The plan with one item's mark at another place."""
    item = plan.items[index]
    return plan.with_placement(item.id, replace(item.placement, reference_m=at))


class ExampleWindow(SimpleTestCase):
    def test_window_of_example(self) -> None:
        """Ends where 380 + 5350 (170 + 8 - ref + 52 ... ) reaches 15 and 10 % of 8,250 lb."""
        window = evaluate(example_plan()).windows[0]
        (piece,) = window.intervals
        slope = 5350 / 200
        self.assertAlmostEqual(piece.start_m, inch(150 + (1129 - 0.15 * 8250) / slope))
        self.assertAlmostEqual(piece.end_m, inch(150 + (1129 - 0.10 * 8250) / slope))
        self.assertEqual(
            (piece.start_limit, piece.end_limit), ("tongue.share_max", "tongue.share_min")
        )

    def test_turned_round_the_window_mirrors_about_the_balance_point(self) -> None:
        plan = example_plan()
        item = replace(plan.items[0], placement=Placement(reference_m=4.0, facing=Facing.BACKWARD))
        forward = evaluate(plan).windows[0].intervals[0]
        backward = evaluate(replace(plan, items=(item,))).windows[0].intervals[0]
        self.assertAlmostEqual(backward.start_m, forward.start_m - 2 * inch(30))

    def test_an_end_past_rating_of_the_truck(self) -> None:
        plan = example_plan()
        plan = replace(plan, truck=replace(plan.truck, payload_kg=lb(405 + 1000)))
        piece = evaluate(plan).windows[0].intervals[0]
        self.assertEqual(piece.start_limit, "truck.payload")
        self.assertAlmostEqual(piece.start_m, inch(150 + 129 / (5350 / 200)))

    def test_over_everywhere_names_the_limit_twice(self) -> None:
        plan = example_plan()
        plan = replace(plan, trailer=replace(plan.trailer, gvwr_kg=lb(8000)))
        window = evaluate(plan).windows[0]
        self.assertEqual(window.contradiction, ("trailer.gvwr", "trailer.gvwr"))
        self.assertEqual((window.intervals, window.sure, window.aim_m), ((), (), None))

    def test_front_axle_that_bars_hold_over_its_rating_is_over_everywhere(self) -> None:
        plan = with_bars(example_plan(), 1.0)
        plan = replace(plan, truck=replace(plan.truck, front_gawr_kg=lb(4200)))
        self.assertEqual(
            evaluate(plan).windows[0].contradiction, ("truck.front_gawr", "truck.front_gawr")
        )

    def test_longer_than_the_deck(self) -> None:
        plan = example_plan()
        item = replace(plan.items[0], front_m=inch(150), rear_m=inch(140))
        anything = Rules(tongue=TongueSchool.CUSTOM, share_min=0.0, share_max=0.3)
        window = evaluate(replace(plan, items=(item,), rules=anything)).windows[0]
        self.assertEqual(window.contradiction, ("deck.front", "deck.rear"))

    def test_share_against_the_deck(self) -> None:
        plan = example_plan()
        item = replace(plan.items[0], front_m=inch(170))
        window = evaluate(replace(plan, items=(item,))).windows[0]
        self.assertEqual(window.contradiction, ("deck.front", "tongue.share_min"))

    def test_a_window_of_one_place(self) -> None:
        share = 1129 / 8250
        rules = Rules(tongue=TongueSchool.CUSTOM, share_min=share, share_max=share)
        window = evaluate(replace(example_plan(), rules=rules)).windows[0]
        self.assertEqual(len(window.intervals), 1)
        self.assertAlmostEqual(window.intervals[0].start_m, inch(150), places=6)
        self.assertAlmostEqual(window.intervals[0].end_m, inch(150), places=6)

    def test_neighbour_takes_a_piece_out(self) -> None:
        """Between the places before and behind the neighbour nothing may stand."""
        plan = example_plan()
        small = replace(
            plan.items[0], id="s", mass_kg=20.0, mass_tolerance_kg=0.0, front_m=0.2, rear_m=0.2
        )
        small = replace(small, placement=Placement(reference_m=0.3))
        other = replace(plan.items[0], placement=Placement(reference_m=inch(152)))
        window = evaluate(replace(plan, items=(small, other))).windows[0]
        before, behind = window.intervals
        self.assertEqual((before.end_limit, behind.start_limit), ("item.tractor", "item.tractor"))
        self.assertAlmostEqual(before.end_m, inch(152 - 118) - 0.2)
        self.assertAlmostEqual(behind.start_m, inch(152 + 46) + 0.2)

    def test_neighbours_that_take_all_of_it_are_named(self) -> None:
        """The neighbour stands in the middle of the window and is longer than it."""
        plan = example_plan()
        light = replace(plan.items[0], id="s", mass_kg=20.0, mass_tolerance_kg=0.0)
        light = replace(
            light, front_m=inch(60), rear_m=inch(60), placement=Placement(reference_m=3.0)
        )
        for wall_at, expected in (
            (150, ("item.tractor", "deck.rear")),
            (186, ("deck.front", "item.tractor")),
        ):
            wall = replace(
                plan.items[0], mass_kg=20.0, placement=Placement(reference_m=inch(wall_at))
            )
            crowded = replace(plan, items=(light, wall))
            self.assertEqual(evaluate(crowded).windows[0].contradiction, expected)

    def test_equal_limits_at_one_place_name_the_first_in_order(self) -> None:
        """Both axles reach their ratings at one place; the first code makes the end."""
        plan = example_plan()
        axles = tuple(
            replace(a, gawr_kg=lb(3600), tire_capacity_kg=None) for a in plan.trailer.axles
        )
        plan = replace(plan, trailer=replace(plan.trailer, axles=axles))
        piece = evaluate(plan).windows[0].intervals[0]
        self.assertEqual(piece.end_limit, "trailer.axle_1.gawr")

    def test_an_interval_cannot_end_before_it_starts(self) -> None:
        with self.assertRaisesMessage(ValueError, "ends before it starts"):
            Interval(start_m=2.0, end_m=1.0, start_limit="a", end_limit="b")


class TapedPlaces(SimpleTestCase):
    """Axles, deck and mark are no surer than the tape."""

    def exact(self, **off: float) -> Plan:
        """The example with every figure exact but the named lengths."""
        plan = example_plan()
        trailer = replace(
            plan.trailer,
            empty_mass_tolerance_kg=0.0,
            empty_tongue_mass_tolerance_kg=0.0,
            axles_tolerance_m=inch(off.get("axles", 0.0)),
            deck=replace(plan.trailer.deck, start_tolerance_m=inch(off.get("deck", 0.0))),
        )
        item = plan.items[0]
        item = replace(
            item,
            mass_tolerance_kg=0.0,
            cg=replace(item.cg, ahead_tolerance_m=0.0),
            placement=replace(item.placement, reference_tolerance_m=inch(off.get("stop", 0.0))),
        )
        return replace(plan, trailer=trailer, items=(item,))

    def drawn_in(self, plan: Plan) -> tuple[float, float]:
        """By how much the sure window is shorter than the safe one, at its two ends, in."""
        window = evaluate(plan).windows[0]
        safe, sure = window.intervals[0], window.sure[0]
        return (sure.start_m - safe.start_m) / inch(1), (safe.end_m - sure.end_m) / inch(1)

    def test_exact_places_leave_all_of_it(self) -> None:
        self.assertEqual(self.drawn_in(self.exact()), (0.0, 0.0))

    def test_a_deck_half_an_inch_off_costs_half_an_inch_at_either_end(self) -> None:
        for found in self.drawn_in(self.exact(deck=0.5)):
            self.assertAlmostEqual(found, 0.5)

    def test_axles_an_inch_off_cost_most_of_an_inch(self) -> None:
        """The end where T = s M stands at Lc (1 - (s M - Te) / m): an inch of Lc is 1 - (15 % of
        8,250 - 380) / 5,350 = 0.840 of one at the front, 0.917 at the tail."""
        front, tail = self.drawn_in(self.exact(axles=1.0))
        self.assertAlmostEqual(front, 1 - (0.15 * 8250 - 380) / 5350)
        self.assertAlmostEqual(tail, 1 - (0.10 * 8250 - 380) / 5350)

    def test_stopping_an_inch_off_costs_an_inch_at_either_end(self) -> None:
        for found in self.drawn_in(self.exact(stop=1.0)):
            self.assertAlmostEqual(found, 1.0)

    def test_stopping_counts_at_neighbours_too(self) -> None:
        plan = self.exact(stop=1.0)
        small = replace(plan.items[0], id="s", mass_kg=20.0, front_m=0.2, rear_m=0.2)
        small = replace(small, placement=replace(small.placement, reference_m=0.3))
        window = evaluate(replace(plan, items=(small, plan.items[0]))).windows[0]
        self.assertEqual(window.sure[0].end_limit, "item.tractor")
        self.assertAlmostEqual(window.intervals[0].end_m - window.sure[0].end_m, inch(1))

    def test_a_window_narrower_than_the_stop_is_not_sure_anywhere(self) -> None:
        plan = self.exact(stop=8.0)
        window = evaluate(plan).windows[0]
        self.assertEqual((len(window.intervals), window.sure), (1, ()))


class FrontAxleUnderBars(SimpleTestCase):
    def test_bars_that_give_back_a_part_leave_the_rest_to_the_tongue(self) -> None:
        """A front axle too heavy unhitched needs 1,000 lb of tongue, less what bars give back."""
        plan = example_plan()
        unhitched = compute_loads(plan).truck.front_unhitched_kg
        for part in (0.0, 0.25, 0.5, 0.75):
            gawr = unhitched - lb(1000) * (1 - part) * 50 / 160
            truck = replace(plan.truck, front_gawr_kg=gawr)
            barred = with_bars(replace(plan, truck=truck), part)
            piece = evaluate(barred).windows[0].intervals[0]
            self.assertEqual("truck.front_gawr", piece.end_limit)
            there = compute_loads(moved(barred, 0, piece.end_m))
            self.assertAlmostEqual(lb(1000), there.trailer.tongue_kg, places=6)
            self.assertAlmostEqual(gawr, there.truck.front_kg, places=6)


class WindowProperties(SimpleTestCase):
    @given(loaded_plans)
    @settings(max_examples=250)
    def test_every_end_has_its_check_exactly_at_the_limit(self, plan: Plan) -> None:
        for index, window in enumerate(evaluate(plan).windows):
            for piece in window.intervals:
                for at, code in (
                    (piece.start_m, piece.start_limit),
                    (piece.end_m, piece.end_limit),
                ):
                    report = evaluate(moved(plan, index, at))
                    item = plan.items[index].id
                    check = next(
                        c
                        for c in report.checks
                        if (c.code == code and c.item in (None, item))
                        or (
                            code.startswith("item.")
                            and c.code == f"item.{item}"
                            and c.item == code[5:]
                        )
                    )
                    self.assertAlmostEqual(check.margin or 0.0, 0.0, delta=1e-6)
                    self.assertIsNot(check.status, Status.OVER)

    @given(loaded_plans)
    @settings(max_examples=150)
    def test_sure_lies_inside_safe_and_aim_inside_both(self, plan: Plan) -> None:
        for window in evaluate(plan).windows:
            for sure in window.sure:
                self.assertTrue(
                    any(
                        safe.start_m - 1e-9 <= sure.start_m and sure.end_m <= safe.end_m + 1e-9
                        for safe in window.intervals
                    )
                )
            pieces = window.sure or window.intervals
            if window.aim_m is None:
                self.assertFalse(pieces)
            else:
                self.assertTrue(
                    any(p.start_m - 1e-9 <= window.aim_m <= p.end_m + 1e-9 for p in pieces)
                )

    @given(loaded_plans)
    @settings(max_examples=60)
    def test_no_place_has_a_larger_smallest_reserve_than_the_aim(self, plan: Plan) -> None:
        """Against a dense row of places in the same intervals."""

        def least(index: int, at: float) -> float:
            here = evaluate(moved(plan, index, at)).checks
            there = evaluate(moved(plan, index, at + 0.01)).checks
            return min(
                (
                    one.margin / abs(one.limit)
                    for one, two in zip(here, there, strict=True)
                    if one.item is None
                    and one.limit
                    and one.margin is not None
                    and abs(one.value - two.value) > 1e-9
                ),
                default=0.0,
            )

        for index, window in enumerate(evaluate(plan).windows):
            if window.aim_m is None:
                continue
            best = least(index, window.aim_m)
            for piece in window.sure or window.intervals:
                for step in range(21):
                    at = piece.start_m + (piece.end_m - piece.start_m) * step / 20
                    self.assertLessEqual(least(index, at), best + 1e-7)
