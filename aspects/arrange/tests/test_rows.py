"""Lengths in a row that add up."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase

from aspects.arrange.page import RowOnDeck, row_of
from measures import UnitSystem
from mechanics.tests.outfits import example_plan, inch

US, METRIC = UnitSystem.US, UnitSystem.METRIC


def told(row: RowOnDeck) -> tuple[str, str, str]:
    """Its length, what the deck takes, and what is missing."""
    return row.length, row.takes, row.missing


class RowsThatAddUp(SimpleTestCase):
    def test_row_deck_and_what_is_missing(self) -> None:
        plan = example_plan()
        three = tuple(replace(plan.items[0], id=f"m{n}") for n in range(3))
        row = row_of(replace(plan, items=three), inch(2), US)
        # 3 x 164 in and 2 x 2 in between them, on 240 in
        self.assertEqual(("41 ft 4 in", "20 ft", "21 ft 4 in"), told(row))
        self.assertEqual("", row_of(plan, inch(2), US).missing)
        # a row is rounded up and a deck down, so that the three always add up
        odd = replace(
            plan,
            trailer=replace(plan.trailer, deck=replace(plan.trailer.deck, length_m=inch(163.8))),
        )
        self.assertEqual(("13 ft 8 in", "13 ft 7 1/2 in", "1/2 in"), told(row_of(odd, 0.0, US)))
