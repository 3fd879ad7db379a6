"""Who works where. Every row of the application belongs to a yard."""

from __future__ import annotations

from django.contrib.auth.models import AbstractUser
from django.db import models

from measures.writing import UnitSystem


class User(AbstractUser):
    """A person who signs in. ``units`` is how figures are shown; it changes nothing stored."""

    units = models.CharField(
        max_length=6,
        choices=[(UnitSystem.US.value, "lb · in"), (UnitSystem.METRIC.value, "kg · mm")],
        default=UnitSystem.US.value,
    )

    current_yard: Yard | None = None
    """The yard the person works in, set on loading; not a column."""

    @property
    def unit_system(self) -> UnitSystem:
        """The units this person reads in."""
        return UnitSystem(self.units)

    @property
    def shown_name(self) -> str:
        """The name other people of the yard know."""
        return self.get_full_name() or self.username


class Yard(models.Model):
    """A business with its trucks, trailers, machines and hauls."""

    name = models.CharField(max_length=120)
    members = models.ManyToManyField(User, through="Membership", related_name="yards")

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    """One person in one yard."""

    yard = models.ForeignKey(Yard, on_delete=models.CASCADE)
    user = models.ForeignKey(User, on_delete=models.CASCADE)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["yard", "user"], name="one_membership_per_yard")
        ]


class YardOwned(models.Model):
    """Base of every row: it belongs to a yard, and other yards do not see it."""

    yard = models.ForeignKey(Yard, on_delete=models.CASCADE)

    class Meta:
        abstract = True
