"""The same outfit in any units is the same report."""

from __future__ import annotations

from typing import Any

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from mechanics.plan import Plan
from mechanics.report import Report, evaluate
from mechanics.tests.outfits import plans
from mechanics.units import LengthUnit, MassUnit
from planfile.reading import read_document


def document_of(plan: Plan, mass: str, length: str) -> dict[str, Any]:
    """The plan file of a plan, in the units asked for."""
    kg, m = MassUnit(mass).kg, LengthUnit(length).m

    def part(thing: object, masses: str = "", lengths: str = "") -> dict[str, Any]:
        found = {}
        for names, suffix, per in ((masses, "_kg", kg), (lengths, "_m", m)):
            for name in names.split():
                value = getattr(thing, name + suffix)
                if value is not None:
                    found[name] = value / per
        return found

    truck, trailer, hitch = plan.truck, plan.trailer, plan.hitch
    bars = hitch.weight_distribution
    return {
        "format": "eyebolt.plan",
        "version": 1,
        "units": {"mass": mass, "length": length},
        "truck": {
            **part(
                truck,
                "front_axle_mass rear_axle_mass front_gawr rear_gawr gvwr gcwr "
                "max_trailer_mass payload max_tongue_mass front_tire_capacity "
                "rear_tire_capacity front_axle_mass_tolerance rear_axle_mass_tolerance "
                "empty_mass_tolerance",
                "wheelbase hitch_offset wheelbase_tolerance hitch_offset_tolerance",
            ),
            "estimates": list(truck.estimates),
            "cargo": [
                {
                    **part(c, "mass mass_tolerance", "ahead_of_rear_axle"),
                    "ahead_of_rear_axle_tolerance": c.ahead_tolerance_m / m,
                }
                for c in truck.cargo
            ],
        },
        "hitch": {
            "type": hitch.type.value,
            **part(hitch, "mass", "ball_diameter"),
            "components": [
                {"name": p.name, **part(p, "max_trailer_mass max_tongue_mass")} for p in hitch.parts
            ],
            "weight_distribution": None
            if bars is None
            else {"front_axle_restoration": bars.front_axle_restoration},
        },
        "trailer": {
            **part(
                trailer,
                "empty_mass empty_mass_tolerance empty_tongue_mass "
                "empty_tongue_mass_tolerance gvwr",
                "track_width track_width_tolerance coupler_size axles_tolerance",
            ),
            "suspension": trailer.suspension.value,
            "axles": [part(a, "gawr tire_capacity", "position") for a in trailer.axles],
            "deck": part(
                trailer.deck,
                "",
                "start length width height front_overhang rear_overhang start_tolerance",
            ),
        },
        "items": [
            {
                "id": i.id,
                **part(i, "mass mass_tolerance", "front rear width height"),
                "cg": part(i.cg, "", "ahead ahead_tolerance left height"),
                "placement": {
                    **part(i.placement, "", "reference left reference_tolerance"),
                    "facing": i.placement.facing.value,
                },
            }
            for i in plan.items
        ],
        "rules": {
            "tongue": plan.rules.tongue.value,
            "trailer_gvwr": plan.rules.trailer_gvwr.value,
        },
    }


class UnitsOfAPlan(SimpleTestCase):
    def same(self, one: Report, two: Report) -> None:
        for here, there in zip(one.checks, two.checks, strict=True):
            self.assertEqual((here.code, here.item), (there.code, there.item))
            self.assertAlmostEqual(here.value, there.value, delta=1e-8 * max(abs(here.value), 1))
            self.assertEqual(here.status, there.status)
        self.assertEqual(one.unsettled, two.unsettled)
        for mine, theirs in zip(one.windows, two.windows, strict=True):
            self.assertEqual(mine.contradiction, theirs.contradiction)
            for name in ("intervals", "sure"):
                for a, b in zip(getattr(mine, name), getattr(theirs, name), strict=True):
                    self.assertAlmostEqual(a.start_m, b.start_m, places=7)
                    self.assertAlmostEqual(a.end_m, b.end_m, places=7)
                    self.assertEqual((a.start_limit, a.end_limit), (b.start_limit, b.end_limit))

    @given(plans, st.sampled_from(["lb", "kg"]), st.sampled_from(["in", "ft", "mm", "cm", "m"]))
    @settings(max_examples=120)
    def test_the_report_does_not_depend_on_the_files_units(
        self, plan: Plan, mass: str, length: str
    ) -> None:
        self.same(evaluate(plan), evaluate(read_document(document_of(plan, mass, length))))
