"""Where a haul's loads really stopped, as it was read."""

from __future__ import annotations

from django.conf import settings
from django.contrib.contenttypes.fields import GenericRelation
from django.db import models
from django.utils import timezone

from book.fields import LengthField, MassField
from book.models import Ticket
from hauls.models import Haul
from yards.models import Yard


class Stopped(models.Model):
    """Where a haul's loads really stopped, as somebody read it; the newest one counts.

    ``revision`` is the plan's at the time, ``tongue_kg`` what the tongue was to carry by it.
    """

    haul = models.ForeignKey(Haul, on_delete=models.CASCADE, related_name="stops")
    gauge = MassField("gauge", null=True)
    arch_front = LengthField("front wheel arch", null=True)
    arch_rear = LengthField("rear wheel arch", null=True)
    note = models.CharField(max_length=300, blank=True)
    revision = models.PositiveIntegerField()
    tongue_kg = models.FloatField()
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(default=timezone.now)

    ticket = models.ForeignKey(Ticket, null=True, on_delete=models.SET_NULL, related_name="+")
    """The ticket the book learns from, once it was asked to."""
    photos = GenericRelation("book.Photo")

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return f"{self.haul}, {self.at:%Y-%m-%d %H:%M}"

    @property
    def yard(self) -> Yard:
        """The yard its photos belong to."""
        return self.haul.yard

    @property
    def name(self) -> str:
        """What a photo is attached to, in words."""
        return f"Where {self.haul} stopped"


class StoppedLoad(models.Model):
    """Where one load's mark was taped; ``planned_m`` is where it was to be, in metres behind the
    headboard."""

    stopped = models.ForeignKey(Stopped, on_delete=models.CASCADE, related_name="loads")
    item_id = models.CharField(max_length=100)
    name = models.CharField(max_length=200)
    mark = LengthField("mark", least="any")
    planned_m = models.FloatField()

    def __str__(self) -> str:
        return f"{self.name}: {self.mark}"
