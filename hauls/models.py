"""A haul keeps its plan whole, with the numbers it was planned with."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models
from django.urls import reverse

from book.models import Bulk, Configuration, Hitch, Machine, Place, Trailer, Truck
from planfile.draft import Draft
from yards.models import YardOwned

PURPOSE = 120
"""Characters of what a haul is for."""


class HaulQuerySet(models.QuerySet["Haul"]):
    """Hauls as a page needs them."""

    def with_book(self) -> HaulQuerySet:
        """With all of the book that they were planned with, in a constant number of queries."""
        return self.select_related(
            "truck__yard", "hitch__truck", "trailer__yard", "changed_by"
        ).prefetch_related(
            "truck__loads",
            "hitch__links__part",
            "trailer__axles",
            "trailer__additions",
            "trailer__anchors",
            "trailer__links__part",
        )


class Haul(YardOwned):
    """One haul. ``document`` is its plan file, in the units it was planned in.

    The book may move on; the document does not, until somebody takes the book's new
    numbers over. ``revision`` counts saved changes, so that two people editing one haul
    notice each other.
    """

    class State(models.TextChoices):
        """How far a haul is on its way."""

        PLANNED = "planned", "planned"
        READY = "ready", "ready to go"
        ON_THE_ROAD = "road", "on the road"
        DELIVERED = "delivered", "delivered"
        BACK = "back", "back in the yard"

    name = models.CharField(max_length=200)
    document: Any = models.JSONField()
    truck = models.ForeignKey(Truck, null=True, blank=True, on_delete=models.SET_NULL)
    hitch = models.ForeignKey(Hitch, null=True, blank=True, on_delete=models.SET_NULL)
    trailer = models.ForeignKey(Trailer, null=True, blank=True, on_delete=models.SET_NULL)
    revision = models.PositiveIntegerField(default=1)
    verdict = models.CharField(max_length=8, default="unknown")
    changed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    changed_at = models.DateTimeField(auto_now=True)
    archived = models.BooleanField(default=False)
    state = models.CharField(max_length=9, choices=State.choices, default=State.PLANNED)
    """By what its driver noted (:mod:`road.services`)."""
    day = models.DateField(null=True, blank=True)
    """When it is to be hauled."""
    driver = models.ForeignKey(
        settings.AUTH_USER_MODEL,
        null=True,
        blank=True,
        on_delete=models.SET_NULL,
        related_name="+",
    )
    starts = models.TimeField(null=True, blank=True)
    """When the outfit leaves, by the yard's clock."""
    takes_minutes = models.PositiveSmallIntegerField(null=True, blank=True)
    """How long outfit and driver are away."""
    fetched_from = models.ForeignKey(
        Place, null=True, blank=True, on_delete=models.SET_NULL, related_name="fetched"
    )
    taken_to = models.ForeignKey(
        Place, null=True, blank=True, on_delete=models.SET_NULL, related_name="brought"
    )
    purpose = models.CharField(max_length=PURPOSE, blank=True)
    step = models.PositiveIntegerField(default=0)
    """Which of its steps the haul stands at."""

    objects = HaulQuerySet.as_manager()

    class Meta:
        ordering = ["-changed_at", "-pk"]
        # with what is put away in it, so that a long list is counted without its documents
        indexes = [
            models.Index(
                fields=["yard", "-changed_at", "-id", "archived"], name="hauls_listed_newest_first"
            ),
            models.Index(fields=["yard", "day"], name="hauls_of_a_day"),
        ]

    def __str__(self) -> str:
        return self.name

    def get_absolute_url(self) -> str:
        return reverse("haul", args=[self.pk])

    @property
    def draft(self) -> Draft:
        """The document as a typed value, read once for as long as it stays the same.

        Raises:
            PlanFileError: the document is not a valid plan.
        """
        kept: tuple[object, Draft] | None = self.__dict__.get("_draft")
        if kept is None or kept[0] is not self.document:
            kept = self.__dict__["_draft"] = (self.document, Draft.read(self.document))
        return kept[1]


TO_DO = (Haul.State.PLANNED, Haul.State.READY, Haul.State.ON_THE_ROAD)
"""How hauls stand that are still to be done."""


class HaulStep(models.Model):
    """A haul as it stood after a change, so that the change can be undone and done again.

    Step 0 is the haul before its first change. ``links`` are item id, machine,
    configuration and bulk by primary key.
    """

    haul = models.ForeignKey(Haul, on_delete=models.CASCADE, related_name="steps")
    number = models.PositiveIntegerField()
    what = models.CharField(max_length=200)
    document: Any = models.JSONField()
    links: Any = models.JSONField(default=list)
    truck = models.ForeignKey(Truck, null=True, on_delete=models.SET_NULL, related_name="+")
    hitch = models.ForeignKey(Hitch, null=True, on_delete=models.SET_NULL, related_name="+")
    trailer = models.ForeignKey(Trailer, null=True, on_delete=models.SET_NULL, related_name="+")
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["haul", "number"], name="step_once_in_a_haul")
        ]

    def __str__(self) -> str:
        return f"{self.number}: {self.what}"


class HaulItem(models.Model):
    """What of the book an item of a haul was taken from: a machine as configured, or bulk."""

    haul = models.ForeignKey(Haul, on_delete=models.CASCADE, related_name="links")
    machine = models.ForeignKey(Machine, null=True, on_delete=models.CASCADE)
    configuration = models.ForeignKey(Configuration, null=True, on_delete=models.CASCADE)
    bulk = models.ForeignKey(Bulk, null=True, on_delete=models.CASCADE)
    item_id = models.CharField(max_length=100)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["haul", "item_id"], name="one_machine_per_item"),
            models.CheckConstraint(
                condition=models.Q(machine__isnull=False) ^ models.Q(bulk__isnull=False),
                name="item_is_a_machine_or_bulk",
            ),
        ]
