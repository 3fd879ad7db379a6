"""What would make a load fit that does not: the smallest changes, each enough alone."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import Enum
from itertools import combinations
from typing import Final

from mechanics.arrange import DECK_LENGTH, Search, Wishes, lines_of, passed_everywhere
from mechanics.codes import Family, read_code
from mechanics.limits import Quantity, load_limits
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.rules import FIXED_RANGES, Rules, TongueSchool, usual_schools

STEPS = 25
"""Shares of a bulk load that are tried, evenly, before the step that helps is halved."""

HALVINGS = 8
"""Halvings of that step: to a six-thousandth of the load."""

MOST_LEFT_OUT = 2
"""Items that are left behind at most before the search for a smaller load ends."""


class Kind(Enum):
    """What is changed, the lightest interference first."""

    FREE = "free"
    ORDER = "order"
    LESS = "less"
    LEAVE = "leave"
    SCHOOL = "school"
    RATING = "rating"
    RATINGS = "ratings"


@dataclass(frozen=True, kw_only=True, slots=True)
class Change:
    """One change after which an arrangement holds every limit.

    ``items`` are those it concerns. ``less_kg`` is how much of a load stays behind.
    ``ratings`` are codes with the least by which each would have to be higher (kg, or m
    for the deck's length). ``part`` is how large the change is: of the load's mass, or
    of the rating.
    """

    kind: Kind
    items: tuple[str, ...] = ()
    less_kg: float = 0.0
    school: TongueSchool | None = None
    ratings: tuple[tuple[str, float], ...] = ()
    part: float = 0.0


def changes(
    plan: Plan,
    wishes: Wishes | None = None,
    *,
    divisible: frozenset[str] = frozenset(),
    seconds: float = 1.0,
) -> tuple[Change, ...]:
    """Every single change that makes the plan's items fit, by kind and then by size.

    ``divisible`` are items of which a part can stay behind. A rating is to blame where
    raising it alone would help; ``RATINGS`` names several only where no single one does.
    Items are left behind one at a time, two where one is not enough. Empty where the load
    fits as it is, and where nothing of this helps. ``seconds`` bounds each search.
    """
    wishes = wishes or Wishes()
    if not plan.items or _fits(plan, wishes, seconds):
        return ()
    found = [
        *_freed(plan, wishes, seconds),
        *_less(plan, wishes, divisible, seconds),
        *_left(plan, wishes, seconds),
        *_schools(plan, wishes, seconds),
        *_ratings(plan, wishes, seconds),
    ]
    order = list(Kind)
    return tuple(sorted(found, key=lambda c: (order.index(c.kind), c.part)))


def _fits(plan: Plan, wishes: Wishes, seconds: float) -> bool:
    if not plan.items:
        # an empty deck is a load too, and the empty trailer's own share may be wrong
        return True
    lines = lines_of(plan)
    if passed_everywhere(plan, lines):
        return False
    return Search(plan, wishes, lines).feasible(seconds)


def _freed(plan: Plan, wishes: Wishes, seconds: float) -> list[Change]:
    """Wishes of the person that stand in the way."""
    found = []
    for item_id in sorted(wishes.locked):
        if _fits(plan, replace(wishes, locked=wishes.locked - {item_id}), seconds):
            found.append(Change(kind=Kind.FREE, items=(item_id,)))
    if not found and len(wishes.locked) > 1:
        free = replace(wishes, locked=frozenset())
        if _fits(plan, free, seconds):
            found.append(Change(kind=Kind.FREE, items=tuple(sorted(wishes.locked))))
    if wishes.comes_off and _fits(plan, replace(wishes, comes_off=()), seconds):
        first = dict.fromkeys(pair[0] for pair in wishes.comes_off)
        found.append(Change(kind=Kind.ORDER, items=tuple(first)))
    return found


def _without(plan: Plan, wishes: Wishes, gone: tuple[str, ...]) -> tuple[Plan, Wishes]:
    rest = tuple(item for item in plan.items if item.id not in gone)
    return plan.carrying(rest), replace(
        wishes,
        locked=wishes.locked - set(gone),
        comes_off=tuple(p for p in wishes.comes_off if not set(p) & set(gone)),
    )


def _left(plan: Plan, wishes: Wishes, seconds: float) -> list[Change]:
    total = sum(item.mass_kg for item in plan.items)
    for count in range(1, min(MOST_LEFT_OUT, len(plan.items) - 1) + 1):
        found = [
            Change(
                kind=Kind.LEAVE,
                items=gone,
                part=sum(plan.item(i).mass_kg for i in gone) / total,
            )
            for gone in combinations([item.id for item in plan.items], count)
            if _fits(*_without(plan, wishes, gone), seconds)
        ]
        if found:
            return found
    return []


def _less(plan: Plan, wishes: Wishes, divisible: frozenset[str], seconds: float) -> list[Change]:
    found = []
    for index, item in enumerate(plan.items):
        if item.id not in divisible:
            continue

        def fits(part: float, index: int = index) -> bool:
            items = list(plan.items)
            items[index] = replace(items[index], mass_kg=items[index].mass_kg * (1 - part))
            return _fits(plan.carrying(items), wishes, seconds)

        part = _least(fits)
        if part is not None:
            less = part * item.mass_kg
            found.append(Change(kind=Kind.LESS, items=(item.id,), less_kg=less, part=part))
    return found


def _least(fits: Callable[[float], bool]) -> float | None:
    """The least part that fits; a load that fits only in a sliver between steps is missed."""
    for step in range(1, STEPS):
        if not fits(step / STEPS):
            continue
        short, enough = (step - 1) / STEPS, step / STEPS
        for _ in range(HALVINGS):
            middle = (short + enough) / 2
            if fits(middle):
                enough = middle
            else:
                short = middle
        return enough
    return None


def _schools(plan: Plan, wishes: Wishes, seconds: float) -> list[Change]:
    found = []
    for school in usual_schools(plan.hitch.type):
        if FIXED_RANGES[school] == plan.share_range:
            continue
        rules = Rules(tongue=school, trailer_gvwr=plan.rules.trailer_gvwr)
        if _fits(replace(plan, rules=rules), wishes, seconds):
            found.append(Change(kind=Kind.SCHOOL, school=school))
    return found[:1]


def _ratings(plan: Plan, wishes: Wishes, seconds: float) -> list[Change]:
    lines = lines_of(plan)
    if set(passed_everywhere(plan, lines)) - {line.code for line in lines}:
        return []
    limits = {limit.code: limit for limit in load_limits(plan, compute_loads(plan))}
    masses = [
        line for line in lines if limits[line.code].quantity is Quantity.MASS and line.limit > 0
    ]
    sizes = {line.code: line.limit for line in masses}
    sizes[DECK_LENGTH] = plan.trailer.deck.length_m
    found = []
    for group in _groups(list(sizes)):
        excess = Search(plan, wishes, lines, frozenset(group)).least_excess(seconds)
        if excess:
            found.append(_rating(Kind.RATING, excess, sizes))
    if found:
        return found
    excess = Search(plan, wishes, lines, frozenset(sizes)).least_excess(seconds)
    return [_rating(Kind.RATINGS, excess, sizes)] if excess else []


def _rating(kind: Kind, excess: dict[str, float], sizes: dict[str, float]) -> Change:
    return Change(
        kind=kind,
        ratings=tuple((code, part * sizes[code]) for code, part in excess.items()),
        part=sum(excess.values()),
    )


TOGETHER: Final = (Family.TRAILER_AXLE, Family.TRAILER_TIRES, Family.TRAILER_SIDE)
"""Ratings that nobody raises of one axle or side alone."""


def _groups(codes: list[str]) -> list[list[str]]:
    """Ratings that are raised together: one kind of rating of all axles, both of one part."""
    grouped: dict[tuple[Family, str], list[str]] = {}
    for code in codes:
        about = read_code(code)
        key = (about.family, about.which)
        if about.family in TOGETHER:
            key = (about.family, "")
        elif about.family is Family.PART_TONGUE:
            key = (Family.PART_TRAILER, about.which)
        grouped.setdefault(key, []).append(code)
    return list(grouped.values())
