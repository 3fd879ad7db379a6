"""Which pages a phone holds for when there is no signal: every installed app with a module ``held``
brings its own."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Final

from web.registry import brought
from yards.access import YardRequest

MODULE: Final = "held"
"""The module of an app that names pages to hold, in ``PAGES``."""

MOST: Final = 60
"""Pages that a phone is told to hold."""

Pages = Callable[[YardRequest], Iterable[str]]


def held_pages(request: YardRequest) -> list[str]:
    """Addresses of the pages that whoever asks should have at hand without signal."""
    ways: tuple[Pages, ...] = brought(MODULE, "PAGES")
    found = dict.fromkeys(page for way in ways for page in way(request))
    return list(found)[:MOST]
