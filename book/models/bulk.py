"""Bulk loads: gravel, soil, bales, pallets, by volume or by count."""

from __future__ import annotations

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from book.fields import DensityField, LengthField, MassField, VolumeField
from book.models.thing import Thing
from mechanics.heap import MATERIALS, HeapShape


class Bulk(Thing):
    """A load without wheels: so much of a material, or so many pieces."""

    class Measured(models.TextChoices):
        VOLUME = "volume", "Volume times density"
        COUNT = "count", "So many pieces"

    class Heap(models.TextChoices):
        LEVEL = HeapShape.LEVEL.value, "Level"
        PEAKED = HeapShape.PEAKED.value, "Peaked in the middle"
        FRONT = HeapShape.FRONT.value, "Highest at the front"
        REAR = HeapShape.REAR.value, "Highest at the rear"

    measured = models.CharField(
        "counted by", max_length=6, choices=Measured.choices, default=Measured.VOLUME
    )
    material = models.CharField(
        max_length=20,
        blank=True,
        choices=[(code, material.name) for code, material in MATERIALS.items()],
        help_text="Brings its usual density. It arrives 5 to 10 % off all the same.",
    )
    volume = VolumeField(null=True)
    density = DensityField(null=True, help_text="Given, it replaces the material's usual one.")
    count = models.PositiveIntegerField(
        "how many",
        null=True,
        blank=True,
        validators=[MinValueValidator(1), MaxValueValidator(100_000)],
    )
    piece_mass = MassField("mass of each", null=True)
    mass_tolerance = MassField(
        "give or take",
        null=True,
        least="not_negative",
        help_text="Of the whole load. Empty: 10 %, or the material's own range if wider.",
    )
    heap = models.CharField("lies", max_length=6, choices=Heap.choices, default=Heap.LEVEL)
    length = LengthField("length on the deck", null=True, help_text="Front edge to rear edge.")
    width = LengthField(null=True)
    height = LengthField("height of the stack", null=True, help_text="For the drawing.")

    class Meta(Thing.Meta):
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="bulk_name_once_in_yard")
        ]
