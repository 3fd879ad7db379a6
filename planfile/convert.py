"""Between a plan file's own units and the SI of the mechanics."""

from __future__ import annotations

from msgspec import UnsetType

from mechanics.errors import InputError
from mechanics.hitch import Hitch, HitchPart, HitchType, WeightDistribution
from mechanics.item import BalancePoint, Contact, Facing, Item, Placement, Underside
from mechanics.plan import Plan
from mechanics.rules import Rules, TongueSchool, TrailerGvwrSchool
from mechanics.site import Site, Surface
from mechanics.tail import Bed, Dovetail, Ramp, RampKind, Stands
from mechanics.ties import Anchor, Point, Securing, SecuringSchool, Tie, TieKind
from mechanics.trailer import Axle, Concentration, Deck, Suspension, Trailer
from mechanics.truck import Cargo, Drive, Ride, Truck
from mechanics.units import LengthUnit, MassUnit
from planfile.document import Hitch as HitchDocument
from planfile.document import Item as ItemDocument
from planfile.document import PlanDocument, known, text
from planfile.document import Rules as RulesDocument
from planfile.document import Site as SiteDocument
from planfile.document import Trailer as TrailerDocument
from planfile.document import Truck as TruckDocument


class Scale:
    """The factors of one file's units, to SI and back. ``None`` stays ``None``."""

    def __init__(self, mass: str, length: str) -> None:
        self.words = {"mass": mass, "length": length}
        self.kg = MassUnit(mass).kg
        self.m = LengthUnit(length).m

    def mass(self, value: float) -> float:
        """Kilograms of a mass in the file's unit."""
        return value * self.kg

    def length(self, value: float) -> float:
        """Metres of a length in the file's unit."""
        return value * self.m

    def mass_or_none(self, value: float | object) -> float | None:
        """Kilograms of an optional mass."""
        number = known(value)  # type: ignore[arg-type]
        return None if number is None else number * self.kg

    def length_or_none(self, value: float | object) -> float | None:
        """Metres of an optional length."""
        number = known(value)  # type: ignore[arg-type]
        return None if number is None else number * self.m


def to_plan(document: PlanDocument) -> Plan:
    """The plan in SI.

    Raises:
        InputError: with the path of the offending field in the file.
    """
    to = Scale(document.units.mass, document.units.length)
    trailer = document.trailer
    if not trailer.empty_tongue_mass < trailer.empty_mass:
        raise InputError("trailer.empty_tongue_mass", "less than trailer.empty_mass")
    return Plan(
        truck=_truck(document.truck, to),
        hitch=_hitch(document.hitch, to),
        trailer=_trailer(document, to),
        items=tuple(item_of(item, to) for item in document.items),
        rules=to_rules(document.rules),
        site=to_site(document.site, to),
        securing=_securing(document, to),
    )


def outfit_of(truck: TruckDocument, hitch: HitchDocument, to: Scale) -> tuple[Truck, Hitch]:
    """A truck and its hitch in SI, of a plan that has no trailer yet.

    Raises:
        InputError: figures that no truck can have.
    """
    return _truck(truck, to), _hitch(hitch, to)


def usual_school(mass: str) -> SecuringSchool:
    """The school that a plan's ties are judged by where it names none, by its unit of mass."""
    return SecuringSchool.US_393 if mass == "lb" else SecuringSchool.EN_12195


def _securing(document: PlanDocument, to: Scale) -> Securing | None:
    securing = document.securing
    if isinstance(securing, UnsetType):
        return None
    return Securing(
        school=usual_school(document.units.mass)
        if isinstance(securing.school, UnsetType)
        else SecuringSchool(securing.school),
        friction=securing.friction,
        bulkhead=securing.bulkhead,
        ties=tuple(
            Tie(
                id=tie.id,
                item=tie.item,
                point=tie.point,
                anchor=tie.anchor,
                kind=TieKind(tie.kind),
                over=None if isinstance(tie.over, UnsetType) else tie.over,
                wll_kg=to.mass_or_none(tie.wll),
                pretension_kg=to.mass(tie.pretension),
                name=text(tie.name),
            )
            for tie in securing.ties
        ),
    )


def _truck(truck: TruckDocument, to: Scale) -> Truck:
    return Truck(
        name=text(truck.name),
        front_axle_mass_kg=to.mass(truck.front_axle_mass),
        rear_axle_mass_kg=to.mass(truck.rear_axle_mass),
        wheelbase_m=to.length(truck.wheelbase),
        hitch_offset_m=to.length(truck.hitch_offset),
        front_gawr_kg=to.mass_or_none(truck.front_gawr),
        rear_gawr_kg=to.mass_or_none(truck.rear_gawr),
        gvwr_kg=to.mass_or_none(truck.gvwr),
        gcwr_kg=to.mass_or_none(truck.gcwr),
        max_trailer_mass_kg=to.mass_or_none(truck.max_trailer_mass),
        payload_kg=to.mass_or_none(truck.payload),
        max_tongue_mass_kg=to.mass_or_none(truck.max_tongue_mass),
        front_tire_capacity_kg=to.mass_or_none(truck.front_tire_capacity),
        rear_tire_capacity_kg=to.mass_or_none(truck.rear_tire_capacity),
        front_axle_mass_tolerance_kg=to.mass(truck.front_axle_mass_tolerance),
        rear_axle_mass_tolerance_kg=to.mass(truck.rear_axle_mass_tolerance),
        empty_mass_tolerance_kg=to.mass_or_none(truck.empty_mass_tolerance),
        wheelbase_tolerance_m=to.length(truck.wheelbase_tolerance),
        hitch_offset_tolerance_m=to.length(truck.hitch_offset_tolerance),
        estimates=tuple(truck.estimates),
        cargo=tuple(
            Cargo(
                name=text(cargo.name),
                mass_kg=to.mass(cargo.mass),
                mass_tolerance_kg=to.mass(cargo.mass_tolerance),
                ahead_of_rear_axle_m=to.length(cargo.ahead_of_rear_axle),
                ahead_tolerance_m=to.length(cargo.ahead_of_rear_axle_tolerance),
            )
            for cargo in truck.cargo
        ),
        ride=None
        if isinstance(truck.ride, UnsetType)
        else Ride(
            ball_height_m=to.length(truck.ride.ball_height),
            rear_rate_kg_per_m=truck.ride.rear_rate * to.kg / to.m,
            front_rate_kg_per_m=None
            if isinstance(truck.ride.front_rate, UnsetType)
            else truck.ride.front_rate * to.kg / to.m,
        ),
        drive=None if isinstance(truck.drive, UnsetType) else Drive(truck.drive),
    )


def _hitch(hitch: HitchDocument, to: Scale) -> Hitch:
    bars = hitch.weight_distribution
    return Hitch(
        type=HitchType(hitch.type),
        mass_kg=to.mass(hitch.mass),
        ball_diameter_m=to.length_or_none(hitch.ball_diameter),
        parts=tuple(
            HitchPart(
                name=part.name,
                max_trailer_mass_kg=to.mass_or_none(part.max_trailer_mass),
                max_tongue_mass_kg=to.mass_or_none(part.max_tongue_mass),
                max_trailer_mass_wd_kg=to.mass_or_none(part.max_trailer_mass_wd),
                max_tongue_mass_wd_kg=to.mass_or_none(part.max_tongue_mass_wd),
            )
            for part in hitch.components
        ),
        weight_distribution=None
        if bars is None
        else WeightDistribution(
            front_axle_restoration=bars.front_axle_restoration,
            bar_length_m=to.length_or_none(bars.bar_length),
        ),
    )


def _trailer(document: PlanDocument, to: Scale) -> Trailer:
    trailer, deck = document.trailer, document.trailer.deck
    return Trailer(
        name=text(trailer.name),
        kind=trailer.kind,
        empty_mass_kg=to.mass(trailer.empty_mass),
        empty_mass_tolerance_kg=to.mass(trailer.empty_mass_tolerance),
        empty_tongue_mass_kg=to.mass(trailer.empty_tongue_mass),
        empty_tongue_mass_tolerance_kg=to.mass(trailer.empty_tongue_mass_tolerance),
        gvwr_kg=to.mass_or_none(trailer.gvwr),
        axles=tuple(
            Axle(
                position_m=to.length(axle.position),
                gawr_kg=to.mass_or_none(axle.gawr),
                tire_capacity_kg=to.mass_or_none(axle.tire_capacity),
            )
            for axle in trailer.axles
        ),
        suspension=Suspension(trailer.suspension),
        coupler_size_m=to.length_or_none(trailer.coupler_size),
        coupler_height_m=to.length_or_none(trailer.coupler_height),
        axle_height_m=to.length_or_none(trailer.axle_height),
        axles_tolerance_m=to.length(trailer.axles_tolerance),
        axle_rate_kg_per_m=None
        if isinstance(trailer.axle_rate, UnsetType)
        else trailer.axle_rate * to.kg / to.m,
        track_width_m=to.length(trailer.track_width),
        track_width_tolerance_m=to.length(trailer.track_width_tolerance),
        estimates=tuple(trailer.estimates),
        deck=Deck(
            start_m=to.length(deck.start),
            length_m=to.length(deck.length),
            width_m=to.length_or_none(deck.width),
            height_m=to.length_or_none(deck.height),
            front_overhang_m=to.length(deck.front_overhang),
            rear_overhang_m=to.length(deck.rear_overhang),
            start_tolerance_m=to.length(deck.start_tolerance),
            concentration=None
            if isinstance(deck.concentration, UnsetType)
            else Concentration(
                mass_kg=to.mass(deck.concentration.mass),
                length_m=to.length(deck.concentration.length),
            ),
        ),
        ramp=_ramp(trailer, to),
        dovetail=None
        if isinstance(trailer.dovetail, UnsetType)
        else Dovetail(
            length_m=to.length(trailer.dovetail.length), drop_m=to.length(trailer.dovetail.drop)
        ),
        stands=_stands(trailer, to),
        bed=_bed(trailer, to),
        anchors=tuple(
            Anchor(
                id=anchor.id,
                tape_m=to.length(anchor.tape),
                left_m=to.length(anchor.left),
                height_m=to.length(anchor.height),
                wll_kg=to.mass_or_none(anchor.wll),
                kind=anchor.kind,
            )
            for anchor in trailer.anchors
        ),
    )


def _ramp(trailer: TrailerDocument, to: Scale) -> Ramp | None:
    ramp = trailer.ramp
    if isinstance(ramp, UnsetType):
        return None
    return Ramp(
        kind=RampKind(ramp.kind),
        length_m=to.length(ramp.length),
        rating_kg=to.mass_or_none(ramp.rating),
        feet=ramp.feet,
    )


def _stands(trailer: TrailerDocument, to: Scale) -> Stands | None:
    stands = trailer.stands
    if isinstance(stands, UnsetType):
        return None
    return Stands(
        gap_m=to.length(stands.gap),
        position_m=to.length_or_none(stands.position),
        rating_kg=to.mass_or_none(stands.rating),
    )


def _bed(trailer: TrailerDocument, to: Scale) -> Bed | None:
    bed = trailer.bed
    if isinstance(bed, UnsetType):
        return None
    return Bed(
        hinge_m=to.length(bed.hinge),
        mass_kg=to.mass(bed.mass),
        balance_m=to.length(bed.balance),
        latched=bed.latched,
    )


def item_of(item: ItemDocument, to: Scale) -> Item:
    """A load in SI.

    Raises:
        InputError: figures that no load can have.
    """
    return Item(
        id=item.id,
        name=text(item.name),
        mass_kg=to.mass(item.mass),
        mass_tolerance_kg=to.mass(item.mass_tolerance),
        cg=BalancePoint(
            ahead_m=to.length(item.cg.ahead),
            ahead_tolerance_m=to.length(item.cg.ahead_tolerance),
            left_m=to.length(item.cg.left),
            height_m=to.length_or_none(item.cg.height),
            height_tolerance_m=to.length(item.cg.height_tolerance),
        ),
        front_m=to.length(item.front),
        rear_m=to.length(item.rear),
        estimates=tuple(item.estimates),
        width_m=to.length_or_none(item.width),
        height_m=to.length_or_none(item.height),
        contacts=tuple(
            Contact(ahead_m=to.length(c.ahead), length_m=to.length(c.length)) for c in item.contacts
        ),
        underside=tuple(
            Underside(ahead_m=to.length(p.ahead), clearance_m=to.length(p.clearance))
            for p in item.underside
        ),
        points=tuple(
            Point(
                id=point.id,
                ahead_m=to.length(point.ahead),
                left_m=to.length(point.left),
                height_m=to.length(point.height),
                strength_kg=to.mass_or_none(point.strength),
                kind=point.kind,
            )
            for point in item.points
        ),
        placement=Placement(
            reference_m=to.length(item.placement.reference),
            facing=Facing(item.placement.facing),
            left_m=to.length(item.placement.left),
            reference_tolerance_m=to.length(item.placement.reference_tolerance),
        ),
    )


def to_rules(rules: RulesDocument) -> Rules:
    """The rules of a plan.

    Raises:
        InputError: shares that do not go with the school.
    """
    return Rules(
        tongue=TongueSchool(rules.tongue),
        trailer_gvwr=TrailerGvwrSchool(rules.trailer_gvwr),
        share_min=known(rules.share_min),
        share_max=known(rules.share_max),
    )


def to_site(site: SiteDocument, to: Scale) -> Site:
    """The place where a plan is loaded, or unloaded."""
    return Site(
        slope=site.slope,
        surface=Surface(site.surface),
        friction=known(site.friction),
        foot_rise_m=to.length(site.foot_rise),
        parking_brake=site.parking_brake,
        park_four_wheel=site.park_four_wheel,
        held_trailer_axles=tuple(site.held_trailer_axles),
        stands_down=site.stands_down,
        push=site.push,
    )
