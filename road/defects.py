"""Defects: told by whoever finds one, decided by an owner or planner, mended; what they hold up."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Final

from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.db.models import Q, QuerySet
from django.utils import timezone

from book.models import Trailer, Truck
from book.services.photos import attach_encoded, encoded
from hauls.models import Haul
from road.models import Defect, on
from wording.phrases import NOBODY, begun
from yards.models import User, Yard

MOST_SHOWN: Final = 200


class AlreadyDecidedError(Exception):
    """Somebody else has decided, or mended it, in between."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Shown:
    """A defect as pages show it. ``state`` is a status that has a shape."""

    pk: int
    what: str
    note: str
    thing: str
    haul: Haul | None
    told: str
    state: str
    decided: str
    holds_up: bool
    mended: str
    was: str
    photos: tuple[int, ...]


@transaction.atomic
def tell(
    thing: Truck | Trailer,
    *,
    what: str,
    note: str,
    key: str,
    haul: Haul | None,
    photo: UploadedFile | None,
    user: User,
    at: datetime,
) -> Defect:
    """Keep what somebody found, with a photo of it where there is one.

    Raises:
        PhotoError: the file is no photo that can be kept; nothing is.
    """
    picture = None if photo is None else encoded(photo)
    defect = Defect.objects.create(
        yard=thing.yard,
        **on(thing),
        haul=haul,
        what=what,
        note=note,
        key=key,
        by=user,
        at=at,
    )
    if picture is not None:
        attach_encoded(defect, picture, caption=what[:120], user=user)
    return defect


@transaction.atomic
def decide(
    defect: Defect, decision: str, *, reason: str, was: str, user: User, at: datetime
) -> None:
    """Decide whether hauls may go with it; ``was`` is the decision that the page showed.

    Raises:
        AlreadyDecidedError: it is otherwise by now.
    """
    changed = Defect.objects.filter(pk=defect.pk, decision=was, mended_at=None).update(
        decision=decision, reason=reason, decided_by=user, decided_at=at
    )
    if not changed:
        raise AlreadyDecidedError


@transaction.atomic
def mend(defect: Defect, *, user: User, at: datetime) -> None:
    """Note that it is mended. Mended already, it stays as it was noted."""
    Defect.objects.filter(pk=defect.pk, mended_at=None).update(mended_by=user, mended_at=at)


def defects_of(haul: Haul) -> list[Defect]:
    """What is wrong with a haul's truck and trailer and is not mended, the newest first."""
    of = Q(pk=None)
    if haul.truck_id:
        of |= Q(truck=haul.truck_id)
    if haul.trailer_id:
        of |= Q(trailer=haul.trailer_id)
    return list(_found(Defect.objects.filter(of, yard=haul.yard, mended_at=None)))


def defects_in(yard: Yard) -> list[Defect]:
    """All of a yard, those that hold something up first."""
    found = list(_found(Defect.objects.filter(yard=yard))[:MOST_SHOWN])
    return sorted(found, key=lambda one: (one.mended_at is not None, not one.holds_up))


def _found(rows: QuerySet[Defect]) -> QuerySet[Defect]:
    return rows.select_related(
        "truck", "trailer", "haul", "by", "decided_by", "mended_by"
    ).prefetch_related("photos")


def holding_up(yard: Yard, most: int) -> list[Defect]:
    """The newest of a yard's that hold something up."""
    rows = Defect.objects.filter(yard=yard, mended_at=None).exclude(decision=Defect.Decision.GO)
    return list(rows.select_related("truck", "trailer")[:most])


def held_up_by(haul: Haul) -> list[Defect]:
    """Defects that a haul must not go out with."""
    return [one for one in defects_of(haul) if one.holds_up]


def held_up_words(defects: Iterable[Defect]) -> str:
    """Why a haul cannot go on; empty where nothing holds it up."""
    found = list(defects)
    if not found:
        return ""
    named = "; ".join(f"{one.thing.name}: {one.what}" for one in found[:3])
    more = f" and {len(found) - 3} more" if len(found) > 3 else ""
    waits = any(one.decision == Defect.Decision.OPEN for one in found)
    ask = "An owner or planner has to decide." if waits else "It has to be mended first."
    return f"{named}{more}. {ask}"


def shown(one: Defect) -> Shown:
    """A defect in words."""
    who = one.by.shown_name if one.by else NOBODY
    decided = ""
    if one.decision:
        by = one.decided_by.shown_name if one.decided_by else NOBODY
        decided = f"{begun(Defect.Decision(one.decision).label)}: {one.reason} ({by})"
    state = {"": "unknown", "go": "near", "stop": "over"}[one.decision]
    return Shown(
        pk=one.pk,
        what=one.what,
        note=one.note,
        thing=one.thing.name,
        haul=one.haul,
        told=f"{who}, {timezone.localtime(one.at):%d %b %H:%M}",
        state="ok" if one.mended_at else state,
        decided=decided or begun(Defect.Decision.OPEN.label),
        holds_up=one.holds_up,
        mended=""
        if one.mended_at is None
        else f"Mended {timezone.localtime(one.mended_at):%d %b %Y}, "
        f"{one.mended_by.shown_name if one.mended_by else NOBODY}",
        was=one.decision,
        photos=tuple(photo.pk for photo in one.photos.all()),
    )
