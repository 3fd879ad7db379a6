"""Typical figures against facts of the trade: common practice, no source, measured with yard means.

A band has to hold what was found; where a fact leaves something open (a rating, a deck) the usual
one is taken and said.
"""

from __future__ import annotations

from django.test import SimpleTestCase

from mechanics.typical import (
    Estimate,
    Hung,
    MachineKind,
    TrailerKind,
    as_hauled_kg,
    curb_kg,
    empty_kg,
    empty_tongue_part,
)
from mechanics.units import KG_PER_LB, M_PER_FT, M_PER_IN

TRAILERS: list[tuple[TrailerKind, float, float, float, float]] = [
    # kind, rating and deck as usual for it in lb and ft, found least and most in lb
    (TrailerKind.UTILITY, 3000, 14, 900, 1000),
    (TrailerKind.UTILITY, 7000, 16, 1800, 2000),
    (TrailerKind.FLATBED, 14000, 20, 4000, 4000),
    # a tandem-dual of 29 ft; the rating usual for one
    (TrailerKind.GOOSENECK, 22000, 29, 7600, 7600),
    # a dump trailer that took 10,500 lb of rock; rating and bed usual for one
    (TrailerKind.DUMP, 14000, 14, 4040, 4040),
]

TRACTORS: list[tuple[float, Hung, float, float]] = [
    # bare in lb, what hangs on it, as hauled least and most in lb
    (1300, Hung.FRONT, 1800, 2000),
    (1600, Hung.FRONT, 2100, 2300),
    (1450, Hung.BOTH, 2900, 3100),
]


class FactsOfTheTrade(SimpleTestCase):
    def assert_holds(self, found: Estimate, least: float, most: float, what: object) -> None:
        """A band holds all of a range, in lb."""
        self.assertLessEqual(found.least / KG_PER_LB, least, what)
        self.assertGreaterEqual(found.most / KG_PER_LB, most, what)

    def test_empty_trailers(self) -> None:
        for kind, rating, deck, least, most in TRAILERS:
            found = empty_kg(kind, rating * KG_PER_LB, deck * M_PER_FT)
            self.assert_holds(found, least, most, (kind, rating))

    def test_empty_tongues(self) -> None:
        """A tandem of 1,720 lb with about 200 on the ball; a gooseneck of 3,380 with 700 on the
        pin; a dump trailer with 550 to 600 of 4,040. Decks and axles as usual for them."""
        for start, deck, axles, ramps, share in (
            (46, 192, 158, True, 200 / 1720),
            (72, 240, 222, False, 700 / 3380),
            (58, 168, 160, False, 575 / 4040),
        ):
            found = empty_tongue_part(
                deck_start_m=start * M_PER_IN,
                deck_length_m=deck * M_PER_IN,
                axles_m=axles * M_PER_IN,
                ramps=ramps,
            )
            self.assertLessEqual(found.least, share, (start, deck, axles))
            self.assertGreaterEqual(found.most, share, (start, deck, axles))

    def test_subcompact_tractors_with_loader_and_backhoe(self) -> None:
        for bare, hung, least, most in TRACTORS:
            found = as_hauled_kg(MachineKind.TRACTOR, bare * KG_PER_LB, hung, counted=False)
            self.assert_holds(found, least, most, (bare, hung))

    def test_a_kerb_mass_of_a_metric_plate(self) -> None:
        """Kerb 1,840 kg of a maximum authorised mass of 2,510."""
        found = curb_kg(2510.0, None)
        self.assertLessEqual(found.least, 1840)
        self.assertGreaterEqual(found.most, 1840)
