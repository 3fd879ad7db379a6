"""Taking what a phone sends exactly once, however often it is sent, and saying why it was not."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import datetime, timedelta
from functools import wraps
from typing import Any, Final

from django.db import transaction
from django.http import HttpResponse, HttpResponseBase, JsonResponse
from django.utils import timezone
from django.utils.dateparse import parse_datetime

from offline.models import Received
from yards.access import View, YardRequest

KEY: Final = "Eyebolt-Once"
"""Header with the key of what is sent, made by the phone; without it a form is sent as ever."""

PERSON: Final = "Eyebolt-Person"
"""Header with whose it is: a phone may be shared."""

NOTED: Final = "Eyebolt-Noted"
"""Header with when it was noted, by the phone's clock."""

WELL_FORMED: Final = re.compile(r"[0-9a-f-]{36}")
REMEMBERED: Final = timedelta(days=120)
"""How long keys are kept; no phone holds things back for longer."""

EARLIEST: Final = timedelta(days=60)
SLACK: Final = timedelta(minutes=5)
"""A phone's clock that is further ahead, or further back, is not believed."""

NOT_YOURS: Final = "Somebody else has signed in on this phone. It is sent when you are back."
NOT_DONE: Final = "That could not be kept here. Open the page and look."
NO_KEY: Final = "That was sent in a way nobody knows. Load the page again and enter it once more."


def waits(request: YardRequest) -> bool:
    """Whether a phone's outbox asks, and not a page."""
    return KEY in request.headers


def noted_at(request: YardRequest) -> datetime:
    """When what is sent was noted: as the phone says where that can be, else now."""
    now = timezone.now()
    try:
        told = parse_datetime(request.headers.get(NOTED, "")[:40])
    except ValueError:
        told = None
    if told is None or timezone.is_naive(told) or not now - EARLIEST <= told <= now + SLACK:
        return now
    return min(told, now)


def once(view: View) -> View:
    """Take what a phone's outbox sends once: the key and what the view writes are one change.

    What the view refuses leaves nothing, so that it can be sent again. Stands inside the gate of a
    yard.
    """

    @wraps(view)
    def gate(request: Any, *args: Any, **kwargs: Any) -> HttpResponseBase:
        if not waits(request):
            return view(request, *args, **kwargs)
        key = request.headers[KEY]
        if not WELL_FORMED.fullmatch(key):
            return _told(422, NO_KEY)
        if request.headers.get(PERSON) != str(request.user.pk):
            return _told(403, NOT_YOURS)
        with transaction.atomic():
            _, new = Received.objects.get_or_create(user=request.user, key=key)
            if not new:
                return JsonResponse({"kept": True, "before": True})
            _forget(request)
            answer = view(request, *args, **kwargs)
            done = getattr(answer, "kept", False)
            if not done:
                transaction.set_rollback(True)
        if done:
            return JsonResponse({"kept": True})
        return answer if answer.status_code >= 400 else _told(409, NOT_DONE)

    return gate


def kept(answer: HttpResponse) -> HttpResponse:
    """The answer of a view that has written what it was sent; whatever else it answers, a page that
    asks for more or leads elsewhere, leaves what was sent with the phone."""
    answer.kept = True  # type: ignore[attr-defined]
    return answer


def refused(
    request: YardRequest,
    words: str,
    page: Callable[[], HttpResponse],
    *,
    theirs: str = "",
    over: str = "",
    status: int = 422,
) -> HttpResponse:
    """Why something was not kept: to an outbox in words, else by the page that says so.

    ``theirs`` is what somebody else noted in between; with the box ``over`` sent along as well
    it would be kept all the same.
    """
    if not waits(request):
        return page()
    return _told(status, words, theirs=theirs, over=over)


def _told(status: int, words: str, **more: str) -> JsonResponse:
    return JsonResponse({"kept": False, "words": words, **more}, status=status)


def _forget(request: YardRequest) -> None:
    old = Received.objects.filter(user=request.user, at__lt=timezone.now() - REMEMBERED)
    old.delete()
