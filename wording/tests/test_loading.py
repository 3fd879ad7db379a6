"""Words of getting on and off."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from measures import UnitSystem
from mechanics.checks import Status
from mechanics.finding import Measure
from mechanics.loading import Finding, Subject, way
from mechanics.site import Site, Surface
from mechanics.tail import Dovetail, Ramp, RampKind, Stands
from mechanics.tests.climbing import climbing_plan
from mechanics.tests.outfits import inch
from mechanics.truck import Drive
from wording.loading import (
    SURFACES,
    WRONG,
    climb_word,
    finding_words,
    ground_words,
    hold_words,
    holds_words,
    slope_words,
    usual_clearance,
    way_up_words,
)

US, METRIC = UnitSystem.US, UnitSystem.METRIC


class Ground(SimpleTestCase):
    def test_every_surface_has_words(self) -> None:
        self.assertEqual(set(SURFACES), set(Surface))

    def test_slope_and_ground(self) -> None:
        self.assertEqual(slope_words(Site(slope=0.0001)), "on the level")
        self.assertEqual(slope_words(Site(slope=0.03)), "on a slope of 3 in 100, truck uphill")
        self.assertEqual(
            slope_words(Site(slope=-0.125)), "on a slope of 12.5 in 100, truck downhill"
        )
        self.assertEqual(ground_words(Site(surface=Surface.ICE)), "on ice")
        self.assertEqual(
            ground_words(Site(friction=0.33, slope=0.02)),
            "with a grip of 0.33 and a slope of 2 in 100, truck uphill",
        )

    def test_what_holds(self) -> None:
        for site, words in (
            ({}, "parking brake alone"),
            ({"parking_brake": False}, "nothing"),
            ({"park_four_wheel": True}, "parking brake and four-wheel drive in park"),
            ({"held_trailer_axles": (1,)}, "parking brake and chocks at axle 1"),
            (
                {"park_four_wheel": True, "held_trailer_axles": (1, 2)},
                "parking brake, four-wheel drive in park and chocks at axles 1 and 2",
            ),
            (
                {"parking_brake": False, "park_four_wheel": True},
                "four-wheel drive in park",
            ),
        ):
            self.assertEqual(holds_words(climbing_plan(**site)), words)
        plan = climbing_plan(park_four_wheel=True)
        two = replace(plan, truck=replace(plan.truck, drive=Drive.TWO_WHEEL))
        self.assertEqual(holds_words(two), "parking brake alone")

    def test_the_way_up(self) -> None:
        plan = climbing_plan()
        self.assertEqual(way_up_words(plan, US), "Ramps of 5 ft 6 in.")
        trailer = replace(
            plan.trailer,
            ramp=Ramp(kind=RampKind.GATE, length_m=inch(48), feet=True),
            dovetail=Dovetail(length_m=inch(40), drop_m=inch(6)),
            stands=Stands(gap_m=inch(1)),
        )
        self.assertEqual(
            way_up_words(replace(plan, trailer=trailer), US),
            "A gate of 4 ft, on feet, a dovetail that falls 6 in, stands 1 in above the ground "
            "once dropped.",
        )
        self.assertEqual(way_up_words(replace(plan, trailer=replace(trailer, ramp=None)), US), "")


class Findings(SimpleTestCase):
    @given(st.floats(0, 10))
    def test_a_hold_never_reads_as_what_it_is_not(self, ratio: float) -> None:
        words = hold_words(ratio)
        self.assertEqual(ratio < 1, words.startswith("holds only"))
        if ratio < 1:
            self.assertNotIn("1.00", words)

    def test_every_subject_has_words_in_each_status(self) -> None:
        plan = climbing_plan()
        for subject in Subject:
            for status, value in ((Status.OVER, -50.0), (Status.NEAR, 0.5), (Status.OK, 50.0)):
                finding = Finding(
                    subject=subject,
                    measure=Measure.MASS,
                    status=status,
                    value=value,
                    limit=10.0,
                    margin=value - 10,
                    which="2",
                )
                for unit in (US, METRIC):
                    words = finding_words(finding, plan, unit)
                    self.assertTrue(words.label)
                    self.assertTrue(words.found)
                    self.assertEqual(words.status, status.value)

    def test_what_goes_wrong_first_gives_the_word(self) -> None:
        found = way(climbing_plan(surface=Surface.GRASS_WET), 0)
        self.assertEqual(climb_word(found, (0.1, 0.2)), "slides")
        fine = way(climbing_plan(), 0)
        self.assertEqual(climb_word(fine, (0.1, 0.2)), "holds, tongue lifts")
        self.assertEqual(climb_word(fine, (-0.1, 0.2)), "holds, may scrape")
        self.assertEqual(climb_word(fine, (-0.2, -0.1)), "likely scrapes")
        self.assertEqual(climb_word(fine, None), "holds, may scrape")
        self.assertEqual(climb_word(replace(fine, missing=("trailer.ramp",)), None), "cannot say")
        self.assertEqual(len({subject for subject, _ in WRONG}), len(WRONG))

    def test_an_estimate_says_that_it_is_one(self) -> None:
        for band, word, status in (
            ((0.05, 0.1), "likely clear", "ok"),
            ((-0.1, -0.05), "likely scrapes", "near"),
            ((-0.05, 0.05), "cannot say", "unknown"),
        ):
            words = usual_clearance(*band, US)
            self.assertEqual((words.found, words.status), (word, status))
            self.assertIn("An estimate", words.note)
