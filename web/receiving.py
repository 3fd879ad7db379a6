"""How much may be sent, and by whom."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from django.http import HttpRequest, HttpResponse, HttpResponseBase

LARGEST_BODY: Final = 61_000_000
"""Bytes of the largest thing that anybody sends: a yard's file with its photos."""

STRANGERS_BODY: Final = 64_000
"""Bytes of the largest thing that somebody sends who is not signed in."""


def strangers_send_little(
    get_response: Callable[[HttpRequest], HttpResponseBase],
) -> Callable[[HttpRequest], HttpResponseBase]:
    """Refuse what is large of people who are not signed in, before any of it is read."""

    def look(request: HttpRequest) -> HttpResponseBase:
        try:
            size = int(request.META.get("CONTENT_LENGTH") or 0)
        except ValueError:
            size = 0
        if size > STRANGERS_BODY and not request.user.is_authenticated:
            return HttpResponse("Sign in first, then send it again.", status=413)
        return get_response(request)

    return look


def heads_without_bodies(
    get_response: Callable[[HttpRequest], HttpResponseBase],
) -> Callable[[HttpRequest], HttpResponseBase]:
    """Answer HEAD as GET is answered, without the body."""

    def strip(request: HttpRequest) -> HttpResponseBase:
        answer = get_response(request)
        if request.method != "HEAD":
            return answer
        if isinstance(answer, HttpResponse):
            answer.setdefault("Content-Length", str(len(answer.content)))
            answer.content = b""
        else:
            answer.close()
            answer.streaming_content = []  # type: ignore[attr-defined]
        return answer

    return strip
