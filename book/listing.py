"""The lists of the book's page: what stands there of each thing.

Figures, gaps and questions follow from what is stored and from nothing else, so they are worked
out once for each content: the rows are read as the database holds them, which is far less work
than making objects of them, and what was made of the same rows before is shown again. Whatever
changes a row, here or in another process, changes what is found.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Final

from django.db import connection
from django.db.models import ForeignKey, ManyToManyField, Model, QuerySet
from django.db.models.fields.reverse_related import ForeignObjectRel

from book.gaps import Doubt, Gap, doubts, gaps
from book.kinds import KINDS, Kind
from book.page import figures_of
from book.tolerances import Tolerances
from measures import UnitSystem
from yards.models import Yard

SHOWN: Final = 40
"""Things of one list that the page shows; the search finds the others."""

Stored = tuple[tuple[Any, ...], ...]
"""Rows of one table as the database holds them."""


@dataclass(frozen=True, kw_only=True, slots=True)
class ListRow:
    """A thing in its list: its main figures, what is missing, what is asked."""

    slug: str
    pk: int
    name: str
    figures: tuple[tuple[str, str], ...]
    gaps: tuple[Gap, ...]
    doubts: tuple[Doubt, ...]

    @property
    def gap_words(self) -> str:
        """What is not known, in one line."""
        return ", ".join(gap.words for gap in self.gaps)

    @property
    def more_doubts(self) -> int:
        """Questions beside the first."""
        return max(len(self.doubts) - 1, 0)


@dataclass(frozen=True, kw_only=True, slots=True)
class ListOf:
    """The things of one kind that are shown, how many there are, and how many more."""

    kind: Kind
    rows: tuple[ListRow, ...]
    count: int

    @property
    def more(self) -> int:
        """How many are not shown."""
        return self.count - len(self.rows)


def list_of(
    kind: Kind, yard: Yard, search: str, units: UnitSystem, tolerances: Tolerances
) -> ListOf:
    """A yard's things of a kind whose name has ``search`` in it, the first of them with their
    figures."""
    found = kind.model._default_manager.filter(yard=yard, name__icontains=search)
    own = _rows_of(found[:SHOWN])
    try:
        rows = _worked_out(kind.slug, own, _belonging(kind, own), units, tolerances)
    except _ChangedMeanwhile as changed:
        rows = changed.rows
    return ListOf(kind=kind, rows=rows, count=len(own) if len(own) < SHOWN else found.count())


class _ChangedMeanwhile(Exception):
    """Somebody changed one of the things while this was worked out: to be shown, not kept."""

    def __init__(self, rows: tuple[ListRow, ...]) -> None:
        self.rows = rows
        super().__init__()


@lru_cache(maxsize=512)
def _worked_out(
    slug: str,
    own: Stored,
    belonging: tuple[Stored, ...],
    units: UnitSystem,
    tolerances: Tolerances,
) -> tuple[ListRow, ...]:
    """What stands in the list for things stored as ``own``, with all that belongs to them."""
    kind, keys = KINDS[slug], _keys(own)
    here = kind.model._default_manager.filter(pk__in=keys)
    rows = tuple(
        ListRow(
            slug=slug,
            pk=thing.pk,
            name=thing.name,
            figures=tuple(figures_of(thing, units, tolerances)),
            gaps=tuple(gaps(thing, units)),
            doubts=tuple(doubts(thing, units, tolerances)),
        )
        for thing in here.select_related("yard").prefetch_related(*kind.prefetch)
    )
    if keys and (_rows_of(here), _belonging(kind, own)) != (own, belonging):
        raise _ChangedMeanwhile(rows)
    return rows


def _keys(own: Stored) -> list[int]:
    return [row[0] for row in own]


def _belonging(kind: Kind, own: Stored) -> tuple[Stored, ...]:
    """Rows of everything that a page of such things reads with them, table by table."""
    return tuple(_tables_beside(kind, _keys(own))) if own else ()


def _tables_beside(kind: Kind, keys: list[int]) -> Iterator[Stored]:
    for path in kind.prefetch:
        model: type[Model] = kind.model
        here: QuerySet[Any] = model._default_manager.filter(pk__in=keys)
        for step in path.split("__"):
            relation: Any = model._meta.get_field(step)
            model = relation.related_model
            if isinstance(relation, ForeignObjectRel):
                here = model._default_manager.filter(**{f"{relation.field.name}__in": here})
            elif isinstance(relation, ForeignKey):
                here = model._default_manager.filter(pk__in=here.order_by().values(step))
            elif isinstance(relation, ManyToManyField):
                through: Any = relation.remote_field.through
                between = through._default_manager.filter(
                    **{f"{relation.m2m_field_name()}__in": here}
                )
                yield _rows_of(between.order_by("pk"))
                target = between.order_by().values(relation.m2m_reverse_field_name())
                here = model._default_manager.filter(pk__in=target)
            yield _rows_of(here.order_by("pk"))


def _rows_of(found: QuerySet[Any]) -> Stored:
    """The rows of a query, the key first, as they are stored."""
    names = [field.attname for field in found.model._meta.concrete_fields]
    names.sort(key=lambda name: name != found.model._meta.pk.attname)
    sql, parameters = found.values_list(*names).query.sql_with_params()
    with connection.cursor() as cursor:
        cursor.execute(sql, parameters)
        return tuple(cursor.fetchall())
