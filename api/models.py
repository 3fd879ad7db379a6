"""Tokens: a person's own key for a program of the yard."""

from __future__ import annotations

from typing import Any

from django.db import models

from yards.models import User, YardOwned


class Scope(models.TextChoices):
    """What a program may do; its person's role bounds it besides."""

    BOOK_READ = "book:read", "read the book"
    BOOK_WRITE = "book:write", "change the book"
    HAULS_READ = "hauls:read", "read hauls and the board"
    HAULS_WRITE = "hauls:write", "plan, change and move hauls"
    TICKETS_READ = "tickets:read", "read tickets"
    TICKETS_WRITE = "tickets:write", "add tickets"
    COMPUTE = "compute", "have plans worked out"

    @property
    def plans(self) -> bool:
        """Whether only somebody who plans may do it."""
        return self in (Scope.BOOK_WRITE, Scope.HAULS_WRITE)


class Token(YardOwned):
    """One key. Of its secret only the digest is kept. It does what its person may do in its yard,
    within its scopes, for as long as that person is of the yard."""

    name = models.CharField("what it is for", max_length=80)
    digest = models.CharField(max_length=64, unique=True)
    scopes: Any = models.JSONField(default=list)
    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    used_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return self.name
