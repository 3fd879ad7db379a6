"""What every entry of the book has: a name, notes, a version, photos, a history."""

from __future__ import annotations

from django.contrib.contenttypes.fields import GenericRelation
from django.db import models
from reversion.models import Revision

from yards.models import Yard, YardOwned


class Known(models.TextChoices):
    """How a mass is known, from the surest to the least sure."""

    WEIGHED = "weighed", "Weighed"
    PLATE = "plate", "Plate"
    BUILT_UP = "built_up", "Built up from its parts"
    BROCHURE = "brochure", "Brochure"
    GUESS = "guess", "Guess"


class Thing(YardOwned):
    """A truck, hitch part, trailer, machine or bulk load of a yard.

    ``version`` counts changes, so that an edit based on an older page is noticed.
    """

    name = models.CharField(max_length=120, help_text="What the yard calls it.")
    notes = models.TextField(blank=True, max_length=4000)
    version = models.PositiveIntegerField(default=1, editable=False)
    changed_at = models.DateTimeField(auto_now=True)
    photos = GenericRelation("book.Photo")
    tickets = GenericRelation("book.Ticket")

    class Meta:
        abstract = True
        ordering = ["name", "pk"]

    def __str__(self) -> str:
        return self.name


class YardOfChange(models.Model):
    """Whose yard a recorded change belongs to."""

    revision = models.OneToOneField(Revision, on_delete=models.CASCADE, related_name="of_yard")
    yard = models.ForeignKey(Yard, on_delete=models.CASCADE)
