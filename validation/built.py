"""Trucks, trailers and machines built up from their parts, so that their true figures are known.

Every part is a box of a mass and a size at a place, laid down by hand; what all of them weigh and
where they balance is worked out by ``trimesh``, a general mesh library. Masses of steel shapes are
those of the published tables (AISC, from memory); those of engines, axles, cabs and beds are common
practice, no source. Nothing here knows of :mod:`mechanics.typical`.

Lengths in inches from the front axle (trucks), the ball (trailers) or the rear axle ahead
(machines); masses in pounds, as the parts' lists are.
"""

from __future__ import annotations

import random
from dataclasses import dataclass, field
from functools import lru_cache

import trimesh


@dataclass(frozen=True)
class Part:
    """A mass at a place: ``at`` along the thing, ``long`` its own length; ``read`` says that the
    brochure or plate counts it."""

    name: str
    lb: float
    at: float
    long: float = 8.0
    read: bool = True


def properties(parts: list[Part]) -> tuple[float, float]:
    """Mass in lb and balance point in in, by the mesh library."""
    mass = moment = 0.0
    for part in parts:
        volume, middle = _solid(part.at, part.long)
        density = part.lb / volume
        of_it = density * volume
        mass += of_it
        moment += of_it * middle
    return mass, moment / mass


@lru_cache(maxsize=4096)
def _solid(at: float, long: float) -> tuple[float, float]:
    """Volume of a part's box and the middle of its mass, by the mesh library."""
    mesh = trimesh.creation.box(
        extents=(long, 10.0, 10.0),
        transform=trimesh.transformations.translation_matrix((at, 0.0, 0.0)),
    )
    return float(mesh.volume), float(mesh.center_mass[0])


@dataclass(frozen=True)
class TrueTruck:
    """A pickup: its sticker and its true figures, in lb and in."""

    name: str
    gvwr: float
    payload: float
    wheelbase: float
    ball: float
    curb: float
    front: float
    over_bed: bool = False


@dataclass(frozen=True)
class TrueTrailer:
    """A trailer: its plate and its true figures, in lb and in."""

    name: str
    kind: str
    gvwr: float
    axle: float
    deck_start: float
    deck_length: float
    deck_width: float
    axles: tuple[float, ...]
    tail: str
    mass: float
    tongue: float
    track: float
    under: bool = False

    @property
    def middle(self) -> float:
        """Middle of the axles behind the ball."""
        return sum(self.axles) / len(self.axles)


@dataclass(frozen=True)
class TrueMachine:
    """A machine: what its brochure says and its true figures, in lb and in ahead of the mark."""

    name: str
    shape: str
    hung: str
    counted: bool
    brochure: float
    wheelbase: float
    mass: float
    ahead: float
    front: float
    rear: float
    running: str = "wheels"
    parts: tuple[Part, ...] = field(default=(), repr=False)


def _shaken(parts: list[Part], rng: random.Random | None, by: float) -> list[Part]:
    """The same parts a little heavier or lighter, as two of one kind differ."""
    if rng is None:
        return parts
    return [Part(p.name, p.lb * rng.uniform(1 - by, 1 + by), p.at, p.long, p.read) for p in parts]


TRUCKS = (
    # name, gvwr, wheelbase, engine with accessories, cab, frame, bed, front and rear axle with
    # wheels, gearbox, fuel, ball behind the axle, over the bed
    ("short half-ton, two doors", 6400, 122, 430, 820, 520, 290, 430, 560, 200, 140, 47, False),
    ("half-ton, extended cab", 6800, 140, 470, 1050, 590, 300, 640, 620, 290, 150, 49, False),
    ("half-ton, crew cab", 7000, 145, 480, 1280, 610, 280, 680, 640, 300, 150, 50, False),
    ("half-ton, crew cab, long bed", 7200, 157, 500, 1290, 660, 350, 690, 660, 300, 200, 52, False),
    ("three-quarter-ton gas", 9900, 149, 640, 1180, 850, 350, 900, 950, 390, 210, 52, False),
    ("three-quarter-ton diesel", 10000, 160, 1050, 1330, 920, 350, 980, 980, 430, 220, 53, False),
    ("one-ton diesel, long bed", 11500, 172, 1080, 1350, 980, 420, 1000, 1010, 440, 240, 55, False),
    ("one-ton dual wheels", 14000, 172, 1090, 1360, 1040, 480, 1010, 1500, 450, 260, -2, True),
    ("three-quarter-ton with a bed ball", 10000, 154, 660, 1330, 890, 380, 930, 960, 400, 230, -3,
     True),
)  # fmt: skip


def truck(row: tuple[object, ...], rng: random.Random | None = None) -> TrueTruck:
    """A pickup of its row; its payload is what the maker had left over, options put on later."""
    name, gvwr, base, engine, cab, frame, bed, front, rear, box, fuel, ball, over = row
    base_in, gvwr_lb = float(base), float(gvwr)  # type: ignore[arg-type]
    parts = _shaken(
        [
            Part("engine", float(engine), 2, 30),  # type: ignore[arg-type]
            Part("radiator, hood, fenders", 330, -12, 40),
            Part("front bumper", 70, -33),
            Part("front axle, springs, wheels", float(front), 0, 30),  # type: ignore[arg-type]
            Part("gearbox", float(box), 44, 40),  # type: ignore[arg-type]
            Part("cab", float(cab), 0.44 * base_in, 0.5 * base_in),  # type: ignore[arg-type]
            Part("frame", float(frame), 0.51 * base_in, base_in + 80),  # type: ignore[arg-type]
            Part("exhaust and shaft", 150, 0.58 * base_in, 90),
            Part("fuel", float(fuel), 0.68 * base_in, 40),  # type: ignore[arg-type]
            Part("bed", float(bed), base_in + 2, 84),  # type: ignore[arg-type]
            Part("rear axle, springs, wheels", float(rear), base_in, 30),  # type: ignore[arg-type]
            Part("spare", 75, base_in + 36),
            Part("rear bumper, receiver", 130, base_in + 46),
        ],
        rng,
        0.08,
    )
    read, _ = properties(parts)
    options = [Part("options since", 0.012 * read, base_in * 0.7, 60)]
    mass, at = properties(parts + options)
    return TrueTruck(
        name=str(name),
        gvwr=gvwr_lb,
        payload=round((gvwr_lb - read) / 5) * 5,
        wheelbase=base_in,
        ball=float(ball),  # type: ignore[arg-type]
        curb=mass,
        front=mass * (1 - at / base_in),
        over_bed=bool(over),
    )


TRAILERS = (
    # name, kind, gvwr, axle rating, axles, deck start, length, width, axle middle as part of the
    # deck, spacing, main rail lb/ft, crossmember lb/ft, their spacing in, floor lb/sq ft,
    # tongue lb/ft, axle with hubs and springs, wheels of one axle, tail lb, tail kind, sides lb/ft
    ("12 ft utility", "utility", 2990, 3500, 1, 44, 144, 76, 0.58, 0, 3.0, 2.2, 24, 4.1, 5.4, 110,
     80, 110, "gate", 4.3),
    ("14 ft utility, tandem", "utility", 7000, 3500, 2, 46, 168, 82, 0.60, 33, 4.1, 3.0, 24, 4.6,
     6.7, 130, 95, 170, "gate", 6.5),
    ("16 ft utility, tandem", "utility", 7000, 3500, 2, 48, 192, 82, 0.61, 33, 4.1, 3.5, 24, 4.6,
     6.7, 135, 95, 180, "gate", 6.5),
    ("18 ft car carrier", "car_carrier", 7000, 3500, 2, 48, 216, 82, 0.60, 33, 5.4, 3.5, 24, 4.7,
     6.7, 135, 95, 150, "ramps", 0.0),
    ("18 ft equipment", "flatbed", 10000, 5200, 2, 52, 216, 82, 0.62, 34, 8.2, 4.1, 20, 4.8, 8.2,
     205, 120, 190, "ramps", 0.0),
    ("20 ft equipment", "flatbed", 14000, 7000, 2, 54, 240, 82, 0.62, 34, 11.5, 4.1, 16, 4.9, 11.5,
     275, 150, 260, "ramps", 0.0),
    ("22 ft equipment", "flatbed", 16000, 8000, 2, 56, 264, 82, 0.63, 35, 19.0, 4.1, 16, 4.9, 19.0,
     330, 190, 300, "ramps", 0.0),
    ("18 ft tilt", "tilt", 14000, 7000, 2, 58, 216, 80, 0.60, 34, 11.5, 4.1, 16, 4.9, 11.5, 275,
     150, 160, "tilts", 0.0),
    ("12 ft dump", "dump", 10000, 5200, 2, 50, 144, 72, 0.60, 34, 11.5, 5.4, 14, 7.6, 9.8, 205, 120,
     300, "gate", 34.0),
    ("14 ft dump", "dump", 14000, 7000, 2, 54, 168, 83, 0.60, 34, 15.0, 5.4, 12, 7.6, 11.5, 275,
     150, 330, "gate", 38.0),
    ("24 ft gooseneck", "gooseneck", 15900, 7000, 2, 92, 288, 102, 0.62, 34, 19.0, 4.1, 16, 4.9,
     22.0, 290, 150, 380, "ramps", 0.0),
    ("30 ft gooseneck, dual wheels", "gooseneck", 24000, 10000, 2, 96, 360, 102, 0.64, 49, 22.0,
     4.1, 16, 4.9, 26.0, 520, 340, 520, "ramps", 0.0),
    # other than the usual number of axles for their rating
    ("12 ft utility, two light axles", "utility", 2990, 2000, 2, 44, 144, 76, 0.58, 28, 3.0, 2.2,
     24, 4.1, 5.4, 75, 60, 110, "gate", 4.3),
    ("16 ft utility, one axle", "utility", 5200, 5200, 1, 48, 192, 82, 0.58, 0, 4.1, 3.5, 24, 4.6,
     6.7, 205, 120, 180, "gate", 6.5),
    ("24 ft equipment, three axles", "flatbed", 21000, 7000, 3, 56, 288, 82, 0.63, 34, 19.0, 4.1,
     16, 4.9, 19.0, 275, 150, 300, "ramps", 0.0),
)  # fmt: skip


def trailer(row: tuple[object, ...], rng: random.Random | None = None) -> TrueTrailer:
    """A trailer of its row: rails, crossmembers, floor, tongue, axles, tail, sides and hardware."""
    name, kind, tail_kind = str(row[0]), str(row[1]), str(row[18])
    gvwr, rating, count, start, length, width, part, spacing = (
        float(value)
        for value in row[2:10]  # type: ignore[arg-type]
    )
    rail, cross, every, floor, tongue, axle, wheels, tail = (
        float(value)
        for value in row[10:18]  # type: ignore[arg-type]
    )
    sides = float(row[19])  # type: ignore[arg-type]
    neck, dump = kind == "gooseneck", kind == "dump"
    middle = start + part * length
    if rng is not None:
        middle += rng.uniform(-0.012, 0.012) * length
    n = int(count)
    places = tuple(middle + (i - (n - 1) / 2) * spacing for i in range(n))
    deck = start + length / 2
    area = length * width / 144
    parts = [
        Part("rails", 2 * rail * length / 12, deck, length),
        Part("crossmembers", cross * (length / every + 1) * width / 12, deck, length),
        Part("floor", floor * area, deck, length),
        Part("end channels and headboard", 20 + 0.3 * width, start, 6),
        Part("tongue or neck", 2 * tongue * (start + (50 if neck else 24)) / 12, start / 2, start),
        Part("coupler, jack, chains, box", 35 + gvwr / 250, 12 if not neck else 26, 20),
        Part("wiring, lights, paint", 25 + 0.05 * length, deck, length),
        Part(
            "rub rails, pockets, gussets",
            0 if sides else 0.34 * length + 0.011 * gvwr,
            deck,
            length,
        ),
        Part("fenders and brackets", 0 if neck else 30 + 16 * n, middle, 70),
        Part("spare", 1 if kind == "utility" else 40 + rating / 250, start * 0.85, 10),
        Part("tail", tail, start + length - 4, 12),
    ]
    parts += [Part("axle", axle + wheels, place, 28) for place in places]
    if sides:
        parts.append(Part("sides", 2 * sides * length / 12, deck, length))
    if dump:
        parts += [
            Part("hoist", 0.022 * gvwr, start + 0.4 * length, 40),
            Part("pump and battery", 130, start * 0.6, 18),
        ]
    if dump or kind == "tilt":
        parts.append(Part("subframe", 2 * rail * length / 12 * 0.8, deck, length))
    mass, at = properties(_shaken(parts, rng, 0.1))
    under = neck
    return TrueTrailer(
        name=name,
        kind=kind,
        gvwr=gvwr,
        axle=rating,
        deck_start=start,
        deck_length=length,
        deck_width=width,
        axles=places,
        tail=tail_kind,
        mass=mass,
        tongue=mass * (1 - at / middle),
        track=74.0 if under else width + 9.5,
        under=under,
    )


MACHINES = (
    # name, shape, hung, counted, wheelbase, brochure parts, parts left out; a part is name, lb,
    # in ahead of the rear axle (tracks: of their middle)
    ("subcompact tractor with loader", "tractor", "front", False, 55,
     (("engine", 330, 46), ("front axle, wheels", 210, 55), ("gearbox, rear axle", 420, 4),
      ("rear wheels", 190, 0), ("seat, roll bar, fenders", 170, 6), ("hood, frame", 160, 40)),
     (("loader", 270, 62), ("bucket", 150, 104), ("fuel, oil", 60, 30), ("tire fluid", 150, 0))),
    ("subcompact with loader and backhoe", "tractor", "both", False, 55,
     (("engine", 330, 46), ("front axle, wheels", 210, 55), ("gearbox, rear axle", 420, 4),
      ("rear wheels", 190, 0), ("seat, roll bar, fenders", 170, 6), ("hood, frame", 160, 40)),
     (("loader", 280, 62), ("bucket", 150, 104), ("backhoe", 640, -42), ("subframe", 110, 10),
      ("fuel, oil", 60, 30))),
    ("compact tractor, bare", "tractor", "nothing", False, 65,
     (("engine", 520, 56), ("front axle, wheels", 330, 65), ("gearbox, rear axle", 780, 6),
      ("rear wheels", 420, 0), ("seat, roll bar, fenders", 260, 8), ("hood, frame", 250, 48)),
     (("fuel, oil", 100, 35), ("tire fluid", 360, 0))),
    ("compact tractor with loader", "tractor", "front", False, 66,
     (("engine", 540, 57), ("front axle, wheels", 360, 66), ("gearbox, rear axle", 820, 6),
      ("rear wheels", 440, 0), ("seat, roll bar, fenders", 270, 8), ("hood, frame", 270, 48)),
     (("loader", 620, 70), ("bucket", 330, 118), ("fuel, oil", 110, 35), ("tire fluid", 380, 0))),
    ("compact tractor with box blade", "tractor", "rear", False, 65,
     (("engine", 520, 56), ("front axle, wheels", 330, 65), ("gearbox, rear axle", 780, 6),
      ("rear wheels", 420, 0), ("seat, roll bar, fenders", 260, 8), ("hood, frame", 250, 48)),
     (("box blade", 480, -48), ("fuel, oil", 100, 35))),
    ("utility tractor with loader and mower", "tractor", "both", False, 78,
     (("engine", 900, 70), ("front axle, wheels", 640, 78), ("gearbox, rear axle", 1500, 6),
      ("rear wheels", 900, 0), ("cab", 620, 14), ("hood, frame", 420, 60)),
     (("loader", 950, 84), ("bucket", 430, 140), ("mower", 1050, -58), ("fuel, oil", 190, 40),
      ("tire fluid", 750, 0))),
    ("orchard tractor, loader counted", "tractor", "front", True, 74,
     (("engine", 780, 66), ("front axle, wheels", 520, 74), ("gearbox, rear axle", 1250, 6),
      ("rear wheels", 700, 0), ("roll bar, seat", 330, 10), ("hood, frame", 380, 55),
      ("loader", 820, 80), ("bucket", 360, 132)),
     (("fuel, oil", 160, 40), ("tire fluid", 560, 0))),
    ("skid steer with bucket", "loader", "front", True, 42,
     (("engine", 700, -12), ("body, frame", 1900, 8), ("arms", 900, 10), ("wheels front", 380, 42),
      ("wheels rear", 380, 0), ("drive, chains", 700, 20), ("cab", 650, 24), ("bucket", 480, 78),
      ("counterweight", 320, -24)),
     (("fuel, oil", 200, -4), ("mud, cutting edge", 120, 60))),
    ("skid steer, no bucket counted", "loader", "front", False, 40,
     (("engine", 620, -12), ("body, frame", 1700, 8), ("arms", 800, 8), ("wheels front", 330, 40),
      ("wheels rear", 330, 0), ("drive, chains", 620, 19), ("cab", 560, 22),
      ("counterweight", 300, -24)),
     (("bucket", 430, 74), ("fuel, oil", 180, -4))),
    ("mini excavator", "excavator", "nothing", False, 62,
     (("undercarriage", 1350, 0), ("upper frame", 900, -8), ("engine", 420, -30),
      ("counterweight", 350, -38), ("cab", 480, 6), ("boom and arm", 620, 46), ("bucket", 130, 70),
      ("blade", 260, 40)),
     (("fuel, oil", 160, -20), ("buckets, coupler", 170, 60))),
    ("larger mini excavator", "excavator", "nothing", False, 76,
     (("undercarriage", 2500, 0), ("upper frame", 1500, -8), ("engine", 650, -34),
      ("counterweight", 800, -44), ("cab", 650, 8), ("boom and arm", 1100, 56),
      ("bucket", 240, 80), ("blade", 420, 48)),
     (("fuel, oil", 260, -24), ("coupler, thumb", 330, 74))),
    ("double drum roller", "roller", "nothing", False, 66,
     (("front drum", 900, 66), ("rear drum", 860, 0), ("frame, engine", 950, 36),
      ("roof, seat", 220, 24)),
     (("water", 330, 33), ("fuel", 50, 40))),
    ("farm car", "car", "nothing", False, 104,
     (("engine, gearbox", 620, 98), ("front axle, wheels", 330, 104), ("body", 1350, 50),
      ("rear axle, wheels", 360, 0), ("seats, trim", 300, 48)),
     (("fuel", 100, 20), ("tools in it", 80, 5))),
)  # fmt: skip


def machine(row: tuple[object, ...], rng: random.Random | None = None) -> TrueMachine:
    """A machine of its row, its brochure rounded to ten pounds as brochures are."""
    name, shape, hung, counted, base, read, more = row
    parts = [Part(n, lb, at) for n, lb, at in read]  # type: ignore[attr-defined]
    left_out = [Part(n, lb, at, read=False) for n, lb, at in more]  # type: ignore[attr-defined]
    parts, left_out = _shaken(parts, rng, 0.06), _shaken(left_out, rng, 0.15)
    told, _ = properties(parts)
    mass, ahead = properties(parts + left_out)
    tracks = shape == "excavator"
    half = float(base) / 2  # type: ignore[arg-type]
    reach = max(p.at for p in parts + left_out) + 16
    tail = -min(p.at for p in parts + left_out) + 16
    return TrueMachine(
        name=str(name),
        shape=str(shape),
        hung=str(hung),
        counted=bool(counted),
        brochure=round(told / 10) * 10,
        wheelbase=float(base),  # type: ignore[arg-type]
        mass=mass,
        ahead=ahead,
        front=max(reach, half + 10 if tracks else 0.0),
        rear=max(tail, half + 10 if tracks else 20.0),
        running="tracks" if tracks else "wheels",
        parts=tuple(parts + left_out),
    )
