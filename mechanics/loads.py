"""What the axles, the sides and the hitch carry, in closed form.

Model: rigid trailer held at the ball and by its springs, level; equalized springs share
a group's load equally, independent ones by how far each axle is pressed down when the
trailer pivots about the ball. Statics of a beam on two supports for the truck.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from mechanics.errors import BalanceError, InputError
from mechanics.patience import go_on
from mechanics.plan import Plan

BALANCE_TOLERANCE = 1e-9
"""Part of the largest force (or moment) that may be left over from rounding."""


@dataclass(frozen=True, kw_only=True, slots=True)
class TrailerLoads:
    """The loaded trailer. Axles and sides with weight distribution acting, tongue without.

    ``couple_kg_m`` is the couple of the spring bars about the ball, zero without bars;
    ``handed_kg`` the tongue load the truck receives with the bars acting. The sides are
    to the driver's left and right; the ball takes no roll, so they carry all of it.
    """

    mass_kg: float
    tongue_kg: float
    handed_kg: float
    couple_kg_m: float
    axles_kg: tuple[float, ...]
    left_kg: float
    right_kg: float
    empty_tongue_kg: float
    items_mass_kg: float
    moment_kg_m: float
    axle_positions_m: tuple[float, ...]

    def __post_init__(self) -> None:
        axles = sum(self.axles_kg)
        scale = abs(self.mass_kg) + abs(self.tongue_kg)
        _balanced("vertical force on the trailer", self.handed_kg + axles - self.mass_kg, scale)
        _balanced("the trailer's two sides", self.left_kg + self.right_kg - axles, scale)
        moment = sum(a * x for a, x in zip(self.axles_kg, self.axle_positions_m, strict=True))
        _balanced(
            "moment about the ball",
            moment - self.moment_kg_m - self.couple_kg_m,
            abs(self.moment_kg_m) + abs(self.couple_kg_m) + scale * max(self.axle_positions_m),
        )

    @property
    def axles_mass_kg(self) -> float:
        """What all trailer axles carry together."""
        return sum(self.axles_kg)

    @property
    def share(self) -> float:
        """Tongue mass over the mass of the loaded trailer."""
        return self.tongue_kg / self.mass_kg

    @property
    def added_share(self) -> float | None:
        """Part of the items' own mass that arrives on the tongue; ``None`` with no items."""
        if not self.items_mass_kg:
            return None
        return (self.tongue_kg - self.empty_tongue_kg) / self.items_mass_kg


@dataclass(frozen=True, kw_only=True, slots=True)
class TruckLoads:
    """The truck's axles, unhitched (people, cargo, hitch hardware aboard) and hitched."""

    front_unhitched_kg: float
    rear_unhitched_kg: float
    front_kg: float
    rear_kg: float
    payload_used_kg: float
    handed_kg: float
    couple_kg_m: float
    wheelbase_m: float
    hitch_offset_m: float

    def __post_init__(self) -> None:
        unhitched = self.front_unhitched_kg + self.rear_unhitched_kg
        scale = unhitched + abs(self.handed_kg)
        _balanced(
            "vertical force on the truck",
            self.front_kg + self.rear_kg - unhitched - self.handed_kg,
            scale,
        )
        _balanced(
            "moment about the truck's rear axle",
            (self.front_kg - self.front_unhitched_kg) * self.wheelbase_m
            + self.handed_kg * self.hitch_offset_m
            - self.couple_kg_m,
            scale * (self.wheelbase_m + abs(self.hitch_offset_m)) + abs(self.couple_kg_m),
        )

    @property
    def unhitched_mass_kg(self) -> float:
        """The truck with people, cargo and hitch hardware, before it is hitched."""
        return self.front_unhitched_kg + self.rear_unhitched_kg

    @property
    def mass_kg(self) -> float:
        """What the truck's axles carry together."""
        return self.front_kg + self.rear_kg


@dataclass(frozen=True, kw_only=True, slots=True)
class Loads:
    """Everything a scale would read under one plan."""

    trailer: TrailerLoads
    truck: TruckLoads

    @property
    def combination_kg(self) -> float:
        """Unhitched truck and whole trailer; the tongue is not counted twice."""
        return self.truck.unhitched_mass_kg + self.trailer.mass_kg


def bar_factor_m(plan: Plan) -> float:
    """Couple of the spring bars per unit of tongue mass, in m; zero where no bars act.

    Restoring the part ``r`` of the front axle's drop needs ``B = r T d Lc / (Lc + d)``.
    Bars cannot pull the other way, so a hitch point ahead of the rear axle gives zero.
    """
    bars = plan.hitch.weight_distribution
    offset = plan.truck.hitch_offset_m
    if bars is None or offset <= 0:
        return 0.0
    lever = plan.trailer.couple_lever_m
    return bars.front_axle_restoration * offset * lever / (lever + offset)


def compute_loads(plan: Plan, *, tilt_kg_m: float = 0.0, slope: float = 0.0) -> Loads:
    """Loads of a plan.

    ``tilt_kg_m`` is a moment about the ball beside that of the masses on a level trailer;
    positive takes load off the tongue, as a nose-high trailer does (see
    :mod:`mechanics.attitude`). ``slope`` is how far nose-up the trailer rides; it presses
    independent axles of a known rate unequally.

    An item behind the axles may make the tongue negative: the hitch then pulls up, and
    the figures say so. With weight distribution the axles, sides and truck are with the
    bars acting and ``tongue_kg`` without them, as the report format asks.

    Raises:
        InputError: the figures are so extreme that the loads overflow.
    """
    go_on()
    trailer = plan.trailer
    start = trailer.deck.start_m
    mass = trailer.empty_mass_kg
    moment = (trailer.empty_mass_kg - trailer.empty_tongue_mass_kg) * trailer.axle_centre_m
    load_moment = tilt_kg_m
    roll = 0.0
    items_mass = 0.0
    for item in plan.items:
        items_mass += item.mass_kg
        load_moment += item.mass_kg * (start + item.balance_tape_m)
        roll += item.mass_kg * item.balance_left_m
    mass += items_mass
    moment += load_moment

    lever = trailer.couple_lever_m
    empty_axle = (trailer.empty_mass_kg - trailer.empty_tongue_mass_kg) / len(trailer.axles)
    factors = trailer.axle_factors_per_m
    pressed = trailer.tilted_axles_kg(slope)
    tongue = trailer.empty_tongue_mass_kg + items_mass - load_moment / lever - sum(pressed)
    couple = bar_factor_m(plan) * max(tongue, 0.0)
    handed = tongue - couple / lever
    axles = tuple(
        empty_axle + k * (load_moment + couple) + more
        for k, more in zip(factors, pressed, strict=True)
    )
    half = sum(axles) / 2
    tilt = roll / trailer.track_width_m

    truck = plan.truck
    wheelbase, offset = truck.wheelbase_m, truck.hitch_offset_m
    front, rear = truck.front_axle_mass_kg, truck.rear_axle_mass_kg
    for cargo in truck.cargo:
        ahead = cargo.ahead_of_rear_axle_m / wheelbase
        front += cargo.mass_kg * ahead
        rear += cargo.mass_kg * (1 - ahead)
    hardware = plan.hitch.mass_kg
    front -= hardware * offset / wheelbase
    rear += hardware * (wheelbase + offset) / wheelbase

    if not math.isfinite(moment + tilt + front + rear + handed * (wheelbase + offset) / wheelbase):
        raise InputError("plan", "figures that a truck and trailer can have; these overflow")

    return Loads(
        trailer=TrailerLoads(
            mass_kg=mass,
            tongue_kg=tongue,
            handed_kg=handed,
            couple_kg_m=couple,
            axles_kg=axles,
            left_kg=half + tilt,
            right_kg=half - tilt,
            empty_tongue_kg=trailer.empty_tongue_mass_kg,
            items_mass_kg=items_mass,
            moment_kg_m=moment,
            axle_positions_m=tuple(a.position_m for a in trailer.axles),
        ),
        truck=TruckLoads(
            front_unhitched_kg=front,
            rear_unhitched_kg=rear,
            front_kg=front - handed * offset / wheelbase + couple / wheelbase,
            rear_kg=rear + handed * (wheelbase + offset) / wheelbase - couple / wheelbase,
            payload_used_kg=truck.cargo_mass_kg + hardware + handed,
            handed_kg=handed,
            couple_kg_m=couple,
            wheelbase_m=wheelbase,
            hitch_offset_m=offset,
        ),
    )


def tongue_per_metre_kg(plan: Plan) -> float | None:
    """Tongue mass gained when the heaviest item moves a metre forward; ``None`` with no items."""
    if not plan.items:
        return None
    return max(i.mass_kg for i in plan.items) / plan.trailer.couple_lever_m


def _balanced(what: str, residual: float, scale: float) -> None:
    if not abs(residual) <= BALANCE_TOLERANCE * scale:
        raise BalanceError(what, residual)
