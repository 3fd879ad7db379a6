"""What to do when the trailer sways: the trade's words, common practice, no source."""

from __future__ import annotations

from typing import Final

HANDS: Final = "Hands still"
FOOT: Final = "Off the accelerator"
NO_BRAKE: Final = "No truck brake, no more speed"
BY_HAND: Final = "Squeeze the trailer brake by hand"
NONE_BY_HAND: Final = "Let it slow down by itself"

AFTER: Final = "Then stop, and move the load forward"
"""Once it has calmed down."""


def sways(*, braked: bool) -> tuple[str, str, str, str]:
    """Four lines, in order; a trailer without brakes has none to squeeze."""
    return HANDS, FOOT, NO_BRAKE, BY_HAND if braked else NONE_BY_HAND
