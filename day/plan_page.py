"""A day's plan in words and pictures."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Final

from django.utils.formats import date_format

from book.models import Hitch, Place, Trailer
from day.asking import Asked, clock
from day.forms import minutes_words
from day.proposing import Found, KeptPlan, KeptTrip, Ride
from hauls.climbs import Climb, climb_of
from hauls.grounds import grounded
from hauls.pairs import pairs_of
from hauls.rides import outfit_key
from measures import UnitSystem
from measures.writing import write_in, write_percent
from mechanics.dispatch import Why
from mechanics.report import evaluate
from pictures.drawing import Drawing, plain_picture
from planfile.climbing import Place as End
from wording.phrases import listed, names_of
from wording.sentences import summary
from wording.statuses import Verdict, verdict_of
from yards.models import Yard

WHY: Final = {
    Why.NO_WAY: "How far it is to one of its places is not known. Type it at the place in the "
    "book.",
    Why.NO_OUTFIT: "No truck and trailer at hand holds it, even alone.",
    Why.NO_DRIVER: "Nobody who drives that day may drive an outfit that holds it.",
    Why.NO_TIME: "There is no time for it between the hours that were given, even by itself.",
    Why.FULL: "There is time for it by itself, but not beside the others.",
    Why.LOCKED: "What was kept cannot be kept together. Untick one of the trips.",
}
"""Why something stays."""

GONE: Final = "not in the book any more"


@dataclass(frozen=True, kw_only=True)
class RideLine:
    """One haul of a trip: from where to where with what, its verdict, how it gets on where it is
    loaded, its picture."""

    way: str
    aboard: str
    verdict: Verdict
    line: str
    climb: Climb
    picture: Drawing


@dataclass(frozen=True, kw_only=True)
class TripLine:
    """One trip: its outfit and driver, its hours, its stops in words, how long it is."""

    number: int
    outfit: str
    driver: str
    hours: str
    length: str
    empty: str
    stops: tuple[str, ...]
    rides: tuple[RideLine, ...]
    kept: bool


@dataclass(frozen=True, kw_only=True)
class LeftLine:
    """Something that stays, and why; ``ask`` is what to ask for at Match, where no outfit holds
    it."""

    name: str
    why: str
    ask: str


@dataclass(frozen=True, kw_only=True)
class PlanLine:
    """One plan: how it is told in short, what is proved of it, its trips, what stays."""

    number: int
    title: str
    figures: str
    proof: str
    trips: tuple[TripLine, ...]
    left: tuple[LeftLine, ...]


def plan_lines(
    found: Found, asked: Asked, names: Sequence[str], yard: Yard, units: UnitSystem
) -> tuple[PlanLine, ...]:
    """The plans found, the best first. ``names`` are of what was wanted, in its order."""
    told = _Told(asked, names, yard, units)
    return tuple(told.plan(n, plan) for n, plan in enumerate(found.plans))


class _Told:
    def __init__(self, asked: Asked, names: Sequence[str], yard: Yard, units: UnitSystem) -> None:
        self.asked, self.names, self.units = asked, names, units
        self.there = {place.pk: place for place in Place.objects.filter(yard=yard)}
        self.places: Mapping[int, str] = {pk: place.name for pk, place in self.there.items()}
        self.outfits: Mapping[str, tuple[Hitch, Trailer]] = {
            outfit_key(hitch, trailer): (hitch, trailer) for hitch, trailer in pairs_of(yard)
        }
        self.people = {user.pk: user.shown_name for user in yard.members.all()}

    def plan(self, number: int, plan: KeptPlan) -> PlanLine:
        return PlanLine(
            number=number,
            title="The plan" if number == 0 else f"Another way, {number}",
            figures=self._figures(plan),
            proof=self._proof(plan) if number == 0 else "",
            trips=tuple(self._trip(n, trip) for n, trip in enumerate(plan.trips)),
            left=tuple(self._left(n, Why(why)) for n, why in plan.left),
        )

    def _far(self, metres: float) -> str:
        return write_in(metres, self.units.bare_unit("distance"))

    def _figures(self, plan: KeptPlan) -> str:
        count = len(plan.trips)
        trips = f"{count} trip{'' if count == 1 else 's'}" if count else "No trip"
        empty = self._far(plan.empty_metres)
        words = [trips, f"{self._far(plan.metres)} in all, {empty} of it empty"]
        if plan.reserve is not None:
            words.append(f"at least {write_percent(plan.reserve)} left of every rating")
        return ", ".join(words) if count else trips

    def _proof(self, plan: KeptPlan) -> str:
        """What is proved, or how much better it might be."""
        if plan.trips_proved and plan.way_proved and plan.reserve_proved:
            return (
                "Proved: nothing leaves fewer machines, or needs fewer trips; with as many nothing "
                "is shorter, and nothing as short leaves more."
            )
        if plan.trips_proved and plan.way_proved:
            return "Proved to need the fewest trips and the shortest way; others may leave more."
        if plan.trips_proved:
            shorter = self._far(max(plan.least_metres, 0.0))
            return (
                f"Proved to need the fewest trips. In the time given it is not known whether a "
                f"shorter way than {self._far(plan.metres)} will do; none is below {shorter}."
            )
        least = f"at least {plan.least_trips} trips" if plan.least_trips else "some trips"
        stay = f", and {plan.least_left} at least would stay" if plan.least_left else ""
        return f"Not proved in the time given: any plan needs {least}{stay}. There may be better."

    def _trip(self, number: int, trip: KeptTrip) -> TripLine:
        pair = self.outfits.get(trip.outfit)
        outfit = GONE if pair is None else f"{pair[0].truck.name}, {pair[1].name}"
        return TripLine(
            number=number,
            outfit=outfit,
            driver=self.people.get(trip.driver, GONE),
            hours=f"{clock(trip.starts)} to {clock(trip.ends)}",
            length=f"{self._far(trip.metres)}, {minutes_words(trip.ends - trip.starts)}",
            empty=self._far(trip.empty_metres) if trip.empty_metres > 0 else "",
            stops=tuple(self._stops(trip)),
            rides=tuple(self._ride(ride) for ride in trip.rides),
            kept=any(
                tuple(sorted(kept.wanted)) == trip.wanted and kept.outfit == trip.outfit
                for kept in self.asked.kept
            ),
        )

    def _stops(self, trip: KeptTrip) -> Iterator[str]:
        for call in trip.calls:
            does = []
            if call.off:
                does.append(f"{self._named(call.off)} off")
            if call.on:
                does.append(f"load {self._named(call.on)}")
            yield f"{clock(call.at)} {self.places.get(call.place, GONE)}: {', then '.join(does)}"

    def _named(self, numbers: Sequence[int]) -> str:
        return listed([self.names[n] for n in numbers])

    def _ride(self, ride: Ride) -> RideLine:
        draft = ride.draft
        report = evaluate(draft.plan)
        ends = (self.places.get(key, GONE) for key in (ride.origin, ride.goal))
        return RideLine(
            way=" to ".join(ends),
            aboard=self._named(ride.aboard),
            verdict=verdict_of(report),
            line=summary(report, names_of(draft.plan), self.units),
            climb=climb_of(grounded(draft, self.there.get(ride.origin), End.LOADING)),
            picture=plain_picture(draft.plan, draft.drawn, draft.look, self.units),
        )

    def _left(self, number: int, why: Why) -> LeftLine:
        ask = self.asked.wanted[number].load if why is Why.NO_OUTFIT else ""
        return LeftLine(name=self.names[number], why=WHY[why], ask=ask)


def day_words(asked: Asked) -> str:
    """``Saturday 28 November``."""
    return date_format(asked.day, "l j F")
