"""Mass, balance point and contents against general libraries.

Solids: ``trimesh``, a general mesh library, computes volume and centre of mass of closed
meshes. Fluids: ``CoolProp``, a general property library (its brines after Melinder's
tables). Units: ``pint``.
"""

from __future__ import annotations

import random

import numpy as np
import pint
import trimesh
from CoolProp.CoolProp import PropsSI
from django.test import SimpleTestCase

from mechanics.body import Piece, build_up, from_two_axles
from mechanics.fluids import FLUIDS, fluid_mass_kg
from mechanics.heap import MATERIALS, HeapShape, bulk_by_volume
from mechanics.tests.outfits import inch, lb

ROOM_C_AS_K = 293.15
ATMOSPHERE_PA = 101_325

IN_COOLPROP = {
    "water": "Water",
    "calcium_chloride_20": "INCOMP::MCA[0.2]",
    "calcium_chloride_30": "INCOMP::MCA[0.3]",
    "glycol_50": "INCOMP::MEG[0.5]",
    "methanol_30": "INCOMP::MMA[0.3]",
}


class MassProperties(SimpleTestCase):
    def test_a_machine_of_boxes_balances_where_the_mesh_library_says(self) -> None:
        """Twenty machines of two to eight boxes, each of its own density."""
        rng = random.Random(7)
        for _ in range(20):
            pieces, moment, total = [], np.zeros(3), 0.0
            for _ in range(rng.randint(2, 8)):
                size = [rng.uniform(0.2, 1.5) for _ in range(3)]
                centre = [rng.uniform(-2, 2), rng.uniform(-0.8, 0.8), rng.uniform(0.3, 2)]
                mesh = trimesh.creation.box(
                    extents=size, transform=trimesh.transformations.translation_matrix(centre)
                )
                mesh.density = rng.uniform(200, 3000)
                moment += mesh.mass * mesh.center_mass
                total += mesh.mass
                pieces.append(
                    Piece(
                        mass_kg=float(mesh.mass),
                        ahead_m=centre[0],
                        left_m=centre[1],
                        height_m=centre[2],
                    )
                )
            body = build_up(pieces)
            self.assertAlmostEqual(body.mass_kg, total, places=6)
            for found, expected in zip(
                (body.ahead_m, body.left_m, body.height_m), moment / total, strict=True
            ):
                self.assertAlmostEqual(found or 0.0, expected, places=9)

    def test_one_mesh_of_one_density(self) -> None:
        """Two boxes of the same stuff as a single mesh: the library does all the summing."""
        one = trimesh.creation.box(extents=(2, 1, 1))
        two = trimesh.creation.box(
            extents=(1, 1, 2), transform=trimesh.transformations.translation_matrix((1.5, 0, 0.5))
        )
        both = trimesh.util.concatenate([one, two])
        both.density = 800
        body = build_up(
            (
                Piece(mass_kg=1600, ahead_m=0, height_m=0),
                Piece(mass_kg=1600, ahead_m=1.5, height_m=0.5),
            )
        )
        self.assertAlmostEqual(body.mass_kg, both.mass)
        self.assertAlmostEqual(body.ahead_m, both.center_mass[0])
        self.assertAlmostEqual(body.height_m or 0, both.center_mass[2])

    def test_heaps_are_the_prisms_they_are_said_to_be(self) -> None:
        """Level, roof and two wedges in a bed 3.6 m long and 2 m wide; the front is at +x."""
        length, width, volume = 3.6, 2.0, 2.7
        top = 2 * volume / (length * width)
        ends = {
            HeapShape.LEVEL: [(-1, 0), (1, 0), (-1, 0.5), (1, 0.5)],
            HeapShape.PEAKED: [(-1, 0), (1, 0), (0, 1)],
            HeapShape.FRONT: [(-1, 0), (1, 0), (1, 1)],
            HeapShape.REAR: [(-1, 0), (1, 0), (-1, 1)],
        }
        for shape, profile in ends.items():
            points = [
                (x * length / 2, y, z * top) for x, z in profile for y in (-width / 2, width / 2)
            ]
            mesh = trimesh.convex.convex_hull(np.array(points))
            body = bulk_by_volume(
                volume_m3=volume,
                density_kg_m3=1600,
                density_part=0,
                length_m=length,
                width_m=width,
                shape=shape,
            )
            with self.subTest(shape=shape):
                self.assertAlmostEqual(mesh.volume, volume)
                self.assertAlmostEqual(body.ahead_m, mesh.center_mass[0])
                self.assertAlmostEqual(body.height_m or 0, mesh.center_mass[2])


class HandWorked(SimpleTestCase):
    """Worked by hand with moments about the rear axle, as any statics handbook does it."""

    def test_a_tractor_of_six_parts(self) -> None:
        parts = (  # lb, in ahead of the rear axle
            (3400, 31),
            (980, 78),
            (410, 112),
            (310, 0),
            (240, 98),
            (150, 20),
        )
        body = build_up([Piece(mass_kg=lb(m), ahead_m=inch(a)) for m, a in parts])
        total = 3400 + 980 + 410 + 310 + 240 + 150
        moment = 3400 * 31 + 980 * 78 + 410 * 112 + 0 + 240 * 98 + 150 * 20
        self.assertAlmostEqual(body.mass_kg, lb(total))
        self.assertAlmostEqual(body.ahead_m, inch(moment / total))

    def test_two_axle_weights_are_the_same_as_a_beam_on_two_supports(self) -> None:
        body = from_two_axles(front_kg=lb(1900), rear_kg=lb(3450), wheelbase_m=inch(76))
        # the parts' moments about the rear axle are carried by the front axle alone
        self.assertAlmostEqual(body.mass_kg * body.ahead_m, lb(1900) * inch(76))


class Densities(SimpleTestCase):
    def test_fluids_against_the_property_library(self) -> None:
        """Within the part by which the table itself says that a mix may vary."""
        for code, name in IN_COOLPROP.items():
            fluid = FLUIDS[code]
            published = PropsSI("D", "T", ROOM_C_AS_K, "P", ATMOSPHERE_PA, name)
            with self.subTest(code=code):
                self.assertAlmostEqual(fluid.density_kg_m3 / published, 1, delta=0.005)

    def test_tire_fluid_in_pounds_per_gallon(self) -> None:
        """Trade figures, from memory: water 8.34, calcium chloride 10 to 11.3, beet juice
        10.7, diesel 7.1, petrol 6.1 to 6.3 lb/gal."""
        unit = pint.UnitRegistry()
        for code, least, greatest in (
            ("water", 8.3, 8.35),
            ("calcium_chloride_20", 9.7, 10.1),
            ("calcium_chloride_30", 10.0, 11.3),
            ("beet_juice", 10.69, 10.71),
            ("diesel", 7.09, 7.11),
            ("petrol", 6.1, 6.3),
        ):
            density = (FLUIDS[code].density_kg_m3 * unit.kg / unit.m**3).to("lb/gallon").magnitude
            with self.subTest(code=code):
                self.assertTrue(least <= density <= greatest, density)

    def test_a_pair_of_rear_tires(self) -> None:
        """Two tires of 82 gal, three quarters full of 10.7 lb/gal: 1,316 lb."""
        unit = pint.UnitRegistry()
        volume = (2 * 82 * unit.gallon).to("m**3").magnitude
        kg = fluid_mass_kg(volume_m3=volume, fill=0.75, fluid=FLUIDS["beet_juice"])
        self.assertAlmostEqual(kg, lb(2 * 82 * 0.75 * 10.7))

    def test_materials_in_pounds_per_cubic_yard(self) -> None:
        """Ranges from memory of common handbooks."""
        unit = pint.UnitRegistry()
        for code, least, greatest in (
            ("gravel_dry", 2600, 2900),
            ("topsoil", 2000, 2400),
            ("mulch", 500, 800),
        ):
            for found, expected in (
                (MATERIALS[code].least_kg_m3, least),
                (MATERIALS[code].greatest_kg_m3, greatest),
            ):
                per_yard = (found * unit.kg / unit.m**3).to("lb/yd**3").magnitude
                self.assertAlmostEqual(per_yard, expected)
        self.assertAlmostEqual(MATERIALS["sand_dry"].density_kg_m3, 1602, delta=5)
