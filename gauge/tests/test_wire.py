"""Lines of a gauge: what is believed, and what is dropped and counted."""

from __future__ import annotations

import json
from typing import Any

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from gauge.wire import LONGEST, MOST_A_SECOND, Facts, Purpose, Sieve, WireError, agreed, read_hello
from mechanics.units import KG_PER_LB

KEY = "k" * 24


def line(**document: Any) -> bytes:
    """A line of the protocol."""
    return json.dumps(document).encode() + b"\n"


class Hellos(SimpleTestCase):
    def test_a_gauge_and_a_page(self) -> None:
        self.assertTrue(read_hello(line(eyebolt_gauge=1, key=KEY)).purpose is Purpose.SEND)
        self.assertFalse(read_hello(line(eyebolt_watch=1, key=KEY)).purpose is Purpose.SEND)

    def test_what_is_none_is_refused_with_a_reason(self) -> None:
        for data, words in (
            (b"GET / HTTP/1.1\r\n", "first line"),
            (b"\xff\xfe\n", "first line"),
            (b"[1]\n", "first line"),
            (line(key=KEY), "first line"),
            (line(eyebolt_gauge=2, key=KEY), "version 1"),
            (line(eyebolt_gauge=1), "key"),
            (line(eyebolt_gauge=1, key="short"), "key"),
            (line(eyebolt_gauge=1, key=7), "key"),
            (b"{" * 400 + b"\n", "first line"),
        ):
            with self.subTest(data=data[:40]), self.assertRaisesMessage(WireError, words):
                read_hello(data)

    def test_its_own_figures_count_and_its_unit_has_to_be_the_lists(self) -> None:
        known = Facts(unit="lb", rating_kg=900.0)
        hello = read_hello(line(eyebolt_gauge=1, key=KEY, unit="lb", step=10, lag=0.5))
        facts = agreed(hello, known)
        self.assertAlmostEqual(10 * KG_PER_LB, facts.step_kg)
        self.assertEqual((900.0, 0.5), (facts.rating_kg, facts.lag_s))
        for said in ({"unit": "kg"}, {"step": 0}, {"rating": "much"}, {"lag": -1}):
            with self.subTest(said=said), self.assertRaises(WireError):
                agreed(read_hello(line(eyebolt_gauge=1, key=KEY, **said)), known)


class Sieving(SimpleTestCase):
    def setUp(self) -> None:
        self.sieve = Sieve(Facts(unit="lb", rating_kg=2000 * KG_PER_LB))

    def take(self, at: float = 0.0, **document: Any) -> float | None:
        """Kilograms of a line, ``None`` where it was dropped."""
        found = self.sieve.take(line(**document), at)
        return None if found is None else found.kg

    def test_a_reading_in_its_unit(self) -> None:
        self.assertAlmostEqual(1120 * KG_PER_LB, self.take(n=1, load=1120))
        self.assertEqual({}, self.sieve.dropped)

    def test_each_kind_of_bad_line_is_counted_and_the_next_is_read(self) -> None:
        for why, data in (
            ("rubbish", b"hello\n"),
            ("rubbish", b"\x00\xff\xfe\n"),
            ("rubbish", b"[]\n"),
            ("rubbish", b'{"n": 3}\n'),
            ("rubbish", b'{"load": "heavy"}\n'),
            ("rubbish", b'{"load": true}\n'),
            ("rubbish", b'{"load": NaN}\n'),
            ("rubbish", b'{"load": 1e999}\n'),
            ("rubbish", b'{"load": ' + b"9" * 400 + b"}\n"),
            ("rubbish", b'{"load": 5, "n": "x"}\n'),
            ("rubbish", b'{"load": 1, "x": "' + b"x" * LONGEST + b'"}\n'),
            ("unit", line(load=500, unit="kg")),
            ("beyond", line(load=2600)),
            ("beyond", line(load=-2600)),
        ):
            sieve = Sieve(Facts(unit="lb", rating_kg=2000 * KG_PER_LB))
            with self.subTest(data=data[:30]):
                self.assertIsNone(sieve.take(data, 1.0))
                self.assertEqual({why: 1}, sieve.dropped)
                self.assertIsNotNone(sieve.take(line(load=400), 1.1))

    def test_out_of_order(self) -> None:
        self.take(n=7, load=400)
        self.assertIsNone(self.take(n=7, load=420, at=0.1))
        self.assertIsNone(self.take(n=3, load=420, at=0.2))
        self.assertIsNotNone(self.take(n=8, load=420, at=0.3))
        self.assertEqual({"old": 2}, self.sieve.dropped)

    def test_a_flood_is_cut_to_its_pace_and_recovers(self) -> None:
        taken = sum(self.take(load=400, at=5.0) is not None for _ in range(400))
        self.assertEqual(MOST_A_SECOND, taken)
        self.assertEqual({"flood": 400 - MOST_A_SECOND}, self.sieve.dropped)
        self.assertIsNotNone(self.take(load=400, at=6.0))

    def test_at_its_rating_it_is_full(self) -> None:
        found = self.sieve.take(line(load=2000), 0.0)
        assert found is not None
        self.assertTrue(found.full)

    def test_kilograms_called_pounds_are_dropped_until_it_is_back(self) -> None:
        self.take(load=1120, at=0.0)
        for n in range(1, 40):
            self.assertIsNone(self.take(load=508, at=n / 10))
        self.assertTrue(self.sieve.lying)
        self.assertEqual({"unit": 39}, self.sieve.dropped)
        self.assertIsNotNone(self.take(load=1100, at=4.1))
        self.assertFalse(self.sieve.lying)

    def test_a_person_may_say_that_it_is_right(self) -> None:
        self.take(load=1120, at=0.0)
        self.assertIsNone(self.take(load=508, at=0.1))
        self.sieve.trust()
        self.assertIsNotNone(self.take(load=508, at=0.2))

    def test_after_a_silence_a_load_may_be_anything(self) -> None:
        self.take(load=1120, at=0.0)
        self.assertIsNotNone(self.take(load=508, at=3.0))

    def test_small_loads_may_change_by_any_factor(self) -> None:
        self.take(load=100, at=0.0)
        self.assertIsNotNone(self.take(load=45, at=0.1))

    @given(data=st.binary(max_size=700))
    def test_nothing_that_is_sent_ends_it(self, data: bytes) -> None:
        sieve = Sieve(Facts(unit="lb"))
        before = sum(sieve.dropped.values())
        taken = sieve.take(data, 0.0)
        self.assertEqual(taken is None, sum(sieve.dropped.values()) == before + 1)
