"""Tongue and trailer weighed together say the share, and what the rule of share wants."""

from __future__ import annotations

from django.test import SimpleTestCase

from book.models import Ticket, Trailer
from hauls.tests.yard_case import YardCase
from measures import Quantity, UnitSystem
from mechanics.hitch import Hitch, HitchPart, HitchType, WeightDistribution
from mechanics.units import KG_PER_LB
from weighing.share import hitch_words, rated_parts, share_words


class Words(SimpleTestCase):
    def test_the_band_wanted_is_said_in_pounds(self) -> None:
        said = share_words(300 * KG_PER_LB, 2460 * KG_PER_LB, UnitSystem.US, over_bed=False)
        self.assertEqual(
            said,
            "12.2 % of the trailer is on the tongue. 10–15 % of 2,460 lb is 246 lb to 369 lb.",
        )

    def test_over_a_bed_and_in_kilograms(self) -> None:
        said = share_words(2000.0, 10_000.0, UnitSystem.METRIC, over_bed=True)
        self.assertIn("20.0 % of the trailer is on the pin. 15–25 %", said)
        self.assertIn("1,500 kg to 2,500 kg", said)

    def test_what_cannot_be_says_nothing(self) -> None:
        for tongue, trailer in ((10.0, 0.0), (20.0, 10.0)):
            self.assertEqual(share_words(tongue, trailer, UnitSystem.US, over_bed=False), "")


class HitchWords(SimpleTestCase):
    def said(self, pounds: float, *, bars: bool = False, bare: bool = False) -> str:
        ratings = () if bare else (("Sleeve", 600.0, 600.0), ("Receiver", 500.0, 1200.0))
        hitch = Hitch(
            type=HitchType.BALL,
            weight_distribution=WeightDistribution(front_axle_restoration=0.5) if bars else None,
            parts=(
                HitchPart(name="Chains", max_trailer_mass_kg=5000.0),
                *(
                    HitchPart(
                        name=name,
                        max_tongue_mass_kg=plain * KG_PER_LB,
                        max_tongue_mass_wd_kg=barred * KG_PER_LB,
                    )
                    for name, plain, barred in ratings
                ),
            ),
        )
        return hitch_words(pounds * KG_PER_LB, rated_parts(hitch), UnitSystem.US)

    def test_the_weakest_part_and_what_bounce_wants(self) -> None:
        self.assertEqual(
            self.said(400),
            "Receiver is rated for 500 lb of tongue: 100 lb left. With a sixth kept free "
            "for bounce it takes 417 lb: enough.",
        )
        self.assertIn(
            "50 lb left. With a sixth kept free for bounce it takes 417 lb: this", self.said(450)
        )
        self.assertIn("60 lb over. With a sixth", self.said(560))

    def test_bars_change_which_is_weakest(self) -> None:
        self.assertIn(
            "Sleeve is rated for 600 lb of tongue: 40 lb left.", self.said(560, bars=True)
        )

    def test_no_rating_is_not_enough(self) -> None:
        self.assertIn("cannot say", self.said(10, bare=True))


class OnPages(YardCase):
    def test_on_the_ticket(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        ticket = Ticket(
            yard=self.yard,
            weighed_on="2026-05-04",
            whole_mass=Quantity.parse("2460 lb"),
            tongue_mass=Quantity.parse("300 lb"),
        )
        ticket.thing = trailer
        ticket.save()
        shown = self.client.get(f"/weigh/tickets/{ticket.pk}/")
        self.assertContains(shown, "246 lb to 369 lb")
        # of no haul: what each hitch says that this trailer can be coupled to
        self.assertContains(shown, "Work truck 3, ")
        self.assertContains(shown, "of tongue: ")
        self.assertNotContains(shown, "Gooseneck ball")
        ticket.readings = {"empty": True}
        ticket.save()
        self.assertNotContains(self.client.get(f"/weigh/tickets/{ticket.pk}/"), "246 lb to 369 lb")
