"""A day's plan worked out: what is asked, brought to the core, and what it found kept."""

from __future__ import annotations

import time as clock_time
from collections.abc import Callable, Iterator, Mapping
from dataclasses import asdict, dataclass
from typing import Any, Final

from django.core.exceptions import ObjectDoesNotExist

from book.figures import si
from book.models import Hitch, Place, Trailer
from book.ways import way_between
from day.asking import Asked
from day.clashes import USUAL_MINUTES
from day.held import held_up
from day.models import DriverTerms
from hauls.loads import Load, read_load
from hauls.models import TO_DO, Haul
from hauls.pairs import pairs_of
from hauls.rides import Riding, outfit_key
from longwork.running import GivenUpError, Progress, no_progress
from measures import UnitSystem
from mechanics.dispatch import (
    Busy,
    Day,
    Driver,
    Locked,
    Outfit,
    Proposal,
    Transfer,
    Trip,
    propose,
)
from mechanics.dispatch.day import WHOLE_DAY
from planfile.draft import Draft
from yards.models import User, Yard

SECONDS: Final = 25.0
"""Time for the search of the best plan."""

OTHERS: Final = 2
OTHERS_S: Final = 5.0
"""Other plans that are shown beside the best, and time for finding them."""

MOST_OUTFITS: Final = 40
"""Pairs of hitch and trailer that a plan chooses from; a yard has a dozen."""


class NoLoadError(GivenUpError):
    """Something that was asked for is not in the book any more; the message says so."""


@dataclass(frozen=True, kw_only=True)
class Ground:
    """All of the yard that a day's plan stands on. ``notes`` say what was left aside, and why."""

    day: Day
    riding: Riding
    notes: tuple[str, ...]


def ground(yard: Yard, asked: Asked, units: UnitSystem) -> Ground:
    """The yard's outfits, drivers, places and hauls of a day as the core reads them.

    Raises:
        NoLoadError: a load or place is not in the book any more.
    """
    notes: list[str] = []
    outfits = dict(_outfits(yard, asked, units, notes))
    places = {place.pk: place for place in Place.objects.filter(yard=yard).prefetch_related("ways")}
    loads: dict[str, Load] = {}
    for number, one in enumerate(asked.wanted):
        try:
            loads[str(number)] = read_load(one.load, yard)
            places[one.origin], places[one.goal]
        except (ObjectDoesNotExist, KeyError, ValueError) as error:
            raise NoLoadError(
                "Something that was to be hauled, or its place, is not in the book any more. "
                "Ask for the plan anew."
            ) from error
    home = next((place for place in places.values() if place.home), None)
    day = Day(
        home="" if home is None else str(home.pk),
        transfers=tuple(
            Transfer(
                id=str(number),
                origin=str(one.origin),
                goal=str(one.goal),
                earliest=one.earliest or 0,
                due=WHOLE_DAY if one.due is None else one.due,
                on_min=asked.on_minutes,
                off_min=asked.off_minutes,
                outfits=frozenset({one.outfit}) if one.outfit else None,
            )
            for number, one in enumerate(asked.wanted)
        ),
        outfits=tuple(
            Outfit(id=key, truck=f"truck {hitch.truck_id}", trailer=f"trailer {trailer.pk}")
            for key, (hitch, trailer) in outfits.items()
        ),
        drivers=tuple(_drivers(yard, asked, outfits, notes)),
        ways=dict(_ways(places, asked, home)),
        speed=asked.speed,
        busy=tuple(_busy(yard, asked, notes)),
        locked=tuple(
            Locked(
                transfers=frozenset(str(n) for n in kept.wanted),
                outfit=kept.outfit,
                driver=None if kept.driver is None else str(kept.driver),
            )
            for kept in asked.kept
        ),
    )
    riding = Riding(outfits, loads, units, unknown_too=asked.unknown_too)
    return Ground(day=day, riding=riding, notes=tuple(dict.fromkeys(notes)))


def _outfits(
    yard: Yard, asked: Asked, units: UnitSystem, notes: list[str]
) -> Iterator[tuple[str, tuple[Hitch, Trailer]]]:
    """What can be coupled and is not held up; what an outfit must be named for comes anyway."""
    held = held_up(yard, asked.day, units)
    pairs = pairs_of(yard)
    if len(pairs) > MOST_OUTFITS:
        notes.append(f"Only the first {MOST_OUTFITS} pairs of truck and trailer were looked at.")
    for hitch, trailer in pairs[:MOST_OUTFITS]:
        reasons = [
            f"{thing.name}: {words}. It is left out."
            for thing in (hitch.truck, trailer)
            for words in held.get((type(thing), thing.pk), ())[:1]
        ]
        notes += reasons
        if not reasons:
            yield outfit_key(hitch, trailer), (hitch, trailer)


def _drivers(
    yard: Yard, asked: Asked, outfits: Mapping[str, tuple[Hitch, Trailer]], notes: list[str]
) -> Iterator[Driver]:
    terms = {one.user_id: one for one in DriverTerms.objects.filter(yard=yard)}
    people = {user.pk: user for user in yard.members.all()}
    for one in asked.driving:
        user = people.get(one.user)
        if user is None:
            continue
        said = terms.get(user.pk)
        if said is None or (said.most_trailer is None and said.most_together is None):
            notes.append(f"What {user.shown_name} may drive is not said: nothing was left out.")
        yield Driver(
            id=str(user.pk),
            starts=one.starts,
            ends=one.ends,
            outfits=frozenset(
                key for key, pair in outfits.items() if said is None or may_drive(said, *pair)
            ),
        )


def may_drive(terms: DriverTerms, hitch: Hitch, trailer: Trailer) -> bool:
    """Whether an outfit is within what somebody may drive, by the ratings on its plates; one whose
    plate is not known is not, where there is a limit."""
    behind, ahead = trailer.gvwr, hitch.truck.gvwr
    if terms.most_trailer is not None and (behind is None or si(behind) > si(terms.most_trailer)):
        return False
    if terms.most_together is None:
        return True
    if behind is None or ahead is None:
        return False
    return si(behind) + si(ahead) <= si(terms.most_together)


def _ways(
    places: Mapping[int, Place], asked: Asked, home: Place | None
) -> Iterator[tuple[tuple[str, str], float]]:
    """Metres between the places of the day; an estimate counts with the most it may be."""
    wanted = {key for one in asked.wanted for key in (one.origin, one.goal)}
    if home is not None:
        wanted.add(home.pk)
    for one in sorted(wanted):
        for other in sorted(wanted):
            way = None if one == other else way_between(places[one], places[other])
            if way is not None:
                yield (str(one), str(other)), way.length.most


def _busy(yard: Yard, asked: Asked, notes: list[str]) -> Iterator[Busy]:
    """What hauls of that day need already."""
    there = Haul.objects.filter(yard=yard, day=asked.day, archived=False, state__in=TO_DO)
    for haul in there:
        if haul.starts is None:
            notes.append(
                f"“{haul.name}” of that day has no hour: its truck, trailer and driver were taken "
                "to be free."
            )
            continue
        starts = haul.starts.hour * 60 + haul.starts.minute
        minutes = USUAL_MINUTES if haul.takes_minutes is None else haul.takes_minutes
        whos = (
            f"truck {haul.truck_id}" if haul.truck_id else "",
            f"trailer {haul.trailer_id}" if haul.trailer_id else "",
            str(haul.driver_id) if haul.driver_id else "",
        )
        for who in whos:
            if who:
                yield Busy(who=who, starts=starts, ends=starts + minutes)


# ── what is kept of it ───────────────────────────────────────────────────────────────────────


@dataclass(frozen=True, kw_only=True)
class Ride:
    """A leg with something aboard: a haul to be. ``starts`` and ``ends`` are minutes since
    midnight, from where the outfit stands to load until it may go on after the last is off."""

    origin: int
    goal: int
    aboard: tuple[int, ...]
    starts: int
    ends: int
    document: dict[str, Any]

    @property
    def draft(self) -> Draft:
        """How the loads stand."""
        return Draft.read(self.document)


@dataclass(frozen=True, kw_only=True)
class Call:
    """A place where a trip calls: when, what comes off, what is loaded."""

    place: int
    at: int
    off: tuple[int, ...]
    on: tuple[int, ...]


@dataclass(frozen=True, kw_only=True)
class KeptTrip:
    """A trip as it is kept: who with what, when, where, how long and with how much left."""

    outfit: str
    driver: int
    wanted: tuple[int, ...]
    starts: int
    ends: int
    metres: float
    empty_metres: float
    reserve: float
    calls: tuple[Call, ...]
    rides: tuple[Ride, ...]


@dataclass(frozen=True, kw_only=True)
class KeptPlan:
    """A plan as it is kept; ``left`` are numbers of what stays and why."""

    trips: tuple[KeptTrip, ...]
    left: tuple[tuple[int, str], ...]
    least_left: int
    least_trips: int
    least_metres: float
    trips_proved: bool
    way_proved: bool
    reserve_proved: bool

    @property
    def metres(self) -> float:
        """All ways together."""
        return sum(trip.metres for trip in self.trips)

    @property
    def empty_metres(self) -> float:
        """Ways without anything aboard."""
        return sum(trip.empty_metres for trip in self.trips)

    @property
    def reserve(self) -> float | None:
        """The least that is left of any rating on any trip."""
        return min((trip.reserve for trip in self.trips), default=None)


@dataclass(frozen=True, kw_only=True)
class Found:
    """What was found for a day: the best plan first, then others."""

    plans: tuple[KeptPlan, ...]
    notes: tuple[str, ...]

    def json(self) -> dict[str, Any]:
        """As a JSON field holds it."""
        return asdict(self)

    @classmethod
    def read(cls, said: dict[str, Any]) -> Found:
        """What :meth:`json` gave."""
        return cls(
            plans=tuple(_read_plan(one) for one in said["plans"]), notes=tuple(said["notes"])
        )


def _read_plan(said: dict[str, Any]) -> KeptPlan:
    return KeptPlan(
        **{
            **said,
            "trips": tuple(_read_trip(one) for one in said["trips"]),
            "left": tuple((int(n), str(why)) for n, why in said["left"]),
        }
    )


def _read_trip(said: dict[str, Any]) -> KeptTrip:
    return KeptTrip(
        **{
            **said,
            "wanted": tuple(said["wanted"]),
            "calls": tuple(
                Call(**{**one, "off": tuple(one["off"]), "on": tuple(one["on"])})
                for one in said["calls"]
            ),
            "rides": tuple(
                Ride(**{**one, "aboard": tuple(one["aboard"])}) for one in said["rides"]
            ),
        }
    )


def find(
    yard: Yard,
    asked: Asked,
    units: UnitSystem,
    *,
    seconds: float = SECONDS,
    told: Progress = no_progress,
) -> Found:
    """Plans of a day, the best first.

    Raises:
        NoLoadError: something that was asked for is not in the book any more.
        SolverError: the solver failed.
    """
    base = ground(yard, asked, units)
    best = propose(base.day, base.riding, left=_left(seconds, told, 0))
    plans, unlike = [best], [_have(best)]
    for number in range(OTHERS if best.trips and best.trips_proved else 0):
        spare = _left(OTHERS_S, told, 1 + number)
        other = propose(base.day, base.riding, left=spare, unlike=unlike)
        if not other.trips or len(other.left) > len(best.left):
            break
        plans.append(other)
        unlike.append(_have(other))
    return Found(plans=tuple(_kept(base, one) for one in plans), notes=base.notes)


def _left(seconds: float, told: Progress, done: int) -> Callable[[], float]:
    """Seconds that are left of so many; whoever waits is told each time that it is asked."""
    until = clock_time.monotonic() + seconds

    def left() -> float:
        told(done, 1 + OTHERS)
        return until - clock_time.monotonic()

    return left


def _have(plan: Proposal) -> list[tuple[str, frozenset[str]]]:
    return [(trip.outfit, trip.transfers) for trip in plan.trips]


def _kept(base: Ground, plan: Proposal) -> KeptPlan:
    return KeptPlan(
        trips=tuple(_kept_trip(base, trip) for trip in plan.trips),
        left=tuple((int(key), why.value) for key, why in plan.left),
        least_left=plan.least_left,
        least_trips=plan.least_trips,
        least_metres=plan.least_metres,
        trips_proved=plan.trips_proved,
        way_proved=plan.way_proved,
        reserve_proved=plan.reserve_proved,
    )


def _kept_trip(base: Ground, trip: Trip) -> KeptTrip:
    route, starts = trip.route, trip.turn.starts
    calls = tuple(
        Call(
            place=int(stop.place),
            at=starts + stop.after_min,
            off=tuple(int(key) for key in stop.off),
            on=tuple(int(key) for key in stop.on),
        )
        for stop in route.stops
    )
    return KeptTrip(
        outfit=trip.outfit,
        driver=int(trip.turn.driver),
        wanted=tuple(sorted(int(key) for key in trip.transfers)),
        starts=starts,
        ends=trip.turn.ends,
        metres=route.metres,
        empty_metres=sum(
            base.day.metres(leg.origin, leg.goal) or 0.0 for leg in route.legs if not leg.aboard
        ),
        reserve=trip.reserve,
        calls=calls,
        rides=tuple(_rides(base, trip)),
    )


def _rides(base: Ground, trip: Trip) -> Iterator[Ride]:
    """The trip's hauls: each from when the outfit comes to load, or goes on, to when the next of
    them begins; the last until it is home."""
    stops, starts = trip.route.stops, trip.turn.starts
    # the first leg leads from home to the first stop, unless that is home
    before = 0 if stops[0].place == base.day.home else 1
    legs = [(n - before, leg) for n, leg in enumerate(trip.route.legs) if leg.aboard]
    begins = [starts if n == 0 else starts + stops[at].after_min for n, (at, _) in enumerate(legs)]
    for n, (_, leg) in enumerate(legs):
        draft = base.riding.draft(trip.outfit, leg.aboard, leg.comes_off)
        if draft is None:
            raise RuntimeError("a trip was proposed that was not found to hold")
        yield Ride(
            origin=int(leg.origin),
            goal=int(leg.goal),
            aboard=tuple(int(key) for key in leg.aboard),
            starts=begins[n],
            ends=begins[n + 1] if n + 1 < len(begins) else trip.turn.ends,
            document=draft.json(),
        )


def people_of(yard: Yard) -> dict[int, User]:
    """Who is there, by key."""
    return {user.pk: user for user in yard.members.order_by("username")}
