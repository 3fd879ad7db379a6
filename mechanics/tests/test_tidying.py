"""Places brought onto the marks of a tape."""

from __future__ import annotations

import random
from dataclasses import replace

from django.test import SimpleTestCase

from mechanics.arrange import arrange
from mechanics.checks import Status
from mechanics.report import evaluate
from mechanics.standing import is_sure
from mechanics.tests.outfits import example_plan, random_plan
from mechanics.tidying import on_the_tape


class OnTheTape(SimpleTestCase):
    def test_what_was_sure_stays_sure_on_its_mark(self) -> None:
        """An aim lies at an end of its window as often as not: rounded, it may not leave it."""
        moved = 0
        for seed in range(40):
            plan = random_plan(random.Random(seed), items=1 + seed % 3)
            for found in arrange(plan).found[:1]:
                report = evaluate(found.plan)
                sure = {i for i in range(len(plan.items)) if is_sure(report, i)}
                tidy = on_the_tape(found.plan)
                now = evaluate(tidy)
                self.assertEqual([], [c for c in now.checks if c.status is Status.OVER])
                self.assertLessEqual(sure, {i for i in range(len(plan.items)) if is_sure(now, i)})
                moved += tidy != found.plan
        self.assertGreater(moved, 10)

    def test_an_aim_at_the_end_of_the_sure_window_is_rounded_into_it(self) -> None:
        plan = example_plan()
        (piece,) = evaluate(plan).windows[0].sure
        item = plan.items[0]
        for end in (piece.start_m, piece.end_m):
            place = replace(item.placement, reference_m=end)
            tidy = on_the_tape(plan.with_placement(item.id, place))
            self.assertTrue(is_sure(evaluate(tidy), 0))
            self.assertAlmostEqual(0, (tidy.items[0].placement.reference_m / 0.0254 * 16) % 1)
