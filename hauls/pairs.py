"""Every hitch and trailer of a yard that can be coupled, with all that a plan needs of them."""

from __future__ import annotations

from book.chain import couples
from book.models import Hitch, Trailer
from yards.models import Yard


def pairs_of(yard: Yard) -> list[tuple[Hitch, Trailer]]:
    """The pairs by the truck's name, in a constant number of queries."""
    hitches = (
        Hitch.objects.filter(truck__yard=yard)
        .select_related("truck__yard")
        .prefetch_related("truck__loads", "links__part")
        .order_by("truck__name", "pk")
    )
    trailers = list(
        Trailer.objects.filter(yard=yard)
        .select_related("yard")
        .prefetch_related("axles", "additions", "anchors", "links__part")
    )
    return [(h, t) for h in hitches for t in trailers if couples(h, t)]
