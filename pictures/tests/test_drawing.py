"""Geometry of the drawing: true to scale, nothing on top of anything else."""

from __future__ import annotations

import itertools
import random
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from measures import UnitSystem
from mechanics.item import Facing, Placement
from mechanics.plan import Plan
from mechanics.report import Report, evaluate
from mechanics.tests.outfits import example_plan, inch, lb, plans, random_plan, tractor
from pictures.drawing import draw
from pictures.outfit import GROUND_Y, WIDTH
from pictures.outlines import machine_outline
from pictures.pads import PAD_HEIGHT, PAD_WIDTH, spread
from pictures.share import share_scale
from pictures.tapes import CLOSE_WIDTH, CLOSE_X
from planfile.draft import Drawn

SHAPES = (
    "tractor",
    "loader",
    "excavator",
    "implement",
    "pallet",
    "heap_level",
    "heap_peaked",
    "heap_front",
    "heap_rear",
    "heap_of_a_kind_nobody_knows",
    "boat",
)


def drawn(report: Report, selected: int | None = 0, unit: UnitSystem = UnitSystem.US):  # type: ignore[no-untyped-def]
    """The drawing of a report with plain names."""
    count = len(report.plan.items)
    pieces = [] if selected is None else report.windows[selected].intervals
    return draw(
        report,
        drawn=[Drawn(shape=SHAPES[n % 5], mark="rear axle") for n in range(count)],
        selected=selected,
        end_texts=[("low", "high") for _ in pieces],
        unit=unit,
    )


class Spreading(SimpleTestCase):
    @settings(max_examples=1000)
    @given(st.lists(st.floats(40, 820), min_size=1, max_size=6), st.floats(10, 120))
    def test_neighbours_keep_their_distance_and_their_order(
        self, wanted: list[float], gap: float
    ) -> None:
        wanted.sort()
        placed = spread(wanted, gap, 34, 834)
        for left, right in itertools.pairwise(placed):
            self.assertGreaterEqual(right - left, gap - 1e-6)
        self.assertEqual(len(placed), len(wanted))

    def test_the_edge_pushes_a_cluster_onto_the_one_before_it(self) -> None:
        self.assertEqual(spread([701.0, 783.0, 820.0], 67, 34, 834), [700.0, 767.0, 834.0])

    def test_what_is_far_apart_stays_where_it_is(self) -> None:
        self.assertEqual(spread([100.0, 300.0], 60, 0, 868), [100.0, 300.0])

    def test_two_that_touch_move_apart_alike(self) -> None:
        self.assertEqual(spread([200.0, 210.0], 60, 0, 868), [175.0, 235.0])


class Outlines(SimpleTestCase):
    def test_a_machine_reaches_exactly_as_far_as_the_plan_says(self) -> None:
        for shape in SHAPES:
            outline = machine_outline(shape, 3.0, 1.2, 2.4, None)
            points = [p for _, piece in outline.shapes for p in piece]
            with self.subTest(shape=shape):
                self.assertAlmostEqual(max(x for x, _ in points), 3.0)
                self.assertAlmostEqual(min(x for x, _ in points), -1.2)
                self.assertAlmostEqual(max(y for _, y in points), 2.4)
                self.assertGreaterEqual(min(y for _, y in points), 0.0)


class TrueToScale(SimpleTestCase):
    def test_axles_deck_and_mark_stand_at_their_places(self) -> None:
        picture = drawn(evaluate(example_plan()))
        first, second = picture.outfit.trailer_wheels
        self.assertAlmostEqual((second.x - first.x) / picture.scale, inch(34))
        self.assertAlmostEqual((picture.tape.x - picture.ball_x) / picture.scale, inch(52))
        self.assertAlmostEqual(picture.tape.width / picture.scale, inch(240))
        self.assertAlmostEqual((picture.tape.mark_x - picture.tape.x) / picture.scale, inch(150))
        front, rear = picture.outfit.truck_wheels
        self.assertAlmostEqual((rear.x - front.x) / picture.scale, inch(160))

    def test_windows_lie_on_the_tape_at_their_readings(self) -> None:
        report = evaluate(example_plan())
        tape = drawn(report).tape
        (band,), (sure,) = tape.windows, tape.sure
        scale = drawn(report).scale
        piece = report.windows[0].intervals[0]
        self.assertAlmostEqual((band.x - tape.x) / scale, piece.start_m)
        self.assertAlmostEqual(band.width / scale, piece.end_m - piece.start_m)
        self.assertTrue(band.x < sure.x and sure.x + sure.width < band.x + band.width)

    def test_turned_round_the_machine_covers_the_same_deck(self) -> None:
        plan = example_plan()
        forward = drawn(evaluate(plan)).items[0]
        turned = replace(
            plan.items[0],
            placement=Placement(reference_m=inch(150 - 118 + 46), facing=Facing.BACKWARD),
        )
        backward = drawn(evaluate(replace(plan, items=(turned,)))).items[0]
        self.assertAlmostEqual(forward.left_x, backward.left_x)
        self.assertAlmostEqual(forward.right_x, backward.right_x)

    def test_a_load_to_the_drivers_left_is_drawn_downwards(self) -> None:
        plan = example_plan()
        left = plan.with_placement("tractor", Placement(reference_m=3.8, left_m=0.1))
        self.assertGreater(
            drawn(evaluate(left)).items[0].above_y, drawn(evaluate(plan)).items[0].above_y
        )


class Pads(SimpleTestCase):
    def test_the_fill_is_the_load_and_the_outline_the_rating(self) -> None:
        pads = {p.name: p for p in drawn(evaluate(example_plan())).pads}
        self.assertAlmostEqual(pads["axle 1"].fill_height, PAD_HEIGHT * 3560.5 / 5200)
        self.assertEqual(pads["tongue"].limit, "of 1,500")
        self.assertEqual(pads["front axle"].number, "3,921")

    def test_past_its_rating_a_pad_overflows(self) -> None:
        plan = example_plan()
        plan = replace(plan, truck=replace(plan.truck, rear_gawr_kg=lb(4500)))
        pad = next(p for p in drawn(evaluate(plan)).pads if p.name == "rear axle")
        self.assertEqual((pad.status, pad.fill_height), ("over", PAD_HEIGHT))
        self.assertGreater(pad.over_height, 0)

    def test_no_rating_is_said(self) -> None:
        plan = example_plan()
        plan = replace(plan, truck=replace(plan.truck, rear_gawr_kg=None))
        pad = next(p for p in drawn(evaluate(plan)).pads if p.name == "rear axle")
        self.assertEqual((pad.limit, pad.status, pad.fill_height), ("no rating", "unknown", 0.0))


class AnyOutfit(SimpleTestCase):
    @given(plans, st.sampled_from(list(UnitSystem)))
    @settings(max_examples=120)
    def test_any_plan_draws_with_its_pads_apart_and_inside(
        self, plan: Plan, unit: UnitSystem
    ) -> None:
        picture = drawn(evaluate(plan), 0 if plan.items else None, unit)
        edges = [p.x for p in picture.pads]
        for left, right in itertools.pairwise(edges):
            self.assertGreaterEqual(right - left, PAD_WIDTH + 11)
        self.assertGreaterEqual(edges[0], 0)
        self.assertLessEqual(edges[-1] + PAD_WIDTH, WIDTH)
        for shape in picture.outfit.truck + picture.outfit.trailer:
            self.assertNotIn("nan", shape.data)
        for band in (*picture.close.windows, *picture.close.sure):
            self.assertGreaterEqual(band.x, CLOSE_X)
            self.assertLessEqual(band.x, CLOSE_X + CLOSE_WIDTH)
        self.assertLess(picture.deck_y, GROUND_Y)

    def test_forty_machines_draw(self) -> None:
        plan = replace(
            example_plan(), items=tuple(tractor(f"t{n}", 118 + n / 10) for n in range(40))
        )
        self.assertEqual(len(drawn(evaluate(plan)).items), 40)

    def test_the_share_gauge_stays_on_its_bar(self) -> None:
        for seed in range(40):
            gauge = share_scale(evaluate(random_plan(random.Random(seed))))
            self.assertTrue(0 <= gauge.pointer <= 100)
            self.assertTrue(0 <= gauge.band_x + gauge.band_width <= 100)
