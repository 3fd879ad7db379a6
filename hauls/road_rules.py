"""How a yard goes on the road: its lists, how many people tick them, when it stops, whose law."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable
from dataclasses import dataclass, field, fields
from decimal import Decimal
from typing import Any, Final, NamedTuple

from django.db import transaction

from hauls.assigning import AlreadyChangedError
from measures import Quantity
from yards.models import Yard

FIRST_MINUTES: Final = 20
"""Minutes until the first stop. Common practice, no source."""

LATER_HOURS: Final = 3
"""Hours until each later one (49 CFR 392.9, from memory)."""

FIRST_WAY: Final = Quantity(Decimal(50), "mi")
LATER_WAY: Final = Quantity(Decimal(150), "mi")
"""The same in miles, whichever comes first."""

MOST_LINES: Final = 40
LONGEST_LINE: Final = 160
"""Lines of its own that a yard adds to a list, and characters of one."""


@dataclass(frozen=True, kw_only=True, slots=True)
class ListRules:
    """What a yard wants of one list: standard lines it leaves out, by key; its own words for some;
    lines of its own."""

    left_out: tuple[str, ...] = ()
    reworded: tuple[tuple[str, str], ...] = ()
    own: tuple[str, ...] = ()

    def words(self, key: str, usual: str) -> str:
        """A standard line as the yard says it."""
        return dict(self.reworded).get(key, usual)


class OwnFlag(NamedTuple):
    """A flag of the law that a yard keeps for itself: what has to be done, the figure it goes by,
    the limit as entered, where that stands, as of when."""

    words: str
    fact: str
    limit: str
    source: str
    as_of: str


@dataclass(frozen=True, kw_only=True, slots=True)
class RoadRules:
    """A yard's rules of the road; what it has not said is as usual."""

    two_people: bool = False
    first_minutes: int = FIRST_MINUTES
    first_way: Quantity = FIRST_WAY
    later_hours: int = LATER_HOURS
    later_way: Quantity = LATER_WAY
    law: str = ""
    lists: dict[str, ListRules] = field(default_factory=dict)
    own_flags: tuple[OwnFlag, ...] = ()

    @property
    def mark(self) -> str:
        """By which a page that is behind is known: another one where anything is otherwise."""
        return hashlib.sha256(json.dumps(self.own(), sort_keys=True).encode()).hexdigest()[:16]

    def of_list(self, key: str) -> ListRules:
        """What the yard wants of a list."""
        return self.lists.get(key, ListRules())

    @classmethod
    def of(cls, yard: Yard) -> RoadRules:
        """A yard's rules as they are kept; a figure that cannot be read is as usual."""
        return cls.read(yard.road if isinstance(yard.road, dict) else {})

    @classmethod
    def read(cls, kept: dict[str, Any]) -> RoadRules:
        """Rules of what :meth:`own` wrote."""
        usual = cls()
        lists = kept.get("lists")
        flags = kept.get("own_flags")
        return cls(
            two_people=kept.get("two_people") is True,
            first_minutes=_whole(kept.get("first_minutes"), usual.first_minutes, 240),
            first_way=_way(kept.get("first_way"), usual.first_way),
            later_hours=_whole(kept.get("later_hours"), usual.later_hours, 24),
            later_way=_way(kept.get("later_way"), usual.later_way),
            law=str(kept.get("law", ""))[:20],
            lists={
                str(key)[:20]: _list(one)
                for key, one in (lists.items() if isinstance(lists, dict) else ())
                if isinstance(one, dict)
            },
            own_flags=tuple(
                OwnFlag(*map(str, f))
                for f in (flags if isinstance(flags, list) else ())
                if isinstance(f, list) and len(f) == len(OwnFlag._fields)
            ),
        )

    def own(self) -> dict[str, Any]:
        """What is otherwise than usual, as a yard keeps it."""
        usual = RoadRules()
        kept: dict[str, Any] = {}
        for one in fields(self):
            value = getattr(self, one.name)
            if value == getattr(usual, one.name):
                continue
            if one.name == "lists":
                kept[one.name] = {
                    key: _kept_list(of) for key, of in value.items() if _kept_list(of)
                }
            elif isinstance(value, Quantity):
                kept[one.name] = str(value)
            elif isinstance(value, tuple):
                kept[one.name] = [list(part) for part in value]
            else:
                kept[one.name] = value
        return kept


@transaction.atomic
def keep_rules(yard: Yard, change: Callable[[RoadRules], RoadRules], *, was: str) -> None:
    """Keep a yard's rules with a change made to them; ``was`` is the mark of those that were shown.

    Raises:
        AlreadyChangedError: they are otherwise by now.
    """
    held = Yard.objects.select_for_update().get(pk=yard.pk)
    rules = RoadRules.of(held)
    if rules.mark != was:
        raise AlreadyChangedError
    held.road = change(rules).own()
    held.save(update_fields=["road"])


def _whole(value: Any, usual: int, most: int) -> int:
    right = isinstance(value, int) and not isinstance(value, bool) and 1 <= value <= most
    return value if right else usual


def _way(value: Any, usual: Quantity) -> Quantity:
    try:
        found = Quantity.parse(value) if isinstance(value, str) else usual
    except (ValueError, ArithmeticError):
        return usual
    right = found.unit in ("mi", "km") and found.value.is_finite() and found.value > 0
    return found if right else usual


def _list(one: dict[str, Any]) -> ListRules:
    def texts(name: str) -> tuple[str, ...]:
        value = one.get(name)
        found = [str(t)[:LONGEST_LINE] for t in (value if isinstance(value, list) else ())]
        return tuple(found[:MOST_LINES])

    reworded = one.get("reworded")
    return ListRules(
        left_out=texts("left_out"),
        own=texts("own"),
        reworded=tuple(
            (str(key)[:20], str(words)[:LONGEST_LINE])
            for key, words in (reworded.items() if isinstance(reworded, dict) else ())
        )[:MOST_LINES],
    )


def _kept_list(of: ListRules) -> dict[str, Any]:
    found = {
        "left_out": list(of.left_out),
        "own": list(of.own),
        "reworded": dict(of.reworded),
    }
    return {name: value for name, value in found.items() if value}
