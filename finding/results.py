"""What a search finds, in groups, each with where it leads."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice
from typing import Final

from django.db.models import Q
from django.urls import reverse

from book.kinds import KINDS
from book.models import Ticket
from hauls.models import Haul
from planfile.draft import glance
from wording.phrases import begun
from yards.models import Yard

EACH: Final = 12
"""Of every group; more words find fewer."""

MOST_WORDS: Final = 6


@dataclass(frozen=True, kw_only=True, slots=True)
class Hit:
    """One thing that was found."""

    name: str
    about: str
    address: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Group:
    """What was found of one kind; ``more`` says that there is more than is shown."""

    title: str
    hits: tuple[Hit, ...]
    more: bool


def found(yard: Yard, typed: str) -> list[Group]:
    """Everything of a yard in which each of the words stands; nothing for no words."""
    words = typed.split()[:MOST_WORDS]
    if not words:
        return []
    groups = (_group("Hauls", _hauls(yard, words)), *_book(yard, words), _tickets(yard, words))
    return [group for group in groups if group.hits]


def _group(title: str, hits: Iterator[Hit]) -> Group:
    seen = list(islice(hits, EACH + 1))
    return Group(title=title, hits=tuple(seen[:EACH]), more=len(seen) > EACH)


def _in_each(words: list[str], *fields: str) -> Q:
    every = Q()
    for word in words:
        any_field = Q()
        for field in fields:
            any_field |= Q(**{f"{field}__icontains": word})
        every &= any_field
    return every


def _hauls(yard: Yard, words: list[str]) -> Iterator[Hit]:
    fields = (
        *("name", "truck__name", "trailer__name", "links__machine__name", "links__bulk__name"),
        *("driver__first_name", "driver__last_name"),
    )
    rows = Haul.objects.filter(_in_each(words, *fields), yard=yard).distinct()
    for haul in rows[: EACH + 1]:
        names = glance(haul.document)
        yield Hit(
            name=haul.name,
            about=f"{names.truck}, {names.trailer}: {', '.join(names.items) or 'empty'}",
            address=haul.get_absolute_url(),
        )


def _book(yard: Yard, words: list[str]) -> Iterator[Group]:
    for kind in KINDS.values():
        rows = kind.model._default_manager.filter(_in_each(words, "name", "notes"), yard=yard)
        hits = (
            Hit(
                name=thing.name,
                about=kind.one,
                address=reverse("edit_thing", args=[kind.slug, thing.pk]),
            )
            for thing in rows[: EACH + 1]
        )
        yield _group(begun(kind.many), hits)


def _tickets(yard: Yard, words: list[str]) -> Group:
    fields = ("place", "number", "aboard", "read_by", "loads__name")
    rows = Ticket.objects.filter(_in_each(words, *fields), yard=yard).distinct()
    hits = (
        Hit(
            name=f"{ticket.weighed_on:%d %b %Y}",
            about=", ".join(part for part in (ticket.place, ticket.number, ticket.aboard) if part),
            address=reverse("weighed", args=[ticket.pk]),
        )
        for ticket in rows[: EACH + 1]
    )
    return _group("Tickets", hits)
