"""What somebody found wrong with a truck or trailer, and what was decided about it."""

from __future__ import annotations

from django.conf import settings
from django.contrib.contenttypes.fields import GenericRelation
from django.db import models
from django.utils import timezone

from hauls.models import Haul
from road.models.on import OnTruckOrTrailer


class Defect(OnTruckOrTrailer):
    """Something that is wrong with a truck or trailer.

    Open, it holds every haul of that truck or trailer up until an owner or planner has decided,
    with a reason; one that stops holds them up until it is mended.
    """

    class Decision(models.TextChoices):
        OPEN = "", "not decided yet"
        GO = "go", "may go"
        STOP = "stop", "must not go"

    haul = models.ForeignKey(Haul, null=True, on_delete=models.SET_NULL, related_name="defects")
    what = models.CharField(max_length=160)
    note = models.CharField(max_length=400, blank=True)
    key = models.CharField(max_length=80, blank=True)
    """The line of the haul's lists that it was found at."""
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(default=timezone.now)
    decision = models.CharField(
        max_length=4, choices=Decision.choices, default=Decision.OPEN, blank=True
    )
    reason = models.CharField(max_length=300, blank=True)
    decided_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    decided_at = models.DateTimeField(null=True)
    mended_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    mended_at = models.DateTimeField(null=True)
    photos = GenericRelation("book.Photo")

    class Meta(OnTruckOrTrailer.Meta):
        ordering = ["-at", "-pk"]

    def __str__(self) -> str:
        return self.what

    @property
    def name(self) -> str:
        """What a photo is attached to, in words."""
        return f"The defect “{self.what}”"

    @property
    def holds_up(self) -> bool:
        """Whether no haul may go out with it."""
        return self.mended_at is None and self.decision != self.Decision.GO
