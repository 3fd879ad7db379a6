"""A truck without a trailer: the tongue it leaves room for is the one that uses a limit up."""

from __future__ import annotations

import random
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.alone import squat_m_per_kg, tongue_rooms
from mechanics.checks import Status
from mechanics.limits import Quantity
from mechanics.report import evaluate
from mechanics.tests.outfits import example_plan, inch, lb, random_plan

TONGUE_LIMITS = ("truck.rear_gawr", "truck.gvwr", "truck.payload", "hitch.receiver.max_tongue_mass")


class TongueLeft(SimpleTestCase):
    def test_each_limit_leaves_what_it_has_over_a_lever(self) -> None:
        plan = example_plan()
        rooms = {room.code: room for room in tongue_rooms(plan.truck, plan.hitch)}
        unhitched = evaluate(plan).loads.truck
        payload = lb(2700) - lb(190 + 160 + 55)
        self.assertAlmostEqual(rooms["truck.payload"].kg, payload)
        rear = (lb(6340) - unhitched.rear_unhitched_kg) * 160 / 210
        self.assertAlmostEqual(rooms["truck.rear_gawr"].kg, rear)
        self.assertAlmostEqual(rooms["hitch.receiver.max_tongue_mass"].kg, lb(1500))
        self.assertNotIn("trailer.gvwr", rooms)
        kilograms = [room.kg for room in tongue_rooms(plan.truck, plan.hitch)]
        self.assertEqual(kilograms, sorted(kilograms))

    def test_what_is_not_known_for_sure_leaves_less(self) -> None:
        plan = example_plan()
        truck = replace(plan.truck, rear_axle_mass_tolerance_kg=lb(200))
        short = replace(truck, wheelbase_tolerance_m=inch(15))
        rooms = [
            next(r for r in tongue_rooms(one, plan.hitch) if r.code == "truck.rear_gawr")
            for one in (plan.truck, truck, short)
        ]
        self.assertEqual(rooms[0].kg, rooms[0].least_kg)
        self.assertTrue(rooms[2].least_kg < rooms[1].least_kg < rooms[0].least_kg)
        self.assertEqual({round(room.kg, 6) for room in rooms}, {round(rooms[0].kg, 6)})

    def test_without_a_rating_nothing_is_said_of_it(self) -> None:
        plan = example_plan()
        bare = replace(
            plan.truck, rear_gawr_kg=None, front_gawr_kg=None, gvwr_kg=None, payload_kg=None
        )
        codes = {room.code for room in tongue_rooms(bare, plan.hitch)}
        self.assertEqual(codes, {"hitch.receiver.max_tongue_mass", "truck.front_light"})

    @settings(max_examples=60, deadline=None)
    @given(seed=st.integers(0, 2**32))
    def test_a_trailer_with_just_that_on_the_tongue_is_at_the_limit(self, seed: int) -> None:
        """Against the checks, which know nothing of how the room is found."""
        plan = random_plan(random.Random(seed), items=0)
        plan = replace(plan, hitch=replace(plan.hitch, weight_distribution=None))
        for room in tongue_rooms(plan.truck, plan.hitch):
            if not room.kg > 1.0:
                continue
            for part, passed in ((0.999, False), (1.001, True)):
                tongue = room.kg * part
                trailer = replace(
                    plan.trailer, empty_mass_kg=tongue * 10, empty_tongue_mass_kg=tongue
                )
                check = evaluate(replace(plan, trailer=trailer)).check(room.code)
                assert check is not None
                self.assertIs(check.quantity, Quantity.MASS)
                self.assertEqual(check.status is Status.OVER, passed, room.code)

    def test_a_longer_overhang_squats_more(self) -> None:
        truck = example_plan().truck
        self.assertAlmostEqual(squat_m_per_kg(truck, 10_000), 210 / 160 / 10_000)
        longer = replace(truck, hitch_offset_m=inch(70))
        self.assertGreater(squat_m_per_kg(longer, 10_000), squat_m_per_kg(truck, 10_000))
