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
from measures import UnitSystem
from measures.marks import write_place
from measures.writing import write_given, write_inches, write_mass
from pictures.drawing import Drawing
from pictures.outfit import WIDTH
from planfile.draft import glance
from planfile.errors import PlanFileError
from planning.cards import headline_of, unreadable
from road.models import ORDER, Step, StepDone, Stopped
from road.services import last_step, next_step
from wording.phrases import begun, signed_mass
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
    Step.HOOK_UP: ("What to look at", "haul_card", "#lc-columns"),
    Step.LOAD: ("What happens on the ramp", "haul_on_off", ""),
    Step.TIE_DOWN: ("The ties, one by one", "haul_tied_list", ""),
    Step.WALK_ROUND: ("What to look at", "haul_card", "#lc-columns"),
    Step.GO: ("The load card", "haul_card", ""),
    Step.FIRST_STOP: ("The ties, one by one", "haul_tied_list", ""),
    Step.UNLOAD: ("What happens on the ramp", "haul_on_off", "?at=unloading"),
    Step.COME_BACK: ("The load card", "haul_card", ""),
}
"""The page that helps with a step: its title, its address, and where on it."""

AS_PLANNED_M: Final = 0.006
"""A mark nearer to its place than a quarter of an inch is at it."""

READY_STEPS: Final = (Step.LOAD, Step.TIE_DOWN, Step.WALK_ROUND)
"""Steps that have to be looked at again once the plan is another."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Mark:
    """One step of the line of steps: done, the next one, or to come."""

    words: str
    state: str


@dataclass(frozen=True, kw_only=True, slots=True)
class DoneLine:
    """A step that was done: what, by whom, when."""

    words: str
    by: str
    at: datetime


@dataclass(frozen=True, kw_only=True, slots=True)
class Beside:
    """What was planned, and beside it what was really so; ``apart`` in words."""

    planned: str
    figure: str
    apart: str


@dataclass(frozen=True, kw_only=True, slots=True)
class StoppedAt:
    """Where it really stopped: each mark, the gauge, the wheel arches, who read it and when."""

    beside: tuple[Beside, ...]
    note: str
    by: str
    at: datetime


@dataclass(frozen=True, kw_only=True)
class OnTheWay:
    """One haul as its driver sees it.

    ``button`` notes the ``step`` that comes next; both are empty once all is done. ``last`` can be
    taken back. ``do_not`` is said where it is over, ``changed`` where the plan is another than
    when it was loaded. ``picture`` is ``None`` where the plan cannot be read.
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
    button: str
    help: tuple[str, str]
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


@dataclass(frozen=True, kw_only=True)
class HaulPage:
    """One haul on its way; ``wrong`` says what could not be noted."""

    it: OnTheWay
    wrong: str


def on_the_way(haul: Haul, unit: UnitSystem, today: date) -> OnTheWay:
    """A haul as its driver sees it."""
    noted = list(StepDone.objects.filter(haul=haul).select_related("by"))
    done = {Step(one.step) for one in noted}
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
                words=step.label,
                state="done" if step in done else "next" if step is coming else "later",
            )
            for step in ORDER
        ),
        so_far=", ".join(step.label for step in ORDER if step in done) or "nothing done yet",
        next="all done" if coming is None else f"next: {COMES[coming]}",
        step="" if coming is None else coming.value,
        button="" if coming is None else BUTTONS[coming],
        help=_help(coming or Step.COME_BACK, haul),
        done=tuple(
            DoneLine(
                words=begun(Step(one.step).label),
                by=one.by.shown_name if one.by else "somebody no longer here",
                at=one.at,
            )
            for one in noted
        ),
        last="" if last is None else last.value,
        last_words="" if last is None else last.label,
        stopped=stopped_at(haul, unit),
        do_not="" if verdict is None else before_hauling(verdict),
        changed=any(
            Step(one.step) in READY_STEPS and one.revision != haul.revision for one in noted
        ),
    )


def stopped_at(haul: Haul, unit: UnitSystem) -> StoppedAt | None:
    """Where a haul really stopped, as it was read last; ``None`` where nobody has."""
    found = Stopped.objects.filter(haul=haul).select_related("by").prefetch_related("loads").first()
    if found is None:
        return None
    loads = list(found.loads.all())
    beside = [
        Beside(
            planned=f"{f'{load.name} ' if len(loads) > 1 else ''}stopped at, planned "
            f"{write_place(load.planned_m, unit)}",
            figure=write_given(load.mark, unit),
            apart=_moved(float(load.mark.si) - load.planned_m, unit),
        )
        for load in loads
    ]
    if found.gauge is not None:
        off = float(found.gauge.si) - found.tongue_kg
        beside.append(
            Beside(
                planned=f"gauge, planned {write_mass(found.tongue_kg, unit)}",
                figure=write_given(found.gauge, unit),
                apart=signed_mass(off, unit) if abs(off) >= unit.kg / 2 else "as planned",
            )
        )
    beside += [
        Beside(planned=label, figure=write_given(height, unit), apart="")
        for label, height in (("front arch", found.arch_front), ("rear arch", found.arch_rear))
        if height is not None
    ]
    return StoppedAt(
        beside=tuple(beside),
        note=found.note,
        by=found.by.shown_name if found.by else "somebody no longer here",
        at=found.at,
    )


def _moved(back_m: float, unit: UnitSystem) -> str:
    """How far from its place a mark is, along the deck."""
    if abs(back_m) < AS_PLANNED_M:
        return "as planned"
    return f"{write_inches(abs(back_m), unit)} further {'back' if back_m > 0 else 'forward'}"


def _help(step: Step, haul: Haul) -> tuple[str, str]:
    title, address, where = HELPS[step]
    return title, f"{reverse(address, args=[haul.pk])}{where}"


def day_page(
    mine: Sequence[Haul], listed: Sequence[Haul], unit: UnitSystem, *, everybody: bool
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
