"""What a driver has ticked off of a haul's list."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.utils import timezone

from hauls.models import Haul


class Tick(models.Model):
    """One line of a haul's lists that somebody has done; a second person may have, too.

    ``key`` stands for the line as it reads now: what is planned otherwise has to be done again.
    """

    haul = models.ForeignKey(Haul, on_delete=models.CASCADE, related_name="ticks")
    key = models.CharField(max_length=80)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["haul", "key", "by"], name="tick_once_by_a_person")
        ]

    def __str__(self) -> str:
        return self.key
