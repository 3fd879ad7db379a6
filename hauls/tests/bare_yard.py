"""A yard with one truck, one trailer and one machine, each figure a round one."""

from __future__ import annotations

from decimal import Decimal

from book.models import Bulk, Hitch, HitchLink, HitchPart, Machine, Trailer, TrailerAxle, Truck
from measures import Quantity
from yards.models import Yard


def q(text: str) -> Quantity:
    """A quantity from its own text."""
    return Quantity.parse(text)


class BareYard:
    """What is in it, stored."""

    def __init__(self) -> None:
        self.yard = Yard.objects.create(
            name="Three things",
            tolerances={"tape": "0 in", "stop": "0 in", "scale_step": "10 kg"},
        )
        self.truck = Truck.objects.create(
            yard=self.yard,
            name="Truck",
            front_axle_mass=q("1800 kg"),
            rear_axle_mass=q("1200 kg"),
            wheelbase=q("4000 mm"),
            gvwr=q("4500 kg"),
        )
        self.hitch = Hitch.objects.create(truck=self.truck, offset=q("1250 mm"))
        self.trailer = Trailer.objects.create(
            yard=self.yard,
            name="Trailer",
            empty_mass=q("1500 kg"),
            empty_known="weighed",
            empty_tongue_mass=q("150 kg"),
            tongue_known="weighed",
            track_width=q("2000 mm"),
            deck_start=q("1300 mm"),
            deck_length=q("6000 mm"),
        )
        for at in ("4600 mm", "5400 mm"):
            TrailerAxle.objects.create(trailer=self.trailer, position=q(at), gawr=q("2400 kg"))
        self.machine = Machine.objects.create(
            yard=self.yard,
            name="Machine",
            mass=q("2200 kg"),
            mass_known="weighed",
            mark_name="rear axle",
            balance_ahead=q("800 mm"),
            balance_known="axles",
            reach_front=q("2500 mm"),
            reach_rear=q("900 mm"),
        )

    def part(self, kind: str, name: str, mass: str = "", **more: str) -> HitchPart:
        """A part on the truck's hitch."""
        part = HitchPart.objects.create(
            yard=self.yard,
            kind=kind,
            name=name,
            mass=q(mass) if mass else None,
            **{field: q(text) for field, text in more.items()},
        )
        HitchLink.objects.create(hitch=self.hitch, part=part)
        return part

    def gravel(self) -> Bulk:
        """Two cubic metres, 3 m long."""
        return Bulk.objects.create(
            yard=self.yard,
            name="Gravel",
            measured="volume",
            volume=q("2 m3"),
            density=q("1600 kg/m3"),
            length=q("3000 mm"),
        )

    def front_share(self, percent: str) -> None:
        """The truck known by its papers alone."""
        self.truck.empty_from = Truck.EmptyFrom.KERB
        self.truck.kerb_mass = q("3000 kg")
        self.truck.front_share = Decimal(percent)
