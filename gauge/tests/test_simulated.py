"""The stand-in for a gauge, and a driver who obeys the coach."""

from __future__ import annotations

import json
from pathlib import Path
from unittest.mock import patch

from django.test import SimpleTestCase

from gauge.simulated import ObedientDriver, SimulatedGauge, Slips, Traits, as_line
from gauge.wire import Facts, Sieve
from mechanics.checks import Status
from mechanics.coach import Move
from mechanics.item import Placement
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.units import KG_PER_LB, M_PER_IN
from planfile.reading import read_document

EXAMPLE = Path(__file__).resolve().parents[2] / "planfile" / "tests" / "example.json"


def example() -> Plan:
    """The example plan."""
    return read_document(json.loads(EXAMPLE.read_text(encoding="utf-8")))


class StandIn(SimpleTestCase):
    def test_standing_where_it_is_planned_it_shows_the_plans_tongue(self) -> None:
        plan = example()
        gauge = SimulatedGauge(plan=plan, traits=Traits(noise_kg=0.0, step=1.0, rating=9000))
        self.assertAlmostEqual(
            compute_loads(plan).trailer.tongue_kg / KG_PER_LB, gauge.reading()["load"], delta=0.5
        )

    def test_steps_unit_and_rating(self) -> None:
        plan = example()
        for unit, step, per in (("lb", 20.0, KG_PER_LB), ("kg", 10.0, 1.0)):
            gauge = SimulatedGauge(plan=plan, traits=Traits(unit=unit, step=step, rating=9000))
            load = gauge.reading()["load"]
            self.assertEqual(0, load % step)
            self.assertAlmostEqual(gauge.tongue_kg() / per, load, delta=step)
        full = SimulatedGauge(plan=plan, traits=Traits(rating=200.0)).reading()
        self.assertEqual((200.0, True), (full["load"], full["full"]))

    def test_it_follows_a_move_late(self) -> None:
        gauge = SimulatedGauge(
            plan=example(), traits=Traits(noise_kg=0.0, step=0.1, rating=9000, lag_s=1.0)
        )
        before = gauge.reading()["load"]
        gauge.position_m += 0.5
        gauge.move(0.2)
        soon = gauge.reading()["load"]
        for _ in range(50):
            gauge.move(0.2)
        settled = gauge.reading()["load"]
        self.assertLess(settled, soon)
        self.assertLess(soon, before)
        self.assertAlmostEqual(gauge.tongue_kg() / KG_PER_LB, settled, delta=0.2)

    def test_its_slips_are_what_the_sieve_drops(self) -> None:
        """Rubbish, a flood and the other unit, each in its turn, and readings in between."""
        slips = Slips("lb", every_s=10.0)
        for at, why in ((11.0, "flood"), (21.0, "unit"), (31.0, "rubbish"), (15.0, "")):
            sieve = Sieve(Facts(unit="lb"))
            with patch("gauge.simulated.time.monotonic", return_value=slips._begun + at):
                for n in range(12):
                    sieve.take(as_line({"n": n + 1, "load": 1000}), n / 10)
                for n in range(12, 24):
                    sent = slips({"n": n + 1, "load": 1000})
                    for one in sent.splitlines(keepends=True):
                        sieve.take(one, n / 10)
            with self.subTest(why=why):
                self.assertEqual({why} - {""}, set(sieve.dropped))

    def test_who_obeys_the_coach_stops_inside_the_sure_window(self) -> None:
        """Two hundred approaches with noise, steps and lag; the machine is as heavy as any
        within its tolerance."""
        plan = example()
        item, sure = plan.items[0], evaluate(plan).windows[0].sure
        off = item.mass_tolerance_kg / item.mass_kg
        stopped = 0
        for seed in range(200):
            gauge = SimulatedGauge(
                plan=plan,
                seed=seed,
                heavier=1 + off * (seed % 3 - 1) * 0.9,
                traits=Traits(lag_s=0.1 + 0.3 * (seed % 4), noise_kg=3.0, rating=9000),
            )
            driver = ObedientDriver(gauge, rest_s=1e9)
            for _ in range(1200):
                gauge.move(0.125)
                driver.see(gauge.reading(), 0.125)
                if driver.stood_since and driver.clock - driver.stood_since > 4:
                    break
            self.assertIs(Move.STOP, driver.told[-1][1], f"seed {seed}")
            at = Placement(
                reference_m=gauge.position_m, facing=gauge.truth.items[0].placement.facing
            )
            stands = gauge.truth.with_placement(gauge.truth.items[0].id, at)
            # whatever it weighs, every limit of the true outfit holds
            self.assertIn(evaluate(stands).verdict, (Status.OK, Status.NEAR), f"seed {seed}")
            if gauge.heavier == 1:
                inside = any(p.start_m <= gauge.position_m <= p.end_m for p in sure)
                self.assertTrue(inside, f"seed {seed}: {gauge.position_m / M_PER_IN:.1f} in")
            stopped += 1
        self.assertEqual(200, stopped)
