"""Workshop drawings of the book's pages."""

from __future__ import annotations

from itertools import pairwise

from django.test import TestCase

from book.drawing import LETTER, WIDTH, Sketch, machine_sketch, trailer_sketch, truck_sketch
from book.figures import built_machine, empty_axles, empty_trailer
from book.models import Machine, Trailer, Truck
from book.tolerances import Tolerances
from demo.tests.planted import plant_demo_yard
from measures import Quantity, UnitSystem

USUAL = Tolerances()
US, METRIC = UnitSystem.US, UnitSystem.METRIC


class Sketches(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        plant_demo_yard()

    def sketches(self) -> list[tuple[str, Sketch]]:
        """Every thing of the yard that can be drawn, in both units."""
        found = []
        for units in (US, METRIC):
            for truck in Truck.objects.all():
                drawn = truck_sketch(truck, empty_axles(truck, USUAL), units)
                found.append((truck.name, drawn))
            for trailer in Trailer.objects.all():
                drawn = trailer_sketch(trailer, empty_trailer(trailer, USUAL), units)
                found.append((trailer.name, drawn))
            for machine in Machine.objects.exclude(name="Wren 9 mini dumper"):
                first = machine.configurations.first() if machine.built == "parts" else None
                drawn = machine_sketch(machine, built_machine(machine, first, USUAL), units)
                found.append((machine.name, drawn))
        return found

    def test_nothing_sticks_out_and_no_two_texts_meet(self) -> None:
        for name, sketch in self.sketches():
            texts = sorted(
                (d.y, d.text_x - len(d.text) * LETTER / 2, d.text_x + len(d.text) * LETTER / 2)
                for d in sketch.dimensions
            )
            with self.subTest(name=name):
                for _, left, right in texts:
                    self.assertGreaterEqual(left, 0)
                    self.assertLessEqual(right, WIDTH)
                for (y, _, end), (next_y, start, _) in pairwise(texts):
                    self.assertFalse(y == next_y and end > start)
                self.assertGreater(sketch.height, max(d.y for d in sketch.dimensions))
                for dimension in sketch.dimensions:
                    self.assertLessEqual(0, dimension.start)
                    self.assertLessEqual(dimension.start, dimension.end)
                    self.assertLessEqual(dimension.end, WIDTH)
                self.assertLess(sketch.top, 150)

    def test_distances_are_true_to_one_scale(self) -> None:
        machine = Machine.objects.get(name="Harrow 90 tractor")
        sketch = machine_sketch(machine, built_machine(machine, None, USUAL), US)
        long = {d.text: d.end - d.start for d in sketch.dimensions}
        per_inch = long["16 ft 2 in over all"] / 194
        for text, inches in (
            ("11 ft 4 in ahead", 136),
            ("4 ft 10 in behind", 58),
            ("balance 3 ft 1 in", 37),
            ("wheelbase 7 ft 8 in", 92),
        ):
            self.assertAlmostEqual(long[text], inches * per_inch)

    def test_what_is_where_it_was_entered(self) -> None:
        trailer = Trailer.objects.get(name="25 ft gooseneck")
        trailer.deck_start = Quantity.parse("-20 in")
        sketch = trailer_sketch(trailer, empty_trailer(trailer, USUAL), US)
        texts = [d.text for d in sketch.dimensions]
        self.assertIn("1 ft 8 in over truck", texts)
        self.assertIn("axle 2 25 ft 4 in", texts)
        self.assertIn("1,180 lb", [note.text for note in sketch.notes])
        bed = Truck.objects.get(name="Gooseneck truck")
        drawn = truck_sketch(bed, empty_axles(bed, USUAL), METRIC)
        self.assertIn("Gooseneck ball 76 mm ahead", [d.text for d in drawn.dimensions])
