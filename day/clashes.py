"""What is promised twice: trucks, trailers, machines and drivers, by the hours of a day.

Nothing of the web framework, and no clock: a day, hours and what is used go in, clashes come out.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date
from enum import Enum
from itertools import combinations

USUAL_MINUTES = 120
"""How long a haul takes of which nobody says it. Common practice, no source."""


class Of(str, Enum):
    """What of a haul cannot be in two places."""

    TRUCK = "truck"
    TRAILER = "trailer"
    MACHINE = "machine"
    DRIVER = "driver"


@dataclass(frozen=True, slots=True)
class Used:
    """Something that a haul uses: what it is, its key, its name."""

    of: Of
    key: int
    name: str

    @property
    def place(self) -> tuple[int, int]:
        """Where it stands among others: a truck first, then as :class:`Of` has them."""
        return list(Of).index(self.of), self.key


@dataclass(frozen=True, kw_only=True, slots=True)
class Booking:
    """A haul of a day. ``starts`` is in minutes since midnight, ``None`` where nobody says it;
    ``minutes`` is how long it takes, likewise."""

    haul: int
    day: date
    starts: int | None
    minutes: int | None
    uses: frozenset[Used]

    @property
    def ends(self) -> int | None:
        """When it is over; ``None`` where it is not said when it starts."""
        if self.starts is None:
            return None
        return self.starts + (USUAL_MINUTES if self.minutes is None else self.minutes)


@dataclass(frozen=True, kw_only=True, slots=True)
class Clash:
    """Two hauls that want the same: what, in order. It is not ``sure`` where one of them does not
    say when it starts: they may still go one after the other."""

    one: Booking
    other: Booking
    used: tuple[Used, ...]
    sure: bool


def clashes(bookings: Iterable[Booking]) -> Iterator[Clash]:
    """What is promised twice, day by day, the sure ones of a day first."""
    days: dict[date, list[Booking]] = {}
    for booking in bookings:
        days.setdefault(booking.day, []).append(booking)
    for day in sorted(days):
        yield from sorted(_of_a_day(days[day]), key=lambda clash: not clash.sure)


def _of_a_day(bookings: list[Booking]) -> Iterator[Clash]:
    ordered = sorted(bookings, key=lambda b: (b.starts is None, b.starts or 0, b.haul))
    for one, other in combinations(ordered, 2):
        apart = _apart(one, other)
        if apart:
            continue
        used = tuple(sorted(one.uses & other.uses, key=lambda used: used.place))
        if used:
            yield Clash(one=one, other=other, used=used, sure=apart is False)


def _apart(one: Booking, other: Booking) -> bool | None:
    """Whether one is over before the other starts; ``None`` where nobody can say."""
    if one.starts is None or other.starts is None:
        return None
    first, then = (one, other) if one.starts <= other.starts else (other, one)
    ends = first.ends
    return ends is not None and then.starts is not None and ends <= then.starts
