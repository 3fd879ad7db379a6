"""Places of the demo yard, and where its hauls go; all of it invented."""

from __future__ import annotations

from datetime import date, time, timedelta
from typing import Any, Final

from book.models import Machine, Place, PlaceWay
from day.models import DriverTerms, Stay
from measures import Quantity
from yards.models import Yard

HOME: Final = "Fernbeck yard"

PLACES: Final[list[dict[str, Any]]] = [
    {"name": HOME, "home": True, "surface": "gravel"},
    {"name": "Quarry Lane block", "miles": 7, "surface": "grass_wet"},
    {"name": "Stony Bank culvert", "miles": 11, "surface": "gravel", "slope": 4},
    {"name": "Low Fields", "miles": 5, "surface": "grass_dry", "slope": 2},
    {"name": "Mill Ponds", "miles": 14, "surface": "concrete_dry"},
    {"name": "Upper Fern", "miles": 19},
    {"name": "Long Drain", "miles": 9, "surface": "grass_wet"},
    # nobody has driven there with the odometer in sight
    {"name": "Spring chamber"},
]

WAYS: Final = (
    ("Quarry Lane block", "Stony Bank culvert", "6 mi"),
    ("Stony Bank culvert", "Mill Ponds", "9 mi"),
)
"""Ways between places that somebody has driven."""

STAYS: Final[list[dict[str, Any]]] = [
    {
        "machine": "Kestrel T6 compact loader",
        "place": "Mill Ponds",
        "in": 2,
        "at": time(10),
        "until": 4,
        "note": "To clean out the inlet",
    },
    {"machine": "Burrow 17 excavator", "place": "Quarry Lane block", "in": 2, "until": 6},
    {"machine": "Harrow 60 backhoe tractor", "place": "Long Drain", "in": 3, "at": time(9, 30)},
]
"""Where machines have to be: in how many days, by when, and until which day."""

TERMS: Final[dict[str, dict[str, Any]]] = {
    "demo-driver": {"starts": time(7), "ends": time(16), "most_trailer": "16000 lb"},
    "demo-planner": {"starts": time(8), "ends": time(17), "most_together": "26000 lb"},
    "demo": {"drives": False},
}
"""When people drive, and what they may."""

JOBS: Final[dict[str, dict[str, Any]]] = {
    # one truck for two hauls at once: the board says so
    "Orchard tractor to the Quarry Lane block": {
        "starts": time(9), "takes_minutes": 120, "from": HOME, "to": "Quarry Lane block",
        "purpose": "To mow between the rows",
    },
    "Compact loader to the Stony Bank culvert": {
        "starts": time(9, 30), "takes_minutes": 150, "from": HOME, "to": "Stony Bank culvert",
        "purpose": "To clear the inlet",
    },
    "Excavator home from Low Fields": {
        "starts": time(13), "takes_minutes": 90, "from": "Low Fields", "to": HOME,
    },
    "Orchard tractor back from Mill Ponds": {
        "starts": time(8), "takes_minutes": 120, "from": "Mill Ponds", "to": HOME,
    },
    "Big tractor to Upper Fern on the gooseneck": {
        "starts": time(10), "from": HOME, "to": "Upper Fern",
    },
    "Plough and pipe to the spring chamber": {"from": HOME, "to": "Spring chamber"},
    "Drain crew to the Long Drain": {"from": HOME, "to": "Long Drain"},
}  # fmt: skip


def make_places(yard: Yard) -> dict[str, Place]:
    """The places, by their names."""
    found = {}
    for entry in PLACES:
        miles = entry.get("miles")
        found[entry["name"]] = Place.objects.create(
            yard=yard,
            name=entry["name"],
            home=entry.get("home", False),
            from_yard=None if miles is None else Quantity.parse(f"{miles} mi"),
            surface=entry.get("surface", ""),
            slope=entry.get("slope"),
        )
    for one, other, far in WAYS:
        PlaceWay.objects.create(place=found[one], name=other, distance=Quantity.parse(far))
    return found


def make_stays(yard: Yard, today: date, places: dict[str, Place]) -> None:
    """Where machines have to be, and who drives what."""
    for entry in STAYS:
        until = entry.get("until")
        Stay.objects.create(
            yard=yard,
            machine=Machine.objects.get(yard=yard, name=entry["machine"]),
            place=places[entry["place"]],
            since=today + timedelta(days=entry["in"]),
            since_time=entry.get("at"),
            until=None if until is None else today + timedelta(days=until),
            note=entry.get("note", ""),
        )
    for login, said in TERMS.items():
        known = {
            name: Quantity.parse(value) if name.startswith("most") else value
            for name, value in said.items()
        }
        DriverTerms.objects.create(yard=yard, user=yard.members.get(username=login), **known)


def job_said(name: str, places: dict[str, Place]) -> dict[str, Any]:
    """What is said of a haul beside its day and driver."""
    said = dict(JOBS.get(name, {}))
    ends = {"from": "fetched_from", "to": "taken_to"}
    for short, field in ends.items():
        if short in said:
            said[field] = places[said.pop(short)]
    return said
