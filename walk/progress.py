"""How far a walk has come: what is answered, left out or still open, part by part."""

from __future__ import annotations

from dataclasses import dataclass

from walk.answers import answer_of, asked, written
from walk.models import Walk
from walk.steps import Part, Step


@dataclass(frozen=True, kw_only=True, slots=True)
class Stand:
    """One step of a walk: its answer as written, and whether it was left out."""

    step: Step
    written: str
    left_out: bool

    @property
    def done(self) -> bool:
        """Whether nobody has to come back to it."""
        return bool(self.written) or self.left_out


@dataclass(frozen=True, kw_only=True, slots=True)
class PartStand:
    """One part of a walk with its steps; ``here`` is the part that is walked now."""

    part: Part
    steps: tuple[Stand, ...]
    here: bool = False

    @property
    def title(self) -> str:
        """The part's word."""
        return self.part.title

    @property
    def done(self) -> int:
        """How many of its steps are done."""
        return sum(stand.done for stand in self.steps)

    @property
    def percent(self) -> int:
        """How much of it is done."""
        return round(100 * self.done / len(self.steps)) if self.steps else 100

    @property
    def whole(self) -> bool:
        """Whether all of it is done."""
        return self.done == len(self.steps)

    @property
    def next(self) -> Step:
        """Where to go on in it: its first open step, else its first."""
        return next((one.step for one in self.steps if not one.done), self.steps[0].step)


def stands(walk: Walk, here: Part | None = None) -> tuple[PartStand, ...]:
    """The four parts of a walk."""
    found = [
        Stand(step=step, written=written(walk, step), left_out=walk.left_out(step.slug))
        for step in asked(walk)
    ]
    return tuple(
        PartStand(
            part=part,
            steps=tuple(one for one in found if one.step.part is part),
            here=part is here,
        )
        for part in Part
    )


def open_steps(walk: Walk) -> list[Step]:
    """Steps that nobody has answered or left out, in the order of the walk."""
    return [
        step
        for step in asked(walk)
        if answer_of(walk, step) is None and not walk.left_out(step.slug)
    ]


def wanting(walk: Walk) -> list[Step]:
    """Steps without which no plan can be made."""
    return [step for step in asked(walk) if step.needed and answer_of(walk, step) is None]


def after(walk: Walk, step: Step) -> Step | None:
    """The next step that is open, from this one on, then from the beginning; ``None`` where all
    is done."""
    steps, waiting = asked(walk), {one.slug for one in open_steps(walk)}
    at = next((n for n, one in enumerate(steps) if one.slug == step.slug), -1)
    ahead = [*steps[at + 1 :], *steps[: at + 1]]
    return next((one for one in ahead if one.slug in waiting), None)


def before(walk: Walk, step: Step) -> Step | None:
    """The step before this one; ``None`` at the first."""
    steps = asked(walk)
    at = next((n for n, one in enumerate(steps) if one.slug == step.slug), 0)
    return steps[at - 1] if at else None
