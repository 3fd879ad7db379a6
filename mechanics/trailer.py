"""The empty trailer: two weighed figures, axles, deck."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import Enum

from mechanics.bounds import LONGEST_M
from mechanics.errors import InputError
from mechanics.tail import Bed, Dovetail, Ramp, Stands
from mechanics.ties import Anchor


class Suspension(str, Enum):
    """How a load is shared between the axles of a group."""

    EQUALIZED = "equalized"
    INDEPENDENT = "independent"


@dataclass(frozen=True, kw_only=True, slots=True)
class Axle:
    """One axle, ``position_m`` behind the coupler; ratings are of the whole axle."""

    position_m: float
    gawr_kg: float | None = None
    tire_capacity_kg: float | None = None

    def __post_init__(self) -> None:
        if not self.position_m > 0:
            raise InputError(
                "trailer.axles.position", "a distance behind the coupler, greater than zero"
            )

    @property
    def limit_kg(self) -> float | None:
        """The lesser of axle rating and tire capacity; ``None`` with neither known."""
        known = [r for r in (self.gawr_kg, self.tire_capacity_kg) if r is not None]
        return min(known) if known else None


@dataclass(frozen=True, kw_only=True, slots=True)
class Concentration:
    """The maker's figure: no more than ``mass_kg`` within any ``length_m`` of the deck."""

    mass_kg: float
    length_m: float

    def __post_init__(self) -> None:
        if not self.mass_kg > 0:
            raise InputError("trailer.deck.concentration.mass", "a mass greater than zero")
        if not self.length_m > 0:
            raise InputError("trailer.deck.concentration.length", "a length greater than zero")


@dataclass(frozen=True, kw_only=True, slots=True)
class Deck:
    """The deck; ``start_m`` behind the coupler, negative where it reaches over the truck.

    The overhangs are how far a load may reach past the front and the rear edge;
    ``start_tolerance_m`` is how far off the taped start may be, either way.
    """

    start_m: float
    length_m: float
    width_m: float | None = None
    height_m: float | None = None
    front_overhang_m: float = 0.0
    rear_overhang_m: float = 0.0
    concentration: Concentration | None = None
    start_tolerance_m: float = 0.0

    def __post_init__(self) -> None:
        if not self.start_tolerance_m >= 0:
            raise InputError("trailer.deck.start_tolerance", "zero or more")
        if not self.length_m > 0:
            raise InputError("trailer.deck.length", "a length greater than zero")
        if not self.length_m <= LONGEST_M:
            raise InputError("trailer.deck.length", f"a length of at most {LONGEST_M:g} m")
        if not abs(self.start_m) <= LONGEST_M:
            raise InputError("trailer.deck.start", f"at most {LONGEST_M:g} m from the coupler")
        if not self.front_overhang_m >= 0:
            raise InputError("trailer.deck.front_overhang", "zero or more")
        if not self.rear_overhang_m >= 0:
            raise InputError("trailer.deck.rear_overhang", "zero or more")


@dataclass(frozen=True, kw_only=True, slots=True)
class Trailer:
    """A trailer, empty, as two scale readings describe it: all of it, and its tongue.

    ``coupler_size_m`` is the ball diameter the coupler is made for. ``coupler_height_m`` is
    the height of its socket with the trailer level, ``axle_height_m`` that of the axles'
    middle line. ``axles_tolerance_m`` is how much further forward or back than taped the
    whole axle group may stand; ``axle_rate_kg_per_m`` the spring rate of one independent
    axle, ``None`` where it is not known. ``track_width_tolerance_m`` is how far off that width
    may be; it matters only where something stands off the middle. ``estimates`` names
    what of it nobody measured, as the plan file does. ``ramp``, ``dovetail``, ``stands``
    and ``bed`` are what matters while a machine is driven on (:mod:`mechanics.loading`),
    ``anchors`` where ties are hooked to (:mod:`mechanics.securing`).

    No centre of gravity is asked for: the moment of the empty trailer about the ball is
    ``(empty_mass - empty_tongue_mass) * axle_centre``.
    """

    empty_mass_kg: float
    empty_tongue_mass_kg: float
    axles: tuple[Axle, ...]
    track_width_m: float
    deck: Deck
    empty_mass_tolerance_kg: float = 0.0
    empty_tongue_mass_tolerance_kg: float = 0.0
    gvwr_kg: float | None = None
    suspension: Suspension = Suspension.EQUALIZED
    kind: str = "other"
    name: str = ""
    coupler_size_m: float | None = None
    coupler_height_m: float | None = None
    axle_height_m: float | None = None
    axles_tolerance_m: float = 0.0
    axle_rate_kg_per_m: float | None = None
    track_width_tolerance_m: float = 0.0
    estimates: tuple[str, ...] = ()
    ramp: Ramp | None = None
    dovetail: Dovetail | None = None
    stands: Stands | None = None
    bed: Bed | None = None
    anchors: tuple[Anchor, ...] = ()

    def __post_init__(self) -> None:
        if len({anchor.id for anchor in self.anchors}) < len(self.anchors):
            raise InputError("trailer.anchors.id", "an id that no other anchor has")
        if self.dovetail is not None and self.dovetail.length_m > self.deck.length_m:
            raise InputError("trailer.dovetail.length", "a length within that of the deck")
        if not self.empty_mass_kg > 0:
            raise InputError("trailer.empty_mass", "a mass greater than zero")
        if not 0 < self.empty_tongue_mass_kg < self.empty_mass_kg:
            raise InputError(
                "trailer.empty_tongue_mass",
                "a mass greater than zero and less than the empty trailer's",
            )
        if not self.empty_mass_tolerance_kg >= 0:
            raise InputError("trailer.empty_mass_tolerance", "zero or more")
        if not self.empty_tongue_mass_tolerance_kg >= 0:
            raise InputError("trailer.empty_tongue_mass_tolerance", "zero or more")
        if not self.axles:
            raise InputError("trailer.axles", "at least one axle")
        if not 0 <= self.axles_tolerance_m < min(a.position_m for a in self.axles):
            raise InputError(
                "trailer.axles_tolerance", "zero or more, and less than the first axle's position"
            )
        if self.axle_rate_kg_per_m is not None and not self.axle_rate_kg_per_m > 0:
            raise InputError("trailer.axle_rate", "a rate greater than zero")
        if not self.track_width_m > 0:
            raise InputError("trailer.track_width", "a width greater than zero")
        if not 0 <= self.track_width_tolerance_m < self.track_width_m:
            raise InputError(
                "trailer.track_width_tolerance", "zero or more, and less than the track width"
            )
        if self.coupler_size_m is not None and not self.coupler_size_m > 0:
            raise InputError("trailer.coupler_size", "a ball diameter greater than zero")

    @property
    def axle_centre_m(self) -> float:
        """Middle of the axle group behind the coupler, ``L``."""
        return sum(a.position_m for a in self.axles) / len(self.axles)

    @property
    def couple_lever_m(self) -> float:
        """Lever ``Lc`` with which a couple about the ball reaches the axles.

        The axle centre for equalized springs; the sum of squared positions over their
        sum for independent axles of equal rate. The same for a single axle.
        """
        if self.suspension is Suspension.EQUALIZED:
            return self.axle_centre_m
        return sum(a.position_m**2 for a in self.axles) / sum(a.position_m for a in self.axles)

    @property
    def axle_factors_per_m(self) -> tuple[float, ...]:
        """Load each axle takes per unit of moment about the ball, in 1/m."""
        if self.suspension is Suspension.EQUALIZED:
            share = 1.0 / (len(self.axles) * self.axle_centre_m)
            return (share,) * len(self.axles)
        squares = sum(a.position_m**2 for a in self.axles)
        return tuple(a.position_m / squares for a in self.axles)

    def tilted_axles_kg(self, slope: float) -> tuple[float, ...]:
        """What each axle takes more when the trailer rides nose-up by a slope.

        Independent axles of a known rate are pressed down by as much as the frame comes
        down on them; the moment of their forces about the ball stays what it was. Zero for
        equalized springs, which follow the frame, and without a rate.
        """
        if self.suspension is Suspension.EQUALIZED or self.axle_rate_kg_per_m is None:
            return (0.0,) * len(self.axles)
        pivot = self.couple_lever_m
        return tuple(self.axle_rate_kg_per_m * slope * (a.position_m - pivot) for a in self.axles)

    def with_axles_shifted(self, by_m: float) -> Trailer:
        """The same trailer with its axle group that much further back."""
        axles = tuple(replace(a, position_m=a.position_m + by_m) for a in self.axles)
        return replace(self, axles=axles)

    @property
    def side_limit_kg(self) -> float | None:
        """What one side may carry; ``None`` if an axle's limit is unknown.

        Equalized axles carry alike, so the weakest governs them all: half its limit times
        their number. Of independent ones each counts with half its own.
        """
        limits = [axle.limit_kg for axle in self.axles]
        known = [limit for limit in limits if limit is not None]
        if len(known) < len(limits):
            return None
        if self.suspension is Suspension.EQUALIZED:
            return min(known) * len(known) / 2
        return sum(known) / 2
