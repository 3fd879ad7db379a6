"""Who drives a haul, and when."""

from __future__ import annotations

from datetime import date

from hauls.models import Haul
from yards.models import User


class AlreadyChangedError(Exception):
    """Somebody else changed the same in between; nothing is stored."""


def assigned(haul: Haul) -> str:
    """Who drives when, as a page hands it back with a change."""
    return f"{haul.day or ''}|{haul.driver_id or ''}"


def assign(haul: Haul, *, day: date | None, driver: User | None, was: str) -> None:
    """Say who drives a haul, and when; either may be left open.

    ``was`` is :func:`assigned` of the haul as the page showed it.

    Raises:
        AlreadyChangedError: it is otherwise by now.
    """
    if assigned(haul) != was:
        raise AlreadyChangedError
    as_shown = Haul.objects.filter(pk=haul.pk, day=haul.day, driver=haul.driver)
    if not as_shown.update(day=day, driver=driver):
        raise AlreadyChangedError
    haul.day, haul.driver = day, driver
