"""A piece of long work: what was sent, how far it has come, what came of it."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Final

from django.db import models
from django.utils import timezone

from yards.models import User, YardOwned

QUIET: Final = timedelta(seconds=60)
"""Work that has not been heard of for so long has fallen: it tells of itself twice a second."""


def _place(work: LongWork, name: str) -> str:
    return f"long-work/{uuid.uuid4().hex}"


class LongWork(YardOwned):
    """Something that takes long, done apart from the pages."""

    class State(models.TextChoices):
        """How it stands."""

        WAITING = "waiting", "Begins"
        RUNNING = "running", "Under way"
        DONE = "done", "Done"
        FAILED = "failed", "Given up"
        CANCELLED = "cancelled", "Called off"

    OPEN = (State.WAITING, State.RUNNING)

    kind = models.CharField(max_length=40)
    title = models.CharField(max_length=120)
    asked = models.JSONField(default=dict, blank=True)
    """What its kind needs to know besides the file."""
    file = models.FileField(upload_to=_place, blank=True)
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    said = models.CharField(max_length=300, blank=True)
    """Why it was given up."""
    result = models.JSONField(default=dict, blank=True)
    begun_by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    begun_at = models.DateTimeField(auto_now_add=True)
    heard_at = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-pk"]

    @property
    def open(self) -> bool:
        """Whether it is still going on."""
        return self.state in self.OPEN

    @property
    def quiet(self) -> bool:
        """Whether it is said to go on and has not been heard of: the server was stopped."""
        return self.open and timezone.now() - self.heard_at > QUIET

    @property
    def percent(self) -> int:
        """How far it has come."""
        return min(100 * self.done // self.total, 100) if self.total else 0

    def read(self) -> bytes:
        """What was sent; nothing where it was swept away."""
        if not self.file:
            return b""
        with self.file.open("rb") as file:
            data: bytes = file.read()
        return data
