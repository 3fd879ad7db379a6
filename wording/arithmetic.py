"""A figure or a limit opened into its terms, as text that can be read, printed or copied."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

STATICS: Final = "Statics of a beam on two supports."


@dataclass(frozen=True, kw_only=True, slots=True)
class Term:
    """One line of an arithmetic: what, and how much with its sign and unit."""

    name: str
    amount: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Why:
    """The arithmetic behind a figure: terms, what they come to, the limit, its source."""

    terms: list[Term]
    total: str
    limit: str
    source: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Reason:
    """A figure with its arithmetic under the code it is opened by, and all of it as text."""

    code: str
    title: str
    why: Why

    @property
    def text(self) -> str:
        """Line by line, to be copied."""
        lines = [self.title]
        lines += [f"  {term.name}: {term.amount}" for term in self.why.terms]
        lines.append(f"  comes to: {self.why.total}")
        if self.why.limit:
            lines.append(f"  limit: {self.why.limit}")
        lines.append(f"  {self.why.source}")
        return "\n".join(lines)
