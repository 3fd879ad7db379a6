"""How low a machine hangs: what was taped, what a configuration says, what is usual."""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from book.clearances import low_points
from book.figures import Outline
from book.models import Configuration, Machine
from hauls.compose import load_section
from hauls.loads import Load
from hauls.tests.bare_yard import BareYard, q
from hauls.units import FileUnits
from measures import UnitSystem
from planfile import document

REACH = Outline(front_m=2.5, rear_m=0.9, height_m=None)


class LowPoints(TestCase):
    def setUp(self) -> None:
        self.machine: Machine = BareYard().machine
        self.machine.wheelbase = q("1800 mm")

    def points(self, configuration: Configuration | None = None) -> list[tuple[float, float]]:
        """What was taped, as places and clearances in m."""
        found = low_points(self.machine, configuration, REACH).taped
        return [(round(p.ahead_m, 3), round(p.clearance_m, 3)) for p in found]

    def test_tail_belly_and_nose_from_the_rear_to_the_front(self) -> None:
        self.machine.tail_clearance = q("400 mm")
        self.machine.belly_clearance = q("300 mm")
        self.machine.nose_clearance = q("700 mm")
        self.assertEqual(self.points(), [(-0.9, 0.4), (0.0, 0.3), (1.8, 0.3), (2.5, 0.7)])

    def test_a_configuration_goes_before_the_machine(self) -> None:
        self.machine.tail_clearance = q("400 mm")
        hung = Configuration(machine=self.machine, name="hung", tail_clearance=q("250 mm"))
        self.assertEqual(self.points(hung), [(-0.9, 0.25)])

    def test_where_nothing_was_taped_the_usual_ones_stand_beside(self) -> None:
        found = low_points(self.machine, None, REACH)
        self.assertEqual(found.taped, ())
        self.assertEqual(len(found.least), len(found.most))
        for least, most in zip(found.least, found.most, strict=True):
            self.assertEqual(least.ahead_m, most.ahead_m)
            self.assertLess(least.clearance_m, most.clearance_m)
        # a bucket is carried as high as it needs to be
        self.assertLess(max(p.ahead_m for p in found.least), REACH.front_m)

    def test_nothing_where_it_stands_nowhere_or_has_no_usual_ones(self) -> None:
        self.machine.shape = Machine.Shape.IMPLEMENT
        self.assertEqual(low_points(self.machine, None, REACH).least, ())
        self.machine.shape = Machine.Shape.TRACTOR
        self.machine.wheelbase = None
        self.assertEqual(low_points(self.machine, None, REACH).least, ())

    def test_estimates_never_reach_the_plans_own_figures(self) -> None:
        units = FileUnits.of(UnitSystem.METRIC)
        place = document.Placement(reference=2000)
        item = load_section(Load(machine=self.machine), "m1", units, place)
        self.assertEqual(item.underside, [])
        extra: Any = item.extra
        self.assertEqual(set(extra["usual_underside"]), {"least", "most"})
        self.machine.belly_clearance = q("300 mm")
        item = load_section(Load(machine=self.machine), "m1", units, place)
        self.assertEqual([p.clearance for p in item.underside], [300, 300])
        self.assertNotIn("usual_underside", item.extra)  # type: ignore[operator]
