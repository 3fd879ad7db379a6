"""Moving, turning, trading, landing: what stays and what does not."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.item import Facing, Item
from mechanics.landmarks import SNAP_M, Kind, landed, landmarks
from mechanics.placing import (
    Obstacle,
    PlacingError,
    beside,
    moved,
    moved_sideways,
    reach,
    traded,
    turned,
    within_reach,
)
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.standing import best_standing, stood, stood_turned
from mechanics.tests.outfits import example_plan, inch, loaded_plans
from mechanics.ways_out import Kind as Way
from mechanics.ways_out import ways_out

STEPS = (inch(0.5), inch(0.25), inch(0.125), inch(0.0625))


def two(width: float | None = inch(40), deck: float | None = inch(96)) -> Plan:
    """A short machine ahead of another on the example's deck."""
    plan = example_plan()
    tractor = replace(plan.items[0], front_m=1.2, rear_m=0.8, width_m=width)
    first = replace(tractor, id="a", placement=replace(tractor.placement, reference_m=1.5))
    second = replace(tractor, id="b", placement=replace(tractor.placement, reference_m=4.0))
    trailer = replace(plan.trailer, deck=replace(plan.trailer.deck, width_m=deck))
    return replace(plan, items=(first, second), trailer=trailer)


def covered(item: Item) -> tuple[float, float]:
    """The piece of deck an item covers."""
    return round(item.foremost_m, 9), round(item.rearmost_m, 9)


class Turning(SimpleTestCase):
    @settings(max_examples=100)
    @given(loaded_plans)
    def test_an_item_covers_the_same_deck_and_comes_back(self, plan: Plan) -> None:
        once = turned(plan, 0)
        self.assertEqual(covered(plan.items[0]), covered(once.items[0]))
        self.assertNotEqual(plan.items[0].placement.facing, once.items[0].placement.facing)
        twice = turned(once, 0)
        self.assertAlmostEqual(
            plan.items[0].placement.reference_m, twice.items[0].placement.reference_m
        )
        self.assertEqual(plan.items[1:], once.items[1:])


class Moving(SimpleTestCase):
    @settings(max_examples=100)
    @given(loaded_plans, st.floats(-50, 50))
    def test_within_reach_and_nothing_else_moves(self, plan: Plan, to: float) -> None:
        at = within_reach(plan, 0, to)
        low, high = reach(plan, 0)
        self.assertTrue(low <= at <= high)
        there = moved(plan, 0, at)
        self.assertEqual(at, there.items[0].placement.reference_m)
        self.assertEqual(plan.items[1:], there.items[1:])
        aside = moved_sideways(plan, 0, 0.2)
        self.assertEqual(0.2, aside.items[0].placement.left_m)


class Trading(SimpleTestCase):
    def test_two_keep_the_deck_they_took_together(self) -> None:
        plan = two()
        back = traded(plan, 0, ahead=False)
        self.assertLess(back.items[1].foremost_m, back.items[0].foremost_m)
        self.assertAlmostEqual(plan.items[0].foremost_m, back.items[1].foremost_m)
        self.assertAlmostEqual(plan.items[1].rearmost_m, back.items[0].rearmost_m)
        again = traded(back, 0, ahead=True)
        self.assertEqual([covered(i) for i in plan.items], [covered(i) for i in again.items])

    def test_what_has_no_neighbour_that_way_says_so(self) -> None:
        for index, ahead, obstacle in (
            (0, True, Obstacle.NOTHING_AHEAD),
            (1, False, Obstacle.NOTHING_BEHIND),
        ):
            with self.assertRaises(PlacingError) as raised:
                traded(two(), index, ahead=ahead)
            self.assertIs(obstacle, raised.exception.obstacle)


class Beside(SimpleTestCase):
    def test_the_pair_is_clear_and_fills_the_middle(self) -> None:
        plan = beside(two(), 1)
        self.assertTrue(plan.items[1].clear_sideways_of(plan.items[0]))
        left = [i.placement.left_m for i in plan.items]
        self.assertAlmostEqual(0.0, sum(left))
        self.assertGreater(left[1], left[0])

    def test_why_it_cannot_be(self) -> None:
        alone = replace(two(), items=two().items[:1])
        for plan, index, obstacle, item in (
            (alone, 0, Obstacle.ALONE, ""),
            (two(deck=None), 0, Obstacle.DECK_WIDTH, ""),
            (two(width=None), 1, Obstacle.ITEM_WIDTH, "b"),
            (two(width=inch(60)), 1, Obstacle.TOO_WIDE, "a"),
        ):
            with self.subTest(obstacle=obstacle), self.assertRaises(PlacingError) as raised:
                beside(plan, index)
            self.assertEqual((obstacle, item), (raised.exception.obstacle, raised.exception.item))
            self.assertIn(obstacle.value, str(raised.exception))


class Landing(SimpleTestCase):
    def test_both_ends_neighbours_and_the_best_place_are_worth_standing_at(self) -> None:
        plan = two()
        kinds = [mark.kind for mark in landmarks(plan, 1, STEPS)]
        self.assertEqual({Kind.BEHIND, Kind.AHEAD, Kind.HEADBOARD, Kind.TAIL}, set(kinds[1:]))
        self.assertIn(kinds[0], (Kind.AIM, Kind.BEST))

    def test_a_drag_lands_within_the_snap_and_not_beyond(self) -> None:
        plan = two()
        tail = next(m for m in landmarks(plan, 1, STEPS) if m.kind is Kind.TAIL)
        near = landed(plan, 1, tail.at_m + SNAP_M * 0.9, STEPS)
        self.assertIsNotNone(near)
        self.assertIsNone(landed(plan, 1, tail.at_m + SNAP_M * 1.1, STEPS))


class Standing(SimpleTestCase):
    def test_stood_is_the_best_place_and_turned_round_the_best_that_way(self) -> None:
        plan = example_plan()
        best = best_standing(plan, 0, STEPS)
        assert best is not None
        self.assertEqual(best.at_m, stood(plan, 0, STEPS).items[0].placement.reference_m)
        back = stood_turned(plan, 0, STEPS)
        self.assertIs(Facing.BACKWARD, back.items[0].placement.facing)
        there = best_standing(back, 0, STEPS)
        assert there is not None
        self.assertEqual(there.at_m, back.items[0].placement.reference_m)

    def test_a_full_deck_stands_the_last_flush_with_the_tail(self) -> None:
        plan = two()
        long = replace(plan.items[1], front_m=4.0, rear_m=3.0)
        full = stood(replace(plan, items=(plan.items[0], long)), 1, STEPS)
        self.assertAlmostEqual(full.trailer.deck.length_m, full.items[1].rearmost_m)


class WaysOut(SimpleTestCase):
    @settings(max_examples=30)
    @given(loaded_plans)
    def test_each_way_out_opens_the_window(self, plan: Plan) -> None:
        if evaluate(plan).windows[0].intervals:
            return
        for way in ways_out(plan, 0):
            if way.kind is Way.TURN:
                self.assertTrue(evaluate(turned(plan, 0)).windows[0].intervals)
            if way.kind is Way.LIGHTER:
                item = plan.items[0]
                lighter = replace(item, mass_kg=item.mass_kg - way.less_kg)
                plan_there = replace(plan, items=(lighter, *plan.items[1:]))
                self.assertTrue(evaluate(plan_there).windows[0].intervals)
