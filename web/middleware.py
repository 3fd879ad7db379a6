"""How many requests a process works on at once, and how many wait.

What is quick is worked on one after the other: two at once would each take twice as long. What
takes long has a place beside it.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from contextlib import AbstractContextManager, nullcontext
from typing import TypeVar

from django.conf import settings
from django.http import HttpRequest, HttpResponseBase
from django.urls import Resolver404, resolve

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

    @property
    def within(self) -> int:
        """How many are within now."""
        with self._lock:
            return self._within


_places = threading.BoundedSemaphore(max(settings.AT_ONCE, 1))
_long = threading.BoundedSemaphore(1)
_hashing = threading.BoundedSemaphore(1)
_within = Counter()

View = TypeVar("View", bound=Callable[..., HttpResponseBase])


def hashes_passwords(view: View) -> View:
    """Mark a view that hashes a password when something is sent to it: that is slow on purpose, and
    has a place of its own, so that many who sign in keep nobody from working."""
    view.hashes_passwords = True  # type: ignore[attr-defined]
    return view


def takes_long(view: View) -> View:
    """Mark a view that works for more than a moment: one of them is worked on beside what is quick,
    and none of what is quick waits for it."""
    view.takes_long = True  # type: ignore[attr-defined]
    return view


def never_waits(view: View) -> View:
    """Mark a view that is answered however busy the server is."""
    view.never_waits = True  # type: ignore[attr-defined]
    return view


def _place_for(request: HttpRequest) -> AbstractContextManager[object]:
    try:
        view = resolve(request.path_info).func
    except Resolver404:
        return _places
    if getattr(view, "never_waits", False):
        return nullcontext()
    # what has a budget of its own may take seconds
    if getattr(view, "takes_long", False) or hasattr(view, "budget"):
        return _long
    hashing = request.method == "POST" and getattr(view, "hashes_passwords", False)
    return _hashing if hashing else _places


def in_hand() -> int:
    """How many requests this process is working on, those that wait among them."""
    return _within.within


POLICIES: str = ", ".join(
    f"{what}=()" for what in ("camera", "geolocation", "microphone", "payment", "usb")
)
"""What no page of ours asks of a browser: photos are taken by the phone's own program. How the
phone is tilted is asked, for the slope of a place."""


def with_policies(
    get_response: Callable[[HttpRequest], HttpResponseBase],
) -> Callable[[HttpRequest], HttpResponseBase]:
    """Tell browsers what no page of ours may ask for."""

    def tell(request: HttpRequest) -> HttpResponseBase:
        answer = get_response(request)
        answer["Permissions-Policy"] = POLICIES
        return answer

    return tell


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
            with _place_for(request):
                answer = get_response(request)
            answer[BUSY] = str(busy)
            return answer

    return wait_for_a_place
