"""Typical figures of trucks, trailers and machines, by kind and size, for what nobody has measured.

Every figure here is common practice without a source unless one stands beside it: what such
things are usually found to be, with a band that most of them lie in. Never by make, and never a
rating: what something may carry is read off it or not known.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import Final

from mechanics.errors import InputError
from mechanics.units import KG_PER_LB, M_PER_FT, M_PER_IN


@dataclass(frozen=True, kw_only=True, slots=True)
class Estimate:
    """A figure that was not measured, in SI: the likeliest, and what most of its kind lie between.

    Brochures run low and parts are left out, so a band need not lie evenly about it.
    """

    value: float
    least: float
    most: float

    def __post_init__(self) -> None:
        if not self.least <= self.value <= self.most:
            raise InputError("estimate", "a likeliest figure between the least and the most")

    @property
    def tolerance(self) -> float:
        """How far the figure may be wrong at most, to either side."""
        return max(self.most - self.value, self.value - self.least)

    def times(self, factor: float) -> Estimate:
        """All of it multiplied by a figure that is not below zero."""
        return Estimate(
            value=self.value * factor, least=self.least * factor, most=self.most * factor
        )


def _band(value: float, least: float, most: float) -> Estimate:
    return Estimate(value=value, least=least, most=most)


# trucks -------------------------------------------------------------------------------

STICKER_DOUBT: Final = 0.02
"""Part by which GVWR less the sticker's payload may miss the truck as it stands: options put on
since, mud, a full tank more or less."""

LIGHT_GVWR_KG: Final = 8500 * KG_PER_LB
"""Below it pickups are of the half-ton class."""

CURB_PART: Final = {
    True: _band(0.74, 0.66, 0.80),
    False: _band(0.68, 0.58, 0.77),
}
"""Curb mass as a part of GVWR, of light pickups and of heavier ones."""

FRONT_PART: Final = _band(0.575, 0.53, 0.63)
"""Part of an empty pickup on its front axle; diesels lie high."""

WHEELBASE: Final = {
    True: _band(145 * M_PER_IN, 119 * M_PER_IN, 164 * M_PER_IN),
    False: _band(159 * M_PER_IN, 133 * M_PER_IN, 178 * M_PER_IN),
}
"""Wheelbase of light pickups and of heavier ones, from a short cab to a long bed."""

BALL_BEHIND: Final = _band(50 * M_PER_IN, 42 * M_PER_IN, 62 * M_PER_IN)
"""A ball in the receiver, behind the rear axle."""

OVER_BED_BEHIND: Final = _band(-2 * M_PER_IN, -6 * M_PER_IN, 2 * M_PER_IN)
"""A ball in the bed, behind the rear axle: as a rule a little ahead of it."""

PERSON: Final = _band(185 * KG_PER_LB, 120 * KG_PER_LB, 280 * KG_PER_LB)
"""One person with what he wears; tow ratings count 150 lb (SAE J2807, from memory)."""

SEAT_PART: Final = _band(0.45, 0.38, 0.52)
"""How far ahead of the rear axle a front seat is, as a part of the wheelbase."""


def curb_kg(gvwr_kg: float, payload_kg: float | None) -> Estimate:
    """The truck as it stands, nobody and nothing aboard: GVWR less payload where the sticker says
    that, else a part of GVWR.

    Raises:
        InputError: a payload that leaves no truck.
    """
    if payload_kg is None:
        return CURB_PART[gvwr_kg < LIGHT_GVWR_KG].times(gvwr_kg)
    curb = gvwr_kg - payload_kg
    if not curb > 0:
        raise InputError("truck.payload", "less than the truck's GVWR")
    return _band(curb, curb * (1 - STICKER_DOUBT), curb * (1 + STICKER_DOUBT))


def wheelbase_m(gvwr_kg: float) -> Estimate:
    """Wheelbase of a pickup of that rating."""
    return WHEELBASE[gvwr_kg < LIGHT_GVWR_KG]


# trailers -----------------------------------------------------------------------------


class TrailerKind(str, Enum):
    """Kinds of trailers that weigh alike for their size."""

    UTILITY = "utility"
    TILT = "tilt"
    FLATBED = "flatbed"
    DUMP = "dump"
    CAR_CARRIER = "car_carrier"
    GOOSENECK = "gooseneck"
    OTHER = "other"


DECK_LB_PER_FT: Final = 30.0
RATING_LB_PER_FT: Final = 0.0128
"""An empty trailer weighs so many pounds per foot of deck, and so many more for each pound of its
rating: 68 lb per foot of one of 3,000, 119 of one of 7,000, 209 of one of 14,000."""

KIND_PART: Final = {
    TrailerKind.UTILITY: _band(1.0, 0.80, 1.25),
    TrailerKind.TILT: _band(1.0, 0.80, 1.30),
    TrailerKind.FLATBED: _band(1.0, 0.80, 1.25),
    TrailerKind.DUMP: _band(1.70, 1.25, 2.20),
    TrailerKind.CAR_CARRIER: _band(1.0, 0.80, 1.30),
    TrailerKind.GOOSENECK: _band(1.03, 0.80, 1.30),
    TrailerKind.OTHER: _band(1.10, 0.75, 1.70),
}
"""So many times that, by kind: a dump bed with its hoist is heavy for its length."""


def empty_kg(kind: TrailerKind, gvwr_kg: float, deck_length_m: float) -> Estimate:
    """An empty trailer by its kind, rating and deck; never more than seven tenths of its rating.

    Raises:
        InputError: a rating or a deck that is not greater than zero.
    """
    if not gvwr_kg > 0 or not deck_length_m > 0:
        raise InputError("trailer", "a rating and a deck greater than zero")
    per_ft = DECK_LB_PER_FT + RATING_LB_PER_FT * gvwr_kg / KG_PER_LB
    usual = per_ft * KG_PER_LB * deck_length_m / M_PER_FT
    found = KIND_PART[kind].times(usual)
    ceiling = HEAVIEST_PART * gvwr_kg
    return _band(*(min(one, ceiling) for one in (found.value, found.least, found.most)))


HEAVIEST_PART: Final = 0.7
"""No trailer is sold that weighs more than this part of its rating."""

BODY_PART: Final = 0.68
TONGUE_PART: Final = 0.09
"""Parts of an empty trailer: frame and deck, spread over the deck; tongue or neck with coupler and
jack, spread ahead of it. The rest is axles and wheels, which put nothing on the hitch."""

TAIL_PART: Final = {True: 0.06, False: 0.0}
"""Gate or ramps that travel at the tail."""

TONGUE_DOUBT: Final = 0.06
"""How far the empty tongue may be off, as a part of the empty mass: where spare, winch and box
stand."""


def empty_tongue_part(
    *, deck_start_m: float, deck_length_m: float, axles_m: float, ramps: bool
) -> Estimate:
    """Empty tongue as a part of the empty mass, by where the axles' middle stands behind the ball:
    frame and deck, tongue, ramps as a beam on ball and axles.

    Raises:
        InputError: axles that do not stand behind the ball.
    """
    if not axles_m > 0:
        raise InputError("trailer.axles", "axles behind the coupler")

    def on_ball(at_m: float) -> float:
        return 1 - at_m / axles_m

    tail = TAIL_PART[ramps]
    found = (
        (BODY_PART - tail) * on_ball(deck_start_m + deck_length_m / 2)
        + TONGUE_PART * on_ball(max(deck_start_m, 0.0) / 2)
        + tail * on_ball(deck_start_m + deck_length_m)
    )
    return _band(
        max(found, LEAST_TONGUE),
        max(found - TONGUE_DOUBT, 0.0),
        max(found + TONGUE_DOUBT, LEAST_TONGUE),
    )


LEAST_TONGUE: Final = 0.02
"""A trailer that would stand on its tail is not what was meant: something always rests on the
ball."""


# machines -----------------------------------------------------------------------------


class MachineKind(str, Enum):
    """Kinds of machines and loads that balance alike for their size."""

    TRACTOR = "tractor"
    SKID_STEER = "skid_steer"
    EXCAVATOR = "excavator"
    ROLLER = "roller"
    IMPLEMENT = "implement"
    CAR = "car"
    PALLET = "pallet"


class Hung(str, Enum):
    """What hangs on a machine's ends."""

    NOTHING = "nothing"
    FRONT = "front"
    REAR = "rear"
    BOTH = "both"


FRONT_SHARE: Final[dict[tuple[MachineKind, Hung], Estimate]] = {
    (MachineKind.TRACTOR, Hung.NOTHING): _band(0.41, 0.34, 0.48),
    (MachineKind.TRACTOR, Hung.FRONT): _band(0.53, 0.42, 0.64),
    (MachineKind.TRACTOR, Hung.REAR): _band(0.27, 0.12, 0.38),
    (MachineKind.TRACTOR, Hung.BOTH): _band(0.38, 0.24, 0.52),
    (MachineKind.SKID_STEER, Hung.NOTHING): _band(0.24, 0.15, 0.34),
    (MachineKind.SKID_STEER, Hung.FRONT): _band(0.32, 0.22, 0.46),
    (MachineKind.SKID_STEER, Hung.REAR): _band(0.18, 0.08, 0.30),
    (MachineKind.SKID_STEER, Hung.BOTH): _band(0.27, 0.14, 0.42),
    (MachineKind.ROLLER, Hung.NOTHING): _band(0.52, 0.44, 0.60),
    (MachineKind.CAR, Hung.NOTHING): _band(0.56, 0.46, 0.64),
}
"""Part of a machine on its front wheels, by what hangs on it: a loader with its bucket in front, a
backhoe or an implement behind."""

OF_LENGTH: Final[dict[MachineKind, Estimate]] = {
    MachineKind.EXCAVATOR: _band(0.0, -0.10, 0.10),
    MachineKind.IMPLEMENT: _band(0.0, -0.15, 0.15),
    MachineKind.PALLET: _band(0.0, -0.06, 0.06),
}
"""What stands on tracks or lies on the deck balances so far ahead of the middle, as a part of the
length it stands on: the boom of an excavator forward, its counterweight back."""


def front_share(kind: MachineKind, hung: Hung) -> Estimate | None:
    """Part of a wheeled machine on its front wheels; ``None`` of what has no two axles."""
    return FRONT_SHARE.get((kind, hung)) or FRONT_SHARE.get((kind, Hung.NOTHING))


def balance_ahead_m(kind: MachineKind, hung: Hung, wheelbase_m: float) -> Estimate:
    """How far a machine balances ahead of its rear axle; of tracks and of what lies on the deck,
    ahead of the rear end of what it stands on.

    Raises:
        InputError: a wheelbase that is not greater than zero.
    """
    if not wheelbase_m > 0:
        raise InputError("wheelbase", "a length greater than zero")
    share = front_share(kind, hung)
    if share is None:
        off = OF_LENGTH[kind]
        share = _band(0.5 + off.value, 0.5 + off.least, 0.5 + off.most)
    return share.times(wheelbase_m)


HEIGHT_PART: Final = {
    MachineKind.TRACTOR: _band(0.40, 0.32, 0.48),
    MachineKind.SKID_STEER: _band(0.36, 0.28, 0.45),
    MachineKind.EXCAVATOR: _band(0.36, 0.28, 0.46),
    MachineKind.ROLLER: _band(0.34, 0.24, 0.44),
    MachineKind.IMPLEMENT: _band(0.42, 0.28, 0.58),
    MachineKind.CAR: _band(0.38, 0.33, 0.43),
    MachineKind.PALLET: _band(0.50, 0.42, 0.58),
}
"""How high it balances, as a part of its height with the roof or roll bar up."""

BROCHURE: Final = {
    MachineKind.TRACTOR: _band(1.14, 1.05, 1.35),
    MachineKind.SKID_STEER: _band(1.10, 1.05, 1.25),
    MachineKind.EXCAVATOR: _band(1.09, 1.05, 1.22),
    MachineKind.ROLLER: _band(1.07, 1.0, 1.20),
    MachineKind.IMPLEMENT: _band(1.10, 1.0, 1.30),
    MachineKind.CAR: _band(1.05, 1.0, 1.15),
    MachineKind.PALLET: _band(1.0, 0.95, 1.10),
}
"""What a machine weighs as it is hauled over what its brochure says: fuel, fluid in the tires,
ballast, cutting edge, mud. Brochures run low."""

HUNG_PART: Final = {
    Hung.NOTHING: _band(0.0, 0.0, 0.0),
    Hung.FRONT: _band(0.30, 0.14, 0.45),
    Hung.REAR: _band(0.28, 0.08, 0.50),
    Hung.BOTH: _band(0.58, 0.25, 0.95),
}
"""What hangs on a machine and is not in its brochure's mass, as a part of that: a loader with
bucket, a backhoe, an implement."""


def as_hauled_kg(kind: MachineKind, brochure_kg: float, hung: Hung, *, counted: bool) -> Estimate:
    """A machine as it is hauled, from its brochure; ``counted``: what hangs on it is in there.

    Raises:
        InputError: a mass that is not greater than zero.
    """
    if not brochure_kg > 0:
        raise InputError("mass", "a mass greater than zero")
    more = HUNG_PART[Hung.NOTHING if counted else hung]
    usual = BROCHURE[kind]
    return _band(
        brochure_kg * (usual.value + more.value),
        brochure_kg * (usual.least + more.least),
        brochure_kg * (usual.most + more.most),
    )
