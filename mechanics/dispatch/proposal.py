"""The trips of a day: as few machines left as can be, then fewest trips, then the shortest way,
then most reserve.

Every trip that could be driven is a choice for the general solver: these machines, this outfit,
that route. Whether machines may ride together is asked only of trips that the solver chose: until
then a trip counts for as much as could be hoped of it, so what is best with such hopes and found to
hold is best of all. The same goes for hours: a choice of trips that no driver and truck can fit
into the day is struck out and the next best is looked for.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from enum import Enum
from itertools import combinations
from typing import Final, Protocol

from mechanics.dispatch.choice import Choice, Group, wanted_of
from mechanics.dispatch.day import Day, Locked, Outfit, Transfer
from mechanics.dispatch.hours import Cut, Hours
from mechanics.dispatch.roster import Roster, Turn
from mechanics.dispatch.routes import Pairs, Route, routes
from mechanics.patience import go_on
from mechanics.solver import Model, Outcome

ALIKE_M: Final = 1.0
"""Ways that differ by less are as long as each other."""

ALIKE_RESERVE: Final = 1e-6
MOST_RESERVE: Final = 10.0
"""What is hoped of a trip at most, as a part of the limit that is left least."""

MOMENT_S: Final = 0.05
"""The least time that a search gets."""

MOST_CUTS: Final = 400
"""Choices of trips that are struck out before the search gives up proving."""


class Rides(Protocol):
    """What the planner says of machines on an outfit."""

    def hope(self, outfit: str, aboard: tuple[str, ...]) -> float | None:
        """The most reserve they could have however they stand, worked out at once; ``None``
        where it is sure that they may not ride so."""

    def reserve(self, outfit: str, aboard: tuple[str, ...], comes_off: Pairs) -> float | None:
        """The least part that is left of any limit where they stand best; ``None`` where no
        arrangement holds."""


class Why(Enum):
    """Why a machine stays where it is."""

    NO_WAY = "no_way"
    """How far it is, or how far from the yard, is not known."""
    NO_OUTFIT = "no_outfit"
    """No outfit holds it, even alone."""
    NO_DRIVER = "no_driver"
    """Nobody drives an outfit that holds it."""
    NO_TIME = "no_time"
    """There is no time for it, even if nothing else were hauled."""
    FULL = "full"
    """There would be time for it, but not for all."""
    LOCKED = "locked"
    """What was decided beforehand cannot all be, so nothing is proposed."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Trip:
    """An outfit out from home and back. ``reserve`` is the least part left of any limit on any of
    its legs."""

    outfit: str
    transfers: frozenset[str]
    route: Route
    reserve: float
    turn: Turn


@dataclass(frozen=True, kw_only=True, slots=True)
class Proposal:
    """What is proposed for a day.

    ``left`` are the transfers that stay, each with why. No plan leaves fewer, or needs fewer
    trips for as many, where ``trips_proved``; none of those is shorter where ``way_proved``, and
    none of those leaves more where ``reserve_proved``. ``least_left``, ``least_trips`` and
    ``least_metres`` are what any plan takes at least, as far as that is known.
    """

    trips: tuple[Trip, ...]
    left: tuple[tuple[str, Why], ...]
    least_left: int
    least_trips: int
    least_metres: float
    trips_proved: bool
    way_proved: bool
    reserve_proved: bool

    @property
    def metres(self) -> float:
        """All ways together."""
        return sum(trip.route.metres for trip in self.trips)

    @property
    def reserve(self) -> float | None:
        """The least reserve of any trip; ``None`` without one."""
        return min((trip.reserve for trip in self.trips), default=None)

    @property
    def proved(self) -> bool:
        """Whether there is none better."""
        return self.trips_proved and self.way_proved and self.reserve_proved


Limit = tuple[Callable[[Choice], float], float]
"""What a trip adds to a sum, and the most that it may come to."""


def propose(
    day: Day,
    rides: Rides,
    *,
    left: Callable[[], float] = lambda: 60.0,
    unlike: Sequence[Iterable[tuple[str, frozenset[str]]]] = (),
) -> Proposal:
    """The best plan of a day, or the best found while ``left`` gives seconds that are left.

    ``unlike`` are plans, as outfits and what they take, that are not wanted again.

    Raises:
        SolverError: the solver failed.
    """
    return _Search(day, rides, left, unlike).run()


@dataclass
class _Found:
    choices: list[Choice]
    turns: list[Turn]
    skipped: int


class _Search:
    def __init__(
        self,
        day: Day,
        rides: Rides,
        left: Callable[[], float],
        unlike: Sequence[Iterable[tuple[str, frozenset[str]]]],
    ) -> None:
        self.day, self.rides, self.left = day, rides, left
        self.unlike = [list(one) for one in unlike]
        self.roster = Roster(day.drivers, day.busy)
        self.cuts: list[Cut] = []
        self.hopes: dict[tuple[str, tuple[str, ...]], float | None] = {}
        self.known: dict[tuple[str, tuple[str, ...], Pairs], float | None] = {}
        self.out_of_time = self.impossible = False
        self.choices: list[Choice] = []
        self._gather()

    # what there is to choose from

    def _gather(self) -> None:
        there = self.day.transfers
        decided = {key for lock in self.day.locked for key in lock.transfers}
        for lock in self.day.locked:
            for outfit in self.day.outfits:
                if outfit.id == lock.outfit:
                    self._add(
                        outfit, [self.day.transfer(key) for key in sorted(lock.transfers)], lock
                    )
        free = [one for one in there if one.id not in decided]
        kept: dict[tuple[str, ...], list[Route]] = {}
        for count in range(1, self.day.most + 1):
            for trip in combinations(free, count):
                if self._late():
                    return
                for outfit in self.day.outfits:
                    self._add(outfit, trip, None, kept)

    def _late(self) -> bool:
        go_on()
        self.out_of_time = self.out_of_time or self.left() <= 0
        return self.out_of_time

    def _add(
        self,
        outfit: Outfit,
        trip: Sequence[Transfer],
        lock: Locked | None,
        kept: dict[tuple[str, ...], list[Route]] | None = None,
    ) -> None:
        if any(one.outfits is not None and outfit.id not in one.outfits for one in trip):
            return
        drivers = frozenset(
            one.id
            for one in self.day.drivers
            if one.may(outfit.id) and (lock is None or lock.driver in (None, one.id))
        )
        if not drivers or any(self._hope(outfit.id, (one.id,)) is None for one in trip):
            return
        ids = tuple(one.id for one in trip)
        if kept is None or ids not in kept:
            found = routes(self.day, trip)
            if kept is not None:
                kept[ids] = found
        else:
            found = kept[ids]
        self.choices += [
            Choice(outfit=outfit, transfers=frozenset(ids), drivers=drivers, groups=groups)
            for groups in self._groups(outfit, drivers, found, trip)
        ]

    def _groups(
        self,
        outfit: Outfit,
        drivers: frozenset[str],
        found: Sequence[Route],
        trip: Sequence[Transfer],
    ) -> list[list[Group]]:
        """Routes of a trip that may hold, by how they lie in the day, then by their length."""
        shapes: dict[tuple[int, int], list[Group]] = {}
        windowed = any(one.windowed for one in trip)
        for route in found:
            hopes = [self._hope(outfit.id, leg.aboard) for leg in route.loaded]
            if None in hopes or self.roster.turns([wanted_of(outfit, drivers, route)]) is None:
                continue
            hope = min((one for one in hopes if one is not None), default=MOST_RESERVE)
            shape = (route.earliest, route.latest) if windowed else (0, 0)
            groups = shapes.setdefault(shape, [])
            if groups and route.metres <= groups[-1].routes[0].metres + ALIKE_M / 10:
                groups[-1].routes.append(route)
                groups[-1].hope = max(groups[-1].hope, hope)
            else:
                groups.append(Group([route], hope))
        return list(shapes.values())

    def _hope(self, outfit: str, aboard: tuple[str, ...]) -> float | None:
        key = (outfit, aboard)
        if key not in self.hopes:
            # what may not ride with one more may not ride with two more
            parts = [aboard[:n] + aboard[n + 1 :] for n in range(len(aboard))]
            sure_not = len(aboard) > 2 and any(self._hope(outfit, p) is None for p in parts)
            hope = None if sure_not else self.rides.hope(outfit, aboard)
            self.hopes[key] = None if hope is None else min(hope, MOST_RESERVE)
        return self.hopes[key]

    def _reserve(self, outfit: str, aboard: tuple[str, ...], pairs: Pairs) -> float | None:
        key = (outfit, aboard, pairs)
        if key not in self.known:
            reserve = self.rides.reserve(outfit, aboard, pairs)
            self.known[key] = None if reserve is None else min(reserve, MOST_RESERVE)
        return self.known[key]

    def _ask(self, choice: Choice) -> bool:
        """Ask the planner of a trip, once; whether it holds."""
        while choice.held is None and choice.groups:
            if self._late():
                return False
            best: tuple[float, Route] | None = None
            for route in choice.groups[0].routes:
                parts = [
                    self._reserve(choice.outfit.id, leg.aboard, leg.comes_off)
                    for leg in route.loaded
                ]
                if None in parts:
                    continue
                least = min((part for part in parts if part is not None), default=MOST_RESERVE)
                if best is None or least > best[0]:
                    best = least, route
            if best is None:
                del choice.groups[0]
            else:
                choice.reserve, choice.held = best
        return choice.held is not None

    # the search

    def run(self) -> Proposal:
        """The best plan."""
        count = len(self.day.transfers)
        best = self._start()
        many = count + 1.0
        first, bound = self._stage(
            lambda c: 1.0 - many * len(c.transfers), best, within=0.9, offset=many * count
        )
        proved = first is not None and bound >= self._cost(first, many) - 0.9
        if first is not None and (
            best is None or self._cost(first, many) <= self._cost(best, many)
        ):
            best = first
        best = best or _Found([], [], count)
        least = math.ceil(bound - 1e-6) if math.isfinite(bound) else 0
        least_left, least_trips = divmod(max(least, 0), count + 1)
        way_proved = reserve_proved = False
        least_m = 0.0
        if proved:
            limits: list[Limit] = [
                (lambda c: 1.0 - many * len(c.transfers), self._cost(best, many) - many * count)
            ]
            least_left, least_trips = best.skipped, len(best.choices)
            second, bound = self._stage(lambda c: c.metres / 1000, best, within=1e-3, limits=limits)
            least_m = max(bound, 0.0) * 1000 if math.isfinite(bound) else 0.0
            if second is not None:
                best = second
                way_proved = bound >= self._metres(best) / 1000 - 2e-3
            if way_proved and best.choices:
                limits.append((lambda c: c.metres, self._metres(best) + ALIKE_M))
                third, reserve_proved = self._widest(best, limits)
                best = third or best
            elif way_proved:
                reserve_proved = True
        trips = tuple(
            sorted(
                (
                    Trip(
                        outfit=choice.outfit.id,
                        transfers=choice.transfers,
                        route=choice.route,
                        reserve=choice.reserve,
                        turn=turn,
                    )
                    for choice, turn in zip(best.choices, best.turns, strict=True)
                ),
                key=lambda trip: (trip.turn.starts, trip.outfit),
            )
        )
        return Proposal(
            trips=trips,
            left=self._left_out(best),
            least_left=least_left,
            least_trips=least_trips,
            least_metres=least_m,
            trips_proved=proved and not self.roster.cut_off,
            way_proved=way_proved and not self.roster.cut_off,
            reserve_proved=reserve_proved and not self.roster.cut_off,
        )

    def _cost(self, found: _Found, many: float) -> float:
        return many * found.skipped + len(found.choices)

    @staticmethod
    def _metres(found: _Found) -> float:
        return sum(choice.metres for choice in found.choices)

    def _start(self) -> _Found | None:
        """A plan to begin with: what is decided, one machine after the other by itself, and then
        trips made into one wherever that goes."""
        decided = [lock.transfers for lock in self.day.locked]
        chosen: list[Choice] = []
        order = sorted(self.choices, key=lambda c: (c.transfers not in decided, c.route.latest))
        for choice in order:
            if len(choice.transfers) == 1 or choice.transfers in decided:
                chosen = self._with(choice, chosen)
        for choice in sorted(
            self.choices,
            key=lambda c: (-len(c.transfers), c.groups[0].routes[0].metres if c.groups else 0.0),
        ):
            if len(choice.transfers) > 1 and choice.groups:
                chosen = self._with(choice, chosen)
        turns = self.roster.turns([one.wanted for one in chosen])
        self.roster.cut_off = False
        taken = {key for one in chosen for key in one.transfers}
        if turns is None or any(not one <= taken for one in decided) or self._again(chosen):
            return None
        return _Found(chosen, turns, len(self.day.transfers) - len(taken))

    def _with(self, choice: Choice, chosen: list[Choice]) -> list[Choice]:
        """The same with one more trip, in place of those whose machines it takes; unchanged where
        that does not go or is no better."""
        decided = [lock.transfers for lock in self.day.locked]
        instead = [one for one in chosen if one.transfers & choice.transfers]
        whole = all(
            one.transfers <= choice.transfers and one.transfers not in decided for one in instead
        )
        gained = len(choice.transfers) > sum(len(one.transfers) for one in instead)
        if not whole or not (gained or len(instead) > 1) or not self._ask(choice):
            return chosen
        other = [one for one in chosen if one not in instead] + [choice]
        return chosen if self.roster.turns([one.wanted for one in other]) is None else other

    def _again(self, chosen: Sequence[Choice]) -> bool:
        """Whether it is one of the plans that are not wanted again."""
        have = {(one.outfit.id, one.transfers) for one in chosen}
        return any(set(plan) <= have for plan in self.unlike)

    def _stage(
        self,
        cost: Callable[[Choice], float],
        start: _Found | None,
        *,
        within: float,
        offset: float = 0.0,
        limits: Sequence[Limit] = (),
    ) -> tuple[_Found | None, float]:
        """The plan that costs least, if it is found in time, and what any costs at least."""
        bound = -math.inf
        while not self._late():
            model, places = self._model(limits)
            terms = {places[n]: cost(self.choices[n]) for n in places}
            solved = model.search(terms, seconds=max(self.left(), MOMENT_S), within=within)
            if solved.outcome is Outcome.NONE:
                self.impossible = not limits
                return None, math.inf
            bound = max(bound, solved.bound + offset) if math.isfinite(solved.bound) else bound
            if solved.outcome is Outcome.UNPROVED and not solved.values:
                break
            found = self._tried([n for n in places if solved.values[places[n]] > 0.5])
            if found is not None:
                return found, solved.bound + offset
            if len(self.cuts) > MOST_CUTS:
                break
        return None, bound

    def _tried(self, chosen: Sequence[int]) -> _Found | None:
        """The plan of what the solver chose, where it holds and is as short as it counted."""
        picked = [self.choices[n] for n in chosen]
        hoped = [one.metres for one in picked]
        # each of them is asked: one that does not hold need not be chosen again
        held = [self._ask(one) for one in picked]
        if not all(held):
            return None
        if any(one.metres > was + ALIKE_M / 10 for one, was in zip(picked, hoped, strict=True)):
            return None
        turns = self.roster.turns([one.wanted for one in picked])
        if turns is None:
            self._strike(list(chosen))
            return None
        skipped = len(self.day.transfers) - sum(len(one.transfers) for one in picked)
        return _Found(picked, turns, skipped)

    def _strike(self, chosen: list[int]) -> None:
        """Strike out a choice of trips that does not go into the day, and all that does not go for
        the same reason."""
        for n in list(chosen):
            fewer = [one for one in chosen if one != n]
            wants = [self.choices[m].wanted for m in fewer]
            if fewer and self.roster.turns(wants) is None:
                chosen = fewer
        wants = [self.choices[n].wanted for n in chosen]
        self.cuts.append(Counter(zip(wants, self.roster.why_not(wants), strict=True)))

    def _widest(self, best: _Found, limits: Sequence[Limit]) -> tuple[_Found | None, bool]:
        """The plan whose least reserve is the largest; whether that is proved."""
        while not self._late():
            model, places = self._model(limits)
            least = model.column(-MOST_RESERVE, MOST_RESERVE)
            for n, place in places.items():
                # least <= its reserve where it is chosen
                model.row(
                    {least: 1.0, place: 2 * MOST_RESERVE},
                    most=self.choices[n].most + 2 * MOST_RESERVE,
                )
            solved = model.search(
                {least: -1.0}, seconds=max(self.left(), MOMENT_S), within=ALIKE_RESERVE
            )
            if not solved.values:
                return best, False
            chosen = [n for n in places if solved.values[places[n]] > 0.5]
            found = self._tried(chosen)
            if found is not None:
                got = min(choice.reserve for choice in found.choices)
                if solved.outcome is not Outcome.BEST:
                    return (found if got > _least(best) else best), False
                if got >= -solved.bound - 2 * ALIKE_RESERVE:
                    return found, True
            if len(self.cuts) > MOST_CUTS:
                break
        return best, False

    def _model(self, limits: Sequence[Limit]) -> tuple[Model, dict[int, int]]:
        """Every choice that may still hold as a column, and what no day can break as rows."""
        model = Model()
        places = {n: model.choice() for n, one in enumerate(self.choices) if one.groups}
        by_transfer: dict[str, dict[int, float]] = {one.id: {} for one in self.day.transfers}
        for n, place in places.items():
            for key in self.choices[n].transfers:
                by_transfer[key][place] = 1.0
        decided = {key for lock in self.day.locked for key in lock.transfers}
        for key, terms in by_transfer.items():
            if terms or key in decided:
                model.row(terms, least=1.0 if key in decided else -math.inf, most=1.0)
        hours = Hours(self.day, model, {n: self.choices[n] for n in places}, places)
        hours.hold()
        if self.cuts:
            # hours were in the way: where in the day a trip lies counts from now on
            hours.hold_at_every_time()
        for cut in self.cuts:
            hours.strike(cut)
        for plan in self.unlike:
            pairs = set(plan)
            terms = {
                place: 1.0
                for n, place in places.items()
                if (self.choices[n].outfit.id, self.choices[n].transfers) in pairs
            }
            model.row(terms, most=len(pairs) - 1.0)
        for cost, bound in limits:
            terms = {place: cost(self.choices[n]) for n, place in places.items()}
            model.row(terms, most=bound + 1e-6)
        return model, places

    # why something is left

    def _left_out(self, best: _Found) -> tuple[tuple[str, Why], ...]:
        taken = {key for choice in best.choices for key in choice.transfers}
        return tuple((one.id, self._why(one)) for one in self.day.transfers if one.id not in taken)

    def _why(self, one: Transfer) -> Why:
        if self.impossible or any(one.id in lock.transfers for lock in self.day.locked):
            return Why.LOCKED
        home = self.day.home
        ways = ((home, one.origin), (one.origin, one.goal), (one.goal, home))
        if any(self.day.metres(*way) is None for way in ways):
            return Why.NO_WAY
        holding = [
            outfit.id
            for outfit in self.day.outfits
            if (one.outfits is None or outfit.id in one.outfits)
            and self._hope(outfit.id, (one.id,)) is not None
            and (self.out_of_time or self._reserve(outfit.id, (one.id,), ()) is not None)
        ]
        if not holding:
            return Why.NO_OUTFIT
        if not any(driver.may(outfit) for driver in self.day.drivers for outfit in holding):
            return Why.NO_DRIVER
        alone = [c for c in self.choices if c.transfers == {one.id} and c.groups]
        if not any(self.roster.turns([choice.wanted]) for choice in alone):
            return Why.NO_TIME
        return Why.FULL


def _least(found: _Found) -> float:
    return min((choice.reserve for choice in found.choices), default=MOST_RESERVE)
