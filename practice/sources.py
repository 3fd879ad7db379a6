"""What a case is made of: invented, of the yard's own book, or of one of its hauls."""

from __future__ import annotations

import hashlib
import json
import random
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from book.errors import IncompleteError
from book.models import Hitch, Trailer
from hauls.drafting import bare_draft, with_load
from hauls.loads import load_choices, read_load
from hauls.models import Haul
from measures import UnitSystem
from planfile.draft import Draft
from planfile.errors import PlanFileError
from practice.cases import Case, Kind, UnfitError
from practice.kinds import kind_of
from web.sent import counted
from yards.models import Yard

OWN: Final = "own"
"""The source of cases of the yard's own outfits and machines, by chance."""

HAUL: Final = "haul-"
"""How the source of a haul begins."""

MOST_HAULS: Final = 60
"""Hauls that are offered as cases."""

OWN_DRAFTS: Final = 20
"""Outfits with a load that are tried for a case of the yard's own book."""

OWN_TRIES: Final = 6
"""Cases that are tried of each."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Made:
    """A case with the kind it is of; ``stamp`` changes with what is shown of it and with what it is
    made of, so that an answer is never held against another case than it was given to."""

    kind: Kind
    case: Case
    stamp: str


@lru_cache(maxsize=128)
def _invented(kind: Kind, seed: int) -> Made:
    return _made(kind, kind.make(seed))


def _made(kind: Kind, case: Case, draft: Draft | None = None) -> Made:
    """A case with the stamp of what is shown of it and of what it is made of."""
    shown = case.situation(UnitSystem.US)
    words = [shown.story, shown.facts, shown.table, shown.questions]
    text = f"{words} {'' if draft is None else json.dumps(draft.json(), sort_keys=True)}"
    return Made(kind=kind, case=case, stamp=hashlib.sha256(text.encode()).hexdigest())


def made(yard: Yard, slug: str, seed: int, source: str) -> Made:
    """The case of a number.

    Raises:
        UnfitError: there is none, and why.
    """
    kind = kind_of(slug)
    if kind is None:
        raise UnfitError("There is no such kind.")
    if not source or not kind.of_hauls:
        return _invented(kind, seed)
    if source == OWN:
        return _of_the_book(yard, kind, seed)
    draft = _draft(yard, source)
    return _made(kind, kind.make(seed, draft), draft)


def haul_of(yard: Yard, source: str) -> Haul | None:
    """The haul of a source; ``None`` where the yard has none of it."""
    if not source.startswith(HAUL):
        return None
    return Haul.objects.filter(yard=yard, pk=counted(source.removeprefix(HAUL))).first()


def _draft(yard: Yard, source: str) -> Draft:
    """The draft of a source's haul.

    Raises:
        UnfitError: there is none.
    """
    found = haul_of(yard, source)
    if found is None:
        raise UnfitError("That haul is gone: take another.")
    try:
        return found.draft
    except PlanFileError as error:
        raise UnfitError(f"The plan of {found.name} cannot be read.") from error


def _of_the_book(yard: Yard, kind: Kind, seed: int) -> Made:
    """A case of the yard's own outfits and loads, by chance.

    Raises:
        UnfitError: of none of what was tried.
    """
    hitches = list(Hitch.objects.filter(truck__yard=yard).select_related("truck").order_by("pk"))
    trailers = list(Trailer.objects.filter(yard=yard).order_by("pk"))
    loads = [key for key, _ in load_choices(yard).all]
    if not (hitches and trailers and loads):
        raise UnfitError("The book needs a truck, a trailer and a machine first.")
    # the same number is to make the same case
    rng = random.Random(f"own {seed}")  # noqa: S311
    why = "Nothing of the book makes such a case: what it takes is not all there."
    for _ in range(OWN_DRAFTS):
        hitch, trailer = rng.choice(hitches), rng.choice(trailers)
        try:
            bare = bare_draft("", hitch, trailer, UnitSystem.US)
            draft = with_load(bare, read_load(rng.choice(loads), yard))
            return _made(kind, kind.make(seed, draft, tries=OWN_TRIES), draft)
        except (IncompleteError, PlanFileError):
            continue
        except UnfitError as error:
            why = str(error)
    raise UnfitError(why)


def source_choices(yard: Yard) -> tuple[tuple[str, str], ...]:
    """What cases may be made of, each a source and words."""
    hauls = Haul.objects.filter(yard=yard).only("pk", "name", "day")[:MOST_HAULS]
    return (
        ("", "made up"),
        (OWN, "our own outfits and machines"),
        *((f"{HAUL}{one.pk}", f"haul: {one.name}") for one in hauls),
    )


def source_words(yard: Yard, source: str) -> str:
    """What a case is made of."""
    if not source:
        return "made up"
    if source == OWN:
        return "our own outfits and machines"
    haul = haul_of(yard, source)
    return "a haul that is gone" if haul is None else f"haul: {haul.name}"
