"""What would do: the least trailer and truck that take some loads, with something kept back.

A trailer is made up around the loads, its own weight and balance as is typical of its kind and
size (:mod:`mechanics.typical`), each load as heavy as it may be; its deck is as long as it takes to
bring the share into the middle of its range, and what then rests everywhere has to be held.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Final

from mechanics.arrange import Arrangement, Wishes, arrange
from mechanics.errors import InputError
from mechanics.hitch import Hitch, HitchPart, HitchType
from mechanics.item import Item
from mechanics.loads import compute_loads
from mechanics.placing import ROOM_BETWEEN_M
from mechanics.plan import Plan
from mechanics.rules import NEAR_HITCH, Rules, TongueSchool
from mechanics.trailer import Axle, Deck, Trailer
from mechanics.truck import Cargo, Truck
from mechanics.typical import (
    AXLES_PART,
    DECK_BEHIND,
    SPACING,
    TRACK,
    TrailerKind,
    empty_kg,
    empty_tongue_part,
    usual_axles,
)
from mechanics.units import KG_PER_LB, M_PER_FT, M_PER_IN

ROOM_TO_SHIFT_M: Final = M_PER_FT
"""Free deck at either end: a trailer that just fits cannot be balanced. Common practice, no
source."""

LONGEST_M: Final = 53 * M_PER_FT
"""Decks that are looked at."""

STEP_M: Final = 6 * M_PER_IN
FINE_M: Final = 0.01
"""Decks are tried in steps, and the least of them then this finely."""

HEAVIEST_AXLE_KG: Final = 12_000 * KG_PER_LB
"""Above it a trailer gets one axle more. Common practice, no source."""

AIM_OFF: Final = 0.0025
"""How far from the middle of its range the share may be on a deck that just does."""

JUST: Final = 1e-6
"""Part of a figure by which one that just does may fall short of it: rounding."""

SEARCH_S: Final = 0.3

SHORT_HOP, LONG_TRIP = 0.1, 0.2
"""Part of every rating that is kept back: for a few miles, and for a long trip with hills. Common
practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Wanted:
    """What is asked: the loads in driving-on order, the kind of trailer, whether its neck reaches
    over the truck's bed, the ``reserve`` that is kept back of every rating, and the mass of people,
    tools and hitch that rides in the truck beside the tongue."""

    items: tuple[Item, ...]
    kind: TrailerKind
    over_bed: bool
    reserve: float
    aboard_kg: float

    def __post_init__(self) -> None:
        if not self.items:
            raise InputError("items", "at least one load")
        if not 0 <= self.reserve < 0.5:
            raise InputError("reserve", "a part below a half")
        if not self.aboard_kg >= 0:
            raise InputError("aboard", "zero or more")


@dataclass(frozen=True, kw_only=True, slots=True)
class Needs:
    """The least that would do. Ratings include what is kept back; ``empty_kg`` is what such a
    trailer is taken to weigh, ``deck_width_m`` is ``None`` where no load's width is known.

    ``tongue_kg`` is what rests on the hitch, ``payload_kg`` what the truck has to carry with it,
    ``behind_kg`` what it has to pull: its towing rating, and its combined rating less all that it
    weighs itself. ``plan`` is the made-up outfit that holds exactly that much.
    """

    loads_kg: float
    empty_kg: float
    loaded_kg: float
    tongue_kg: float
    share: float
    gvwr_kg: float
    axles: int
    gawr_kg: float
    deck_length_m: float
    deck_width_m: float | None
    hitch_trailer_kg: float
    hitch_tongue_kg: float
    payload_kg: float
    behind_kg: float
    plan: Plan


class NothingDoesError(InputError):
    """No trailer of that kind would do."""


def needs(wanted: Wanted) -> Needs:
    """The least trailer and truck that would do.

    Raises:
        NothingDoesError: there is none of up to 53 ft.
    """
    heaviest = tuple(
        replace(item, mass_kg=item.mass_kg + item.mass_tolerance_kg, mass_tolerance_kg=0.0)
        for item in wanted.items
    )
    exact = replace(wanted, items=heaviest)
    row = sum(item.front_m + item.rear_m for item in heaviest)
    row += ROOM_BETWEEN_M * (len(heaviest) - 1)
    length = row + 2 * ROOM_TO_SHIFT_M
    stood = None
    while stood is None:
        if length > LONGEST_M:
            raise NothingDoesError("items", "loads that some trailer of that kind takes")
        stood = stood_on(exact, length)
        length += STEP_M
    length -= STEP_M
    short = length - STEP_M
    while length - short > FINE_M and short >= row + 2 * ROOM_TO_SHIFT_M:
        middle = (short + length) / 2
        found = stood_on(exact, middle)
        if found is None:
            short = middle
        else:
            length, stood = middle, found
    return _needs(exact, stood.plan)


def rated_gvwr(wanted: Wanted, deck_length_m: float) -> float:
    """The rating at which a trailer of that deck carries the loads and keeps the reserve, its own
    weight as much as such trailers weigh.

    Raises:
        NothingDoesError: it grows heavier than what it gains.
    """
    loads = sum(item.mass_kg for item in wanted.items)
    rating = loads / (1 - wanted.reserve)
    for _ in range(200):
        own = empty_kg(wanted.kind, rating, deck_length_m).most
        more = (loads + own) / (1 - wanted.reserve)
        if more - rating < 1e-6 * more:
            return more
        rating = more
        if rating > 100 * loads:
            break
    raise NothingDoesError("items", "loads that some trailer of that kind takes")


def stood_on(wanted: Wanted, length: float) -> Arrangement | None:
    """The loads on a trailer of that deck with room to shift at either end; ``None`` where they
    cannot be balanced there."""
    plan = _outfit(wanted, length)
    deck = plan.trailer.deck
    narrow = replace(
        deck,
        start_m=deck.start_m + ROOM_TO_SHIFT_M,
        length_m=deck.length_m - 2 * ROOM_TO_SHIFT_M,
    )
    least, most = plan.share_range
    aim = Rules(
        tongue=TongueSchool.CUSTOM,
        share_min=(least + most) / 2 - AIM_OFF,
        share_max=(least + most) / 2 + AIM_OFF,
    )
    tried = replace(plan, trailer=replace(plan.trailer, deck=narrow), rules=aim)
    wishes = Wishes(room_m=ROOM_BETWEEN_M, beside=False)
    found = arrange(tried, wishes, seconds=SEARCH_S).found
    if not found:
        return None
    items = tuple(
        replace(
            item,
            placement=replace(
                item.placement, reference_m=item.placement.reference_m + ROOM_TO_SHIFT_M
            ),
        )
        for item in found[0].plan.items
    )
    return replace(found[0], plan=plan.carrying(items))


def _outfit(wanted: Wanted, length: float) -> Plan:
    """An outfit without any rating around the loads."""
    rating = rated_gvwr(wanted, length)
    own = empty_kg(wanted.kind, rating, length).most
    start = DECK_BEHIND[wanted.over_bed].value
    middle = start + AXLES_PART[wanted.over_bed].value * length
    count = usual_axles(rating)
    while (rating / count) > HEAVIEST_AXLE_KG:
        count += 1
    spacing = SPACING[rating / count < 8500 * KG_PER_LB].value
    tongue = empty_tongue_part(
        deck_start_m=start,
        deck_length_m=length,
        axles_m=middle,
        ramps=wanted.kind is not TrailerKind.DUMP,
    ).value
    trailer = Trailer(
        kind=wanted.kind.value,
        empty_mass_kg=own,
        empty_tongue_mass_kg=own * tongue,
        axles=tuple(
            Axle(position_m=middle + (n - (count - 1) / 2) * spacing) for n in range(count)
        ),
        track_width_m=TRACK.value,
        deck=Deck(start_m=start, length_m=length),
    )
    # of a truck only what it pulls and carries is asked, which its own weight does not change
    aboard = Cargo(mass_kg=wanted.aboard_kg, ahead_of_rear_axle_m=1.5)
    truck = Truck(
        cargo=(aboard,) if wanted.aboard_kg else (),
        front_axle_mass_kg=2000.0,
        rear_axle_mass_kg=1500.0,
        wheelbase_m=4.0,
        hitch_offset_m=0.0 if wanted.over_bed else 1.3,
    )
    hitch = Hitch(type=HitchType.GOOSENECK if wanted.over_bed else HitchType.BALL)
    return Plan(truck=truck, hitch=hitch, trailer=trailer, items=wanted.items, rules=Rules())


def _needs(wanted: Wanted, plan: Plan) -> Needs:
    loads = compute_loads(plan)
    loaded, tongue = loads.trailer.mass_kg, loads.trailer.tongue_kg
    kept = 1 - wanted.reserve
    spare = min(kept, NEAR_HITCH)
    widths = [item.width_m for item in wanted.items if item.width_m is not None]
    found = Needs(
        loads_kg=sum(item.mass_kg for item in wanted.items),
        empty_kg=plan.trailer.empty_mass_kg,
        loaded_kg=loaded,
        tongue_kg=tongue,
        share=tongue / loaded,
        gvwr_kg=loaded / kept,
        axles=len(plan.trailer.axles),
        gawr_kg=max(loads.trailer.axles_kg) / kept,
        deck_length_m=plan.trailer.deck.length_m,
        deck_width_m=max(widths, default=None),
        hitch_trailer_kg=loaded / spare,
        hitch_tongue_kg=tongue / spare,
        payload_kg=(tongue + wanted.aboard_kg) / kept,
        behind_kg=loaded / kept,
        plan=plan,
    )
    return replace(found, plan=_rated(found, kept))


def _rated(found: Needs, kept: float) -> Plan:
    """The made-up outfit with exactly the ratings that are needed."""
    plan = found.plan
    own = plan.truck.empty_mass_kg + plan.truck.cargo_mass_kg
    truck = replace(
        plan.truck,
        payload_kg=found.payload_kg,
        max_trailer_mass_kg=found.behind_kg,
        max_tongue_mass_kg=found.tongue_kg / kept,
        gcwr_kg=(own + found.loaded_kg) / kept,
    )
    trailer = replace(
        plan.trailer,
        gvwr_kg=found.gvwr_kg,
        axles=tuple(replace(axle, gawr_kg=found.gawr_kg) for axle in plan.trailer.axles),
        deck=replace(plan.trailer.deck, width_m=found.deck_width_m),
    )
    part = HitchPart(
        name="hitch",
        max_trailer_mass_kg=found.hitch_trailer_kg,
        max_tongue_mass_kg=found.hitch_tongue_kg,
    )
    return replace(plan, truck=truck, trailer=trailer, hitch=replace(plan.hitch, parts=(part,)))


@dataclass(frozen=True, kw_only=True, slots=True)
class Offer:
    """A trailer as an advertisement has it; ``None`` is not said. ``empty_kg`` not said is taken as
    typical of its kind."""

    gvwr_kg: float | None = None
    empty_kg: float | None = None
    deck_length_m: float | None = None
    deck_width_m: float | None = None
    axles: int | None = None
    gawr_kg: float | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Point:
    """One figure of an offer held against what is needed: ``has`` is the least and the most that
    it may be, ``None`` where it is not said. ``least`` is without anything kept back."""

    name: str
    needed: float
    least: float
    has: tuple[float, float] | None

    @property
    def does(self) -> bool | None:
        """Whether it does with the reserve; ``None`` where that is not known."""
        if self.has is None:
            return None
        least, most = (one >= self.needed * (1 - JUST) for one in self.has)
        return least if least == most else None

    @property
    def passes(self) -> bool:
        """Whether it would surely be passed, even with nothing kept back."""
        return self.has is not None and self.has[1] < self.least * (1 - JUST)


def held_against(offer: Offer, found: Needs, wanted: Wanted) -> tuple[Point, ...]:
    """An offered trailer held against what is needed: what it carries, its axles, its deck."""
    loads, kept = found.loads_kg, 1 - wanted.reserve
    carries: tuple[float, float] | None = None
    if offer.gvwr_kg is not None:
        if offer.empty_kg is not None:
            own = (offer.empty_kg, offer.empty_kg)
        else:
            length = offer.deck_length_m or found.deck_length_m
            band = empty_kg(wanted.kind, offer.gvwr_kg, length, offer.axles)
            own = (band.least, band.most)
        # what is kept back is a part of the plate, not of the load
        carries = (offer.gvwr_kg * kept - own[1], offer.gvwr_kg * kept - own[0])
    points = [Point(name="carries", needed=loads, least=loads, has=carries)]
    if carries is not None and offer.gvwr_kg is not None:
        whole = offer.gvwr_kg * wanted.reserve
        points[0] = replace(points[0], least=loads - whole)
    axles = None if offer.gawr_kg is None or offer.axles is None else offer.gawr_kg * offer.axles
    together = found.gawr_kg * found.axles
    points.append(_point("axles", together, together * kept, axles))
    deck = found.deck_length_m
    points.append(_point("deck_length", deck, deck - 2 * ROOM_TO_SHIFT_M, offer.deck_length_m))
    if found.deck_width_m is not None:
        width = found.deck_width_m
        points.append(_point("deck_width", width, width, offer.deck_width_m))
    return tuple(points)


def _point(name: str, needed: float, least: float, has: float | None) -> Point:
    return Point(name=name, needed=needed, least=least, has=None if has is None else (has, has))


@dataclass(frozen=True, kw_only=True, slots=True)
class TrailerClass:
    """Trailers as they are sold, by class; invented figures of no make, common practice."""

    name: str
    kind: TrailerKind
    over_bed: bool
    gvwr_kg: float
    deck_length_m: float
    deck_width_m: float
    axles: int
    gawr_kg: float

    @property
    def offer(self) -> Offer:
        """The class as an offer, its own weight typical."""
        return Offer(
            gvwr_kg=self.gvwr_kg,
            deck_length_m=self.deck_length_m,
            deck_width_m=self.deck_width_m,
            axles=self.axles,
            gawr_kg=self.gawr_kg,
        )


def _trailers(
    kind: TrailerKind,
    rows: Sequence[tuple[str, int, int, int, int, int]],
    *,
    over_bed: bool = False,
) -> tuple[TrailerClass, ...]:
    return tuple(
        TrailerClass(
            name=name,
            kind=kind,
            over_bed=over_bed,
            gvwr_kg=gvwr * KG_PER_LB,
            deck_length_m=length * M_PER_FT,
            deck_width_m=width * M_PER_IN,
            axles=axles,
            gawr_kg=gawr * KG_PER_LB,
        )
        for name, gvwr, length, width, axles, gawr in rows
    )


TRAILER_CLASSES: Final = (
    *_trailers(
        TrailerKind.UTILITY,
        (
            ("one light axle, 10 ft", 2990, 10, 77, 1, 3500),
            ("two light axles, 16 ft", 7000, 16, 77, 2, 3500),
            ("two axles, 18 ft", 9990, 18, 82, 2, 5200),
        ),
    ),
    *_trailers(
        TrailerKind.FLATBED,
        (
            ("equipment, 18 ft", 9990, 18, 82, 2, 5200),
            ("equipment, 20 ft", 14000, 20, 82, 2, 7000),
            ("equipment, 22 ft", 16000, 22, 82, 2, 8000),
            ("deck over the wheels, 25 ft", 20000, 25, 102, 2, 10000),
        ),
    ),
    *_trailers(
        TrailerKind.TILT,
        (("tilt, 18 ft", 10000, 18, 80, 2, 5200), ("tilt, 22 ft", 16000, 22, 80, 2, 8000)),
    ),
    *_trailers(
        TrailerKind.DUMP,
        (
            ("dump, 10 ft", 7000, 10, 72, 2, 3500),
            ("dump, 12 ft", 10000, 12, 80, 2, 5200),
            ("dump, 14 ft", 14000, 14, 83, 2, 7000),
        ),
    ),
    *_trailers(
        TrailerKind.GOOSENECK,
        (
            ("gooseneck, 20 ft", 14000, 20, 82, 2, 7000),
            ("gooseneck, 25 ft", 16000, 25, 102, 2, 8000),
            ("gooseneck, dual tandem, 30 ft", 24000, 30, 102, 2, 12000),
        ),
        over_bed=True,
    ),
)
"""Typical trailers by class, from memory: invented figures, no makes."""


@dataclass(frozen=True, kw_only=True, slots=True)
class TruckClass:
    """Trucks as they are sold, by class: payload, what they may pull behind the bumper and over the
    bed, what the receiver holds on the tongue; each the least and the most that is usual."""

    name: str
    payload_kg: tuple[float, float]
    pulls_kg: tuple[float, float]
    pulls_over_bed_kg: tuple[float, float]


def _lb(least: int, most: int) -> tuple[float, float]:
    return least * KG_PER_LB, most * KG_PER_LB


TRUCK_CLASSES: Final = (
    TruckClass(
        name="half-ton",
        payload_kg=_lb(1300, 2100),
        pulls_kg=_lb(7000, 12000),
        pulls_over_bed_kg=_lb(0, 0),
    ),
    TruckClass(
        name="three-quarter-ton",
        payload_kg=_lb(2000, 3600),
        pulls_kg=_lb(12000, 18000),
        pulls_over_bed_kg=_lb(14000, 18000),
    ),
    TruckClass(
        name="one-ton, single rear wheels",
        payload_kg=_lb(3300, 4500),
        pulls_kg=_lb(14000, 20000),
        pulls_over_bed_kg=_lb(15000, 21000),
    ),
    TruckClass(
        name="one-ton, dual rear wheels",
        payload_kg=_lb(4500, 6500),
        pulls_kg=_lb(16000, 21000),
        pulls_over_bed_kg=_lb(24000, 35000),
    ),
    TruckClass(
        name="medium truck",
        payload_kg=_lb(6000, 12000),
        pulls_kg=_lb(18000, 24000),
        pulls_over_bed_kg=_lb(25000, 36000),
    ),
)
"""Typical trucks by class, from memory: wide bands, no makes. A door sticker says what one
carries."""


def truck_points(
    one: TruckClass, found: Needs, *, over_bed: bool, reserve: float
) -> tuple[Point, ...]:
    """A class of truck held against what is needed."""
    pulls = one.pulls_over_bed_kg if over_bed else one.pulls_kg
    return tuple(
        Point(name=name, needed=needed, least=needed * (1 - reserve), has=has)
        for name, needed, has in (
            ("payload", found.payload_kg, one.payload_kg),
            ("pulls", found.behind_kg, pulls),
        )
    )
