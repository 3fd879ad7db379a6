"""The kinds of cases, in the order of the work."""

from __future__ import annotations

from typing import Final

from practice.cases import Kind
from practice.kinds.outfit import OUTFIT
from practice.kinds.placing import BY_EYE, BY_GAUGE
from practice.kinds.slope import SLOPE
from practice.kinds.swaying import SWAYING
from practice.kinds.ticket import TICKET
from practice.kinds.tie_down import TIE_DOWN
from practice.kinds.walk_round import WALK_ROUND
from practice.kinds.way_round import WAY_ROUND

KINDS: Final = (
    OUTFIT,
    WAY_ROUND,
    BY_EYE,
    BY_GAUGE,
    SLOPE,
    TIE_DOWN,
    WALK_ROUND,
    SWAYING,
    TICKET,
)


def kind_of(slug: str) -> Kind | None:
    """The kind of that slug; ``None`` where there is none."""
    return next((one for one in KINDS if one.slug == slug), None)
