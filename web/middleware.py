"""How many requests a process works on at once, and how many wait."""

from __future__ import annotations

import threading
from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponseBase

BUSY: str = "Eyebolt-Busy"
"""Header of every answer: how many requests were in hand or waiting when it came in."""


class Counter:
    """How many are within, told to each that comes; counting is safe among threads."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._within = 0

    def __enter__(self) -> int:
        with self._lock:
            self._within += 1
            return self._within

    def __exit__(self, *_: object) -> None:
        with self._lock:
            self._within -= 1


_places = threading.BoundedSemaphore(max(settings.AT_ONCE, 1))
_within = Counter()


def few_at_once(
    get_response: Callable[[HttpRequest], HttpResponseBase],
) -> Callable[[HttpRequest], HttpResponseBase]:
    """Let few requests be worked on at once; the others wait their turn.

    Pages that watch a gauge hold threads of the server, so there are many of them; working
    on as many requests at once would only slow each of them down. A stream gives its place
    back as soon as it has begun. Each answer says how busy the server was, so that a page
    that asks again and again can leave room for others.
    """

    def wait_for_a_place(request: HttpRequest) -> HttpResponseBase:
        with _within as busy:
            with _places:
                answer = get_response(request)
            answer[BUSY] = str(busy)
            return answer

    return wait_for_a_place
