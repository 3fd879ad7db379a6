"""What a file brought into a yard, so that taking it in can be undone."""

from __future__ import annotations

from typing import Any

from django.db import models

from yards.models import User, YardOwned


class Intake(YardOwned):
    """One file that was taken in.

    ``made`` are the rows that came with it and ``changed`` those that were there and are otherwise
    since: each its model, its key and the count of its changes (``stamp``) as the file left it, a
    changed one also what it can be put ``back`` to. ``settings`` are fields of the yard, each as
    it was and as the file has it. ``left`` says what undoing left as it is, and why.
    """

    what = models.CharField(max_length=200)
    made: Any = models.JSONField(default=list)
    changed: Any = models.JSONField(default=list)
    settings: Any = models.JSONField(default=dict)
    left: Any = models.JSONField(default=list)
    taken_by = models.ForeignKey(User, null=True, on_delete=models.SET_NULL, related_name="+")
    taken_at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return self.what
