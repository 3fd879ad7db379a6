"""What fills tires, tanks and beds, and how the empty truck stands on its axles."""

from __future__ import annotations

from django.test import SimpleTestCase

from mechanics.errors import InputError
from mechanics.fluids import FLUIDS, fluid_mass_kg
from mechanics.heap import (
    CENTRE_FROM_FRONT,
    MATERIALS,
    SHAPE_DOUBT,
    HeapShape,
    bulk_by_count,
    bulk_by_volume,
)
from mechanics.kerb import STANDARD_DRIVER_KG, axles_from_kerb_mass, axles_from_ticket
from mechanics.tests.outfits import inch, lb

GALLON_M3 = 0.003785411784


class Fluids(SimpleTestCase):
    def test_volume_times_fill_times_density(self) -> None:
        kg = fluid_mass_kg(volume_m3=100 * GALLON_M3, fill=0.75, fluid=FLUIDS["beet_juice"])
        self.assertAlmostEqual(kg, lb(75 * 10.7))

    def test_every_fluid_says_where_its_value_is_from(self) -> None:
        for code, fluid in FLUIDS.items():
            with self.subTest(code=code):
                self.assertTrue(fluid.source and fluid.name)
                self.assertTrue(600 < fluid.density_kg_m3 < 1500)
                self.assertTrue(0 < fluid.part < 0.1)

    def test_refusals(self) -> None:
        for volume, fill, words in ((0, 0.5, "volume"), (1, 0, "fill"), (1, 1.01, "fill")):
            with self.subTest(words=words), self.assertRaisesMessage(InputError, words):
                fluid_mass_kg(volume_m3=volume, fill=fill, fluid=FLUIDS["water"])


class Heaps(SimpleTestCase):
    def test_where_each_shape_balances(self) -> None:
        for shape, ahead in (
            (HeapShape.LEVEL, 0.0),
            (HeapShape.PEAKED, 0.0),
            (HeapShape.FRONT, 0.5),
            (HeapShape.REAR, -0.5),
        ):
            body = bulk_by_volume(
                volume_m3=2,
                density_kg_m3=1600,
                density_part=0.05,
                length_m=3,
                width_m=2,
                shape=shape,
            )
            with self.subTest(shape=shape):
                self.assertAlmostEqual(body.mass_kg, 3200)
                self.assertAlmostEqual(body.mass_tolerance_kg, 160)
                self.assertAlmostEqual(body.ahead_m, ahead)
                self.assertAlmostEqual(body.ahead_tolerance_m, 3 * SHAPE_DOUBT[shape])

    def test_without_a_width_the_height_is_not_known(self) -> None:
        body = bulk_by_volume(
            volume_m3=2,
            density_kg_m3=1600,
            density_part=0,
            length_m=3,
            width_m=None,
            shape=HeapShape.LEVEL,
        )
        self.assertIsNone(body.height_m)

    def test_so_many_of_so_much_each(self) -> None:
        body = bulk_by_count(
            count=12, each_kg=25, part=0.1, length_m=2, height_m=1, shape=HeapShape.LEVEL
        )
        self.assertAlmostEqual(body.mass_kg, 300)
        self.assertAlmostEqual(body.mass_tolerance_kg, 30)
        self.assertAlmostEqual(body.height_m or 0, 0.5)

    def test_every_material_and_shape_is_complete(self) -> None:
        self.assertEqual(set(CENTRE_FROM_FRONT), set(HeapShape))
        for code, material in MATERIALS.items():
            with self.subTest(code=code):
                self.assertLess(material.least_kg_m3, material.greatest_kg_m3)
                self.assertIn("from memory", material.source)

    def test_refusals(self) -> None:
        right = {"volume_m3": 1, "density_kg_m3": 1600, "length_m": 3}
        for name, path in (
            ("volume_m3", "volume"),
            ("density_kg_m3", "density"),
            ("length_m", "length"),
        ):
            wrong = {**right, name: 0, "density_part": 0, "width_m": 1, "shape": HeapShape.LEVEL}
            with self.subTest(path=path), self.assertRaisesMessage(InputError, path):
                bulk_by_volume(**wrong)  # type: ignore[arg-type]
        for count, each, length, path in ((0, 1, 1, "count"), (1, 0, 1, "each"), (1, 1, 0, "len")):
            with self.subTest(path=path), self.assertRaisesMessage(InputError, path):
                bulk_by_count(
                    count=count,
                    each_kg=each,
                    part=0,
                    length_m=length,
                    height_m=None,
                    shape=HeapShape.PEAKED,
                )


class EmptyTruck(SimpleTestCase):
    def test_a_ticket_less_who_sat_in_the_truck(self) -> None:
        axles = axles_from_ticket(
            front_kg=lb(4270),
            rear_kg=lb(3040),
            wheelbase_m=inch(160),
            aboard_kg=lb(190),
            aboard_ahead_of_rear_axle_m=inch(80),
            reading_tolerance_kg=lb(20),
        )
        self.assertAlmostEqual(axles.front_kg, lb(4270 - 95))
        self.assertAlmostEqual(axles.rear_kg, lb(3040 - 95))
        self.assertAlmostEqual(axles.rear_tolerance_kg, lb(20))

    def test_a_kerb_mass_by_a_known_share_has_no_doubt_of_the_share(self) -> None:
        axles = axles_from_kerb_mass(kerb_kg=2000, kerb_part=0.02, front_share=0.6)
        self.assertAlmostEqual(axles.front_kg, 1200)
        self.assertAlmostEqual(axles.front_tolerance_kg, 24)
        self.assertAlmostEqual(axles.rear_tolerance_kg, 16)

    def test_a_usual_share_adds_its_doubt_and_a_counted_driver_comes_out(self) -> None:
        axles = axles_from_kerb_mass(kerb_kg=2000, kerb_part=0.0, with_driver=True)
        self.assertAlmostEqual(axles.front_kg + axles.rear_kg, 2000 - STANDARD_DRIVER_KG)
        self.assertAlmostEqual(axles.front_tolerance_kg, 120)
        self.assertAlmostEqual(axles.mass_tolerance_kg or 0.0, 0.0)

    def test_refusals(self) -> None:
        with self.assertRaisesMessage(InputError, "aboard"):
            axles_from_ticket(front_kg=100, rear_kg=100, wheelbase_m=3, aboard_kg=500)
        with self.assertRaisesMessage(InputError, "front_share"):
            axles_from_kerb_mass(kerb_kg=2000, kerb_part=0, front_share=1)
        with self.assertRaisesMessage(InputError, "kerb_mass"):
            axles_from_kerb_mass(kerb_kg=50, kerb_part=0, with_driver=True)
