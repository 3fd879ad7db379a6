"""Ways to drive a trip: in which order machines are fetched and brought."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from mechanics.dispatch.day import Day, Transfer

Pairs = tuple[tuple[str, str], ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Stop:
    """A place on the way: what comes off there and then what is loaded; ``after_min`` is when
    the outfit gets there and ``leaves_min`` when it goes on, both from when it left home."""

    place: str
    off: tuple[str, ...]
    on: tuple[str, ...]
    after_min: int
    leaves_min: int


@dataclass(frozen=True, kw_only=True, slots=True)
class Leg:
    """From one stop to the next with what is aboard.

    In each pair of ``comes_off`` the first machine must be free to leave before the second: it
    is brought earlier, or was loaded later.
    """

    origin: str
    goal: str
    aboard: tuple[str, ...]
    comes_off: Pairs


@dataclass(frozen=True, kw_only=True, slots=True)
class Route:
    """One way to drive a trip, from home and back."""

    stops: tuple[Stop, ...]
    legs: tuple[Leg, ...]
    metres: float
    minutes: int
    earliest: int
    """Before this it cannot leave home: something would not be ready."""
    latest: int
    """After this it cannot leave home: something would be late."""

    @property
    def loaded(self) -> tuple[Leg, ...]:
        """Its legs with something aboard."""
        return tuple(leg for leg in self.legs if leg.aboard)


@dataclass(frozen=True, slots=True)
class _Visit:
    place: str
    off: tuple[int, ...]
    on: tuple[int, ...]


def routes(day: Day, trip: Sequence[Transfer]) -> list[Route]:
    """Every order in which these machines can be fetched and brought, the shortest first; empty
    where a way is not known.

    What is at a place anyway comes off before anything is loaded there. No place is called at
    without something to do.
    """
    found = [_route(day, trip, visits) for visits in _orders(trip, day.home)]
    return sorted((one for one in found if one is not None), key=lambda one: one.metres)


def _orders(trip: Sequence[Transfer], home: str) -> Iterator[list[_Visit]]:
    """Orders of calling at places, by depth first: 0 is not fetched yet, 1 aboard, 2 brought.

    Whoever is at home again has ended the trip.
    """

    def go(state: tuple[int, ...], visits: list[_Visit]) -> Iterator[list[_Visit]]:
        if all(one == 2 for one in state):
            yield visits
            return
        here = visits[-1].place if visits else None
        aboard = [n for n, one in enumerate(state) if one == 1]
        waiting = [n for n, one in enumerate(state) if one == 0]
        places = {trip[n].goal for n in aboard} | {trip[n].origin for n in waiting}
        for place in sorted(places):
            # what could be done here was done or left when the outfit came
            if place == here:
                continue
            may_off = [n for n in aboard if trip[n].goal == place]
            may_on = [n for n in waiting if trip[n].origin == place]
            # who drives past a machine's goal with it aboard takes it off
            for on in _some(may_on):
                if not may_off and not on:
                    continue
                after = tuple(
                    2 if n in may_off else 1 if n in on else one for n, one in enumerate(state)
                )
                if place == home and visits and any(one != 2 for one in after):
                    continue
                yield from go(after, [*visits, _Visit(place, tuple(may_off), on)])

    yield from go((0,) * len(trip), [])


def _some(these: Sequence[int]) -> Iterator[tuple[int, ...]]:
    """Every part of it, the whole of it first."""
    for bits in range(2 ** len(these) - 1, -1, -1):
        yield tuple(n for place, n in enumerate(these) if bits >> place & 1)


def _route(day: Day, trip: Sequence[Transfer], visits: Sequence[_Visit]) -> Route | None:
    here, clock, metres = day.home, 0.0, 0.0
    loaded_at: dict[int, int] = {}
    brought_at = {n: at for at, visit in enumerate(visits) for n in visit.off}
    stops, legs = [], []
    earliest, latest = 0, 10**6
    for at, visit in enumerate(visits):
        far = day.metres(here, visit.place)
        if far is None:
            return None
        if here != visit.place:
            legs.append(_leg(trip, here, visit.place, loaded_at, brought_at, at))
        metres += far
        clock += far / day.speed
        reached = clock
        # which comes off first is for whoever stands there: all are there when the last is off,
        # and all have to be ready when the first is loaded
        clock += sum(trip[n].off_min for n in visit.off)
        for n in visit.off:
            latest = min(latest, trip[n].due - math.ceil(clock - 1e-9))
        for n in visit.on:
            earliest = max(earliest, trip[n].earliest - math.floor(clock + 1e-9))
            loaded_at[n] = at
        clock += sum(trip[n].on_min for n in visit.on)
        stops.append(
            Stop(
                place=visit.place,
                off=tuple(trip[n].id for n in visit.off),
                on=tuple(trip[n].id for n in visit.on),
                after_min=math.ceil(reached - 1e-9),
                leaves_min=math.ceil(clock - 1e-9),
            )
        )
        here = visit.place
    back = day.metres(here, day.home)
    if back is None:
        return None
    if here != day.home:
        legs.append(Leg(origin=here, goal=day.home, aboard=(), comes_off=()))
    return Route(
        stops=tuple(stops),
        legs=tuple(legs),
        metres=metres + back,
        minutes=math.ceil(clock + back / day.speed - 1e-9),
        earliest=earliest,
        latest=latest,
    )


def _leg(
    trip: Sequence[Transfer],
    origin: str,
    goal: str,
    loaded_at: dict[int, int],
    brought_at: dict[int, int],
    at: int,
) -> Leg:
    aboard = [n for n in loaded_at if brought_at[n] >= at]
    pairs = [
        (trip[one].id, trip[other].id)
        for one in aboard
        for other in aboard
        if one != other
        and (brought_at[one] < brought_at[other] or loaded_at[one] > loaded_at[other])
    ]
    return Leg(
        origin=origin,
        goal=goal,
        aboard=tuple(sorted(trip[n].id for n in aboard)),
        comes_off=tuple(sorted(pairs)),
    )
