"""The plan file as typed structures: one definition for reading, refusing and the schema.

Numbers stand in the file's own units here; :mod:`planfile.convert` brings them to SI.
An absent optional field means "not known", never zero, and ``null`` is refused except
where the format names it.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

import msgspec
from msgspec import UNSET, Meta, Struct, UnsetType

from mechanics.bounds import MOST_ITEMS

LARGEST = 1e9
"""No mass or length of a haul is larger, in any of the format's units."""

Finite = Annotated[float, Meta(ge=-LARGEST, le=LARGEST)]
Positive = Annotated[float, Meta(gt=0, le=LARGEST)]
NotNegative = Annotated[float, Meta(ge=0, le=LARGEST)]
Fraction = Annotated[float, Meta(ge=0, le=1)]
Text = Annotated[str, Meta(max_length=2000)]
Ident = Annotated[str, Meta(min_length=1, max_length=100)]
AxleNumber = Annotated[int, Meta(ge=1, le=12)]
Extra = dict[str, Any] | UnsetType


class Part(Struct, forbid_unknown_fields=True, omit_defaults=True, kw_only=True, frozen=True):
    """Base of every object of a plan file: any of them may hold an ``extra`` object."""

    extra: Extra = UNSET


class Units(Part, frozen=True, kw_only=True):
    """The units of every number in the file."""

    mass: Literal["lb", "kg"]
    length: Literal["in", "ft", "mm", "cm", "m"]


class Cargo(Part, frozen=True, kw_only=True):
    """A person or thing on the truck."""

    mass: Positive
    ahead_of_rear_axle: Finite
    name: Text | UnsetType = UNSET
    mass_tolerance: NotNegative = 0
    ahead_of_rear_axle_tolerance: NotNegative = 0


class Ride(Part, frozen=True, kw_only=True):
    """Ball height with the usual load aboard, and spring rates in mass per length of an axle."""

    ball_height: Positive
    rear_rate: Positive
    front_rate: Positive | UnsetType = UNSET


class Truck(Part, frozen=True, kw_only=True):
    """The truck unhitched, fuelled, with nobody and nothing aboard; its ratings; its cargo.

    ``estimates`` names the fields that nobody measured, here as in trailer and items; what they
    may be off by stands in their tolerances.
    """

    front_axle_mass: Positive
    rear_axle_mass: Positive
    wheelbase: Positive
    hitch_offset: Finite
    name: Text | UnsetType = UNSET
    front_gawr: NotNegative | UnsetType = UNSET
    rear_gawr: NotNegative | UnsetType = UNSET
    gvwr: NotNegative | UnsetType = UNSET
    gcwr: NotNegative | UnsetType = UNSET
    max_trailer_mass: NotNegative | UnsetType = UNSET
    payload: NotNegative | UnsetType = UNSET
    max_tongue_mass: NotNegative | UnsetType = UNSET
    front_tire_capacity: NotNegative | UnsetType = UNSET
    rear_tire_capacity: NotNegative | UnsetType = UNSET
    front_axle_mass_tolerance: NotNegative = 0
    rear_axle_mass_tolerance: NotNegative = 0
    empty_mass_tolerance: NotNegative | UnsetType = UNSET
    wheelbase_tolerance: NotNegative = 0
    hitch_offset_tolerance: NotNegative = 0
    cargo: Annotated[list[Cargo], Meta(max_length=100)] = []
    ride: Ride | UnsetType = UNSET
    drive: Literal["two_wheel", "four_wheel"] | UnsetType = UNSET
    estimates: Annotated[
        list[
            Literal[
                "empty_mass",
                "front_share",
                "wheelbase",
                "hitch_offset",
                "cargo",
                "cargo.ahead_of_rear_axle",
            ]
        ],
        Meta(max_length=10),
    ] = []


class HitchComponent(Part, frozen=True, kw_only=True):
    """One part of the hitch chain with its ratings; ``_wd`` with weight-distributing bars."""

    name: Ident
    max_trailer_mass: NotNegative | UnsetType = UNSET
    max_tongue_mass: NotNegative | UnsetType = UNSET
    max_trailer_mass_wd: NotNegative | UnsetType = UNSET
    max_tongue_mass_wd: NotNegative | UnsetType = UNSET


class WeightDistribution(Part, frozen=True, kw_only=True):
    """Spring bars: the part of the front axle's drop that they give back."""

    front_axle_restoration: Fraction
    bar_length: Positive | UnsetType = UNSET


class Hitch(Part, frozen=True, kw_only=True):
    """The hitch; ``mass`` is its hardware, standing at the hitch point."""

    type: Literal["ball", "gooseneck", "fifth_wheel", "pintle"]
    mass: NotNegative = 0
    components: Annotated[list[HitchComponent], Meta(max_length=50)] = []
    weight_distribution: WeightDistribution | None = None
    ball_diameter: Positive | UnsetType = UNSET


class Axle(Part, frozen=True, kw_only=True):
    """One trailer axle behind the coupler; ratings are of the whole axle."""

    position: Positive
    gawr: NotNegative | UnsetType = UNSET
    tire_capacity: NotNegative | UnsetType = UNSET


class Concentration(Part, frozen=True, kw_only=True):
    """The maker's figure: the most mass within any such length of the deck."""

    mass: Positive
    length: Positive


class Deck(Part, frozen=True, kw_only=True):
    """The deck; ``start`` behind the coupler, negative over the truck."""

    start: Finite
    length: Positive
    width: Positive | UnsetType = UNSET
    height: Positive | UnsetType = UNSET
    front_overhang: NotNegative = 0
    rear_overhang: NotNegative = 0
    start_tolerance: NotNegative = 0
    concentration: Concentration | UnsetType = UNSET


class Ramp(Part, frozen=True, kw_only=True):
    """What a machine is driven on over; ``rating`` is of all ramps together."""

    kind: Literal["ramps", "gate", "tilt"]
    length: Positive
    rating: Positive | UnsetType = UNSET
    feet: bool = False


class Dovetail(Part, frozen=True, kw_only=True):
    """The sloping part at the deck's tail, within its length."""

    length: Positive
    drop: NotNegative


class Stands(Part, frozen=True, kw_only=True):
    """Support stands: ``position`` behind the coupler, ``gap`` above the ground once dropped."""

    gap: NotNegative
    position: Positive | UnsetType = UNSET
    rating: Positive | UnsetType = UNSET


class Bed(Part, frozen=True, kw_only=True):
    """A dump bed: its hinge and its balance point behind the coupler."""

    hinge: Finite
    mass: Positive
    balance: Finite
    latched: bool = False


class Anchor(Part, frozen=True, kw_only=True):
    """A place of the trailer that a tie is hooked to: ``tape`` behind the deck's front edge,
    ``left`` of its middle, ``height`` above the deck."""

    id: Ident
    tape: Finite
    left: Finite
    height: Finite = 0
    wll: Positive | UnsetType = UNSET
    kind: Literal["ring", "stake_pocket", "rail", "winch", "bulkhead", "other"] = "other"


class Trailer(Part, frozen=True, kw_only=True):
    """The empty trailer."""

    empty_mass: Positive
    empty_tongue_mass: Positive
    axles: Annotated[list[Axle], Meta(min_length=1, max_length=12)]
    track_width: Positive
    deck: Deck
    name: Text | UnsetType = UNSET
    kind: Literal["utility", "dump", "gooseneck", "flatbed", "tilt", "other"] = "other"
    empty_mass_tolerance: NotNegative = 0
    empty_tongue_mass_tolerance: NotNegative = 0
    gvwr: NotNegative | UnsetType = UNSET
    suspension: Literal["equalized", "independent"] = "equalized"
    coupler_size: Positive | UnsetType = UNSET
    coupler_height: Positive | UnsetType = UNSET
    axle_height: Positive | UnsetType = UNSET
    axles_tolerance: NotNegative = 0
    axle_rate: Positive | UnsetType = UNSET
    track_width_tolerance: NotNegative = 0
    estimates: Annotated[
        list[
            Literal[
                "empty_mass",
                "empty_tongue_mass",
                "axles",
                "axle_spacing",
                "track_width",
                "deck.start",
            ]
        ],
        Meta(max_length=10),
    ] = []
    ramp: Ramp | UnsetType = UNSET
    dovetail: Dovetail | UnsetType = UNSET
    stands: Stands | UnsetType = UNSET
    bed: Bed | UnsetType = UNSET
    anchors: Annotated[list[Anchor], Meta(max_length=200)] = []


class BalancePoint(Part, frozen=True, kw_only=True):
    """Centre of gravity from the reference mark, as the machine itself faces."""

    ahead: Finite
    ahead_tolerance: NotNegative = 0
    left: Finite = 0
    height: Positive | UnsetType = UNSET
    height_tolerance: NotNegative = 0


class Contact(Part, frozen=True, kw_only=True):
    """A line of wheels on the floor, or a track of some length; its middle ahead of the mark."""

    ahead: Finite
    length: NotNegative = 0


class UndersidePoint(Part, frozen=True, kw_only=True):
    """A low point of a machine: ahead of the mark, square above the line it stands on."""

    ahead: Finite
    clearance: NotNegative


class TiePoint(Part, frozen=True, kw_only=True):
    """A place of a machine that a tie is hooked to, from its mark in its own sense."""

    id: Ident
    ahead: Finite
    left: Finite
    height: Finite
    strength: Positive | UnsetType = UNSET
    kind: Literal["eye", "frame", "axle", "drawbar", "hitch", "torque_tube", "other"] = "other"


class Placement(Part, frozen=True, kw_only=True):
    """Where the reference mark stands, from the deck's front edge back."""

    reference: Finite
    facing: Literal["forward", "backward"] = "forward"
    left: Finite = 0
    reference_tolerance: NotNegative = 0


class Item(Part, frozen=True, kw_only=True):
    """One piece of load."""

    id: Ident
    mass: Positive
    cg: BalancePoint
    front: Positive
    rear: Positive
    placement: Placement
    name: Text | UnsetType = UNSET
    mass_tolerance: NotNegative = 0
    width: Positive | UnsetType = UNSET
    height: Positive | UnsetType = UNSET
    contacts: Annotated[list[Contact], Meta(max_length=20)] = []
    underside: Annotated[list[UndersidePoint], Meta(max_length=40)] = []
    points: Annotated[list[TiePoint], Meta(max_length=100)] = []
    estimates: Annotated[list[Literal["mass", "cg.ahead", "cg.height"]], Meta(max_length=10)] = []


class Rules(Part, frozen=True, kw_only=True):
    """The schools the plan is judged by; the two fractions only with ``custom``."""

    tongue: Literal[
        "default",
        "share_10_15",
        "share_10_12",
        "share_9_15",
        "share_10_20",
        "by_axle_count",
        "gooseneck_15_25",
        "gooseneck_13_15",
        "fifth_wheel_15_20",
        "nose_4_7",
        "custom",
    ] = "default"
    trailer_gvwr: Literal["whole", "axles"] = "whole"
    share_min: Fraction | UnsetType = UNSET
    share_max: Fraction | UnsetType = UNSET


class Site(Part, frozen=True, kw_only=True):
    """Where it is loaded; ``slope`` is rise over run, positive with the truck uphill."""

    slope: Annotated[float, Meta(ge=-10, le=10)] = 0
    surface: Literal["concrete_dry", "concrete_wet", "gravel", "grass_dry", "grass_wet", "ice"] = (
        "concrete_dry"
    )
    friction: Annotated[float, Meta(ge=0, le=10)] | UnsetType = UNSET
    foot_rise: Finite = 0
    parking_brake: bool = True
    park_four_wheel: bool = False
    held_trailer_axles: Annotated[list[AxleNumber], Meta(max_length=12)] = []
    stands_down: bool = False
    push: Annotated[float, Meta(ge=0, le=10)] = 0.1


class Tie(Part, frozen=True, kw_only=True):
    """A tie from a point of an item to an anchor; ``over``: over the point to a second anchor."""

    id: Ident
    item: Ident
    point: Ident
    anchor: Ident
    kind: Literal["chain", "strap", "wire_rope"]
    over: Ident | UnsetType = UNSET
    wll: Positive | UnsetType = UNSET
    pretension: NotNegative = 0
    name: Text | UnsetType = UNSET


class Securing(Part, frozen=True, kw_only=True):
    """How the load is tied down; the school goes by the file's units where none is named."""

    school: Literal["us_393", "strict", "en_12195"] | UnsetType = UNSET
    friction: Annotated[float, Meta(ge=0, le=10)] = 0
    bulkhead: bool = False
    ties: Annotated[list[Tie], Meta(max_length=200)] = []


class PlanDocument(Part, frozen=True, kw_only=True):
    """A haul whole."""

    format: Literal["eyebolt.plan"]
    version: Literal[1]
    units: Units
    truck: Truck
    hitch: Hitch
    trailer: Trailer
    name: Text | UnsetType = UNSET
    notes: Annotated[str, Meta(max_length=20000)] | UnsetType = UNSET
    items: Annotated[list[Item], Meta(max_length=MOST_ITEMS)] = []
    rules: Rules = msgspec.field(default_factory=Rules)
    site: Site = msgspec.field(default_factory=Site)
    securing: Securing | UnsetType = UNSET


def known(value: float | UnsetType) -> float | None:
    """An optional number of the file, ``None`` where it is absent."""
    return None if value is UNSET else value


def text(value: str | UnsetType) -> str:
    """An optional text of the file, empty where it is absent."""
    return "" if value is UNSET else value
