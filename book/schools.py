"""The schools of a yard's new hauls."""

from __future__ import annotations

from typing import Any

from mechanics.hitch import HitchType
from mechanics.rules import TongueSchool


def rules_for(own: dict[str, Any], *, hitch_type: str, nose_plate: bool) -> dict[str, Any]:
    """The rules of a new haul under a yard's own: the ``rules`` object of a plan file.

    The school by the nose plate needs a plate on the truck and a ball; a haul without them
    goes by what is usual for its hitch.
    """
    rules = {"tongue": TongueSchool.DEFAULT.value, **own}
    by_plate = rules["tongue"] == TongueSchool.NOSE_4_7.value
    if by_plate and not (nose_plate and hitch_type == HitchType.BALL.value):
        rules["tongue"] = TongueSchool.DEFAULT.value
    return rules
