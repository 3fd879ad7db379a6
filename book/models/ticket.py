"""Scale tickets: what a scale said of a thing, kept as it was read."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.contenttypes.fields import GenericForeignKey, GenericRelation
from django.contrib.contenttypes.models import ContentType
from django.db import models

from book.fields import LengthField, MassField
from book.models.machine import Configuration, Machine
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
    axles_mass = MassField("trailer axles", null=True, help_text="On their pad, hitched.")
    configuration = models.ForeignKey(
        Configuration, null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    """How a weighed machine was set up; ``None`` as the book has it on its first page."""
    place = models.CharField(max_length=120, blank=True)
    number = models.CharField("ticket number", max_length=60, blank=True)
    aboard = models.CharField(max_length=200, blank=True, help_text="People, fuel, what was on it.")
    fee = models.CharField(max_length=30, blank=True, help_text="As it was paid.")
    method = models.CharField(max_length=30, blank=True)
    """How it was weighed, where the Weigh pages worked the figures out."""
    readings: Any = models.JSONField(default=dict, blank=True)
    """What was read, as it was typed, by the name of its box."""
    read_by = models.CharField(max_length=80, blank=True)
    first = models.ForeignKey(
        "self",
        null=True,
        blank=True,
        on_delete=models.SET_NULL,
        related_name="again",
        verbose_name="second weighing of",
    )
    photos = GenericRelation("book.Photo")
    version = models.PositiveIntegerField(default=1, editable=False)
    added_at = models.DateTimeField(auto_now_add=True)
    added_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )

    READINGS = ("whole_mass", "front_axle_mass", "rear_axle_mass", "tongue_mass")
    FIGURES = (*READINGS, "axles_mass")

    class Meta:
        ordering = ["-weighed_on", "-pk"]
        indexes = [models.Index(fields=["content_type", "object_id"], name="ticket_of_thing")]

    def __str__(self) -> str:
        return f"{self.weighed_on:%d %b %Y}"

    @property
    def name(self) -> str:
        """What a photo is attached to, in words."""
        return f"The ticket of {self}"


class Aboard(models.Model):
    """Something that was aboard when a ticket was read: people, fuel, an item at its place.

    ``reference`` is an item's mark behind the headboard, as on the deck tape.
    """

    class Kind(models.TextChoices):
        PERSON = "person", "People"
        FUEL = "fuel", "Fuel"
        ITEM = "item", "A machine of the book"
        OTHER = "other", "Something else"

    class Facing(models.TextChoices):
        FORWARD = "forward", "Forward"
        BACKWARD = "backward", "Backward"

    ticket = models.ForeignKey(Ticket, on_delete=models.CASCADE, related_name="loads")
    kind = models.CharField(max_length=6, choices=Kind.choices, default=Kind.OTHER)
    name = models.CharField(max_length=80, blank=True)
    machine = models.ForeignKey(Machine, null=True, on_delete=models.SET_NULL, related_name="+")
    configuration = models.ForeignKey(
        Configuration, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    mass = MassField(null=True)
    reference = LengthField("mark behind the headboard", null=True, least="any")
    facing = models.CharField(max_length=8, choices=Facing.choices, default=Facing.FORWARD)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.name or self.get_kind_display()

    @property
    def named(self) -> bool:
        """Whether its name says what it is: people and fuel are named by their kind."""
        return bool(self.name) and self.kind in (self.Kind.ITEM, self.Kind.OTHER)

    def save(self, *args: Any, **kwargs: Any) -> None:
        """Keep the machine's name too: the record outlives what the book calls it, or has."""
        if self.machine is not None and not self.name:
            self.name = str(self.configuration or self.machine)[:80]
        super().save(*args, **kwargs)

    @property
    def own_words(self) -> str:
        """What was typed beside the machine's name."""
        known = {str(one)[:80] for one in (self.configuration, self.machine) if one}
        return "" if self.name in known else self.name
