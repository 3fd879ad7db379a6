"""How it tows, on a haul's page."""

from __future__ import annotations

from aspects.sway.page import sway_page
from hauls.tests.yard_case import AspectCase
from measures import UnitSystem
from mechanics.sway import Swing
from mechanics.trailer import Trailer
from wording.sway import half_words, speed_band


def swing(damping: float | None, half: float | None) -> Swing:
    return Swing(speed_m_s=25.0, damping=damping, frequency_hz=0.5, half_life_s=half)


class Words(AspectCase):
    def test_halves_grows_or_does_not_swing(self) -> None:
        self.assertEqual(half_words([swing(0.2, 0.9), swing(0.1, 1.64)]), "halves in 0.9 to 1.6 s")
        self.assertEqual(half_words([swing(0.2, 0.9), swing(0.2, 0.9)]), "halves in 0.9 s")
        # grow, where it grows under any
        self.assertEqual(half_words([swing(0.2, 0.9), swing(-0.1, None)]), "grows")
        self.assertEqual(half_words([swing(0.001, 90.0), swing(0.1, 1.0)]), "hardly dies out")
        self.assertIn("does not swing", half_words([swing(None, None)]))

    def test_bands_of_speeds(self) -> None:
        self.assertEqual(speed_band([None, None], 1.0, "mph", 150), "not up to 150 mph")
        self.assertEqual(
            speed_band([None, 92.0, 118.0], 1.0, "mph", 150),
            "between 92 and 118 mph, or not up to 150 mph",
        )
        self.assertEqual(speed_band([60.0, 60.2], 1.0, "mph", 150), "at about 60 mph")


class HowItTows(AspectCase):
    def test_the_page_says_it_first_for_the_speed_that_is_asked(self) -> None:
        page = self.client.get(f"/hauls/{self.haul.pk}/sway/")
        self.assertContains(page, "At 55 mph a swing halves in")
        self.assertContains(page, "The trailer empty: it")
        self.assertContains(page, "Slower is calmer")
        self.assertNotContains(page, "allowed speed")
        page = self.client.get(f"/hauls/{self.haul.pk}/sway/?speed=75")
        self.assertContains(page, "At 75 mph a swing")
        for asked, speed in (("x", 55), ("", 55), ("999", 80), ("-1", 20), ("57", 55)):
            page = self.client.get(f"/hauls/{self.haul.pk}/sway/?speed={asked}")
            self.assertContains(page, f"At {speed} mph")

    def test_metric_people_read_kilometres_an_hour(self) -> None:
        self.user.units = "metric"
        self.user.save()
        page = self.client.get(f"/hauls/{self.haul.pk}/sway/")
        self.assertContains(page, "At 80 km/h a swing")
        self.assertNotContains(page, "mph")

    def test_the_best_place_is_compared_once_it_stands_elsewhere(self) -> None:
        plan = self.haul.draft.plan
        told = [way.name for way in sway_page(plan, UnitSystem.US, 55).ways]
        self.assertIn("As it stands", told)
        item = plan.items[0]
        stood = item.placement
        moved = plan.with_placement(
            item.id,
            type(stood)(
                reference_m=stood.reference_m + 0.6, facing=stood.facing, left_m=stood.left_m
            ),
        )
        page = sway_page(moved, UnitSystem.US, 65)
        self.assertEqual(
            [way.name for way in page.ways],
            ["As it stands", "At the best place", "The trailer empty"],
        )
        # further back than the best place it is less calm, and the curves say so
        self.assertNotEqual(page.ways[0].line, page.ways[1].line)

    def test_an_axle_that_carries_nothing_is_told(self) -> None:
        plan = self.haul.draft.plan
        trailer: Trailer = plan.trailer
        item = plan.items[0]
        heavy = type(item)(
            **{name: getattr(item, name) for name in item.__slots__} | {"mass_kg": 90_000.0}
        )
        behind = type(item.placement)(reference_m=trailer.deck.length_m + 5)
        lifted = plan.carrying((heavy,)).with_placement(item.id, behind)
        page = sway_page(lifted, UnitSystem.US, 55)
        self.assertEqual((page.ways, page.sentence), ((), ""))
