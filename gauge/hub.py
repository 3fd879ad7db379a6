"""The hub: gauges send their lines to it over TCP, pages watch them through it.

One process, one event loop. It knows nothing of hauls; what a reading means is worked out
where it is shown.
"""

from __future__ import annotations

import asyncio
import json
import logging
import threading
import time
from collections import deque
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Any, Final

from gauge.wire import (
    BEGINS_ANEW_S,
    LONGEST,
    Facts,
    Line,
    Purpose,
    Sieve,
    WireError,
    agreed,
    read_hello,
)

KEPT: Final = 80
"""Readings kept of a gauge for those who begin to watch."""

APART_S: Final = 0.09
"""Readings are passed on so far apart at the least; of more the newest counts."""

QUIET_S: Final = 0.5
"""A watcher hears at least so often, so that a silence of the hub itself is noticed."""

BEHIND: Final = 64_000
"""Bytes that may wait for a slow watcher; beyond them it misses readings."""

MOST_GAUGES: Final = 500
MOST_WATCHERS: Final = 2000

OF_A_YARD_GAUGES: Final = 40
OF_A_YARD_WATCHERS: Final = 200
"""A yard's own share, so that nobody takes the places of all others."""

LOOKED_S: Final = 10.0
"""Seconds between two looks at which gauges are gone, or not in any list any more."""

FORGOTTEN_S: Final = 60.0
"""A gauge that nobody watches and that has not sent for so long is let go."""

HELLO_WITHIN_S: Final = 5.0

CANNOT_LISTEN: Final = 3
"""How the service ends where its port is taken: trying again at once would not help."""

log = logging.getLogger(__name__)

Known = Callable[[str], Facts | None]


@dataclass
class Channel:
    """What is known of one gauge just now, and who watches it."""

    facts: Facts
    sieve: Sieve
    readings: deque[Line] = field(default_factory=lambda: deque(maxlen=KEPT))
    watchers: set[asyncio.StreamWriter] = field(default_factory=set)
    sender: asyncio.StreamWriter | None = None
    posted_at: float | None = None
    sent_at: float = 0.0
    heard_at: float = field(default_factory=time.monotonic)
    waiting: asyncio.TimerHandle | None = None

    @property
    def gone(self) -> bool:
        """Whether nobody sends and nobody watches, and has not for a while."""
        quiet = time.monotonic() - self.heard_at > FORGOTTEN_S
        return quiet and self.sender is None and not self.watchers and not self.posts

    def close(self) -> None:
        """End every connection of it."""
        if self.waiting is not None:
            self.waiting.cancel()
        for writer in (*self.watchers, self.sender):
            if writer is not None:
                writer.close()

    @property
    def posts(self) -> bool:
        """Whether readings came by HTTP a moment ago: such a gauge keeps no connection."""
        return self.posted_at is not None and time.monotonic() - self.posted_at < BEGINS_ANEW_S

    def state(self, *, past: bool = False) -> dict[str, Any]:
        """The newest reading and the counts, as watchers are told."""
        last = self.readings[-1] if self.readings else None
        document: dict[str, Any] = {
            "connected": self.sender is not None or self.posts,
            "now": time.monotonic(),
            "unit": self.facts.unit,
            "step_kg": self.facts.step_kg,
            "lag_s": self.facts.lag_s,
            "rating_kg": self.facts.rating_kg,
            "dropped": self.sieve.dropped,
            "lying": self.sieve.lying,
        }
        if last is not None:
            document |= {"at": last.at_s, "kg": last.kg, "full": last.full}
        if past:
            document["past"] = [[one.at_s, one.kg, one.full] for one in self.readings]
        return document


class Hub:
    """Channels by key. ``known`` says what the yard knows of a key, or ``None``."""

    def __init__(self, known: Known) -> None:
        self.known = known
        self.channels: dict[str, Channel] = {}
        self._watching = 0

    async def meet(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        """One connection, from its first line to its end."""
        try:
            data = await asyncio.wait_for(reader.readline(), HELLO_WITHIN_S)
            hello = read_hello(data)
            facts = await asyncio.to_thread(self.known, hello.key)
            if facts is None:
                self._let_go(hello.key)
                raise WireError("key: no gauge of a yard has this key")
            if hello.purpose is Purpose.LIST:
                self._tell(writer, {"ok": True})
                return
            channel = self._channel(hello.key, facts)
            if hello.purpose is Purpose.SEND:
                await self._gauge(channel, agreed(hello, facts), reader, writer)
            elif hello.purpose is Purpose.POST:
                await self._posted(channel, agreed(hello, facts), hello.lines, reader, writer)
            else:
                await self._watcher(channel, reader, writer)
        except WireError as error:
            self._tell(writer, {"no": str(error)})
        except asyncio.CancelledError:
            # the service is ending, and every connection with it
            log.info("a connection was closed")
        except (TimeoutError, ConnectionError, ValueError, asyncio.IncompleteReadError) as error:
            log.info("a connection ended: %s", error)
        finally:
            with suppress(ConnectionError, OSError):
                if writer.can_write_eof():
                    writer.write_eof()
                writer.close()

    def _channel(self, key: str, facts: Facts) -> Channel:
        channel = self.channels.get(key)
        if channel is None:
            own = sum(c.facts.yard == facts.yard for c in self.channels.values())
            if len(self.channels) >= MOST_GAUGES or own >= OF_A_YARD_GAUGES:
                raise WireError("too many gauges are connected")
            channel = self.channels[key] = Channel(facts=facts, sieve=Sieve(facts))
        channel.heard_at = time.monotonic()
        return channel

    def _let_go(self, key: str) -> None:
        channel = self.channels.pop(key, None)
        if channel is not None:
            channel.close()

    async def look(self) -> None:
        """Let go of gauges that are gone, and of those that are in no list any more."""
        for key, channel in list(self.channels.items()):
            if channel.gone or await asyncio.to_thread(self.known, key) is None:
                self._let_go(key)

    async def keep_looking(self) -> None:
        """The same again and again, until ended."""
        while True:
            await asyncio.sleep(LOOKED_S)
            try:
                await self.look()
            except Exception:
                # the list cannot be read just now: gauges go on, and the next look says more
                log.exception("the yards' lists of gauges cannot be read")

    async def _gauge(
        self,
        channel: Channel,
        facts: Facts,
        reader: asyncio.StreamReader,
        writer: asyncio.StreamWriter,
    ) -> None:
        if channel.sender is not None:
            # a gauge that comes again has lost its old connection
            channel.sender.close()
        dropped = channel.sieve.dropped
        channel.facts, channel.sender = facts, writer
        channel.sieve = Sieve(facts)
        channel.sieve.dropped = dropped
        self._tell(writer, {"ok": True})
        try:
            while data := await _line(reader):
                line = channel.sieve.take(data, time.monotonic())
                if line is not None:
                    channel.readings.append(line)
                    self._pass_on(channel)
        finally:
            if channel.sender is writer:
                channel.sender = None
            channel.heard_at = time.monotonic()

    async def _posted(
        self,
        channel: Channel,
        facts: Facts,
        lines: int,
        reader: asyncio.StreamReader,
        writer: asyncio.StreamWriter,
    ) -> None:
        """Readings that came by HTTP. What is known of the gauge outlives the connection."""
        if not channel.posts:
            channel.sieve.begin_anew()
        if facts != channel.facts:
            channel.facts = channel.sieve.facts = facts
        before, taken = dict(channel.sieve.dropped), 0
        for _ in range(lines):
            data = await asyncio.wait_for(_line(reader), HELLO_WITHIN_S)
            channel.posted_at = time.monotonic()
            line = channel.sieve.take(data, channel.posted_at)
            if line is not None:
                taken += 1
                channel.readings.append(line)
                self._pass_on(channel)
        dropped = {
            why: count - before.get(why, 0)
            for why, count in channel.sieve.dropped.items()
            if count > before.get(why, 0)
        }
        self._tell(writer, {"ok": True, "taken": taken, "dropped": dropped})

    def _pass_on(self, channel: Channel) -> None:
        """Tell the watchers now, or as soon as the pace allows."""
        loop = asyncio.get_running_loop()
        due = channel.sent_at + APART_S - loop.time()
        if due <= 0:
            self._send(channel)
        elif channel.waiting is None:
            channel.waiting = loop.call_later(due, self._send, channel)

    def _send(self, channel: Channel) -> None:
        channel.waiting = None
        channel.sent_at = asyncio.get_running_loop().time()
        document = channel.state()
        for writer in tuple(channel.watchers):
            self._tell(writer, document)

    async def _watcher(
        self, channel: Channel, reader: asyncio.StreamReader, writer: asyncio.StreamWriter
    ) -> None:
        own = sum(
            len(c.watchers) for c in self.channels.values() if c.facts.yard == channel.facts.yard
        )
        if self._watching >= MOST_WATCHERS or own >= OF_A_YARD_WATCHERS:
            raise WireError("too many pages are watching")
        self._watching += 1
        channel.watchers.add(writer)
        self._tell(writer, channel.state(past=True))
        try:
            while not reader.at_eof():
                try:
                    data = await asyncio.wait_for(reader.readline(), QUIET_S)
                except TimeoutError:
                    self._tell(writer, channel.state())
                    if writer.is_closing():
                        return
                else:
                    if data.strip() == b'{"trust":true}':
                        channel.sieve.trust()
        finally:
            channel.watchers.discard(writer)
            channel.heard_at = time.monotonic()
            self._watching -= 1

    def _tell(self, writer: asyncio.StreamWriter, document: dict[str, Any]) -> None:
        transport = writer.transport
        if transport.is_closing() or transport.get_write_buffer_size() > BEHIND:
            return
        writer.write(json.dumps(document).encode() + b"\n")


async def _line(reader: asyncio.StreamReader) -> bytes:
    """The next line; one longer than any reading comes back cut, and is dropped as rubbish."""
    try:
        return await reader.readuntil(b"\n")
    except asyncio.IncompleteReadError as error:
        return error.partial
    except asyncio.LimitOverrunError as error:
        await reader.readexactly(max(error.consumed, 1))
        return b"x" * (LONGEST + 1)


async def serve(hub: Hub, host: str, port: int) -> asyncio.Server:
    """Listen; port 0 takes a free one."""
    return await asyncio.start_server(hub.meet, host, port, limit=4096)


class HubThread:
    """A hub in a thread of its own, for tests and measurements."""

    def __init__(self, known: Known, host: str = "127.0.0.1", port: int = 0) -> None:
        self.hub = Hub(known)
        self.host, self.port = host, port
        self._ready = threading.Event()
        self._thread = threading.Thread(target=self._run, daemon=True)

    def __enter__(self) -> HubThread:
        self._thread.start()
        if not self._ready.wait(10):
            raise RuntimeError("the hub did not start within 10 s")
        return self

    def __exit__(self, *_: object) -> None:
        self.end()

    def end(self) -> None:
        """Close every connection and stop; a second time does nothing."""
        if self._thread.is_alive():
            self._loop.call_soon_threadsafe(self._stop.set)
            self._thread.join(10)

    def _run(self) -> None:
        asyncio.run(self._serve())

    async def _serve(self) -> None:
        self._loop, self._stop = asyncio.get_running_loop(), asyncio.Event()
        server = await serve(self.hub, self.host, self.port)
        self.port = server.sockets[0].getsockname()[1]
        self._ready.set()
        await self._stop.wait()
        server.close()
        for channel in self.hub.channels.values():
            channel.close()
