"""What holds a machine on the deck: anchors, points, ties, and the school they are judged by."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import Final

from mechanics.errors import InputError


class SecuringSchool(str, Enum):
    """Whose rule a tie-down is held against."""

    US_393 = "us_393"
    STRICT = "strict"
    EN_12195 = "en_12195"


class TieKind(str, Enum):
    """What a tie is made of."""

    CHAIN = "chain"
    STRAP = "strap"
    WIRE_ROPE = "wire_rope"

    @property
    def stretch(self) -> float:
        """Part of its length by which it is longer at its working load limit. An assumption, no
        source; published webbing may stretch by 7 % at most (EN 12195-2, from memory)."""
        return _STRETCH[self]


_STRETCH: Final = {TieKind.CHAIN: 0.01, TieKind.WIRE_ROPE: 0.01, TieKind.STRAP: 0.05}


@dataclass(frozen=True, kw_only=True, slots=True)
class Anchor:
    """A place of the trailer that a tie is hooked to.

    ``tape_m`` behind the deck's front edge, negative ahead of it; ``left_m`` of its middle;
    ``height_m`` above the deck. ``wll_kg`` is its working load limit.
    """

    id: str
    tape_m: float
    left_m: float
    height_m: float = 0.0
    wll_kg: float | None = None
    kind: str = "other"

    def __post_init__(self) -> None:
        if self.wll_kg is not None and not self.wll_kg > 0:
            raise InputError("trailer.anchors.wll", "a mass greater than zero")


@dataclass(frozen=True, kw_only=True, slots=True)
class Point:
    """A place of a machine that a tie is hooked to, from its mark in its own sense.

    ``height_m`` above the deck it stands on. ``strength_kg`` is what the point itself holds.
    """

    id: str
    ahead_m: float
    left_m: float
    height_m: float
    strength_kg: float | None = None
    kind: str = "other"

    def __post_init__(self) -> None:
        if self.strength_kg is not None and not self.strength_kg > 0:
            raise InputError("items.points.strength", "a mass greater than zero")


@dataclass(frozen=True, kw_only=True, slots=True)
class Tie:
    """A tie from a point of an item to an anchor; ``over``: from one anchor over the point to a
    second one. ``wll_kg`` is the least of its own pieces, ``None`` where that is not known."""

    id: str
    item: str
    point: str
    anchor: str
    kind: TieKind
    over: str | None = None
    wll_kg: float | None = None
    pretension_kg: float = 0.0
    name: str = ""

    def __post_init__(self) -> None:
        if self.wll_kg is not None and not self.wll_kg > 0:
            raise InputError("securing.ties.wll", "a mass greater than zero")
        if not self.pretension_kg >= 0:
            raise InputError("securing.ties.pretension", "zero or more")
        if self.over is not None and self.over == self.anchor:
            raise InputError("securing.ties.over", "another anchor than the first")


@dataclass(frozen=True, kw_only=True, slots=True)
class Securing:
    """How a load is tied down. ``friction`` is between load and deck; ``bulkhead`` says that one
    holds the load forward."""

    school: SecuringSchool
    friction: float = 0.0
    bulkhead: bool = False
    ties: tuple[Tie, ...] = ()

    def __post_init__(self) -> None:
        if not self.friction >= 0:
            raise InputError("securing.friction", "zero or more")
