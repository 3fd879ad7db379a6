"""What nobody measured, as such things usually are: figures with a band, and why.

The book keeps only what somebody read or taped. What it lacks is estimated here where that is
honest, from the kind and size of the thing (:mod:`mechanics.typical`), and goes away as soon as
the box is filled. Ratings are never estimated.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import Enum
from typing import Final

from book.models import Hitch, Known, Machine, Thing, Trailer, Truck
from measures import Quantity, UnitSystem
from mechanics import typical
from mechanics.attitude import rates_from_arches
from mechanics.errors import InputError
from mechanics.typical import Estimate, Hung, MachineKind, TrailerKind
from wording.estimates import TOLD, Told, band


class Measure(Enum):
    """What kind of figure an estimate is, so that the edge knows its unit."""

    MASS = "mass"
    LENGTH = "length"
    AHEAD = "ahead"
    PART = "part"


@dataclass(frozen=True, kw_only=True, slots=True)
class Guessed:
    """One figure that was not measured.

    ``of`` and ``name`` are what a plan calls it: a truck's, a trailer's or an item's.
    """

    of: str
    name: str
    measure: Measure
    estimate: Estimate

    @property
    def box(self) -> str:
        """The box that replaces it."""
        return box_of(self.of, self.name)

    @property
    def told(self) -> Told:
        """Its words."""
        return TOLD[self.of, self.name]

    def band(self, unit: UnitSystem) -> str:
        """The band in the person's units."""
        return band(self.measure.value, self.estimate, unit)


@dataclass(frozen=True, kw_only=True, slots=True)
class Figure:
    """A figure in SI, as entered or as estimated, and how far it may be off."""

    si: float
    tolerance: float = 0.0
    guessed: Guessed | None = None

    @classmethod
    def entered(cls, quantity: Quantity) -> Figure:
        """One that somebody entered, taken as exact; tolerances of the yard come on top."""
        return cls(si=float(quantity.si))

    @classmethod
    def of(cls, guessed: Guessed) -> Figure:
        """The middle of an estimate's band."""
        found = guessed.estimate
        return cls(si=found.value, tolerance=found.tolerance, guessed=guessed)

    @property
    def least(self) -> float:
        """The least it may be."""
        return self.si - self.tolerance

    @property
    def most(self) -> float:
        """The most it may be."""
        return self.si + self.tolerance


# trucks -------------------------------------------------------------------------------


def wheelbase(truck: Truck) -> Figure | None:
    """Entered, else by the truck's rating; ``None`` where that is not known either."""
    if truck.wheelbase is not None:
        return Figure.entered(truck.wheelbase)
    if truck.gvwr is None:
        return None
    return Figure.of(
        Guessed(
            of="truck",
            name="wheelbase",
            measure=Measure.LENGTH,
            estimate=typical.wheelbase_m(float(truck.gvwr.si)),
        )
    )


def ball_place(hitch: Hitch) -> Figure:
    """How far the ball stands behind the rear axle: entered, else as such hitches do."""
    if hitch.offset is not None:
        return Figure.entered(hitch.offset)
    over_bed = hitch.type in (Hitch.Type.GOOSENECK, Hitch.Type.FIFTH_WHEEL)
    return Figure.of(
        Guessed(
            of="truck",
            name="hitch_offset",
            measure=Measure.LENGTH,
            estimate=typical.ball_behind_m(over_bed=over_bed),
        )
    )


def front_seat(base: Figure) -> Figure:
    """How far ahead of the rear axle a front seat is, with such a wheelbase: where who or what
    rides in a truck is taken to be when nobody says."""
    return Figure.of(
        Guessed(
            of="truck",
            name="cargo.ahead_of_rear_axle",
            measure=Measure.LENGTH,
            estimate=typical.seat_ahead_m(Estimate(least=base.least, most=base.most)),
        )
    )


def driver(truck: Truck) -> tuple[Figure, Figure] | None:
    """Mass and place ahead of the rear axle of one person, where the book says nothing of who
    or what rides in the truck; ``None`` where it does, or its length cannot be told."""
    base = wheelbase(truck)
    if base is None or (truck.pk and truck.loads.all()):
        return None
    person = Guessed(
        of="truck",
        name="cargo",
        measure=Measure.MASS,
        estimate=typical.PERSON,
    )
    return Figure.of(person), front_seat(base)


def curb_part(truck: Truck) -> Guessed | None:
    """The empty truck by its rating alone, where neither scale, papers nor sticker say it."""
    if truck.gvwr is None:
        return None
    return Guessed(
        of="truck",
        name="empty_mass",
        measure=Measure.MASS,
        estimate=typical.curb_kg(float(truck.gvwr.si), None),
    )


FRONT_SHARE: Final = Guessed(
    of="truck",
    name="front_share",
    measure=Measure.PART,
    estimate=typical.FRONT_PART,
)


def rear_rate(truck: Truck) -> tuple[Estimate | None, bool]:
    """Spring rate of the rear axle in kg/m, and whether it was measured at the arches; by the
    truck's rating where it was not."""
    base = wheelbase(truck)
    readings = (truck.arch_rear, truck.arch_rear_loaded, truck.arch_load_mass)
    if base is not None and None not in readings:
        _, rate = rates_from_arches(
            mass_kg=float(truck.arch_load_mass.si),
            ahead_of_rear_axle_m=0.0
            if truck.arch_load_ahead is None
            else float(truck.arch_load_ahead.si),
            wheelbase_m=base.si,
            front_drop_m=0.0,
            rear_drop_m=float(truck.arch_rear.si - truck.arch_rear_loaded.si),
        )
        if rate is not None:
            return Estimate(least=rate, most=rate), True
    if truck.gvwr is None:
        return None, False
    return typical.rear_rate_kg_per_m(float(truck.gvwr.si)), False


def truck_source(truck: Truck) -> str:
    """Where its empty weight is taken from: as said where that is there, else the surest that
    is; empty where nothing is."""
    there = {
        Truck.EmptyFrom.AXLES: None not in (truck.front_axle_mass, truck.rear_axle_mass),
        Truck.EmptyFrom.KERB: truck.kerb_mass is not None,
        Truck.EmptyFrom.STICKER: None not in (truck.gvwr, truck.payload),
    }
    said = Truck.EmptyFrom(truck.empty_from)
    if there[said]:
        return said
    return next((str(source) for source, known in there.items() if known), "")


ONE_PERSON: Final = "one person"
"""Who is counted where nobody is entered."""


def truck_guesses(truck: Truck, hitch: Hitch | None = None) -> Iterator[Guessed]:
    """What is estimated of a truck, hitched at one of its hitches or at any."""
    source = truck_source(truck)
    if not source and (curb := curb_part(truck)) is not None:
        yield curb
    if source != Truck.EmptyFrom.AXLES and truck.front_share is None and (source or truck.gvwr):
        yield FRONT_SHARE
    hitches = list(truck.hitches.all()) if hitch is None else [hitch]
    base = wheelbase(truck)
    figures = [base, *(ball_place(one) for one in hitches)]
    if (people := driver(truck)) is not None:
        figures.append(people[0])
    elif base and truck.pk and any(one.ahead_of_rear_axle is None for one in truck.loads.all()):
        figures.append(front_seat(base))
    yield from _guessed(figures)


def _guessed(figures: list[Figure | None]) -> Iterator[Guessed]:
    for figure in figures:
        if figure is not None and figure.guessed is not None:
            yield figure.guessed


# trailers -----------------------------------------------------------------------------


def deck_start(trailer: Trailer) -> Figure:
    """Where the deck begins behind the coupler: entered, else as such trailers have it."""
    if trailer.deck_start is not None:
        return Figure.entered(trailer.deck_start)
    return Figure.of(
        Guessed(
            of="trailer",
            name="deck.start",
            measure=Measure.LENGTH,
            estimate=typical.deck_start_m(over_bed=trailer.over_bed),
        )
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class AxlePlaces:
    """Where a trailer's axles stand behind the coupler, in m, and how far the whole group may
    be off; ``guessed`` where nobody taped any of it, ``spaced`` where only their spacing is the
    usual one."""

    places: tuple[float, ...]
    tolerance: float = 0.0
    guessed: Guessed | None = None
    spaced: bool = False

    @property
    def middle(self) -> float:
        """Middle of the group."""
        return sum(self.places) / len(self.places)


def axle_places(trailer: Trailer) -> AxlePlaces | None:
    """As taped one by one, else about their taped middle, else as such decks have them;
    ``None`` where the number of axles or the deck is not known."""
    axles = list(trailer.axles.all())
    if not axles:
        return None
    taped = [None if a.position is None else float(a.position.si) for a in axles]
    if all(place is not None for place in taped):
        return AxlePlaces(places=tuple(place or 0.0 for place in taped))
    gawr = axles[0].gawr
    spacing = typical.axle_spacing_m(None if gawr is None else float(gawr.si))
    steps = [(n - (len(axles) - 1) / 2) * spacing.value for n in range(len(axles))]
    off = spacing.tolerance * (len(axles) - 1) / 2
    if trailer.axles_at is not None:
        middle = float(trailer.axles_at.si)
        return AxlePlaces(places=tuple(middle + step for step in steps), spaced=len(axles) > 1)
    one = next(((n, place) for n, place in enumerate(taped) if place is not None), None)
    if one is not None:
        n, place = one
        return AxlePlaces(
            places=tuple(place + step - steps[n] for step in steps), tolerance=off, spaced=True
        )
    guessed = _axles_guessed(trailer)
    if guessed is None:
        return None
    middle = guessed.estimate.value
    return AxlePlaces(
        places=tuple(middle + step for step in steps),
        tolerance=guessed.estimate.tolerance,
        guessed=guessed,
    )


def _axles_guessed(trailer: Trailer) -> Guessed | None:
    if trailer.deck_length is None:
        return None
    start = deck_start(trailer)
    band = Estimate(least=start.least, most=start.most)
    return Guessed(
        of="trailer",
        name="axles",
        measure=Measure.LENGTH,
        estimate=typical.axles_m(
            deck_start=band,
            deck_length_m=float(trailer.deck_length.si),
            over_bed=trailer.over_bed,
        ),
    )


def track_width(trailer: Trailer) -> Figure:
    """Tire centre to tire centre: entered, else by the deck and where the wheels are."""
    if trailer.track_width is not None:
        return Figure.entered(trailer.track_width)
    width = None if trailer.deck_width is None else float(trailer.deck_width.si)
    return Figure.of(
        Guessed(
            of="trailer",
            name="track_width",
            measure=Measure.LENGTH,
            estimate=typical.track_width_m(
                deck_width_m=width, under=trailer.fenders == Trailer.Fenders.UNDER
            ),
        )
    )


def empty_mass(trailer: Trailer) -> Figure | None:
    """Entered, else by kind, rating, deck and number of axles, the usual number where none are
    entered; ``None`` where rating or deck is not known."""
    if trailer.empty_mass is not None:
        return Figure.entered(trailer.empty_mass)
    if trailer.gvwr is None or trailer.deck_length is None:
        return None
    kind = TrailerKind.GOOSENECK if trailer.over_bed else TrailerKind(trailer.kind)
    return Figure.of(
        Guessed(
            of="trailer",
            name="empty_mass",
            measure=Measure.MASS,
            estimate=typical.empty_kg(
                kind,
                float(trailer.gvwr.si),
                float(trailer.deck_length.si),
                axles=len(trailer.axles.all()) or None,
            ),
        )
    )


def empty_tongue(trailer: Trailer) -> Figure | None:
    """Entered, else as part of the empty mass by where the axles stand; ``None`` where those
    are not known."""
    if trailer.empty_tongue_mass is not None:
        return Figure.entered(trailer.empty_tongue_mass)
    mass, axles = empty_mass(trailer), axle_places(trailer)
    if mass is None or axles is None or trailer.deck_length is None:
        return None
    start = deck_start(trailer)
    # the deck with the axles under it goes back and forth as one where neither was taped
    off = axles.tolerance if axles.guessed is not None else start.tolerance
    try:
        parts = [
            typical.empty_tongue_part(
                deck_start_m=start.si,
                deck_length_m=float(trailer.deck_length.si),
                axles_m=axles.middle + by,
                ramps=trailer.tail in (Trailer.Tail.GATE, Trailer.Tail.RAMPS),
            )
            for by in (-off / 2, off / 2)
        ]
    except InputError:
        return None
    least = min(part.least for part in parts)
    most = max(part.most for part in parts)
    return Figure.of(
        Guessed(
            of="trailer",
            name="empty_tongue_mass",
            measure=Measure.MASS,
            estimate=Estimate(least=least * mass.least, most=most * mass.most),
        )
    )


def _trailer(trailer: Trailer) -> Iterator[Guessed]:
    yield from _guessed([empty_mass(trailer), empty_tongue(trailer)])
    if trailer.deckless:
        return
    yield from _guessed([deck_start(trailer)])
    if (axles := axle_places(trailer)) is not None and axles.guessed is not None:
        yield axles.guessed
    yield from _guessed([track_width(trailer)])


# machines -----------------------------------------------------------------------------

KINDS: Final = {
    Machine.Shape.TRACTOR: MachineKind.TRACTOR,
    Machine.Shape.LOADER: MachineKind.SKID_STEER,
    Machine.Shape.EXCAVATOR: MachineKind.EXCAVATOR,
    Machine.Shape.ROLLER: MachineKind.ROLLER,
    Machine.Shape.CAR: MachineKind.CAR,
    Machine.Shape.IMPLEMENT: MachineKind.IMPLEMENT,
    Machine.Shape.PALLET: MachineKind.PALLET,
}
"""A machine is estimated as what it is drawn as."""


def hung_on(machine: Machine) -> tuple[Hung, ...]:
    """What may hang on it: as said, else anything that may hang on its kind."""
    if machine.hung:
        return (Hung(machine.hung),)
    if machine.shape in (Machine.Shape.TRACTOR, Machine.Shape.LOADER):
        return tuple(Hung)
    return (Hung.NOTHING,)


def whole_mass(machine: Machine) -> Figure | None:
    """Of a machine entered whole: as entered, from a brochure as it is hauled; ``None`` where
    no mass is there."""
    if machine.mass is None:
        return None
    as_read = (
        machine.mass_known != Known.BROCHURE
        or machine.brochure_checked
        or machine.mass_tolerance is not None
    )
    if as_read:
        return Figure.entered(machine.mass)
    kind = KINDS[Machine.Shape(machine.shape)]
    found = [
        typical.as_hauled_kg(kind, float(machine.mass.si), hung, counted=machine.hung_counted)
        for hung in hung_on(machine)
    ]
    band = Estimate(least=min(e.least for e in found), most=max(e.most for e in found))
    return Figure.of(
        Guessed(
            of="item",
            name="mass",
            measure=Measure.MASS,
            estimate=band,
        )
    )


ANYWHERE: Final = Estimate(least=0.3, most=0.7)
"""Where a machine balances of which only the length is known, as a part of that from its tail.
Common practice, no source."""


def balance(machine: Machine) -> Figure | None:
    """How far ahead of its mark a machine balances: entered, else by kind, wheelbase and what
    hangs on it, else somewhere about the middle of its length; ``None`` without a length."""
    if machine.balance_ahead is not None:
        return Figure.entered(machine.balance_ahead)
    kind = KINDS[Machine.Shape(machine.shape)]
    reach = (machine.reach_front, machine.reach_rear)
    if machine.wheelbase is not None and machine.running != Machine.Running.SKIDS:
        length = float(machine.wheelbase.si)
        found = [typical.balance_ahead_m(kind, hung, length) for hung in hung_on(machine)]
        tail = _rear_end(machine, length)
    elif None not in reach:
        tail = -float(machine.reach_rear.si)
        length = float(machine.reach_front.si) - tail
        lies = kind in typical.OF_LENGTH
        found = [
            typical.balance_ahead_m(kind, Hung.NOTHING, length) if lies else ANYWHERE.times(length)
        ]
    else:
        return None
    return Figure.of(
        Guessed(
            of="item",
            name="cg.ahead",
            measure=Measure.AHEAD,
            estimate=Estimate(
                least=min(e.least for e in found) + tail, most=max(e.most for e in found) + tail
            ),
        )
    )


def _rear_end(machine: Machine, length: float) -> float:
    """Rear axle, or rear end of the tracks, ahead of the mark."""
    if machine.mark_ahead is not None:
        return -float(machine.mark_ahead.si)
    return -length / 2 if machine.running == Machine.Running.TRACKS else 0.0


def balance_height(machine: Machine) -> Figure | None:
    """How high it balances: entered, else by its own height; ``None`` where that is not known."""
    if machine.balance_height is not None:
        return Figure.entered(machine.balance_height)
    height = machine.height or machine.folded_height
    if height is None:
        return None
    return Figure.of(
        Guessed(
            of="item",
            name="cg.height",
            measure=Measure.LENGTH,
            estimate=typical.HEIGHT_PART[KINDS[Machine.Shape(machine.shape)]].times(
                float(height.si)
            ),
        )
    )


def _machine(machine: Machine) -> Iterator[Guessed]:
    if machine.built == Machine.Built.WHOLE:
        yield from _guessed([whole_mass(machine), balance(machine)])
    # of parts the height follows from theirs; what is set down by a loader needs none
    alone = machine.built != Machine.Built.PARTS and not (machine.pk and machine.parts.all())
    if alone and machine.shape not in (Machine.Shape.IMPLEMENT, Machine.Shape.PALLET):
        yield from _guessed([balance_height(machine)])


USUAL: Final = ("front_share", "cargo", "cargo.ahead_of_rear_axle", "track_width")
"""Estimates that nobody has to agree to before planning: how a truck stands on its axles, that one
person drives, where front seats are, and a width that matters only off the middle. They are said
all the same."""

BOXES: Final = {
    ("truck", "empty_mass"): "payload",
    ("truck", "front_share"): "empty_from",
    ("truck", "wheelbase"): "wheelbase",
    ("truck", "hitch_offset"): "hitches",
    ("truck", "cargo"): "loads",
    ("truck", "cargo.ahead_of_rear_axle"): "loads",
    ("trailer", "empty_mass"): "empty_mass",
    ("trailer", "empty_tongue_mass"): "empty_tongue_mass",
    ("trailer", "deck.start"): "deck_start",
    ("trailer", "axles"): "axles_at",
    ("trailer", "track_width"): "track_width",
    ("item", "mass"): "mass",
    ("item", "cg.ahead"): "balance_ahead",
    ("item", "cg.height"): "balance_height",
}


def box_of(of: str, name: str) -> str:
    """The box of the book that an estimated figure of a plan goes into."""
    return BOXES[of, name]


def guesses(thing: Thing) -> list[Guessed]:
    """Every figure of a thing that a plan would take as it usually is."""
    if isinstance(thing, Truck):
        return list(truck_guesses(thing))
    if isinstance(thing, Trailer):
        return list(_trailer(thing))
    if isinstance(thing, Machine):
        return list(_machine(thing))
    return []
