"""What a document keeps of tying down beside the ties themselves, and ties whose ends are gone.

None of it takes part in a figure: which pieces of the rack a tie is made of, what was asked about
it, whether a place was taped, and where nothing may be hooked to.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

import msgspec
from msgspec import UNSET, UnsetType

from planfile.document import PlanDocument, Securing, Tie

GUESS: Final = "guess"
"""Where an anchor or a point is not taped, in its ``extra`` object."""

JOINED: Final = " + "
"""Between the names of a tie's pieces, which may hold commas of their own."""

FORBIDDEN: Final = "never_tie"
"""Where an item's places that must not be used stand in its ``extra`` object."""


class Kept(msgspec.Struct, frozen=True, kw_only=True):
    """What a tie's ``extra`` object keeps: its pieces by the names they have on the rack, and
    what was answered about it."""

    pieces: tuple[str, ...] = ()
    answers: dict[str, str] = {}


class _Never(msgspec.Struct, frozen=True, kw_only=True):
    name: str
    ahead: float
    left: float
    height: float
    why: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Forbidden:
    """A place of an item that must not be used, from its mark in its own sense; ``why`` is the
    book's word for what it is."""

    name: str
    why: str
    ahead_m: float
    left_m: float
    height_m: float


def kept_of(tie: Tie) -> Kept:
    """What is kept of a tie; nothing where its ``extra`` object holds something else."""
    try:
        return msgspec.convert({} if tie.extra is UNSET else tie.extra, Kept)
    except msgspec.ValidationError:
        return Kept()


def keeping(tie: Tie, kept: Kept) -> Tie:
    """A tie with what is to be kept of it; anything else in its ``extra`` object stays."""
    extra = dict({} if tie.extra is UNSET else tie.extra)
    extra |= {"pieces": list(kept.pieces), "answers": dict(kept.answers)}
    return msgspec.structs.replace(tie, extra=extra)


@dataclass(frozen=True, kw_only=True, slots=True)
class Guesses:
    """Places that are not taped: anchors by their ids, points by their item's and their own."""

    anchors: frozenset[str]
    points: frozenset[tuple[str, str]]

    def under(self, tie: Tie) -> bool:
        """Whether a tie runs between places of which one is a guess."""
        ends = {tie.anchor, tie.over}
        return bool(ends & self.anchors) or (tie.item, tie.point) in self.points


def guesses(document: PlanDocument) -> Guesses:
    """What a document says is not taped."""
    return Guesses(
        anchors=frozenset(a.id for a in document.trailer.anchors if _is_guess(a.extra)),
        points=frozenset(
            (item.id, point.id)
            for item in document.items
            for point in item.points
            if _is_guess(point.extra)
        ),
    )


def _is_guess(extra: dict[str, Any] | UnsetType) -> bool:
    return extra is not UNSET and extra.get(GUESS) is True


def forbidden(extra: Mapping[str, Any], per_m: float) -> tuple[Forbidden, ...]:
    """Places in an item's ``extra`` object that must not be used."""
    try:
        read = msgspec.convert(extra.get(FORBIDDEN, []), list[_Never])
    except msgspec.ValidationError:
        return ()
    return tuple(
        Forbidden(
            name=one.name,
            why=one.why,
            ahead_m=one.ahead * per_m,
            left_m=one.left * per_m,
            height_m=one.height * per_m,
        )
        for one in read
    )


def free_tie_id(securing: Securing) -> str:
    """An id that no tie has yet."""
    taken = {tie.id for tie in securing.ties}
    return next(f"t{n}" for n in range(1, len(taken) + 2) if f"t{n}" not in taken)


def without_loose_ties(raw: dict[str, Any]) -> dict[str, Any]:
    """The document without ties to an item, a point or an anchor that is gone."""
    securing = raw.get("securing")
    if not isinstance(securing, dict) or not securing.get("ties"):
        return raw
    anchors = {anchor["id"] for anchor in raw["trailer"].get("anchors", [])}
    points = {
        (item["id"], point["id"])
        for item in raw.get("items", [])
        for point in item.get("points", [])
    }
    ties = [
        tie
        for tie in securing["ties"]
        if (tie["item"], tie["point"]) in points
        and tie["anchor"] in anchors
        and tie.get("over", tie["anchor"]) in anchors
    ]
    if len(ties) == len(securing["ties"]):
        return raw
    return {**raw, "securing": {**securing, "ties": ties}}


def keeping_places(new: dict[str, Any], old: dict[str, Any], name: str) -> dict[str, Any]:
    """A section that says nothing of its ``anchors`` or ``points``, with those it had."""
    kept = old.get(name)
    return {**new, name: kept} if kept and not new.get(name) else new
