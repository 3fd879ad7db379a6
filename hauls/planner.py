"""The planner's one partial: what it shows, from a document and what the person holds."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from hauls.drawing import WIDTH, Drawing, draw, share_scale
from hauls.models import Haul
from hauls.news import News
from hauls.services.haul import placed, set_reference
from hauls.ways import ways_out, worth_weighing
from hauls.wording import (
    STATUS_WORDS,
    Sentence,
    Why,
    end_words,
    label,
    school_label,
    sentence,
    summary,
    tongue_word,
    why,
)
from measures import ReadingError, UnitSystem, read_length
from measures.writing import write_inches, write_length, write_mass, write_number, write_percent
from mechanics.checks import Check, Status
from mechanics.item import Item, Placement
from mechanics.limits import Quantity, Sense
from mechanics.plan import Plan
from mechanics.report import Report, evaluate
from mechanics.rules import TongueSchool
from mechanics.units import LengthUnit
from planfile.errors import PlanFileError
from planfile.reading import read_document

NUDGE_IN = {UnitSystem.US: (1, 6), UnitSystem.METRIC: (25, 150)}
"""A small and a large step, in inches or millimetres."""

ROWS_SHOWN = 9
"""Headroom rows in sight; the others fold away under them."""

BAR_LIMIT = 0.88
"""Where on a row the common limit line stands, leaving room for what is past it."""


class ActionError(ValueError):
    """An action that cannot be done as asked; the message is for the person.

    ``typed`` is what was entered, to be kept in its box.
    """

    def __init__(self, message: str, typed: str = "") -> None:
        self.typed = typed
        super().__init__(message)


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


class State:
    """What the person holds: the document with the page's own places and school.

    Built from the stored document and the fields the page sent, so that a page that is
    behind still shows what its person did.
    """

    def __init__(self, haul: Haul, sent: Mapping[str, Any] | None = None) -> None:
        self.haul = haul
        stored = haul.document
        # only places and rules are ever changed here; the rest is shared with what is stored
        self.document: dict[str, Any] = {**stored}
        if "items" in stored:
            self.document["items"] = [
                {**item, "placement": {**item["placement"]}} for item in stored["items"]
            ]
        if "rules" in stored:
            self.document["rules"] = {**stored["rules"]}
        self.base = haul.revision
        self.selected: int | None = 0 if stored.get("items") else None
        self.open = ""
        self._plan: Plan | None = None
        if sent is not None:
            self._overlay(sent)

    def _overlay(self, sent: Mapping[str, Any]) -> None:
        self.base = _whole(sent.get("base"), self.haul.revision)
        self.open = str(sent.get("open", ""))[:200]
        by_id = {item["id"]: item for item in self.document.get("items", [])}
        for n in range(_whole(sent.get("count"), 0)):
            item = by_id.get(str(sent.get(f"id-{n}", "")))
            if item is None:
                continue
            placement = item["placement"]
            for name in ("reference", "left"):
                text = sent.get(f"{name}-{n}")
                if text is not None and (
                    name != "left" or float(_finite(text)) or "left" in placement
                ):
                    number = _finite(text)
                    placement[name] = int(number) if number == int(number) else number
            facing = sent.get(f"facing-{n}")
            if facing in ("forward", "backward") and (facing != "forward" or "facing" in placement):
                placement["facing"] = facing
        if self.selected is not None:
            count = len(self.document["items"])
            self.selected = min(max(_whole(sent.get("selected"), 0), 0), count - 1)
        school = str(sent.get("tongue", ""))
        if school:
            self.set_school(school, str(sent.get("share_min", "")), str(sent.get("share_max", "")))

    def plan(self) -> Plan:
        """The plan as held.

        Raises:
            PlanFileError: what the page sent does not make a valid plan.
        """
        if self._plan is None:
            self._plan = read_document(self.document)
        return self._plan

    def put(self, index: int, reference_m: float, *, turn: bool = False) -> None:
        """Stand an item elsewhere, within reach of the deck; turned round where asked."""
        plan = self.plan()
        if turn:
            plan = placed(plan, index, turn=True)
            placement = self.document["items"][index]["placement"]
            placement["facing"] = plan.items[index].placement.facing.value
        low, high = reach(plan, index)
        set_reference(self.document, index, min(max(reference_m, low), high))
        per = LengthUnit(self.document["units"]["length"]).m
        kept = self.document["items"][index]["placement"]["reference"] * per
        self._plan = placed(plan, index, reference_m=kept)

    def put_sideways(self, index: int, left_m: float) -> None:
        """Stand an item to the driver's left of the middle, within reach of the deck."""
        plan = self.plan()
        most = sideways_reach(plan)
        per = LengthUnit(self.document["units"]["length"]).m
        left = round(min(max(left_m, -most), most) / per, 6)
        placement = self.document["items"][index]["placement"]
        if left or "left" in placement:
            placement["left"] = left
        place = plan.items[index].placement
        self._plan = plan.with_placement(
            plan.items[index].id,
            Placement(reference_m=place.reference_m, facing=place.facing, left_m=left * per),
        )

    def set_school(self, school: str, least: str, greatest: str) -> None:
        """Hold another school of tongue share.

        Raises:
            ActionError: an unknown school, or fractions that are none.
        """
        if school not in {s.value for s in TongueSchool}:
            raise ActionError("That school of tongue share is not known.")
        self._plan = None
        rules = self.document.setdefault("rules", {})
        if school == TongueSchool.CUSTOM.value:
            low, high = _percent(least), _percent(greatest)
            if low > high:
                raise ActionError("The least share is above the greatest. Change one of them.")
            rules |= {"tongue": school, "share_min": low, "share_max": high}
        else:
            rules["tongue"] = school
            rules.pop("share_min", None)
            rules.pop("share_max", None)


def act(state: State, action: str, sent: Mapping[str, Any], unit: UnitSystem) -> None:
    """Do one action of the planner to the state.

    Raises:
        ActionError: it cannot be done as asked; the state is as it was.
        PlanFileError: what the page sent does not make a valid plan.
    """
    if action in ("", "show", "overwrite"):
        return
    if action == "open":
        code = str(sent.get("code", ""))
        state.open = "" if state.open == code else code
        return
    if action == "school":
        state.set_school(
            str(sent.get("new_tongue", "")),
            str(sent.get("new_share_min", "")),
            str(sent.get("new_share_max", "")),
        )
        return
    if state.selected is None:
        raise ActionError("There is nothing on the deck to move. Add a machine first.")
    index = state.selected
    plan = state.plan()
    item = plan.items[index]
    here = item.placement.reference_m
    if action == "drag":
        to = _finite(sent.get("to")) * LengthUnit(state.document["units"]["length"]).m
        step = 0.0127 if unit is UnitSystem.US else 0.01
        state.put(index, round(to / step) * step)
    elif action == "nudge":
        by = _finite(sent.get("by"))
        small, large = NUDGE_IN[unit]
        if abs(by) not in (1.0, 2.0):
            raise ActionError("A nudge is one small or one large step.")
        size = (small if abs(by) == 1.0 else large) * (0.0254 if unit is UnitSystem.US else 0.001)
        state.put(index, here + (size if by > 0 else -size))
    elif action == "read":
        typed = str(sent.get("reading", ""))
        try:
            reading = read_length(typed, unit.length_unit)
        except ReadingError as error:
            raise ActionError(str(error), typed) from None
        metres = float(reading.si)
        low, high = reach(plan, index)
        if not low <= metres <= high:
            raise ActionError(
                f"{write_length(metres, unit)} is off this deck, which is "
                f"{write_length(plan.trailer.deck.length_m, unit)} long. Nothing was moved.",
                typed,
            )
        state.put(index, metres)
    elif action == "drag_side":
        to = _finite(sent.get("to")) * LengthUnit(state.document["units"]["length"]).m
        step = 0.0127 if unit is UnitSystem.US else 0.01
        state.put_sideways(index, round(to / step) * step)
    elif action == "side":
        by = _finite(sent.get("by"))
        small = NUDGE_IN[unit][0] * (0.0254 if unit is UnitSystem.US else 0.001)
        if abs(by) != 1.0:
            raise ActionError("A step sideways is one to the left or one to the right.")
        state.put_sideways(index, item.placement.left_m + (small if by > 0 else -small))
    elif action == "middle":
        state.put_sideways(index, 0.0)
    elif action == "turn":
        state.put(
            index, placed(plan, index, turn=True).items[index].placement.reference_m, turn=True
        )
    elif action == "aim":
        aim = evaluate(plan).windows[index].aim_m
        if aim is None:
            raise ActionError("There is no place on this deck where every limit holds.")
        state.put(index, aim)
    else:
        raise ActionError("The planner does not know that action.")


def reach(plan: Plan, index: int) -> tuple[float, float]:
    """How far the mark may be moved: the item stays within reach of the deck."""
    item, deck = plan.items[index], plan.trailer.deck
    return (
        min(item.reach_forward_m - deck.front_overhang_m - 1.0, 0.0),
        max(deck.length_m + deck.rear_overhang_m + 1.0 - item.reach_rearward_m, deck.length_m),
    )


def sideways_reach(plan: Plan) -> float:
    """How far to either side of the middle a balance point's line may be moved."""
    deck = plan.trailer.deck
    return (deck.width_m or plan.trailer.track_width_m) / 2


def sideways_words(left_m: float, unit: UnitSystem) -> str:
    """Where an item stands across the deck, as the driver sees it."""
    if abs(left_m) < 0.001:
        return "on the middle"
    side = "left" if left_m > 0 else "right"
    return f"{write_inches(abs(left_m), unit)} {side} of the middle"


def _finite(text: Any) -> float:
    try:
        number = float(str(text))
    except ValueError:
        raise ActionError("The page sent a place that is not a number. Reload it.") from None
    if not abs(number) < 1e9:
        raise ActionError("The page sent a place that is not a number. Reload it.")
    return number


def _whole(text: Any, fallback: int) -> int:
    try:
        return int(str(text))
    except ValueError:
        return fallback


def _percent(text: str) -> float:
    cleaned = text.replace("%", "").replace(",", ".").strip()
    try:
        number = float(cleaned)
    except ValueError:
        raise ActionError(f"“{text[:20]}” is not a percentage. Write it like 12.", text) from None
    if not 0 <= number <= 100:
        raise ActionError("A share lies between 0 and 100 %.", text)
    return round(number / 100, 10)


def present(
    state: State,
    unit: UnitSystem,
    *,
    error: ActionError | None = None,
    conflict: Haul | None = None,
    saved: bool = True,
    books_news: list[News] | None = None,
    may_save: bool = True,
) -> dict[str, Any]:
    """Everything the planner's partial shows."""
    plan = state.plan()
    report = evaluate(plan)
    items = state.document.get("items", [])
    names = {i.id: i.name or i.id for i in plan.items}
    drawn = [_drawn(item) for item in items]
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
    )
    said: Sentence = sentence(report, index, marks, names, unit)
    ways = [] if index is None or report.windows[index].intervals else ways_out(plan, index, unit)
    weigh = ""
    if index is not None and report.windows[index].intervals:
        weigh = worth_weighing(plan, index, unit)
    rows = _rows(report, state.open, names, unit)
    opened = next((c for c in report.checks if c.code == state.open), None)
    arithmetic: Why | None = None
    if opened is not None:
        cargo = [{"name": c.name, "kg": c.mass_kg} for c in plan.truck.cargo]
        arithmetic = why(opened, report, unit, cargo)
    current = None
    if index is not None:
        item = plan.items[index]
        current = {
            "name": names[item.id],
            "mark": marks[item.id],
            "reading": write_length(item.placement.reference_m, unit),
            "typed": error.typed if error and error.typed else "",
            "facing": item.placement.facing.value,
            "sideways": sideways_words(item.placement.left_m, unit),
            "off_middle": abs(item.placement.left_m) >= 0.001,
            "has_aim": report.windows[index].aim_m is not None,
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
        "rules": {"tongue": "default", **state.document.get("rules", {})},
        "schools": [(s.value, school_label(s, report)) for s in TongueSchool],
        "verdict": report.verdict.value,
        "verdict_word": STATUS_WORDS[report.verdict],
        "said": said,
        "ways": ways,
        "weigh": weigh,
        "drawing": drawing,
        "width": WIDTH,
        "per_unit": drawing.scale / per_m,
        "per_unit_above": drawing.above_scale / per_m,
        "rows": rows[:ROWS_SHOWN],
        "more_rows": rows[ROWS_SHOWN:],
        "more_open": any(r.open for r in rows[ROWS_SHOWN:]),
        "why": arithmetic,
        "share": share_scale(report)
        | {
            "status": _share_status(report).value,
            "word": STATUS_WORDS[_share_status(report)],
            "text": f"{write_mass(trailer.tongue_kg, unit)} of {write_mass(trailer.mass_kg, unit)}",
            "title": f"{tongue_word(hitch).capitalize()} share",
            "added": None
            if trailer.added_share is None
            else f"added by the load {write_percent(trailer.added_share)}",
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
    }


def headline(haul: Haul, unit: UnitSystem) -> tuple[Drawing, str]:
    """A haul's picture and, in one line, what is wrong or what is tightest.

    Drawn once for each document; a list shows the same ones again and again.

    Raises:
        PlanFileError: the plan cannot be read.
    """
    return _headline(json.dumps(haul.document, sort_keys=True), unit)


@lru_cache(maxsize=512)
def _headline(document: str, unit: UnitSystem) -> tuple[Drawing, str]:
    state = State(Haul(document=json.loads(document)))
    plan = state.plan()
    report = evaluate(plan)
    drawn = [_drawn(item) for item in state.document.get("items", [])]
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
    )
    return picture, summary(report, names, unit)


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
        key=lambda c: -1.0 if c.reserve is None else c.reserve,
    )
    over = [c for c in known if c.status is Status.OVER]
    unknown = [c for c in report.checks if c.status is Status.UNKNOWN]
    rest = [c for c in known if c.status is not Status.OVER]
    return [_row(c, opened, names, unit) for c in (*over, *faults, *unknown, *rest)]


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
    else:
        limit, gap = check.limit or 0.0, check.margin or 0.0
        margin = write_number(abs(gap) / unit.kg)
        words = "left of" if gap >= 0 else "over"
        tail = f"{unit.mass_unit} {words} {write_number(limit / unit.kg)}"
        fill = check.value / limit if limit else 1.2
    past = min(max(fill - 1.0, 0.0), (1 - BAR_LIMIT) / BAR_LIMIT)
    return Row(
        code=check.code,
        name=name,
        status=check.status.value,
        word=STATUS_WORDS[check.status],
        margin=margin,
        tail=tail,
        fill=round(min(max(fill, 0.0), 1.0) * BAR_LIMIT * 100, 2),
        past=round(past * BAR_LIMIT * 100, 2),
        open=check.code == opened,
    )


def _share_status(report: Report) -> Status:
    return max(
        (c.status for c in report.checks if c.quantity is Quantity.SHARE),
        key=lambda s: s.severity,
    )


def _drawn(item: dict[str, Any]) -> dict[str, Any]:
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
    return f"{write_length(item.placement.reference_m, unit)}, {item.placement.facing.value}"
