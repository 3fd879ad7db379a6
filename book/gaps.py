"""What a thing lacks, and which verdicts that blocks. It never stops a thing from being saved."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, Final

from book.chain import FITS
from book.estimates import USUAL, guesses
from book.figures import (
    bulk_lacks,
    machine_lacks,
    tow_limit_kg,
    trailer_lacks,
    truck_lacks,
)
from book.gear import gear_limit
from book.models import Bulk, Gear, Hitch, HitchPart, Machine, Place, Thing, Trailer, Truck
from measures import UnitSystem

ANY_PLAN: Final = "any plan with it"
"""What is blocked by whatever no plan can be made without."""

CLIMB: Final = "on and off"
"""What is blocked by whatever says nothing of the road, and all of the ramps."""


TIES: Final = "tied down"
"""What is blocked by whatever says nothing but how a load is held on the deck."""


SURE: Final = "saying it for sure"
"""What is blocked by a figure that is estimated."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Gap:
    """Something not known, and what cannot be said without it."""

    words: str
    blocks: str
    estimate: str = ""
    """What stands in for it, as a band; ``box`` is where the figure itself goes."""
    box: str = ""
    usual: bool = False
    """Whether the estimate is one that nobody has to agree to before planning."""

    @property
    def stops_plans(self) -> bool:
        """Whether no plan can be made at all."""
        return self.blocks == ANY_PLAN


def gaps(thing: Thing, units: UnitSystem = UnitSystem.US) -> list[Gap]:
    """What the thing lacks, as plates in those units call it: what stops every plan first, then
    what an estimate stands in for."""
    stopping = [Gap(words=words, blocks=ANY_PLAN) for words in stops(thing)]
    estimated = [
        Gap(
            words=guess.told.words,
            blocks=SURE,
            estimate=guess.band(units),
            box=guess.box,
            usual=guess.name in USUAL,
        )
        for guess in guesses(thing)
    ]
    said = {gap.words for gap in stopping}
    others = (gap for gap in _GAPS[type(thing)](thing, units) if gap.words not in said)
    return [*stopping, *estimated, *others]


def stops(thing: Thing) -> list[str]:
    """What the thing lacks without which no plan can be made at all."""
    return _STOPS[type(thing)](thing)


def _truck_stops(truck: Truck) -> list[str]:
    return truck_lacks(truck) + ([] if truck.hitches.all() else ["a hitch"])


def _machine_stops(machine: Machine) -> list[str]:
    configurations = list(machine.configurations.all())
    if machine.built != Machine.Built.PARTS or not configurations:
        return machine_lacks(machine)
    return list(dict.fromkeys(w for c in configurations for w in machine_lacks(machine, c)))


STOPPED_BY: Final = {
    Truck: ("hitches",),
    Trailer: ("axles",),
    Machine: ("parts", "configurations__parts"),
    Bulk: (),
    Gear: (),
    Place: (),
}
"""What of a thing has to be read to know what stops its plans."""

_STOPS: Final[dict[type[Thing], Callable[[Any], list[str]]]] = {
    Truck: _truck_stops,
    Trailer: trailer_lacks,
    Machine: _machine_stops,
    Bulk: bulk_lacks,
    HitchPart: lambda part: [],
    Gear: lambda gear: [],
    Place: lambda place: [],
}


def _truck_gaps(truck: Truck, units: UnitSystem) -> Iterator[Gap]:
    hitches = list(truck.hitches.all())
    metric = truck.plate == Truck.Plate.METRIC
    rating, train = ("MAM", "gross train mass") if metric else ("GVWR", "GCWR")
    for field, words, blocks in (
        ("front_gawr", "front axle rating", "truck front axle"),
        ("rear_gawr", "rear axle rating", "truck rear axle"),
        ("gvwr", rating, f"truck {rating}"),
        ("gcwr", train, train),
    ):
        if getattr(truck, field) is None:
            yield Gap(words=words, blocks=blocks)
    if tow_limit_kg(truck) is None:
        yield Gap(words="tow rating", blocks="tow rating")
    if truck.payload is None and truck.gvwr is None:
        yield Gap(words="payload", blocks="truck payload")
    for hitch in hitches:
        parts = [link.part for link in hitch.links.all()]
        if not parts:
            yield Gap(words=f"parts of {hitch.name}", blocks="hitch chain")
        elif hitch.type in (Hitch.Type.BALL, Hitch.Type.GOOSENECK) and not any(
            p.kind in FITS[Hitch.Type(hitch.type)] and p.ball_size is not None for p in parts
        ):
            yield Gap(words=f"ball size on {hitch.name}", blocks="ball in coupler")


def _trailer_gaps(trailer: Trailer, units: UnitSystem) -> Iterator[Gap]:
    if trailer.gvwr is None:
        rating = "MAM" if units is UnitSystem.METRIC else "GVWR"
        yield Gap(words=rating, blocks=f"trailer {rating}")
    unrated = [n + 1 for n, axle in enumerate(trailer.axles.all()) if axle.gawr is None]
    if unrated:
        numbers = " and ".join(str(n) for n in unrated)
        yield Gap(words=f"rating of axle {numbers}", blocks="trailer axles")
    parts = [link.part for link in trailer.links.all()]
    couplers = [p for p in parts if p.kind == HitchPart.Kind.COUPLER]
    if not couplers:
        yield Gap(words="coupler", blocks="hitch chain")
    elif all(p.ball_size is None for p in couplers):
        yield Gap(words="ball size of the coupler", blocks="ball in coupler")
    if trailer.deck_width is None:
        yield Gap(words="deck width", blocks="deck width")
    yield from _climbing_gaps(trailer)
    anchors = list(trailer.anchors.all())
    yield from _place_gaps("anchors", anchors)
    weak = [anchor.name for anchor in anchors if anchor.wll is None]
    if weak:
        yield Gap(words=f"what {_listed(weak)} {_hold(weak)}", blocks=f"anchors, {TIES}")


def _place_gaps(many: str, places: list[Any]) -> Iterator[Gap]:
    """Places that ties run between: none at all, or guessed ones."""
    if not places:
        yield Gap(words=many, blocks=TIES)
    guessed = [place.name for place in places if place.guess]
    if guessed:
        yield Gap(
            words=f"measured place of {_listed(guessed)}", blocks=f"{TIES} for sure, not as likely"
        )


def _listed(names: list[str]) -> str:
    """A few names, and how many more."""
    few = ", ".join(names[:3])
    return few if len(names) <= 3 else f"{few} and {len(names) - 3} more"


def _hold(names: list[str]) -> str:
    return "holds" if len(names) == 1 else "hold"


def _climbing_gaps(trailer: Trailer) -> Iterator[Gap]:
    """What nobody can say without of how a machine gets onto a trailer."""
    if trailer.deck_height is None:
        yield Gap(words="deck height", blocks=f"{CLIMB}, level")
    if not trailer.tail:
        yield Gap(words="what its tail is", blocks=CLIMB)
    elif trailer.tail == Trailer.Tail.TILTS:
        if trailer.bed_hinge is None:
            yield Gap(words="hinge of the deck", blocks=CLIMB)
    elif trailer.tail != Trailer.Tail.OPEN and trailer.ramp_length is None:
        yield Gap(words="length of gate or ramps", blocks=CLIMB)
    if trailer.stands and trailer.stands_gap is None:
        yield Gap(words="gap under the stands", blocks="what the stands hold")
    bed = (trailer.bed_hinge, trailer.bed_mass, trailer.bed_balance)
    if trailer.kind == Trailer.Kind.DUMP and not trailer.bed_latched and None in bed:
        yield Gap(words="hinge, mass and balance point of the bed", blocks="whether the bed lifts")


def _machine_gaps(machine: Machine, units: UnitSystem) -> Iterator[Gap]:
    if machine.width is None:
        yield Gap(words="width", blocks="deck width, standing side by side")
    yield from _place_gaps("points to tie it by", [p for p in machine.points.all() if p.usable])
    if machine.shape in (Machine.Shape.IMPLEMENT, Machine.Shape.PALLET):
        # set down by a loader, not driven on
        return
    if machine.wheelbase is None and machine.running != Machine.Running.SKIDS:
        yield Gap(words="wheelbase or length of track", blocks=f"{CLIMB}, frame")
    if (
        machine.balance_height is None
        and machine.built != Machine.Built.PARTS
        and all(guess.name != "cg.height" for guess in guesses(machine))
    ):
        yield Gap(words="how high it balances", blocks=CLIMB)
    hangs = (machine.nose_clearance, machine.belly_clearance, machine.tail_clearance)
    if all(one is None for one in hangs):
        yield Gap(words="clearances at nose, belly and tail", blocks="whether it scrapes")


def _part_gaps(part: HitchPart, units: UnitSystem) -> Iterator[Gap]:
    if part.max_trailer_mass is None and part.kind != HitchPart.Kind.HEAD:
        yield Gap(words="trailer rating", blocks="hitch chain")
    if part.max_tongue_mass is None and part.kind not in (
        HitchPart.Kind.CHAINS,
        HitchPart.Kind.BALL,
    ):
        yield Gap(words="tongue rating", blocks="hitch chain")
    if part.ball_size is None and part.kind in (*HitchPart.BALLS, HitchPart.Kind.COUPLER):
        yield Gap(words="ball size", blocks="ball in coupler")


def _bulk_gaps(bulk: Bulk, units: UnitSystem) -> Iterator[Gap]:
    if bulk.width is None:
        yield Gap(words="width", blocks="deck width, standing side by side")


def _distance_gaps(place: Place, units: UnitSystem) -> Iterator[Gap]:
    if not place.home and place.from_yard is None and place.latitude is None:
        yield Gap(words="how far it is", blocks="the miles of a day")


def _gear_gaps(gear: Gear, units: UnitSystem) -> Iterator[Gap]:
    if gear.retired:
        return
    if gear_limit(gear).kg is None:
        yield Gap(words="working load limit", blocks=f"{TIES} with it")
    if gear.runs and gear.length is None:
        yield Gap(words="length", blocks="whether it reaches")
    if gear.inspected_on is None:
        yield Gap(words="when it was last looked over", blocks="whether to trust it")


_GAPS: dict[type, Callable[[Any, UnitSystem], Iterator[Gap]]] = {
    Truck: _truck_gaps,
    HitchPart: _part_gaps,
    Trailer: _trailer_gaps,
    Machine: _machine_gaps,
    Bulk: _bulk_gaps,
    Gear: _gear_gaps,
    Place: _distance_gaps,
}
