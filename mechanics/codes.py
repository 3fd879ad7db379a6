"""The stable codes of limits: families, and which one of a family.

A code is written as the report file has it (``trailer.axle_2.gawr``); whoever asks what a
code is about reads it once, here, and never looks into the text.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import Enum
from functools import lru_cache
from typing import Final


class Family(Enum):
    """Limits that are spoken of alike. ``{}`` stands for which one of them it is."""

    TRAILER_GVWR = "trailer.gvwr"
    TRAILER_AXLE = "trailer.axle_{}.gawr"
    TRAILER_TIRES = "trailer.axle_{}.tires"
    TRAILER_SIDE = "trailer.side_{}"
    TRUCK_AXLE = "truck.{}_gawr"
    TRUCK_TIRES = "truck.{}_tires"
    TRUCK_LIGHT = "truck.{}_light"
    TRUCK_GVWR = "truck.gvwr"
    TRUCK_PAYLOAD = "truck.payload"
    TOW_RATING = "truck.max_trailer_mass"
    TRUCK_TONGUE = "truck.max_tongue_mass"
    GCWR = "combination.gcwr"
    BALL_SIZE = "hitch.ball_size"
    PART_TRAILER = "hitch.{}.max_trailer_mass"
    PART_TONGUE = "hitch.{}.max_tongue_mass"
    SHARE_MIN = "tongue.share_min"
    SHARE_MAX = "tongue.share_max"
    DECK_FRONT = "deck.front"
    DECK_REAR = "deck.rear"
    DECK_WIDTH = "deck.width"
    DECK_LENGTH = "deck.length"
    CONCENTRATION = "deck.concentration"
    NEIGHBOUR = "item.{}"

    def of(self, which: object = "") -> str:
        """The code of one of the family: an axle's number, ``front`` or ``rear``, ``left`` or
        ``right``, a part's name, an item's id."""
        # asked for at every step of a drag, for every limit
        return _written(self._value_, str(which)) if which else self._value_


@lru_cache(maxsize=4096)
def _written(pattern: str, which: str) -> str:
    return pattern.format(which)


@dataclass(frozen=True, kw_only=True, slots=True)
class Code:
    """A code as it was read; ``which`` is empty where the family has one limit only."""

    family: Family
    which: str = ""

    def __str__(self) -> str:
        """The code as the report file has it."""
        return self.family.of(self.which)


_PLACES: Final = {
    Family.TRAILER_AXLE: r"\d+",
    Family.TRAILER_TIRES: r"\d+",
    Family.TRAILER_SIDE: "left|right",
    Family.TRUCK_AXLE: "front|rear",
    Family.TRUCK_TIRES: "front|rear",
    Family.TRUCK_LIGHT: "front|rear",
}
"""What may stand for the braces; a part's name and an item's id may be anything."""

_PATTERNS: Final = tuple(
    (
        family,
        re.compile(
            f"({_PLACES.get(family, '.+')})".join(map(re.escape, family.value.split("{}"))),
            re.DOTALL,
        ),
    )
    for family in Family
)


@lru_cache(maxsize=1024)
def read_code(code: str) -> Code:
    """What a code is about.

    Raises:
        ValueError: no limit has such a code.
    """
    for family, pattern in _PATTERNS:
        match = pattern.fullmatch(code)
        if match is not None:
            return Code(family=family, which=match[1] if pattern.groups else "")
    raise ValueError(f"no limit has the code {code}")


def family_of(code: str) -> Family:
    """The family of a code.

    Raises:
        ValueError: no limit has such a code.
    """
    return read_code(code).family
