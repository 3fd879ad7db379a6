"""The places of the work in every page's head, and what else a person may do from there.

An app brings its own in a module ``places``: ``PLACES`` and ``ERRANDS``.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from web.registry import brought

MODULE: Final = "places"


@dataclass(frozen=True, kw_only=True)
class Place:
    """A place of the work; pages that belong to it name its slug as their ``place``.

    One that is ``wide_only`` stands in the bar where there is room, else in the person's menu.
    """

    slug: str
    title: str
    order: int
    address: str
    wide_only: bool = False


@dataclass(frozen=True, kw_only=True)
class Errand:
    """Something in the person's own menu; some are the yard's owner's alone. One that is ``urgent``
    a driver has at hand on every page of a phone."""

    title: str
    order: int
    address: str
    owners_only: bool = False
    urgent: bool = False


def places() -> tuple[Place, ...]:
    """Every place of the work, in their order."""
    return tuple(sorted(brought(MODULE, "PLACES"), key=lambda place: place.order))


def errands(*, owner: bool) -> tuple[Errand, ...]:
    """What stands in a person's menu, in order."""
    found = (one for one in brought(MODULE, "ERRANDS") if owner or not one.owners_only)
    return tuple(sorted(found, key=lambda one: one.order))
