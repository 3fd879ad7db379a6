"""Readings that a gauge sends by HTTP POST: taken in here, told to the hub."""

from __future__ import annotations

import json
from typing import Any, Final

from django.conf import settings
from django.http import HttpRequest, JsonResponse
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_POST

from gauge.models import Gauge
from gauge.watching import HubGone, hand_over
from gauge.wire import MOST_A_SECOND

LONGEST_BODY: Final = 16_384
"""Bytes of a body: as many readings as are read in a second, and room to spare."""


@csrf_exempt
@require_POST
def send(request: HttpRequest) -> JsonResponse:
    """Readings of one gauge, known by its key; it has no session and needs none.

    Answers 200 with how many were taken and what was dropped, 400 for a body that is none,
    403 for a key that no gauge has, 413 for too long a body, 503 while the service that
    takes readings does not run.
    """
    length = request.headers.get("Content-Length", "")
    if length.isdigit() and int(length) > LONGEST_BODY:
        return _no(413, f"a body of at most {LONGEST_BODY:,} bytes")
    try:
        document = json.loads(request.body)
    except (ValueError, RecursionError):
        return _no(400, "the body has to be a JSON object with key and load")
    if not isinstance(document, dict):
        return _no(400, "the body has to be a JSON object with key and load")
    key = document.get("key")
    known = isinstance(key, str) and key.isascii() and Gauge.objects.filter(key=key).exists()
    if not isinstance(key, str) or not known:
        return _no(403, "key: no gauge of a yard has this key")
    readings = document.get("readings", [_reading(document)])
    if not isinstance(readings, list) or not 1 <= len(readings) <= MOST_A_SECOND:
        return _no(400, f"readings: a list of 1 to {MOST_A_SECOND} readings")
    said = {name: document[name] for name in ("unit", "step", "rating", "lag") if name in document}
    try:
        answer = hand_over(settings.GAUGE_HOST, settings.GAUGE_PORT, {"key": key, **said}, readings)
    except HubGone as error:
        return _no(503, str(error))
    return JsonResponse(answer, status=400 if "no" in answer else 200)


def _reading(document: dict[str, Any]) -> dict[str, Any]:
    """The one reading of a body without a list."""
    return {name: document[name] for name in ("n", "load", "full", "ago") if name in document}


def _no(status: int, why: str) -> JsonResponse:
    return JsonResponse({"no": why}, status=status)
