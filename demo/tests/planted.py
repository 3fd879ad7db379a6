"""The demo yard for tests: made once in a process, then put back row by row.

Making it goes through every form and search of the application and takes over a second;
a test class that only needs it to be there is not about that.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import time

from django.contrib.contenttypes.models import ContentType
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import connection, transaction

from book.models import Photo
from demo.yard import make_demo_yard


@dataclass(frozen=True, kw_only=True)
class _Kept:
    """Rows of every table that making the yard has filled, and the files of its photos."""

    rows: dict[str, list[tuple[object, ...]]]
    files: dict[str, bytes]
    kinds: dict[int, tuple[str, str]]
    """Content types by key: what empties a database between tests numbers them anew."""


_kept: list[_Kept] = []


def _empty_tables() -> list[str]:
    with connection.cursor() as cursor:
        names = connection.introspection.table_names(cursor)
        found = []
        for name in names:
            cursor.execute(f"SELECT EXISTS (SELECT 1 FROM {connection.ops.quote_name(name)})")
            if not cursor.fetchone()[0]:
                found.append(name)
    return found


def _read(tables: list[str]) -> dict[str, list[tuple[object, ...]]]:
    found = {}
    with connection.cursor() as cursor:
        for name in tables:
            cursor.execute(f"SELECT * FROM {connection.ops.quote_name(name)}")
            if rows := cursor.fetchall():
                found[name] = [tuple(_bound(value) for value in row) for row in rows]
    return found


def _bound(value: object) -> object:
    """A value as the database takes it again: it reads times of day, and binds none."""
    return value.isoformat() if isinstance(value, time) else value


def _kinds() -> dict[int, tuple[str, str]]:
    return {kind.pk: kind.natural_key() for kind in ContentType.objects.all()}


def _columns_of_kinds(table: str) -> list[int]:
    """Places of the columns that name a content type."""
    with connection.cursor() as cursor:
        relations = connection.introspection.get_relations(cursor, table)
        described = connection.introspection.get_table_description(cursor, table)
    to_kinds = {
        column
        for column, (_, other, *_) in relations.items()
        if other == ContentType._meta.db_table
    }
    return [n for n, column in enumerate(described) if column.name in to_kinds]


@transaction.atomic
def plant_demo_yard() -> None:
    """Put the demo yard into a database that is otherwise empty."""
    empty = _empty_tables()
    if not _kept:
        make_demo_yard()
        rows = _read(empty)
        files = {}
        for name in Photo.objects.values_list("file", flat=True):
            with default_storage.open(name) as file:
                files[name] = file.read()
        _kept.append(_Kept(rows=rows, files=files, kinds=_kinds()))
        return
    kept = _kept[0]
    taken = sorted(set(kept.rows) - set(empty))
    if taken:
        raise RuntimeError(f"the demo yard is planted first; there are rows in {', '.join(taken)}")
    now = {key: pk for pk, key in _kinds().items()}
    with connection.cursor() as cursor:
        for name, then in kept.rows.items():
            at = _columns_of_kinds(name)
            rows = [
                tuple(now[kept.kinds[v]] if n in at and v else v for n, v in enumerate(row))
                for row in then
            ]
            marks = ", ".join(["%s"] * len(rows[0]))
            cursor.executemany(
                f"INSERT INTO {connection.ops.quote_name(name)} VALUES ({marks})", rows
            )
    for name, content in kept.files.items():
        if not default_storage.exists(name):
            default_storage.save(name, ContentFile(content))
