"""The hitch: its parts, each with its own ratings, and spring bars where used."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from mechanics.errors import InputError


class HitchType(str, Enum):
    """What the trailer is coupled by."""

    BALL = "ball"
    GOOSENECK = "gooseneck"
    FIFTH_WHEEL = "fifth_wheel"
    PINTLE = "pintle"

    @property
    def over_bed(self) -> bool:
        """Whether it is coupled over the truck's bed, where the load on it is a pin weight."""
        return self in (HitchType.GOOSENECK, HitchType.FIFTH_WHEEL)


@dataclass(frozen=True, kw_only=True, slots=True)
class HitchPart:
    """One part of the hitch chain; the weakest governs.

    The ``_wd`` pair is the rating with weight-distributing bars; each of the two stands
    in for its weight-carrying neighbour when bars act, where it is known.
    """

    name: str
    max_trailer_mass_kg: float | None = None
    max_tongue_mass_kg: float | None = None
    max_trailer_mass_wd_kg: float | None = None
    max_tongue_mass_wd_kg: float | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class WeightDistribution:
    """Spring bars, set to give back a part of the front axle's drop (0 to 1).

    ``bar_length_m`` is from the ball back to where the bars hang on the trailer's frame.
    """

    front_axle_restoration: float
    bar_length_m: float | None = None

    def __post_init__(self) -> None:
        if not 0.0 <= self.front_axle_restoration <= 1.0:
            raise InputError(
                "hitch.weight_distribution.front_axle_restoration", "a number from 0 to 1"
            )
        if self.bar_length_m is not None and not self.bar_length_m > 0:
            raise InputError("hitch.weight_distribution.bar_length", "a length greater than zero")


@dataclass(frozen=True, kw_only=True, slots=True)
class Hitch:
    """The hitch as it stands on the truck; its own mass stands at the hitch point.

    ``ball_diameter_m`` is of the ball in use; the trailer's coupler has to be made for it.
    """

    type: HitchType
    mass_kg: float = 0.0
    ball_diameter_m: float | None = None
    parts: tuple[HitchPart, ...] = ()
    weight_distribution: WeightDistribution | None = None

    def __post_init__(self) -> None:
        if not self.mass_kg >= 0:
            raise InputError("hitch.mass", "zero or more")
        if self.ball_diameter_m is not None and not self.ball_diameter_m > 0:
            raise InputError("hitch.ball_diameter", "a diameter greater than zero")

    def trailer_limit_kg(self, part: HitchPart) -> float | None:
        """The trailer mass a part is rated for, as the hitch is used here."""
        if self.weight_distribution is not None and part.max_trailer_mass_wd_kg is not None:
            return part.max_trailer_mass_wd_kg
        return part.max_trailer_mass_kg

    def tongue_limit_kg(self, part: HitchPart) -> float | None:
        """The tongue mass a part is rated for, as the hitch is used here."""
        if self.weight_distribution is not None and part.max_tongue_mass_wd_kg is not None:
            return part.max_tongue_mass_wd_kg
        return part.max_tongue_mass_kg
