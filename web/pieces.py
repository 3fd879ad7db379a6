"""Pieces of a page that it has already are named in an answer instead of being sent again.

A page that asks for itself anew says which kept pieces (:func:`web.templatetags.web.kept`) its last
answer brought. An answer to it marks the pieces it brings, so that the page knows them by name the
next time, and of those the page has it gives the name alone. A page that says nothing is answered
without marks.
"""

from __future__ import annotations

import re
from base64 import urlsafe_b64encode
from collections.abc import Collection
from hashlib import blake2b
from typing import Final

from django.http import HttpRequest

HEADER: Final = "Eyebolt-Has"
"""Names of the pieces that the page has, apart by commas; empty where it has none yet."""

HELD: Final = "pieces_held"
"""The variable of a template that holds them; without it pieces are not marked."""

LEAST: Final = 400
"""Characters below which a piece is as well sent again as named."""

_NAME: Final = re.compile(r"[\w-]{12}", re.ASCII)
MOST_NAMED: Final = 200


def held(request: HttpRequest) -> frozenset[str] | None:
    """Names of the pieces that the page has; ``None`` where it does not say, so that it cannot do
    anything with marks."""
    said = request.headers.get(HEADER)
    if said is None:
        return None
    return frozenset(_NAME.findall(said)[:MOST_NAMED])


def name_of(piece: str) -> str:
    """A piece's name: no two pieces share one, to all that can be told from 72 bits."""
    return urlsafe_b64encode(blake2b(piece.encode(), digest_size=9).digest()).decode()


def marked(piece: str, name: str, has: Collection[str]) -> str:
    """A piece as an answer brings it: by name where the page has it, else between two marks."""
    if len(piece) < LEAST:
        return piece
    return f"<!--={name}-->" if name in has else f"<!--+{name}-->{piece}<!--/{name}-->"
