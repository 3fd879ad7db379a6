"""Lines of the gauge protocol, read and judged (docs/gauge.md is the protocol in full).

One JSON object on each line. A line that cannot be right is dropped and counted by why,
and the next one is read as if it had not been.
"""

from __future__ import annotations

import json
import math
from dataclasses import dataclass, field
from enum import Enum
from typing import Any, Final

from mechanics.scales import HITCH_GAUGE
from mechanics.units import KG_PER_LB, MassUnit

VERSION: Final = 1
LONGEST: Final = 512
"""Bytes of a line, the line feed included."""

MOST_A_SECOND: Final = 50
"""Lines a second that are read; the burst is as large."""

ABOVE_RATING: Final = 1.05
"""Above its rating by more than this part a gauge shows what it cannot."""

LIE_WITHIN: Final = 0.06
"""A reading so near to the last one times or over 2.2046 is one in the other unit."""

LIE_FROM_KG: Final = 60.0
"""Below this a load may well change by such a factor from one line to the next."""

MOST_AGO_S: Final = 10.0
"""A reading may come so late at the most; older ones say nothing of now."""

BEGINS_ANEW_S: Final = 5.0
"""A gauge that posts and was silent for so long may have started anew, its numbers too."""

RECENT_S: Final = 1.5
"""After a silence so long a load may be anything."""

KINDS: Final = {
    "rubbish": "no reading",
    "flood": "too many at once",
    "unit": "in another unit than said",
    "old": "out of order",
    "beyond": "beyond its rating",
}
"""Why lines are dropped, in words."""


class WireError(ValueError):
    """A first line that cannot be taken; the message goes back to the sender."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Facts:
    """What the yard knows of a gauge: its unit, step, rating and lag; ``yard`` is its number."""

    unit: str
    step_kg: float = HITCH_GAUGE.step_kg
    rating_kg: float | None = None
    lag_s: float = 0.0
    yard: int = 0


class Purpose(Enum):
    """What a connection is for: a gauge that sends, a page that watches, readings posted, a word
    that the yard's list has changed."""

    SEND = "eyebolt_gauge"
    WATCH = "eyebolt_watch"
    POST = "eyebolt_post"
    LIST = "eyebolt_list"


@dataclass(frozen=True, kw_only=True, slots=True)
class Hello:
    """The first line: who it is, and what for. ``lines`` follow of readings posted."""

    key: str
    purpose: Purpose
    lines: int = 0
    said: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """A reading that is believed: seconds on the hub's clock, kg, whether at its rating."""

    at_s: float
    kg: float
    full: bool


def read_hello(data: bytes) -> Hello:
    """The first line of a connection.

    Raises:
        WireError: it is none.
    """
    document = _object(data)
    if document is None:
        raise WireError("the first line has to be a JSON object with eyebolt_gauge and key")
    for purpose in Purpose:
        name = purpose.value
        if name in document:
            if document[name] != VERSION:
                raise WireError(f"{name}: this is version {VERSION} of the protocol")
            key = document.get("key")
            if not isinstance(key, str) or not 8 <= len(key) <= 64:
                raise WireError("key: the key from the yard's list of gauges")
            lines = document.get("lines", 0)
            if isinstance(lines, bool) or not isinstance(lines, int):
                raise WireError("lines: how many readings follow")
            return Hello(
                key=key,
                purpose=purpose,
                lines=min(max(lines, 0), MOST_A_SECOND),
                said=document,
            )
    raise WireError("the first line has to be a JSON object with eyebolt_gauge and key")


def agreed(hello: Hello, known: Facts) -> Facts:
    """What is known of a gauge, with what its own first line adds.

    Raises:
        WireError: it says another unit than the yard's list, or a figure that is none.
    """
    said = hello.said
    if said.get("unit", known.unit) != known.unit:
        raise WireError(f"unit: the yard's list says {known.unit}, this gauge {said['unit']!r}")
    kg = MassUnit(known.unit).kg
    found: dict[str, float | None] = {}
    for name, least in (("step", 0.0), ("rating", 0.0), ("lag", -1e-9)):
        value = said.get(name)
        if value is None:
            continue
        number = _number(value)
        if number is None or not least < number < 1e5:
            raise WireError(f"{name}: expected a number greater than zero")
        found[name] = number
    step, rating, lag = (found.get(name) for name in ("step", "rating", "lag"))
    return Facts(
        unit=known.unit,
        step_kg=known.step_kg if step is None else step * kg,
        rating_kg=known.rating_kg if rating is None else rating * kg,
        lag_s=known.lag_s if lag is None else min(lag, 5.0),
        yard=known.yard,
    )


class Sieve:
    """Lets readings of one gauge through and counts what it drops, by why."""

    def __init__(self, facts: Facts) -> None:
        self.facts = facts
        self.dropped: dict[str, int] = {}
        self._kg = MassUnit(facts.unit).kg
        self._tokens, self._filled_at = float(MOST_A_SECOND), -math.inf
        self._number: float | None = None
        self._last: Line | None = None
        self._lied = False

    def take(self, data: bytes, now_s: float) -> Line | None:
        """The reading of a line that came at ``now_s``; ``None`` where it was dropped."""
        self._tokens = min(
            self._tokens + (now_s - self._filled_at) * MOST_A_SECOND, float(MOST_A_SECOND)
        )
        self._filled_at = now_s
        if self._tokens < 1:
            self._drop("flood")
            return None
        self._tokens -= 1
        document = _object(data)
        load = None if document is None else _number(document.get("load"))
        if document is None or load is None:
            self._drop("rubbish")
            return None
        if document.get("unit", self.facts.unit) != self.facts.unit:
            self._drop("unit")
            return None
        ago = _number(document.get("ago", 0))
        if ago is None or not 0 <= ago <= MOST_AGO_S:
            self._drop("rubbish")
            return None
        number = _number(document.get("n")) if "n" in document else None
        if "n" in document and number is None:
            self._drop("rubbish")
            return None
        if number is not None and self._number is not None and number <= self._number:
            self._drop("old")
            return None
        kg = load * self._kg
        rating = self.facts.rating_kg
        if abs(kg) > (rating * ABOVE_RATING if rating else 50_000):
            self._drop("beyond")
            return None
        full = bool(document.get("full")) or (rating is not None and kg >= rating - 1e-6)
        line = Line(at_s=now_s - ago, kg=kg, full=full)
        if self._last is not None and line.at_s < self._last.at_s:
            self._drop("old")
            return None
        if self._other_unit(line):
            self._lied = True
            self._drop("unit")
            return None
        self._lied = False
        self._number, self._last = number, line
        return line

    def begin_anew(self) -> None:
        """The gauge may have been switched off in between: its numbers start where they like."""
        self._number = None

    def trust(self) -> None:
        """A person has looked: what comes next is right as it is."""
        self._last, self._lied = None, False

    @property
    def lying(self) -> bool:
        """Whether readings are being dropped because they look like the other unit."""
        return self._lied

    def _other_unit(self, line: Line) -> bool:
        """Whether a reading is the last one in the other unit: no load jumps just so far.

        Once one has been, those that follow stay dropped until a reading is like the last
        good one again, or a person says that it is right.
        """
        last = self._last
        if last is None or min(abs(last.kg), abs(line.kg)) < LIE_FROM_KG:
            return False
        if line.at_s - last.at_s > RECENT_S and not self._lied:
            return False
        ratio = line.kg / last.kg
        return any(abs(ratio * k - 1) < LIE_WITHIN for k in (KG_PER_LB, 1 / KG_PER_LB))

    def _drop(self, why: str) -> None:
        self.dropped[why] = self.dropped.get(why, 0) + 1


def _object(data: bytes) -> dict[str, Any] | None:
    if len(data) > LONGEST:
        return None
    try:
        document = json.loads(data)
    except (ValueError, RecursionError):
        return None
    return document if isinstance(document, dict) else None


def _number(value: Any) -> float | None:
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        return None
    try:
        number = float(value)
    except OverflowError:
        return None
    return number if math.isfinite(number) else None
