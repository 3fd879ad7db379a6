"""Silhouettes: how far they reach, and a bucket that is carried."""

from __future__ import annotations

from django.test import SimpleTestCase

from pictures.outlines import machine_outline


class Carried(SimpleTestCase):
    def bucket(self, shape: str, carried: float) -> float:
        """The lowest point of its bucket, which is drawn last."""
        outline = machine_outline(shape, 3.0, 1.2, 2.4, 1.8, carried)
        return min(up for _, up in outline.shapes[-1][1])

    def test_a_bucket_is_held_as_high_as_it_is_carried_and_the_machine_stays(self) -> None:
        for shape in ("tractor", "loader", "excavator"):
            with self.subTest(shape=shape):
                parked, carried = self.bucket(shape, 0.0), self.bucket(shape, 0.8)
                self.assertAlmostEqual(carried - parked, 0.8)
                low = machine_outline(shape, 3.0, 1.2, 2.4, 1.8)
                high = machine_outline(shape, 3.0, 1.2, 2.4, 1.8, 0.8)
                self.assertEqual(low.wheels, high.wheels)
                self.assertEqual(
                    max(x for _, points in low.shapes for x, _ in points),
                    max(x for _, points in high.shapes for x, _ in points),
                )
