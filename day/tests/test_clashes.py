"""What is promised twice."""

from __future__ import annotations

from datetime import date

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from day.clashes import USUAL_MINUTES, Booking, Of, Used, clashes

MONDAY, TUESDAY = date(2026, 11, 23), date(2026, 11, 24)
THINGS = [Used(of, key, f"{of.value} {key}") for of in Of for key in range(3)]

bookings = st.builds(
    Booking,
    haul=st.integers(1, 10**6),
    day=st.sampled_from([MONDAY, TUESDAY]),
    starts=st.none() | st.integers(0, 24 * 60 - 1),
    minutes=st.none() | st.integers(1, 600),
    uses=st.frozensets(st.sampled_from(THINGS), max_size=4),
)


def booked(haul: int, starts: int | None, minutes: int | None = 60, *keys: int) -> Booking:
    """A haul with a truck of some key."""
    uses = frozenset(Used(Of.TRUCK, key, f"truck {key}") for key in keys or (1,))
    return Booking(haul=haul, day=MONDAY, starts=starts, minutes=minutes, uses=uses)


class Twice(SimpleTestCase):
    def test_one_after_the_other_is_right_and_at_once_is_not(self) -> None:
        nine, ten, half_past = booked(1, 540), booked(2, 600), booked(3, 570)
        self.assertEqual(list(clashes([nine, ten])), [])
        found = list(clashes([half_past, nine, ten]))
        self.assertEqual([(c.one.haul, c.other.haul) for c in found], [(1, 3), (3, 2)])
        self.assertTrue(all(clash.sure for clash in found))

    def test_how_long_it_usually_takes_counts_where_nobody_says_it(self) -> None:
        open_end = booked(1, 540, None)
        self.assertEqual(list(clashes([open_end, booked(2, 540 + USUAL_MINUTES)])), [])
        self.assertEqual(len(list(clashes([open_end, booked(2, 539 + USUAL_MINUTES)]))), 1)

    def test_without_an_hour_it_is_asked_and_comes_last(self) -> None:
        found = list(clashes([booked(1, None), booked(2, 540), booked(3, 550)]))
        self.assertEqual([clash.sure for clash in found], [True, False, False])

    def test_other_things_and_other_days_do_not_meet(self) -> None:
        other_day = Booking(haul=2, day=TUESDAY, starts=540, minutes=60, uses=booked(1, 540).uses)
        self.assertEqual(list(clashes([booked(1, 540), other_day])), [])
        self.assertEqual(list(clashes([booked(1, 540, 60, 1), booked(2, 540, 60, 2)])), [])

    @given(st.lists(bookings, max_size=8, unique_by=lambda booking: booking.haul))
    def test_two_hauls_overlap_if_and_only_if_it_is_told(self, hauls: list[Booking]) -> None:
        told = {
            (frozenset((clash.one.haul, clash.other.haul)), used)
            for clash in clashes(hauls)
            if clash.sure
            for used in clash.used
        }
        meant = set()
        for one in hauls:
            for other in hauls:
                if one.haul == other.haul or one.day != other.day:
                    continue
                if one.starts is None or other.starts is None:
                    continue
                # minute by minute
                mine = range(one.starts, one.starts + (one.minutes or USUAL_MINUTES))
                theirs = range(other.starts, other.starts + (other.minutes or USUAL_MINUTES))
                if set(mine) & set(theirs):
                    pair = frozenset((one.haul, other.haul))
                    meant |= {(pair, used) for used in one.uses & other.uses}
        self.assertEqual(told, meant)
