"""What a button of the page does to a haul's ties."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Final

import msgspec
from msgspec import UNSET

from aspects.rooms import ActionError
from aspects.tied_down.page import Told
from aspects.tied_down.rows import QUESTIONS
from aspects.tied_down.tables import read_ties
from hauls.loads import linked_loads
from hauls.models import Haul
from hauls.rack import Rack
from hauls.tied import school_of
from hauls.tying import (
    CROSSING,
    CROSSINGS,
    TyingError,
    answered,
    crossing_of,
    made_of,
    moved_tie,
    securing_of,
    suggested,
    with_book_places,
    with_changed,
    with_suggestion,
    with_tie,
    without_tie,
    without_ties_of,
)
from hauls.units import FileUnits
from measures import ReadingError
from measures.reading import read_mass
from measures.writing import UnitSystem, write_mass
from mechanics.checks import Status
from mechanics.securing import Purchase, Standard, Suggestion, to_buy
from mechanics.securing.report import tied_of
from mechanics.ties import SecuringSchool
from planfile.document import Securing
from planfile.draft import Draft
from planfile.tying import kept_of
from wording.securing import Teller

MOST_FRICTION: Final = 1.0
"""More grip than this no deck has."""


@dataclass(frozen=True, kw_only=True)
class Done:
    """The haul tied otherwise, what is said of the step, and what came of a suggestion; the same
    ``draft`` where there is nothing to keep."""

    draft: Draft
    what: str
    told: Told | None = None


def begun_draft(haul: Haul) -> Draft:
    """The haul's draft, from now on tied down by the yard's rule where it said nothing."""
    draft = haul.draft
    if draft.plan.securing is not None:
        return draft
    school: Any = school_of(haul).value
    return draft.with_securing(Securing(school=school))


def act(haul: Haul, data: Mapping[str, Any], unit: UnitSystem) -> Done:
    """Do what a button says.

    Raises:
        ActionError: it cannot be done as asked; the message is for the person.
    """
    word, _, which = str(data.get("do", "")).partition(":")
    doing = _DOING.get(word)
    if doing is None:
        raise ActionError("This page has no such button. Load it again.")
    draft = begun_draft(haul)
    if word in _OF_A_TIE and which not in {tie.id for tie in securing_of(draft).ties}:
        raise ActionError("This tie is gone already. Look at the list again.")
    try:
        return doing(_Doing(haul=haul, draft=draft, data=data, which=which, unit=unit))
    except TyingError as error:
        raise ActionError(str(error)) from None


@dataclass(frozen=True, kw_only=True)
class _Doing:
    haul: Haul
    draft: Draft
    data: Mapping[str, Any]
    which: str
    unit: UnitSystem

    @property
    def rack(self) -> Rack:
        """The yard's rack beside this haul's ties."""
        return Rack.of(self.haul.yard, securing_of(self.draft))

    def text(self, name: str) -> str:
        """What was sent under a name."""
        return str(self.data.get(name, ""))[:200]

    @property
    def item(self) -> str:
        """The item in hand.

        Raises:
            ActionError: there is none of that id.
        """
        found = self.text("item")
        if found not in self.draft.item_ids:
            raise ActionError("That machine is no longer on the deck. Look at the page again.")
        return found


def _add(it: _Doing) -> Done:
    point, anchor = it.text("point"), it.text("anchor")
    draft = with_tie(
        it.draft, it.rack, item=it.item, point=point, anchor=anchor, over=it.text("over")
    )
    return Done(draft=draft, what=f"tie from {point} to {anchor}")


def _gear(it: _Doing) -> Done:
    names = [it.text("running"), it.text("joining_0"), it.text("joining_1"), it.text("joining_2")]
    securing = securing_of(it.draft)
    tie = next(one for one in securing.ties if one.id == it.which)
    # its own pieces are free to be chosen again
    others = [one for one in securing.ties if one.id != it.which]
    rack = Rack.of(it.haul.yard, msgspec.structs.replace(securing, ties=others))
    chosen = [name for name in names if name]
    for name in set(chosen):
        gear = rack.gear.get(name)
        if gear is not None and chosen.count(name) > rack.free(name):
            raise ActionError(
                f"The rack has no more of {name}. Choose another piece.",
                typed=it.text("pretension"),
            )
    made = made_of(tie, chosen, rack, it.draft)
    if "pretension" in it.data:
        made = msgspec.structs.replace(made, pretension=_pretension(it))
    draft = with_changed(it.draft, made)
    return Done(draft=draft, what=f"gear of a tie: {', '.join(chosen)}"[:200])


def _pretension(it: _Doing) -> float:
    """What a tie is tightened to, in the document's unit; nothing where the box is empty."""
    typed = it.text("pretension")
    if not typed.strip():
        return 0.0
    try:
        found = read_mass(typed, it.unit.mass_unit)
    except ReadingError as error:
        raise ActionError(str(error), typed=typed) from None
    return FileUnits.of_draft(it.draft).m(found)


def _remove(it: _Doing) -> Done:
    return Done(draft=without_tie(it.draft, it.which), what="a tie less")


def _clear(it: _Doing) -> Done:
    return Done(draft=without_ties_of(it.draft, it.item), what="all its ties off")


def _places(it: _Doing) -> Done:
    draft = with_book_places(it.draft, it.haul.trailer, linked_loads(it.haul))
    return Done(draft=draft, what="anchors and points of the book")


def _table(it: _Doing) -> Done:
    draft = read_ties(it.draft, it.rack, str(it.data.get("table", ""))[:100_000])
    return Done(draft=draft, what="ties of a table")


def _earlier(it: _Doing) -> Done:
    return Done(draft=moved_tie(it.draft, it.which, -1), what="order of ties")


def _later(it: _Doing) -> Done:
    return Done(draft=moved_tie(it.draft, it.which, 1), what="order of ties")


def _answer(it: _Doing) -> Done:
    answers = {}
    for name, (words, options) in QUESTIONS.items():
        if name not in it.data:
            continue
        answer = it.text(name)
        if answer not in dict(options):
            raise ActionError(f"{words}: choose one of the answers.")
        answers[name] = answer
    return Done(draft=answered(it.draft, it.which, answers), what="asked about a tie")


def _settings(it: _Doing) -> Done:
    school: Any = it.text("school")
    if school not in {one.value for one in SecuringSchool}:
        raise ActionError("Choose the rule to hold the ties against.", typed=it.text("friction"))
    crossing = it.text("crossing") or crossing_of(securing_of(it.draft))
    if crossing not in CROSSINGS:
        raise ActionError("Choose whether ties cross.", typed=it.text("friction"))
    securing = securing_of(it.draft)
    extra = dict({} if securing.extra is UNSET else securing.extra)
    changed = msgspec.structs.replace(
        securing,
        school=school,
        friction=_friction(it.text("friction")),
        bulkhead=bool(it.data.get("bulkhead")),
        extra={**extra, CROSSING: crossing},
    )
    return Done(draft=it.draft.with_securing(changed), what="rule for the ties")


def _friction(typed: str) -> float:
    text = typed.strip().replace(",", ".")
    if not text:
        return 0.0
    if not re.fullmatch(r"[0-9]{0,3}(\.[0-9]{0,6})?", text) or text == ".":
        raise ActionError(
            f"“{typed[:30]}” is no grip. Write a number such as 0.3, or leave it empty for none.",
            typed=typed,
        )
    found = float(text)
    if not math.isfinite(found) or found > MOST_FRICTION:
        raise ActionError("No deck grips by more than 1. Write a number such as 0.3.", typed=typed)
    return found


def _suggest(it: _Doing) -> Done:
    item = it.item
    found = suggested(it.draft, it.rack, item)
    if found.standard is Standard.NONE:
        return Done(draft=it.haul.draft, what="", told=_nothing(it, item))
    draft = with_suggestion(it.draft, it.rack, item, found)
    return Done(draft=draft, what="ties from the rack", told=_told(it, draft, item, found))


def _nothing(it: _Doing, item: str) -> Told:
    plan = it.draft.plan
    if not plan.item(item).points:
        first = "It has no point to tie it by. The machine's page in the book has room for them."
    elif not plan.trailer.anchors:
        first = "The trailer has no anchors. Its page in the book has room for them."
    else:
        first = "The rack has nothing free that reaches from a point to an anchor on both sides."
    return Told(status=Status.OVER.value, first=first, buy=_buy_words(it, item))


def _told(it: _Doing, draft: Draft, item: str, found: Suggestion) -> Told:
    """What is said of a suggestion that was taken."""
    lacks = _lacks(draft, item, found, it.unit)
    count = len(found.ties)
    proof = (
        "No fewer would do."
        if found.proved
        else "Whether fewer would do was not settled in the time."
    )
    if found.standard is Standard.EVERYTHING:
        return Told(
            status=Status.OK.value, first=f"{count} ties from the rack hold everything. {proof}"
        )
    buy = _buy_words(it, item)
    if found.standard is Standard.NOTHING_OVER:
        return Told(
            status=Status.NEAR.value,
            first=f"{count} ties from the rack hold what the rule asks, with little to spare.",
            lacks=lacks,
            buy=buy,
        )
    short = (
        "The rack does not hold what the rule asks."
        if found.proved
        else "Nothing of the rack that holds what the rule asks was found in the time."
    )
    return Told(
        status=Status.OVER.value,
        first=f"{short} These are the two that resist braking, "
        "on the strongest places for that, as practice has it. It must not go like this.",
        lacks=lacks,
        buy=buy,
    )


def _lacks(draft: Draft, item: str, found: Suggestion, unit: UnitSystem) -> tuple[str, ...]:
    """What a suggestion does not hold, a line each."""
    numbers = {tie.id: n for n, tie in enumerate(securing_of(draft).ties, 1)}
    teller = Teller(plan=draft.plan, tied=tied_of(draft.plan, item), numbers=numbers, unit=unit)
    rows = (teller.row(finding) for finding in found.findings)
    return tuple(f"{row.label}: {row.figure} {row.detail}".strip() for row in rows)


def _buy_words(it: _Doing, item: str) -> str:
    """What would do beside the rack; empty where nothing to buy would."""
    securing = securing_of(it.draft)
    back = [n for t in securing.ties if t.item == item for n in kept_of(t).pieces]
    found = to_buy(
        it.draft.plan, item, it.rack.pieces(back), crossing=CROSSINGS[crossing_of(securing)]
    )
    if found is None:
        return (
            "No chain to buy would do with these points and anchors: it takes more of them, or "
            "stronger ones."
        )
    return _purchase_words(found, it.unit)


def _purchase_words(found: Purchase, unit: UnitSystem) -> str:
    size = SIZES[found.size]
    limit = write_mass(found.wll_kg, unit)
    many = f"{found.count} transport chains (grade 70) of {size} in"
    return (
        f"To buy: {many}, each with a binder, of at least {limit}; {len(found.suggestion.ties)} "
        f"ties then hold everything."
    )


SIZES: Final = {4: "1/4", 5: "5/16", 6: "3/8", 7: "7/16", 8: "1/2", 10: "5/8"}
"""Chain sizes as they are sold, by their sixteenths of an inch."""

_DOING: Final[dict[str, Callable[[_Doing], Done]]] = {
    "add": _add,
    "gear": _gear,
    "remove": _remove,
    "clear": _clear,
    "places": _places,
    "table": _table,
    "earlier": _earlier,
    "later": _later,
    "answer": _answer,
    "settings": _settings,
    "suggest": _suggest,
}
_OF_A_TIE: Final = ("gear", "remove", "earlier", "later", "answer")
