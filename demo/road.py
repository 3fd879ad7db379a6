"""Months on the road, all of it invented: trips, what was wrong, what is inspected, brake gain."""

from __future__ import annotations

from datetime import timedelta
from decimal import Decimal
from typing import Final

from django.utils import timezone

from book.models import Trailer, Truck
from hauls.models import Haul
from measures import Quantity
from mechanics.units import KG_PER_LB
from road.models import BrakeGain, Defect, Inspection, Looked, Trip
from yards.models import User, Yard

OUTFIT: Final = ("Work truck 3", "20 ft equipment trailer")
GOOSENECK: Final = ("Gooseneck truck", "25 ft gooseneck")

TRIPS: Final = (
    # outfit, days ago, load, miles, gallons, mph, weather, mark, complaints, lb, share, words
    (*(OUTFIT, 96, "Harrow 48 tractor with loader", 34, "3.2", 50, "dry", 4, ()), 15900, 0.118, ""),
    (OUTFIT, 96, "", 34, "2.4", 55, "dry", 5, (), 10700, None, ""),
    (
        *(OUTFIT, 81, "Kestrel T6 compact loader", 22, "2.3", 55, "dry", 2, ("swayed",)),
        *(17600, 0.091, "Swayed on the long descent; moved it up at the first stop."),
    ),
    (OUTFIT, 60, "Harrow 48 tractor with loader", 41, "3.9", 50, "wet", 4, (), 15900, 0.124, ""),
    (
        *(OUTFIT, 47, "Harrow 48 tractor with loader", 18, "1.8", 55, "wind", 2, ("swayed",)),
        *(15900, 0.096, "Loaded in a hurry, bucket to the tail."),
    ),
    (OUTFIT, 33, "Kestrel T6 compact loader", 27, "2.9", 50, "dry", 5, (), 17600, 0.127, ""),
    (
        *(OUTFIT, 19, "Drain pipe, two pallets", 52, "4.6", 55, "dry", 3, ("brakes_hot",)),
        *(14300, 0.131, "Left hub warmer than the others."),
    ),
    (OUTFIT, 19, "", 52, "3.8", 55, "dry", 5, (), 10700, None, ""),
    (GOOSENECK, 70, "Harrow 90 tractor", 63, "7.4", 55, "dry", 5, (), 26400, 0.21, ""),
    (GOOSENECK, 26, "Harrow 90 tractor", 48, "5.9", 50, "wet", 4, (), 26400, 0.204, ""),
    (GOOSENECK, 26, "", 48, "4.2", 60, "wet", 5, (), 15600, None, ""),
)

INSPECTIONS: Final = (
    # of what, what, every days, every miles, days ago
    ("20 ft equipment trailer", "Hub grease and bearings", 365, 3000, 210),
    ("25 ft gooseneck", "Yearly inspection", 365, None, 352),
    ("14 ft tilt", "Yearly inspection", 365, None, 402),
    ("12 ft dump trailer", "Brakes adjusted", None, 2000, 120),
    ("Gooseneck truck", "Yearly inspection", 365, None, 190),
)


def make_road(yard: Yard, driver: User, owner: User) -> None:
    """Trips of some months, a defect that waits and one that is mended, inspections, brake gain."""
    today = timezone.localdate()
    trucks = {one.name: one for one in Truck.objects.filter(yard=yard)}
    trailers = {one.name: one for one in Trailer.objects.filter(yard=yard)}
    for outfit, ago, load, miles, gallons, mph, weather, mark, wrong, lb, share, words in TRIPS:
        Trip.objects.create(
            yard=yard,
            truck=trucks[outfit[0]],
            trailer=trailers[outfit[1]],
            outfit=", ".join(outfit),
            loads=load,
            carried=Trip.Carried.LOADED if load else Trip.Carried.EMPTY,
            driven_on=today - timedelta(days=ago),
            distance=Quantity(Decimal(miles), "mi"),
            fuel=Quantity(Decimal(gallons), "gal"),
            speed=Quantity(Decimal(mph), "mph"),
            weather=weather,
            drove=mark,
            mass_kg=lb * KG_PER_LB,
            share=share,
            note=words,
            by=driver,
            **dict.fromkeys(wrong, True),
        )
    for name, what, days, every, ago in INSPECTIONS:
        row = Inspection.objects.create(
            yard=yard,
            truck=trucks.get(name),
            trailer=trailers.get(name),
            what=what,
            every_days=days,
            every_way=None if every is None else Quantity(Decimal(every), "mi"),
        )
        Looked.objects.create(inspection=row, on=today - timedelta(days=ago), by=owner)
    now = timezone.now()
    Defect.objects.create(
        yard=yard,
        trailer=trailers["12 ft dump trailer"],
        what="Right rear tire",
        note="31 psi, plate says 65. Nail in the tread.",
        by=driver,
        at=now - timedelta(hours=15),
    )
    Defect.objects.create(
        yard=yard,
        trailer=trailers["20 ft equipment trailer"],
        what="Left marker light",
        note="Lens broken at the gate post.",
        by=driver,
        at=now - timedelta(days=30),
        decision=Defect.Decision.GO,
        reason="By day only until the lens is here.",
        decided_by=owner,
        decided_at=now - timedelta(days=30),
        mended_by=owner,
        mended_at=now - timedelta(days=24),
    )
    haul = Haul.objects.filter(yard=yard, truck=trucks[OUTFIT[0]]).order_by("pk").first()
    for load, lb, value in (
        ("Kestrel T6 compact loader", 10350, "7.5"),
        ("Harrow 48 tractor with loader", 8700, "6.5"),
        ("empty", 2900, "3.0"),
    ):
        BrakeGain.objects.create(
            yard=yard,
            truck=trucks[OUTFIT[0]],
            trailer=trailers[OUTFIT[1]],
            haul=haul if load.startswith("Harrow") else None,
            load=load,
            trailer_kg=lb * KG_PER_LB,
            value=Decimal(value),
            by=driver,
            at=now - timedelta(days=33),
        )
