"""Moving a haul on the board: another day, another truck, another driver, as one change."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import Final

from django.db import transaction

from book.chain import couples
from book.errors import IncompleteError
from book.models import Hitch, Truck
from hauls.assigning import Job, assign, job_of
from hauls.grounds import grounded
from hauls.loads import linked_loads
from hauls.models import Haul
from hauls.store import save_haul, swap_outfit
from planfile.climbing import Place as End
from planfile.errors import PlanFileError
from yards.models import User

BY: Final = ("truck", "driver")
"""What may stand down the board's side."""


class MoveError(ValueError):
    """It cannot go there; the message says why, and what to do."""


@transaction.atomic
def move(
    haul: Haul, *, day: date | None, by: str, key: str, was: str, base: int, user: User
) -> None:
    """Put a haul on a day of a row, or on none; ``was`` and ``base`` are the haul's as the board
    showed it.

    Another truck is hitched with the first of its hitches that the trailer can be coupled to; the
    loads stay where they stand, and the plan's verdict is worked out anew.

    Raises:
        MoveError: there is no such row, or the truck cannot take that trailer.
        AlreadyChangedError: somebody said otherwise in between.
        StaleRevision: the plan has moved on.
    """
    job = replace(job_of(haul), day=day)
    if by == "driver":
        job = replace(job, driver=_driver(haul, key))
    assign(haul, job, was=was)
    if by == "truck" and key and key != str(haul.truck_id or ""):
        _with_truck(haul, key, base=base, user=user)


@transaction.atomic
def say(haul: Haul, job: Job, *, was: str, user: User) -> None:
    """Say when and where a haul goes; the ground of a place that it did not go to before comes into
    its plan, where the book says what that is like.

    Raises:
        AlreadyChangedError: somebody said otherwise in between.
        StaleRevision: the plan has moved on.
    """
    before = (haul.fetched_from_id, haul.taken_to_id)
    assign(haul, job, was=was)
    draft = haul.draft
    for place, old, end in (
        (job.fetched_from, before[0], End.LOADING),
        (job.taken_to, before[1], End.UNLOADING),
    ):
        if place is not None and place.pk != old:
            draft = grounded(draft, place, end)
    if draft.json() != haul.document:
        save_haul(haul, draft, base=haul.revision, user=user, what="the ground of its places")


def _driver(haul: Haul, key: str) -> User | None:
    if not key:
        return None
    found = haul.yard.members.filter(pk=int(key)).first() if key.isdecimal() else None
    if found is None:
        raise MoveError("Choose somebody of this yard.")
    return found


def _with_truck(haul: Haul, key: str, *, base: int, user: User) -> None:
    there = Truck.objects.filter(yard=haul.yard)
    truck = there.filter(pk=int(key)).first() if key.isdecimal() else None
    if truck is None:
        raise MoveError("Choose a truck of the book.")
    trailer = haul.trailer
    if trailer is None:
        raise MoveError(
            f"“{haul.name}” was not planned from the book. Choose truck and trailer on its page."
        )
    hitches = list(truck.hitches.order_by("pk"))
    hitch: Hitch | None = next((one for one in hitches if couples(one, trailer)), None)
    if hitch is None:
        raise MoveError(f"{truck.name} has no hitch that {trailer.name} can be coupled to.")
    try:
        swap_outfit(
            haul,
            hitch=hitch,
            trailer=trailer,
            loads=list(linked_loads(haul).values()),
            name=haul.name,
            base=base,
            user=user,
        )
    except (IncompleteError, PlanFileError) as error:
        raise MoveError(f"{truck.name} cannot be planned with: {error}.") from error
