"""What taking a table in would do, or did: of each of its lines, and as a page tells it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Final

from book.sheet import TableError


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """What happens to one line of the file."""

    number: int
    name: str
    outcome: str
    problems: tuple[str, ...] = ()
    questions: tuple[str, ...] = ()
    """What is odd about it, and may be right all the same."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Outcome:
    """A dry run or an import: every line, and the number of what it took in; ``None`` where
    nothing was stored."""

    lines: tuple[Line, ...]
    stamp: str
    intake: int | None = None
    taken_away: tuple[str, ...] = ()

    @property
    def stored(self) -> bool:
        """Whether it was taken in."""
        return self.intake is not None

    @property
    def wrong(self) -> bool:
        """Whether any line has a problem; nothing is stored then."""
        return any(line.problems for line in self.lines)


SHOWN: Final = 300
"""Lines of a report that a page lists; those with a problem come first."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Told:
    """An outcome as a page tells it: its first lines, ``counted`` of all of them by what happens
    to them, ``more`` beyond those told; ``wrong`` why the file is no table at all."""

    outcome: Outcome | None = None
    counted: dict[str, int] = field(default_factory=dict)
    more: int = 0
    wrong: str = ""

    @classmethod
    def of(cls, take: Callable[[], Outcome]) -> Told:
        """What is told of an outcome, or of a file that is no table."""
        try:
            outcome = take()
        except TableError as error:
            return cls(wrong=str(error))
        lines = sorted(outcome.lines, key=lambda line: (not line.problems, line.number))
        counted: dict[str, int] = {}
        for line in outcome.lines:
            counted[line.outcome] = counted.get(line.outcome, 0) + 1
        return cls(
            outcome=replace(outcome, lines=tuple(lines[:SHOWN])),
            counted=counted,
            more=max(len(lines) - SHOWN, 0),
        )
