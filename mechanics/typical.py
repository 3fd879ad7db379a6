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
    """A figure that was not measured, in SI: what most of its kind lie between.

    A plan is made with the middle of the band, so that a tolerance to either side is the whole
    of it. The band need not lie evenly about what somebody read: brochures run low.
    """

    least: float
    most: float

    def __post_init__(self) -> None:
        if not self.least <= self.most:
            raise InputError("estimate", "a least that is not above the most")

    @property
    def value(self) -> float:
        """The middle of the band."""
        return (self.least + self.most) / 2

    @property
    def tolerance(self) -> float:
        """How far the middle may be wrong, to either side."""
        return (self.most - self.least) / 2

    def times(self, factor: float) -> Estimate:
        """All of it multiplied by a figure that is not below zero."""
        return Estimate(least=self.least * factor, most=self.most * factor)

    def plus(self, other: Estimate) -> Estimate:
        """Both together, each as low or as high as it may be."""
        return Estimate(least=self.least + other.least, most=self.most + other.most)


def _band(least: float, most: float) -> Estimate:
    return Estimate(least=least, most=most)


# trucks -------------------------------------------------------------------------------

STICKER_DOUBT: Final = 0.02
"""Part by which GVWR less the sticker's payload may miss the truck as it stands: options put on
since, mud, a full tank more or less."""

LIGHT_GVWR_KG: Final = 8500 * KG_PER_LB
"""Below it pickups are of the half-ton class."""

CURB_PART: Final = {
    True: _band(0.63, 0.80),
    False: _band(0.53, 0.77),
}
"""Curb mass as a part of GVWR, of light pickups and of heavier ones."""

FRONT_PART: Final = _band(0.51, 0.63)
"""Part of an empty pickup on its front axle; diesels and long cabs lie high."""

WHEELBASE: Final = {
    True: _band(119 * M_PER_IN, 164 * M_PER_IN),
    False: _band(133 * M_PER_IN, 178 * M_PER_IN),
}
"""Wheelbase of light pickups and of heavier ones, from a short cab to a long bed."""

BALL_BEHIND: Final = _band(42 * M_PER_IN, 62 * M_PER_IN)
"""A ball in the receiver, behind the rear axle."""

OVER_BED_BEHIND: Final = _band(-6 * M_PER_IN, 2 * M_PER_IN)
"""A ball in the bed, behind the rear axle: as a rule a little ahead of it."""

PERSON: Final = _band(120 * KG_PER_LB, 280 * KG_PER_LB)
"""One person with what he wears; tow ratings count 150 lb (SAE J2807, from memory)."""

SEAT_PART: Final = _band(0.38, 0.52)
"""How far ahead of the rear axle a front seat is, as a part of the wheelbase."""


REAR_RATE: Final = {
    True: _band(300 * KG_PER_LB / M_PER_IN, 650 * KG_PER_LB / M_PER_IN),
    False: _band(500 * KG_PER_LB / M_PER_IN, 1300 * KG_PER_LB / M_PER_IN),
}
"""Spring rate of a pickup's rear axle at the wheel, in kg/m, of light ones and heavier ones."""


def rear_rate_kg_per_m(gvwr_kg: float) -> Estimate:
    """What a pickup of that rating needs on its rear axle for each metre that it squats."""
    return REAR_RATE[gvwr_kg < LIGHT_GVWR_KG]


def ball_behind_m(*, over_bed: bool) -> Estimate:
    """How far the ball stands behind the rear axle."""
    return OVER_BED_BEHIND if over_bed else BALL_BEHIND


def seat_ahead_m(wheelbase: Estimate) -> Estimate:
    """How far ahead of the rear axle a front seat is."""
    return _band(wheelbase.least * SEAT_PART.least, wheelbase.most * SEAT_PART.most)


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
    return _band(curb * (1 - STICKER_DOUBT), curb * (1 + STICKER_DOUBT))


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
    BOAT = "boat"
    CAMPER = "camper"
    OTHER = "other"


DECK_BEHIND: Final = {
    True: _band(60 * M_PER_IN, 112 * M_PER_IN),
    False: _band(38 * M_PER_IN, 64 * M_PER_IN),
}
"""Where the deck begins behind the coupler: behind a neck over the bed, behind a tongue."""

AXLES_PART: Final = {
    True: _band(0.58, 0.74),
    False: _band(0.54, 0.67),
}
"""Where the axles' middle stands, as a part of the deck's length behind its front edge: with a
neck, and with a tongue."""

LIGHT_AXLE_KG: Final = 8500 * KG_PER_LB
"""Above it axles have wheels in pairs and stand further apart."""

SPACING: Final = {
    True: _band(31 * M_PER_IN, 40 * M_PER_IN),
    False: _band(40 * M_PER_IN, 54 * M_PER_IN),
}
"""From one axle of a group to the next, of light axles and of heavy ones."""

FENDER: Final = _band(6 * M_PER_IN, 14 * M_PER_IN)
"""Middle of a tire to middle of a tire over the width of a deck between the fenders."""

TRACK: Final = _band(60 * M_PER_IN, 96 * M_PER_IN)
"""The same where nothing is known of the deck's width."""

UNDER_DECK: Final = _band(68 * M_PER_IN, 84 * M_PER_IN)
"""The same of wheels under a deck of full width."""


def deck_start_m(*, over_bed: bool) -> Estimate:
    """Where the deck begins behind the coupler."""
    return DECK_BEHIND[over_bed]


def axles_m(*, deck_start: Estimate, deck_length_m: float, over_bed: bool) -> Estimate:
    """Where the axles' middle stands behind the coupler."""
    return deck_start.plus(AXLES_PART[over_bed].times(deck_length_m))


def axle_spacing_m(gawr_kg: float | None) -> Estimate:
    """From one axle of a group to the next."""
    return SPACING[gawr_kg is None or gawr_kg < LIGHT_AXLE_KG]


def track_width_m(*, deck_width_m: float | None, under: bool) -> Estimate:
    """Middle of the left tires to middle of the right ones."""
    if under:
        return UNDER_DECK
    if deck_width_m is None:
        return TRACK
    return _band(deck_width_m + FENDER.least, deck_width_m + FENDER.most)


SHARE_ALONE: Final = {
    TrailerKind.BOAT: _band(0.04, 0.12),
    TrailerKind.CAMPER: _band(0.09, 0.16),
}
"""Part of trailer and load together that rests on the hitch, of those that carry one thing only
and have no deck to move it on."""

DECK_LB_PER_FT: Final = 30.0
RATING_LB_PER_FT: Final = 0.0128
"""An empty trailer weighs so many pounds per foot of deck, and so many more for each pound of its
rating: 68 lb per foot of one of 3,000, 119 of one of 7,000, 209 of one of 14,000."""

KIND_PART: Final = {
    TrailerKind.UTILITY: _band(0.80, 1.40),
    TrailerKind.TILT: _band(0.80, 1.30),
    TrailerKind.FLATBED: _band(0.80, 1.25),
    TrailerKind.DUMP: _band(1.25, 2.20),
    TrailerKind.CAR_CARRIER: _band(0.80, 1.30),
    TrailerKind.GOOSENECK: _band(0.80, 1.30),
    TrailerKind.BOAT: _band(0.40, 0.90),
    TrailerKind.CAMPER: _band(1.40, 2.60),
    TrailerKind.OTHER: _band(0.75, 1.70),
}
"""So many times that, by kind: a dump bed with its hoist is heavy for its length."""


ONE_AXLE_GVWR_KG: Final = 3700 * KG_PER_LB
"""Up to it trailers have one axle as a rule, above it two."""

AXLE_PART: Final = _band(0.005, 0.020)
"""What an axle more or less than usual adds or saves, as a part of the rating: axles of one rating
in all weigh nearly the same, but each brings its own beam, hubs, brakes, hangers and fender."""


def usual_axles(gvwr_kg: float) -> int:
    """Number of axles that a trailer of that rating has as a rule."""
    return 1 if gvwr_kg <= ONE_AXLE_GVWR_KG else 2


def empty_kg(
    kind: TrailerKind, gvwr_kg: float, deck_length_m: float, axles: int | None = None
) -> Estimate:
    """An empty trailer by its kind, rating, deck and number of axles; never more than it is sold
    at. Without ``axles`` the usual number of that rating is taken.

    Raises:
        InputError: a rating or a deck that is not greater than zero, or fewer than one axle.
    """
    if not gvwr_kg > 0 or not deck_length_m > 0:
        raise InputError("trailer", "a rating and a deck greater than zero")
    if axles is not None and axles < 1:
        raise InputError("trailer.axles", "at least one axle")
    per_ft = DECK_LB_PER_FT + RATING_LB_PER_FT * gvwr_kg / KG_PER_LB
    usual = per_ft * KG_PER_LB * deck_length_m / M_PER_FT
    found = KIND_PART[kind].times(usual)
    more = 0 if axles is None else axles - usual_axles(gvwr_kg)
    by = AXLE_PART.times(abs(more) * gvwr_kg)
    if more < 0:
        by = _band(-by.most, -by.least)
    ceiling = HEAVIEST_PART * gvwr_kg
    floor = LIGHTEST_PART * found.least
    return _band(
        min(max(found.least + by.least, floor), ceiling),
        min(max(found.most + by.most, floor), ceiling),
    )


HEAVIEST_PART: Final = 0.85
"""No trailer is sold that weighs more than this part of its rating."""

LIGHTEST_PART: Final = 0.75
"""Axles left out never make a trailer lighter than this part of the lightest usual one: most of it
is frame and deck."""

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
        max(found - TONGUE_DOUBT, LEAST_TONGUE / 2), max(found + TONGUE_DOUBT, LEAST_TONGUE * 2)
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
    (MachineKind.TRACTOR, Hung.NOTHING): _band(0.34, 0.48),
    (MachineKind.TRACTOR, Hung.FRONT): _band(0.42, 0.64),
    (MachineKind.TRACTOR, Hung.REAR): _band(0.12, 0.38),
    (MachineKind.TRACTOR, Hung.BOTH): _band(0.24, 0.52),
    (MachineKind.SKID_STEER, Hung.NOTHING): _band(0.15, 0.34),
    (MachineKind.SKID_STEER, Hung.FRONT): _band(0.22, 0.46),
    (MachineKind.SKID_STEER, Hung.REAR): _band(0.08, 0.30),
    (MachineKind.SKID_STEER, Hung.BOTH): _band(0.14, 0.42),
    (MachineKind.ROLLER, Hung.NOTHING): _band(0.44, 0.60),
    (MachineKind.CAR, Hung.NOTHING): _band(0.46, 0.64),
}
"""Part of a machine on its front wheels, by what hangs on it: a loader with its bucket in front, a
backhoe or an implement behind."""

OF_LENGTH: Final[dict[MachineKind, Estimate]] = {
    MachineKind.EXCAVATOR: _band(-0.10, 0.10),
    MachineKind.IMPLEMENT: _band(-0.15, 0.15),
    MachineKind.PALLET: _band(-0.06, 0.06),
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
        share = _band(0.5 + off.least, 0.5 + off.most)
    return share.times(wheelbase_m)


HEIGHT_PART: Final = {
    MachineKind.TRACTOR: _band(0.32, 0.48),
    MachineKind.SKID_STEER: _band(0.28, 0.45),
    MachineKind.EXCAVATOR: _band(0.28, 0.46),
    MachineKind.ROLLER: _band(0.24, 0.44),
    MachineKind.IMPLEMENT: _band(0.28, 0.58),
    MachineKind.CAR: _band(0.33, 0.43),
    MachineKind.PALLET: _band(0.42, 0.58),
}
"""How high it balances, as a part of its height with the roof or roll bar up."""

BROCHURE: Final = {
    MachineKind.TRACTOR: _band(1.05, 1.35),
    MachineKind.SKID_STEER: _band(1.02, 1.25),
    MachineKind.EXCAVATOR: _band(1.05, 1.22),
    MachineKind.ROLLER: _band(1.0, 1.20),
    MachineKind.IMPLEMENT: _band(1.0, 1.30),
    MachineKind.CAR: _band(1.0, 1.15),
    MachineKind.PALLET: _band(0.95, 1.10),
}
"""What a machine weighs as it is hauled over what its brochure says: fuel, fluid in the tires,
ballast, cutting edge, mud. Brochures run low."""

HUNG_PART: Final = {
    Hung.NOTHING: _band(0.0, 0.0),
    Hung.FRONT: _band(0.14, 0.45),
    Hung.REAR: _band(0.08, 0.50),
    Hung.BOTH: _band(0.25, 0.95),
}
"""What hangs on a machine and is not in its brochure's mass, as a part of that: a loader with
bucket, a backhoe, an implement."""

TOOL_PART: Final = {
    Hung.NOTHING: _band(0.0, 0.0),
    Hung.FRONT: _band(0.05, 0.25),
    Hung.REAR: _band(0.05, 0.30),
    Hung.BOTH: _band(0.10, 0.50),
}
"""The same of machines whose arms are their own: only the tool on them."""


def as_hauled_kg(kind: MachineKind, brochure_kg: float, hung: Hung, *, counted: bool) -> Estimate:
    """A machine as it is hauled, from its brochure; ``counted``: what hangs on it is in there.

    Raises:
        InputError: a mass that is not greater than zero.
    """
    if not brochure_kg > 0:
        raise InputError("mass", "a mass greater than zero")
    parts = TOOL_PART if kind is MachineKind.SKID_STEER else HUNG_PART
    more = parts[Hung.NOTHING if counted else hung]
    usual = BROCHURE[kind]
    return usual.plus(more).times(brochure_kg)
