"""Tries that may go wrong, fewer and fewer of them: passwords of one name, yards from one address.

A name's tries are counted across all addresses, since guessing comes from many; each wrong one
makes the next wait longer, up to a minute. Whoever has signed in with a name before from the same
browser is counted apart, so that others who guess, behind one proxy or far away, keep nobody out.
Names are kept as digests only: what is typed for a name may be a password.
"""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from datetime import timedelta
from typing import Final

from django.conf import settings
from django.core import signing
from django.db import transaction
from django.http import HttpRequest, HttpResponseBase
from django.utils import timezone

from yards.models import Tries

FORGOTTEN: Final = timedelta(hours=1)
"""Tries so long ago count no more."""

BROWSER: Final = "eyebolt_browser"
"""Cookie of a browser from which people have signed in."""

BROWSER_KEPT_S: Final = 400 * 24 * 3600
MOST_NAMES: Final = 8
"""Names of one browser: a phone is shared by a few people."""

SALT: Final = "yards.throttle"


@dataclass(frozen=True, kw_only=True)
class Pace:
    """So many tries are free; each further one waits twice as long as the last, up to a most."""

    free: int
    first_s: float
    most_s: float

    def wait_s(self, count: int) -> float:
        """Seconds that lie between the try of that number and the next."""
        beyond = count - self.free
        return 0.0 if beyond < 0 else min(self.first_s * 2.0 ** min(beyond, 30), self.most_s)


PASSWORDS: Final = Pace(free=6, first_s=2.0, most_s=60.0)
SIGN_UPS: Final = Pace(free=8, first_s=60.0, most_s=900.0)


class TooManyError(Exception):
    """A try has to wait for ``seconds``."""

    def __init__(self, seconds: int) -> None:
        self.seconds = seconds
        super().__init__(f"wait {seconds} s")


def key(*parts: str) -> str:
    """What a counter is kept under."""
    return hashlib.sha256("\x00".join(parts).encode("utf-8", "replace")).hexdigest()


@transaction.atomic
def take(counter: str, pace: Pace) -> None:
    """Count one more try. It is counted before it is made, so that many at once count too.

    Raises:
        TooManyError: it comes too soon; it is not counted then.
    """
    now = timezone.now()
    row, _ = Tries.objects.select_for_update().get_or_create(key=counter, defaults={"last_at": now})
    if now - row.last_at > FORGOTTEN:
        row.count = 0
    left = pace.wait_s(row.count) - (now - row.last_at).total_seconds()
    if row.count and left > 0:
        raise TooManyError(int(left) + 1)
    row.count += 1
    row.last_at = now
    row.save()


def forget(counter: str) -> None:
    """It went well: what came before counts no more."""
    Tries.objects.filter(key=counter).delete()


def sweep() -> None:
    """Take away counters that count no more."""
    Tries.objects.filter(last_at__lt=timezone.now() - FORGOTTEN).delete()


def address_of(request: HttpRequest) -> str:
    """Where a request comes from: what the outermost of the trusted proxies saw."""
    seen = str(request.META.get("HTTP_X_FORWARDED_FOR", "")).split(",")
    if settings.PROXIES and len(seen) >= settings.PROXIES:
        return seen[-settings.PROXIES].strip()
    return str(request.META.get("REMOTE_ADDR", ""))


def sign_in_counter(request: HttpRequest, name: str) -> str:
    """The counter of a sign-in: the name's, or its own in a browser that knows the name."""
    name = name.strip().casefold()[:150]
    if key("name", name) in _names(request):
        return key("browser", request.COOKIES.get(BROWSER, ""), name)
    return key("name", name)


def remember(request: HttpRequest, answer: HttpResponseBase, name: str) -> None:
    """Let the browser know that somebody signed in with that name."""
    own = key("name", name.strip().casefold()[:150])
    names = [own, *(one for one in _names(request) if one != own)][:MOST_NAMES]
    answer.set_cookie(
        BROWSER,
        signing.dumps(names, salt=SALT, compress=True),
        max_age=BROWSER_KEPT_S,
        secure=settings.SESSION_COOKIE_SECURE,
        httponly=True,
        samesite="Lax",
    )


def _names(request: HttpRequest) -> list[str]:
    try:
        found = signing.loads(request.COOKIES.get(BROWSER, ""), salt=SALT, max_age=BROWSER_KEPT_S)
    except signing.BadSignature:
        return []
    return found if isinstance(found, list) else []
