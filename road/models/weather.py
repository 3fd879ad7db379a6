"""What weather a haul's lists are for."""

from __future__ import annotations

from django.db import models

from hauls.hookup import WEATHERS
from hauls.models import Haul


class HaulWeather(models.Model):
    """The weather that somebody said a haul goes out in."""

    haul = models.OneToOneField(Haul, on_delete=models.CASCADE, related_name="weather")
    kind = models.CharField(max_length=5, choices=[(w.key, w.name) for w in WEATHERS])

    def __str__(self) -> str:
        return self.kind
