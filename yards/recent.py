"""Who signed in a moment ago, so that a drag does not ask the database at every step."""

from __future__ import annotations

import time
from collections import OrderedDict
from collections.abc import Callable
from functools import wraps
from typing import Any

from django.conf import settings
from django.http import HttpResponseBase
from django.utils import timezone

from yards.access import in_yard
from yards.models import User

SECONDS = 5.0
"""How long a sign-in is taken for granted, for answers that store nothing."""

KEPT = 256

_seen: OrderedDict[str, tuple[float, User]] = OrderedDict()


def in_yard_recently(view: Callable[..., HttpResponseBase]) -> Callable[..., HttpResponseBase]:
    """The gate of :func:`yards.access.in_yard`, remembered for a few seconds.

    Only for views that store nothing: somebody who signs out, or is taken out of the
    yard, may go on looking for those seconds.
    """
    gated = in_yard(view)

    @wraps(view)
    def gate(request: Any, *args: Any, **kwargs: Any) -> HttpResponseBase:
        key = request.COOKIES.get(settings.SESSION_COOKIE_NAME, "")
        at, user = _seen.get(key, (0.0, None))
        if user is not None and time.monotonic() - at < SECONDS:
            request.user, request.yard, request.role = user, user.current_yard, user.current_role
            with timezone.override(request.yard.clock):
                return view(request, *args, **kwargs)
        answer = gated(request, *args, **kwargs)
        if key and getattr(request, "yard", None) is not None:
            _seen[key] = (time.monotonic(), request.user._wrapped)
            _seen.move_to_end(key)
            while len(_seen) > KEPT:
                _seen.popitem(last=False)
        return answer

    return gate
