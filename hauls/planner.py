"""The planner's one partial: what it shows, from a document and what the person holds."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from book.schools import GVWR_LABELS, GVWR_REASONS
from hauls.drawing import WIDTH, Drawing, draw, share_scale
from hauls.framing import frame_words
from hauls.holding import ActionError, State
from hauls.models import Haul
from hauls.moves import NUDGE_IN
from hauls.news import News
from hauls.outfit_drawing import Look
from hauls.practice import practice, suggested_school
from hauls.reasons import reason
from hauls.riding import ride_words
from hauls.saying import Sentence, sentence, summary, verdict_word
from hauls.services.steps import Around
from hauls.standing import best_standing, place_words
from hauls.ways import ways_out, what_settles, worth_weighing
from hauls.wording import (
    end_words,
    is_light,
    label,
    room_left,
    school_label,
    status_word,
    tongue_word,
    unhitched_kg,
)
from measures import UnitSystem
from measures.marks import write_place
from measures.writing import (
    digits_apart,
    write_inches,
    write_length,
    write_mass,
    write_number,
    write_percent,
    write_share_against,
)
from mechanics.attitude import attitude
from mechanics.checks import Check, Status
from mechanics.frame import part_ahead_of_middle
from mechanics.item import TOUCH_M, Item
from mechanics.limits import Quantity, Sense
from mechanics.report import Report, evaluate
from mechanics.rules import TongueSchool
from mechanics.units import LengthUnit
from planfile.errors import PlanFileError
from planfile.reading import read_document

ROWS_SHOWN = 9
"""Headroom rows in sight; the others fold away under them."""

BAR_LIMIT = 0.88
"""Where on a row the common limit line stands, leaving room for what is past it."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Row:
    """One headroom bar."""

    code: str
    name: str
    status: str
    word: str
    margin: str
    tail: str
    fill: float
    past: float
    open: bool
    edge: float = BAR_LIMIT * 100


@dataclass(frozen=True, kw_only=True, slots=True)
class Held:
    """An item's place as the page holds it, in the document's own unit."""

    id: str
    reference: float
    facing: str
    left: float


def sideways_words(left_m: float, unit: UnitSystem) -> str:
    """Where an item stands across the deck, as the driver sees it."""
    if abs(left_m) < 0.001:
        return "on the middle"
    side = "left" if left_m > 0 else "right"
    return f"{write_inches(abs(left_m), unit)} {side} of the middle"


def present(
    state: State,
    unit: UnitSystem,
    *,
    error: ActionError | None = None,
    conflict: Haul | None = None,
    saved: bool = True,
    books_news: list[News] | None = None,
    may_save: bool = True,
    around: Around | None = None,
) -> dict[str, Any]:
    """Everything the planner's partial shows."""
    plan = state.plan()
    report = evaluate(plan)
    riding = attitude(plan)
    items = state.document.get("items", [])
    names = {i.id: i.name or i.id for i in plan.items}
    drawn = [drawn_of(item) for item in items]
    marks = {i.id: str(d.get("mark", "mark")) for i, d in zip(plan.items, drawn, strict=True)}
    per_m = 1 / LengthUnit(state.document["units"]["length"]).m
    index = state.selected
    hitch, share = plan.hitch.type, plan.share_range
    ends = (
        []
        if index is None
        else [
            (
                end_words(piece.start_limit, hitch, share, names, unit),
                end_words(piece.end_limit, hitch, share, names, unit),
            )
            for piece in report.windows[index].intervals
        ]
    )
    drawing: Drawing = draw(
        report,
        extras=drawn,
        marks=[marks[i.id] for i in plan.items],
        names=[names[i.id] for i in plan.items],
        selected=index,
        end_texts=ends,
        unit=unit,
        length_per_m=per_m,
        look=look_of(state.document),
        riding=riding,
        times=state.times,
    )
    ways = [] if index is None or report.windows[index].intervals else ways_out(plan, index, unit)
    weigh = settles = ""
    best = None if index is None else best_standing(plan, index, unit)
    if index is not None and report.windows[index].intervals:
        weigh = worth_weighing(plan, index, unit)
        settles = what_settles(plan, index)
    tail = look_of(state.document).tail
    said: Sentence = sentence(report, index, marks, names, unit, tail, settles)
    rows = _rows(report, state.open, names, unit)
    arithmetic = reason(state.open, report, names, unit) if state.open else None
    current = None
    if index is not None:
        item = plan.items[index]
        current = {
            "name": names[item.id],
            "mark": marks[item.id],
            "reading": place_words(report, index, unit),
            "typed": error.typed if error and error.typed else "",
            "facing": item.placement.facing.value,
            "sideways": sideways_words(item.placement.left_m, unit),
            "landed": state.landed,
            "off_middle": abs(item.placement.left_m) >= 0.001,
            "has_aim": best is not None,
            "aim_words": "Go to aim" if best is None or best.right else "Go to the best place",
            "past_tail": _past_tail(report, index, tail),
        }
    trailer = report.loads.trailer
    small, large = NUDGE_IN[unit]
    step_unit = "in" if unit is UnitSystem.US else "mm"
    return {
        "haul": state.haul,
        "base": state.base,
        "held": [_held(item) for item in items],
        "selected": index,
        "open": state.open,
        "rules": {
            "tongue": "default",
            "trailer_gvwr": "whole",
            **state.document.get("rules", {}),
        },
        "gvwr_schools": [(s.value, words) for s, words in GVWR_LABELS.items()],
        "gvwr_now": GVWR_LABELS[plan.rules.trailer_gvwr],
        "gvwr_reason": GVWR_REASONS[plan.rules.trailer_gvwr],
        "suggested": suggested_school(report, unit),
        "practice": practice(report, state.document, unit),
        "trailer_page": ""
        if state.haul.trailer_id is None or not may_save
        else f"/book/trailers/{state.haul.trailer_id}/#id_rear_overhang",
        "schools": [(s.value, school_label(s, report)) for s in TongueSchool],
        "verdict": report.verdict.value,
        "verdict_word": verdict_word(report),
        "said": said,
        "ways": ways,
        "weigh": weigh,
        "drawing": drawing,
        "width": WIDTH,
        "ride": ride_words(plan, riding, unit),
        "frame": frame_words(plan, unit),
        "tilt": state.times,
        "undo": state.undo if around is None else around.undo,
        "per_unit": drawing.scale / per_m,
        "per_unit_above": drawing.above_scale / per_m,
        "rows": rows[:ROWS_SHOWN],
        "more_rows": rows[ROWS_SHOWN:],
        "more_open": any(r.open for r in rows[ROWS_SHOWN:]),
        "why": arithmetic,
        "share": share_scale(report)
        | {
            "text": f"{write_mass(trailer.tongue_kg, unit)} of {write_mass(trailer.mass_kg, unit)}",
            "title": f"{tongue_word(hitch).capitalize()} share",
            "beside": _beside_share(report),
            **_share_status(report),
        },
        "current": current,
        "steps": (f"{large} {step_unit}", f"{small} {step_unit}"),
        "error": str(error) if error else "",
        "conflict": conflict,
        "conflict_places": [] if conflict is None else _differences(state, conflict, marks, unit),
        "saved": saved,
        "books_news": books_news or [],
        "may_save": may_save,
        "names": names,
        "unit": unit,
        "choices": [],
        "places": [
            f"{names[i.id]}: {marks[i.id]} at {_place_words(i, unit)}, "
            f"{sideways_words(i.placement.left_m, unit)}"
            for i in plan.items
        ],
    }


def headline(haul: Haul, unit: UnitSystem) -> tuple[Drawing, str, str]:
    """A haul's picture, its verdict's word and, in one line, what is wrong or what is tightest.

    Drawn once for each document; a list shows the same ones again and again.

    Raises:
        PlanFileError: the plan cannot be read.
    """
    return _headline(json.dumps(haul.document, sort_keys=True), unit)


@lru_cache(maxsize=512)
def _headline(document: str, unit: UnitSystem) -> tuple[Drawing, str, str]:
    state = State(Haul(document=json.loads(document)))
    plan = state.plan()
    report = evaluate(plan)
    drawn = [drawn_of(item) for item in state.document.get("items", [])]
    names = {i.id: i.name or i.id for i in plan.items}
    picture = draw(
        report,
        extras=drawn,
        marks=["mark"] * len(drawn),
        names=list(names.values()),
        selected=None,
        end_texts=[],
        unit=unit,
        length_per_m=1 / LengthUnit(state.document["units"]["length"]).m,
        look=look_of(state.document),
    )
    return picture, verdict_word(report), summary(report, names, unit)


def look_of(document: dict[str, Any]) -> Look:
    """How the trailer's tail and sides are drawn, as the document keeps it."""
    drawn = document["trailer"].get("extra", {}).get("drawn", {})
    if not isinstance(drawn, dict):
        return Look()
    ramp = drawn.get("ramp_length")
    per_m = LengthUnit(document["units"]["length"]).m
    return Look(
        tail=str(drawn.get("tail", "")),
        sides=str(drawn.get("sides", "")),
        ramp_m=float(ramp) * per_m if isinstance(ramp, (int, float)) and ramp > 0 else 1.2,
    )


def _rows(report: Report, opened: str, names: dict[str, str], unit: UnitSystem) -> list[Row]:
    """Rated limits, least reserve first; before them faults of place, and what is not known."""
    faults = [
        c
        for c in report.checks
        if c.quantity is Quantity.LENGTH and c.status not in (Status.OK, Status.UNKNOWN)
    ]
    rated = [c for c in report.checks if c.quantity is Quantity.MASS]
    known = sorted(
        (c for c in rated if c.status is not Status.UNKNOWN),
        key=lambda c: (c.status is not Status.NEAR, _room(c)),
    )
    over = [c for c in known if c.status is Status.OVER]
    unknown = [c for c in report.checks if c.status is Status.UNKNOWN]
    rest = [c for c in known if c.status is not Status.OVER]
    return [_row(c, opened, names, unit) for c in (*over, *faults, *unknown, *rest)]


def _room(check: Check) -> float:
    room = room_left(check)
    return -1.0 if room is None else room


def _row(check: Check, opened: str, names: dict[str, str], unit: UnitSystem) -> Row:
    name = label(check.code, names, unit)
    if check.item is not None:
        name = f"{names.get(check.item, check.item)}: {name[:1].lower()}{name[1:]}"
    margin, tail, fill = "", "", 0.0
    if check.status is Status.UNKNOWN:
        tail = "size not known" if check.quantity is Quantity.LENGTH else "rating not known"
    elif check.quantity is Quantity.LENGTH:
        step = 16 if check.sense is Sense.EQUAL else 2
        margin = write_length(abs(check.margin or 0.0), unit, step=step)
        tail = "past it" if (check.margin or 0.0) < 0 else "left"
        if check.sense is Sense.EQUAL:
            tail = "apart"
    elif is_light(check.code):
        room = room_left(check) or 0.0
        margin = write_percent(room)
        tail = f"of {write_mass(unhitched_kg(check), unit)} unhitched"
        fill = 1 - room
    else:
        limit, gap = check.limit or 0.0, check.margin or 0.0
        margin = write_number(abs(gap) / unit.kg, digits_apart(abs(gap) / unit.kg, 0.0))
        if gap >= 0:
            margin = write_number(gap / unit.kg)
        words = "left of" if gap >= 0 else "over"
        tail = f"{words} {write_number(limit / unit.kg)} {unit.mass_unit}"
        fill = check.value / limit if limit else 1.2
    past = min(max(fill - 1.0, 0.0), (1 - BAR_LIMIT) / BAR_LIMIT)
    return Row(
        code=check.code,
        name=name,
        status=check.status.value,
        word=status_word(check),
        margin=margin,
        tail=tail,
        fill=round(min(max(fill, 0.0), 1.0) * BAR_LIMIT * 100, 2),
        past=round(past * BAR_LIMIT * 100, 2),
        open=check.code == opened,
    )


def _share_status(report: Report) -> dict[str, str]:
    """Status and word of the share, as it is read: never as its limit where it breaks it.

    Without a load it is not judged.
    """
    share = report.loads.trailer.share
    checks = [c for c in report.checks if c.quantity is Quantity.SHARE]
    if not checks:
        return {"status": "", "word": "", "share": write_percent(share)}
    worst = max(checks, key=lambda c: c.status.severity)
    word = "lifts" if share < 0 else status_word(worst)
    return {
        "status": worst.status.value,
        "word": word,
        "share": write_share_against(share, worst.limit or 0.0),
    }


def _beside_share(report: Report) -> list[str]:
    """Other ways to look at where the load stands, none of them a verdict."""
    added = report.loads.trailer.added_share
    ahead = part_ahead_of_middle(report.plan)
    found = []
    if added is not None:
        found.append(f"added by the load {write_percent(added)}")
    if ahead is not None:
        found.append(f"{round(ahead * 100)}/{100 - round(ahead * 100)} about the deck's middle")
    return found


def _past_tail(report: Report, index: int, tail: str) -> bool:
    """Whether the item reaches past an open tail that the trailer's page does not allow."""
    item, deck = report.plan.items[index], report.plan.trailer.deck
    over = item.rearmost_m > deck.length_m + deck.rear_overhang_m + TOUCH_M
    return over and tail != "gate"


def drawn_of(item: dict[str, Any]) -> dict[str, Any]:
    """How an item is drawn, as the document keeps it."""
    drawn = item.get("extra", {}).get("drawn", {})
    return drawn if isinstance(drawn, dict) else {}


def _held(item: dict[str, Any]) -> Held:
    placement = item["placement"]
    return Held(
        id=item["id"],
        reference=placement["reference"],
        facing=placement.get("facing", "forward"),
        left=placement.get("left", 0),
    )


def _differences(
    state: State, theirs: Haul, marks: dict[str, str], unit: UnitSystem
) -> list[tuple[str, str, str]]:
    """Item by item: name, mine, theirs, where they differ."""
    try:
        mine, other = state.plan(), read_document(theirs.document)
    except PlanFileError:
        return []
    found = []
    placed_there = {item.id: item for item in other.items}
    for item in mine.items:
        there = placed_there.get(item.id)
        mine_at = _place_words(item, unit)
        their_at = "taken off" if there is None else _place_words(there, unit)
        if mine_at != their_at:
            found.append((item.name or item.id, mine_at, their_at))
    return found


def _place_words(item: Item, unit: UnitSystem) -> str:
    return f"{write_place(item.placement.reference_m, unit)}, {item.placement.facing.value}"
