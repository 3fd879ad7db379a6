"""What a fit predicts is what the loads say, and its slopes are slopes."""

from __future__ import annotations

import random
from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.errors import InputError
from mechanics.fit import MEASURED, Belief, Seen, What, fit, predict, suspects
from mechanics.item import Facing
from mechanics.loads import compute_loads
from mechanics.tests.outfits import random_plan

BOOK = Belief(
    trailer=(1315.0, 20.0),
    tongue=(172.0, 12.0),
    machine=(2427.0, 120.0),
    ahead=(0.762, 0.08),
    lever=(5.08, 0.01),
)


class Predicting(SimpleTestCase):
    def test_tongue_axles_and_whole_are_those_of_the_loads(self) -> None:
        """With other items beside, either facing, equalized and independent axles."""
        for seed in range(60):
            plan = random_plan(random.Random(seed), items=1 + seed % 3)
            plan = replace(plan, hitch=replace(plan.hitch, weight_distribution=None))
            item, others = plan.items[0], plan.items[1:]
            trailer, start = plan.trailer, plan.trailer.deck.start_m
            unknown = np.array(
                [
                    trailer.empty_mass_kg,
                    trailer.empty_tongue_mass_kg,
                    item.mass_kg,
                    item.cg.ahead_m,
                    trailer.couple_lever_m,
                ]
            )
            loads = compute_loads(plan).trailer
            for what, kg in (
                (What.TONGUE_LOADED, loads.tongue_kg),
                (What.AXLES_LOADED, loads.axles_mass_kg),
                (What.TRAILER_LOADED, loads.mass_kg),
            ):
                seen = Seen(
                    what=what,
                    kg=0.0,
                    doubt=1.0,
                    mark_m=start + item.placement.reference_m,
                    direction=-1 if item.placement.facing is Facing.FORWARD else 1,
                    beside_kg=sum(i.mass_kg for i in others),
                    beside_moment_kg_m=sum(i.mass_kg * (start + i.balance_tape_m) for i in others),
                )
                with self.subTest(seed=seed, what=what):
                    self.assertAlmostEqual(kg, predict(unknown, seen)[0], places=6)

    @given(
        what=st.sampled_from(What),
        mark=st.floats(0.0, 8.0),
        direction=st.sampled_from((-1, 1)),
        beside=st.floats(0, 2000),
        at=st.floats(1, 8),
    )
    @settings(max_examples=150)
    def test_slopes_are_the_changes(
        self, what: What, mark: float, direction: int, beside: float, at: float
    ) -> None:
        seen = Seen(
            what=what,
            kg=0.0,
            doubt=1.0,
            mark_m=mark,
            direction=direction,
            beside_kg=beside,
            beside_moment_kg_m=beside * at,
            base_m=2.0,
        )
        here = BOOK.values()
        _, slope = predict(here, seen)
        for n in range(len(here)):
            step = 1e-5 * max(abs(here[n]), 1.0)
            up, down = here.copy(), here.copy()
            up[n] += step
            down[n] -= step
            change = (predict(up, seen)[0] - predict(down, seen)[0]) / (2 * step)
            self.assertAlmostEqual(change, slope[n], delta=1e-4 * max(abs(change), 1.0))

    def test_a_front_axle_is_its_part_of_the_wheelbase(self) -> None:
        seen = Seen(what=What.MACHINE_FRONT, kg=0, doubt=1, base_m=2.0, mark_m=0.1)
        kg, _ = predict(np.array([0, 0, 3000.0, 0.9, 5.0]), seen)
        self.assertAlmostEqual(1500.0, kg)
        with self.assertRaises(InputError):
            Seen(what=What.MACHINE_FRONT, kg=1, doubt=1)


class TwoSlips(SimpleTestCase):
    def test_the_larger_of_two_is_named_first_and_not_as_everything(self) -> None:
        named = 0
        for seed in range(40):
            rng = random.Random(seed)
            readings = []
            for n in range(6):
                seen = Seen(
                    what=What.TONGUE_LOADED if n < 4 else What.TRAILER_LOADED,
                    kg=0.0,
                    doubt=6.0,
                    mark_m=4.5 + 0.25 * n,
                )
                kg = predict(BOOK.values(), seen)[0]
                readings.append(replace(seen, kg=rng.gauss(kg, 6.0)))
            place = rng.randrange(4)
            readings[place] = replace(readings[place], kg=readings[place].kg * 0.45359237)
            readings[5] = replace(readings[5], kg=readings[5].kg + 110)
            found = suspects(readings, BOOK)
            named += bool(found) and found[0].place == place
            self.assertTrue(not found or not found[0].all_of_it, f"seed {seed}")
        self.assertGreaterEqual(named, 34)

    def test_more_readings_never_know_less(self) -> None:
        readings = []
        for n in range(5):
            seen = Seen(what=What.TONGUE_LOADED, kg=0.0, doubt=6.0, mark_m=4.5 + 0.2 * n)
            readings.append(replace(seen, kg=predict(BOOK.values(), seen)[0]))
        few, many = fit(readings[:2], BOOK), fit(readings, BOOK)
        for one, two in zip(few.errors, many.errors, strict=True):
            self.assertLessEqual(two, one * (1 + 1e-6))


class AgainstGuesses(SimpleTestCase):
    """A reading far from a guess says that the guess is worth measuring, and nothing else."""

    def tongue(self, kg_off: float) -> Seen:
        seen = Seen(what=What.TONGUE_LOADED, kg=0.0, doubt=6.0, mark_m=5.0, at_coupler=True)
        return replace(seen, kg=predict(BOOK.values(), seen)[0] + kg_off)

    def test_one_reading_against_a_guessed_balance_point_is_never_accused(self) -> None:
        """250 kg more on the tongue: the balance point half a metre from where it was guessed."""
        book = replace(BOOK, measured=MEASURED - {"ahead"})
        found = fit([self.tongue(250)], book)
        self.assertFalse(found.contradict)
        self.assertEqual("ahead", found.guess)
        self.assertEqual((), suspects([self.tongue(250)], book))

    def test_against_measured_figures_it_is(self) -> None:
        found = fit([self.tongue(250)], BOOK)
        self.assertTrue(found.contradict)
        self.assertIsNone(found.guess)

    def test_readings_that_contradict_each_other_are_accused_whatever_the_book_guesses(
        self,
    ) -> None:
        book = replace(BOOK, measured=frozenset({"lever"}))
        found = fit([self.tongue(0), self.tongue(4), self.tongue(200)], book)
        self.assertTrue(found.contradict)
        self.assertIsNone(found.guess)

    def test_the_guess_that_is_pulled_most_is_named(self) -> None:
        book = replace(BOOK, measured=MEASURED - {"machine", "tongue"}, tongue=(172.0, 80.0))
        weighed = Seen(what=What.MACHINE, kg=3400.0, doubt=9.0)
        self.assertEqual("machine", fit([weighed], book).guess)

    def test_estimates_are_the_same_whoever_measured(self) -> None:
        readings = [self.tongue(250), self.tongue(240)]
        one, two = fit(readings, BOOK), fit(readings, replace(BOOK, measured=frozenset()))
        self.assertEqual(one.estimates, two.estimates)
        self.assertEqual(one.errors, two.errors)
