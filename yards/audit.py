"""What happened in a yard that its owner may want to know: who came in, who may do what, what left.

Figures of the book have a history of their own. Nothing typed for a password or a name that nobody
has is kept.
"""

from __future__ import annotations

from datetime import timedelta
from typing import Final

from django.http import HttpRequest
from django.utils import timezone

from yards.models import Event, Happened, User, Yard
from yards.throttle import address_of

KEPT: Final = timedelta(days=400)
"""How long it is kept: a season and the one before."""


def happened(
    what: Happened,
    *,
    yard: Yard,
    by: User | None,
    about: str = "",
    address: str = "",
) -> None:
    """Note that something happened; ``about`` is whom or what it was about, ``address`` where it
    was asked for from. What is written with it belongs in the same transaction."""
    Event.objects.create(
        yard=yard,
        what=what,
        by=by,
        name="" if by is None else by.shown_name[:150],
        about=about[:200],
        address=address[:45],
    )


def happened_to(what: Happened, user: User, *, request: HttpRequest) -> None:
    """Note in each of a person's yards what happened to that person."""
    for yard in user.yards.all():
        happened(what, yard=yard, by=user, address=address_of(request))


def sweep() -> None:
    """Take away what is older than it is kept."""
    Event.objects.filter(at__lt=timezone.now() - KEPT).delete()
