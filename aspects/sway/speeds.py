"""The speeds that are told and asked for, in each system of units."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from measures import UnitSystem
from planfile.sway_file import SPEEDS


@dataclass(frozen=True, kw_only=True, slots=True)
class Speeds:
    """A unit of speed and what it is in m/s; the speeds there are to choose from, those of the
    table, the one that is told first, and up to which something that grows is looked for."""

    name: str
    m_s: float
    choices: tuple[int, ...]
    told: tuple[int, ...]
    usual: int
    most: int

    def nearest(self, asked: int | None) -> int:
        """The choice nearest to what was asked; the usual one where nothing was."""
        if asked is None:
            return self.usual
        return min(self.choices, key=lambda one: abs(one - asked))

    def words(self, speed: int) -> str:
        """``55 mph``."""
        return f"{speed} {self.name}"


def _speeds(name: str, told: tuple[int, ...], usual: int) -> Speeds:
    metres, choices, most = SPEEDS[name]
    return Speeds(name=name, m_s=metres, choices=choices, told=told, usual=usual, most=most)


SPEEDS_IN: Final = {
    UnitSystem.US: _speeds("mph", (35, 45, 55, 65, 75), 55),
    UnitSystem.METRIC: _speeds("km/h", (60, 70, 80, 90, 100), 80),
}
