"""The demo yard for tests: made once in a process, then put back row by row.

Making it goes through every form and search of the application and takes over a second;
a test class that only needs it to be there is not about that.
"""

from __future__ import annotations

from dataclasses import dataclass

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
                found[name] = rows
    return found


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
        _kept.append(_Kept(rows=rows, files=files))
        return
    kept = _kept[0]
    taken = sorted(set(kept.rows) - set(empty))
    if taken:
        raise RuntimeError(f"the demo yard is planted first; there are rows in {', '.join(taken)}")
    with connection.cursor() as cursor:
        for name, rows in kept.rows.items():
            marks = ", ".join(["%s"] * len(rows[0]))
            cursor.executemany(
                f"INSERT INTO {connection.ops.quote_name(name)} VALUES ({marks})", rows
            )
    for name, content in kept.files.items():
        if not default_storage.exists(name):
            default_storage.save(name, ContentFile(content))
