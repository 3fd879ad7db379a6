"""Whose a row is: its own yard, or that of what it belongs to."""

from __future__ import annotations

from typing import Any

from django.db import models


def yard_of(row: models.Model) -> int | None:
    """The key of the yard that a row belongs to; ``None`` of one that belongs to none, as a person
    does."""
    own = getattr(row, "yard_id", None)
    if own is not None:
        return int(own)
    for name in owned_by(row):
        owner: Any = getattr(row, name, None)
        found = None if owner is None else yard_of(owner)
        if found is not None:
            return found
    return None


def owned_by(row: models.Model) -> list[str]:
    """Fields that lead to what a row goes with when that goes."""
    fields: list[Any] = [field for field in row._meta.concrete_fields if field.is_relation]
    return [field.name for field in fields if field.remote_field.on_delete is models.CASCADE]
