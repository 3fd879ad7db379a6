"""What was removed, whole, so that it can be brought back."""

from __future__ import annotations

from typing import Any

from django.db import models

from yards.models import User, YardOwned


class Removed(YardOwned):
    """A thing, ticket or haul that was removed, with everything that went with it.

    ``rows`` are the rows as they stood, ``links`` what pointed there and points nowhere now: the
    model, the keys of its rows, the field and the key it held. ``files`` lie where they lay.
    """

    what = models.CharField(max_length=20)
    """The word for what it is: truck, ticket, haul."""
    name = models.CharField(max_length=200)
    rows: Any = models.JSONField()
    links: Any = models.JSONField(default=list)
    files: Any = models.JSONField(default=list)
    removed_by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    removed_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-removed_at", "-pk"]

    def __str__(self) -> str:
        return f"{self.what} {self.name}"
