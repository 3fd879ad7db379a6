"""Rules are raised, clear or unknown by their conditions alone."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from mechanics.errors import InputError
from mechanics.law import (
    CANADA,
    EU,
    MASSES,
    UK,
    US,
    Condition,
    Fact,
    OnTheRoad,
    Rule,
    Standing,
    flags,
    stands,
)

LIGHT = OnTheRoad(
    truck_plate_kg=3000.0,
    trailer_plate_kg=1500.0,
    truck_empty_kg=2200.0,
    trailer_kg=1200.0,
    together_kg=3600.0,
    heaviest_kg=700.0,
    braked=True,
    width_m=2.0,
    height_m=2.5,
    past_tail_m=0.0,
    past_side_m=0.0,
)


def outfit(**other: Any) -> OnTheRoad:
    return replace(LIGHT, **other)


class Conditions(unittest.TestCase):
    def test_at_a_limit_and_past_it(self) -> None:
        past = Condition(fact=Fact.TRAILER, limit=1000.0)
        reached = Condition(fact=Fact.TRAILER, limit=1000.0, reached=True)
        for kg, over, at in ((999.0, False, False), (1000.0, False, True), (1001.0, True, True)):
            found = outfit(trailer_kg=kg)
            self.assertEqual((past.met(found), reached.met(found)), (over, at), kg)

    def test_what_is_not_known_is_neither(self) -> None:
        rule = Rule(code="x", source="s", conditions=(Condition(fact=Fact.WIDTH, limit=2.6),))
        self.assertIs(stands(rule, outfit(width_m=None)), Standing.UNKNOWN)
        self.assertIs(stands(rule, outfit(width_m=2.7)), Standing.RAISED)
        self.assertIs(stands(rule, outfit()), Standing.CLEAR)

    def test_what_both_weigh_counts_where_a_plate_is_not_known(self) -> None:
        condition = Condition(fact=Fact.TOGETHER_MOST, limit=4536.0, reached=True)
        self.assertIs(condition.met(outfit(truck_plate_kg=None, together_kg=5000.0)), True)
        self.assertIsNone(condition.met(outfit(truck_plate_kg=None, together_kg=4000.0)))
        self.assertIs(condition.met(outfit(together_kg=5000.0)), True)

    def test_one_condition_that_is_not_met_is_enough_to_be_clear(self) -> None:
        rule = Rule(
            code="x",
            source="s",
            conditions=(
                Condition(fact=Fact.UNBRAKED, limit=0.5),
                Condition(fact=Fact.TRAILER, limit=5000.0),
            ),
        )
        self.assertIs(stands(rule, outfit(braked=None)), Standing.CLEAR)
        self.assertIs(stands(rule, outfit(braked=None, trailer_kg=6000.0)), Standing.UNKNOWN)

    def test_figures_that_are_none_are_refused(self) -> None:
        for wrong in (math.nan, math.inf, -1.0):
            with self.assertRaises(InputError):
                outfit(trailer_kg=wrong)


class Sets(unittest.TestCase):
    def test_codes_are_their_own_and_every_rule_has_a_source(self) -> None:
        rules = [*US, *CANADA, *EU, *UK]
        codes = [rule.code for rule in rules]
        self.assertEqual(len(codes), len(set(codes)))
        self.assertTrue(all(rule.source for rule in rules))

    def test_raised_come_first(self) -> None:
        order = [flag.standing for flag in flags(US, outfit(width_m=None))]
        self.assertEqual(order, sorted(order, key=list(Standing).index))

    @given(st.floats(0, 60_000), st.floats(0, 60_000), st.sampled_from([US, CANADA, EU, UK]))
    def test_more_mass_never_lowers_a_flag(self, light: float, more: float, rules: Any) -> None:
        def raised(extra: float) -> set[str]:
            found = outfit(
                truck_plate_kg=2500.0 + extra,
                trailer_plate_kg=light + extra,
                trailer_kg=light + extra,
                together_kg=2200.0 + light + extra,
                heaviest_kg=light + extra,
                braked=False,
                truck_empty_kg=2200.0,
            )
            return {f.rule.code for f in flags(rules, found) if f.standing is Standing.RAISED}

        self.assertLessEqual(raised(0.0), raised(more))

    def test_every_mass_a_rule_goes_by_is_one(self) -> None:
        for rule in (*US, *CANADA, *EU, *UK):
            for condition in rule.conditions:
                if condition.limit > 30:
                    self.assertIn(condition.fact, MASSES)
