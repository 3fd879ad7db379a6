"""Scale tickets: what a scale said of a thing, kept as it was read."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.contenttypes.fields import GenericForeignKey
from django.contrib.contenttypes.models import ContentType
from django.db import models

from book.fields import MassField
from yards.models import YardOwned


class Ticket(YardOwned):
    """One weighing of a truck, trailer or machine; of nothing in the book where that is not said.

    Anybody of the yard records one. It changes no figure of the book: that is a planner's
    to do, with the ticket at hand.
    """

    content_type = models.ForeignKey(ContentType, null=True, on_delete=models.CASCADE)
    object_id = models.PositiveBigIntegerField(null=True)
    thing = GenericForeignKey()
    weighed_on = models.DateField("date")
    whole_mass = MassField("whole", null=True)
    front_axle_mass = MassField("front axle", null=True)
    rear_axle_mass = MassField("rear axle", null=True)
    tongue_mass = MassField("tongue", null=True)
    place = models.CharField(max_length=120, blank=True)
    number = models.CharField("ticket number", max_length=60, blank=True)
    aboard = models.CharField(max_length=200, blank=True, help_text="People, fuel, what was on it.")
    fee = models.CharField(max_length=30, blank=True, help_text="As it was paid.")
    method = models.CharField(max_length=30, blank=True)
    """How it was weighed, where the Weigh pages worked the figures out."""
    readings: Any = models.JSONField(default=dict, blank=True)
    """What was read, as it was typed, by the name of its box."""
    added_at = models.DateTimeField(auto_now_add=True)
    added_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )

    READINGS = ("whole_mass", "front_axle_mass", "rear_axle_mass", "tongue_mass")

    class Meta:
        ordering = ["-weighed_on", "-pk"]
        indexes = [models.Index(fields=["content_type", "object_id"], name="ticket_of_thing")]

    def __str__(self) -> str:
        return f"{self.weighed_on:%d %b %Y}"
