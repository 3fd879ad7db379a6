"""The part of a case that a slider changes."""

from __future__ import annotations

from dataclasses import dataclass

from pictures.drawing import Drawing


@dataclass(frozen=True, kw_only=True)
class PlacedPage:
    """The picture with the machine at a place, and what a tape reads there."""

    picture: Drawing | None
    reading: str
