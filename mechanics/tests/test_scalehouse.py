"""The stand-in for a public scale."""

from __future__ import annotations

import random

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from mechanics.loads import compute_loads
from mechanics.scalehouse import pads, printed, scale_doubt_kg
from mechanics.scales import VEHICLE
from mechanics.tests.outfits import example_plan, random_plan


class ScaleHouse(SimpleTestCase):
    def test_the_pads_together_carry_truck_and_trailer(self) -> None:
        loads = compute_loads(example_plan())
        self.assertAlmostEqual(loads.combination_kg, pads(loads).together_kg)

    @given(st.integers(0, 2**32))
    def test_a_ticket_is_in_steps_and_within_the_scales_doubt(self, seed: int) -> None:
        rng = random.Random(seed)
        true = pads(compute_loads(random_plan(rng, items=2)))
        ticket = printed(true, lambda: rng.uniform(-1, 1))
        for name in ("steer_kg", "drive_kg", "trailer_kg"):
            shown, real = getattr(ticket, name), getattr(true, name)
            self.assertAlmostEqual(
                0.0, shown / VEHICLE.step_kg - round(shown / VEHICLE.step_kg), places=6
            )
            self.assertLessEqual(abs(shown - real), scale_doubt_kg(real) + 1e-9)
