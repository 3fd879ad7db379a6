"""The best arrangement of a haul's loads in words and pictures, and what to change for one."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Final

from hauls.drawing import Drawing, draw
from hauls.holding import ActionError
from hauls.planner import drawn_of, look_of
from hauls.services.haul import ROOM_BETWEEN_M, on_the_tape
from hauls.wording import SCHOOL_LABELS, label, within
from measures import ReadingError, UnitSystem, read_length
from measures.marks import write_place
from measures.writing import write_inches, write_length, write_mass, write_percent
from mechanics.arrange import DECK_LENGTH, Arranged, Arrangement, Wishes, arrange
from mechanics.changes import Change, Kind, changes
from mechanics.item import Facing
from mechanics.limits import Quantity
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.rules import FIXED_RANGES
from mechanics.units import LengthUnit

ALTERNATIVES: Final = 3
"""Other ways that are listed beside the best."""

SEARCH_S: Final = 2.5
"""Time for each search of the solver."""

CHANGE_S: Final = 0.4
"""Time for each question about a change."""

MOST_ITEMS: Final = 8
"""Items that are arranged; people haul no more pieces at once."""


@dataclass(frozen=True, kw_only=True)
class Asked:
    """What the person holds fast, as the page's boxes say it."""

    wishes: Wishes
    off: dict[str, str]
    room: str


def read_asked(sent: Any, plan: Plan, unit: UnitSystem) -> Asked:
    """The wishes of the page: ``keep``, ``off-ID`` (first, last), ``turn``, ``beside``, ``room``.

    Raises:
        ActionError: the room is no length.
    """
    ids = [item.id for item in plan.items]
    off = {i: sent.get(f"off-{i}", "") for i in ids if sent.get(f"off-{i}", "") in OFF}
    first = [i for i in ids if off.get(i) == "first"]
    last = [i for i in ids if off.get(i) == "last"]
    pairs = [(a, b) for a in first for b in ids if b not in first]
    pairs += [(a, b) for b in last for a in ids if a not in last and (a, b) not in pairs]
    asked = bool(sent.get("asked"))
    typed = str(sent.get("room", "")).strip()[:40]
    room = ROOM_BETWEEN_M
    if typed:
        try:
            room = float(read_length(typed, unit.length_unit).si)
        except ReadingError as error:
            raise ActionError(f"Room between them: {error}", typed) from None
        if not 0 <= room <= plan.trailer.deck.length_m:
            raise ActionError("Room between them lies between nothing and the deck.", typed)
    wishes = Wishes(
        locked=frozenset(i for i in sent.getlist("keep") if i in ids),
        comes_off=tuple(pairs),
        room_m=room,
        turn=not asked or sent.get("turn") == "1",
        beside=not asked or sent.get("beside") == "1",
    )
    return Asked(wishes=wishes, off=off, room=typed or write_inches(room, unit))


OFF: Final = ("first", "last")


@lru_cache(maxsize=64)
def arranged(plan: Plan, wishes: Wishes, *, despite: bool = False) -> Arranged:
    """The search, kept: the same question is asked again by every look at the page.

    ``despite`` asks for the best of what can hold where some limits are always passed.
    """
    alternatives = 0 if despite else ALTERNATIVES
    return arrange(plan, wishes, alternatives=alternatives, seconds=SEARCH_S, despite=despite)


@dataclass(frozen=True, kw_only=True)
class Way:
    """One arrangement to choose: its picture, its places, what it leaves."""

    words: str
    order: list[str]
    reserve: str
    status: str
    sure: bool
    picture: Drawing
    places: list[tuple[str, float, str, float]]


def ways_to_load(found: Arranged, document: dict[str, Any], unit: UnitSystem) -> list[Way]:
    """The arrangements found, as the page lists them."""
    per = LengthUnit(document["units"]["length"]).m
    return [
        _way(one, number, document, unit, per, found.always_over)
        for number, one in enumerate(found.found)
    ]


def _way(
    one: Arrangement,
    number: int,
    document: dict[str, Any],
    unit: UnitSystem,
    per: float,
    always_over: tuple[str, ...],
) -> Way:
    # what is said to be left is what the search proved, before the marks went on the tape's
    # marks: rounding may favour another way by a hair
    reserves = [
        c.reserve
        for c in evaluate(one.plan).checks
        if c.reserve is not None and c.quantity is not Quantity.LENGTH and c.code not in always_over
    ]
    plan = on_the_tape(one.plan)
    report = evaluate(plan)
    row = sorted(plan.items, key=lambda i: i.foremost_m)
    order = []
    for item in row:
        words = f"{item.name or item.id} at {write_place(item.placement.reference_m, unit)}"
        if item.placement.facing is Facing.BACKWARD:
            words += ", backward"
        if abs(item.placement.left_m) > 0.001:
            side = "left" if item.placement.left_m > 0 else "right"
            words += f", {write_inches(abs(item.placement.left_m), unit)} {side}"
        order.append(words)
    return Way(
        words="Best of what can hold"
        if always_over
        else "Best"
        if number == 0
        else f"Another way, {number}",
        order=order,
        reserve=write_percent(min(reserves, default=0.0)),
        status=report.verdict.value,
        sure=one.sure,
        picture=picture_of(plan, document, unit),
        places=[
            (
                i.id,
                round(i.placement.reference_m / per, 6),
                i.placement.facing.value,
                round(i.placement.left_m / per, 6),
            )
            for i in plan.items
        ],
    )


def picture_of(plan: Plan, document: dict[str, Any], unit: UnitSystem) -> Drawing:
    """A plan's picture with what its document knows of how things look."""
    return draw(
        evaluate(plan),
        extras=[drawn_of(item) for item in document.get("items", [])],
        marks=["mark"] * len(plan.items),
        names=[i.name or i.id for i in plan.items],
        selected=None,
        end_texts=[],
        unit=unit,
        length_per_m=1 / LengthUnit(document["units"]["length"]).m,
        look=look_of(document),
    )


@lru_cache(maxsize=64)
def changes_for(plan: Plan, wishes: Wishes, divisible: frozenset[str]) -> tuple[Change, ...]:
    """What would make it fit, kept."""
    return changes(plan, wishes, divisible=divisible, seconds=CHANGE_S)


def row_of(plan: Plan, room_m: float, unit: UnitSystem) -> tuple[str, str, str]:
    """How long the loads are in a row with room between them, what the deck takes, and what is
    missing, written so that the three add up; the last is empty where nothing is missing."""
    step = 0.0127 if unit is UnitSystem.US else 0.001
    deck = plan.trailer.deck
    length = sum(i.front_m + i.rear_m for i in plan.items) + room_m * (len(plan.items) - 1)
    # a row is no shorter than it says and a deck no longer
    row = math.ceil(length / step - 1e-6)
    takes = math.floor((deck.length_m + deck.front_overhang_m + deck.rear_overhang_m) / step + 1e-6)

    def write(steps: int) -> str:
        return write_length(steps * step, unit, step=2)

    return write(row), write(takes), write(row - takes) if row > takes else ""


def change_words(change: Change, plan: Plan, unit: UnitSystem, room_m: float = 0.0) -> str:
    """A change as a sentence; ``room_m`` is wished for between neighbours."""
    names = [plan.item(i).name or i for i in change.items]
    both = " and ".join(names)
    if change.kind is Kind.FREE:
        return f"Let {both} move: kept where it is, nothing fits."
    if change.kind is Kind.ORDER:
        return f"Give up that {both} comes off first."
    if change.kind is Kind.LESS:
        return f"Leave {write_mass(change.less_kg, unit)} of {both} behind."
    if change.kind is Kind.LEAVE:
        return f"Leave {both} behind."
    if change.kind is Kind.SCHOOL and change.school is not None:
        low, high = FIXED_RANGES[change.school]
        school = f"{low * 100:g}–{high * 100:g} %"
        return f"Go by the {SCHOOL_LABELS[change.school]} school, {school}, if the yard holds it."
    words = f"{_ratings(change, plan, unit, room_m)}."
    return words[:1].upper() + words[1:]


def _ratings(change: Change, plan: Plan, unit: UnitSystem, room_m: float) -> str:
    words = []
    for code, more in change.ratings:
        if code == DECK_LENGTH:
            *_, missing = row_of(plan, room_m, unit)
            deck = plan.trailer.deck
            takes = deck.length_m + deck.front_overhang_m + deck.rear_overhang_m
            row = sum(i.front_m + i.rear_m for i in plan.items) + room_m * (len(plan.items) - 1)
            # where the row alone is too long by that, it is said as the row was
            same = missing and abs(more - (row - takes)) < 0.013
            short = missing if same else write_length(more, unit, step=2)
            words.append(f"the deck is {short} too short")
        else:
            words.append(f"{limit_words(code, unit)} is {write_mass(more, unit)} too low")
    return ", and ".join(words)


def limit_words(code: str, unit: UnitSystem) -> str:
    """A limit in the middle of a sentence: ``the ball's trailer rating``."""
    if match := re.fullmatch(r"hitch\.(.+)\.max_(trailer|tongue)_mass", code, re.DOTALL):
        return f"the {within(match[1])}'s {match[2]} rating"
    return within(label(code, unit=unit))


def nothing_fits(plan: Plan, found: Arranged, unit: UnitSystem, room_m: float = 0.0) -> str:
    """Why no arrangement is right, in a sentence."""
    if found.always_over:
        named = " and ".join(limit_words(c, unit) for c in found.always_over)
        verb = "is" if len(found.always_over) == 1 else "are"
        return f"No arrangement helps: {named} {verb} passed however they stand."
    if not found.proved:
        return "None was found in the time; there may be one. Hold less fast, or try fewer loads."
    row, takes, missing = row_of(plan, room_m, unit)
    if missing:
        between = ""
        if room_m and len(plan.items) > 1:
            between = f", {write_inches(room_m, unit)} left between them,"
        return (
            f"In a row{between} they are {row} long, and the deck takes {takes}: {missing} is "
            "missing. Proved: no order, facing or place holds every limit."
        )
    return "Proved: no order, facing or place of these loads holds every limit."


def places_fields(places: Sequence[tuple[str, float, str, float]]) -> list[tuple[str, str]]:
    """Hidden boxes that stand the items where an arrangement has them."""
    found = [("count", str(len(places)))]
    for n, (item_id, reference, facing, left) in enumerate(places):
        found += [
            (f"id-{n}", item_id),
            (f"reference-{n}", str(reference)),
            (f"facing-{n}", facing),
            (f"left-{n}", str(left)),
        ]
    return found
