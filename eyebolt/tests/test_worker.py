"""Half-sent requests, slow senders, large bodies: none of them holds what others need.

A small application stands behind the very front that the server uses, on a port of its own; what
is tested are connections as somebody makes them who means no good.
"""

from __future__ import annotations

import socket
import threading
from typing import Any

from django.test import SimpleTestCase, TestCase
from hypothesis import given
from hypothesis import strategies as st
from waitress import wasyncore
from waitress.task import ThreadedTaskDispatcher

from eyebolt.worker import (
    HEADERS_S,
    SILENCE_S,
    SLOWEST_BYTES_S,
    Front,
    limits,
    overdue,
    session_key,
    signed_in,
)
from web.receiving import STRANGERS_BODY
from yards.models import User


def answering(environ: Any, start_response: Any) -> list[bytes]:
    body = environ["wsgi.input"].read()
    start_response("200 OK", [("Content-Type", "text/plain")])
    return [f"{environ['REQUEST_METHOD']} {len(body)}".encode()]


class Served:
    """The front with one thread that works; ``known`` are the cookies of people signed in."""

    def __init__(self, *, most: int = 100, known: str = "known") -> None:
        listener = socket.create_server(("127.0.0.1", 0))
        self.port = listener.getsockname()[1]
        self.map: dict[int, object] = {}
        self.work = ThreadedTaskDispatcher()
        self.work.set_thread_count(1)
        adj = limits()
        adj.known = lambda cookies: cookies == known
        self.front = Front(
            answering,
            map=self.map,
            _sock=listener,
            dispatcher=self.work,
            adj=adj,
            sockinfo=(listener.family, listener.type, listener.proto, listener.getsockname()),
            bind_socket=False,
            most=most,
        )
        self.ended = threading.Event()
        self.thread = threading.Thread(target=self._loop, daemon=True)
        self.thread.start()

    def _loop(self) -> None:
        while not self.ended.is_set():
            wasyncore.loop(timeout=0.05, use_poll=True, map=self.map, count=1)

    def __enter__(self) -> Served:
        return self

    def __exit__(self, *_: object) -> None:
        self.ended.set()
        self.thread.join()
        self.work.shutdown()
        wasyncore.close_all(self.map)

    def connect(self, sent: bytes = b"") -> socket.socket:
        made = socket.create_connection(("127.0.0.1", self.port), timeout=30)
        made.sendall(sent)
        return made

    def wait_for(self, connections: int) -> None:
        """Until so many connections are open, looking on each round of the loop."""
        looked = threading.Event()
        while len(self.front.active_channels) < connections:
            looked.wait(0.01)


def all_of(connection: socket.socket) -> bytes:
    """What comes until the other side closes."""
    found = b""
    while True:
        try:
            part = connection.recv(65536)
        except ConnectionResetError:
            return found
        if not part:
            return found
        found += part


def asked(connection: socket.socket) -> bytes:
    connection.sendall(b"GET / HTTP/1.1\r\nHost: a\r\nConnection: close\r\n\r\n")
    return all_of(connection)


class HalfSent(SimpleTestCase):
    def test_half_sent_bodies_and_headers_hold_no_thread(self) -> None:
        with Served() as served:
            halves = [
                served.connect(b"POST / HTTP/1.1\r\nHost: a\r\nContent-Length: 100\r\n\r\nhalf")
                for _ in range(20)
            ]
            halves += [served.connect(b"GET / HTTP/1.1\r\nHos") for _ in range(20)]
            served.wait_for(40)
            # there is one thread that works, and it is free
            self.assertIn(b"GET 0", asked(served.connect()))
            halves[0].sendall(b"x" * 96)
            answer = b""
            while b"POST 100" not in answer:
                answer += halves[0].recv(65536) or self.fail(answer)
            for half in halves:
                half.close()

    def test_a_silent_one_is_hung_up_on(self) -> None:
        with Served() as served:
            half = served.connect(b"POST / HTTP/1.1\r\nHost: a\r\nContent-Length: 9\r\n\r\nha")
            served.wait_for(1)
            for channel in served.front.active_channels.values():
                channel.last_activity -= SILENCE_S + 1
            self.assertEqual(all_of(half), b"")

    def test_the_most_silent_makes_room(self) -> None:
        with Served(most=5) as served:
            silent = [served.connect() for _ in range(5)]
            served.wait_for(5)
            # numbers of the sockets say which is whose
            ports = [connection.getsockname()[1] for connection in silent]
            for channel in list(served.front.active_channels.values()):
                channel.last_activity -= 5 - ports.index(channel.addr[1])
            self.assertIn(b"GET 0", asked(served.connect()))
            self.assertEqual(all_of(silent[0]), b"")
            self.assertIn(b"GET 0", asked(silent[4]))
            for connection in silent:
                connection.close()


class LargeBodies(SimpleTestCase):
    @staticmethod
    def head(size: int, cookie: str) -> bytes:
        return (
            f"POST / HTTP/1.1\r\nHost: a\r\nCookie: {cookie}\r\n"
            f"Content-Length: {size}\r\nConnection: close\r\n\r\n"
        ).encode()

    def test_a_stranger_is_refused_before_it_is_sent(self) -> None:
        with Served() as served:
            connection = served.connect(self.head(STRANGERS_BODY + 1, "forged"))
            self.assertIn(b"413", all_of(connection))

    def test_a_stranger_is_refused_in_pieces_of_no_told_length(self) -> None:
        with Served() as served:
            connection = served.connect(
                b"POST / HTTP/1.1\r\nHost: a\r\nTransfer-Encoding: chunked\r\n\r\n"
            )
            piece = b"2000\r\n" + b"x" * 0x2000 + b"\r\n"
            for _ in range(STRANGERS_BODY // 0x2000 + 1):
                connection.sendall(piece)
            self.assertIn(b"413", all_of(connection))

    def test_little_of_a_stranger_and_much_of_somebody_known_are_taken(self) -> None:
        with Served() as served:
            for size, cookie in ((STRANGERS_BODY, "forged"), (200_000, "known")):
                connection = served.connect(self.head(size, cookie) + b"x" * size)
                self.assertIn(f"POST {size}".encode(), all_of(connection))


class Overdue(SimpleTestCase):
    def late(self, **figures: Any) -> bool:
        usual = {"now": 0.0, "last": 0.0, "begun": None, "headers_in": False, "received": 0}
        return overdue(**{**usual, **figures})

    def test_between_two_requests_for_as_long_as_a_silence(self) -> None:
        self.assertFalse(self.late(now=SILENCE_S))
        self.assertTrue(self.late(now=SILENCE_S + 1))

    def test_drop_by_drop_is_too_slow(self) -> None:
        drip = {"last": 25.0, "now": 25.0, "begun": 0.0}
        self.assertTrue(self.late(**drip))
        self.assertTrue(self.late(**drip, headers_in=True, received=25))
        enough = int(25 * SLOWEST_BYTES_S)
        self.assertFalse(self.late(**drip, headers_in=True, received=enough))

    @given(now=st.floats(0, 1e4), begun=st.floats(0, 1e4), received=st.integers(0, 10**8))
    def test_nobody_sends_slowly_for_longer_than_twenty_seconds(
        self, now: float, begun: float, received: int
    ) -> None:
        took = now - begun
        found = self.late(now=now, last=now, begun=begun, headers_in=True, received=received)
        self.assertEqual(found, took > SILENCE_S and received / took < SLOWEST_BYTES_S)
        heads = self.late(now=now, last=now, begun=begun)
        self.assertEqual(heads, took > HEADERS_S)
        self.assertLess(max(SILENCE_S, HEADERS_S) + limits().cleanup_interval, 20)


class Doorman(TestCase):
    def test_only_an_open_session_is_somebody(self) -> None:
        user = User.objects.create_user("fern", password="a long password")
        self.client.force_login(user)
        key = self.client.cookies["sessionid"].value
        self.assertTrue(signed_in(f"csrftoken=1; sessionid={key}"))
        self.assertFalse(signed_in("sessionid=nobody"))
        self.assertFalse(signed_in(""))

    def test_a_session_of_nobody(self) -> None:
        self.client.session.save()
        self.assertFalse(signed_in(f"sessionid={self.client.cookies['sessionid'].value}"))

    def test_cookies_that_cannot_be_read(self) -> None:
        self.assertEqual(session_key('a="\x00;[]=', "sessionid"), "")


class StrangersAndHeads(TestCase):
    def test_the_application_refuses_a_strangers_large_body_too(self) -> None:
        large = {"username": "x" * (STRANGERS_BODY + 1)}
        self.assertEqual(self.client.post("/sign-in/", large).status_code, 413)
        self.assertEqual(self.client.post("/sign-in/", {"username": "x"}).status_code, 200)

    def test_a_length_that_is_none(self) -> None:
        answer = self.client.post("/sign-in/", {}, headers={"content-length": "many"})
        self.assertEqual(answer.status_code, 200)

    def test_head_says_what_get_would_without_the_body(self) -> None:
        got, head = self.client.get("/sign-in/"), self.client.head("/sign-in/")
        self.assertEqual(head.status_code, got.status_code)
        self.assertEqual(head.content, b"")
        self.assertAlmostEqual(int(head["Content-Length"]), len(got.content), delta=200)
