"""Removing what can be brought back for thirty days, and bringing it back.

What the database would delete or cut loose with a row is asked of its own collector, and kept as
rows in the form that the application's serializers write; bringing back puts them in again under
their old numbers, so that histories, links and photos are those of before.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from datetime import date, time, timedelta
from typing import Any, Final

from django.apps import apps
from django.core import serializers
from django.core.files.storage import default_storage
from django.core.serializers.base import DeserializationError
from django.db import IntegrityError, models, router, transaction
from django.db.models import F
from django.db.models.deletion import Collector
from django.utils import timezone

from book.history import keep, recorded
from book.models import Configuration, Hitch, Photo, Removed, Thing
from book.owners import yard_of
from yards.audit import happened
from yards.models import Happened, User, Yard

KEPT: Final = timedelta(days=30)
"""How long what was removed can be brought back."""


class RemovalError(ValueError):
    """It cannot be brought back; the message says why."""


def remove(
    row: models.Model, *, what: str, name: str, yard: Yard, user: User | None, address: str = ""
) -> Removed:
    """Remove a row with everything that goes with it, to be brought back if wanted."""
    return remove_together([row], what=what, name=name, yard=yard, user=user, address=address)


@transaction.atomic
def remove_together(
    rows: Sequence[models.Model],
    *,
    what: str,
    name: str,
    yard: Yard,
    user: User | None,
    address: str = "",
) -> Removed:
    """Remove several rows with everything that goes with them, to be brought back as one."""
    collector = Collector(using=router.db_for_write(Removed), origin=rows[0] if rows else None)
    kinds: dict[type[models.Model], list[models.Model]] = {}
    for row in rows:
        kinds.setdefault(type(row), []).append(row)
    for alike in kinds.values():
        collector.collect(alike)
    gone: list[models.Model] = [one for rows in collector.data.values() for one in rows]
    gone += [one for rows in collector.fast_deletes for one in rows]
    # one may go for several reasons; rows between two that know each other come back with them
    gone = [one for one in dict.fromkeys(gone) if not one._meta.auto_created]
    removed = Removed.objects.create(
        yard=yard,
        what=what,
        name=name[:200],
        rows=json.loads(json.dumps(serializers.serialize("python", gone), default=_plain)),
        links=list(_links(collector)),
        files=[str(one.file.name) for one in gone if isinstance(one, Photo)],
        removed_by=user,
    )
    collector.delete()
    about = f"{what} {name}"
    happened(Happened.REMOVED, yard=yard, by=user, about=about, address=address)
    return removed


def _plain(value: Any) -> str:
    """A value that JSON has no kind for, so that it reads back as the same to its last digit."""
    return value.isoformat() if isinstance(value, (date, time)) else str(value)


def _links(collector: Any) -> Iterable[dict[str, Any]]:
    """What points at the rows that go, and will point nowhere."""
    for (field, _), found in collector.field_updates.items():
        for rows in found:
            for one in rows:
                held = getattr(one, field.attname)
                if held is not None:
                    yield {
                        "model": one._meta.label,
                        "pk": one.pk,
                        "field": field.name,
                        "held": held,
                    }


@transaction.atomic
def bring_back(removed: Removed, *, user: User, address: str = "") -> None:
    """Put everything back that went. What has found another owner in between stays as it is.

    Raises:
        RemovalError: something has taken its name, or its number, in between, or it was removed
            by a version whose rows this one cannot read; nothing is changed.
    """
    try:
        rows = list(serializers.deserialize("python", removed.rows, ignorenonexistent=True))
    except (DeserializationError, LookupError) as error:
        raise RemovalError("It was removed by another version and cannot be read.") from error
    if len(rows) < len(removed.rows):
        raise RemovalError("It was removed by another version and cannot be read.")
    whole = _with_owners([row.object for row in rows], removed.yard_id)
    try:
        with transaction.atomic():
            for row in rows:
                if row.object in whole:
                    row.save(force_insert=True)
    except IntegrityError:
        raise RemovalError(
            f"Something is called “{removed.name}” by now, or stands in its place. Give that "
            "another name first."
        ) from None
    for link in removed.links:
        model = apps.get_model(link["model"])
        field = model._meta.get_field(link["field"])
        if _there(field.remote_field.model, link["held"], removed.yard_id):
            loose = model._base_manager.filter(pk=link["pk"], **{link["field"]: None})
            loose.update(**{field.attname: link["held"]})
    with recorded(yard=removed.yard, user=user, why=f"{removed.name} brought back", by_hand=True):
        for thing in _things(whole):
            type(thing)._default_manager.filter(pk=thing.pk).update(version=F("version") + 1)
            keep(thing)
    removed.delete()
    about = f"{removed.what} {removed.name}"
    happened(Happened.BROUGHT_BACK, yard=removed.yard, by=user, about=about, address=address)


def _things(rows: list[models.Model]) -> list[Thing]:
    """The things of the book that rows are, or belong to."""
    found = [row for row in rows if isinstance(row, Thing)]
    found += [row.truck for row in rows if isinstance(row, Hitch)]
    found += [row.machine for row in rows if isinstance(row, Configuration)]
    return list(dict.fromkeys(found))


def _with_owners(rows: list[models.Model], yard: int) -> list[models.Model]:
    """The rows whose owners are there, or come back with them; a link to somebody or something
    that is gone is let go where it may be empty."""
    waiting = list(rows)
    while True:
        coming = {(type(row), row.pk) for row in waiting}
        orphans = [
            row for row in waiting if not all(_held(row, f, coming, yard) for f in _foreign(row))
        ]
        if not orphans:
            return waiting
        waiting = [row for row in waiting if row not in orphans]


def _foreign(row: models.Model) -> list[Any]:
    return [f for f in row._meta.concrete_fields if f.is_relation]


def _held(
    row: models.Model, field: Any, coming: set[tuple[type[models.Model], Any]], yard: int
) -> bool:
    """Whether what a row points at is there; an empty link points at nothing, and is right."""
    key = getattr(row, field.attname)
    if key is None or (field.remote_field.model, key) in coming:
        return True
    if _there(field.remote_field.model, key, yard):
        return True
    if field.null:
        setattr(row, field.attname, None)
        return True
    return False


def _there(model: type[models.Model], key: Any, yard: int) -> bool:
    """Whether a row is there still, and no other yard's by now."""
    row = model._base_manager.filter(pk=key).first()
    return row is not None and yard_of(row) in (None, yard)


def names_kept() -> set[str]:
    """Files of photos of what can still be brought back."""
    return {name for files in Removed.objects.values_list("files", flat=True) for name in files}


def sweep_removed() -> int:
    """Let go of what has been removed for longer than it is kept, with its files; how many."""
    old = list(Removed.objects.filter(removed_at__lt=timezone.now() - KEPT))
    for removed in old:
        files = removed.files
        removed.delete()
        for name in files:
            default_storage.delete(name)
    return len(old)
