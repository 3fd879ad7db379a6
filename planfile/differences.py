"""What two drafts of one haul say differently: figure by figure, places aside."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import Enum
from typing import Any, Final

from planfile.draft import Draft, Units
from planfile.plain import plain

MASSES: Final = ("mass", "rating", "gawr", "gvwr", "gcwr", "payload", "capacity")
"""Words in the name of a field that holds a mass; other numbers are lengths."""

PART: Final = "front_axle_restoration"
"""The one number of a plan's outfit that is a part of something."""

ASIDE: Final = ("extra", "placement", "estimates")
"""What says nothing of weights and sizes; an estimate that was measured shows in its figure."""


class Kind(Enum):
    """What kind of figure it is, so that the edge knows its unit."""

    MASS = "mass"
    LENGTH = "length"
    RATE = "rate"
    PART = "part"


@dataclass(frozen=True, kw_only=True, slots=True)
class Amount:
    """A figure in SI: kilograms, metres, kilograms per metre, or a part from 0 to 1."""

    kind: Kind
    si: float


Value = Amount | str | None
"""A figure, a word of the format, or ``None`` where it is not known."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Difference:
    """One field of one thing: ``truck``, ``hitch``, ``trailer`` or an item's id.

    ``path`` are the names of the fields inside it, of a list's entry its own name. Where a
    whole entry is ``gone`` or ``new`` there is nothing to compare.
    """

    thing: str
    name: str
    path: tuple[str, ...]
    then: Value = None
    now: Value = None
    gone: bool = False
    new: bool = False


def differences(then: Draft, now: Draft) -> list[Difference]:
    """What ``now`` says differently, thing by thing; items are compared by their ids.

    What a document leaves to the format's defaults and what it writes out are alike.
    """
    old, new = then.parsed(), now.parsed()
    compare = _Comparison(then.units)
    found = []
    for key in ("truck", "hitch", "trailer"):
        before, after = plain(getattr(old, key)), plain(getattr(new, key))
        found += list(compare.fields(key, str(before.get("name") or key), before, after, ()))
    items = {item.id: plain(item) for item in new.items}
    for item in old.items:
        if item.id in items:
            before = plain(item)
            name = str(before.get("name") or item.id)
            found += list(compare.fields(item.id, name, before, items[item.id], ()))
    return found


class _Comparison:
    def __init__(self, units: Units) -> None:
        self.units = units

    def fields(
        self, thing: str, name: str, then: Any, now: Any, path: tuple[str, ...]
    ) -> Iterator[Difference]:
        """Each figure that differs."""
        if isinstance(then, dict) and isinstance(now, dict):
            for key in {**then, **now}:
                if key not in ASIDE:
                    inner = (*path, key)
                    yield from self.fields(thing, name, then.get(key), now.get(key), inner)
        elif isinstance(then, list) and isinstance(now, list):
            yield from self._lists(thing, name, then, now, path)
        elif then != now and dict in (type(then), type(now)):
            yield Difference(thing=thing, name=name, path=path, gone=now is None, new=then is None)
        elif then != now:
            values = self._value(then, path), self._value(now, path)
            yield Difference(thing=thing, name=name, path=path, then=values[0], now=values[1])

    def _lists(
        self, thing: str, name: str, then: list[Any], now: list[Any], path: tuple[str, ...]
    ) -> Iterator[Difference]:
        named = all("name" in entry for entry in (*then, *now))

        def by_name(entries: list[Any]) -> dict[str, Any]:
            one = path[-1].rstrip("s")
            return {
                (entry["name"] if named else f"{one} {n}"): entry
                for n, entry in enumerate(entries, 1)
            }

        before, after = by_name(then), by_name(now)
        for entry in {**before, **after}:
            if entry not in after:
                yield Difference(thing=thing, name=name, path=(entry,), gone=True)
            elif entry not in before:
                yield Difference(thing=thing, name=name, path=(entry,), new=True)
            else:
                yield from self.fields(thing, name, before[entry], after[entry], (entry,))

    def _value(self, value: Any, path: tuple[str, ...]) -> Value:
        if value is None:
            return None
        if isinstance(value, bool) or not isinstance(value, (int, float)):
            return str(value)
        field, kg, m = path[-1], self.units.mass.kg, self.units.length.m
        if field == PART:
            return Amount(kind=Kind.PART, si=float(value))
        if field.endswith("_rate"):
            return Amount(kind=Kind.RATE, si=value * kg / m)
        if any(word in field for word in MASSES):
            return Amount(kind=Kind.MASS, si=value * kg)
        return Amount(kind=Kind.LENGTH, si=value * m)
