"""What is inspected again and again on a truck or trailer."""

from __future__ import annotations

from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.utils import timezone

from book.fields import DistanceField
from road.models.on import OnTruckOrTrailer


class Inspection(OnTruckOrTrailer):
    """Something to be inspected every so many days or miles, whichever comes first."""

    what = models.CharField(max_length=120, help_text="Hub grease, the yearly inspection.")
    every_days = models.PositiveIntegerField(
        "every so many days",
        null=True,
        blank=True,
        validators=[MinValueValidator(1), MaxValueValidator(3660)],
    )
    every_way = DistanceField("every so far", null=True)

    class Meta(OnTruckOrTrailer.Meta):
        ordering = ["what", "pk"]

    def __str__(self) -> str:
        return self.what


class Looked(models.Model):
    """One time that it was inspected."""

    inspection = models.ForeignKey(Inspection, on_delete=models.CASCADE, related_name="looked")
    on = models.DateField("inspected on")
    note = models.CharField(max_length=300, blank=True)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-on", "-pk"]

    def __str__(self) -> str:
        return f"{self.on:%d %b %Y}"
