"""What goes forward, so that the tongue carries what it should."""

from __future__ import annotations

from unittest import TestCase

from hypothesis import assume, given
from hypothesis import strategies as st

from mechanics.errors import InputError
from mechanics.shifting import carried_kg, carried_pieces, move_m

loads = st.floats(50, 5000)
lengths = st.floats(0.5, 8)
levers = st.floats(2, 12)


def gained(count: int, piece_kg: float, length_m: float, taken: int, lever_m: float) -> float:
    """What the tongue gains, piece by piece: each of the rear ones goes as far as the foremost
    free place of the same number lies ahead of it."""
    step = length_m / count
    middles = [(n + 0.5) * step for n in range(count)]
    moved = sum(middles[count - taken + n] - middles[n] for n in range(taken))
    return moved * piece_kg / lever_m


class Shifted(TestCase):
    def test_by_hand(self) -> None:
        # 40 bags of 25 kg over 2.4 m, 5 m ahead of the axles: 30 kg more is 150 kg m;
        # 3 bags 75 kg * 2.4 m * (1 - 3/40) = 166.5 kg m, 2 bags 114 kg m
        said = carried_pieces(count=40, piece_kg=25, length_m=2.4, tongue_kg=30, lever_m=5)
        self.assertEqual(said, 3)
        self.assertAlmostEqual(move_m(load_kg=600, tongue_kg=30, lever_m=5), 0.25)
        self.assertAlmostEqual(move_m(load_kg=600, tongue_kg=-30, lever_m=5), -0.25)

    def test_half_of_it_is_the_most(self) -> None:
        # half of 1,000 kg over 2 m goes 1 m: 500 kg m, 100 kg on a lever of 5 m
        def most(kg: float) -> float | None:
            return carried_kg(load_kg=1000, length_m=2, tongue_kg=kg, lever_m=5)

        self.assertAlmostEqual(most(100) or 0, 500)
        self.assertIsNone(most(100.1))
        self.assertEqual(most(0), 0)

    def test_what_cannot_be_is_refused(self) -> None:
        with self.assertRaisesRegex(InputError, "count"):
            carried_pieces(count=0, piece_kg=20, length_m=2, tongue_kg=1, lever_m=4)
        with self.assertRaisesRegex(InputError, "lever"):
            move_m(load_kg=10, tongue_kg=1, lever_m=0)

    @given(st.integers(2, 200), st.floats(1, 100), lengths, st.floats(0.1, 400), levers)
    def test_just_enough_pieces(
        self, count: int, piece: float, length: float, tongue: float, lever: float
    ) -> None:
        taken = carried_pieces(
            count=count, piece_kg=piece, length_m=length, tongue_kg=tongue, lever_m=lever
        )
        if taken is None:
            most = gained(count, piece, length, count // 2, lever)
            self.assertLess(most, tongue * (1 + 1e-6))
            return
        self.assertGreaterEqual(gained(count, piece, length, taken, lever), tongue * (1 - 1e-6))
        if taken:
            self.assertLess(gained(count, piece, length, taken - 1, lever), tongue * (1 + 1e-6))

    @given(loads, lengths, st.floats(0.1, 400), levers)
    def test_part_of_it_goes_further_than_all_of_it(
        self, load: float, length: float, tongue: float, lever: float
    ) -> None:
        kg = carried_kg(load_kg=load, length_m=length, tongue_kg=tongue, lever_m=lever)
        assume(kg is not None)
        assert kg is not None
        self.assertAlmostEqual(
            kg * length * (1 - kg / load), tongue * lever, delta=1e-6 * tongue * lever
        )
        self.assertLessEqual(kg, load / 2)
