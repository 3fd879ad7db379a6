"""Arrangements: every limit holds, wishes are kept, and equals are told apart."""

from __future__ import annotations

import random
from dataclasses import replace

from django.test import SimpleTestCase

from mechanics.arrange import Wishes, arrange
from mechanics.changes import Kind, changes
from mechanics.checks import Status
from mechanics.item import BalancePoint, Facing, Item, Placement
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.tests.outfits import example_plan, inch, lb, random_plan, tractor


def piece(
    item_id: str, pounds: float, length_in: float, width_in: float | None = None, *, at: float = 60
) -> Item:
    """A piece of load with its mark and balance point in its middle."""
    return Item(
        id=item_id,
        mass_kg=lb(pounds),
        cg=BalancePoint(ahead_m=0.0),
        front_m=inch(length_in / 2),
        rear_m=inch(length_in / 2),
        width_m=None if width_in is None else inch(width_in),
        placement=Placement(reference_m=inch(at)),
    )


def loaded(*items: Item) -> Plan:
    """The example outfit under these."""
    return replace(example_plan(), items=items)


class Arranging(SimpleTestCase):
    def test_what_is_found_holds_and_cannot_be_bettered_by_moving_one_item(self) -> None:
        for seed in range(30):
            plan = random_plan(random.Random(seed), items=1 + seed % 3)
            for found in arrange(plan).found:
                report = evaluate(found.plan)
                self.assertEqual([], [c for c in report.checks if c.status is Status.OVER])
                if len(plan.items) == 1 and report.windows[0].aim_m is not None:
                    alone = evaluate(
                        found.plan.with_placement(
                            plan.items[0].id,
                            replace(
                                found.plan.items[0].placement,
                                reference_m=report.windows[0].aim_m,
                            ),
                        )
                    )
                    mine, aims = (
                        min(c.reserve for c in r.checks if c.reserve is not None and not c.item)
                        for r in (report, alone)
                    )
                    self.assertGreaterEqual(mine, aims - 1e-5)

    def test_a_sure_arrangement_stands_in_the_sure_window_of_each_item(self) -> None:
        seen = 0
        for seed in range(60):
            plan = random_plan(random.Random(100 + seed), items=2)
            for found in arrange(plan).found:
                if not found.sure:
                    continue
                seen += 1
                for item, window in zip(
                    found.plan.items, evaluate(found.plan).windows, strict=True
                ):
                    at = item.placement.reference_m
                    self.assertTrue(
                        any(p.start_m - 1e-6 <= at <= p.end_m + 1e-6 for p in window.sure)
                    )
        self.assertGreater(seen, 5)

    def test_the_order_in_which_items_are_listed_changes_nothing(self) -> None:
        for seed in range(15):
            plan = random_plan(random.Random(300 + seed), items=3)
            turned_round = replace(plan, items=tuple(reversed(plan.items)))
            one, two = arrange(plan), arrange(turned_round)
            self.assertEqual(len(one.found), len(two.found))
            for a, b in zip(one.found, two.found, strict=True):
                self.assertAlmostEqual(a.least_reserve, b.least_reserve, delta=3e-5)

    def test_locked_items_stay_and_what_comes_off_first_stands_behind(self) -> None:
        plan = loaded(piece("a", 1500, 60), piece("b", 900, 50), piece("c", 700, 40))
        locked = arrange(plan, Wishes(locked=frozenset({"a"})))
        self.assertEqual(plan.items[0].placement, locked.found[0].plan.item("a").placement)
        for first, second in (("a", "b"), ("b", "a")):
            found = arrange(plan, Wishes(comes_off=((first, second),))).found[0].plan
            self.assertGreaterEqual(
                found.item(first).foremost_m, found.item(second).rearmost_m - 1e-6
            )

    def test_room_between_neighbours_is_kept(self) -> None:
        plan = loaded(piece("a", 1500, 60), piece("b", 900, 50))
        found = arrange(plan, Wishes(room_m=0.1)).found[0].plan
        self.assertGreaterEqual(found.items[0].gap_to_m(found.items[1]), 0.1 - 1e-6)

    def test_two_that_are_too_long_for_the_deck_stand_beside_each_other(self) -> None:
        plan = loaded(piece("a", 2200, 150, 38), piece("b", 2200, 150, 40))
        self.assertEqual((), arrange(plan, Wishes(beside=False)).found)
        found = arrange(plan).found[0].plan
        self.assertTrue(found.items[0].clear_sideways_of(found.items[1]))
        for item in found.items:
            half = (item.width_m or 0.0) / 2
            self.assertLessEqual(abs(item.placement.left_m) + half, inch(41) + 1e-6)

    def test_of_equals_nothing_is_turned_and_the_listed_order_stays(self) -> None:
        plan = loaded(piece("a", 1500, 60), piece("b", 1500, 60))
        found = arrange(plan).found[0].plan
        self.assertLess(found.items[0].rearmost_m, found.items[1].foremost_m + 1e-6)
        self.assertEqual({Facing.FORWARD}, {i.placement.facing for i in found.items})

    def test_alternatives_differ_and_are_no_better(self) -> None:
        plan = loaded(piece("a", 1900, 60), piece("b", 900, 50))
        found = arrange(plan, alternatives=3).found
        self.assertGreater(len(found), 1)
        seen = set()
        for one in found:
            order = one.plan.items[0].foremost_m < one.plan.items[1].foremost_m
            seen.add((order, *(i.placement.facing for i in one.plan.items)))
            self.assertLessEqual(one.least_reserve, found[0].least_reserve + 3e-5)
        self.assertEqual(len(found), len(seen))

    def test_what_no_arrangement_can_keep_is_named(self) -> None:
        heavy = replace(tractor(), mass_kg=lb(9000))
        found = arrange(loaded(heavy))
        self.assertEqual((), found.found)
        self.assertEqual(("trailer.gvwr",), found.always_over)

    def test_contradicting_locks_find_nothing_and_raise_nothing(self) -> None:
        plan = loaded(piece("a", 900, 60, at=100), piece("b", 900, 60, at=120))
        both = arrange(plan, Wishes(locked=frozenset({"a"})))
        self.assertTrue(both.proved)
        circle = arrange(plan, Wishes(comes_off=(("a", "b"), ("b", "a"))))
        self.assertEqual(((), True), (circle.found, circle.proved))

    def test_what_is_locked_where_it_cannot_stand_finds_nothing_and_is_named(self) -> None:
        """In each other, or off the deck; the one whose freedom helps is named, and only that."""
        inside = loaded(piece("a", 900, 60, at=100), piece("b", 900, 60, at=120))
        self.assertEqual((), arrange(inside, Wishes(locked=frozenset("ab"))).found)
        named = changes(inside, Wishes(locked=frozenset("ab")))
        self.assertEqual([("b",)], [c.items for c in named if c.kind is Kind.FREE])
        self.assertTrue(arrange(inside, Wishes(locked=frozenset("a"))).found)
        self.assertFalse(arrange(inside, Wishes(locked=frozenset("b"))).found)
        off = loaded(piece("a", 900, 60, at=20), piece("b", 900, 50, at=150))
        self.assertEqual((), arrange(off, Wishes(locked=frozenset("a"))).found)
        self.assertEqual(("a",), changes(off, Wishes(locked=frozenset("a")))[0].items)

    def test_two_locked_closer_than_the_room_that_is_wished_may_stay(self) -> None:
        plan = loaded(piece("a", 1500, 60, at=100), piece("b", 900, 50, at=156))
        found = arrange(plan, Wishes(locked=frozenset("ab"), room_m=0.2)).found
        self.assertEqual(plan, found[0].plan)

    def test_a_wish_for_an_item_that_is_not_there_is_an_error(self) -> None:
        with self.assertRaises(KeyError):
            arrange(loaded(piece("a", 900, 60)), Wishes(locked=frozenset({"nobody"})))

    def test_an_empty_deck_and_a_rating_of_zero(self) -> None:
        self.assertEqual((), arrange(loaded()).found)
        plan = loaded(piece("a", 900, 60))
        nothing = replace(plan, trailer=replace(plan.trailer, gvwr_kg=0.0))
        self.assertEqual(("trailer.gvwr",), arrange(nothing).always_over)
