"""Hauls that a file changed become again what they were: the plan, and the job."""

from __future__ import annotations

from typing import Any, cast

from django.db import models

from book.services.intakes import PutBack
from hauls.assigning import FIELDS
from hauls.models import Haul
from hauls.steps import NothingToUndo, walk
from yards.models import User


def job_kept(haul: Haul) -> dict[str, Any]:
    """What is said of a haul, by its columns and as JSON holds it."""
    kept = {}
    for name in FIELDS:
        field: Any = Haul._meta.get_field(name)
        value = getattr(haul, field.attname)
        kept[field.attname] = value.isoformat() if hasattr(value, "isoformat") else value
    return kept


def _as_it_was(row: models.Model, back: dict[str, Any], user: User) -> None:
    """Undo the step that took the file's plan, if the haul still is at it, and its job."""
    haul = cast(Haul, row)
    if haul.step != back["step"]:
        raise ValueError(back["step"])
    try:
        walk(haul, -1, base=haul.revision, user=user)
    except NothingToUndo as error:
        raise ValueError(back["step"]) from error
    job = dict(back["job"])
    for name in FIELDS:
        field: Any = Haul._meta.get_field(name)
        # a place or person that is gone by now stays gone
        if field.is_relation and not field.related_model.objects.filter(pk=job[field.attname]):
            job[field.attname] = None
    Haul.objects.filter(pk=haul.pk).update(**job)


PUT_BACK = (PutBack(model=Haul, run=_as_it_was),)
