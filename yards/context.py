"""What the frame of every page needs to know of the person and the yard."""

from __future__ import annotations

from functools import partial
from typing import Any

from django.conf import settings
from django.http import HttpRequest
from django.urls import reverse

from measures.writing import UnitSystem
from web.places import Errand, errands, places
from yards.models import Role


def yard(request: HttpRequest) -> dict[str, Any]:
    """The yard behind the gate, or ``None``, and the units figures are shown in."""
    user = getattr(request, "user", None)
    signed_in = user if user is not None and user.is_authenticated else None
    return {
        "sign_up_open": settings.SIGN_UP,
        "yard": getattr(request, "yard", None),
        "role": getattr(request, "role", None),
        "user": signed_in,
        "units": UnitSystem.US if signed_in is None else signed_in.unit_system,
        # called by the frame alone: a partial that answers a drag does without
        "work_places": places,
        "person_errands": partial(errands, owner=getattr(request, "role", None) is Role.OWNER),
        "at_hand": partial(_at_hand, getattr(request, "role", None)),
        "frame_addresses": _addresses,
    }


def _at_hand(role: Role | None) -> tuple[Errand, ...]:
    """What whoever drives has to reach from everywhere."""
    if role is not Role.DRIVER:
        return ()
    return tuple(errand for errand in errands(owner=False) if errand.urgent)


FRAME = {"units": "set_units", "sign_out": "sign_out", "search": "search"}
"""What the frame leads to, whichever app answers it."""


def _addresses() -> dict[str, str]:
    """Where the frame's own forms and links lead."""
    return {name: reverse(address) for name, address in FRAME.items()}
