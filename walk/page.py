"""What the pages of a walk show."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from django.urls import reverse

from book.chain import couples
from book.estimates import guesses
from book.models import Machine, Thing, Trailer, Truck
from measures import UnitSystem
from measures.writing import in_units_of
from walk.answers import answer_of, held, written
from walk.models import Walk
from walk.pad import Key, keys
from walk.pictures import Picture, outfit, picture
from walk.progress import PartStand, after, before, stands, wanting
from walk.steps import Answer, Part, Step
from yards.models import Yard

OFFERED: Final = 30
"""Things of the book that a walk may be taken round instead of a new one."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Choice:
    """One large button; ``here`` is the answer that the book holds."""

    value: str
    label: str
    here: bool


@dataclass(frozen=True, kw_only=True)
class StepPage:
    """One step. ``offer`` is what stands in for the figure, as a band; ``typed`` what is in the
    box, ``was`` what the book holds as the page shows it."""

    walk: Walk
    step: Step
    bars: tuple[PartStand, ...]
    number: int
    count: int
    done_words: str
    picture: Picture | None
    typed: str
    was: str
    error: str
    pad: tuple[Key, ...]
    choices: tuple[Choice, ...]
    offer: str
    without: str
    back: str
    hook: str
    unit: UnitSystem


def step_page(
    walk: Walk, step: Step, unit: UnitSystem, *, typed: str | None = None, error: str = ""
) -> StepPage:
    """A step as it stands; ``typed`` stays in the box where it could not be read."""
    bars = stands(walk, step.part)
    own = next(bar for bar in bars if bar.part is step.part)
    slugs = [stand.step.slug for stand in own.steps]
    earlier = before(walk, step)
    was = held(walk, step)
    typing = step.answer is not Answer.CHOICE
    return StepPage(
        walk=walk,
        step=step,
        bars=bars,
        number=slugs.index(step.slug) + 1 if step.slug in slugs else 1,
        count=len(slugs),
        done_words=_done_words(bars, step.part),
        picture=picture(walk, step, unit),
        typed=(written(walk, step) if typing else "") if typed is None else typed,
        was=was,
        error=error,
        pad=keys(step.answer, unit, minus=step.field == "offset") if typing else (),
        choices=tuple(
            Choice(
                value=value,
                label=in_units_of(label, unit),
                here=bool(value) and value == str(answer_of(walk, step) or ""),
            )
            for value, label in step.choices
        ),
        offer=offer(walk, step, unit),
        without=step.without,
        back=_address(walk, earlier) if earlier is not None else reverse("walk", args=[walk.pk]),
        hook=step.hook,
        unit=unit,
    )


def _done_words(bars: tuple[PartStand, ...], here: Part) -> str:
    done = [bar.title.lower() for bar in bars if bar.whole and bar.part is not here]
    return f"{' and '.join(done)} done" if done else ""


def offer(walk: Walk, step: Step, unit: UnitSystem) -> str:
    """The band that stands in for a step's figure; empty where nothing does yet."""
    if not step.estimate:
        return ""
    thing: Thing | None = {
        Part.TRUCK: walk.truck,
        Part.BALL: walk.truck,
        Part.TRAILER: walk.trailer,
        Part.MACHINE: walk.machine,
    }[step.part]
    if thing is None:
        return ""
    found = next((guess for guess in guesses(thing) if guess.name == step.estimate), None)
    return "" if found is None else found.band(unit)


def _address(walk: Walk, step: Step) -> str:
    return reverse("walk_step", args=[walk.pk, step.slug])


def next_address(walk: Walk, step: Step) -> str:
    """Where to go on after a step: the next open one, else the whole walk."""
    found = after(walk, step)
    return reverse("walk", args=[walk.pk]) if found is None else _address(walk, found)


@dataclass(frozen=True, kw_only=True, slots=True)
class Taken:
    """What of the book a part of a walk may be taken round."""

    part: str
    title: str
    chosen: int | None
    things: tuple[tuple[int, str], ...]


@dataclass(frozen=True, kw_only=True)
class WalkPage:
    """A whole walk: its parts, the outfit as far as it is known, what is still wanting."""

    walk: Walk
    bars: tuple[PartStand, ...]
    picture: Picture
    wanting: tuple[Step, ...]
    mismatch: str
    go_on: str
    all_done: bool
    left_out: int
    taken: tuple[Taken, ...]
    error: str
    name: str


def walk_page(walk: Walk, unit: UnitSystem, *, error: str = "", name: str = "") -> WalkPage:
    """A walk as it stands."""
    bars = stands(walk)
    lacking = tuple(wanting(walk))
    open_bar = next((bar for bar in bars if not bar.whole), None)
    return WalkPage(
        walk=walk,
        bars=bars,
        picture=outfit(walk, unit),
        wanting=lacking,
        mismatch=_mismatch(walk),
        go_on="" if open_bar is None else _address(walk, open_bar.next),
        all_done=open_bar is None,
        left_out=sum(stand.left_out for bar in bars for stand in bar.steps),
        taken=tuple(_taken(walk)),
        error=error,
        name=name or _haul_name(walk),
    )


def _mismatch(walk: Walk) -> str:
    """Why this trailer cannot be hung on this ball; empty where it can."""
    if walk.hitch is None or walk.trailer is None or couples(walk.hitch, walk.trailer):
        return ""
    if walk.trailer.over_bed:
        return "A gooseneck is coupled over the bed, and the ball is behind the bumper."
    return "The ball is in the bed, and this trailer is coupled behind the bumper."


def _haul_name(walk: Walk) -> str:
    return "First haul" if walk.machine is None else f"{walk.machine.name}, first haul"


def _taken(walk: Walk) -> list[Taken]:
    found = []
    for part, model, chosen in (
        (Part.TRUCK, Truck, walk.truck_id),
        (Part.TRAILER, Trailer, walk.trailer_id),
        (Part.MACHINE, Machine, walk.machine_id),
    ):
        here = model._default_manager.filter(yard=walk.yard).values_list("pk", "name")[:OFFERED]
        if here:
            found.append(
                Taken(part=part.value, title=part.title, chosen=chosen, things=tuple(here))
            )
    return found


@dataclass(frozen=True, kw_only=True)
class Beginning:
    """Where a walk begins, and the walks that somebody has begun."""

    walks: tuple[Walk, ...]


def beginning(yard: Yard) -> Beginning:
    """The yard's walks that are not over."""
    own = Walk.objects.filter(yard=yard, over=False).select_related(
        "truck", "trailer", "machine", "started_by"
    )
    return Beginning(walks=tuple(own[:OFFERED]))
