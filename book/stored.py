"""What follows from stored things alone, worked out once for each content of their rows.

The rows are read as the database holds them, which is far less work than making objects of
them; what was made of the same rows before is handed out again. Whatever changes a row, here or
in another process, changes what is found.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Sequence
from functools import lru_cache
from typing import Any, Final, TypeVar, cast

from django.db import connection
from django.db.models import ForeignKey, ManyToManyField, Model, QuerySet
from django.db.models.fields.reverse_related import ForeignObjectRel

from book.models import Thing

Stored = tuple[tuple[Any, ...], ...]
"""Rows of one table as the database holds them, the key first."""

KEYS: Final = {
    "sqlite": "SELECT value FROM json_each(%s)",
    "postgresql": "SELECT value::bigint FROM json_array_elements_text(%s::json)",
}
"""Keys that come as one parameter, a JSON list, by the database."""

Made = TypeVar("Made")


class _ChangedMeanwhile(Exception):
    """Somebody changed one of the things while this was made of them: to be shown, not kept."""

    def __init__(self, made: Any) -> None:
        self.made = made
        super().__init__()


def made_of(
    found: QuerySet[Any], paths: tuple[str, ...], make: Callable[..., Made], *given: Any
) -> Made:
    """What ``make`` makes of the things found, as a sequence, and of what else is ``given``.

    ``paths`` name what it reads beside the things themselves, as for prefetching; the yard they
    belong to is at hand, and may be asked for what is also given. ``given`` has to be hashable.
    """
    own, model = _rows_of(found), cast(type[Thing], found.model)
    belonging = _rows_beside(model, paths, own)
    try:
        return cast(Made, _made(make, model, paths, own, belonging, *given))
    except _ChangedMeanwhile as changed:
        return cast(Made, changed.made)


@lru_cache(maxsize=1024)
def _made(
    make: Callable[..., Any],
    model: type[Thing],
    paths: tuple[str, ...],
    own: Stored,
    belonging: tuple[Stored, ...],
    *given: Any,
) -> Any:
    here = model._default_manager.filter(pk__in=[row[0] for row in own])
    things: Sequence[Thing] = (
        list(here.select_related("yard").prefetch_related(*paths)) if own else []
    )
    made = make(things, *given)
    if own and (_rows_of(here), _rows_beside(model, paths, own)) != (own, belonging):
        raise _ChangedMeanwhile(made)
    return made


def _rows_of(found: QuerySet[Any]) -> Stored:
    names = [field.attname for field in _columns(found.model)]
    sql, parameters = found.values_list(*names).query.sql_with_params()
    with connection.cursor() as cursor:
        cursor.execute(sql, parameters)
        return tuple(cursor.fetchall())


def _rows_beside(model: type[Model], paths: tuple[str, ...], own: Stored) -> tuple[Stored, ...]:
    """Rows of everything on the paths, table by table."""
    if not own:
        return ()
    keys, found = json.dumps([row[0] for row in own]), []
    with connection.cursor() as cursor:
        for sql in _beside(model, paths):
            cursor.execute(sql, [keys])
            found.append(tuple(cursor.fetchall()))
    return tuple(found)


@lru_cache(maxsize=64)
def _beside(model: type[Model], paths: tuple[str, ...]) -> tuple[str, ...]:
    """The statements that read them, each with the things' keys as a JSON list for parameter."""
    return tuple(sql for path in paths for sql in _along(model, path.split("__")))


def _along(model: type[Model], steps: list[str]) -> Iterator[str]:
    where = f"{_key(model)} IN ({KEYS[connection.vendor]})"
    for step in steps:
        relation: Any = model._meta.get_field(step)
        to: type[Model] = relation.related_model
        if isinstance(relation, ForeignObjectRel):
            back: Any = relation.field
            where = f"{_quoted(back.column)} IN ({_chosen(_key(model), model, where)})"
        elif isinstance(relation, ForeignKey):
            before = _chosen(_quoted(relation.column), model, where)
            where = f"{_key(to)} IN ({before})"
        elif isinstance(relation, ManyToManyField):
            through: Any = relation.remote_field.through
            before = _chosen(_key(model), model, where)
            between = f"{_quoted(relation.m2m_column_name())} IN ({before})"
            yield _all(through, between)
            before = _chosen(_quoted(relation.m2m_reverse_name()), through, between)
            where = f"{_key(to)} IN ({before})"
        model = to
        yield _all(model, where)


def _all(model: type[Model], where: str) -> str:
    columns = ", ".join(_quoted(field.column) for field in _columns(model))
    return f"{_chosen(columns, model, where)} ORDER BY {_key(model)}"


def _chosen(columns: str, model: type[Model], where: str) -> str:
    # names of our own tables and columns, nothing that anybody typed
    return f"SELECT {columns} FROM {_quoted(model._meta.db_table)} WHERE {where}"  # noqa: S608


def _columns(model: type[Model]) -> list[Any]:
    fields = list(model._meta.concrete_fields)
    return sorted(fields, key=lambda field: not field.primary_key)


def _quoted(name: str) -> str:
    return connection.ops.quote_name(name)


def _key(model: Any) -> str:
    return _quoted(model._meta.pk.column)
