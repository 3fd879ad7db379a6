"""Single changes that give an item a place where it has none."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import Enum
from functools import lru_cache
from typing import Final

from mechanics.codes import Family
from mechanics.placing import moved, turned
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.rules import FIXED_RANGES, Rules, TongueSchool, usual_schools

HALVINGS: Final = 12
"""Steps of the search for the mass: to a four-thousandth of the machine's."""

MOST_LESS: Final = 0.6
"""Part of an item's mass that may be left behind before it is another load."""


class Kind(Enum):
    """What is changed."""

    BALL = "ball"
    TURN = "turn"
    SCHOOL = "school"
    LIGHTER = "lighter"
    OTHER_OUTFIT = "other_outfit"


@dataclass(frozen=True, kw_only=True, slots=True)
class WayOut:
    """A change that is enough alone; ``school`` and ``less_kg`` go with their kinds."""

    kind: Kind
    school: TongueSchool | None = None
    less_kg: float = 0.0


def ways_out(plan: Plan, index: int) -> tuple[WayOut, ...]:
    """Changes that open the item's window, each alone: facing, school, mass; another outfit
    where none of them does.

    None of it depends on where the item itself stands, so a drag asks only once.
    """
    return _ways_out(moved(plan, index, 0.0), index)


@lru_cache(maxsize=256)
def _ways_out(plan: Plan, index: int) -> tuple[WayOut, ...]:
    ball = Family.BALL_SIZE.of()
    if evaluate(plan).windows[index].contradiction == (ball, ball):
        return (WayOut(kind=Kind.BALL),)
    found = []
    if _opens(turned(plan, index), index):
        found.append(WayOut(kind=Kind.TURN))
    school = _opening_school(plan, index)
    if school is not None:
        found.append(WayOut(kind=Kind.SCHOOL, school=school))
    less = _mass_to_leave(plan, index)
    if less is not None:
        found.append(WayOut(kind=Kind.LIGHTER, less_kg=less))
    return tuple(found) or (WayOut(kind=Kind.OTHER_OUTFIT),)


def _opens(plan: Plan, index: int) -> bool:
    return bool(evaluate(plan).windows[index].intervals)


def _opening_school(plan: Plan, index: int) -> TongueSchool | None:
    for school in usual_schools(plan.hitch.type):
        if FIXED_RANGES[school] == plan.share_range:
            continue
        rules = Rules(tongue=school, trailer_gvwr=plan.rules.trailer_gvwr)
        if _opens(replace(plan, rules=rules), index):
            return school
    return None


def _mass_to_leave(plan: Plan, index: int) -> float | None:
    """The least mass to take off the item that opens its window; ``None`` where none does.

    Found by halving, and rounded up: taking that much off is enough.
    """
    item = plan.items[index]

    def lighter(part: float) -> Plan:
        items = list(plan.items)
        items[index] = replace(item, mass_kg=item.mass_kg * (1 - part))
        return plan.carrying(items)

    enough = MOST_LESS
    if not _opens(lighter(enough), index):
        return None
    short = 0.0
    for _ in range(HALVINGS):
        middle = (enough + short) / 2
        if _opens(lighter(middle), index):
            enough = middle
        else:
            short = middle
    return item.mass_kg * enough
