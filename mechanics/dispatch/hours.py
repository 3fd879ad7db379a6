"""What no choice of trips can break, as rows of a model: everything is in one place at a time."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import combinations
from typing import Final

from mechanics.dispatch.choice import Choice
from mechanics.dispatch.day import Day, Driver
from mechanics.dispatch.roster import Wanted
from mechanics.solver import Model

Cut = Counter[tuple[Wanted, Wanted]]
"""Trips that do not go into a day together, each as it is and made as easy as it may be."""

SLOTS: Final = ((300, 30), (1500, 60), (10**9, 120))
"""Up to so many choices, minutes of a slot of the day."""

MOST_DRIVERS: Final = 6
"""Drivers up to which all that only some of them may drive is held against their hours."""


@dataclass(frozen=True)
class Hours:
    """Rows on the ``choices`` of a model, each in its column of ``places``."""

    day: Day
    model: Model
    choices: Mapping[int, Choice]
    places: Mapping[int, int]

    def hold(self) -> None:
        """Nothing and nobody is on the way for longer than there is time."""
        if not self.day.drivers:
            return
        first = min(one.starts for one in self.day.drivers)
        last = max(one.ends for one in self.day.drivers)
        for members in self._things().values():
            terms = {self.places[n]: self._minutes(n) for n in members}
            self.model.row(terms, most=float(max(last - first, 0)))
        for some in self._groups():
            who = {one.id for one in some}
            theirs = [n for n, one in self.choices.items() if one.drivers <= who]
            spans = [one.ends - one.starts for one in some]
            terms = {self.places[n]: self._minutes(n) for n in theirs}
            self.model.row(terms, most=float(sum(spans)))
            for parts in (2, 3):
                # of trips longer than half of a day, a driver does one, and so on
                long_ones = [n for n in theirs if self._minutes(n) > max(spans) / parts]
                terms = {self.places[n]: 1.0 for n in long_ones}
                self.model.row(terms, most=float(len(some) * (parts - 1)))

    def hold_at_every_time(self) -> None:
        """The same in every slot of the day: each trip begins in one.

        A trip lies in the slots from that of its start on, as many as go into its length rounded
        down. What follows something in a day does so in slots rounded like that, so no day that
        can be is lost.
        """
        slot = next(minutes for most, minutes in SLOTS if len(self.choices) <= most)
        lies: dict[int, dict[int, list[int]]] = {}
        for n, one in self.choices.items():
            starts = sorted(set(self._starts(one, slot)))
            columns = {at: self.model.choice() for at in starts}
            terms = dict.fromkeys(columns.values(), 1.0)
            self.model.row(terms | {self.places[n]: -1.0}, least=0.0, most=0.0)
            for at, column in columns.items():
                for t in range(at, at + int(self._minutes(n)) // slot):
                    lies.setdefault(t, {}).setdefault(n, []).append(column)
        promised = {
            (one.who, t)
            for one in self.day.busy
            for t in range(one.starts // slot, one.starts // slot + (one.ends - one.starts) // slot)
        }
        things, groups = self._things(), self._groups()
        for t, there in lies.items():
            for thing, members in things.items():
                terms = {c: 1.0 for n in members for c in there.get(n, ())}
                self.model.row(terms, most=0.0 if (thing, t) in promised else 1.0)
            for some in groups:
                who = {one.id for one in some}
                on_duty = [
                    one
                    for one in some
                    if one.starts // slot
                    <= t
                    < one.starts // slot + -(-(one.ends - one.starts) // slot)
                    and (one.id, t) not in promised
                ]
                terms = {
                    c: 1.0
                    for n, columns in there.items()
                    if self.choices[n].drivers <= who
                    for c in columns
                }
                self.model.row(terms, most=float(len(on_duty)))

    def strike(self, cut: Cut) -> None:
        """Trips that do not go into a day, and any that are as hard to place, are not chosen
        together."""
        kinds: dict[tuple[Wanted, Wanted], list[int]] = {kind: [] for kind in cut}
        for n, choice in self.choices.items():
            one = choice.wanted
            # of one kind each: as many of every kind would be as impossible
            own = (kind for kind in kinds if kind[0] == one)
            like = (kind for kind in kinds if one.asks_for(kind[1]))
            kind = next(own, None) or next(like, None)
            if kind is not None:
                kinds[kind].append(n)
        many = {kind: self.model.choice() for kind in kinds}
        for kind, alike in kinds.items():
            if cut[kind] > 1:
                terms = {self.places[n]: 1.0 for n in alike} | {many[kind]: -float(len(alike))}
                self.model.row(terms, most=cut[kind] - 1.0)
                continue
            for key in sorted({key for n in alike for key in self.choices[n].transfers}):
                terms = {self.places[n]: 1.0 for n in alike if key in self.choices[n].transfers}
                self.model.row(terms | {many[kind]: -1.0}, most=0.0)
        self.model.row(dict.fromkeys(many.values(), 1.0), most=len(many) - 1.0)

    def _minutes(self, n: int) -> float:
        return float(self.choices[n].route.minutes)

    def _things(self) -> dict[str, list[int]]:
        """The choices that need each truck and each trailer."""
        found: dict[str, list[int]] = {}
        for n, one in self.choices.items():
            for thing in (one.outfit.truck, one.outfit.trailer):
                found.setdefault(thing, []).append(n)
        return found

    def _groups(self) -> list[tuple[Driver, ...]]:
        """Drivers who may be all that can drive something."""
        drivers = self.day.drivers
        if len(drivers) <= MOST_DRIVERS:
            counts = range(1, len(drivers) + 1)
            return [some for count in counts for some in combinations(drivers, count)]
        sets = {one.drivers for one in self.choices.values()} | {frozenset(d.id for d in drivers)}
        return [tuple(d for d in drivers if d.id in some) for some in sorted(sets, key=sorted)]

    def _starts(self, one: Choice, slot: int) -> Iterator[int]:
        """Slots in which a trip may begin."""
        wanted = one.wanted
        for driver in self.day.drivers:
            if driver.id in wanted.drivers:
                first = max(wanted.earliest, driver.starts)
                last = min(wanted.latest, driver.ends - wanted.minutes)
                if first <= last:
                    yield from range(first // slot, last // slot + 1)
