"""When each trip leaves and who drives it: trucks, trailers and drivers one thing at a time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from mechanics.dispatch.day import WHOLE_DAY, Busy, Driver

NODES = 4000
"""Steps of one search; a day that takes more is taken for one that cannot be."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Wanted:
    """A trip that has to find its time: it leaves between ``earliest`` and ``latest``. Without a
    name any ``truck`` or ``trailer`` would do."""

    truck: str
    trailer: str
    drivers: frozenset[str]
    minutes: int
    earliest: int
    latest: int

    def asks_for(self, less: Wanted) -> bool:
        """Whether it is at least as hard to place as another."""
        return (
            less.truck in ("", self.truck)
            and less.trailer in ("", self.trailer)
            and self.drivers <= less.drivers
            and self.minutes >= less.minutes
            and self.earliest >= less.earliest
            and self.latest <= less.latest
        )


@dataclass(frozen=True, kw_only=True, slots=True)
class Turn:
    """When a trip leaves and who drives it."""

    driver: str
    starts: int
    ends: int


Taken = dict[str, list[tuple[int, int]]]
"""From when to when each truck, trailer and driver is promised."""


@dataclass
class Roster:
    """Places trips in a day.

    Trips are put in one after the other, each as early as its truck, trailer and driver let it.
    Of any day that can be there is an order in which that finds it: taken by when they leave,
    none comes later than in that day. So trying every order and driver misses nothing;
    ``cut_off`` says whether a search ended before that.
    """

    drivers: Sequence[Driver]
    busy: Sequence[Busy] = ()
    cut_off: bool = field(default=False, init=False)

    def turns(self, trips: Sequence[Wanted]) -> list[Turn] | None:
        """A turn for each trip; ``None`` where they do not go into the day."""
        taken: Taken = {}
        for one in self.busy:
            taken.setdefault(one.who, []).append((one.starts, one.ends))
        self._left = NODES
        found = self._place(trips, {}, taken)
        return None if found is None else [found[n] for n in range(len(trips))]

    def why_not(self, trips: Sequence[Wanted]) -> list[Wanted]:
        """Trips that do not go into the day, each made as easy as it can be while they still do
        not: without what does not matter to that, and as short."""
        trips = list(trips)
        everybody = frozenset(one.id for one in self.drivers)
        for n in range(len(trips)):
            for ease in (
                {"truck": ""},
                {"trailer": ""},
                {"drivers": everybody},
                {"earliest": 0},
                {"latest": WHOLE_DAY},
            ):
                self._eased(trips, n, **ease)
            step = trips[n].minutes // 2
            while step:
                if trips[n].minutes > step:
                    self._eased(trips, n, minutes=trips[n].minutes - step)
                step //= 2
        return trips

    def _eased(self, trips: list[Wanted], n: int, **ease: Any) -> None:
        was = trips[n]
        trips[n] = replace(was, **ease)
        if self.turns(trips) is not None:
            trips[n] = was

    def _place(
        self,
        trips: Sequence[Wanted],
        placed: dict[int, Turn],
        taken: Taken,
    ) -> dict[int, Turn] | None:
        if len(placed) == len(trips):
            return placed
        if self._left <= 0:
            self.cut_off = True
            return None
        self._left -= 1
        choices = []
        for n, trip in enumerate(trips):
            if n in placed:
                continue
            options = [
                (starts, driver.id)
                for driver in self.drivers
                if driver.id in trip.drivers
                and (starts := self._first(trip, driver, taken)) is not None
            ]
            if not options:
                # whatever is placed besides only takes more of its time
                return None
            choices.append((min(options)[0], trip.latest, n, sorted(options)))
        alike: set[tuple[Wanted, int, str]] = set()
        for _, _, n, options in sorted(choices, key=lambda one: (one[0], one[1], one[2])):
            for starts, who in options:
                trip = trips[n]
                if (trip, starts, who) in alike:
                    continue
                alike.add((trip, starts, who))
                turn = Turn(driver=who, starts=starts, ends=starts + trip.minutes)
                now = {key: list(times) for key, times in taken.items()}
                for key in filter(None, (trip.truck, trip.trailer, who)):
                    now.setdefault(key, []).append((turn.starts, turn.ends))
                found = self._place(trips, {**placed, n: turn}, now)
                if found is not None:
                    return found
        return None

    def _first(self, trip: Wanted, driver: Driver, taken: Taken) -> int | None:
        """The earliest that a trip can leave with a driver."""
        starts = max(trip.earliest, driver.starts)
        times = sorted(
            one for key in (trip.truck, trip.trailer, driver.id) for one in taken.get(key, ())
        )
        for begins, ends in times:
            if begins < starts + trip.minutes and starts < ends:
                starts = ends
        fits = starts <= trip.latest and starts + trip.minutes <= driver.ends
        return starts if fits else None
