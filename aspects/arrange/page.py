"""The best arrangement of a haul's loads in words and pictures, and what to change for one."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Final

from django.http import QueryDict

from aspects.rooms import ActionError
from hauls.climbs import Climb, climb_of
from hauls.models import Haul
from hauls.variants import Other, change_names, others_that_fit
from measures import ReadingError, UnitSystem, read_length
from measures.marks import write_place
from measures.writing import write_inches, write_length, write_mass, write_percent
from mechanics.arrange import DECK_LENGTH, Arranged, Arrangement, Wishes, arrange
from mechanics.changes import Change, Kind, changes
from mechanics.item import Facing, Item
from mechanics.placing import ROOM_BETWEEN_M
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.rules import FIXED_RANGES
from mechanics.solver import SolverError
from mechanics.tidying import TAPE_STEP_M, on_the_tape
from pictures.drawing import Drawing, plain_picture
from planfile.draft import Draft, Held
from wording.limits import in_sentence
from wording.phrases import begun
from wording.places import SIDEWAYS_M
from wording.schools import SCHOOL_LABELS, range_words
from wording.statuses import STATUS_WORDS
from yards.models import Yard

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
    off: Mapping[str, str]
    room: str
    gentlest: bool


def read_asked(sent: QueryDict, plan: Plan, unit: UnitSystem) -> Asked:
    """The wishes of the page: ``keep``, ``off-ID`` (first, last), ``turn``, ``beside``, ``room``,
    ``gentlest``.

    Raises:
        ActionError: the room is no length.
    """
    ids = [item.id for item in plan.items]
    off = {i: str(sent.get(f"off-{i}")) for i in ids if sent.get(f"off-{i}") in OFF}
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
    return Asked(
        wishes=wishes,
        off=off,
        room=typed or write_inches(room, unit),
        gentlest=sent.get("gentlest") == "1",
    )


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
    """One arrangement to choose: its picture, its places, what it leaves.

    ``fields`` are hidden boxes that stand the items so.
    """

    words: str
    order: list[str]
    reserve: str
    status: str
    word: str
    sure: bool
    climb: Climb
    picture: Drawing
    fields: list[tuple[str, str]]


EQUALS: Final = 0.005
"""Ways that leave as much to within this part of the tightest limit are equals to a person."""


def ways_to_load(
    found: Arranged, draft: Draft, unit: UnitSystem, *, gentlest: bool = False
) -> list[Way]:
    """The arrangements found, as the page lists them; of equals the ``gentlest`` to get on first
    where that is asked for."""
    order = list(found.found)
    if gentlest and order:
        best = order[0]
        equals = [
            one
            for one in order
            if one.sure == best.sure and one.least_reserve >= best.least_reserve - EQUALS
        ]
        others = [one for one in order if one not in equals]
        equals.sort(key=lambda one: climb_of(draft.stood(on_the_tape(one.plan))).rank)
        order = equals + others
    return [_way(one, number, draft, unit, found.always_over) for number, one in enumerate(order)]


def _way(
    one: Arrangement, number: int, draft: Draft, unit: UnitSystem, always_over: tuple[str, ...]
) -> Way:
    # what is said to be left is what the search proved, before the marks went on the tape's
    # marks: rounding may favour another way by a hair
    left = evaluate(one.plan).least_reserve(share=True, without=always_over)
    plan = on_the_tape(one.plan)
    verdict = evaluate(plan).verdict
    usual = "Best" if number == 0 else f"Another way, {number}"
    return Way(
        words="Best of what can hold" if always_over else usual,
        order=[_stop_words(item, unit) for item in sorted(plan.items, key=lambda i: i.foremost_m)],
        reserve=write_percent(left or 0.0),
        status=verdict.value,
        word=STATUS_WORDS[verdict],
        sure=one.sure,
        climb=climb_of(draft.stood(plan)),
        picture=plain_picture(plan, draft.drawn, draft.look, unit),
        fields=places_fields(draft.stood(plan).held),
    )


def _stop_words(item: Item, unit: UnitSystem) -> str:
    """Where to stop with an item, and how."""
    place = item.placement
    words = f"{item.called} at {write_place(place.reference_m, unit)}"
    if place.facing is Facing.BACKWARD:
        words += ", backward"
    if abs(place.left_m) > SIDEWAYS_M:
        side = "left" if place.left_m > 0 else "right"
        words += f", {write_inches(abs(place.left_m), unit)} {side}"
    return words


@lru_cache(maxsize=64)
def changes_for(plan: Plan, wishes: Wishes, divisible: frozenset[str]) -> tuple[Change, ...]:
    """What would make it fit, kept."""
    return changes(plan, wishes, divisible=divisible, seconds=CHANGE_S)


@dataclass(frozen=True, kw_only=True, slots=True)
class RowOnDeck:
    """How long the loads are in a row with room between them, and what the deck takes, in whole
    steps of the tape: a row is no shorter than it says and a deck no longer."""

    length_m: float
    takes_m: float
    unit: UnitSystem

    @property
    def _step(self) -> float:
        return TAPE_STEP_M if self.unit is UnitSystem.US else 0.001

    def _write(self, steps: int) -> str:
        return write_length(steps * self._step, self.unit, step=2)

    @property
    def _steps(self) -> tuple[int, int]:
        row = math.ceil(self.length_m / self._step - 1e-6)
        return row, math.floor(self.takes_m / self._step + 1e-6)

    @property
    def length(self) -> str:
        """How long the row is."""
        return self._write(self._steps[0])

    @property
    def takes(self) -> str:
        """What the deck takes."""
        return self._write(self._steps[1])

    @property
    def missing(self) -> str:
        """What is missing, so that the three add up; empty where nothing is."""
        row, takes = self._steps
        return self._write(row - takes) if row > takes else ""


def row_of(plan: Plan, room_m: float, unit: UnitSystem) -> RowOnDeck:
    """The loads in a row with room between them, against the deck."""
    deck = plan.trailer.deck
    return RowOnDeck(
        length_m=sum(i.front_m + i.rear_m for i in plan.items) + room_m * (len(plan.items) - 1),
        takes_m=deck.length_m + deck.front_overhang_m + deck.rear_overhang_m,
        unit=unit,
    )


def change_words(change: Change, plan: Plan, unit: UnitSystem, room_m: float = 0.0) -> str:
    """A change as a sentence; ``room_m`` is wished for between neighbours."""
    names = [plan.item(i).called for i in change.items]
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
        school = range_words(*FIXED_RANGES[change.school])
        name = SCHOOL_LABELS[change.school]
        return f"Go by the {name} rule of share, {school}, if the yard holds it."
    return begun(f"{_ratings(change, plan, unit, room_m)}.")


def _ratings(change: Change, plan: Plan, unit: UnitSystem, room_m: float) -> str:
    words = []
    row = row_of(plan, room_m, unit)
    for code, more in change.ratings:
        if code == DECK_LENGTH:
            # where the row alone is too long by that, it is said as the row was
            same = row.missing and abs(more - (row.length_m - row.takes_m)) < ALIKE_M
            short = row.missing if same else write_length(more, unit, step=2)
            words.append(f"the deck is {short} too short")
        else:
            words.append(f"{in_sentence(code, unit)} is {write_mass(more, unit)} too low")
    return ", and ".join(words)


ALIKE_M: Final = 0.013
"""Two lengths this close are told by one figure."""


def nothing_fits(plan: Plan, found: Arranged, unit: UnitSystem, room_m: float = 0.0) -> str:
    """Why no arrangement is right, in a sentence."""
    if found.always_over:
        named = " and ".join(in_sentence(c, unit) for c in found.always_over)
        verb = "is" if len(found.always_over) == 1 else "are"
        return f"No arrangement helps: {named} {verb} passed however they stand."
    if not found.proved:
        return "None was found in the time; there may be one. Hold less fast, or try fewer loads."
    row = row_of(plan, room_m, unit)
    if row.missing:
        between = ""
        if room_m and len(plan.items) > 1:
            between = f", {write_inches(room_m, unit)} left between them,"
        return (
            f"In a row{between} they are {row.length} long, and the deck takes {row.takes}: "
            f"{row.missing} is "
            "missing. Proved: no order, facing or place holds every limit."
        )
    return "Proved: no order, facing or place of these loads holds every limit."


def places_fields(held: Sequence[Held]) -> list[tuple[str, str]]:
    """Hidden boxes that stand the items where an arrangement has them."""
    found = [("count", str(len(held)))]
    for n, one in enumerate(held):
        found += [
            (f"id-{n}", one.id),
            (f"reference-{n}", str(one.reference)),
            (f"facing-{n}", str(one.facing)),
            (f"left-{n}", str(one.left)),
        ]
    return found


@dataclass(frozen=True, kw_only=True)
class OtherOutfit:
    """Another outfit or configuration on which the loads fit, and its way to load."""

    name: str
    least: str
    other: Other


@dataclass(frozen=True, kw_only=True)
class Box:
    """What the person holds fast of one item."""

    id: str
    name: str
    kept: bool
    off: str


@dataclass(frozen=True, kw_only=True)
class ArrangePage:
    """Everything the page shows: what was asked, the ways found, or what would make it fit."""

    items: list[Box]
    turn: bool
    beside: bool
    gentlest: bool
    room: str
    room_unit: str
    wrong: str
    too_many: int
    proved: bool = False
    ways: Sequence[Way] = ()
    why_not: str = ""
    changes: Sequence[str] = ()
    others: Sequence[OtherOutfit] = ()
    blame: Sequence[str] = ()
    cut: bool = False
    tried: bool = False


def arrange_page(haul: Haul, yard: Yard, sent: QueryDict, unit: UnitSystem) -> ArrangePage:
    """The page of a haul for what was asked in its address."""
    plan = haul.draft.plan
    wrong, room = "", ""
    try:
        asked = read_asked(sent, plan, unit)
    except ActionError as error:
        without = sent.copy()
        without["room"] = ""
        asked = read_asked(without, plan, unit)
        wrong, room = str(error), error.typed
    wishes = asked.wishes
    page = ArrangePage(
        items=[
            Box(
                id=item.id,
                name=item.called,
                kept=item.id in wishes.locked,
                off=asked.off.get(item.id, ""),
            )
            for item in plan.items
        ],
        turn=wishes.turn,
        beside=wishes.beside,
        gentlest=asked.gentlest,
        room=room or asked.room,
        room_unit=unit.length_unit,
        wrong=wrong,
        too_many=MOST_ITEMS if len(plan.items) > MOST_ITEMS else 0,
    )
    if not plan.items or page.too_many or wrong:
        return page
    try:
        return _searched(page, haul, yard, wishes, unit)
    except SolverError as error:
        return replace(page, why_not=f"The search failed: {error}. The haul is as it was.")


def _searched(
    page: ArrangePage, haul: Haul, yard: Yard, wishes: Wishes, unit: UnitSystem
) -> ArrangePage:
    draft = haul.draft
    plan = draft.plan
    found = arranged(plan, wishes)
    page = replace(page, proved=found.proved, tried=True)
    ways = ways_to_load(found, draft, unit, gentlest=page.gentlest)
    if ways:
        return replace(page, ways=ways)
    room = wishes.room_m
    if found.always_over:
        # overloaded, but it has to stand somewhere
        ways = ways_to_load(arranged(plan, wishes, despite=True), draft, unit)
    bulk = frozenset(haul.links.filter(bulk__isnull=False).values_list("item_id", flat=True))
    others, cut = others_that_fit(haul, yard, wishes)
    found_changes = changes_for(plan, wishes, bulk)
    return replace(
        page,
        ways=ways,
        why_not=nothing_fits(plan, found, unit, room),
        changes=[change_words(c, plan, unit, room) for c in found_changes if not c.ratings],
        others=[
            OtherOutfit(
                name=change_names(haul, replace(other.change, best=False)),
                least=write_percent(other.least_reserve),
                other=other,
            )
            for other in others
        ],
        blame=[change_words(c, plan, unit, room) for c in found_changes if c.ratings],
        cut=cut,
    )
