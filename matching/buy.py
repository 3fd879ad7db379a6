"""What to buy or rent for some loads: the figures that would do, typical classes, an offer."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Final

from book.errors import IncompleteError
from book.figures import si
from book.models import Hitch
from hauls.compose import load_section
from hauls.loads import Load
from hauls.units import FileUnits
from matching.buy_forms import BuyForm
from measures import UnitSystem
from measures.writing import write_length, write_mass, write_percent
from mechanics.buying import (
    TRAILER_CLASSES,
    TRUCK_CLASSES,
    Needs,
    Point,
    Wanted,
    held_against,
    needs,
    truck_points,
)
from mechanics.checks import Status
from mechanics.errors import MechanicsError
from mechanics.item import Item
from mechanics.units import KG_PER_LB, M_PER_IN
from planfile import document
from planfile.convert import Scale, item_of
from wording.buying import POINTS, Feature, features
from wording.statuses import STATUS_WORDS
from yards.models import Yard

UP: Final = {UnitSystem.US: 10, UnitSystem.METRIC: 5}
"""Masses of the sheet are written up to the next so many lb or kg, lengths to the next inch or
centimetre: a dealer is not told less than will do."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Need:
    """One figure of the sheet: what it is of, the least that would do, how it comes about."""

    name: str
    figure: str
    how: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Held:
    """Something held against the sheet: a class, a truck at hand, an offer. ``short`` says what it
    lacks."""

    name: str
    status: str
    word: str
    short: tuple[str, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Sheet:
    """The sheet to take to the dealer. ``takes`` says of what it is and what was taken for it."""

    title: str
    takes: tuple[str, ...]
    trailer: tuple[Need, ...]
    truck: tuple[Need, ...]
    features: tuple[Feature, ...]
    trailers: tuple[Held, ...]
    trucks: tuple[Held, ...]
    at_hand: tuple[Held, ...]
    offer: Held | None
    offer_points: tuple[tuple[str, str, str, str], ...]
    estimated: bool


class NoSheetError(ValueError):
    """No sheet can be made; the message says why and what to do."""


def sheet(form: BuyForm, yard: Yard, units: UnitSystem) -> Sheet:
    """What would do for the loads of a form that was found right.

    Raises:
        NoSheetError: a load lacks figures, or no trailer of that kind would do.
    """
    loads = form.loads
    try:
        items = tuple(_item(load, n, units) for n, load in enumerate(loads))
    except IncompleteError as error:
        raise NoSheetError(f"{error}. Its page in the book takes it.") from error
    wanted = Wanted(
        items=items,
        kind=form.kind,
        over_bed=form.over_bed,
        reserve=form.reserve,
        aboard_kg=form.aboard_kg,
    )
    try:
        found = needs(wanted)
    except MechanicsError as error:
        raise NoSheetError(
            "No trailer of that kind takes these loads and can be balanced. Ask for another kind, "
            "or for fewer loads at once."
        ) from error
    told = _Told(found, wanted, units)
    points = held_against(form.offer, found, wanted) if form.offered else ()
    return Sheet(
        title=", ".join(load.name for load in loads),
        takes=tuple(told.takes(form)),
        trailer=tuple(told.trailer()),
        truck=tuple(told.truck()),
        features=features(
            axles=found.axles,
            several=len(loads) > 1,
            machines=any(load.machine is not None for load in loads),
            over_bed=wanted.over_bed,
        ),
        trailers=tuple(told.classes()),
        trucks=tuple(told.truck_classes()),
        at_hand=tuple(told.at_hand(yard)),
        offer=told.held("This one", points) if points else None,
        offer_points=tuple(told.point(point) for point in points),
        estimated=any(item.estimates for item in items),
    )


def _item(load: Load, number: int, units: UnitSystem) -> Item:
    file = FileUnits.of(units)
    placement = document.Placement(reference=0)
    section = load_section(load, f"i{number}", file, placement)
    return item_of(section, Scale(file.mass.value, file.length.value))


class _Told:
    def __init__(self, found: Needs, wanted: Wanted, units: UnitSystem) -> None:
        self.found, self.wanted, self.units = found, wanted, units

    def _mass(self, kg: float) -> str:
        return write_mass(kg, self.units)

    def _up(self, kg: float) -> str:
        """A mass, written up."""
        step = UP[self.units] * (KG_PER_LB if self.units is UnitSystem.US else 1.0)
        return self._mass(-(-kg // step) * step)

    def _long(self, metres: float) -> str:
        """A length, written up."""
        step = M_PER_IN if self.units is UnitSystem.US else 0.01
        return write_length(-(-(metres - 1e-9) // step) * step, self.units, step=1)

    def takes(self, form: BuyForm) -> Iterator[str]:
        """What the sheet was made for."""
        kept = write_percent(self.wanted.reserve)
        yield f"{kept} of every rating is kept back: {form.trip_words}."
        yield (
            f"The load counts with {self._mass(self.found.loads_kg)}, as much as it may weigh; "
            f"{self._mass(self.wanted.aboard_kg)} of people, tools and hitch ride in the truck."
        )
        yield (
            f"Such a trailer is taken to weigh {self._mass(self.found.empty_kg)} itself, the most "
            f"that is usual. Loaded, {write_percent(self.found.share)} of it rests on the hitch."
        )

    def trailer(self) -> Iterator[Need]:
        """The trailer's figures."""
        found = self.found
        yield Need(
            name="GVWR on the plate",
            figure=self._up(found.gvwr_kg),
            how=f"{self._mass(found.loads_kg)} of load and {self._mass(found.empty_kg)} of trailer",
        )
        yield Need(
            name=f"{found.axles} axle{'s' if found.axles > 1 else ''} of",
            figure=self._up(found.gawr_kg),
            how="each, and its tires as much",
        )
        yield Need(
            name="Deck length",
            figure=self._long(found.deck_length_m),
            how="with room to shift the load at either end",
        )
        if found.deck_width_m is None:
            yield Need(name="Deck width", figure="not known", how="no width of the load is known")
        else:
            yield Need(
                name="Deck width between the fenders",
                figure=self._long(found.deck_width_m),
                how="the widest load",
            )
        yield Need(
            name="Coupler rated for",
            figure=self._up(found.hitch_trailer_kg),
            how=f"and {self._up(found.hitch_tongue_kg)} on it: a fifth to spare on the load",
        )

    def truck(self) -> Iterator[Need]:
        """The truck's figures."""
        found = self.found
        yield Need(
            name="Payload on the door sticker",
            figure=self._up(found.payload_kg),
            how=f"{self._mass(found.tongue_kg)} of tongue and what rides in it",
        )
        yield Need(
            name="Towing rating", figure=self._up(found.behind_kg), how="of the truck itself"
        )
        yield Need(
            name="GCWR less all that the truck weighs",
            figure=self._up(found.behind_kg),
            how="with its people and tools; a scale says what it weighs",
        )
        yield Need(
            name="Ball in the bed rated for"
            if self.wanted.over_bed
            else "Receiver, mount and ball",
            figure=self._up(found.hitch_trailer_kg),
            how=f"and {self._up(found.hitch_tongue_kg)} on it: the weakest part governs",
        )

    def held(self, name: str, points: Sequence[Point]) -> Held:
        """Something by its points."""
        if any(point.passes for point in points):
            status = Status.OVER
        elif any(point.does is False for point in points):
            status = Status.NEAR
        elif any(point.does is None for point in points):
            status = Status.UNKNOWN
        else:
            status = Status.OK
        short = tuple(
            f"{POINTS[point.name]} {self._has(point)}, needs {self._figure(point, point.needed)}"
            for point in points
            if point.does is not True
        )
        return Held(name=name, status=status.value, word=HELD_WORDS[status], short=short)

    def _figure(self, point: Point, value: float) -> str:
        return self._long(value) if point.name.startswith("deck") else self._up(value)

    def _has(self, point: Point) -> str:
        if point.has is None:
            return "not said"
        least, most = (self._as_it_is(point, one) for one in point.has)
        return least if least == most else f"{least} to {most}"

    def _as_it_is(self, point: Point, value: float) -> str:
        if point.name.startswith("deck"):
            return write_length(value, self.units, step=1)
        return self._mass(value)

    def point(self, point: Point) -> tuple[str, str, str, str]:
        """Name, what it has, what is needed, its status."""
        status = (
            Status.OVER
            if point.passes
            else {True: Status.OK, False: Status.NEAR, None: Status.UNKNOWN}[point.does]
        )
        needed = self._figure(point, point.needed)
        return POINTS[point.name], self._has(point), needed, status.value

    def classes(self) -> Iterator[Held]:
        """Typical trailers of the kind asked for."""
        for one in TRAILER_CLASSES:
            if (one.kind, one.over_bed) == (self.wanted.kind, self.wanted.over_bed):
                points = held_against(one.offer, self.found, self.wanted)
                name = f"{one.name}, {self._mass(one.gvwr_kg)}"
                yield self.held(name, points)

    def truck_classes(self) -> Iterator[Held]:
        """Typical trucks."""
        for one in TRUCK_CLASSES:
            yield self.held(
                one.name,
                truck_points(
                    one,
                    self.found,
                    over_bed=self.wanted.over_bed,
                    reserve=self.wanted.reserve,
                ),
            )

    def at_hand(self, yard: Yard) -> Iterator[Held]:
        """The yard's own trucks, by their stickers."""
        types = ("gooseneck",) if self.wanted.over_bed else ("ball", "pintle")
        hitches = Hitch.objects.filter(truck__yard=yard, type__in=types).select_related("truck")
        for hitch in hitches.prefetch_related("links__part"):
            yield self.held(str(hitch), tuple(self._truck_points(hitch)))

    def _truck_points(self, hitch: Hitch) -> Iterator[Point]:
        truck, kept = hitch.truck, 1 - self.wanted.reserve
        payload = None if truck.payload is None else si(truck.payload)
        pulls = [
            si(mass)
            for mass in (
                truck.max_trailer_mass,
                *(link.part.max_trailer_mass for link in hitch.links.all()),
            )
            if mass is not None
        ]
        for name, needed, has in (
            ("payload", self.found.payload_kg, payload),
            ("pulls", self.found.behind_kg, min(pulls, default=None)),
        ):
            yield Point(
                name=name,
                needed=needed,
                least=needed * kept,
                has=None if has is None else (has, has),
            )


HELD_WORDS: Final = {
    Status.OK: "would do",
    Status.NEAR: "with less kept back",
    Status.OVER: "too small",
    Status.UNKNOWN: STATUS_WORDS[Status.UNKNOWN],
}
"""What is said of something held against a sheet."""
