"""Typical figures: what follows from what, and that no figure stands outside its band."""

from __future__ import annotations

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.errors import InputError
from mechanics.typical import (
    BROCHURE,
    FRONT_SHARE,
    HEIGHT_PART,
    KIND_PART,
    OF_LENGTH,
    Estimate,
    Hung,
    MachineKind,
    TrailerKind,
    as_hauled_kg,
    balance_ahead_m,
    curb_kg,
    empty_kg,
    empty_tongue_part,
    front_share,
    wheelbase_m,
)
from mechanics.units import KG_PER_LB, M_PER_FT, M_PER_IN

lengths, masses = st.floats(0.5, 15.0), st.floats(300.0, 15_000.0)


class Estimates(SimpleTestCase):
    def test_a_plan_is_made_with_the_middle_of_the_band(self) -> None:
        with self.assertRaises(InputError):
            Estimate(least=2.5, most=2.0)
        found = Estimate(least=9.0, most=14.0)
        self.assertEqual((found.value, found.tolerance), (11.5, 2.5))
        self.assertEqual(found.times(2.0), Estimate(least=18.0, most=28.0))
        self.assertEqual(found.plus(found), found.times(2.0))

    def test_every_kind_has_every_figure(self) -> None:
        self.assertEqual(set(KIND_PART), set(TrailerKind))
        for table in (HEIGHT_PART, BROCHURE):
            self.assertEqual(set(table), set(MachineKind))
        on_wheels = {kind for kind, _ in FRONT_SHARE}
        self.assertEqual(on_wheels | set(OF_LENGTH), set(MachineKind))


class Trucks(SimpleTestCase):
    def test_a_sticker_says_more_than_a_rating(self) -> None:
        rating, payload = 10_000 * KG_PER_LB, 2_700 * KG_PER_LB
        told, guessed = curb_kg(rating, payload), curb_kg(rating, None)
        self.assertAlmostEqual(told.value / KG_PER_LB, 7300)
        self.assertLess(told.tolerance, guessed.tolerance)
        with self.assertRaisesMessage(InputError, "less than the truck's GVWR"):
            curb_kg(rating, rating)

    def test_a_heavier_pickup_is_longer(self) -> None:
        self.assertLess(wheelbase_m(6_900 * KG_PER_LB).value, wheelbase_m(11_000 * KG_PER_LB).value)


class Trailers(SimpleTestCase):
    def test_longer_and_stronger_ones_weigh_more(self) -> None:
        short = empty_kg(TrailerKind.UTILITY, 3000 * KG_PER_LB, 14 * M_PER_FT)
        long = empty_kg(TrailerKind.UTILITY, 3000 * KG_PER_LB, 16 * M_PER_FT)
        strong = empty_kg(TrailerKind.UTILITY, 7000 * KG_PER_LB, 14 * M_PER_FT)
        dump = empty_kg(TrailerKind.DUMP, 7000 * KG_PER_LB, 14 * M_PER_FT)
        self.assertTrue(short.value < long.value < strong.value < dump.value)

    def test_none_weighs_all_it_may(self) -> None:
        found = empty_kg(TrailerKind.DUMP, 3000 * KG_PER_LB, 40 * M_PER_FT)
        self.assertAlmostEqual(found.most, 0.85 * 3000 * KG_PER_LB)
        for bad in ((0.0, 5.0), (1000.0, 0.0)):
            with self.assertRaises(InputError):
                empty_kg(TrailerKind.UTILITY, *bad)

    def test_an_axle_more_weighs_more(self) -> None:
        one, usual, two, three = (
            empty_kg(TrailerKind.FLATBED, 10_000 * KG_PER_LB, 18 * M_PER_FT, axles=axles)
            for axles in (1, None, 2, 3)
        )
        self.assertEqual(usual, two)
        self.assertTrue(one.least < two.least < three.least)
        self.assertTrue(one.most < two.most < three.most)
        # an axle is 50 to 200 lb of one of 10,000
        self.assertAlmostEqual((three.least - two.least) / KG_PER_LB, 50)
        self.assertAlmostEqual((three.most - two.most) / KG_PER_LB, 200)
        self.assertAlmostEqual((one.least - two.least) / KG_PER_LB, -200)

    def test_a_light_trailer_has_one_axle_as_a_rule(self) -> None:
        light = 2990 * KG_PER_LB
        self.assertEqual(
            empty_kg(TrailerKind.UTILITY, light, 3.6),
            empty_kg(TrailerKind.UTILITY, light, 3.6, axles=1),
        )

    def test_axles_never_take_all_of_a_trailer_away(self) -> None:
        short = empty_kg(TrailerKind.BOAT, 15_000 * KG_PER_LB, 0.3, axles=1)
        self.assertTrue(0 < short.least <= short.most)
        with self.assertRaises(InputError):
            empty_kg(TrailerKind.BOAT, 1000.0, 3.0, axles=0)

    def test_axles_further_back_put_more_on_the_ball(self) -> None:
        near, far = (
            empty_tongue_part(deck_start_m=1.3, deck_length_m=6.1, axles_m=axles, ramps=True)
            for axles in (4.6, 5.4)
        )
        self.assertLess(near.value, far.value)
        bare = empty_tongue_part(deck_start_m=1.3, deck_length_m=6.1, axles_m=5.4, ramps=False)
        self.assertGreater(bare.value, far.value)
        with self.assertRaises(InputError):
            empty_tongue_part(deck_start_m=1.3, deck_length_m=6.1, axles_m=0.0, ramps=False)

    @settings(max_examples=60)
    @given(start=st.floats(-3.0, 3.0), length=lengths, axles=lengths, ramps=st.booleans())
    def test_something_always_rests_on_the_ball(
        self, start: float, length: float, axles: float, ramps: bool
    ) -> None:
        found = empty_tongue_part(
            deck_start_m=start, deck_length_m=length, axles_m=axles, ramps=ramps
        )
        self.assertGreater(found.value, 0)
        self.assertGreaterEqual(found.least, 0)


class Machines(SimpleTestCase):
    def test_a_loader_moves_the_balance_forward_and_a_backhoe_back(self) -> None:
        kinds = (Hung.REAR, Hung.BOTH, Hung.NOTHING, Hung.FRONT)
        found = [balance_ahead_m(MachineKind.TRACTOR, hung, 2.0).value for hung in kinds]
        self.assertEqual(found, sorted(found))
        self.assertEqual(len(set(found)), 4)

    def test_what_has_no_axles_balances_about_its_middle(self) -> None:
        self.assertIsNone(front_share(MachineKind.EXCAVATOR, Hung.NOTHING))
        found = balance_ahead_m(MachineKind.EXCAVATOR, Hung.FRONT, 2.0)
        self.assertAlmostEqual(found.value, 1.0)
        # a roller with something on it balances as any roller
        self.assertEqual(
            front_share(MachineKind.ROLLER, Hung.FRONT),
            front_share(MachineKind.ROLLER, Hung.NOTHING),
        )
        with self.assertRaises(InputError):
            balance_ahead_m(MachineKind.CAR, Hung.NOTHING, 0.0)

    @settings(max_examples=60)
    @given(kind=st.sampled_from(list(MachineKind)), mass=masses, hung=st.sampled_from(list(Hung)))
    def test_nothing_weighs_less_for_what_hangs_on_it(
        self, kind: MachineKind, mass: float, hung: Hung
    ) -> None:
        alone = as_hauled_kg(kind, mass, hung, counted=True)
        more = as_hauled_kg(kind, mass, hung, counted=False)
        self.assertGreaterEqual(more.value, alone.value)
        self.assertGreaterEqual(alone.value, mass)

    def test_a_mass_of_nothing_is_refused(self) -> None:
        with self.assertRaises(InputError):
            as_hauled_kg(MachineKind.CAR, 0.0, Hung.NOTHING, counted=True)

    def test_a_tire_size_apart(self) -> None:
        # two feet of wheelbase and a bare tractor: 41 % of it ahead of the rear axle
        found = balance_ahead_m(MachineKind.TRACTOR, Hung.NOTHING, 24 * M_PER_IN)
        self.assertAlmostEqual(found.value / M_PER_IN, 9.84)
