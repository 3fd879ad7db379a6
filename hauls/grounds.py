"""What the book says of the ground at a place, taken into a haul's plan."""

from __future__ import annotations

import msgspec
from msgspec import UNSET

from book.models import Place
from planfile.climbing import Place as End
from planfile.draft import Draft


def grounded(draft: Draft, place: Place | None, end: End) -> Draft:
    """The draft with a place's surface and slope at one end of the way; as it is where the book
    says nothing of them.

    The truck is taken to stand uphill, as practice has it; whoever stands there sees.
    """
    if place is None or (not place.surface and place.slope is None):
        return draft
    site = draft.site(end)
    if place.surface:
        # a friction that somebody gave belongs to the ground that was there before
        site = msgspec.structs.replace(site, surface=place.surface, friction=UNSET)
    if place.slope is not None:
        site = msgspec.structs.replace(site, slope=float(place.slope) / 100)
    return draft.with_site(site, end)
