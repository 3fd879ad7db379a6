"""Conversions against ``pint`` and ``scipy.constants`` (both after NIST SP 811)."""

from __future__ import annotations

import pint
from django.test import SimpleTestCase
from scipy import constants

from measures.quantity import LENGTH_UNITS, MASS_UNITS
from mechanics.units import KG_PER_LB, M_PER_FT, M_PER_IN, LengthUnit, MassUnit


class Factors(SimpleTestCase):
    def test_against_scipy_constants(self) -> None:
        # scipy multiplies 7,000 grains up, which costs the last bit
        self.assertAlmostEqual(KG_PER_LB, constants.pound, places=15)
        self.assertEqual(M_PER_IN, constants.inch)
        self.assertAlmostEqual(M_PER_FT, constants.foot, places=15)

    def test_against_pint(self) -> None:
        registry = pint.UnitRegistry()
        for unit in MassUnit:
            expected = registry.Quantity(1, unit.value).to("kg").magnitude
            self.assertAlmostEqual(unit.kg, expected, places=15)
        for unit in LengthUnit:
            expected = registry.Quantity(1, "inch" if unit is LengthUnit.IN else unit.value)
            self.assertAlmostEqual(unit.m, expected.to("m").magnitude, places=15)

    def test_units_that_people_write_against_pint(self) -> None:
        registry = pint.UnitRegistry()
        names = {"t": "metric_ton", "ton": "short_ton", "in": "inch"}
        for table, base in ((MASS_UNITS, "kg"), (LENGTH_UNITS, "m")):
            for unit, factor in table.items():
                expected = registry.Quantity(1, names.get(unit, unit)).to(base).magnitude
                with self.subTest(unit=unit):
                    self.assertAlmostEqual(float(factor), expected, delta=1e-12 * expected)
