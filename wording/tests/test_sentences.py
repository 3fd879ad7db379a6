"""The sentence on top, faults in words, and where an item is best put."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

from django.test import SimpleTestCase
from hypothesis import given, settings

from measures import UnitSystem
from measures.marks import STEPS
from mechanics.checks import Check, Status
from mechanics.item import Contact
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.rules import Rules, TongueSchool
from mechanics.standing import best_standing, is_sure
from mechanics.tests.outfits import example_plan, inch, lb, loaded_plans
from wording.limits import Telling, fault, label
from wording.practice import practice, suggested_school
from wording.sentences import Sentence, kept_places, sentence, summary
from wording.statuses import status_word, verdict_of
from wording.ways_out import what_settles, worth_weighing

US, METRIC = UnitSystem.US, UnitSystem.METRIC


MARKS = {"tractor": "rear axle"}


NAMES = {"tractor": "Tractor"}


def at(plan: Plan, inches: float) -> Plan:
    """The plan with its item at a place on the tape."""
    item = plan.items[0]
    return plan.with_placement(item.id, replace(item.placement, reference_m=inch(inches)))


def exact(plan: Plan) -> Plan:
    """The plan with nothing in doubt, so that every right place is sure."""
    item = plan.items[0]
    item = replace(item, mass_tolerance_kg=0.0, cg=replace(item.cg, ahead_tolerance_m=0.0))
    trailer = replace(plan.trailer, empty_mass_tolerance_kg=0.0, empty_tongue_mass_tolerance_kg=0.0)
    return replace(plan, items=(item,), trailer=trailer)


def said(plan: Plan, unit: UnitSystem = US, **more: Any) -> Sentence:
    """The sentence of a plan's first item."""
    return sentence(evaluate(plan), 0, MARKS, NAMES, unit, **more)


def check(plan: Plan, code: str) -> Check:
    """One check of a plan's report."""
    return next(c for c in evaluate(plan).checks if c.code == code)


class WhatIsSure(SimpleTestCase):
    def test_stop_is_said_where_the_place_is_sure(self) -> None:
        words = said(exact(example_plan()))
        self.assertEqual("Stop with the rear axle", words.before)
        self.assertEqual("12 ft 6 in", words.figure)
        self.assertTrue(words.sure)

    def test_a_right_place_outside_the_sure_window_says_where_is_sure(self) -> None:
        plan = at(example_plan(), 147)
        self.assertFalse(is_sure(evaluate(plan), 0))
        words = said(plan)
        self.assertTrue(words.before.startswith("As entered it is ok"))
        self.assertRegex(words.advice, r"^It is not sure there\. Sure is .* ft .* to .* in\.$")
        self.assertFalse(words.sure)

    def test_while_no_place_is_sure_it_says_what_has_to_be_weighed(self) -> None:
        plan = example_plan()
        loose = replace(plan.trailer, empty_tongue_mass_tolerance_kg=lb(300))
        plan = replace(exact(plan), trailer=replace(loose, empty_mass_tolerance_kg=0.0))
        self.assertEqual((), evaluate(plan).windows[0].sure)
        settles = what_settles(plan, 0)
        self.assertEqual("the trailer's empty tongue is", settles)
        words = said(plan, settles=settles)
        self.assertNotIn("Stop", words.before)
        self.assertEqual(
            "No place is sure until the trailer's empty tongue is weighed.", words.advice
        )
        self.assertIn("no single weighing", said(plan).advice)

    @given(loaded_plans)
    @settings(max_examples=80)
    def test_stop_is_never_said_elsewhere(self, plan: Plan) -> None:
        marks, names = {i.id: "mark" for i in plan.items}, {i.id: i.id for i in plan.items}
        report = evaluate(plan)
        for index in range(len(plan.items)):
            words = sentence(report, index, marks, names, US)
            if words.before.startswith("Stop"):
                self.assertTrue(is_sure(report, index))


class TooLittle(SimpleTestCase):
    def test_a_share_below_the_least_is_under_and_a_lifting_tongue_lifts(self) -> None:
        low = at(example_plan(), 170)
        self.assertEqual("under", status_word(check(low, "tongue.share_min")))
        self.assertEqual("over", status_word(check(at(low, 100), "tongue.share_max")))
        self.assertIn("The tongue carries 7.2 %, and 10 % is the least.", said(low).second)
        self.assertEqual("under", verdict_of(evaluate(low)).word)
        self.assertEqual("ok", verdict_of(evaluate(exact(example_plan()))).word)
        self.assertEqual("ok as entered", verdict_of(evaluate(at(example_plan(), 147))).word)
        gone = at(low, 400)
        self.assertEqual("over", verdict_of(evaluate(gone)).word)
        lifted = at(example_plan(), 216)
        self.assertIn("The tongue lifts: −7.7 %", said(lifted).second)

    def test_a_value_never_reads_like_the_limit_it_breaks(self) -> None:
        """At 9.98 % of 10: one digit more."""
        plan = exact(example_plan())
        end = evaluate(plan).windows[0].intervals[0].end_m
        words = said(at(plan, end / inch(1) + 0.06))
        self.assertIn("carries 9.98 %, and 10 % is the least", words.second)
        weight = check(example_plan(), "truck.rear_gawr").value
        hair = replace(plan, truck=replace(plan.truck, rear_gawr_kg=weight - lb(0.2)))
        self.assertIn("Truck rear axle is passed by 0.2 lb.", said(hair).second)

    def test_an_axle_off_the_ground_is_said_so(self) -> None:
        heavy = replace(example_plan().items[0], mass_kg=lb(20000))
        plan = replace(example_plan(), items=(heavy,))
        front = at(plan, 60)
        report = evaluate(front)
        words = fault(check(front, "truck.front_light"), Telling.of(report.plan, US, NAMES))
        self.assertEqual("The tongue lifts the truck's front axle off the ground.", words)
        self.assertIn("off the ground", summary(evaluate(at(exact(plan), 60)), NAMES, US) + words)

    def test_room_left_of_an_axle_is_of_what_it_carried_unhitched(self) -> None:
        light = check(example_plan(), "truck.front_light")
        unhitched = evaluate(example_plan()).loads.truck.front_unhitched_kg
        self.assertAlmostEqual(light.value / unhitched, light.room_left or 0.0)
        self.assertEqual("Truck front axle on the ground", label(light.code))


class BestPlaces(SimpleTestCase):
    def overloaded(self) -> Plan:
        """The trailer's rating is passed wherever the tractor stands."""
        plan = example_plan()
        return at(replace(plan, trailer=replace(plan.trailer, gvwr_kg=lb(8000))), 190)

    def test_an_overloaded_machine_still_gets_the_best_place_for_the_rest(self) -> None:
        plan = self.overloaded()
        best = best_standing(plan, 0, STEPS[US])
        assert best is not None
        self.assertEqual((False, ("trailer.gvwr",), True), (best.right, best.passed, best.holds))
        stands = evaluate(at(plan, best.at_m / inch(1)))
        over = {c.code for c in stands.checks if c.status is Status.OVER}
        self.assertEqual({"trailer.gvwr"}, over)
        words = said(plan).advice
        self.assertIn("Trailer GVWR is passed wherever it stands", words)
        self.assertIn("Best for the share and what can hold: ", words)

    def test_where_nothing_holds_it_is_named_the_least_wrong(self) -> None:
        plan = replace(
            self.overloaded(),
            rules=Rules(tongue=TongueSchool.CUSTOM, share_min=0.14, share_max=0.15),
        )
        light = replace(plan.truck, payload_kg=lb(405 + 900))
        best = best_standing(replace(plan, truck=light), 0, STEPS[US])
        assert best is not None
        self.assertFalse(best.holds)
        self.assertIn("Least wrong", said(replace(plan, truck=light)).advice)

    def test_the_aim_is_on_a_mark_inside_its_piece(self) -> None:
        plan = example_plan()
        best = best_standing(plan, 0, STEPS[US])
        assert best is not None
        sure = evaluate(plan).windows[0].sure[0]
        self.assertTrue(sure.start_m <= best.at_m <= sure.end_m)
        self.assertAlmostEqual(0.0, math.fmod(best.at_m / inch(0.5), 1.0), places=6)
        metric = best_standing(plan, 0, STEPS[METRIC])
        assert metric is not None
        self.assertAlmostEqual(round(metric.at_m, 2), metric.at_m, places=9)

    def test_a_machine_longer_than_the_deck_has_no_best_place(self) -> None:
        plan = example_plan()
        long = replace(plan.items[0], front_m=inch(150), rear_m=inch(140))
        self.assertIsNone(best_standing(replace(plan, items=(long,)), 0, STEPS[US]))

    @given(loaded_plans)
    @settings(max_examples=80)
    def test_no_other_place_breaks_fewer_of_what_can_hold(self, plan: Plan) -> None:
        """Where the best of what can hold holds all of it, nothing but what is named is over."""
        for index, item in enumerate(plan.items):
            best = best_standing(plan, index, STEPS[US])
            if best is None or best.right or not best.holds:
                continue
            there = plan.with_placement(item.id, replace(item.placement, reference_m=best.at_m))
            over = {
                c.code
                for c in evaluate(there).checks
                if c.status is Status.OVER and c.item is None and not c.code.startswith("truck.fr")
            }
            # a mark of the tape may lie a quarter inch from the exact place
            near = {c for c in over if c not in best.passed}
            self.assertLessEqual(len(near), 1, near)

    def test_a_swapped_trailer_offers_its_own_place(self) -> None:
        report = evaluate(at(example_plan(), 190))
        (words,) = kept_places(report, MARKS, US)
        self.assertIn("kept its place. Here its best place is rear axle at 13 ft 1/2 in.", words)
        best = best_standing(example_plan(), 0, STEPS[US])
        assert best is not None
        self.assertEqual(
            [], kept_places(evaluate(at(example_plan(), best.at_m / inch(1))), MARKS, US)
        )

    def test_an_empty_trailer_is_not_judged_by_a_share(self) -> None:
        codes = {c.code for c in evaluate(replace(example_plan(), items=())).checks}
        self.assertNotIn("tongue.share_min", codes)
        self.assertIn("trailer.gvwr", codes)


class Practice(SimpleTestCase):
    def car(self, **truck: Any) -> Plan:
        """A metric passenger vehicle of 1,840 kg kerb mass with a nose plate of 115 kg."""
        plan = example_plan()
        light = replace(
            plan.truck,
            front_axle_mass_kg=1000.0,
            rear_axle_mass_kg=840.0,
            gvwr_kg=2510.0,
            max_tongue_mass_kg=115.0,
            **truck,
        )
        trailer = replace(plan.trailer, empty_mass_kg=750.0, empty_tongue_mass_kg=60.0)
        small = replace(plan.items[0], mass_kg=950.0)
        return replace(plan, truck=light, trailer=trailer, items=(small,))

    def test_the_nose_plate_school_is_suggested_in_kilograms_alone(self) -> None:
        report = evaluate(self.car())
        found = suggested_school(report, METRIC)
        assert found is not None
        self.assertIn("115 kg", found.words)
        self.assertIn("4–7 %", found.words)
        self.assertIsNone(suggested_school(report, US))
        nose = replace(self.car(), rules=Rules(tongue=TongueSchool.NOSE_4_7))
        self.assertIsNone(suggested_school(evaluate(nose), METRIC))
        bare = self.car()
        bare = replace(bare, truck=replace(bare.truck, max_tongue_mass_kg=None))
        self.assertIsNone(suggested_school(evaluate(bare), METRIC))

    def test_kerb_mass_and_brakes(self) -> None:
        report = evaluate(self.car())
        ratio, brakes = practice(report, METRIC, unbraked=True)
        self.assertIn("92.4 % of the truck's kerb mass", ratio)
        self.assertIn("80 to 85 %", ratio)
        self.assertIn("750 kg behind this truck", brakes)
        self.assertIn("1,700 kg is more than that", brakes)
        self.assertEqual(1, len(practice(report, METRIC, unbraked=False)))
        self.assertEqual([], practice(report, US, unbraked=True))


class WeighingWords(SimpleTestCase):
    def weigh(self, *contacts: Contact) -> str:
        plan = example_plan()
        item = replace(
            plan.items[0], contacts=contacts, cg=replace(plan.items[0].cg, ahead_tolerance_m=0.3)
        )
        return worth_weighing(replace(plan, items=(item,)), 0, US)

    def test_each_thing_is_weighed_as_people_weigh_it(self) -> None:
        wheels = (Contact(ahead_m=0.0), Contact(ahead_m=2.0))
        self.assertIn("both axles of", self.weigh(*wheels))
        self.assertIn("driven half onto a platform", self.weigh(Contact(ahead_m=0.5, length_m=2.0)))
        self.assertIn("lifted at two supports", self.weigh())

    def test_nobody_weighs_the_two_ends_of_a_pallet(self) -> None:
        item = example_plan().items[0]
        flat = Contact(
            ahead_m=(item.front_m - item.rear_m) / 2, length_m=item.front_m + item.rear_m
        )
        self.assertNotIn("end", self.weigh(flat).replace("trailer", ""))
