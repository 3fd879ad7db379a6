"""What is said of stopping, from the haul's own figures."""

from __future__ import annotations

from book.models import TrailerAxle
from hauls.stopping import braked_axles_kg, braking
from hauls.tests.yard_case import YardCase
from measures import UnitSystem
from mechanics.report import evaluate
from mechanics.stopping import outfit_length_m
from mechanics.units import KG_PER_LB, M_PER_FT
from wording.stopping import room_words

US, METRIC = UnitSystem


class Stopping(YardCase):
    def said(self, unit: UnitSystem = US) -> str:
        report = evaluate(self.haul.draft.plan)
        return room_words(report.plan, braking(self.haul, report), unit)

    def brakes(self, *kinds: str) -> None:
        assert self.haul.trailer is not None
        axles = list(self.haul.trailer.axles.all())
        for axle, kind in zip(axles, kinds, strict=True):
            TrailerAxle.objects.filter(pk=axle.pk).update(brake=kind)
        self.haul.refresh_from_db()

    def test_braked_on_both_axles_it_stops_about_as_the_truck(self) -> None:
        self.brakes("electric", "electric")
        found = braked_axles_kg(self.haul)
        assert found is not None
        self.assertAlmostEqual(found / KG_PER_LB, 10_400)
        self.assertIn("Stops about as the truck does full. From 55 mph it stands in", self.said())

    def test_without_brakes_it_needs_further(self) -> None:
        """15,800 lb of outfit over 10,000 lb of truck."""
        self.brakes("none", "none")
        whole = evaluate(self.haul.draft.plan).loads.combination_kg / KG_PER_LB
        self.assertIn(f"Needs {whole / 10_000:.1f} times as far to brake", self.said())

    def test_brakes_that_nobody_knows_are_not_counted(self) -> None:
        self.brakes("electric", "")
        self.assertIsNone(braked_axles_kg(self.haul))
        self.assertNotIn("brake", self.said())
        self.assertIn("Leave", self.said())

    def test_the_room_ahead_grows_with_the_outfit(self) -> None:
        length = outfit_length_m(self.haul.draft.plan) / M_PER_FT
        self.assertTrue(35 < length < 50, length)
        self.assertIn("Leave 5 seconds ahead, 6 above 40 mph.", self.said())
        self.assertIn("6 above 65 km/h", self.said(METRIC))
        self.assertNotIn(" ft", self.said(METRIC))
