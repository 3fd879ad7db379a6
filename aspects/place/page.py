"""The planner's one partial: what it shows, from a draft and what the person holds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from django.urls import reverse

from aspects.place.estimated import Estimated, estimated
from aspects.place.moves import NUDGE_IN
from aspects.place.rows import SHOWN, Row, rows_of
from aspects.place.state import State
from aspects.registry import Ground, Panel, figures, panels
from aspects.rooms import ActionError
from hauls.models import Haul
from hauls.steps import Around
from measures import UnitSystem
from measures.marks import STEPS
from measures.writing import write_mass, write_percent, write_share_against
from mechanics.attitude import attitude
from mechanics.frame import part_ahead_of_middle
from mechanics.item import TOUCH_M
from mechanics.limits import Quantity
from mechanics.plan import Plan
from mechanics.report import Report, evaluate
from mechanics.rules import TongueSchool
from mechanics.standing import Standing, best_standing
from pictures.drawing import Drawing, draw
from pictures.outfit import WIDTH
from pictures.share import ShareScale, share_scale
from planfile.draft import Draft, Held
from planfile.errors import PlanFileError
from wording.arithmetic import Reason
from wording.figures import reason
from wording.limits import Telling, end_words
from wording.phrases import begun, names_of, tongue_word
from wording.places import SIDEWAYS_M, place_words, sideways_words, stands_words
from wording.practice import Suggested, practice, suggested_school
from wording.schools import GVWR_LABELS, GVWR_REASONS, school_label
from wording.sentences import Sentence, sentence
from wording.statuses import status_word, verdict_of
from wording.ways_out import says_most, ways_out, what_settles, worth_weighing

FIGURE: Final = "figure."
"""What the codes of figures begin with, which are opened at the top of the side."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Current:
    """The item in hand."""

    number: int
    name: str
    mark: str
    reading: str
    typed: str
    facing: str
    sideways: str
    landed: str
    off_middle: bool
    has_aim: bool
    aim_words: str
    past_tail: str
    tape_now: str
    tape_most: str
    """Where the mark is on the tape, and the tape's end, as bare numbers of its unit."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Share:
    """The tongue's share: the gauge, the figure, its word, and other ways to look at it."""

    title: str
    share: str
    status: str
    word: str
    least: str
    greatest: str
    text: str
    beside: list[str]
    scale: ShareScale


@dataclass(frozen=True, kw_only=True, slots=True)
class Schools:
    """What the plan is judged by, and what could be chosen; own shares in percent."""

    tongue: str
    own: bool
    own_least: str
    own_greatest: str
    gvwr: str
    gvwr_label: str
    gvwr_reason: str
    tongue_choices: tuple[tuple[str, str], ...]
    gvwr_choices: tuple[tuple[str, str], ...]
    suggested: Suggested | None
    practice: tuple[str, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Conflict:
    """Somebody saved in between: who, when, which revision, and where things stand apart."""

    haul: Haul
    who: str
    places: list[tuple[str, str, str]]


@dataclass(frozen=True, kw_only=True)
class Planner:
    """Everything the planner's partial shows."""

    haul: Haul
    change_address: str
    preview_address: str
    strip_address: str
    base: int
    count: int
    held: tuple[tuple[int, Held], ...]
    several: bool
    selected: int | None
    open: str
    open_figure: bool
    schools: Schools
    trailer_page: str
    verdict: str
    verdict_word: str
    likely: bool
    estimates: Estimated | None
    said: Sentence
    ways: list[str]
    weigh: str
    drawing: Drawing
    width: int
    tilt: int
    undo: str
    redo: str
    per_unit: float
    per_unit_above: float
    rows: list[Row]
    more_rows: list[Row]
    more_open: bool
    more_left_out: bool
    why: Reason | None
    share: Share
    current: Current | None
    steps: tuple[str, str]
    sideways: tuple[str, bool]
    error: str
    conflict: Conflict | None
    saved: bool
    may_save: bool
    unit: UnitSystem
    places: list[str]
    panels: list[Panel]
    choices: Sequence[tuple[str, list[tuple[str, str]]]] = ()
    """What the book has to put on, by group; answers to actions leave the page's own."""


def present(
    state: State,
    unit: UnitSystem,
    *,
    error: ActionError | None = None,
    conflict: Haul | None = None,
    saved: bool = True,
    may_save: bool = True,
    around: Around | None = None,
    folded: bool = False,
) -> Planner:
    """What the partial shows of a state; ``folded`` where the page has the further limits folded
    away and need not be told of them."""
    draft, plan, index = state.draft, state.plan, state.selected
    report = evaluate(plan)
    verdict = verdict_of(report)
    riding = attitude(plan)
    names, marks, look = names_of(plan), draft.marks, draft.look
    drawing = draw(
        report,
        drawn=draft.drawn,
        selected=index,
        end_texts=_ends(report, index, unit),
        unit=unit,
        look=look,
        riding=riding,
        times=state.times,
    )
    placed = index is not None and bool(report.windows[index].intervals)
    settles = "" if index is None else settling(report, index)
    rows = rows_of(report, state.open, names, unit)
    more_open = any(row.open for row in rows[SHOWN:])
    current = None if index is None else _current(state, report, index, unit, error)
    small, large = NUDGE_IN[unit]
    step_unit = "in" if unit is UnitSystem.US else "mm"
    ground = Ground(
        haul=state.haul, draft=draft, report=report, riding=riding, unit=unit, times=state.times
    )
    per_m = draft.units.length.m
    trailer = state.haul.trailer_id
    return Planner(
        haul=state.haul,
        change_address=_address("change_haul", state.haul.pk),
        preview_address=_address("preview_haul", state.haul.pk),
        strip_address=_address("strip_haul", state.haul.pk),
        base=state.base,
        count=len(plan.items),
        held=tuple(enumerate(draft.held)),
        several=len(plan.items) > 1,
        selected=index,
        open=state.open,
        open_figure=state.open.startswith(FIGURE),
        schools=_schools(report, draft, unit),
        trailer_page=_trailer_page(trailer) if trailer and may_save else "",
        verdict=verdict.status.value,
        verdict_word=verdict.word,
        likely=verdict.likely,
        estimates=estimated(state.haul, plan, unit),
        said=sentence(report, index, marks, names, unit, look.tail, settles),
        ways=[] if placed or index is None else ways_out(plan, index, unit),
        weigh=_worth(plan, index, unit, placed=placed),
        drawing=drawing,
        width=WIDTH,
        tilt=state.times,
        undo=state.undo if around is None else around.undo,
        redo="" if around is None else around.redo,
        per_unit=drawing.scale * per_m,
        per_unit_above=drawing.above_scale * per_m,
        rows=rows[:SHOWN],
        more_rows=rows[SHOWN:],
        more_open=more_open,
        more_left_out=folded and not more_open,
        why=reason(state.open, report, unit, figures()) if state.open else None,
        share=share_of(report, unit),
        current=current,
        steps=(f"{large} {step_unit}", f"{small} {step_unit}"),
        sideways=(f"{small} {step_unit}", current is not None and current.off_middle),
        error=str(error) if error else "",
        conflict=None if conflict is None else _conflict(state, conflict, unit),
        saved=saved,
        may_save=may_save,
        unit=unit,
        places=[
            f"{names[i.id]}: {marks[i.id]} at {stands_words(i, unit)}, "
            f"{sideways_words(i.placement.left_m, unit)}"
            for i in plan.items
        ],
        panels=panels(ground),
    )


def settling(report: Report, index: int) -> str:
    """What has to be weighed before a place of the item is sure; a plan that rests on estimates
    says between which marks the best place lies instead."""
    plan = report.plan
    if plan.estimated or not report.windows[index].intervals:
        return ""
    return what_settles(plan, index)


def _worth(plan: Plan, index: int | None, unit: UnitSystem, *, placed: bool) -> str:
    """What is worth weighing for the item in hand: what says most where figures are estimated,
    else what widens the sure window."""
    if index is None:
        return ""
    if plan.estimated:
        return says_most(plan, index, unit)
    return worth_weighing(plan, index, unit) if placed else ""


@lru_cache(maxsize=256)
def _address(name: str, pk: int) -> str:
    """An address of a haul; asked for at every step of a drag."""
    return reverse(name, args=[pk])


@lru_cache(maxsize=256)
def _trailer_page(pk: int) -> str:
    """Where the book lets a load reach past the trailer's tail."""
    return reverse("edit_thing", args=["trailers", pk]) + "#id_rear_overhang"


def _ends(report: Report, index: int | None, unit: UnitSystem) -> list[tuple[str, str]]:
    """What makes the two ends of each piece of the window of the item in hand."""
    if index is None:
        return []
    telling = Telling.of(report.plan, unit, names_of(report.plan))
    return [
        (end_words(piece.start_limit, telling), end_words(piece.end_limit, telling))
        for piece in report.windows[index].intervals
    ]


def _current(
    state: State, report: Report, index: int, unit: UnitSystem, error: ActionError | None
) -> Current:
    item = report.plan.items[index]
    best: Standing | None = best_standing(report.plan, index, STEPS[unit])
    left = item.placement.left_m
    return Current(
        number=index + 1,
        name=item.called,
        mark=state.draft.marks[item.id],
        reading=place_words(report, index, unit),
        typed=error.typed if error else "",
        facing=item.placement.facing.value,
        sideways=sideways_words(left, unit),
        landed=state.landed,
        off_middle=abs(left) >= SIDEWAYS_M,
        has_aim=best is not None,
        aim_words="Best place" if best is None or best.right else "Best there is",
        past_tail=_past_tail(report, index, state.draft.look.tail),
        tape_now=f"{item.placement.reference_m / unit.m:.4g}",
        tape_most=f"{report.plan.trailer.deck.length_m / unit.m:.4g}",
    )


def _past_tail(report: Report, index: int, tail: str) -> str:
    """What the trailer's page may be made to allow, as a link's words, where the item reaches past
    an open tail further than it does; empty where it does not."""
    item, deck = report.plan.items[index], report.plan.trailer.deck
    over = item.rearmost_m > deck.length_m + deck.rear_overhang_m + TOUCH_M
    if not over or tail == "gate":
        return ""
    return f"let a load reach {'further ' if deck.rear_overhang_m else ''}past it"


def share_of(report: Report, unit: UnitSystem) -> Share:
    """The share, as it is read: never as its limit where it breaks it. Without a load it is not
    judged."""
    trailer = report.loads.trailer
    least, greatest = report.plan.share_range
    checks = [c for c in report.checks if c.quantity is Quantity.SHARE]
    status, word, shown = "", "", write_percent(trailer.share)
    if checks:
        worst = max(checks, key=lambda c: c.status.severity)
        status = worst.status.value
        open_ends = any(c.code in report.unsettled for c in checks)
        word = "lifts" if trailer.share < 0 else status_word(worst, likely=open_ends)
        shown = write_share_against(trailer.share, worst.limit or 0.0)
    return Share(
        title=f"{begun(tongue_word(report.plan.hitch.type))} share",
        share=shown,
        status=status,
        word=word,
        least=f"{least * 100:g}",
        greatest=f"{greatest * 100:g}",
        text=f"{write_mass(trailer.tongue_kg, unit)} of {write_mass(trailer.mass_kg, unit)}",
        beside=_beside_share(report),
        scale=share_scale(report),
    )


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


def _schools(report: Report, draft: Draft, unit: UnitSystem) -> Schools:
    rules, (least, greatest) = report.plan.rules, report.plan.share_range
    return Schools(
        tongue=rules.tongue.value,
        own=rules.tongue is TongueSchool.CUSTOM,
        own_least=f"{least * 100:.10g}",
        own_greatest=f"{greatest * 100:.10g}",
        gvwr=rules.trailer_gvwr.value,
        gvwr_label=GVWR_LABELS[rules.trailer_gvwr],
        gvwr_reason=GVWR_REASONS[rules.trailer_gvwr],
        tongue_choices=tuple((s.value, school_label(s, report)) for s in TongueSchool),
        gvwr_choices=tuple((s.value, words) for s, words in GVWR_LABELS.items()),
        suggested=suggested_school(report, unit),
        practice=tuple(practice(report, unit, unbraked=draft.unbraked)),
    )


def _conflict(state: State, theirs: Haul, unit: UnitSystem) -> Conflict:
    by = theirs.changed_by
    return Conflict(
        haul=theirs,
        who=by.shown_name if by is not None else "Somebody",
        places=_differences(state, theirs, unit),
    )


def _differences(state: State, theirs: Haul, unit: UnitSystem) -> list[tuple[str, str, str]]:
    """Item by item: name, mine, theirs, where they differ."""
    try:
        other = theirs.draft.plan
    except PlanFileError:
        return []
    found = []
    placed_there = {item.id: item for item in other.items}
    for item in state.plan.items:
        there = placed_there.get(item.id)
        mine_at = stands_words(item, unit)
        their_at = "taken off" if there is None else stands_words(there, unit)
        if mine_at != their_at:
            found.append((item.called, mine_at, their_at))
    return found
