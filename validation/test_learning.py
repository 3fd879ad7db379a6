"""The learned bias against a statistics library, and a propped trailer against a frame solver.

Sources: ``scipy.stats`` (Student's t), ``anastruct`` (a finite-element frame solver).
"""

from __future__ import annotations

import random

import numpy as np
from anastruct import SystemElements
from django.test import SimpleTestCase
from scipy import stats

from mechanics.bias import T_95, learned
from mechanics.coach import carried_by_ramps


class AgainstStatistics(SimpleTestCase):
    def test_the_table_of_t(self) -> None:
        for freedom, value in enumerate(T_95, 1):
            self.assertAlmostEqual(stats.t.ppf(0.975, freedom), value, places=3)

    def test_mean_and_width(self) -> None:
        rng = random.Random(12)
        for count in (3, 5, 9, 21):
            apart = [rng.gauss(30, 20) for _ in range(count)]
            found = learned(apart)
            assert found is not None
            low, high = stats.t.interval(
                0.95, count - 1, loc=np.mean(apart), scale=stats.sem(apart)
            )
            self.assertAlmostEqual(low, found.mean_kg - found.within_kg, delta=0.02)
            self.assertAlmostEqual(high, found.mean_kg + found.within_kg, delta=0.02)

    def test_the_width_covers_as_often_as_it_says(self) -> None:
        rng = random.Random(5)
        inside = 0
        for _ in range(2000):
            found = learned([rng.gauss(40, 15) for _ in range(4)])
            assert found is not None
            inside += abs(found.mean_kg - 40) <= found.within_kg
        self.assertAlmostEqual(0.95, inside / 2000, delta=0.02)


class AgainstAFrameSolver(SimpleTestCase):
    def test_a_prop_at_the_tail(self) -> None:
        """A beam on ball and axle, its load in between, and a prop pushing up at the tail."""
        lever, tail, load, at = 5.0, 7.4, 3000.0, 4.2
        for prop in (120.0, 410.0):
            tongues = []
            for push in (prop, 0.0):
                beam = SystemElements(EI=1e9)
                for start, end in ((0, at), (at, lever), (lever, tail)):
                    beam.add_element(location=[[start, 0], [end, 0]])
                beam.add_support_hinged(1)
                beam.add_support_roll(3)
                beam.point_load(2, Fy=-load)
                if push:
                    beam.point_load(4, Fy=push)
                beam.solve()
                tongues.append(abs(beam.get_node_results_system(1)["Fy"]))
            found = carried_by_ramps(*tongues, tail_m=tail, lever_m=lever)
            self.assertAlmostEqual(prop, found, places=4)
