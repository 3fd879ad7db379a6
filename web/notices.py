"""What has to be said to whoever plans before anything else: every installed app with a module
``notices`` brings its own."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any, Final

from web.registry import brought

MODULE: Final = "notices"
"""The module of an app that has something to say, in ``NOTICES``."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Notice:
    """Something to be seen to: its words, where that is done, a status that has a shape."""

    words: str
    address: str
    status: str


def notices(request: Any) -> list[Notice]:
    """What all apps have to say to whoever asks, in the order of the apps."""
    ways: tuple[Callable[[Any], Iterable[Notice]], ...] = brought(MODULE, "NOTICES")
    return [notice for way in ways for notice in way(request)]
