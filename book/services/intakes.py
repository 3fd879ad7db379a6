"""Files that were taken in: what each brought, and undoing that.

What came new goes, to be brought back like anything removed; what was changed becomes again what
it was. What somebody has changed since stays as it is, and is told.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final

from django.apps import apps
from django.db import IntegrityError, models, transaction
from django.db.models import Max
from django.utils import timezone
from reversion.models import Version

from book.models import Intake, Thing
from book.services.removal import KEPT, remove_together
from book.services.things import StaleThing, restore_version
from web.registry import brought
from yards.models import User, Yard

TOLD: Final = 40
"""Names that are told of what stays."""


@dataclass(frozen=True, kw_only=True)
class Changed:
    """A row that a file changed, and what it can be put ``back`` to, as JSON holds it: of a thing
    the recorded change it was at, of another what its app wants; ``None`` where there is none."""

    row: models.Model
    back: Any


@dataclass(frozen=True, kw_only=True)
class PutBack:
    """How rows of one model become again what they were before a file changed them; an app brings
    it along as ``intake.PUT_BACK``. ``run`` raises ``ValueError`` where that cannot be."""

    model: type[models.Model]
    run: Callable[[models.Model, Any, User], None]


class UndoneError(ValueError):
    """It is undone already; the message says so."""


def last_changes(model: type[Thing], pks: Sequence[int]) -> dict[int, int]:
    """The newest recorded change of each thing that has one, by the thing's key."""
    found: dict[int, int] = {}
    for start in range(0, len(pks), 500):
        some = [str(pk) for pk in pks[start : start + 500]]
        newest = Version.objects.get_for_model(model).filter(object_id__in=some)
        rows = newest.order_by().values_list("object_id").annotate(Max("revision_id"))
        found |= {int(pk): revision for pk, revision in rows}
    return found


def took_in(
    *,
    yard: Yard,
    user: User,
    what: str,
    made: Iterable[models.Model],
    changed: Iterable[Changed] = (),
    settings: Mapping[str, tuple[Any, Any]] | None = None,
) -> Intake:
    """Note what a file brought, in the transaction that stores it, once all of it is stored."""
    made, changed = list(made), list(changed)
    stamps = _stamps([*made, *(one.row for one in changed)])
    return Intake.objects.create(
        yard=yard,
        what=what[:200],
        made=[_entry(row, stamps) for row in made],
        changed=[{**_entry(one.row, stamps), "back": one.back} for one in changed],
        settings={name: list(pair) for name, pair in (settings or {}).items()},
        taken_by=user,
    )


def _counter(model: type[models.Model]) -> str:
    """The field that counts a row's changes; empty where nothing does."""
    names = {field.name for field in model._meta.concrete_fields}
    return next((name for name in ("revision", "version") if name in names), "")


def _stamps(rows: Iterable[models.Model]) -> dict[tuple[type[models.Model], int], int]:
    """How often each row has been changed, as it is stored."""
    kinds: dict[type[models.Model], list[int]] = {}
    for row in rows:
        kinds.setdefault(type(row), []).append(row.pk)
    found: dict[tuple[type[models.Model], int], int] = {}
    for model, pks in kinds.items():
        counter = _counter(model)
        for start in range(0, len(pks), 500):
            there = model._default_manager.filter(pk__in=pks[start : start + 500])
            stored = there.values_list("pk", counter) if counter else ((row.pk, 0) for row in there)
            found |= {(model, pk): count for pk, count in stored}
    return found


def _entry(
    row: models.Model, stamps: Mapping[tuple[type[models.Model], int], int]
) -> dict[str, Any]:
    return {"model": row._meta.label, "pk": row.pk, "stamp": stamps[type(row), row.pk]}


def lately(yard: Yard) -> models.QuerySet[Intake]:
    """What a yard took in while what was removed can be brought back, the newest first."""
    return Intake.objects.filter(yard=yard, taken_at__gt=timezone.now() - KEPT)


@transaction.atomic
def undo(intake: Intake, *, user: User, address: str = "") -> list[str]:
    """Undo a file that was taken in; what stays as it is, and why.

    Raises:
        UndoneError: somebody undid it before.
    """
    open_one = Intake.objects.filter(pk=intake.pk, undone_at=None)
    if not open_one.update(undone_at=timezone.now()):
        raise UndoneError("It is undone already.")
    left: list[str] = []
    going = _unchanged(intake.made, left)
    if going:
        remove_together(
            [row for row, _ in going],
            what="taken in",
            name=intake.what,
            yard=intake.yard,
            user=user,
            address=address,
        )
    for row, entry in _unchanged(intake.changed, left):
        try:
            with transaction.atomic():
                _put_back(row, entry, user)
        except (ValueError, LookupError, IntegrityError, StaleThing):
            left.append(f"{_called(row)} could not be put back")
    _settings_back(intake, left)
    Intake.objects.filter(pk=intake.pk).update(left=left[:TOLD])
    intake.refresh_from_db()
    return left


def _unchanged(
    entries: Iterable[dict[str, Any]], left: list[str]
) -> list[tuple[models.Model, dict[str, Any]]]:
    """The rows that are as the file left them; of the others the names go to ``left``. What was
    removed since is gone, and needs no word."""
    kinds: dict[str, dict[int, dict[str, Any]]] = {}
    for entry in entries:
        kinds.setdefault(entry["model"], {})[entry["pk"]] = entry
    found: list[tuple[models.Model, dict[str, Any]]] = []
    for label, by_key in kinds.items():
        model = apps.get_model(label)
        counter, keys = _counter(model), list(by_key)
        for start in range(0, len(keys), 500):
            for row in model._default_manager.filter(pk__in=keys[start : start + 500]):
                entry = by_key[row.pk]
                if counter and getattr(row, counter) != entry["stamp"]:
                    left.append(f"{_called(row)} was changed since")
                else:
                    found.append((row, entry))
    return found


def _called(row: models.Model) -> str:
    return str(getattr(row, "name", "") or row._meta.verbose_name)


def _put_back(row: models.Model, entry: dict[str, Any], user: User) -> None:
    if entry["back"] is None:
        raise LookupError(entry)
    if isinstance(row, Thing):
        restore_version(row, entry["back"], version=str(row.version), user=user)
        return
    ways: tuple[PutBack, ...] = brought("intake", "PUT_BACK")
    next(way for way in ways if type(row) is way.model).run(row, entry["back"], user)


def _settings_back(intake: Intake, left: list[str]) -> None:
    """The yard's own figures and rules as they were, where nobody has set them anew since."""
    yard = Yard.objects.get(pk=intake.yard_id)
    for name, (before, after) in intake.settings.items():
        if getattr(yard, name) == after:
            setattr(yard, name, before)
        else:
            left.append(f"the yard's {name.replace('_', ' ')} were changed since")
    yard.save(update_fields=list(intake.settings))


def sweep_intakes() -> int:
    """Forget files that were taken in longer ago than what was removed is kept; how many."""
    gone, _ = Intake.objects.filter(taken_at__lt=timezone.now() - KEPT).delete()
    return gone
