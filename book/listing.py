"""The lists of the book's page: what stands there of each thing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Final

from django.utils import timezone

from book.doubts import Doubt, doubts
from book.gaps import Gap, gaps
from book.kinds import Kind
from book.models import Thing
from book.page import figures_of
from book.silhouettes import Silhouette, silhouette
from book.stored import made_of
from book.tolerances import Tolerances
from measures import UnitSystem
from yards.models import Yard

SHOWN: Final = 40
"""Things of one list that a page of it shows."""


@dataclass(frozen=True, kw_only=True, slots=True)
class ListRow:
    """A thing in its list: how it looks, its main figures, what is missing, what is asked."""

    slug: str
    pk: int
    name: str
    picture: Silhouette | None
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
    """The things of one kind that are shown, how many there are in all, and which page of them it
    is, from 1."""

    kind: Kind
    rows: tuple[ListRow, ...]
    count: int
    page: int = 1

    @property
    def begin(self) -> int:
        """The number of the first that is shown, from 1."""
        return (self.page - 1) * SHOWN + 1

    @property
    def end(self) -> int:
        """The number of the last that is shown."""
        return self.begin + len(self.rows) - 1

    @property
    def before(self) -> int:
        """The page before this one; 0 for none."""
        return self.page - 1

    @property
    def after(self) -> int:
        """The page after this one; 0 for none."""
        return self.page + 1 if self.end < self.count else 0

    @property
    def more(self) -> int:
        """How many are not shown."""
        return self.count - len(self.rows)


def list_of(
    kind: Kind,
    yard: Yard,
    search: str,
    units: UnitSystem,
    tolerances: Tolerances,
    page: int = 1,
) -> ListOf:
    """A page of a yard's things of a kind whose name has ``search`` in it, with their figures; a
    page that there is none of is the last one."""
    found = kind.model._default_manager.filter(yard=yard, name__icontains=search)
    today = timezone.localdate()
    if page > 1:
        page = max(1, min(page, -(-found.count() // SHOWN)))
    begin = (page - 1) * SHOWN
    things = found[begin : begin + SHOWN]
    rows = made_of(things, kind.prefetch, _rows, kind.slug, units, tolerances, today)
    whole = page == 1 and len(rows) < SHOWN
    return ListOf(kind=kind, rows=rows, count=len(rows) if whole else found.count(), page=page)


def _rows(
    things: Sequence[Thing], slug: str, units: UnitSystem, tolerances: Tolerances, today: date
) -> tuple[ListRow, ...]:
    """What stands there of each; worked out anew on another day, since gear that was looked over
    long ago is asked about."""
    return tuple(
        ListRow(
            slug=slug,
            pk=thing.pk,
            name=thing.name,
            picture=silhouette(thing, tolerances),
            figures=tuple(figures_of(thing, units, tolerances)),
            gaps=tuple(gaps(thing, units)),
            doubts=tuple(doubts(thing, units, tolerances)),
        )
        for thing in things
    )
