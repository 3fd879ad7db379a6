"""Fernbeck Drainage, all of it invented: its trucks, trailers, machines and hauls."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from book.models import (
    CouplerPart,
    Hitch,
    HitchPart,
    Machine,
    Trailer,
    TrailerAxle,
    Truck,
    TruckLoad,
)
from demo.login import LOGIN, PASSWORD
from hauls.models import Haul
from hauls.services.haul import create_haul, save_haul, set_reference
from measures import Quantity
from mechanics.units import M_PER_IN
from yards.models import Membership, User, Yard

NAME = "Fernbeck Drainage"


def _lb(number: float | None) -> Quantity | None:
    return None if number is None else Quantity.parse(f"{number} lb")


def _in(number: float | None) -> Quantity | None:
    return None if number is None else Quantity.parse(f"{number} in")


TRUCKS: list[dict[str, Any]] = [
    {
        "name": "Work truck 3",
        "masses": {
            "front_axle_mass": 4180,
            "rear_axle_mass": 2940,
            "front_gawr": 5200,
            "rear_gawr": 6340,
            "gvwr": 10000,
            "gcwr": 22000,
            "max_trailer_mass": 13000,
            "payload": 2700,
        },
        "wheelbase": 160,
        "loads": [("Driver", 190, 10, 70), ("Tool chest", 160, 10, 28)],
        "hitches": [
            (
                "Receiver",
                "ball",
                50,
                55,
                [
                    ("Receiver", 12000, 1500),
                    ("Ball mount", 12500, 1600),
                    ("Ball", 12000, None),
                ],
            )
        ],
    },
    {
        "name": "Gooseneck truck",
        "masses": {
            "front_axle_mass": 4460,
            "rear_axle_mass": 3020,
            "front_gawr": 5600,
            "rear_gawr": 6900,
            "gvwr": 11000,
            "gcwr": 25500,
            "max_trailer_mass": 16000,
            "payload": 3180,
        },
        "wheelbase": 169,
        "loads": [("Driver", 205, 10, 74), ("Mate", 180, 20, 74), ("Bed tank, full", 410, 20, 22)],
        "hitches": [
            ("Gooseneck ball", "gooseneck", -3, 60, [("Gooseneck ball", 25000, 6250)]),
            ("Receiver", "ball", 53, 48, [("Receiver", 14000, 1800), ("Ball mount", 14000, 1400)]),
        ],
    },
    {
        "name": "Old half-ton",
        "masses": {
            "front_axle_mass": 3010,
            "rear_axle_mass": 2160,
            "front_gawr": 3750,
            "rear_gawr": 3900,
            "gvwr": 6900,
            "gcwr": None,
            "max_trailer_mass": 7600,
            "payload": 1610,
        },
        "wheelbase": 145,
        "loads": [("Driver", 170, 10, 62)],
        "hitches": [
            ("Receiver", "ball", 46, 30, [("Receiver", 7500, 750), ("Ball mount", 7500, 750)])
        ],
    },
]

TRAILERS: list[dict[str, Any]] = [
    {
        "name": "20 ft equipment trailer",
        "kind": "utility",
        "empty": (2900, 40),
        "tongue": (380, 20),
        "gvwr": 10000,
        "axles": [(183, 5200, 5560), (217, 5200, 5560)],
        "suspension": "equalized",
        "track": 84,
        "deck": (52, 240, 82, 26),
        "overhang": (0, 24),
        "coupler": ("Coupler", 12500, None),
    },
    {
        "name": "12 ft dump trailer",
        "kind": "dump",
        "empty": (3320, 40),
        "tongue": (560, 20),
        "gvwr": 9990,
        "axles": [(128, 5200, 5080), (161, 5200, 5080)],
        "suspension": "equalized",
        "track": 80,
        "deck": (58, 144, 78, 30),
        "overhang": (0, 0),
        "coupler": ("Coupler", 12500, None),
    },
    {
        "name": "25 ft gooseneck",
        "kind": "gooseneck",
        "empty": (5900, 60),
        "tongue": (1180, 40),
        "gvwr": 15900,
        "axles": [(268, 7000, 7040), (304, 7000, 7040)],
        "suspension": "equalized",
        "track": 86,
        "deck": (84, 300, 96, 35),
        "overhang": (0, 24),
        "coupler": ("Gooseneck coupler", 25000, 6250),
    },
    {
        "name": "14 ft tilt",
        "kind": "tilt",
        "empty": (1640, 30),
        "tongue": (205, 15),
        "gvwr": 7000,
        "axles": [(136, 3500, 3640), (170, 3500, 3640)],
        "suspension": "independent",
        "track": 76,
        "deck": (46, 168, 77, 24),
        "overhang": (0, 0),
        "coupler": ("Coupler", 7000, None),
    },
]

MACHINES: list[dict[str, Any]] = [
    {
        "name": "Harrow 48 tractor with loader",
        "shape": "tractor",
        "mass": (5350, 250, "weighed"),
        "mark": "rear axle",
        "balance": (30, 3, "axles"),
        "reach": (118, 46),
        "size": (66, 96, 76),
    },
    {
        "name": "Kestrel T6 compact loader",
        "shape": "loader",
        "mass": (6480, 130, "weighed"),
        "mark": "rear axle",
        "balance": (17, 2, "axles"),
        "reach": (104, 40),
        "size": (66, 80, 43),
    },
    {
        "name": "Burrow 17 excavator",
        "shape": "excavator",
        "mass": (3860, 80, "plate"),
        "mark": "track centre",
        "balance": (-4, 3, "built_up"),
        "reach": (92, 44),
        "size": (40, 92, 50),
    },
    {
        "name": "Harrow 90 tractor",
        "shape": "tractor",
        "mass": (8900, 180, "weighed"),
        "mark": "rear axle",
        "balance": (37, 2, "axles"),
        "reach": (136, 58),
        "size": (86, 104, 92),
    },
    {
        "name": "Trench plough",
        "shape": "implement",
        "mass": (1450, 145, "brochure"),
        "mark": "lower pins",
        "balance": (-26, 6, "guess"),
        "reach": (14, 62),
        "size": (58, 54, None),
    },
    {
        "name": "Pallet of drain pipe",
        "shape": "pallet",
        "mass": (1180, 118, "brochure"),
        "mark": "front edge",
        "balance": (-24, 3, "built_up"),
        "reach": (0.5, 48),
        "size": (42, 44, None),
    },
]

HAULS: list[dict[str, Any]] = [
    # all is well
    {
        "name": "Orchard tractor to the Quarry Lane block",
        "outfit": (0, 0, 0),
        "machines": [0],
        "at": [150],
    },
    # fits, with little to spare on the trailer's plate
    {
        "name": "Compact loader to the Stony Bank culvert",
        "outfit": (0, 0, 0),
        "machines": [1],
        "at": None,
    },
    # the balance point stays too far back wherever this way round it stands
    {
        "name": "Excavator home from Low Fields",
        "outfit": (1, 1, 3),
        "machines": [2],
        "at": [94],
    },
    # parked by feel against the tail
    {
        "name": "Orchard tractor back from Mill Ponds",
        "outfit": (0, 0, 0),
        "machines": [0],
        "at": [186],
    },
    # the pin weight uses up the truck long before the trailer is full
    {
        "name": "Big tractor to Upper Fern on the gooseneck",
        "outfit": (1, 0, 2),
        "machines": [3],
        "at": [190],
    },
    # nobody has looked up what truck and trailer may weigh together
    {
        "name": "Plough and pipe to the spring chamber",
        "outfit": (2, 0, 3),
        "machines": [4, 5],
        "at": [34, 104],
    },
]
"""``outfit`` is truck, its hitch, trailer. ``at`` holds tape readings in inches, or ``None``
for the aim. The half-ton's GCWR is not in the book."""


@transaction.atomic
def make_demo_yard() -> bool:
    """Make the demo yard; False, with nothing touched, where it stands already."""
    if Yard.objects.filter(name=NAME).exists():
        return False
    yard = Yard.objects.create(name=NAME)
    user = User.objects.create_user(LOGIN, password=PASSWORD, first_name="Ida", last_name="Fern")
    Membership.objects.create(yard=yard, user=user)
    hitches = [_truck(yard, entry) for entry in TRUCKS]
    trailers = [_trailer(yard, entry) for entry in TRAILERS]
    machines = [_machine(yard, entry) for entry in MACHINES]
    # the list shows the newest first, and the good one should lead it
    for entry in reversed(HAULS):
        truck, hitch, trailer = entry["outfit"]
        haul = create_haul(
            yard=yard,
            user=user,
            name=entry["name"],
            hitch=hitches[truck][hitch],
            trailer=trailers[trailer],
            machines=[machines[n] for n in entry["machines"]],
        )
        _place(haul, entry, user)
    return True


def _place(haul: Haul, entry: dict[str, Any], user: User) -> None:
    document = haul.document
    if entry["at"] is not None:
        for index, inches in enumerate(entry["at"]):
            set_reference(document, index, inches * M_PER_IN)
    save_haul(haul, document, base=haul.revision, user=user)


def _truck(yard: Yard, entry: dict[str, Any]) -> list[Hitch]:
    truck = Truck.objects.create(
        yard=yard,
        name=entry["name"],
        wheelbase=_in(entry["wheelbase"]),
        **{field: _lb(number) for field, number in entry["masses"].items()},
    )
    for name, mass, tolerance, ahead in entry["loads"]:
        TruckLoad.objects.create(
            truck=truck,
            name=name,
            mass=_lb(mass),
            mass_tolerance=_lb(tolerance),
            ahead_of_rear_axle=_in(ahead),
        )
    made = []
    for name, kind, offset, mass, parts in entry["hitches"]:
        hitch = Hitch.objects.create(
            truck=truck, name=name, type=kind, offset=_in(offset), mass=_lb(mass)
        )
        for part, trailer, tongue in parts:
            HitchPart.objects.create(
                hitch=hitch, name=part, max_trailer_mass=_lb(trailer), max_tongue_mass=_lb(tongue)
            )
        made.append(hitch)
    return made


def _trailer(yard: Yard, entry: dict[str, Any]) -> Trailer:
    start, length, width, height = entry["deck"]
    trailer = Trailer.objects.create(
        yard=yard,
        name=entry["name"],
        kind=entry["kind"],
        empty_mass=_lb(entry["empty"][0]),
        empty_mass_tolerance=_lb(entry["empty"][1]),
        empty_tongue_mass=_lb(entry["tongue"][0]),
        empty_tongue_mass_tolerance=_lb(entry["tongue"][1]),
        gvwr=_lb(entry["gvwr"]),
        suspension=entry["suspension"],
        track_width=_in(entry["track"]),
        deck_start=_in(start),
        deck_length=_in(length),
        deck_width=_in(width),
        deck_height=_in(height),
        front_overhang=_in(entry["overhang"][0]),
        rear_overhang=_in(entry["overhang"][1]),
    )
    for position, gawr, tires in entry["axles"]:
        TrailerAxle.objects.create(
            trailer=trailer, position=_in(position), gawr=_lb(gawr), tire_capacity=_lb(tires)
        )
    name, mass, tongue = entry["coupler"]
    CouplerPart.objects.create(
        trailer=trailer, name=name, max_trailer_mass=_lb(mass), max_tongue_mass=_lb(tongue)
    )
    return trailer


def _machine(yard: Yard, entry: dict[str, Any]) -> Machine:
    mass, tolerance, known = entry["mass"]
    ahead, ahead_tolerance, balance_known = entry["balance"]
    width, height, wheelbase = entry["size"]
    return Machine.objects.create(
        yard=yard,
        name=entry["name"],
        shape=entry["shape"],
        mass=_lb(mass),
        mass_tolerance=_lb(tolerance),
        mass_known=known,
        mark_name=entry["mark"],
        balance_ahead=_in(ahead),
        balance_tolerance=_in(ahead_tolerance),
        balance_known=balance_known,
        reach_front=_in(entry["reach"][0]),
        reach_rear=_in(entry["reach"][1]),
        width=_in(width),
        height=_in(height),
        wheelbase=_in(wheelbase),
    )
