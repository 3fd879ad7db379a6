"""Slips of the pen: a deck of a kilometre, a hundred loads."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from mechanics.bounds import LONGEST_M, MOST_ITEMS
from mechanics.errors import InputError
from mechanics.report import evaluate
from mechanics.tests.outfits import example_plan


class Bounds(TestCase):
    def test_a_deck_and_a_reach_have_a_length_that_can_be_drawn(self) -> None:
        plan = example_plan()
        with self.assertRaisesRegex(InputError, "at most 100 m"):
            replace(plan.trailer.deck, length_m=LONGEST_M * 1.01)
        with self.assertRaisesRegex(InputError, "at most 100 m"):
            replace(plan.trailer.deck, start_m=-LONGEST_M * 1.01)
        with self.assertRaisesRegex(InputError, "at most 100 m"):
            replace(plan.items[0], rear_m=LONGEST_M * 1.01)

    def test_many_loads_are_worked_out_and_more_refused(self) -> None:
        plan = example_plan()
        items = [replace(plan.items[0], id=f"load {n}") for n in range(MOST_ITEMS + 1)]
        self.assertEqual(len(evaluate(replace(plan, items=tuple(items[:40]))).plan.items), 40)
        with self.assertRaisesRegex(InputError, "at most 60 loads"):
            replace(plan, items=tuple(items))
