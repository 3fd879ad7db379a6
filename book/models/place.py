"""Places that machines are hauled between: the yard itself, fields, jobs, shops."""

from __future__ import annotations

from typing import Any

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from book.fields import DistanceField
from book.models.thing import Thing
from mechanics.site import Surface
from wording.loading import SURFACES


class Place(Thing):
    """Somewhere that hauls begin and end, and how it is to load there."""

    home = models.BooleanField(
        "the yard itself", default=False, help_text="Where outfits stand overnight."
    )
    from_yard = DistanceField(
        "by road from the yard",
        null=True,
        least="not_negative",
        help_text="As the odometer shows it. Empty: by the coordinates.",
    )
    latitude = models.DecimalField(
        max_digits=9,
        decimal_places=6,
        null=True,
        blank=True,
        validators=[MinValueValidator(-90), MaxValueValidator(90)],
        help_text="In degrees, with a minus in the south.",
    )
    longitude = models.DecimalField(
        max_digits=9,
        decimal_places=6,
        null=True,
        blank=True,
        validators=[MinValueValidator(-180), MaxValueValidator(180)],
        help_text="In degrees, with a minus in the west.",
    )
    surface = models.CharField(
        "ground for loading",
        max_length=14,
        blank=True,
        choices=[(surface.value, SURFACES[surface]) for surface in Surface],
    )
    slope = models.DecimalField(
        "slope there, %",
        max_digits=4,
        decimal_places=1,
        null=True,
        blank=True,
        validators=[MinValueValidator(0), MaxValueValidator(60)],
        help_text="Rise over run, whichever way the outfit stands.",
    )

    class Meta(Thing.Meta):
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="place_name_once_in_yard")
        ]

    def save(self, *args: Any, **kwargs: Any) -> None:
        """Ways to it follow its name."""
        was = Place.objects.filter(pk=self.pk).values_list("name", flat=True).first()
        super().save(*args, **kwargs)
        if was is not None and was != self.name:
            PlaceWay.objects.filter(place__yard=self.yard_id, name=was).update(name=self.name)


class PlaceWay(models.Model):
    """How far it is by road to another place that is not the yard, which is known by its name."""

    place = models.ForeignKey(Place, on_delete=models.CASCADE, related_name="ways")
    name = models.CharField("to the place", max_length=120, help_text="As the book calls it.")
    distance = DistanceField("by road", least="not_negative", help_text="As the odometer shows it.")

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.place.name} to {self.name}"
