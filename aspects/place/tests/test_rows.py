"""Headroom: what stands first, how far its bar reaches, what its figure says."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

from django.test import SimpleTestCase
from hypothesis import given, settings

from aspects.place.rows import BAR_LIMIT, Row, rows_of
from measures import UnitSystem
from mechanics.checks import Status
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.tests.outfits import example_plan, inch, lb, plans

US, METRIC = UnitSystem.US, UnitSystem.METRIC
NAMES = {"tractor": "Tractor"}
EDGE = BAR_LIMIT * 100


def rows(plan: Plan, unit: UnitSystem = US, opened: str = "") -> list[Row]:
    """The rows of a plan."""
    return rows_of(evaluate(plan), opened, NAMES, unit)


def row(plan: Plan, code: str, unit: UnitSystem = US) -> Row:
    """The row of one check."""
    return next(row for row in rows(plan, unit) if row.code == code)


def heavier(pounds: float) -> Plan:
    """The example with its tractor weighing so much."""
    plan = example_plan()
    return replace(plan, items=(replace(plan.items[0], mass_kg=lb(pounds)),))


class Order(SimpleTestCase):
    def test_what_is_over_stands_first_and_what_has_most_room_last(self) -> None:
        statuses = [row.status for row in rows(heavier(9000))]
        self.assertEqual(statuses[0], "over")
        self.assertEqual(statuses, sorted(statuses, key=["over", "unknown", "near", "ok"].index))

    @given(plan=plans)
    @settings(max_examples=40)
    def test_every_limit_has_one_row_and_the_fuller_bar_stands_higher(self, plan: Plan) -> None:
        report = evaluate(plan)
        found = rows_of(report, "", NAMES, US)
        self.assertEqual(len({row.key for row in found}), len(found))
        codes = {row.code for row in found}
        self.assertLessEqual({c.code for c in report.checks if c.status is Status.UNKNOWN}, codes)
        ok = [row.bar.fill for row in found if row.status == "ok" and "unhitched" not in row.tail]
        for above, below in pairwise(ok):
            self.assertGreaterEqual(above + 0.11, below)

    def test_a_row_that_is_opened_says_so(self) -> None:
        opened = [row.code for row in rows(example_plan(), opened="trailer.gvwr") if row.open]
        self.assertEqual(opened, ["trailer.gvwr"])


class Figures(SimpleTestCase):
    def test_what_is_left_of_what(self) -> None:
        found = row(example_plan(), "trailer.gvwr")
        # 10,000 of the plate less 2,900 of the trailer and 5,350 of the tractor
        self.assertEqual((found.margin, found.tail), ("1,750", "left of 10,000 lb"))
        self.assertAlmostEqual(found.bar.fill, 0.825 * EDGE, delta=0.06)
        self.assertEqual(found.bar.past, 0)

    def test_the_same_in_metric(self) -> None:
        found = row(example_plan(), "trailer.gvwr", METRIC)
        self.assertEqual((found.margin, found.tail), ("794", "left of 4,536 kg"))

    def test_past_it_the_bar_passes_the_line_and_says_by_how_much(self) -> None:
        found = row(heavier(7500), "trailer.gvwr")
        self.assertEqual((found.margin, found.tail), ("400", "over 10,000 lb"))
        self.assertEqual(found.bar.fill, EDGE)
        self.assertAlmostEqual(found.bar.past, 0.04 * EDGE, delta=0.06)

    def test_far_past_it_the_bar_ends_with_its_row(self) -> None:
        found = row(heavier(90_000), "trailer.gvwr")
        self.assertAlmostEqual(found.bar.fill + found.bar.past, 100, delta=0.11)

    def test_a_hair_past_it_is_not_written_as_nothing(self) -> None:
        found = row(heavier(7100.04), "trailer.gvwr")
        self.assertEqual(found.status, "over")
        self.assertNotEqual(found.margin.strip("0."), "")

    def test_a_rating_that_is_not_known_has_no_bar(self) -> None:
        plan = example_plan()
        plan = replace(plan, trailer=replace(plan.trailer, gvwr_kg=None))
        found = row(plan, "trailer.gvwr")
        self.assertEqual((found.status, found.margin), ("unknown", ""))
        self.assertEqual((found.tail, found.bar.fill), ("rating not known", 0))

    def test_past_the_end_of_the_deck_is_a_length(self) -> None:
        plan = example_plan()
        item = plan.items[0]
        place = replace(item.placement, reference_m=inch(230))
        found = next(
            row
            for row in rows(replace(plan, items=(replace(item, placement=place),)))
            if row.name.startswith("Tractor:")
        )
        # 46 in behind a mark at 230 in, of a deck of 240 in
        self.assertEqual((found.margin, found.tail), ("3 ft", "past it"))
