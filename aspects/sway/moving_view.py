"""The moving view with its sliders: what is tried, what becomes of it, what the driver does."""

from __future__ import annotations

from dataclasses import dataclass

from aspects.sway.page import half_at
from aspects.sway.run import (
    COURSE_CHOICES,
    PUSH_CHOICES,
    RACKS,
    TIRE_CHOICES,
    Run,
    shifts,
)
from aspects.sway.scene import SECONDS, Scene, scene
from aspects.sway.speeds import SPEEDS_IN, Speeds
from measures import UnitSystem
from mechanics.motion import motions
from mechanics.plan import Plan
from mechanics.sway import CORNERING, Towing, towing_of
from planfile.draft import Draft
from wording.sway import COURSES, left_words, shown_words
from wording.swaying import AFTER, sways


@dataclass(frozen=True, kw_only=True, slots=True)
class Slider:
    """One thing to slide: its name, its ends, where it is, and that in words."""

    name: str
    label: str
    low: int
    high: int
    step: int
    value: int
    words: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Options:
    """One of several, each a value and words."""

    name: str
    label: str
    choices: tuple[tuple[str, str], ...]
    value: str


@dataclass(frozen=True, kw_only=True)
class MovingView:
    """The moving view; no ``scene`` where what is tried leaves an axle without load."""

    sliders: tuple[Slider, ...]
    options: tuple[Options, ...]
    said: str
    left: tuple[tuple[str, str, bool], ...] = ()
    scene: Scene | None = None
    shown: str
    driver: tuple[str, ...]


def moving_view(draft: Draft, run: Run, unit: UnitSystem) -> MovingView:
    """A run of a haul's outfit as it is asked for."""
    speeds, plan = SPEEDS_IN[unit], draft.plan
    tried = run.plan(plan, unit)
    towing = towing_of(tried)
    stands = towing.stands
    runs = (
        motions(towing, CORNERING[run.tires], run.speed * speeds.m_s, run.push, seconds=SECONDS)
        if stands
        else ()
    )
    return MovingView(
        sliders=_sliders(draft, run, unit),
        options=(
            Options(name="push", label="What happens", choices=PUSH_CHOICES, value=run.push.value),
            Options(
                name="course",
                label="Then the driver is",
                choices=COURSE_CHOICES,
                value=run.course.value,
            ),
            Options(name="tires", label="The tires", choices=TIRE_CHOICES, value=run.tires),
        ),
        said=_said(plan, towing, run, speeds),
        left=tuple(
            (COURSES[one.course], left_words(one, run.push), one.course is run.course)
            for one in runs
        ),
        scene=scene(tried, towing, runs, run.push, run.course, speeds) if stands else None,
        shown=shown_words(unit),
        driver=(*sways(braked=not draft.unbraked), AFTER),
    )


def _sliders(draft: Draft, run: Run, unit: UnitSystem) -> tuple[Slider, ...]:
    speeds = SPEEDS_IN[unit]
    low, high = shifts(draft.plan, unit)
    return (
        Slider(
            name="speed",
            label="Speed",
            low=speeds.choices[0],
            high=speeds.choices[-1],
            step=speeds.choices[1] - speeds.choices[0],
            value=run.speed,
            words=speeds.words(run.speed),
        ),
        Slider(
            name="shift",
            label="The load" if len(draft.plan.items) == 1 else "All loads",
            low=low,
            high=high,
            step=1,
            value=run.shift,
            words=run.shift_words(unit),
        ),
        Slider(
            name="rack",
            label="Hung behind the tail",
            low=0,
            high=len(RACKS[unit]) - 1,
            step=1,
            value=run.rack,
            words=run.rack_words(unit),
        ),
    )


def _said(plan: Plan, towing: Towing, run: Run, speeds: Speeds) -> str:
    """How fast a swing dies out as tried, and beside it as it stands; nothing where it is tried as
    it stands, which the page's sentence says."""
    if not run.changed or not towing.stands:
        return ""
    tried = half_at(towing, speeds, run.speed)
    here = towing_of(plan)
    beside = f"; as it stands it {half_at(here, speeds, run.speed)}" if here.stands else ""
    return f"So, at {speeds.words(run.speed)}, a swing {tried}{beside}."
