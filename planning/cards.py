"""What the list shows of each haul."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Final, NamedTuple

from django.utils.formats import date_format

from hauls.models import Haul
from measures import UnitSystem
from mechanics.checks import Status
from mechanics.report import evaluate
from pictures.drawing import Drawing, plain_picture
from pictures.outfit import WIDTH
from planfile.draft import Draft, glance
from planfile.errors import PlanFileError
from wording.phrases import names_of
from wording.sentences import summary
from wording.statuses import STATUS_WORDS, Verdict, verdict_of

PICTURES: Final = 12
"""Hauls that the list shows with their picture; drawing one takes a few milliseconds."""


@dataclass(frozen=True, kw_only=True, eq=False)
class Headline:
    """A haul in short: its picture, its verdict, and what is wrong or tightest.

    There is one for each document, so that two of them are the same or differ.
    """

    picture: Drawing
    verdict: Verdict
    line: str


@dataclass(frozen=True, kw_only=True)
class Card:
    """One haul of the list; without a ``headline`` only what is stored is said. ``width`` is that
    of the picture."""

    pk: int
    name: str
    status: str
    word: str
    truck: str
    trailer: str
    items: str
    state: str = ""
    when: str = ""
    line: str = ""
    headline: Headline | None = None
    width: float = WIDTH


def cards_of(hauls: Iterable[Haul], unit: UnitSystem) -> list[Card]:
    """The cards of a page, the first of them with their picture."""
    return [_card(haul, unit, pictured=number < PICTURES) for number, haul in enumerate(hauls)]


def _card(haul: Haul, unit: UnitSystem, *, pictured: bool) -> Card:
    short = in_short(haul, unit) if pictured else as_stored(haul)
    names = glance(haul.document)
    return Card(
        pk=haul.pk,
        name=haul.name,
        status=short.status,
        word=short.word,
        truck=names.truck,
        trailer=names.trailer,
        items=", ".join(names.items) or "empty",
        state="" if haul.state == Haul.State.PLANNED else Haul.State(haul.state).label,
        when=_when(haul),
        line=short.line,
        headline=short.headline,
    )


class Short(NamedTuple):
    """A haul's verdict with its word, what is wrong or tightest, and its headline, if it has
    one."""

    status: str
    word: str
    line: str = ""
    headline: Headline | None = None


def as_stored(haul: Haul) -> Short:
    """What is said of a haul without looking into its plan."""
    return Short(haul.verdict, STATUS_WORDS[Status(haul.verdict)])


def in_short(haul: Haul, unit: UnitSystem) -> Short:
    """What is said of a haul in short; of one whose plan cannot be read why not."""
    try:
        found = headline_of(haul, unit)
    except PlanFileError as error:
        return as_stored(haul)._replace(line=unreadable(error))
    return Short(found.verdict.status.value, found.verdict.word, found.line, found)


def _when(haul: Haul) -> str:
    """On which day it is hauled, and by whom; empty where neither is settled."""
    day = "" if haul.day is None else date_format(haul.day, "D j M")
    who = haul.driver.shown_name if haul.driver_id and haul.driver else ""
    return ", ".join(part for part in (day, who) if part)


def unreadable(error: PlanFileError) -> str:
    """What is said in place of a haul's headline where its plan cannot be read."""
    return f"Its plan cannot be read. {error}."


def headline_of(haul: Haul, unit: UnitSystem) -> Headline:
    """A haul in short, worked out once for each document; a list shows the same ones again and
    again.

    Raises:
        PlanFileError: the plan cannot be read.
    """
    return _headline(json.dumps(haul.document, sort_keys=True), unit)


@lru_cache(maxsize=512)
def _headline(document: str, unit: UnitSystem) -> Headline:
    draft = Draft.read(json.loads(document))
    report = evaluate(draft.plan)
    return Headline(
        picture=plain_picture(draft.plan, draft.drawn, draft.look, unit),
        verdict=verdict_of(report),
        line=summary(report, names_of(draft.plan), unit),
    )
