"""Gauges that a yard reads live."""

from __future__ import annotations

import secrets

from django.db import models

from book.fields import MassField
from mechanics.scales import HITCH_GAUGE
from yards.models import YardOwned


def new_key() -> str:
    """A key that nobody guesses."""
    return secrets.token_urlsafe(18)


class Gauge(YardOwned):
    """A gauge in a hitch: what it sends, and the key by which its lines are known."""

    class Unit(models.TextChoices):
        LB = "lb", "pounds"
        KG = "kg", "kilograms"

    name = models.CharField(max_length=80)
    key = models.CharField(max_length=40, unique=True, default=new_key, editable=False)
    unit = models.CharField(
        "it sends",
        max_length=2,
        choices=Unit.choices,
        default=Unit.LB,
        help_text="Lines in another unit are dropped.",
    )
    step = MassField("its step", null=True, help_text="Empty: {20 lb|9 kg}.")
    rating = MassField(
        "its rating", null=True, help_text="It shows no more than this, whatever stands on it."
    )
    lag = models.DecimalField(
        "lags by, seconds",
        max_digits=3,
        decimal_places=1,
        default=0,
        help_text="How long it takes to follow a load.",
    )

    version = models.PositiveIntegerField(default=1, editable=False)

    class Meta:
        ordering = ["name", "pk"]
        constraints = [
            models.UniqueConstraint(fields=["yard", "name"], name="gauge_name_once_in_yard")
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def step_kg(self) -> float:
        """Its step in kg: 20 lb where none was entered."""
        return HITCH_GAUGE.step_kg if self.step is None else float(self.step.si)
