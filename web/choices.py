"""Lists to choose from that may be empty: where to add the first of what they hold."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django import forms


@dataclass(frozen=True, kw_only=True, slots=True)
class Addable:
    """Where one of a list's things is added, and its word: ``add a trailer``."""

    address: str
    words: str


def offer_to_add(field: forms.Field, *ways: Addable) -> None:
    """Let a list that turns out to be empty say where its first entry is added."""
    field.add_one = ways  # type: ignore[attr-defined]


def addable(field: Any) -> tuple[Addable, ...]:
    """Where to add the first entry of a list; empty where it has some, or nobody said."""
    ways: tuple[Addable, ...] = getattr(field, "add_one", ())
    if not ways or any(_keys(getattr(field, "choices", ()))):
        return ()
    return ways


def _keys(choices: Iterable[Any]) -> Iterable[str]:
    """The keys of a list that stand for something."""
    for key, words in choices:
        if isinstance(words, (list, tuple)):
            yield from (str(one) for one, _ in words if str(one))
        elif str(key):
            yield str(key)
