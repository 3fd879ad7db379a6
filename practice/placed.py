"""The part of a case that a slider changes."""

from __future__ import annotations

from dataclasses import dataclass

from pictures.drawing import Drawing


@dataclass(frozen=True, kw_only=True)
class PlacedPage:
    """The picture with the machine at a place, what a tape reads there, and how many drawing units
    a step of the slider is."""

    picture: Drawing | None
    reading: str
    per_step: float
