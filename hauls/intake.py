"""Hauls that a file changed become again what they were."""

from typing import cast

from django.db import models

from book.services.intakes import PutBack
from hauls.models import Haul
from hauls.steps import NothingToUndo, walk
from yards.models import User


def _one_step_back(row: models.Model, step: int, user: User) -> None:
    """Undo the step that took the file's plan, if the haul still is at it."""
    haul = cast(Haul, row)
    if haul.step != step:
        raise ValueError(step)
    try:
        walk(haul, -1, base=haul.revision, user=user)
    except NothingToUndo as error:
        raise ValueError(step) from error


PUT_BACK = (PutBack(model=Haul, run=_one_step_back),)
