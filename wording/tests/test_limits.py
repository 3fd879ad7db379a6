"""Every limit has its words, and they fit into their sentences."""

from __future__ import annotations

import re
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given, settings

from measures import UnitSystem
from measures.writing import write_inches
from mechanics.checks import Status
from mechanics.codes import Family, read_code
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.rules import Rules, TongueSchool
from mechanics.tests.outfits import example_plan, inch, lb, loaded_plans
from mechanics.trailer import Concentration
from wording.inputs import INPUTS, METRIC_INPUTS, missing_words
from wording.limits import (
    END_LETTERS,
    WORDS,
    Telling,
    beyond_words,
    end_words,
    fault,
    in_sentence,
    label,
    passed_words,
    why,
)

US, METRIC = UnitSystem.US, UnitSystem.METRIC
WHICH = {
    Family.TRAILER_AXLE: "2",
    Family.TRAILER_TIRES: "1",
    Family.TRAILER_SIDE: "left",
    Family.TRUCK_AXLE: "front",
    Family.TRUCK_TIRES: "rear",
    Family.TRUCK_LIGHT: "rear",
    Family.PART_TRAILER: "ball mount",
    Family.PART_TONGUE: "ball mount",
    Family.NEIGHBOUR: "m2",
}


class EveryFamily(SimpleTestCase):
    def codes(self) -> list[str]:
        return [family.of(WHICH.get(family, "")) for family in Family]

    def test_each_has_an_entry(self) -> None:
        self.assertEqual(set(Family), set(WORDS))

    def test_no_text_is_left_with_a_place_to_fill(self) -> None:
        telling = Telling(unit=US, names={"m2": "Pallet"}, least=0.1, greatest=0.15)
        for code in self.codes():
            for words in (
                label(code, telling.names),
                label(code, telling.names, METRIC),
                in_sentence(code, US),
                end_words(code, telling),
                beyond_words(code, telling),
                passed_words(code, telling),
            ):
                with self.subTest(code=code, words=words):
                    self.assertTrue(words)
                    self.assertNotRegex(words, r"[{}]")

    def test_labels_tell_limits_apart(self) -> None:
        labels = [label(code, {"m2": "Pallet"}) for code in self.codes()]
        self.assertEqual(len(labels), len(set(labels)))

    def test_a_neighbours_long_name_has_room_beside_the_end(self) -> None:
        telling = Telling(unit=US, names={"m2": "Borrowed two-row potato planter"})
        words = end_words(Family.NEIGHBOUR.of("m2"), telling)
        self.assertLessEqual(len(words), END_LETTERS)
        self.assertTrue(words.endswith("…"))

    def test_words_by_hand(self) -> None:
        telling = Telling(unit=US, names={"m2": "Pallet"}, word="pin", least=0.15, greatest=0.25)
        for code, made, expected in (
            ("tongue.share_min", end_words, "pin falls to 15 %"),
            ("tongue.share_max", beyond_words, "the pin passes 25 %"),
            ("truck.rear_light", passed_words, "the truck's rear axle is off the ground"),
            ("truck.gvwr", end_words, "truck GVWR full"),
            ("trailer.axle_2.tires", beyond_words, "Trailer axle 2 tires is passed"),
            ("item.m2", beyond_words, "it meets Pallet"),
            ("deck.rear", end_words, "tail of the deck"),
        ):
            with self.subTest(code=code):
                self.assertEqual(expected, made(code, telling))
        self.assertEqual(
            "the ball mount's tongue rating", in_sentence("hitch.Ball mount.max_tongue_mass", US)
        )
        self.assertEqual("Gross train mass", label("combination.gcwr", unit=METRIC))
        self.assertEqual("Ball mount, trailer", label("hitch.ball mount.max_trailer_mass"))


class Faults(SimpleTestCase):
    @settings(max_examples=60)
    @given(loaded_plans)
    def test_every_check_that_is_passed_makes_a_sentence(self, plan: Plan) -> None:
        report = evaluate(plan)
        for unit in (US, METRIC):
            telling = Telling.of(plan, unit)
            for check in report.checks:
                if check.status is Status.OVER:
                    words = fault(check, telling)
                    self.assertRegex(words, r"^\S.*\.$")
                self.assertTrue(why(check, report, unit).source)

    def test_what_may_reach_past_the_tail_is_not_said_to_end_there(self) -> None:
        plan = example_plan()
        item = plan.items[0]
        back = replace(item.placement, reference_m=plan.trailer.deck.length_m)
        plan = plan.with_placement(item.id, back)
        said = {}
        for may in (0.0, inch(24)):
            deck = replace(plan.trailer.deck, rear_overhang_m=may)
            one = replace(plan, trailer=replace(plan.trailer, deck=deck))
            check = evaluate(one).check("deck.rear")
            assert check is not None
            assert check.value is not None
            beyond = check.value - deck.length_m - may
            self.assertGreater(beyond, 0.0)
            said[may] = (fault(check, Telling.of(one, US)), write_inches(beyond, US))
        words, by = said[0.0]
        self.assertEqual(words, f"It reaches {by} past the tail of the deck.")
        words, by = said[inch(24)]
        self.assertEqual(words, f"It reaches {by} further past the tail of the deck than it may.")
        self.assertNotEqual(by, said[0.0][1])


class Arithmetic(SimpleTestCase):
    def test_a_share_is_a_share_and_not_a_mass(self) -> None:
        report = evaluate(example_plan())
        for code in ("tongue.share_min", "tongue.share_max"):
            check = report.check(code)
            assert check is not None
            found = why(check, report, US)
            with self.subTest(code=code):
                self.assertRegex(found.total, r"^[\d.]+ %$")
                self.assertRegex(found.limit, r"^[\d.]+ %$")
                self.assertEqual(
                    ["tongue weight", "over the loaded trailer"],
                    [term.name for term in found.terms],
                )
                self.assertIn("Rule of share", found.source)

    def test_own_shares_are_the_yards(self) -> None:
        rules = Rules(tongue=TongueSchool.CUSTOM, share_min=0.08, share_max=0.145)
        report = evaluate(replace(example_plan(), rules=rules))
        check = report.check("tongue.share_max")
        assert check is not None
        found = why(check, report, US)
        self.assertEqual("14.5 %", found.limit)
        self.assertNotIn("no source", found.source)

    def test_the_load_on_one_length_is_what_stands_on_it(self) -> None:
        plan = example_plan()
        figure = Concentration(mass_kg=lb(9000), length_m=inch(96))
        deck = replace(plan.trailer.deck, concentration=figure)
        report = evaluate(replace(plan, trailer=replace(plan.trailer, deck=deck)))
        check = report.check("deck.concentration")
        assert check is not None
        found = why(check, report, US)
        self.assertEqual("most within any length of 8 ft", found.terms[0].name)
        self.assertEqual("9,000 lb", found.limit)

    def test_the_terms_of_a_rating_come_to_its_total(self) -> None:
        report = evaluate(example_plan())
        for code in ("trailer.gvwr", "truck.gvwr", "truck.payload", "combination.gcwr"):
            check = report.check(code)
            assert check is not None
            found = why(check, report, US)
            said = sum(
                float(re.sub(r"[^\d.−]", "", term.amount).replace("−", "-")) for term in found.terms
            )
            total = float(re.sub(r"[^\d.]", "", found.total))
            with self.subTest(code=code):
                self.assertAlmostEqual(total, said, delta=len(found.terms))


class Inputs(SimpleTestCase):
    def test_what_is_missing_is_named(self) -> None:
        self.assertEqual("the rating of trailer axle 3", missing_words("trailer.axles[2].gawr"))
        self.assertEqual(
            "the truck's towing limit", missing_words("truck.max_trailer_mass", METRIC)
        )
        self.assertEqual("truck.wings", missing_words("truck.wings"))
        self.assertLessEqual(set(METRIC_INPUTS), set(INPUTS))

    @settings(max_examples=60)
    @given(loaded_plans)
    def test_every_unknown_check_names_an_input_with_words(self, plan: Plan) -> None:
        bare = replace(
            plan,
            truck=replace(plan.truck, gvwr_kg=None, gcwr_kg=None, payload_kg=None),
            trailer=replace(plan.trailer, gvwr_kg=None),
        )
        unknown = [c for c in evaluate(bare).checks if c.status is Status.UNKNOWN]
        self.assertTrue(unknown)
        for check in unknown:
            self.assertNotEqual(check.missing[0], missing_words(check.missing[0]))


class Codes(SimpleTestCase):
    def test_a_code_is_read_into_its_family_and_which(self) -> None:
        for family in Family:
            code = family.of(WHICH.get(family, ""))
            with self.subTest(code=code):
                self.assertIs(family, read_code(code).family)
                self.assertEqual(WHICH.get(family, ""), read_code(code).which)
                self.assertEqual(code, str(read_code(code)))

    def test_names_may_hold_dots_and_words_of_codes(self) -> None:
        odd = Family.PART_TONGUE.of("2 in. ball_size")
        self.assertEqual("2 in. ball_size", read_code(odd).which)
        self.assertIs(Family.NEIGHBOUR, read_code("item.deck.front").family)

    def test_what_is_no_code_is_refused(self) -> None:
        for code in ("", "truck", "truck.left_gawr", "trailer.axle_x.gawr", "figure.tongue"):
            with self.subTest(code=code), self.assertRaisesMessage(ValueError, "no limit has"):
                read_code(code)
