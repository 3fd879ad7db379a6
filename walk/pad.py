"""The keys under the box: digits, the units people say, and what takes one back."""

from __future__ import annotations

from dataclasses import dataclass

from measures import UnitSystem
from walk.steps import Answer


@dataclass(frozen=True, slots=True)
class Key:
    """One key: what stands on it, what it writes, and what a screen reader says."""

    label: str
    writes: str
    said: str = ""


BACK = Key("⌫", "back", "take one back")
MINUS = Key("−", "-", "minus")
POINT = Key(".", ".", "point")


def keys(answer: Answer, unit: UnitSystem, *, minus: bool = False) -> tuple[Key, ...]:
    """The keys of a step from left to right, row by row, four in a row; the last two rows leave
    their fourth place to the key that goes on."""
    us = unit is UnitSystem.US
    if answer is Answer.LENGTH:
        big, small = ("ft", "in") if us else ("m", "mm")
        odd = MINUS if minus else Key("½", " 1/2", "and a half") if us else POINT
    else:
        big, small = ("lb", "kg") if us else ("kg", "t")
        odd = Key("00", "00") if us else POINT
    rows = (("1", "2", "3", big), ("4", "5", "6", small), ("7", "8", "9"))
    made = [Key(label, label if label.isdigit() else f" {label} ") for row in rows for label in row]
    return (*made, odd, Key("0", "0"), BACK)
