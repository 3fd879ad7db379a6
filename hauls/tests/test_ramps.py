"""From the book to what a plan says of getting on and off."""

from __future__ import annotations

from typing import Any

from django.test import TestCase
from msgspec import UNSET

from hauls.compose import trailer_section, truck_section
from hauls.tests.bare_yard import BareYard, q
from hauls.units import FileUnits
from measures import UnitSystem

METRIC = FileUnits.of(UnitSystem.METRIC)


class Ramps(TestCase):
    def setUp(self) -> None:
        self.yard = BareYard()
        self.trailer = self.yard.trailer

    def section(self, **changed: Any) -> Any:
        """The trailer's section with other entries."""
        for name, value in changed.items():
            setattr(self.trailer, name, value)
        return trailer_section(self.trailer, METRIC)

    def test_nothing_known_is_nothing_written(self) -> None:
        section = self.section()
        for part in (section.ramp, section.dovetail, section.stands, section.bed):
            self.assertIs(part, UNSET)

    def test_ramps_with_what_is_beside_them(self) -> None:
        section = self.section(
            tail="ramps",
            ramp_length=q("1700 mm"),
            ramp_rating=q("4000 kg"),
            ramp_feet=True,
            ramp_width=q("400 mm"),
            ramp_narrowest=q("1000 mm"),
            ramp_widest=q("1800 mm"),
            ramps_stored="upright",
        )
        ramp = section.ramp
        self.assertEqual(
            (ramp.kind, ramp.length, ramp.rating, ramp.feet), ("ramps", 1700, 4000, True)
        )
        self.assertEqual(
            section.extra["ramps"],
            {"width": 400, "narrowest": 1000, "widest": 1800, "upright": True},
        )

    def test_ramps_slid_under_the_deck_do_not_stand_up_behind(self) -> None:
        section = self.section(tail="ramps", ramp_length=q("1700 mm"), ramps_stored="under")
        self.assertNotIn("ramps", section.extra)

    def test_a_tilting_deck_is_a_ramp_from_its_hinge(self) -> None:
        # the deck ends 7,300 mm behind the coupler
        section = self.section(tail="tilts", kind="tilt", bed_hinge=q("5000 mm"))
        self.assertEqual((section.ramp.kind, section.ramp.length), ("tilt", 2300))
        self.assertIs(section.bed, UNSET)
        self.assertIs(self.section(bed_hinge=q("7400 mm")).ramp, UNSET)
        self.assertIs(self.section(bed_hinge=None).ramp, UNSET)

    def test_dovetail_within_the_deck(self) -> None:
        section = self.section(dovetail_length=q("1200 mm"), dovetail_drop=q("150 mm"))
        self.assertEqual((section.dovetail.length, section.dovetail.drop), (1200, 150))
        self.assertIs(self.section(dovetail_length=q("9000 mm")).dovetail, UNSET)
        self.assertIs(self.section(dovetail_drop=None).dovetail, UNSET)

    def test_stands_need_their_gap(self) -> None:
        self.assertIs(self.section(stands=True).stands, UNSET)
        stands = self.section(
            stands_gap=q("0 mm"), stands_at=q("7000 mm"), stands_rating=q("3000 kg")
        ).stands
        self.assertEqual((stands.gap, stands.position, stands.rating), (0, 7000, 3000))
        self.assertIs(self.section(stands=False).stands, UNSET)

    def test_only_a_dump_bed_lifts(self) -> None:
        entries = {
            "bed_hinge": q("6500 mm"),
            "bed_mass": q("500 kg"),
            "bed_balance": q("4000 mm"),
            "bed_latched": True,
        }
        bed = self.section(kind="dump", **entries).bed
        self.assertEqual((bed.hinge, bed.mass, bed.balance, bed.latched), (6500, 500, 4000, True))
        self.assertIs(self.section(kind="utility").bed, UNSET)
        self.assertIs(self.section(kind="dump", bed_mass=None).bed, UNSET)

    def test_winch_and_drive(self) -> None:
        section = self.section(
            winch_rating=q("2000 kg"), winch_height=q("200 mm"), winch_anchor=q("3000 kg")
        )
        self.assertEqual(section.extra["winch"], {"rating": 2000, "height": 200, "anchor": 3000})
        self.yard.truck.drive = "four"
        truck = truck_section(self.yard.truck, self.yard.hitch, METRIC)
        self.assertEqual(truck.drive, "four_wheel")
        self.yard.truck.drive = ""
        self.assertIs(truck_section(self.yard.truck, self.yard.hitch, METRIC).drive, UNSET)
