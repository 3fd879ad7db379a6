"""Cases of every kind: solvable, with one class of best answers, by the core's own figures."""

from __future__ import annotations

import math
from dataclasses import replace

from django.test import SimpleTestCase

from measures import UnitSystem
from measures.marks import STEPS
from measures.writing import MINUS
from mechanics.checks import Status
from mechanics.loads import compute_loads
from mechanics.placing import moved
from mechanics.report import evaluate
from mechanics.scalehouse import pads
from mechanics.securing.report import secure
from mechanics.standing import best_standing
from mechanics.sway import swings, towing_of
from mechanics.ties import SecuringSchool
from planfile.draft import Draft
from practice.cases import AnswerError, Case, Grade, Kind, UnfitError
from practice.kinds import KINDS, kind_of
from practice.kinds.outfit import OutfitCase
from practice.kinds.placing import MOVES, PlaceCase
from practice.kinds.slope import SlopeCase, held
from practice.kinds.swaying import SwayCase
from practice.kinds.ticket import TicketCase, explains
from practice.kinds.tie_down import TieCase
from practice.kinds.walk_round import WalkCase
from practice.kinds.way_round import WayRoundCase
from practice.proof import classes, proved

US, METRIC = UnitSystem.US, UnitSystem.METRIC

SEEDS = range(1, 13)
"""Some of each kind; ``python -m scripts.fair_cases`` tries a thousand."""


def case_of(slug: str, seed: int) -> Case:
    kind = kind_of(slug)
    assert kind is not None
    return kind.make(seed)


class EveryKind(SimpleTestCase):
    def test_each_has_one_class_of_best_answers_and_wrong_ones(self) -> None:
        for kind in KINDS:
            for seed in SEEDS:
                with self.subTest(kind=kind.slug, seed=seed):
                    self.assertEqual(proved(kind, seed), "")

    def test_the_same_number_is_the_same_case(self) -> None:
        for kind in KINDS:
            one, other = (kind.make(5) for _ in range(2))
            first, second = one.situation(US), other.situation(US)
            self.assertEqual((first.facts, first.table), (second.facts, second.table), kind.slug)
            self.assertEqual(one.best(), other.best(), kind.slug)

    def test_numbers_differ(self) -> None:
        for kind in KINDS:
            told = {str(kind.make(seed).situation(US).facts) for seed in range(1, 9)}
            told |= {str(kind.make(seed).situation(US).table) for seed in range(1, 9)}
            self.assertGreater(len(told), 6, kind.slug)

    def test_every_page_in_one_system_of_units(self) -> None:
        for kind in KINDS:
            made = kind.make(3)
            shown, verdict = made.situation(METRIC), made.judge(made.best(), METRIC)
            words = [*shown.story, verdict.sentence, verdict.best]
            words += [part for pair in (*shown.facts, *verdict.figures) for part in pair]
            if shown.table is not None:
                words += [cell for row in shown.table.rows for cell in row]
            for question in shown.questions:
                words += [f"{option.words} {option.note}" for option in question.options]
            for text in words:
                with self.subTest(kind=kind.slug, text=text):
                    self.assertNotRegex(text, r"\d (lb|in|ft|mph)\b(?! equipment| utility| 100)")

    def test_what_is_no_answer_is_said(self) -> None:
        for kind in KINDS:
            made = kind.make(3)
            for question in made.situation(US).questions:
                given = {**made.best(), question.name: ("nonsense",)}
                with self.subTest(kind=kind.slug, question=question.name):
                    with self.assertRaises(AnswerError) as raised:
                        made.judge(given, US)
                    self.assertEqual(raised.exception.question, question.name)


class ByTheCore(SimpleTestCase):
    """Each grade is what the core says of the plan that an answer makes."""

    def test_a_place_is_right_exactly_where_every_limit_holds(self) -> None:
        for seed in SEEDS:
            made = case_of("eye", seed)
            assert isinstance(made, PlaceCase)
            for answer in list(made.every())[::7]:
                at = float(answer["place"][0])
                held_there = evaluate(moved(made.draft.plan, made.index, at)).verdict
                right = made.judge(answer, US).grade is Grade.RIGHT
                self.assertEqual(right, held_there is not Status.OVER, (seed, at))

    def test_it_starts_wrong_and_the_best_place_is_right(self) -> None:
        for seed in SEEDS:
            made = case_of("gauge", seed)
            assert isinstance(made, PlaceCase)
            self.assertEqual(made.moves, MOVES)
            start = made.draft.plan.items[made.index].placement.reference_m
            self.assertIs(made.grade_at(start), Grade.WRONG)
            best = best_standing(made.draft.plan, made.index, STEPS[US])
            assert best is not None
            self.assertIs(made.grade_at(best.at_m), Grade.RIGHT)

    def test_three_readings_are_enough_to_place_it(self) -> None:
        """Two readings give the line that the tongue falls along; the third move is to its place,
        so that no case depends on luck."""
        for seed in SEEDS:
            made = case_of("gauge", seed)
            assert isinstance(made, PlaceCase)
            plan, index = made.draft.plan, made.index
            total = compute_loads(plan).trailer.mass_kg
            low, high = plan.share_range

            def tongue(at: float, case: PlaceCase = made) -> float:
                words = case.taken(at, METRIC)
                return float(words.split()[0].replace(",", "").replace(MINUS, "-"))

            start = plan.items[index].placement.reference_m
            way = -0.6 if start > made.window[0].end_m else 0.6
            second = start + way
            slope = (tongue(second) - tongue(start)) / (second - start)
            # a little above the least, where ratings of the tongue hold too
            wanted = total * (low + (high - low) * 0.3)
            third = second + (wanted - tongue(second)) / slope
            self.assertIsNot(made.grade_at(third), Grade.WRONG, seed)

    def test_slips_print_what_the_core_has_on_the_pads(self) -> None:
        seen = set()
        for seed in range(1, 40):
            made = case_of("ticket", seed)
            assert isinstance(made, TicketCase)
            seen.add(made.slip.value)
            true = pads(compute_loads(made.draft.plan))
            self.assertEqual(explains(made.ticket, true), made.slip.value == "none", seed)
            self.assertTrue(explains(made.ticket, made.slip.pads(made.draft.plan)), seed)
            right = made.judge({"slip": (made.slip.value,), "holds": ("yes",)}, US)
            over = evaluate(made.really).verdict is Status.OVER
            self.assertIs(right.grade, Grade.NEARLY if over else Grade.RIGHT)
        self.assertGreaterEqual(len(seen), 6)

    def test_the_pair_that_is_sent_has_most_to_spare(self) -> None:
        for seed in SEEDS:
            made = case_of("outfit", seed)
            assert isinstance(made, OutfitCase)
            for pair in made.pairs:
                grade = made.judge({"pair": (pair.value,)}, US).grade
                over = evaluate(pair.draft.plan).verdict is Status.OVER
                self.assertEqual(grade is Grade.WRONG, over)
                left = evaluate(pair.draft.plan).least_reserve()
                best = evaluate(made.right.draft.plan).least_reserve()
                assert left is not None
                assert best is not None
                self.assertEqual(grade is Grade.RIGHT, not over and left >= best)

    def test_all_three_ways_round_come_up(self) -> None:
        found = set()
        for seed in range(1, 16):
            made = case_of("round", seed)
            assert isinstance(made, WayRoundCase)
            found.add(made.right)
            for name, way in made.rounds.items():
                over = evaluate(way.draft.plan).verdict is Status.OVER
                grade = made.judge({"way": (name,)}, US).grade
                self.assertEqual(grade is Grade.WRONG, over)
        self.assertEqual(found, {"forward", "backward", "neither"})

    def test_what_holds_on_a_slope_is_the_cores(self) -> None:
        for seed in SEEDS:
            made = case_of("slope", seed)
            assert isinstance(made, SlopeCase)
            now = held(made.draft, 0)
            assert now is not None
            said = "yes" if now >= 1 else "no"
            grade = made.judge({"holds": (said,), "measure": (made.right,)}, US).grade
            self.assertIs(grade, Grade.RIGHT)
            other = "no" if said == "yes" else "yes"
            grade = made.judge({"holds": (other,), "measure": (made.right,)}, US).grade
            self.assertIs(grade, Grade.NEARLY)

    def test_ties_hold_as_the_rule_has_them(self) -> None:
        for seed in SEEDS:
            made = case_of("tie", seed)
            assert isinstance(made, TieCase)
            for answer in list(made.every())[::5]:
                passed = secure(made.tied(answer), SecuringSchool.US_393).verdict is Status.OVER
                self.assertEqual(made.judge(answer, US).grade is Grade.WRONG, passed)

    def test_figures_on_a_walk_are_held_against_the_plan(self) -> None:
        seen = set()
        for seed in range(1, 40):
            made = case_of("walk", seed)
            assert isinstance(made, WalkCase)
            seen |= {(one.value, one.wrong) for one in made.sights}
            all_of_it = tuple(one.value for one in made.sights)
            self.assertIs(made.judge({"wrong": all_of_it}, US).grade, Grade.NEARLY)
            self.assertIs(made.judge({"wrong": ()}, US).grade, Grade.WRONG)
        for figure in ("ball", "chains", "tires"):
            self.assertLessEqual({(figure, True), (figure, False)}, seen)

    def test_the_load_where_it_belongs_calms_most(self) -> None:
        for seed in SEEDS:
            made = case_of("sways", seed)
            assert isinstance(made, SwayCase)
            self.assertEqual(made.right.value, "forward")
            there = moved(
                made.draft.plan,
                made.index,
                made.draft.plan.items[made.index].placement.reference_m - made.shift_m,
            )
            half = swings(towing_of(there), made.speed_m_s)[1].half_life_s
            self.assertAlmostEqual(made.right.half_life_s, half or 0.0)


class OfHauls(SimpleTestCase):
    def test_a_hitch_without_a_ball_is_looked_at_without_one(self) -> None:
        found = case_of("walk", 3)
        assert isinstance(found, WalkCase)
        document = found.draft.json()
        document["hitch"]["type"] = "fifth_wheel"
        document["trailer"]["extra"]["brakes"] = "none"
        kind = kind_of("walk")
        assert kind is not None
        for seed in SEEDS:
            made = kind.make(seed, Draft.read(document))
            assert isinstance(made, WalkCase)
            seen = {one.value for one in made.sights}
            # and brakes that there are not are nothing to be seen
            self.assertFalse(seen & {"ball", "chains", "crossed", "breakaway", "plug"}, seen)

    def test_a_name_keeps_its_capitals(self) -> None:
        found = case_of("sways", 3)
        assert isinstance(found, SwayCase)
        document = found.draft.json()
        document["items"][0]["name"] = "Kestrel T6 loader"
        named = replace(found, draft=Draft.read(document))
        told = str(named.judge(named.best(), US).figures)
        self.assertIn("Move the Kestrel T6 loader", told)

    def test_where_nothing_pushes_it_holds(self) -> None:
        found = case_of("slope", 3)
        assert isinstance(found, SlopeCase)
        made = replace(found, held={"nothing": 0.5, "level": math.inf})
        verdict = made.judge({"holds": ("no",), "measure": ("level",)}, US)
        self.assertIs(verdict.grade, Grade.RIGHT)
        self.assertIn(("Move to level ground", "nothing pushes"), verdict.figures)

    def test_a_haul_that_makes_no_case_says_why(self) -> None:
        draft = case_of("eye", 3)
        assert isinstance(draft, PlaceCase)
        empty = draft.draft.keeping(())
        for kind in KINDS:
            if not kind.of_hauls:
                continue
            with self.subTest(kind=kind.slug), self.assertRaises(UnfitError) as raised:
                kind.make(1, empty)
            self.assertTrue(str(raised.exception).endswith("."))

    def test_one_that_does_is_placed_on_its_own_deck(self) -> None:
        found = case_of("eye", 3)
        assert isinstance(found, PlaceCase)
        kind = kind_of("gauge")
        assert kind is not None
        made = kind.make(9, found.draft)
        assert isinstance(made, PlaceCase)
        self.assertEqual(made.draft.plan.trailer, found.draft.plan.trailer)
        self.assertAlmostEqual(made.window[0].start_m, found.window[0].start_m)


class TheProof(SimpleTestCase):
    def test_it_finds_a_case_that_cannot_be_solved_and_one_with_two_answers(self) -> None:
        kind = kind_of("outfit")
        assert kind is not None

        class Broken(OutfitCase):
            def judge(self, answer, unit):  # type: ignore[no-untyped-def]
                return replace(super().judge(answer, unit), grade=self.always)  # type: ignore[attr-defined]

        for grade, words in ((Grade.WRONG, "no answer is right"), (Grade.RIGHT, "none is wrong")):
            found = kind.make(3)
            assert isinstance(found, OutfitCase)
            broken = Broken(pairs=found.pairs, right=found.right)
            object.__setattr__(broken, "always", grade)
            told = Kind(
                slug="broken",
                title="",
                about="",
                make=lambda seed, haul=None, case=broken: case,  # type: ignore[arg-type, misc]
                of_hauls=False,
            )
            self.assertIn(words, proved(told, 1))

    def test_places_beside_each_other_are_one_class(self) -> None:
        self.assertEqual(classes([True, True, False, True]), 2)
        self.assertEqual(classes([False, True, True]), 1)
        self.assertEqual(classes([]), 0)
