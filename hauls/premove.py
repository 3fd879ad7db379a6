"""What has to be done to each machine on the deck before the outfit moves, from its own parts."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from book.figures import parts_on
from book.models import Machine, MachinePart
from hauls.loads import Load
from measures.writing import UnitSystem, write_length
from mechanics.checks import Status
from mechanics.item import Item
from mechanics.plan import Plan
from planfile.draft import Drawn
from wording.road import ROAD

Kind = MachinePart.Kind


@dataclass(frozen=True, kw_only=True, slots=True)
class Chore:
    """One thing to do; ``key`` stands for it as long as it stays the same, ``detail`` says what to
    look for, or hold it against."""

    key: str
    words: str
    detail: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class RoadCheck:
    """How high or wide the machine stands on the deck against what the road allows."""

    status: Status
    words: str


def chores(item: Item, drawn: Drawn, load: Load | None) -> tuple[Chore, ...]:
    """What to do to a machine, by its shape and what is on it; of one that did not come from the
    book by its shape alone."""
    machine = None if load is None else load.machine
    on = (
        set()
        if machine is None or load is None
        else {Kind(part.kind) for part in parts_on(machine, load.configuration)}
    )
    found = [] if not drawn.drives else list(_driven(drawn.shape, on, machine))
    return tuple(found) or tuple(_set_down(drawn.shape))


def _driven(shape: str, on: set[MachinePart.Kind], machine: Machine | None) -> Iterator[Chore]:
    if on & {Kind.BUCKET, Kind.LOADER, Kind.GRAPPLE} or (
        shape == "loader" and Kind.FORKS not in on
    ):
        yield Chore(key="bucket", words="Bucket down flat on the deck, empty of stones and soil")
    if Kind.FORKS in on:
        yield Chore(
            key="forks", words="Forks down on the deck, tines folded or against the headboard"
        )
    if shape == "loader":
        yield Chore(key="arms", words="Loader arms all the way down")
    if Kind.BACKHOE in on:
        yield Chore(key="boom", words="Backhoe boom locked up, swing pinned")
    if shape == "excavator":
        yield Chore(key="dig", words="Boom and bucket down on the deck, house locked")
        yield Chore(key="blade", words="Blade down on the deck")
    if Kind.MOWER in on:
        yield Chore(key="mower", words="Mower deck down and off")
    if Kind.IMPLEMENT in on:
        yield Chore(key="implement", words="Implement down on the deck")
    yield Chore(key="brake", words="Parking brake on, in gear or park, engine off, key out")
    if machine is not None and machine.folded_height is not None:
        yield Chore(key="canopy", words="Canopy off, or roll bar folded and pinned")
    else:
        yield Chore(key="canopy", words="Canopy, umbrella, beacon and mirrors off or folded")
    yield Chore(key="doors", words="Doors, windows and hood latched")
    yield Chore(key="fuel", words="Fuel cap tight")
    yield Chore(key="loose", words="Loose parts, tools and chains off it or tied")


def _set_down(shape: str) -> Iterator[Chore]:
    if shape == "pallet":
        yield Chore(key="wrap", words="Wrapped or strapped in itself, nothing loose on it")
    elif shape == "implement":
        yield Chore(key="stand", words="Down on the deck, stands up, wings and tines pinned")
        yield Chore(key="loose", words="Loose parts off it or tied")
    else:
        yield Chore(key="cover", words="Covered, nothing on the rails, gate shut and pinned")


def road_checks(plan: Plan, item: Item, unit: UnitSystem) -> tuple[RoadCheck, ...]:
    """Height above the ground with the deck level, and width, against the road's."""
    road = ROAD[unit]

    def shown(metres: float) -> str:
        return write_length(metres, unit, step=1)

    found = []
    deck = plan.trailer.deck.height_m
    if item.height_m is None or deck is None:
        found.append(
            RoadCheck(
                status=Status.UNKNOWN,
                words="How high it stands is not known: its height, or the deck's.",
            )
        )
    else:
        high = deck + item.height_m
        over = high > road.height_m
        found.append(
            RoadCheck(
                status=Status.OVER if over else Status.OK,
                words=f"Stands {shown(high)} high above the ground with the deck level, of "
                f"{shown(road.height_m)}.",
            )
        )
    if item.width_m is None:
        found.append(RoadCheck(status=Status.UNKNOWN, words="Its width is not known."))
    else:
        wide = item.width_m + 2 * abs(item.placement.left_m)
        found.append(
            RoadCheck(
                status=Status.NEAR if wide > road.width_m else Status.OK,
                words=f"Takes {shown(wide)} of width, of {shown(road.width_m)}.",
            )
        )
    return tuple(found)
