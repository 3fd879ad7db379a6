"""Runs through time, of outfits that nobody has."""

from __future__ import annotations

import math
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from mechanics.motion import (
    FRAMES_PER_S,
    MOST_RAD,
    SLOWEST_M_S,
    STARTS_S,
    Course,
    Motion,
    Push,
    motions,
)
from mechanics.plan import Plan
from mechanics.sway import CORNERING, towing_of
from mechanics.tests.outfits import plans

SECONDS = 6.0


class Runs(TestCase):
    def runs(self, plan: Plan, speed: float, push: Push) -> tuple[Motion, ...]:
        towing = towing_of(plan)
        assume(towing.stands)
        return motions(towing, CORNERING["mid"], speed, push, seconds=SECONDS)

    @given(plan=plans, speed=st.floats(10.0, 35.0), push=st.sampled_from(Push))
    @settings(max_examples=25, deadline=None)
    def test_all_courses_are_one_until_the_push_is_over(
        self, plan: Plan, speed: float, push: Push
    ) -> None:
        found = self.runs(plan, speed, push)
        self.assertEqual([one.course for one in found], list(Course))
        still, over = round(STARTS_S * FRAMES_PER_S), round(push.ends_s * FRAMES_PER_S)
        for one in found:
            self.assertEqual(set(one.swing_rad[: still + 1]), {0.0})
            self.assertTrue(all(math.isfinite(side) for side in one.side_m))
            for other in found:
                shared = min(len(one.side_m), len(other.side_m), over)
                self.assertEqual(one.side_m[:shared], other.side_m[:shared])

    @given(plan=plans, speed=st.floats(10.0, 35.0), push=st.sampled_from(Push))
    @settings(max_examples=25, deadline=None)
    def test_a_run_ends_early_only_where_it_says_so(
        self, plan: Plan, speed: float, push: Push
    ) -> None:
        for one in self.runs(plan, speed, push):
            frames = round(SECONDS * FRAMES_PER_S) + 1
            self.assertEqual(one.past, len(one.side_m) < frames)
            self.assertLessEqual(max(map(abs, one.swing_rad)), MOST_RAD)
            self.assertEqual(len(one.speed_m_s), len(one.side_m))
            self.assertGreaterEqual(min(one.speed_m_s), min(SLOWEST_M_S, speed))
            change = one.speed_m_s[-1] - one.speed_m_s[0]
            self.assertTrue(change * one.course.change_m_s2 >= 0)

    def test_a_stretch_after_the_end_has_no_swing(self) -> None:
        still = Motion(
            course=Course.HELD,
            speed_m_s=(20.0,) * 3,
            side_m=(0.0,) * 3,
            truck_rad=(0.0, 0.1, 0.0),
            trailer_rad=(0.0, 0.0, 0.05),
            past=False,
        )
        self.assertEqual(still.largest_rad(0, 1), 0.1)
        self.assertEqual(still.largest_rad(4, 5), 0.0)
