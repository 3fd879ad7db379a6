"""What a day's plan is made of. Times are whole minutes since midnight, ways metres."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from mechanics.errors import InputError

WHOLE_DAY: Final = 24 * 60
"""Minutes of a day; nothing is planned over midnight."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Transfer:
    """One machine that has to be taken from a place to another.

    It is not ready before ``earliest`` and has to be there by ``due``. ``on_min`` is what
    loading and tying it down takes, ``off_min`` what taking it off does. ``outfits`` are those
    that may take it, ``None`` all of them.
    """

    id: str
    origin: str
    goal: str
    earliest: int = 0
    due: int = WHOLE_DAY
    on_min: int = 0
    off_min: int = 0
    outfits: frozenset[str] | None = None

    @property
    def windowed(self) -> bool:
        """Whether it matters when in the day it is taken."""
        return self.earliest > 0 or self.due < WHOLE_DAY


@dataclass(frozen=True, kw_only=True, slots=True)
class Outfit:
    """A truck and a trailer that can be coupled; either is in one place at a time."""

    id: str
    truck: str
    trailer: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Driver:
    """Somebody who drives between ``starts`` and ``ends``, ``None`` outfits all of them."""

    id: str
    starts: int
    ends: int
    outfits: frozenset[str] | None = None

    def may(self, outfit: str) -> bool:
        """Whether he drives that outfit."""
        return self.outfits is None or outfit in self.outfits


@dataclass(frozen=True, kw_only=True, slots=True)
class Busy:
    """A truck, trailer or driver that is promised elsewhere for a while."""

    who: str
    starts: int
    ends: int


@dataclass(frozen=True, kw_only=True, slots=True)
class Locked:
    """A trip that has been decided: these machines and no others, with this outfit, by this
    driver where one is named."""

    transfers: frozenset[str]
    outfit: str
    driver: str | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Day:
    """All that a day's plan has to go with.

    ``ways`` are metres by road from place to place; a pair that is missing is not known, and
    nothing is sent along it. ``speed`` is in metres a minute. Every trip begins and ends at
    ``home`` and takes at most ``most`` machines along, one after the other or together.
    """

    home: str
    transfers: tuple[Transfer, ...]
    outfits: tuple[Outfit, ...]
    drivers: tuple[Driver, ...]
    ways: Mapping[tuple[str, str], float]
    speed: float
    busy: tuple[Busy, ...] = ()
    locked: tuple[Locked, ...] = ()
    most: int = 3

    def __post_init__(self) -> None:
        if self.speed <= 0:
            raise InputError("speed", "more than nothing")
        for kind, things in (
            ("transfers", self.transfers),
            ("outfits", self.outfits),
            ("drivers", self.drivers),
        ):
            if len({thing.id for thing in things}) < len(things):
                raise InputError(kind, "each of its own id")

    def metres(self, one: str, other: str) -> float | None:
        """By road; ``None`` where nobody knows."""
        return 0.0 if one == other else self.ways.get((one, other))

    def transfer(self, key: str) -> Transfer:
        """The transfer of an id.

        Raises:
            KeyError: there is none.
        """
        for one in self.transfers:
            if one.id == key:
                return one
        raise KeyError(key)
