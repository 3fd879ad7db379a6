"""The web server's side of the hub: a blocking connection that yields what the hub tells,
and one that hands over readings that came by HTTP."""

from __future__ import annotations

import json
import logging
import socket
from collections.abc import Iterator
from types import TracebackType
from typing import Any, Final

from gauge.wire import VERSION

WAIT_S: Final = 2.0
"""Longer than the hub's own beat: a silence so long means that it is gone."""


log = logging.getLogger(__name__)


class HubGone(Exception):
    """The hub does not answer, or does not know the gauge; the message is for the page."""


class Watch:
    """One connection to the hub, watching one gauge."""

    def __init__(self, host: str, port: int, key: str) -> None:
        self._address, self._key = (host, port), key

    def __enter__(self) -> Watch:
        try:
            self._socket = socket.create_connection(self._address, timeout=WAIT_S)
            hello = {"eyebolt_watch": VERSION, "key": self._key}
            self._socket.sendall(json.dumps(hello).encode() + b"\n")
        except OSError as error:
            raise HubGone("The gauge service is not running.") from error
        self._file = self._socket.makefile("rb")
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self._file.close()
        self._socket.close()

    def events(self) -> Iterator[dict[str, Any]]:
        """What the hub tells, each as it comes.

        Raises:
            HubGone: it has ended or gone silent.
        """
        while True:
            try:
                data = self._file.readline()
            except OSError as error:
                raise HubGone("The gauge service has gone silent.") from error
            if not data:
                raise HubGone("The gauge service has ended.")
            event = json.loads(data)
            if "no" in event:
                raise HubGone(f"The gauge service refuses: {event['no']}.")
            yield event

    def trust(self) -> None:
        """Say that what the gauge sends is right as it is."""
        self._socket.sendall(b'{"trust":true}\n')


def list_changed(host: str, port: int, key: str) -> None:
    """Tell the hub that a gauge was taken off its list: its connections end at once.

    Where the hub does not run there is nothing to end.
    """
    try:
        with socket.create_connection((host, port), timeout=WAIT_S) as wire:
            wire.sendall(json.dumps({"eyebolt_list": VERSION, "key": key}).encode() + b"\n")
            wire.makefile("rb").readline()
    except OSError as error:
        log.info("the gauge service was not told of its list: %s", error)


def hand_over(host: str, port: int, said: dict[str, Any], readings: list[Any]) -> dict[str, Any]:
    """Tell the hub readings of a gauge; what it answers: ``ok``, ``taken`` and ``dropped``
    (counts by why), or ``no`` with the reason.

    Raises:
        HubGone: it does not run or does not answer.
    """
    lines = [{"eyebolt_post": VERSION, **said, "lines": len(readings)}, *readings]
    try:
        with socket.create_connection((host, port), timeout=WAIT_S) as wire:
            wire.sendall(b"".join(json.dumps(line).encode() + b"\n" for line in lines))
            data = wire.makefile("rb").readline()
    except OSError as error:
        raise HubGone("The gauge service is not running.") from error
    if not data:
        raise HubGone("The gauge service has ended.")
    answer: dict[str, Any] = json.loads(data)
    return answer
