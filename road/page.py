"""The driver's day: his hauls in their order, and what comes next of each."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Final

from django.urls import reverse
from django.utils import timezone
from django.utils.formats import date_format

from hauls.models import Haul
from hauls.road_rules import RoadRules
from measures import UnitSystem
from measures.writing import write_given
from pictures.drawing import Drawing
from pictures.outfit import WIDTH
from planfile.draft import glance
from planfile.errors import PlanFileError
from planning.cards import headline_of, unreadable
from road.defects import defects_of, held_up_words
from road.models import ORDER, LookedAgain, Step, StepDone
from road.services import GATES, last_step, next_step
from road.stopped_page import StoppedAt, stopped_at
from road.stops import NextStop, next_stop
from web.notices import Notice
from wording.phrases import NOBODY, begun
from wording.statuses import Verdict, before_hauling

BUTTONS: Final = {
    Step.HOOK_UP: "It is hooked up",
    Step.LOAD: "It is loaded",
    Step.TIE_DOWN: "It is tied down",
    Step.WALK_ROUND: "Walked round",
    Step.GO: "Setting off",
    Step.FIRST_STOP: "Stopped and looked",
    Step.UNLOAD: "It is unloaded",
    Step.COME_BACK: "Back in the yard",
}
"""What is said by the button that notes a step."""

COMES: Final = {
    Step.HOOK_UP: "hook up",
    Step.LOAD: "load",
    Step.TIE_DOWN: "tie down",
    Step.WALK_ROUND: "walk round",
    Step.GO: "go",
    Step.FIRST_STOP: "first stop",
    Step.UNLOAD: "unload",
    Step.COME_BACK: "come back",
}
"""What comes next, in a word."""

HELPS: Final = {
    Step.HOOK_UP: ("What to look at", "road_haul", "#list-hook_up"),
    Step.LOAD: ("What happens on the ramp", "haul_on_off", ""),
    Step.TIE_DOWN: ("The ties, one by one", "road_haul", "#list-tie_down"),
    Step.WALK_ROUND: ("What to look at", "road_haul", "#list-walk_round"),
    Step.GO: ("The load card", "haul_card", ""),
    Step.FIRST_STOP: ("What to look at", "road_haul", "#list-first_stop"),
    Step.UNLOAD: ("What happens on the ramp", "haul_on_off", "?at=unloading"),
    Step.COME_BACK: ("The load card", "haul_card", ""),
}
"""The page that helps with a step: its title, its address, and where on it."""

READY_STEPS: Final = (Step.LOAD, Step.TIE_DOWN, Step.WALK_ROUND)
"""Steps that have to be looked at again once the plan is another."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Mark:
    """One step of the line of steps: done, the next one, or to come."""

    step: str
    words: str
    state: str


@dataclass(frozen=True, kw_only=True, slots=True)
class StepButton:
    """The button that notes a step; only that of the next one is shown, the others are there for a
    phone without signal to go on with. ``comes`` is the step in a word."""

    step: str
    words: str
    comes: str
    next: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class DoneLine:
    """A step that was done: what, by whom, when."""

    words: str
    by: str
    at: datetime


@dataclass(frozen=True, kw_only=True)
class OnTheWay:
    """One haul as its driver sees it.

    ``step`` comes next, empty once all is done; its button stands first of ``buttons``. ``held_up``
    says which defect does not let it go; ``first_minutes`` is not 0 before it has set off. ``last``
    can be taken back. ``do_not`` is said where it is over, ``changed`` where the plan is another
    than when it was loaded. ``picture`` is ``None`` where the plan cannot be read.
    """

    pk: int
    name: str
    outfit: str
    loads: str
    when: str
    driver: str
    verdict: Verdict | None
    line: str
    picture: Drawing | None
    marks: tuple[Mark, ...]
    so_far: str
    next: str
    step: str
    buttons: tuple[StepButton, ...]
    help: tuple[str, str]
    held_up: str
    stop: NextStop | None
    first_minutes: int
    first_way: str
    stops_made: tuple[DoneLine, ...]
    done: tuple[DoneLine, ...]
    last: str
    last_words: str
    changed: bool
    do_not: str
    stopped: StoppedAt | None
    width: int = WIDTH


@dataclass(frozen=True, kw_only=True)
class Row:
    """A haul in the list of a day."""

    pk: int
    name: str
    outfit: str
    driver: str
    state: str
    next: str


@dataclass(frozen=True, kw_only=True)
class DayList:
    """The hauls of one day."""

    title: str
    rows: list[Row]


@dataclass(frozen=True, kw_only=True)
class DayPage:
    """The driver's day: the haul that comes first, whole, and the others by day.

    ``everybody`` says whether those of others are listed too; ``other`` is the page's other way.
    """

    first: OnTheWay | None
    days: list[DayList]
    everybody: bool
    counted: str
    notices: list[Notice]


def on_the_way(haul: Haul, unit: UnitSystem, today: date) -> OnTheWay:
    """A haul as its driver sees it."""
    noted = list(StepDone.objects.filter(haul=haul).select_related("by"))
    again = list(LookedAgain.objects.filter(haul=haul).select_related("by"))
    done, rules = {Step(one.step) for one in noted}, RoadRules.of(haul.yard)
    coming, last = next_step(done), last_step(done)
    names = glance(haul.document)
    headline, line = None, ""
    try:
        headline = headline_of(haul, unit)
        line = headline.line
    except PlanFileError as error:
        line = unreadable(error)
    verdict = None if headline is None else headline.verdict
    return OnTheWay(
        pk=haul.pk,
        name=haul.name,
        outfit=f"{names.truck}, {names.trailer}",
        loads=", ".join(names.items) or "empty",
        when=_when(haul.day, today),
        driver=haul.driver.shown_name if haul.driver else "",
        verdict=verdict,
        line=line,
        picture=None if headline is None else headline.picture,
        marks=tuple(
            Mark(
                step=step.value,
                words=step.label,
                state="done" if step in done else "next" if step is coming else "later",
            )
            for step in ORDER
        ),
        so_far=", ".join(step.label for step in ORDER if step in done) or "nothing done yet",
        next="all done" if coming is None else f"next: {COMES[coming]}",
        step="" if coming is None else coming.value,
        buttons=tuple(
            StepButton(step=step.value, words=BUTTONS[step], comes=COMES[step], next=step is coming)
            for step in ORDER
            if step not in done
        ),
        held_up=held_up_words(one for one in defects_of(haul) if one.holds_up)
        if coming in GATES
        else "",
        first_minutes=0 if Step.GO in done else rules.first_minutes,
        first_way=write_given(rules.first_way, unit),
        stop=next_stop(
            rules,
            unit,
            set_off=next((one.at for one in noted if one.step == Step.GO), None),
            stops=[
                *(one.at for one in noted if one.step == Step.FIRST_STOP),
                *(one.at for one in again),
            ],
            unloaded=Step.UNLOAD in done,
        ),
        stops_made=tuple(
            DoneLine(
                words="Stopped and looked again",
                by=one.by.shown_name if one.by else NOBODY,
                at=one.at,
            )
            for one in again
        ),
        help=_help(coming or Step.COME_BACK, haul),
        done=tuple(_done_line(one) for one in noted),
        last="" if last is None else last.value,
        last_words="" if last is None else last.label,
        stopped=stopped_at(haul, unit),
        do_not="" if verdict is None else before_hauling(verdict),
        changed=any(
            Step(one.step) in READY_STEPS and one.revision != haul.revision for one in noted
        ),
    )


def _done_line(one: StepDone) -> DoneLine:
    return DoneLine(
        words=begun(Step(one.step).label), by=one.by.shown_name if one.by else NOBODY, at=one.at
    )


def done_line(one: StepDone) -> str:
    """A step that was done, in words: what, by whom, when."""
    line = _done_line(one)
    return f"{line.words}: {line.by}, {timezone.localtime(line.at):%d %b %H:%M}"


def so_far(haul: Haul) -> str:
    """What was done of a haul, in words."""
    noted = StepDone.objects.filter(haul=haul).select_related("by")
    return "; ".join(done_line(one) for one in noted) or "Nothing is noted of it."


def _help(step: Step, haul: Haul) -> tuple[str, str]:
    title, address, where = HELPS[step]
    return title, f"{reverse(address, args=[haul.pk])}{where}"


def day_page(
    mine: Sequence[Haul],
    listed: Sequence[Haul],
    unit: UnitSystem,
    *,
    everybody: bool,
    notices: list[Notice],
) -> DayPage:
    """The page of somebody's hauls in the order in which they come; ``listed`` are those that are
    listed by day."""
    today = timezone.localdate()
    first = next((haul for haul in mine if haul.day is None or haul.day <= today), None)
    first = first or next(iter(mine), None)
    of_today = sum(haul.day == today for haul in mine)
    return DayPage(
        first=None if first is None else on_the_way(first, unit, today),
        days=_days([haul for haul in listed if haul != first], today),
        everybody=everybody,
        notices=notices,
        counted=f"{of_today or 'No'} haul{'' if of_today == 1 else 's'} of yours today.",
    )


def _days(hauls: Iterable[Haul], today: date) -> list[DayList]:
    """Hauls by day: what is overdue, then day by day, then what has no day."""
    found: dict[str, list[Row]] = {}
    for haul in hauls:
        found.setdefault(_when(haul.day, today), []).append(_row(haul))
    return [DayList(title=title, rows=rows) for title, rows in found.items()]


def _row(haul: Haul) -> Row:
    done = {Step(one.step) for one in haul.steps_done.all()}
    names, coming = glance(haul.document), next_step(done)
    return Row(
        pk=haul.pk,
        name=haul.name,
        outfit=f"{names.truck}, {names.trailer}",
        driver=haul.driver.shown_name if haul.driver else "no driver yet",
        state=Haul.State(haul.state).label,
        next="all done" if coming is None else f"next: {COMES[coming]}",
    )


def _when(day: date | None, today: date) -> str:
    if day is None:
        return "No day yet"
    if day < today:
        return f"Still open from {date_format(day, 'l j F')}"
    near = {today: "Today", today + timedelta(days=1): "Tomorrow"}
    return near.get(day, date_format(day, "l j F"))
