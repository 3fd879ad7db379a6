"""The coach: bands that are the windows', moves that arrive, stops that come in time."""

from __future__ import annotations

import json
import random
from dataclasses import replace
from pathlib import Path

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.bias import learned
from mechanics.coach import (
    Band,
    Gauge,
    Move,
    Shown,
    Taped,
    advise,
    band,
    belief_of,
    carried_by_ramps,
    corrected,
    is_settled,
    line_through,
    other_unit,
)
from mechanics.errors import InputError
from mechanics.item import Facing, Placement
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.units import KG_PER_LB
from planfile.reading import read_document

EXAMPLE = Path(__file__).resolve().parents[2] / "planfile" / "tests" / "example.json"
STEADY = Band(
    target_kg=500.0,
    low_kg=420.0,
    high_kg=600.0,
    sure=True,
    kg_per_m=480.0,
    least_kg=-200.0,
    most_kg=1500.0,
)


def example() -> Plan:
    """The example plan."""
    return read_document(json.loads(EXAMPLE.read_text(encoding="utf-8")))


def stood(plan: Plan, reference_m: float, facing: Facing | None = None) -> Plan:
    """The first item elsewhere."""
    item = plan.items[0]
    place = Placement(reference_m=reference_m, facing=facing or item.placement.facing, left_m=0.0)
    return plan.with_placement(item.id, place)


def still(kg: float, *, count: int = 20, full: bool = False) -> list[Shown]:
    """Readings that do not change, ten a second."""
    return [Shown(at_s=n / 10, kg=kg, saturated=full) for n in range(count)]


def sliding(start: float, rate: float, *, count: int = 14) -> list[Shown]:
    """Readings that change evenly."""
    return [Shown(at_s=n / 10, kg=start + rate * n / 10) for n in range(count)]


class Bands(SimpleTestCase):
    def test_its_ends_are_the_tongue_at_the_windows_ends(self) -> None:
        plan = example()
        found, window = band(plan, 0), evaluate(plan).windows[0]
        self.assertTrue(found.sure)
        piece = next(p for p in window.sure if p.start_m <= window.aim_m <= p.end_m)
        for kg, at in (
            (found.high_kg, piece.start_m),
            (found.low_kg, piece.end_m),
            (found.target_kg, window.aim_m),
            (found.most_kg, 0.0),
            (found.least_kg, plan.trailer.deck.length_m),
        ):
            self.assertAlmostEqual(kg, compute_loads(stood(plan, at)).trailer.tongue_kg, places=6)

    @given(at=st.floats(0.5, 5.5), back=st.booleans())
    @settings(max_examples=40)
    def test_the_move_it_names_arrives_at_the_target(self, at: float, back: bool) -> None:
        facing = Facing.BACKWARD if back else Facing.FORWARD
        plan = stood(example(), at, facing)
        found = band(plan, 0)
        if found.target_kg is None:
            return
        tongue = compute_loads(plan).trailer.tongue_kg
        advice = advise(still(tongue), found, Gauge())
        moved = compute_loads(stood(plan, at + advice.by_m)).trailer.tongue_kg
        self.assertAlmostEqual(moved, found.target_kg, places=6)

    def test_no_place_no_target(self) -> None:
        plan = example()
        heavy = replace(plan.items[0], mass_kg=plan.items[0].mass_kg * 4)
        found = band(replace(plan, items=(heavy,)), 0)
        self.assertIsNone(found.target_kg)
        self.assertIs(Move.NO_PLACE, advise(still(500), found, Gauge()).move)


class Advising(SimpleTestCase):
    def test_above_the_target_it_goes_rearward_below_forward(self) -> None:
        gauge = Gauge(step_kg=5.0)
        for kg, move, by in ((740, Move.REARWARD, 0.5), (356, Move.FORWARD, -0.3)):
            advice = advise(still(kg), STEADY, gauge)
            self.assertIs(move, advice.move)
            self.assertAlmostEqual(by, advice.by_m)
            self.assertTrue(advice.settled)

    def test_a_machine_that_stands_in_the_band_stays(self) -> None:
        gauge = Gauge(step_kg=10.0)
        for kg, move in (
            (500, Move.STOP),
            (594, Move.STOP),
            (597, Move.REARWARD),
            (426, Move.STOP),
            (423, Move.FORWARD),
        ):
            with self.subTest(kg=kg):
                self.assertIs(move, advise(still(kg), STEADY, gauge).move)

    def test_stop_comes_before_the_aim_by_lag_and_reaction(self) -> None:
        """At 20 kg/s, half a second of reaction and one of lag: 30 kg early."""
        late = Gauge(step_kg=5.0, lag_s=1.0)
        for kg, move in ((560.0, Move.REARWARD), (545.0, Move.STOP), (528.0, Move.STOP)):
            with self.subTest(kg=kg):
                readings = sliding(kg + 26, -20)
                self.assertAlmostEqual(readings[-1].kg, kg)
                self.assertIs(move, advise(readings, STEADY, late).move)
        self.assertIs(Move.REARWARD, advise(sliding(571, -20), STEADY, Gauge(step_kg=5)).move)

    def test_at_its_rating_it_says_at_least(self) -> None:
        advice = advise(still(900, full=True), STEADY, Gauge())
        self.assertIs(Move.REARWARD, advice.move)
        self.assertTrue(advice.at_least)
        self.assertIs(Move.WAIT, advise(still(300, full=True), STEADY, Gauge()).move)

    def test_without_readings_it_waits(self) -> None:
        self.assertIs(Move.WAIT, advise([], STEADY, Gauge()).move)

    def test_settled_is_standing_for_a_second(self) -> None:
        gauge = Gauge(step_kg=9.0)
        self.assertTrue(is_settled(still(500), gauge))
        self.assertFalse(is_settled(still(500, count=5), gauge))
        self.assertFalse(is_settled(sliding(500, 20), gauge))
        flicker = [replace(r, kg=500 + 9 * (n % 3 - 1)) for n, r in enumerate(still(500))]
        self.assertTrue(is_settled(flicker, gauge))

    def test_the_line_finds_the_rate_through_steps_and_noise(self) -> None:
        rng = random.Random(4)
        step = 9.07
        readings = [
            Shown(at_s=n / 10, kg=round((600 - 15 * n / 10 + rng.gauss(0, 2)) / step) * step)
            for n in range(13)
        ]
        kg, rate = line_through(readings)
        self.assertAlmostEqual(kg, 582, delta=8)
        self.assertAlmostEqual(rate, -15, delta=6)
        self.assertEqual((500.0, 0.0), line_through(still(500, count=2)))

    @given(kg=st.floats(-150, 1450), more=st.floats(1, 300))
    def test_more_tongue_never_moves_it_forward(self, kg: float, more: float) -> None:
        one, two = (advise(still(k), STEADY, Gauge()).by_m for k in (kg, kg + more))
        self.assertLess(one, two)

    def test_a_reading_of_the_other_unit(self) -> None:
        self.assertFalse(other_unit(500, STEADY))
        self.assertFalse(other_unit(1000, STEADY))
        self.assertTrue(other_unit(1200 / KG_PER_LB, STEADY))
        narrow = replace(STEADY, least_kg=900.0)
        self.assertTrue(other_unit(1200 * KG_PER_LB, narrow))
        self.assertFalse(other_unit(1e5, STEADY))


class Corrected(SimpleTestCase):
    def test_readings_at_taped_places_find_the_true_machine(self) -> None:
        plan = example()
        item = plan.items[0]
        true = replace(
            item,
            mass_kg=item.mass_kg * 1.03,
            cg=replace(item.cg, ahead_m=item.cg.ahead_m + 0.04),
        )
        truth = replace(plan, items=(true,))
        taped = [
            Taped(kg=compute_loads(stood(truth, at)).trailer.tongue_kg, reference_m=at)
            for at in (3.0, 3.3, 3.6, 3.9, 4.2)
        ]
        better, found = corrected(plan, 0, taped, Gauge(step_kg=0.5))
        self.assertFalse(found.contradict)
        here = better.items[0]
        aimed = evaluate(better).windows[0].aim_m
        # moves and targets follow from the corrected plan: the true tongue there is the target
        tongue = compute_loads(stood(truth, aimed)).trailer.tongue_kg
        self.assertAlmostEqual(tongue, band(better, 0).target_kg, delta=3)
        self.assertLess(abs(here.mass_kg - true.mass_kg), abs(item.mass_kg - true.mass_kg))
        self.assertLessEqual(here.mass_tolerance_kg, item.mass_tolerance_kg)
        self.assertLessEqual(here.cg.ahead_tolerance_m, item.cg.ahead_tolerance_m)

    def test_the_empty_trailers_reading_corrects_its_tongue(self) -> None:
        plan = example()
        kg = plan.trailer.empty_tongue_mass_kg + 8
        better, _ = corrected(plan, 0, [Taped(kg=kg, reference_m=None)], Gauge(step_kg=0.5))
        self.assertGreater(better.trailer.empty_tongue_mass_kg, plan.trailer.empty_tongue_mass_kg)
        self.assertEqual(better.items[0].mass_kg, plan.items[0].mass_kg)

    def test_a_book_without_doubt_still_has_some(self) -> None:
        plan = example()
        sure = replace(plan.items[0], mass_tolerance_kg=0.0)
        belief = belief_of(replace(plan, items=(sure,)), 0)
        self.assertTrue(all(doubt > 0 for doubt in belief.doubts()))

    def test_no_reading_is_refused(self) -> None:
        with self.assertRaises(InputError):
            corrected(example(), 0, [], Gauge())


class Ramps(SimpleTestCase):
    def test_what_a_prop_at_the_tail_carries(self) -> None:
        """A beam on ball and axles at 5 m, propped at 7 m with 200 kg: the ball takes
        200 (7/5 - 1) = 80 kg more."""
        self.assertAlmostEqual(200, carried_by_ramps(580, 500, tail_m=7.0, lever_m=5.0))
        self.assertEqual(0, carried_by_ramps(500, 580, tail_m=7.0, lever_m=5.0))
        self.assertEqual(0, carried_by_ramps(580, 500, tail_m=4.0, lever_m=5.0))


class Learning(SimpleTestCase):
    def test_three_are_needed(self) -> None:
        self.assertIsNone(learned([40, 50]))
        found = learned([40, 50, 45])
        assert found is not None
        self.assertAlmostEqual(45, found.mean_kg)
        self.assertTrue(found.matters)

    def test_scatter_about_nothing_teaches_nothing(self) -> None:
        found = learned([40, -50, 12, -9])
        assert found is not None
        self.assertFalse(found.matters)

    def test_what_is_no_number_is_refused(self) -> None:
        with self.assertRaises(InputError):
            learned([1.0, float("nan"), 2.0])
