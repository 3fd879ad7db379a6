"""A thing of the book moved from one yard to another with its history.

The thing keeps its key, and with it the history of its figures, photos, tickets and whatever is
kept of it alone: defects, inspections. What belongs to the old yard stays there and lets go of it:
hauls keep their plans, trips their words. What ties it to something that stays behind is dropped,
and told beforehand.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import Any, Final

from django.contrib.contenttypes.fields import GenericRelation
from django.db import models, transaction

from book.history import FOLLOWS, keep, note, recorded
from book.models import Hitch, HitchLink, HitchPart, Thing, Trailer, TrailerPart
from book.owners import owned_by, yard_of
from book.services.things import claim
from web.registry import brought
from yards.models import User, Yard

MODULE: Final = "moving"
"""Apps bring here, as ``STAYS``, functions from a thing to why it cannot be moved, empty where it
can."""


class MoveError(ValueError):
    """It cannot be moved; the message says why and what to do."""


Key = tuple[type[models.Model], Any]


@dataclass
class Luggage:
    """What moving a thing does: rows that go ``along``, fields that are let go (``loose``), rows
    that are ``dropped``."""

    along: dict[Key, models.Model] = field(default_factory=dict)
    loose: list[tuple[models.Model, str]] = field(default_factory=list)
    dropped: dict[Key, models.Model] = field(default_factory=dict)

    @property
    def goes(self) -> list[str]:
        """What goes along, in words."""
        return _counted(row for row in self.along.values() if hasattr(row, "yard_id"))

    @property
    def stays(self) -> list[str]:
        """What stays and lets go of it."""
        return _counted(row for row, _ in self.loose if hasattr(row, "yard_id"))

    @property
    def lost(self) -> list[str]:
        """What is dropped."""
        return _counted(self.dropped.values())


def _counted(rows: Iterable[models.Model]) -> list[str]:
    found = Counter(type(row) for row in rows)
    return sorted(
        f"{count} {model._meta.verbose_name if count == 1 else model._meta.verbose_name_plural}"
        for model, count in found.items()
    )


def luggage(thing: Thing) -> Luggage:
    """What moving a thing to another yard would do."""
    found = Luggage()
    _take(found, thing)
    # rows that come along may point at what stays behind
    for row in list(found.along.values()):
        _let_go(found, row, thing.yard_id)
    return found


def _take(found: Luggage, row: models.Model) -> None:
    """Take a row along with all that is its own, and see to what points at it."""
    key = (type(row), row.pk)
    if key in found.along:
        return
    found.along[key] = row
    if isinstance(row, (HitchLink, TrailerPart)) and _only_here(row.part, found):
        _take(found, row.part)
    inner = FOLLOWS.get(type(row), ())
    for name in inner:
        for child in getattr(row, name).all():
            _take(found, child)
    relations: list[Any] = list(row._meta.get_fields(include_hidden=True))
    for relation in relations:
        if isinstance(relation, GenericRelation):
            for child in getattr(row, relation.name).all():
                _take(found, child)
        elif (
            relation.auto_created
            and not relation.concrete
            and not relation.many_to_many
            and relation.get_accessor_name() not in inner
        ):
            _see_to(found, row, relation)


def _see_to(found: Luggage, row: models.Model, relation: Any) -> None:
    """What points at a row that goes."""
    pointing = relation.field
    there = relation.related_model._base_manager.filter(**{pointing.name: row})
    for one in there:
        if (type(one), one.pk) in found.along:
            continue
        if pointing.null and pointing.remote_field.on_delete is models.SET_NULL:
            found.loose.append((one, pointing.name))
        elif hasattr(one, "yard_id") or _is_child(one, found):
            _take(found, one)
        else:
            found.dropped[type(one), one.pk] = one


def _is_child(one: models.Model, found: Luggage) -> bool:
    """Whether a row without a yard belongs to rows that go, and to nothing else."""
    owners = [owner for name in owned_by(one) if (owner := getattr(one, name)) is not None]
    return bool(owners) and all((type(owner), owner.pk) in found.along for owner in owners)


def _only_here(part: HitchPart, found: Luggage) -> bool:
    """Whether a hitch part is on nothing but what goes."""
    hitches = [(Hitch, link.hitch_id) for link in part.on_hitches.all()]
    trailers = [(Trailer, link.trailer_id) for link in part.on_trailers.all()]
    return all(key in found.along for key in (*hitches, *trailers))


def _let_go(found: Luggage, row: models.Model, yard: int) -> None:
    """Links of a row that goes to what stays: emptied where they may be, else the row is dropped.
    A hitch part that others use too is copied."""
    for one in row._meta.concrete_fields:
        key = getattr(row, one.attname)
        if not one.is_relation or key is None or one.name == "yard":
            continue
        target = getattr(row, one.name)
        if target is None or (type(target), target.pk) in found.along or yard_of(target) != yard:
            continue
        if isinstance(target, HitchPart):
            continue
        if one.null:
            found.loose.append((row, one.name))
        else:
            found.dropped[type(row), row.pk] = row


def why_not(thing: Thing, to: Yard) -> str:
    """Why a thing cannot be moved to a yard; empty where it can."""
    for asked in brought(MODULE, "STAYS"):
        said = str(asked(thing))
        if said:
            return said
    for row in luggage(thing).along.values():
        if isinstance(row, Thing) and _taken(row, to):
            return (
                f"{to.name} has a {row._meta.verbose_name} called “{row.name}” already. Give one "
                "of them another name first."
            )
    return ""


def _taken(thing: Thing, yard: Yard) -> bool:
    return bool(type(thing)._default_manager.filter(yard=yard, name=thing.name).exists())


@transaction.atomic
def move_thing(thing: Thing, to: Yard, *, version: str | None, user: User) -> Luggage:
    """Move a thing to another yard with all that is its own.

    Raises:
        MoveError: it is needed where it is, or its name is taken there.
        StaleThing: somebody changed it in between.
    """
    said = why_not(thing, to)
    if said:
        raise MoveError(said)
    claim(thing, version)
    old = thing.yard
    packed = luggage(thing)
    for row, name in packed.loose:
        type(row)._base_manager.filter(pk=row.pk).update(**{name: None})
    for row in packed.dropped.values():
        type(row)._base_manager.filter(pk=row.pk).delete()
    for row in _shared_links(packed):
        _copy_part(row, to)
    for row in packed.along.values():
        if hasattr(row, "yard_id"):
            type(row)._base_manager.filter(pk=row.pk).update(yard=to)
    note(yard=old, user=user, why=f"{thing.name} moved to {to.name}")
    moved = type(thing)._default_manager.get(pk=thing.pk)
    with recorded(yard=to, user=user, why=f"Moved here from {old.name}", by_hand=True):
        keep(moved)
    return packed


def _shared_links(packed: Luggage) -> Iterator[HitchLink | TrailerPart]:
    for row in packed.along.values():
        if isinstance(row, (HitchLink, TrailerPart)) and (
            (HitchPart, row.part_id) not in packed.along
        ):
            yield row


def _copy_part(link: HitchLink | TrailerPart, to: Yard) -> None:
    """A part that stays behind on something else comes along as a copy."""
    part = HitchPart.objects.get(pk=link.part_id)
    there = HitchPart.objects.filter(yard=to, name=part.name).first()
    if there is None:
        part.pk, part.yard = None, to
        part._state.adding = True
        part.save(force_insert=True)
        there = part
    elif _figures(there) != _figures(part):
        raise MoveError(
            f"{to.name} has another hitch part called “{part.name}”. Give one of them another name "
            "first."
        )
    type(link)._base_manager.filter(pk=link.pk).update(part=there)


def _figures(part: HitchPart) -> list[Any]:
    plain = ("id", "yard", "version", "changed_at", "notes")
    return [getattr(part, f.name) for f in part._meta.concrete_fields if f.name not in plain]


def others_of(user: User, yard: Yard) -> list[Yard]:
    """Other yards of which somebody is an owner, where he is one of this."""
    owned = Yard.objects.filter(membership__user=user, membership__role="owner")
    if not owned.filter(pk=yard.pk).exists():
        return []
    return list(owned.exclude(pk=yard.pk).order_by("name"))
