"""What a day's plan is asked for, as a form has it and a piece of long work keeps it."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace
from datetime import date
from typing import Any, Final

from mechanics.units import M_PER_MI

MOST_TRANSFERS: Final = 24
"""Machines of one day's plan."""

ON_MINUTES: Final = 30
OFF_MINUTES: Final = 15
"""Loading and tying a machine down, and taking it off, where nobody says otherwise. Common
practice, no source."""

SPEED_M_MIN: Final = 35 * M_PER_MI / 60
"""How fast an outfit gets on by road, stops included. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Wanted:
    """A machine that has to go from a place to another: ``load`` as a choice of loads is sent,
    places by their keys, minutes since midnight. ``outfit`` takes it if one is named."""

    load: str
    origin: int
    goal: int
    earliest: int | None = None
    due: int | None = None
    outfit: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Driving:
    """Somebody who drives that day, from and until minutes since midnight."""

    user: int
    starts: int
    ends: int


@dataclass(frozen=True, kw_only=True, slots=True)
class Kept:
    """A trip that is decided: numbers of what is wanted, its outfit, its driver."""

    wanted: tuple[int, ...]
    outfit: str
    driver: int | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Asked:
    """A day to plan."""

    day: date
    wanted: tuple[Wanted, ...]
    driving: tuple[Driving, ...]
    speed: float = SPEED_M_MIN
    on_minutes: int = ON_MINUTES
    off_minutes: int = OFF_MINUTES
    unknown_too: bool = False
    kept: tuple[Kept, ...] = ()

    def keeping(self, kept: tuple[Kept, ...]) -> Asked:
        """The same with trips decided."""
        return replace(self, kept=kept)

    def json(self) -> dict[str, Any]:
        """As a JSON field holds it."""
        return {**asdict(self), "day": self.day.isoformat()}

    @classmethod
    def read(cls, said: dict[str, Any]) -> Asked:
        """What :meth:`json` gave."""
        return cls(
            **{
                **said,
                "day": date.fromisoformat(said["day"]),
                "wanted": tuple(Wanted(**one) for one in said["wanted"]),
                "driving": tuple(Driving(**one) for one in said["driving"]),
                "kept": tuple(
                    Kept(**{**one, "wanted": tuple(one["wanted"])}) for one in said["kept"]
                ),
            }
        )


def clock(minutes: int) -> str:
    """``9:30``."""
    return f"{minutes // 60}:{minutes % 60:02}"
