"""Trips in words, and the charts of an outfit's."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from measures import UnitSystem
from measures.writing import write_given, write_percent
from pictures.scatter import Dot, Scatter, scatter
from road.models import Trip
from road.trips import Outfit, by_outfit, complaints_of, economy, economy_words, mass_words, unhappy
from wording.phrases import NOBODY

FEWEST: int = 2
"""Dots from which a chart says anything."""


@dataclass(frozen=True, kw_only=True, slots=True)
class TripLine:
    """A trip in a list, all of it in words."""

    pk: int
    day: date
    outfit: str
    loads: str
    carried: str
    figures: str
    drove: str
    complaints: str
    note: str
    by: str


@dataclass(frozen=True, kw_only=True)
class OutfitTrips:
    """An outfit's trips: what they say together, drawn."""

    it: Outfit
    count: str
    fuel: Scatter | None
    handling: Scatter | None


@dataclass(frozen=True, kw_only=True)
class LogPage:
    """The road log: outfits with their charts, then every trip."""

    outfits: list[OutfitTrips]
    trips: list[TripLine]


def trip_line(trip: Trip, unit: UnitSystem) -> TripLine:
    """A trip in words."""
    figures = [write_given(trip.distance, unit)]
    if trip.fuel is not None:
        figures.append(write_given(trip.fuel, unit))
        if trip.fuel.value > 0 and trip.distance.value > 0:
            figures.append(economy_words(float(trip.distance.si), float(trip.fuel.si), unit))
    if trip.speed is not None:
        figures.append(f"{write_given(trip.speed, unit)} kept")
    if trip.share is not None:
        figures.append(f"{write_percent(trip.share)} on the tongue")
    return TripLine(
        pk=trip.pk,
        day=trip.driven_on,
        outfit=trip.outfit,
        loads=trip.loads,
        carried=Trip.Carried(trip.carried).label,
        figures=", ".join(figures),
        drove="" if trip.drove is None else Trip.Drove(trip.drove).label,
        complaints=", ".join(complaints_of(trip)),
        note=trip.note,
        by=trip.by.shown_name if trip.by else NOBODY,
    )


def log_page(trips: Sequence[Trip], unit: UnitSystem) -> LogPage:
    """The road log of trips, the newest first."""
    return LogPage(
        outfits=[
            OutfitTrips(
                it=one,
                count=f"{len(one.trips)} trip{'' if len(one.trips) == 1 else 's'}",
                fuel=_fuel(one.trips, unit),
                handling=_handling(one.trips, unit),
            )
            for one in by_outfit(trips, unit)
        ],
        trips=[trip_line(trip, unit) for trip in trips],
    )


def _fuel(trips: Sequence[Trip], unit: UnitSystem) -> Scatter | None:
    """Fuel against what truck and trailer weighed."""
    dots = [
        Dot(
            x=trip.mass_kg / unit.kg,
            y=economy(float(trip.distance.si), float(trip.fuel.si), unit),
            odd=trip.carried == Trip.Carried.EMPTY,
            words=f"{trip.driven_on:%d %b %Y}, {trip.carried}: {mass_words(trip, unit)}, "
            f"{economy_words(float(trip.distance.si), float(trip.fuel.si), unit)}",
        )
        for trip in trips
        if trip.mass_kg is not None
        and trip.fuel is not None
        and trip.fuel.value > 0
        and trip.distance.value > 0
    ]
    name = "mpg" if unit is UnitSystem.US else "L/100 km"
    return (
        scatter(dots, x_name=f"truck and trailer, {unit.mass_unit}", y_name=name)
        if len(dots) >= FEWEST
        else None
    )


def _handling(trips: Sequence[Trip], unit: UnitSystem) -> Scatter | None:
    """How it drove, in marks, against the tongue's share."""
    dots = [
        Dot(
            x=100 * trip.share,
            y=float(trip.drove),
            odd=unhappy(trip),
            words=f"{trip.driven_on:%d %b %Y}: {write_percent(trip.share)} on the tongue, "
            f"{Trip.Drove(trip.drove).label}{', ' if complaints_of(trip) else ''}"
            f"{', '.join(complaints_of(trip))}",
        )
        for trip in trips
        if trip.share is not None and trip.drove is not None
    ]
    return (
        scatter(dots, x_name="tongue share, %", y_name="how it drove, 1 to 5", y_range=(1, 5))
        if len(dots) >= FEWEST
        else None
    )
