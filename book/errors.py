"""What stands in the way of planning with a thing of the book."""

from __future__ import annotations

from collections.abc import Sequence


class IncompleteError(ValueError):
    """A thing lacks figures without which no plan can be made with it.

    Attributes:
        thing: its name.
        lacks: what is wanting, in words that go on after "lacks".
    """

    def __init__(self, thing: str, lacks: Sequence[str]) -> None:
        self.thing = thing
        self.lacks = tuple(lacks)
        super().__init__(thing, self.lacks)

    def __str__(self) -> str:
        return f"{self.thing} lacks {', '.join(self.lacks)}"
