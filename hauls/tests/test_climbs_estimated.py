"""Getting on and off with figures that nobody measured: never simply ok, never simply over."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase

from hauls.climbs import unsettled, verdict
from mechanics.checks import Status
from mechanics.loading import way
from mechanics.plan import Plan
from mechanics.tests.climbing import climbing_plan
from mechanics.units import M_PER_IN

CLEAR = (0.1, 0.2)
"""It does not scrape, by what is usual of its kind."""


def known(plan: Plan, **more: float) -> Plan:
    """The plan with its machine's figures no better known than that, and marked so."""
    item = plan.items[0]
    cg = replace(
        item.cg,
        ahead_tolerance_m=more.get("ahead", 0.0),
        height_tolerance_m=more.get("height", 0.0),
    )
    one = replace(
        item, cg=cg, mass_tolerance_kg=more.get("mass", 0.0), estimates=("cg.height", "cg.ahead")
    )
    return replace(plan, items=(one, *plan.items[1:]))


class Estimated(SimpleTestCase):
    def open_ended(self, plan: Plan) -> bool:
        """Whether its way's verdict depends on where the estimates lie."""
        return unsettled(plan, 0, verdict(way(plan, 0), CLEAR), CLEAR)

    def test_a_band_that_changes_nothing_is_settled(self) -> None:
        plan = climbing_plan()
        self.assertFalse(self.open_ended(known(plan, height=0.01, ahead=0.01, mass=1.0)))

    def test_a_band_wide_enough_to_tip_or_lift_is_not(self) -> None:
        plan = known(climbing_plan(), ahead=60 * M_PER_IN)
        self.assertTrue(self.open_ended(plan))

    def test_without_an_estimate_it_is_judged_as_entered(self) -> None:
        plan = known(climbing_plan(), ahead=60 * M_PER_IN)
        item = replace(plan.items[0], estimates=())
        self.assertFalse(self.open_ended(replace(plan, items=(item,))))

    def test_what_cannot_be_said_stays_so(self) -> None:
        plan = known(climbing_plan(), ahead=60 * M_PER_IN)
        self.assertFalse(unsettled(plan, 0, Status.UNKNOWN, None))
