"""Trips as they were driven."""

from __future__ import annotations

from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.utils import timezone

from book.fields import DistanceField, SpeedField, VolumeField
from book.models import Trailer, Truck
from hauls.hookup import WEATHERS
from hauls.models import Haul
from yards.models import YardOwned


class Trip(YardOwned):
    """One way driven with an outfit.

    ``mass_kg`` and ``share`` are what truck with trailer weighed and the tongue's share, by the
    plan as it was then; ``None`` where the plan could not say, or the way was driven empty.
    """

    class Carried(models.TextChoices):
        LOADED = "loaded", "loaded"
        EMPTY = "empty", "empty trailer"

    class Drove(models.IntegerChoices):
        """How it drove, in marks."""

        BAD = 1, "1: frightening"
        POOR = 2, "2: uneasy"
        FAIR = 3, "3: to be watched"
        GOOD = 4, "4: good"
        BEST = 5, "5: as if nothing were behind"

    COMPLAINTS = ("swayed", "pushed", "squatted", "brakes_hot")

    haul = models.ForeignKey(Haul, null=True, on_delete=models.SET_NULL, related_name="trips")
    truck = models.ForeignKey(Truck, null=True, on_delete=models.SET_NULL, related_name="+")
    trailer = models.ForeignKey(Trailer, null=True, on_delete=models.SET_NULL, related_name="+")
    outfit = models.CharField(max_length=250)
    loads = models.CharField(max_length=300, blank=True)
    driven_on = models.DateField("driven on")
    carried = models.CharField(max_length=6, choices=Carried.choices, default=Carried.LOADED)
    distance = DistanceField("distance")
    fuel = VolumeField("fuel", null=True, help_text="Filled up after it, to where it was before.")
    speed = SpeedField("speed kept", null=True)
    weather = models.CharField(
        max_length=5, choices=[(w.key, w.name) for w in WEATHERS], blank=True
    )
    drove = models.PositiveSmallIntegerField(
        "how it drove",
        choices=Drove.choices,
        null=True,
        blank=True,
        validators=[MinValueValidator(1), MaxValueValidator(5)],
    )
    swayed = models.BooleanField("it swayed", default=False)
    pushed = models.BooleanField("it pushed the truck", default=False)
    squatted = models.BooleanField("the truck sat low behind", default=False)
    brakes_hot = models.BooleanField("brakes or hubs hot", default=False)
    note = models.CharField("in words", max_length=400, blank=True)
    mass_kg = models.FloatField(null=True)
    share = models.FloatField(null=True)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-driven_on", "-pk"]

    def __str__(self) -> str:
        return f"{self.outfit}, {self.driven_on:%d %b %Y}"
