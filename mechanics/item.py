"""A machine, implement or pallet, and where it stands on the deck."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from mechanics.bounds import LONGEST_M
from mechanics.errors import InputError
from mechanics.ties import Point


class Facing(str, Enum):
    """Which way the machine's own front points."""

    FORWARD = "forward"
    BACKWARD = "backward"

    @property
    def turned(self) -> Facing:
        """The other way round."""
        return Facing.BACKWARD if self is Facing.FORWARD else Facing.FORWARD


@dataclass(frozen=True, kw_only=True, slots=True)
class BalancePoint:
    """Centre of gravity from the reference mark: ahead and left as the machine itself faces."""

    ahead_m: float
    ahead_tolerance_m: float = 0.0
    left_m: float = 0.0
    height_m: float | None = None
    height_tolerance_m: float = 0.0

    def __post_init__(self) -> None:
        if not self.ahead_tolerance_m >= 0:
            raise InputError("items.cg.ahead_tolerance", "zero or more")
        if not self.height_tolerance_m >= 0:
            raise InputError("items.cg.height_tolerance", "zero or more")


@dataclass(frozen=True, kw_only=True, slots=True)
class Contact:
    """Where an item stands on the floor: a line of wheels, or a track of some length.

    ``ahead_m`` is its middle ahead of the reference mark.
    """

    ahead_m: float
    length_m: float = 0.0

    def __post_init__(self) -> None:
        if not self.length_m >= 0:
            raise InputError("items.contacts.length", "zero or more")


@dataclass(frozen=True, kw_only=True, slots=True)
class Underside:
    """A low point of a machine as it is carried up the ramp: ``ahead_m`` of the mark,
    ``clearance_m`` square above the line through where it stands."""

    ahead_m: float
    clearance_m: float

    def __post_init__(self) -> None:
        if not self.clearance_m >= 0:
            raise InputError("items.underside.clearance", "zero or more")


@dataclass(frozen=True, kw_only=True, slots=True)
class Placement:
    """Where the reference mark stands.

    ``reference_m`` runs from the deck's front edge back, as a tape is laid; ``left_m``
    to the driver's left of the deck's centre line, whichever way the machine faces.
    ``reference_tolerance_m`` is how far from its mark the item may come to stop, either way.
    """

    reference_m: float
    facing: Facing = Facing.FORWARD
    left_m: float = 0.0
    reference_tolerance_m: float = 0.0

    def __post_init__(self) -> None:
        if not self.reference_tolerance_m >= 0:
            raise InputError("items.placement.reference_tolerance", "zero or more")


@dataclass(frozen=True, kw_only=True, slots=True)
class Item:
    """One piece of load. ``front_m`` and ``rear_m`` are its reach ahead of and behind the mark.

    ``contacts`` is where it stands on the floor; empty where that is not known. ``underside``
    are the low points that may scrape on the way on and off, ``points`` where ties may be
    hooked to. ``estimates`` names what of it nobody measured, as the plan file does.
    """

    id: str
    mass_kg: float
    cg: BalancePoint
    front_m: float
    rear_m: float
    placement: Placement
    mass_tolerance_kg: float = 0.0
    width_m: float | None = None
    height_m: float | None = None
    contacts: tuple[Contact, ...] = ()
    underside: tuple[Underside, ...] = ()
    points: tuple[Point, ...] = ()
    estimates: tuple[str, ...] = ()
    name: str = ""

    def __post_init__(self) -> None:
        if not self.mass_kg > 0:
            raise InputError("items.mass", "a mass greater than zero")
        if not self.mass_tolerance_kg >= 0:
            raise InputError("items.mass_tolerance", "zero or more")
        if not self.front_m > 0:
            raise InputError("items.front", "a reach greater than zero")
        if not self.rear_m > 0:
            raise InputError("items.rear", "a reach greater than zero")
        if not max(self.front_m, self.rear_m) <= LONGEST_M:
            raise InputError("items.front", f"a reach of at most {LONGEST_M:g} m")
        if len({point.id for point in self.points}) < len(self.points):
            raise InputError("items.points.id", "an id that no other point of the item has")

    @property
    def called(self) -> str:
        """Its name, or its id where it has none."""
        return self.name or self.id

    @property
    def direction(self) -> int:
        """+1 where a point ahead of the mark lies further rear on the deck, else -1."""
        return -1 if self.placement.facing is Facing.FORWARD else 1

    @property
    def reach_forward_m(self) -> float:
        """How far the item reaches from its mark towards the truck."""
        return self.front_m if self.placement.facing is Facing.FORWARD else self.rear_m

    @property
    def reach_rearward_m(self) -> float:
        """How far the item reaches from its mark towards the tail."""
        return self.rear_m if self.placement.facing is Facing.FORWARD else self.front_m

    @property
    def foremost_m(self) -> float:
        """Tape position of the point nearest the truck."""
        return self.placement.reference_m - self.reach_forward_m

    @property
    def rearmost_m(self) -> float:
        """Tape position of the point furthest from the truck."""
        return self.placement.reference_m + self.reach_rearward_m

    @property
    def balance_tape_m(self) -> float:
        """Tape position of the centre of gravity."""
        return self.placement.reference_m + self.direction * self.cg.ahead_m

    @property
    def balance_left_m(self) -> float:
        """Centre of gravity to the driver's left of the deck's centre line."""
        return self.placement.left_m - self.direction * self.cg.left_m

    def clear_sideways_of(self, other: Item) -> bool:
        """Whether the two may pass each other; False where a width is not known."""
        if self.width_m is None or other.width_m is None:
            return False
        apart = abs(self.placement.left_m - other.placement.left_m)
        return apart >= (self.width_m + other.width_m) / 2 - TOUCH_M

    def gap_to_m(self, other: Item) -> float:
        """Free deck between the two, negative by as much as they overlap."""
        return max(self.foremost_m - other.rearmost_m, other.foremost_m - self.rearmost_m)


TOUCH_M = 1e-9
"""Two things closer than this touch: a nanometre, far below any tape and above rounding."""
