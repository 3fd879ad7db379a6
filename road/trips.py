"""Keeping trips, and what they say together: fuel against mass, handling against tongue share."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Final

from django.db import transaction

from hauls.models import Haul
from measures import UnitSystem
from measures.quantity import DISTANCE_UNITS, VOLUME_UNITS
from measures.writing import write_mass, write_number, write_percent
from mechanics.loads import compute_loads
from planfile.draft import glance
from planfile.errors import PlanFileError
from road.forms import TripForm
from road.models import Trip
from yards.models import User, Yard

ENOUGH: Final = 3
"""Trips from which something is said of several."""


def economy(metres: float, cubic_metres: float, unit: UnitSystem) -> float:
    """Miles a gallon, or litres a hundred kilometres.

    Raises:
        ValueError: no way, or no fuel.
    """
    if not metres > 0 or not cubic_metres > 0:
        raise ValueError("a way and fuel greater than zero")
    if unit is UnitSystem.METRIC:
        return cubic_metres * 1000 / (metres / 100_000)
    return metres / float(DISTANCE_UNITS["mi"]) / (cubic_metres / float(VOLUME_UNITS["gal"]))


def economy_words(metres: float, cubic_metres: float, unit: UnitSystem) -> str:
    """The same with its unit."""
    name = "mpg" if unit is UnitSystem.US else "L/100 km"
    return f"{write_number(economy(metres, cubic_metres, unit), 1)} {name}"


@transaction.atomic
def keep_trip(haul: Haul, form: TripForm, *, user: User, at: datetime) -> Trip:
    """Keep a trip of a haul, with what it weighed and the share by its plan as it is now. The form
    has been found right."""
    trip: Trip = form.save(commit=False)
    names = glance(haul.document)
    trip.yard, trip.haul, trip.by, trip.at = haul.yard, haul, user, at
    trip.truck, trip.trailer = haul.truck, haul.trailer
    trip.outfit = f"{names.truck}, {names.trailer}"[:250]
    loaded = trip.carried == Trip.Carried.LOADED
    trip.loads = (", ".join(names.items) if loaded else "")[:300]
    trip.mass_kg, trip.share = _weighed(haul, loaded=loaded)
    trip.save()
    return trip


def _weighed(haul: Haul, *, loaded: bool) -> tuple[float | None, float | None]:
    """What truck and trailer weigh by the plan, and the tongue's share; driven empty, without what
    stands on the deck and without a share."""
    try:
        plan = haul.draft.plan
    except PlanFileError:
        return None, None
    loads = compute_loads(plan)
    if loaded:
        return loads.combination_kg, loads.trailer.share
    return loads.combination_kg - math.fsum(item.mass_kg for item in plan.items), None


@dataclass(frozen=True, kw_only=True, slots=True)
class Outfit:
    """What an outfit's trips say together."""

    name: str
    trips: Sequence[Trip]
    loaded: str
    empty: str
    said: str


def complaints_of(trip: Trip) -> list[str]:
    """What was wrong on a trip, in words."""
    fields = {name: str(Trip._meta.get_field(name).verbose_name) for name in Trip.COMPLAINTS}  # type: ignore[union-attr]
    return [words for name, words in fields.items() if getattr(trip, name)]


def unhappy(trip: Trip) -> bool:
    """Whether it swayed, or drove so that somebody would rather not do it again."""
    return trip.swayed or (trip.drove is not None and trip.drove <= Trip.Drove.POOR)


def by_outfit(trips: Iterable[Trip], unit: UnitSystem) -> list[Outfit]:
    """Trips of each truck and trailer, those with the most first."""
    found: dict[str, list[Trip]] = defaultdict(list)
    for trip in trips:
        found[trip.outfit].append(trip)
    made = [
        Outfit(
            name=name,
            trips=own,
            loaded=_together(own, Trip.Carried.LOADED, unit),
            empty=_together(own, Trip.Carried.EMPTY, unit),
            said=share_says(own, unit),
        )
        for name, own in found.items()
    ]
    return sorted(made, key=lambda one: (-len(one.trips), one.name))


def _together(trips: Sequence[Trip], carried: Trip.Carried, unit: UnitSystem) -> str:
    """Fuel of all trips that say it, over all their way: not the mean of their means."""
    told = [t for t in trips if t.carried == carried and t.fuel is not None and t.fuel.value > 0]
    if not told:
        return ""
    way = sum(float(t.distance.si) for t in told)
    fuel = sum(float(t.fuel.si) for t in told if t.fuel is not None)
    return economy_words(way, fuel, unit) if way > 0 else ""


def share_says(trips: Sequence[Trip], unit: UnitSystem) -> str:
    """Whether complaints about how it drove go with a low share; empty where that cannot be said.

    Said from three loaded trips with a known share and a complaint among them: complaints are held
    against the middle of the shares of all, and of those without.
    """
    known = [t for t in trips if t.share is not None]
    bad, good = [t for t in known if unhappy(t)], [t for t in known if not unhappy(t)]
    if len(known) < ENOUGH or not bad or not good:
        return ""
    low = [float(t.share or 0) for t in bad]
    rest = [float(t.share or 0) for t in good]
    if max(low) < min(rest):
        return (
            f"Every complaint was at {write_percent(max(low))} on the tongue or less, every good "
            f"trip at {write_percent(min(rest))} or more. More on the tongue is worth trying first."
        )
    if _mean(low) + 0.005 < _mean(rest):
        return (
            f"Complaints go with a low share: {write_percent(_mean(low))} on the tongue on "
            f"average, {write_percent(_mean(rest))} without a complaint."
        )
    return (
        "Complaints do not go with a low share here: "
        f"{write_percent(_mean(low))} on the tongue on average, {write_percent(_mean(rest))} "
        "without. Look at speed, tires and how the load lies."
    )


def _mean(values: Sequence[float]) -> float:
    return math.fsum(values) / len(values)


def mass_words(trip: Trip, unit: UnitSystem) -> str:
    """What truck and trailer weighed; empty where nobody knows."""
    return "" if trip.mass_kg is None else write_mass(trip.mass_kg, unit)


def trips_of(yard: Yard) -> list[Trip]:
    """Trips of a yard, the newest first."""
    return list(Trip.objects.filter(yard=yard).select_related("by", "haul")[:1000])
