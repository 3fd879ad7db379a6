"""How many requests a process works on at once."""

from __future__ import annotations

import threading
from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponseBase

_places = threading.BoundedSemaphore(max(settings.AT_ONCE, 1))


def few_at_once(
    get_response: Callable[[HttpRequest], HttpResponseBase],
) -> Callable[[HttpRequest], HttpResponseBase]:
    """Let few requests be worked on at once; the others wait their turn.

    Pages that watch a gauge hold threads of the server, so there are many of them; working
    on as many requests at once would only slow each of them down. A stream gives its place
    back as soon as it has begun.
    """

    def wait_for_a_place(request: HttpRequest) -> HttpResponseBase:
        with _places:
            return get_response(request)

    return wait_for_a_place
