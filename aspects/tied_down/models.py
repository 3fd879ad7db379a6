"""What a driver has ticked off of a haul's list."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from hauls.models import Haul


class Tick(models.Model):
    """One line of a haul's list that somebody has done.

    ``key`` stands for the line as it reads now: what is planned otherwise has to be done again.
    """

    haul = models.ForeignKey(Haul, on_delete=models.CASCADE, related_name="ticks")
    key = models.CharField(max_length=80)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["haul", "key"], name="tick_once_in_a_haul")]

    def __str__(self) -> str:
        return self.key
