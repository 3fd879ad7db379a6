"""The server's worker: a request is received whole before anything works on it.

Gunicorn minds the processes, Waitress sends and receives: one thread of a process does that for all
connections, so that somebody who sends half a request holds none of the threads that work. What is
added here is for how long a sender is waited for, how large a body of somebody is who is not signed
in, and who makes room where too many connections are open.
"""

from __future__ import annotations

import logging
import os
import sys
import time
from collections.abc import Callable
from http.cookies import CookieError, SimpleCookie
from typing import Any, Final

from django.conf import settings
from django.contrib.auth import SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore
from django.db import close_old_connections
from gunicorn.workers.base import Worker as ProcessWorker
from waitress import wasyncore
from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import TcpWSGIServer
from waitress.task import ThreadedTaskDispatcher
from waitress.utilities import RequestEntityTooLarge

from web.receiving import LARGEST_BODY, STRANGERS_BODY

SILENCE_S: Final = 18.0
"""Longest that a connection may say nothing, in the middle of a request or between two."""

HEADERS_S: Final = 15.0
"""Longest that the headers of a request may take."""

SLOWEST_BYTES_S: Final = 2_000
"""A body that has taken longer than a silence may, and came slower than this, is not waited for: a
photo over the slowest of phones comes faster."""

CONNECTIONS: Final = 500
"""Connections open at once per process; the most silent one makes room for another."""

LARGEST_HEADERS: Final = 32_000
"""Bytes of a request's first line and headers."""


def overdue(
    *, now: float, last: float, begun: float | None, headers_in: bool, received: int
) -> bool:
    """Whether a connection has been waited for long enough: nothing of it is being worked on.

    Times in s of one clock: ``last`` when anything came or went, ``begun`` when the request began
    that is not whole yet, ``None`` between two; ``received`` bytes of its body are in.
    """
    if now - last > SILENCE_S:
        return True
    if begun is None:
        return False
    if not headers_in:
        return now - begun > HEADERS_S
    return now - begun > SILENCE_S and received < SLOWEST_BYTES_S * (now - begun)


def session_key(cookies: str, name: str) -> str:
    """The session that a request's cookies name; empty where they cannot be read."""
    try:
        found = SimpleCookie(cookies).get(name)
    except CookieError:
        return ""
    return "" if found is None else found.value


def signed_in(cookies: str) -> bool:
    """Whether a request's cookies name an open session of somebody signed in."""
    key = session_key(cookies, settings.SESSION_COOKIE_NAME)
    if not key:
        return False
    close_old_connections()
    return SESSION_KEY in SessionStore(session_key=key)


class Limits(Adjustments):
    """How the server is set up; ``known`` says by its cookies whether somebody is signed in."""

    known: Callable[[str], bool] = staticmethod(signed_in)


class Request(HTTPRequestParser):
    """One request as it comes in. A large body is waited for only of somebody signed in."""

    adj: Limits
    completed: bool
    admitted = False

    def __init__(self, adj: Limits) -> None:
        super().__init__(adj)
        self.begun = time.time()

    def received(self, data: bytes) -> int:
        """Take in what came; how many bytes of it belong to this request."""
        consumed: int = super().received(data)
        if self.completed or self.admitted or self.body_rcv is None:
            return consumed
        if max(self.content_length, self.body_bytes_received) > STRANGERS_BODY:
            self.admitted = self.adj.known(self.headers.get("COOKIE", ""))
            if not self.admitted:
                self.error = RequestEntityTooLarge("Sign in first, then send it again.")
                self.completed = True
        return consumed


class Channel(HTTPChannel):
    """A connection."""

    parser_class = Request

    @property
    def at_work(self) -> bool:
        """Whether something is being worked out for it."""
        return bool(self.requests)

    def overdue(self, now: float) -> bool:
        """Whether it has been waited for long enough."""
        if self.at_work:
            return False
        request = self.request
        return overdue(
            now=now,
            last=self.last_activity,
            begun=None if request is None else request.begun,
            headers_in=request is not None and request.headers_finished,
            received=0 if request is None else request.body_bytes_received,
        )


class Front(TcpWSGIServer):
    """A listening socket and its connections."""

    channel_class = Channel

    def __init__(self, *args: Any, most: int = CONNECTIONS, **kwargs: Any) -> None:
        self.most = most
        super().__init__(*args, **kwargs)

    def maintenance(self, now: float) -> None:
        """End the connections that have been waited for long enough."""
        for channel in list(self.active_channels.values()):
            if channel.overdue(now):
                channel.will_close = True

    def handle_accept(self) -> None:
        """Let one more in, and where there are too many, the most silent one out."""
        idle = [channel for channel in self.active_channels.values() if not channel.at_work]
        if len(self.active_channels) >= self.most and idle:
            # closed on the next round: its number must not be given again within this one
            min(idle, key=lambda channel: channel.last_activity).will_close = True
        super().handle_accept()


def limits(**more: Any) -> Limits:
    """How every server of ours is set up."""
    return Limits(
        # the listening socket and the trigger of each server are no connections
        connection_limit=2 * CONNECTIONS,
        cleanup_interval=1,
        max_request_header_size=LARGEST_HEADERS,
        max_request_body_size=LARGEST_BODY,
        clear_untrusted_proxy_headers=False,
        asyncore_use_poll=True,
        log_socket_errors=False,
        ident=None,
        **more,
    )


class Worker(ProcessWorker):
    """A process that receives in one thread and works in several."""

    def run(self) -> None:
        """Serve until told to stop, then finish what is in hand."""
        # waiting requests are counted and told by each answer
        logging.getLogger("waitress.queue").setLevel(logging.ERROR)
        self.map: dict[int, Any] = {}
        work = ThreadedTaskDispatcher()
        work.set_thread_count(self.cfg.threads)
        fronts = [
            Front(
                self.wsgi,
                map=self.map,
                _sock=listener.sock,
                dispatcher=work,
                adj=limits(),
                sockinfo=(
                    listener.sock.family,
                    listener.sock.type,
                    listener.sock.proto,
                    listener.sock.getsockname(),
                ),
                bind_socket=False,
            )
            for listener in self.sockets
        ]
        told = 0.0
        while self.alive and os.getppid() == self.ppid:
            if time.monotonic() - told > 1:
                told = time.monotonic()
                self.notify()
            wasyncore.loop(timeout=1.0, use_poll=True, map=self.map, count=1)
        self._finish(fronts)
        sys.exit(0)

    def _finish(self, fronts: list[Front]) -> None:
        for front in fronts:
            front.accepting = False
        until = time.monotonic() + self.cfg.graceful_timeout
        while time.monotonic() < until and any(
            channel.at_work or channel.total_outbufs_len
            for front in fronts
            for channel in front.active_channels.values()
        ):
            self.notify()
            wasyncore.loop(timeout=0.1, use_poll=True, map=self.map, count=1)
