"""A thing on paper: every figure that is known, what follows from them, what is not known."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Final

from django.db import models

from book.fields import value_words
from book.gaps import Gap
from book.history import newest_change
from book.kinds import Kind, Rows
from book.models import Configuration, Hitch, Machine, Thing, Trailer, Truck
from book.summary import Derived, chain_shown
from measures import UnitSystem

_OFFSET: Final[Any] = Hitch._meta.get_field("offset")


@dataclass(frozen=True, kw_only=True, slots=True)
class Part:
    """One group of figures: pairs of what it is and what it says."""

    heading: str
    rows: tuple[tuple[str, str], ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Table:
    """One inner list: its columns that hold anything, and a line for each row."""

    heading: str
    columns: tuple[str, ...]
    lines: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class DataSheet:
    """A page of the book as it is printed. ``by`` and ``at`` are of its last change."""

    what: str
    name: str
    parts: tuple[Part, ...]
    tables: tuple[Table, ...]
    derived: tuple[Derived, ...]
    gaps: tuple[Gap, ...]
    by: str
    at: datetime | None


def data_sheet(
    thing: Thing,
    kind: Kind,
    *,
    derived: Sequence[Derived],
    gaps: Sequence[Gap],
    units: UnitSystem,
) -> DataSheet:
    """The sheet of a stored thing, in the person's units."""
    by, at = newest_change(thing)
    return DataSheet(
        what=kind.one,
        name=thing.name,
        parts=tuple(_parts(thing, kind, units)),
        tables=tuple(table for table in _tables(thing, kind, units) if table.lines),
        derived=tuple(derived),
        gaps=tuple(gaps),
        by=by,
        at=at,
    )


def _parts(thing: Thing, kind: Kind, units: UnitSystem) -> Iterator[Part]:
    # some boxes are ticks for other rows, which have a table of their own
    own = {field.name for field in thing._meta.concrete_fields} - {"name"}
    for group in kind.groups:
        name, _, values = group.when.partition("=")
        if name and str(getattr(thing, name)) not in values.split(" "):
            continue
        rows = tuple(_rows(thing, [field for field in group.fields if field in own], units))
        if rows:
            yield Part(heading=group.heading, rows=rows)


def _rows(row: models.Model, names: Sequence[str], units: UnitSystem) -> Iterator[tuple[str, str]]:
    """What a row says in some of its fields; one that is empty, or no, says nothing."""
    for name in names:
        field: Any = row._meta.get_field(name)
        words = "" if getattr(row, name) is False else value_words(field, getattr(row, name), units)
        if words:
            yield str(field.verbose_name), words


def _tables(thing: Thing, kind: Kind, units: UnitSystem) -> Iterator[Table]:
    for rows in kind.rows:
        if not hasattr(thing, rows.prefix):
            # boxes for new parts hold nothing
            continue
        yield _table(rows, list(getattr(thing, rows.prefix).all()), units)
    if isinstance(thing, Truck):
        yield Table(
            heading="Hitches",
            columns=("hitch", "ball behind the rear axle", "its parts", "takes"),
            lines=tuple(_hitch(hitch, units) for hitch in thing.hitches.all()),
        )
    elif isinstance(thing, Trailer):
        yield Table(
            heading="On it",
            columns=("part",),
            lines=tuple((link.part.name,) for link in thing.links.all()),
        )
    elif isinstance(thing, Machine):
        yield Table(
            heading="Configurations",
            columns=("configuration", "with"),
            lines=tuple(_configuration(one) for one in thing.configurations.all()),
        )


def _table(rows: Rows, there: list[models.Model], units: UnitSystem) -> Table:
    model = rows.formset.model
    names = [
        name
        for name in rows.formset.form._meta.fields
        if not model._meta.get_field(name).is_relation
    ]
    said = [dict(_named(row, names, units)) for row in there]
    used = [name for name in names if any(name in line for line in said)]
    return Table(
        heading=rows.heading,
        columns=tuple(str(model._meta.get_field(name).verbose_name) for name in used),
        lines=tuple(tuple(line.get(name, "") for name in used) for line in said),
    )


def _named(row: models.Model, names: Sequence[str], units: UnitSystem) -> Iterator[tuple[str, str]]:
    for name in names:
        for _, words in _rows(row, [name], units):
            yield name, words


def _hitch(hitch: Hitch, units: UnitSystem) -> tuple[str, str, str, str]:
    place = "" if hitch.offset is None else value_words(_OFFSET, hitch.offset, units)
    parts = ", ".join(link.part.name for link in hitch.links.all())
    takes = chain_shown(hitch, None, units).words
    return f"{hitch.name}, {hitch.get_type_display().lower()}", place or "not taped", parts, takes


def _configuration(one: Configuration) -> tuple[str, str]:
    return one.name, ", ".join(part.name for part in one.parts.all())
