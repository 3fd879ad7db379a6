"""The hub with real sockets: gauges that misbehave, pages that live on."""

from __future__ import annotations

import asyncio
import json
import socket
import time
from collections.abc import Callable
from typing import Any

from django.test import SimpleTestCase

from eyebolt.gunicorn import next_pause
from gauge.hub import CANNOT_LISTEN, FORGOTTEN_S, OF_A_YARD_GAUGES, HubThread
from gauge.watching import HubGone, Watch, list_changed
from gauge.wire import Facts

KEY, OTHER = "a-gauge-of-ours-1", "a-gauge-of-ours-2"


def known(key: str) -> Facts | None:
    """Two gauges, one in kilograms."""
    return {KEY: Facts(unit="lb", rating_kg=1000.0), OTHER: Facts(unit="kg")}.get(key)


class HubCase(SimpleTestCase):
    def setUp(self) -> None:
        self.hub = HubThread(known)
        self.enterContext(self.hub)

    def gauge(self, key: str = KEY, **said: Any) -> tuple[socket.socket, dict[str, Any]]:
        """A connected gauge and what the hub answered."""
        wire = socket.create_connection(("127.0.0.1", self.hub.port), timeout=5)
        self.addCleanup(wire.close)
        wire.sendall(json.dumps({"eyebolt_gauge": 1, "key": key, **said}).encode() + b"\n")
        return wire, json.loads(wire.makefile("rb").readline())

    def watch(self, key: str = KEY) -> Watch:
        """A page that watches."""
        return self.enterContext(Watch("127.0.0.1", self.hub.port, key))

    def until(self, watch: Watch, wanted: Callable[[dict[str, Any]], bool]) -> dict[str, Any]:
        """The first event that is as wanted."""
        end = time.monotonic() + 5
        for event in watch.events():
            if wanted(event):
                return event
            if time.monotonic() > end:
                break
        raise AssertionError("the hub did not say so within 5 s")


class Meeting(HubCase):
    def test_a_reading_reaches_everybody_who_watches(self) -> None:
        pages = [self.watch() for _ in range(3)]
        wire, answer = self.gauge()
        self.assertEqual({"ok": True}, answer)
        wire.sendall(b'{"n": 1, "load": 1000}\n')
        for page in pages:
            event = self.until(page, lambda e: "kg" in e)
            self.assertAlmostEqual(453.59237, event["kg"])
            self.assertTrue(event["connected"])

    def test_who_begins_to_watch_is_told_the_past(self) -> None:
        wire, _ = self.gauge()
        first = self.watch()
        for n in range(5):
            wire.sendall(json.dumps({"n": n + 1, "load": 800 + n}).encode() + b"\n")
        self.until(first, lambda e: round(e.get("kg", 0) / 0.45359237) == 804)
        event = next(self.watch().events())
        self.assertEqual(5, len(event["past"]))

    def test_unknown_keys_other_units_and_no_hello_are_refused(self) -> None:
        self.assertIn("no gauge", self.gauge("nobody-has-this-key")[1]["no"])
        self.assertIn("kg", self.gauge(KEY, unit="kg")[1]["no"])
        wire = socket.create_connection(("127.0.0.1", self.hub.port), timeout=5)
        self.addCleanup(wire.close)
        wire.sendall(b"GET / HTTP/1.1\r\n\r\n")
        self.assertIn("first line", json.loads(wire.makefile("rb").readline())["no"])
        with self.assertRaisesMessage(HubGone, "no gauge"):
            next(self.watch("nobody-has-this-key").events())

    def test_gauges_do_not_mix(self) -> None:
        ours, theirs = self.watch(KEY), self.watch(OTHER)
        self.gauge(OTHER)[0].sendall(b'{"load": 300}\n')
        self.assertEqual(300, self.until(theirs, lambda e: "kg" in e)["kg"])
        self.assertNotIn("kg", next(ours.events()))


class Misbehaving(HubCase):
    def test_rubbish_and_floods_are_counted_and_readings_go_on(self) -> None:
        page = self.watch()
        wire, _ = self.gauge()
        wire.sendall(b"\x00\x01rubbish\n" * 3 + b"x" * 20_000 + b"\n")
        wire.sendall(b'{"load": 700}\n' * 500)
        event = self.until(page, lambda e: e["dropped"].get("flood", 0) > 300)
        self.assertGreaterEqual(event["dropped"]["rubbish"], 4)
        time.sleep(1.1)
        wire.sendall(b'{"load": 720}\n')
        self.until(page, lambda e: round(e.get("kg", 0) / 0.45359237) == 720)

    def test_a_lost_connection_is_said_and_a_new_one_takes_its_place(self) -> None:
        page = self.watch()
        wire, _ = self.gauge()
        wire.sendall(b'{"n": 900, "load": 700}\n')
        self.until(page, lambda e: "kg" in e)
        wire.close()
        self.until(page, lambda e: not e["connected"])
        again, _ = self.gauge()
        # it counts from one again, as a gauge does that was switched off
        again.sendall(b'{"n": 1, "load": 710}\n')
        event = self.until(page, lambda e: round(e.get("kg", 0) / 0.45359237) == 710)
        self.assertTrue(event["connected"])

    def test_a_second_connection_of_the_same_gauge_replaces_the_first(self) -> None:
        page = self.watch()
        first, _ = self.gauge()
        second, _ = self.gauge()
        second.sendall(b'{"load": 650}\n')
        self.until(page, lambda e: round(e.get("kg", 0) / 0.45359237) == 650)
        first.settimeout(5)
        self.assertEqual(b"", first.recv(10))

    def test_a_lie_about_the_unit_is_shown_until_somebody_trusts_it(self) -> None:
        page = self.watch()
        wire, _ = self.gauge()
        for load in (1100, 1100, 499):
            wire.sendall(json.dumps({"load": load}).encode() + b"\n")
        self.until(page, lambda e: e["lying"] and e["dropped"] == {"unit": 1})
        page.trust()
        time.sleep(0.2)
        wire.sendall(b'{"load": 499}\n')
        event = self.until(page, lambda e: round(e.get("kg", 0) / 0.45359237) == 499)
        self.assertFalse(event["lying"])

    def test_a_silent_gauge_keeps_the_page_informed(self) -> None:
        page = self.watch()
        wire, _ = self.gauge()
        wire.sendall(b'{"load": 600}\n')
        self.until(page, lambda e: "kg" in e)
        event = self.until(page, lambda e: e["now"] - e["at"] > 1.2)
        self.assertTrue(event["connected"])

    def test_no_hub_is_said(self) -> None:
        with self.assertRaisesMessage(HubGone, "not running"), Watch("127.0.0.1", 1, KEY):
            self.fail("nobody listens there")


class Forgetting(SimpleTestCase):
    """Places are given back, shared between yards, and taken from gauges that are in no list."""

    def setUp(self) -> None:
        self.list = {f"gauge-of-yard-{yard}-{n}": yard for yard in (1, 2) for n in range(60)}
        self.hub = HubThread(self.known)
        self.enterContext(self.hub)

    def known(self, key: str) -> Facts | None:
        return Facts(unit="lb", yard=self.list[key]) if key in self.list else None

    def gauge(self, key: str) -> tuple[socket.socket, dict[str, Any]]:
        wire = socket.create_connection(("127.0.0.1", self.hub.port), timeout=5)
        self.addCleanup(wire.close)
        wire.sendall(json.dumps({"eyebolt_gauge": 1, "key": key}).encode() + b"\n")
        return wire, json.loads(wire.makefile("rb").readline())

    def look(self) -> None:
        asyncio.run_coroutine_threadsafe(self.hub.hub.look(), self.hub._loop).result(10)

    def test_a_gauge_taken_off_its_list_is_hung_up_on_at_once(self) -> None:
        key = "gauge-of-yard-1-0"
        wire, _ = self.gauge(key)
        page = self.enterContext(Watch("127.0.0.1", self.hub.port, key))
        events = page.events()
        next(events)
        del self.list[key]
        list_changed("127.0.0.1", self.hub.port, key)
        self.assertEqual(wire.recv(10), b"")
        with self.assertRaises(HubGone):
            for _ in events:
                pass
        self.assertEqual(self.hub.hub.channels, {})

    def test_a_word_about_a_gauge_that_is_in_its_list_ends_nothing(self) -> None:
        key = "gauge-of-yard-1-0"
        self.gauge(key)
        list_changed("127.0.0.1", self.hub.port, key)
        self.assertIn(key, self.hub.hub.channels)
        # and where no service runs there is nobody to be told
        list_changed("127.0.0.1", 1, key)

    def test_a_look_lets_go_of_what_is_gone_or_in_no_list(self) -> None:
        stays, gone, unlisted = (f"gauge-of-yard-1-{n}" for n in range(3))
        self.gauge(stays)
        unlisted_wire, _ = self.gauge(unlisted)
        wire, _ = self.gauge(gone)
        wire.close()
        channel = self.hub.hub.channels[gone]
        while channel.sender is not None:
            time.sleep(0.01)
        self.look()
        self.assertIn(gone, self.hub.hub.channels)
        channel.heard_at -= FORGOTTEN_S + 1
        del self.list[unlisted]
        self.look()
        self.assertEqual(list(self.hub.hub.channels), [stays])
        self.assertEqual(unlisted_wire.recv(10), b"")

    def test_a_yard_has_its_own_share(self) -> None:
        answers = [self.gauge(f"gauge-of-yard-1-{n}")[1] for n in range(OF_A_YARD_GAUGES + 1)]
        self.assertEqual(answers[:-1], [{"ok": True}] * OF_A_YARD_GAUGES)
        self.assertIn("too many", answers[-1]["no"])
        self.assertEqual(self.gauge("gauge-of-yard-2-0")[1], {"ok": True})


class Again(SimpleTestCase):
    def test_a_service_that_fell_starts_soon_and_one_that_cannot_listen_ever_later(self) -> None:
        self.assertEqual(next_pause(8.0, ran_s=3600, found=1), 1.0)
        self.assertEqual(next_pause(1.0, ran_s=2, found=1), 2.0)
        # however long a busy machine takes to find that the port is taken
        pauses = [1.0]
        for _ in range(12):
            pauses.append(next_pause(pauses[-1], ran_s=400, found=CANNOT_LISTEN))
        self.assertEqual(pauses, sorted(pauses))
        self.assertEqual(pauses[-1], 300.0)
