"""The truck as it stands unhitched, with its ratings and what rides in it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import Enum

from mechanics.errors import InputError


class Drive(str, Enum):
    """Which of the truck's axles its engine drives, and its transmission can hold."""

    TWO_WHEEL = "two_wheel"
    FOUR_WHEEL = "four_wheel"


@dataclass(frozen=True, kw_only=True, slots=True)
class Cargo:
    """A person or thing on the truck.

    ``ahead_of_rear_axle_m`` is positive towards the front bumper. The tolerances are how
    far mass and place may be from the truth, either way.
    """

    mass_kg: float
    ahead_of_rear_axle_m: float
    mass_tolerance_kg: float = 0.0
    ahead_tolerance_m: float = 0.0
    name: str = ""

    def __post_init__(self) -> None:
        if not self.mass_kg > 0:
            raise InputError("truck.cargo.mass", "a mass greater than zero")
        if not self.mass_tolerance_kg >= 0:
            raise InputError("truck.cargo.mass_tolerance", "zero or more")
        if not self.ahead_tolerance_m >= 0:
            raise InputError("truck.cargo.ahead_of_rear_axle_tolerance", "zero or more")


@dataclass(frozen=True, kw_only=True, slots=True)
class Ride:
    """How high the truck carries the ball, and how far its springs give.

    ``ball_height_m`` is above the ground, unhitched, with the usual people and things
    aboard. The rates are of a whole axle, in kg per metre of wheel-arch height; a front
    rate of ``None`` is not known, and the front end is then taken as stiff.
    """

    ball_height_m: float
    rear_rate_kg_per_m: float
    front_rate_kg_per_m: float | None = None

    def __post_init__(self) -> None:
        if not self.ball_height_m > 0:
            raise InputError("truck.ride.ball_height", "a height greater than zero")
        if not self.rear_rate_kg_per_m > 0:
            raise InputError("truck.ride.rear_rate", "a rate greater than zero")
        if self.front_rate_kg_per_m is not None and not self.front_rate_kg_per_m > 0:
            raise InputError("truck.ride.front_rate", "a rate greater than zero")


@dataclass(frozen=True, kw_only=True, slots=True)
class Truck:
    """A truck, fuelled, with nobody and nothing aboard, plus its usual cargo.

    ``hitch_offset_m`` is how far behind the rear axle the hitch point stands; negative
    is ahead of it, as with a gooseneck. A rating that is ``None`` is not known. Tire
    capacities are of all tires on the axle. ``empty_mass_tolerance_kg`` is of both axle
    masses together, ``None`` where that is no less than the two add up to: of a truck whose
    sticker says what it weighs, only how it stands on its axles may be unsure.

    ``estimates`` names what of it nobody measured, as the plan file does.
    """

    front_axle_mass_kg: float
    rear_axle_mass_kg: float
    wheelbase_m: float
    hitch_offset_m: float
    front_gawr_kg: float | None = None
    rear_gawr_kg: float | None = None
    gvwr_kg: float | None = None
    gcwr_kg: float | None = None
    max_trailer_mass_kg: float | None = None
    payload_kg: float | None = None
    max_tongue_mass_kg: float | None = None
    front_tire_capacity_kg: float | None = None
    rear_tire_capacity_kg: float | None = None
    front_axle_mass_tolerance_kg: float = 0.0
    rear_axle_mass_tolerance_kg: float = 0.0
    empty_mass_tolerance_kg: float | None = None
    wheelbase_tolerance_m: float = 0.0
    hitch_offset_tolerance_m: float = 0.0
    cargo: tuple[Cargo, ...] = ()
    ride: Ride | None = None
    drive: Drive | None = None
    estimates: tuple[str, ...] = ()
    name: str = ""

    def __post_init__(self) -> None:
        if not self.front_axle_mass_kg > 0:
            raise InputError("truck.front_axle_mass", "a mass greater than zero")
        if not self.rear_axle_mass_kg > 0:
            raise InputError("truck.rear_axle_mass", "a mass greater than zero")
        if not self.wheelbase_m > 0:
            raise InputError("truck.wheelbase", "a length greater than zero")
        if not self.front_axle_mass_tolerance_kg >= 0:
            raise InputError("truck.front_axle_mass_tolerance", "zero or more")
        if not self.rear_axle_mass_tolerance_kg >= 0:
            raise InputError("truck.rear_axle_mass_tolerance", "zero or more")
        if self.empty_mass_tolerance_kg is not None and not self.empty_mass_tolerance_kg >= 0:
            raise InputError("truck.empty_mass_tolerance", "zero or more")
        if not 0 <= self.wheelbase_tolerance_m < self.wheelbase_m:
            raise InputError("truck.wheelbase_tolerance", "zero or more, less than the wheelbase")
        if not self.hitch_offset_tolerance_m >= 0:
            raise InputError("truck.hitch_offset_tolerance", "zero or more")

    @property
    def empty_off_kg(self) -> float:
        """How far the whole empty truck may be off, either way."""
        axles = self.front_axle_mass_tolerance_kg + self.rear_axle_mass_tolerance_kg
        own = self.empty_mass_tolerance_kg
        return axles if own is None else min(own, axles)

    @property
    def shapes(self) -> tuple[Truck, ...]:
        """The truck with wheelbase and ball at each end of their tolerances; itself where both
        are exact. Its axles' loads are monotone in either, so nothing between is worse."""
        wheelbases = _ends(self.wheelbase_m, self.wheelbase_tolerance_m)
        offsets = _ends(self.hitch_offset_m, self.hitch_offset_tolerance_m)
        if len(wheelbases) == len(offsets) == 1:
            return (self,)
        return tuple(
            replace(
                self,
                wheelbase_m=wheelbase,
                hitch_offset_m=offset,
                wheelbase_tolerance_m=0.0,
                hitch_offset_tolerance_m=0.0,
            )
            for wheelbase in wheelbases
            for offset in offsets
        )

    @property
    def empty_mass_kg(self) -> float:
        """Both unhitched axle masses together, nobody and nothing aboard."""
        return self.front_axle_mass_kg + self.rear_axle_mass_kg

    @property
    def cargo_mass_kg(self) -> float:
        """People, tools and whatever else rides in the truck."""
        return sum(c.mass_kg for c in self.cargo)

    @property
    def payload_limit_kg(self) -> float | None:
        """The sticker's payload, else GVWR less the empty truck, else ``None``."""
        if self.payload_kg is not None:
            return self.payload_kg
        if self.gvwr_kg is not None:
            return self.gvwr_kg - self.empty_mass_kg
        return None


def _ends(value: float, tolerance: float) -> tuple[float, ...]:
    return (value - tolerance, value + tolerance) if tolerance else (value,)
