"""A walk round an outfit with a tape: which things it fills, and what was left out on it."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models
from django.urls import reverse

from book.models import Hitch, Machine, Trailer, Truck
from hauls.models import Haul
from yards.models import YardOwned


class Walk(YardOwned):
    """One walk. What is read goes straight into the book, one box at a time, so that several
    people may take parts of it and go on elsewhere; only what was left out is kept here.

    It is over once a haul was planned of it.
    """

    truck = models.ForeignKey(Truck, null=True, on_delete=models.SET_NULL)
    hitch = models.ForeignKey(Hitch, null=True, on_delete=models.SET_NULL)
    trailer = models.ForeignKey(Trailer, null=True, on_delete=models.SET_NULL)
    machine = models.ForeignKey(Machine, null=True, on_delete=models.SET_NULL)
    haul = models.ForeignKey(Haul, null=True, on_delete=models.SET_NULL)
    marks: Any = models.JSONField(default=list)
    """What the book does not say: ``-slug`` a step left out, ``=slug`` one that was answered with
    what a new thing has anyway, ``+part`` a thing that came into the book on this walk."""
    over = models.BooleanField(default=False)
    started_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+"
    )
    started_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-changed_at", "-pk"]

    def __str__(self) -> str:
        return f"Tape walk of {self.started_at:%d %b %Y}"

    def left_out(self, slug: str) -> bool:
        """Whether somebody went on without answering a step."""
        return f"-{slug}" in self.marks

    def said(self, slug: str) -> bool:
        """Whether a step was answered, whatever the book would hold without that."""
        return f"={slug}" in self.marks

    def made_here(self, part: str) -> bool:
        """Whether a part's thing came into the book on this walk."""
        return f"+{part}" in self.marks

    def with_marks(self, add: str, *gone: str) -> None:
        """Keep one mark more and others no longer."""
        self.marks = [one for one in self.marks if one not in (add, *gone)] + [add]

    def get_absolute_url(self) -> str:
        return reverse("walk", args=[self.pk])
