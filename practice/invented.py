"""Outfits and machines that nobody owns, by chance: plausible in every figure, all of it invented.

Masses are in pounds, lengths in inches; whoever looks at a case reads them in his own units.
"""

from __future__ import annotations

import random
from dataclasses import dataclass
from typing import Any, Final

from mechanics.units import LengthUnit, MassUnit
from planfile import document
from planfile.draft import Draft, Units

UNITS: Final = Units(mass=MassUnit.LB, length=LengthUnit.IN)


@dataclass(frozen=True, kw_only=True, slots=True)
class TruckClass:
    """A kind of truck: axles unhitched, ratings, wheelbase, receiver."""

    name: str
    axles: tuple[int, int]
    gawr: tuple[int, int]
    gvwr: int
    gcwr: int
    tows: int
    receiver: tuple[int, int]
    wheelbase: int
    offset: int
    four_wheel: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class TrailerClass:
    """A kind of trailer: empty mass and tongue, plates, deck, where its axles stand."""

    name: str
    empty: tuple[int, int]
    gvwr: int
    gawr: int
    start: int
    length: int
    width: int
    axle_part: float
    kind: str
    sides: str
    tail: str


@dataclass(frozen=True, kw_only=True, slots=True)
class MachineClass:
    """A kind of machine: its mass from and to, its reach, balance point, wheels, height."""

    name: str
    shape: str
    mark: str
    mass: tuple[int, int]
    front: int
    rear: int
    ahead: float
    wheelbase: int
    width: int
    height: int
    balance_height: int


TRUCKS: Final = (
    TruckClass(
        name="Half-ton",
        axles=(3120, 2260),
        gawr=(3900, 3950),
        gvwr=7100,
        gcwr=15000,
        tows=9000,
        receiver=(9000, 900),
        wheelbase=145,
        offset=47,
        four_wheel=True,
    ),
    TruckClass(
        name="Three-quarter-ton",
        axles=(4150, 2950),
        gawr=(5200, 6400),
        gvwr=10000,
        gcwr=22000,
        tows=13000,
        receiver=(13000, 1300),
        wheelbase=160,
        offset=50,
        four_wheel=False,
    ),
    TruckClass(
        name="One-ton",
        axles=(4700, 3400),
        gawr=(5600, 7000),
        gvwr=11500,
        gcwr=30000,
        tows=18000,
        receiver=(18000, 1800),
        wheelbase=168,
        offset=52,
        four_wheel=True,
    ),
)

TRAILERS: Final = (
    TrailerClass(
        name="16 ft utility trailer",
        empty=(1900, 210),
        gvwr=7000,
        gawr=3500,
        start=48,
        length=192,
        width=82,
        axle_part=0.6,
        kind="utility",
        sides="rails",
        tail="gate",
    ),
    TrailerClass(
        name="18 ft equipment trailer",
        empty=(2750, 330),
        gvwr=10400,
        gawr=5200,
        start=54,
        length=216,
        width=82,
        axle_part=0.61,
        kind="flatbed",
        sides="stakes",
        tail="ramps",
    ),
    TrailerClass(
        name="20 ft equipment trailer",
        empty=(3350, 420),
        gvwr=14000,
        gawr=7000,
        start=60,
        length=240,
        width=82,
        axle_part=0.61,
        kind="flatbed",
        sides="stakes",
        tail="ramps",
    ),
)

MACHINES: Final = (
    MachineClass(
        name="Compact tractor with loader",
        shape="tractor",
        mark="rear axle",
        mass=(2900, 4700),
        front=112,
        rear=34,
        ahead=29,
        wheelbase=72,
        width=60,
        height=92,
        balance_height=32,
    ),
    MachineClass(
        name="Skid steer",
        shape="loader",
        mark="rear axle",
        mass=(4900, 7400),
        front=98,
        rear=30,
        ahead=15,
        wheelbase=40,
        width=66,
        height=78,
        balance_height=30,
    ),
    MachineClass(
        name="Utility tractor",
        shape="tractor",
        mark="rear axle",
        mass=(4800, 6900),
        front=104,
        rear=40,
        ahead=34,
        wheelbase=82,
        width=72,
        height=98,
        balance_height=36,
    ),
    MachineClass(
        name="Trench roller",
        shape="roller",
        mark="rear axle",
        mass=(2700, 4400),
        front=78,
        rear=26,
        ahead=28,
        wheelbase=56,
        width=52,
        height=84,
        balance_height=28,
    ),
)

HITCH: Final = 55
"""Hardware in the receiver."""

COUPLER: Final = 2.3125
"""Ball and coupler."""


def somewhat(rng: random.Random, figure: float, part: float = 0.06, step: int = 10) -> int:
    """A figure and up to a part of it more or less, in round steps."""
    return round(figure * rng.uniform(1 - part, 1 + part) / step) * step


def truck(rng: random.Random, kind: TruckClass) -> document.Truck:
    """A truck of a kind, with a driver aboard."""
    return document.Truck(
        name=kind.name,
        front_axle_mass=somewhat(rng, kind.axles[0], 0.03),
        rear_axle_mass=somewhat(rng, kind.axles[1], 0.03),
        wheelbase=kind.wheelbase,
        hitch_offset=kind.offset,
        front_gawr=kind.gawr[0],
        rear_gawr=kind.gawr[1],
        gvwr=kind.gvwr,
        gcwr=kind.gcwr,
        max_trailer_mass=kind.tows,
        drive="four_wheel" if kind.four_wheel else "two_wheel",
        cargo=[
            document.Cargo(
                name="Driver",
                mass=somewhat(rng, 190, 0.15, 5),
                ahead_of_rear_axle=round(kind.wheelbase * 0.48),
            )
        ],
        extra={"drawn": {"cab": "crew" if kind.wheelbase > 150 else "extended"}},
    )


def hitch(kind: TruckClass) -> document.Hitch:
    """A receiver with its mount and ball."""
    tows, tongue = kind.receiver
    return document.Hitch(
        type="ball",
        mass=HITCH,
        ball_diameter=COUPLER,
        components=[
            document.HitchComponent(name="Receiver", max_trailer_mass=tows, max_tongue_mass=tongue)
        ],
    )


def trailer(rng: random.Random, kind: TrailerClass) -> document.Trailer:
    """A trailer of a kind, on two axles, with rings for ties along both sides."""
    middle = kind.start + kind.length * kind.axle_part + rng.choice((-3, 0, 3))
    half = 17
    rings = (8, kind.length / 3, kind.length * 2 / 3, kind.length - 8)
    side = kind.width / 2 - 2
    return document.Trailer(
        name=kind.name,
        kind=kind.kind,  # type: ignore[arg-type]
        empty_mass=somewhat(rng, kind.empty[0]),
        empty_tongue_mass=somewhat(rng, kind.empty[1]),
        gvwr=kind.gvwr,
        axles=[
            document.Axle(position=middle - half, gawr=kind.gawr),
            document.Axle(position=middle + half, gawr=kind.gawr),
        ],
        track_width=kind.width + 6,
        coupler_size=COUPLER,
        coupler_height=20,
        deck=document.Deck(start=kind.start, length=kind.length, width=kind.width, height=26),
        ramp=document.Ramp(kind="gate" if kind.tail == "gate" else "ramps", length=62),
        anchors=[
            document.Anchor(
                id=f"{'l' if left > 0 else 'r'}{n}", tape=round(tape), left=left * side, wll=6600
            )
            for n, tape in enumerate(rings, start=1)
            for left in (1, -1)
        ],
        extra={"drawn": {"sides": kind.sides, "tail": kind.tail}},
    )


def machine(rng: random.Random, kind: MachineClass, *, at: float) -> document.Item:
    """A machine of a kind, its mark so far behind the headboard."""
    half = kind.width / 2 - 6
    points: list[Any] = [
        (f"{end}-{side}", ahead, left * half)
        for end, ahead in (("front", kind.wheelbase), ("rear", 0))
        for side, left in (("left", 1), ("right", -1))
    ]
    return document.Item(
        id="m1",
        name=kind.name,
        mass=somewhat(rng, rng.uniform(*kind.mass), 0.0, 20),
        cg=document.BalancePoint(
            ahead=round(kind.ahead + rng.uniform(-3, 3)), height=kind.balance_height
        ),
        front=kind.front,
        rear=kind.rear,
        width=kind.width,
        height=kind.height,
        contacts=[document.Contact(ahead=0), document.Contact(ahead=kind.wheelbase)],
        points=[
            document.TiePoint(id=name, ahead=ahead, left=left, height=18)
            for name, ahead, left in points
        ],
        placement=document.Placement(reference=at),
        extra={"drawn": {"shape": kind.shape, "mark": kind.mark, "wheelbase": kind.wheelbase}},
    )


def coupled(truck: document.Truck, hitch: document.Hitch, trailer: document.Trailer) -> Draft:
    """Truck and trailer with nothing on the deck."""
    return Draft.bare(
        name="", units=UNITS, truck=truck, hitch=hitch, trailer=trailer, rules=document.Rules()
    )


def outfit(rng: random.Random, truck_kind: TruckClass, trailer_kind: TrailerClass) -> Draft:
    """Truck and trailer of two kinds, with nothing on the deck."""
    return coupled(truck(rng, truck_kind), hitch(truck_kind), trailer(rng, trailer_kind))


def loaded(rng: random.Random) -> Draft:
    """An outfit by chance with a machine by chance in the middle of its deck."""
    trailer_kind = rng.choice(TRAILERS)
    draft = outfit(rng, rng.choice(TRUCKS), trailer_kind)
    return draft.with_item(machine(rng, rng.choice(MACHINES), at=round(trailer_kind.length * 0.6)))
