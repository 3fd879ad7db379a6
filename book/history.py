"""The history of every change: who, when, what before and after, and why.

Versions are kept by a library; one recorded change holds a thing whole, with everything
that belongs to it, so that two of them can be compared.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import reversion
from django.contrib.contenttypes.models import ContentType
from django.db import models
from django.utils import timezone
from reversion.models import Revision, Version

from book.fields import value_words
from book.models import (
    Bulk,
    Configuration,
    Gear,
    Hitch,
    HitchLink,
    HitchPart,
    Machine,
    MachinePart,
    MachinePoint,
    Place,
    PlaceWay,
    Thing,
    Trailer,
    TrailerAddition,
    TrailerAnchor,
    TrailerAxle,
    TrailerPart,
    Truck,
    TruckLoad,
    YardOfChange,
)
from measures import Quantity
from measures.writing import UnitSystem, write_given
from yards.models import User, Yard

SHOWN = 60
"""Changes of a thing that its history shows, the newest first."""

FOLLOWS: dict[type[models.Model], tuple[str, ...]] = {
    Truck: ("loads", "hitches"),
    Hitch: ("links",),
    TruckLoad: (),
    HitchLink: (),
    HitchPart: (),
    Trailer: ("axles", "additions", "anchors", "links"),
    TrailerAxle: (),
    TrailerAddition: (),
    TrailerAnchor: (),
    TrailerPart: (),
    Machine: ("parts", "points", "configurations"),
    MachinePart: (),
    MachinePoint: (),
    Configuration: (),
    Bulk: (),
    Gear: (),
    Place: ("ways",),
    PlaceWay: (),
}
"""What is recorded together with what."""

UNSAID = ("id", "yard_id", "version", "changed_at")

for _model, _follow in FOLLOWS.items():
    if not reversion.is_registered(_model):
        reversion.register(_model, follow=_follow, exclude=("version", "changed_at"))


@contextmanager
def recorded(
    *, yard: Yard, user: User | None, why: str = "", by_hand: bool = False
) -> Iterator[None]:
    """Record what is saved and :func:`keep` -t inside as one change; all or nothing.

    ``by_hand`` records only what is kept, and not each row as it is saved.
    """
    with reversion.create_revision(manage_manually=by_hand, atomic=True):
        if user is not None:
            reversion.set_user(user)
        reversion.set_comment(why.strip()[:300])
        reversion.add_meta(YardOfChange, yard=yard)
        yield


def note(*, yard: Yard, user: User | None, why: str) -> None:
    """Record a change that leaves nothing behind to compare: something was removed."""
    revision = Revision.objects.create(date_created=timezone.now(), user=user, comment=why[:300])
    YardOfChange.objects.create(revision=revision, yard=yard)


def keep(thing: Thing) -> None:
    """Put a thing with all that belongs to it into the change being recorded."""
    reversion.add_to_revision(type(thing)._default_manager.get(pk=thing.pk))


def keep_many(model: type[Thing], pks: list[int]) -> None:
    """Put many things of one kind into the change being recorded, in a few queries."""
    belongings = [path for name in FOLLOWS[model] for path in (name, *_deeper(model, name))]
    there = model._default_manager.filter(pk__in=pks).prefetch_related(*belongings)
    for thing in there:
        reversion.add_to_revision(thing)


def _deeper(model: type[models.Model], name: str) -> list[str]:
    """What belongs to the things of a list, as paths from its owner."""
    inner = model._meta.get_field(name).related_model
    return [f"{name}__{more}" for more in FOLLOWS.get(inner, ())]  # type: ignore[arg-type]


@dataclass(frozen=True, kw_only=True, slots=True)
class Difference:
    """One figure before and after; an empty text where there was none."""

    what: str
    before: str
    after: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Change:
    """One recorded change of one thing."""

    who: str
    when: datetime
    why: str
    first: bool
    differences: tuple[Difference, ...]
    revision: int
    """Number of what holds it, to be put back."""
    newest: bool = False


def changes_of(thing: Thing, units: UnitSystem = UnitSystem.US) -> list[Change]:
    """The thing's changes, the newest first, in the person's units. A change that altered no
    figure is left out."""
    versions = list(
        Version.objects.get_for_object(thing)
        .select_related("revision__user")
        .order_by("-revision_id")[: SHOWN + 1]
    )
    if not versions:
        # older than the history itself
        return []
    snapshots = {v.pk: _snapshot(thing, v.revision, units) for v in versions}
    changes = []
    for newer, older in zip(versions, [*versions[1:], None], strict=True):
        if older is None and len(versions) > SHOWN:
            break
        before = {} if older is None else snapshots[older.pk]
        differences = tuple(_differences(before, snapshots[newer.pk]))
        if differences or older is None:
            user = newer.revision.user
            changes.append(
                Change(
                    who=user.shown_name if user else "Somebody no longer here",
                    when=newer.revision.date_created,
                    why=newer.revision.get_comment(),
                    first=older is None,
                    differences=differences,
                    revision=newer.revision_id,
                    newest=newer is versions[0],
                )
            )
    return changes


def newest_change(thing: Thing) -> tuple[str, datetime | None]:
    """Who changed a thing last, and when; nobody and never where that is older than the history."""
    newest = Version.objects.get_for_object(thing).select_related("revision__user").first()
    if newest is None:
        return "", None
    user = newest.revision.user
    return user.shown_name if user else "somebody no longer here", newest.revision.date_created


def latest_changes(yard: Yard, count: int) -> list[tuple[Revision, str]]:
    """The yard's newest recorded changes, each with what it was about."""
    found = (
        Revision.objects.filter(of_yard__yard=yard)
        .select_related("user")
        .prefetch_related("version_set")
        .order_by("-pk")[:count]
    )
    kinds = {
        ContentType.objects.get_for_model(m).pk
        for m in (Truck, HitchPart, Trailer, Machine, Bulk, Gear, Place)
    }
    listed = []
    for revision in found:
        names = [v.object_repr for v in revision.version_set.all() if v.content_type_id in kinds]
        shown = ", ".join(names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")
        listed.append((revision, shown))
    return listed


Snapshot = dict[tuple[str, str], tuple[str, str]]
"""Key of the owner and field name, to what it is called and its value in words."""


def _belonging(
    thing: Thing, versions: list[Version], units: UnitSystem
) -> Iterator[tuple[Version, str]]:
    """Of what was recorded together the thing and all that belongs to it, each with what it is
    called there; nothing for the thing itself."""
    names = _names(versions)
    owners = {(ContentType.objects.get_for_model(thing).pk, str(thing.pk)): ""}
    # children come after their parents as often as before, so go round until none is new
    waiting = versions
    while waiting:
        left = []
        for version in waiting:
            model = version.content_type.model_class()
            key = (version.content_type_id, str(version.object_id))
            label = owners.get(key)
            if label is None:
                parent = _parent(model, version.field_dict)
                if parent is None or parent not in owners:
                    left.append(version)
                    continue
                label = _label(model, version.field_dict, version.object_repr, names, units)
                owners[key] = label
            yield version, label
        if len(left) == len(waiting):
            return
        waiting = left


def _snapshot(thing: Thing, revision: Revision, units: UnitSystem) -> Snapshot:
    """Every figure of the thing as the recorded change holds it."""
    versions = list(revision.version_set.select_related("content_type"))
    names = _names(versions)
    found: Snapshot = {}
    for version, label in _belonging(thing, versions, units):
        model, fields = version.content_type.model_class(), version.field_dict
        for field in model._meta.get_fields():
            if _is_shown(model, field):
                words = _words(field, fields.get(field.attname), names, units)
                if field.many_to_many:
                    words = _words(field, fields.get(field.name), names, units)
                title = f"{label}: {field.verbose_name}" if label else field.verbose_name
                found[(f"{model.__name__}{version.object_id}", field.name)] = (title, words)
    return found


def put_back(thing: Thing, revision: Revision) -> int:
    """Make a thing, and what belongs to it, what a recorded change holds of it. What came since is
    taken away, what was taken away comes back; how many parts of it cannot, because what they were
    made of is gone.

    Raises:
        LookupError: the change holds nothing of the thing.
    """
    versions = list(revision.version_set.select_related("content_type"))
    recorded_then = [version for version, _ in _belonging(thing, versions, UnitSystem.US)]
    if not any(_is_of(version, thing) for version in recorded_then):
        raise LookupError(revision.pk)
    then = {(v.content_type.model_class(), str(v.object_id)) for v in recorded_then}
    for row in _inner(thing):
        if (type(row), str(row.pk)) not in then:
            row.delete()
    lost = 0
    for version in recorded_then:
        fields = {**version.field_dict}
        row = version._object_version.object
        if _lacks_a_part(row, fields):
            lost += 1
            continue
        if isinstance(row, Thing):
            # what a history does not hold is as it is now
            row.version, row.yard, row.changed_at = thing.version, thing.yard, timezone.now()
        version.revert()
    return lost


def _is_of(version: Version, row: models.Model) -> bool:
    model = version.content_type.model_class()
    return model is type(row) and str(version.object_id) == str(row.pk)


def _inner(row: models.Model) -> Iterator[models.Model]:
    """All that belongs to a row now, the innermost first."""
    for name in FOLLOWS[type(row)]:
        for inner in getattr(row, name).all():
            yield from _inner(inner)
            yield inner


def _lacks_a_part(row: models.Model, fields: dict[str, Any]) -> bool:
    """Whether a link to a hitch part points at one that is not in the book any more."""
    if not isinstance(row, (HitchLink, TrailerPart)):
        return False
    return not HitchPart._default_manager.filter(pk=fields["part_id"]).exists()


def _is_shown(model: type[models.Model], field: Any) -> bool:
    if field.many_to_many and not field.auto_created:
        return model is Configuration
    if not field.concrete or field.attname in UNSAID:
        return False
    return not (field.is_relation and field.related_model in (Truck, Hitch, Trailer, Machine))


def _parent(model: type[models.Model], fields: dict[str, Any]) -> tuple[int, str] | None:
    for field in model._meta.concrete_fields:
        if field.is_relation and field.related_model in (Truck, Hitch, Trailer, Machine):
            kind = ContentType.objects.get_for_model(field.related_model)
            return kind.pk, str(fields.get(field.attname))
    return None


def _names(versions: list[Version]) -> dict[tuple[type[models.Model], str], str]:
    """Names of what is recorded together, for links between them."""
    names: dict[tuple[type[models.Model], str], str] = {}
    for version in versions:
        model = version.content_type.model_class()
        names[(model, str(version.object_id))] = version.object_repr
    linked = {
        str(v.field_dict["part_id"])
        for v in versions
        if v.content_type.model_class() in (HitchLink, TrailerPart)
    }
    for part in HitchPart._default_manager.filter(pk__in=linked):
        names.setdefault((HitchPart, str(part.pk)), part.name)
    return names


def _label(
    model: type[models.Model],
    fields: dict[str, Any],
    shown: str,
    names: dict[tuple[type[models.Model], str], str],
    units: UnitSystem,
) -> str:
    if model in (HitchLink, TrailerPart):
        return "hitch part"
    if model is TrailerAxle:
        position = fields.get("position")
        if isinstance(position, Quantity):
            return f"axle at {write_given(position, units)}"
        return "axle"
    return str(fields.get("name") or shown)


def _words(
    field: Any, value: Any, names: dict[tuple[type[models.Model], str], str], units: UnitSystem
) -> str:
    if field.many_to_many:
        found = [names.get((field.related_model, str(pk)), "a part") for pk in value or ()]
        return ", ".join(sorted(found))
    if field.is_relation and value is not None:
        return names.get((field.related_model, str(value)), "a part since removed")
    return value_words(field, value, units)


def _differences(before: Snapshot, after: Snapshot) -> Iterator[Difference]:
    for key in {**before, **after}:
        what = (after.get(key) or before[key])[0]
        one, two = before.get(key, ("", ""))[1], after.get(key, ("", ""))[1]
        if one != two:
            yield Difference(what=str(what), before=one, after=two)
