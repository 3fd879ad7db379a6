"""What the brake controller was set to, for which truck, trailer and load."""

from __future__ import annotations

from decimal import Decimal

from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.utils import timezone

from book.models import Trailer, Truck
from hauls.models import Haul
from yards.models import YardOwned


class BrakeGain(YardOwned):
    """A setting that was found by driving; ``trailer_kg`` is the loaded trailer by the plan
    then."""

    truck = models.ForeignKey(Truck, on_delete=models.CASCADE, related_name="gains")
    trailer = models.ForeignKey(Trailer, on_delete=models.CASCADE, related_name="gains")
    haul = models.ForeignKey(Haul, null=True, on_delete=models.SET_NULL, related_name="gains")
    load = models.CharField(max_length=300, blank=True)
    trailer_kg = models.FloatField(null=True)
    value = models.DecimalField(
        "gain",
        max_digits=4,
        decimal_places=1,
        validators=[MinValueValidator(Decimal(0)), MaxValueValidator(Decimal(100))],
    )
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-at", "-pk"]

    def __str__(self) -> str:
        return f"{self.value}"
