"""When it is to be stopped and looked over: counted from setting off, and from the last stop."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from hauls.road_rules import RoadRules
from measures import UnitSystem
from measures.writing import write_given


@dataclass(frozen=True, kw_only=True, slots=True)
class NextStop:
    """The stop that comes next: by when at the latest, and after how far; the first one, or a later
    one."""

    by: datetime
    way: str
    first: bool


def next_stop(
    rules: RoadRules,
    unit: UnitSystem,
    *,
    set_off: datetime | None,
    stops: Sequence[datetime],
    unloaded: bool,
) -> NextStop | None:
    """The next stop of a haul that set off; ``None`` before it did and once it is unloaded.

    ``stops`` are those made; only those after it set off count.
    """
    if set_off is None or unloaded:
        return None
    made = [stop for stop in stops if stop >= set_off]
    if not made:
        return NextStop(
            by=set_off + timedelta(minutes=rules.first_minutes),
            way=write_given(rules.first_way, unit),
            first=True,
        )
    return NextStop(
        by=max(made) + timedelta(hours=rules.later_hours),
        way=write_given(rules.later_way, unit),
        first=False,
    )
