"""Writing down what was tried, courses and what a yard agreed on."""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import dataclass

from django.db import transaction
from django.db.models import F, Max, QuerySet

from measures import UnitSystem
from practice.cases import Answer, Grade
from practice.models import MOST_SEED, Attempt, Course, Part, Terms
from practice.sources import Made
from yards.models import User, Yard


def any_seed() -> int:
    """A number for a case nobody asked for by number."""
    return random.SystemRandom().randint(1, MOST_SEED)


@dataclass(frozen=True, kw_only=True, slots=True)
class Wanted:
    """A case somebody has before him; ``part`` where it is one of a course."""

    yard: Yard
    person: User
    made: Made
    seed: int
    source: str
    part: Part | None = None

    def attempts(self) -> QuerySet[Attempt]:
        """What the person has tried of it, within a course or outside."""
        return Attempt.objects.filter(
            yard=self.yard,
            person=self.person,
            kind=self.made.kind.slug,
            seed=self.seed,
            source=self.source,
        )

    def open(self) -> Attempt | None:
        """The try that is not answered yet; ``None`` where there is none, or where what the case
        is made of has changed since."""
        return self.attempts().filter(part=self.part, grade="", stamp=self.made.stamp).first()

    def stands(self) -> Answer | None:
        """The answer that leaving it where it was moved to is; ``None`` where nothing was moved."""
        attempt = self.open()
        if attempt is None or not attempt.moves:
            return None
        return self.made.case.left_at(attempt.moves[-1])

    def begun(self) -> Attempt:
        """The try that is not answered yet, or a new one that is not stored."""
        return self.open() or Attempt(
            yard=self.yard,
            person=self.person,
            kind=self.made.kind.slug,
            seed=self.seed,
            source=self.source,
            part=self.part,
            stamp=self.made.stamp,
        )


@transaction.atomic
def move(wanted: Wanted, place_m: float, *, moved: int) -> bool:
    """Note a move to a place; ``moved`` is how many the page knew of. Not where there are none
    left, or another page has moved in between."""
    attempt = wanted.begun()
    if len(attempt.moves) != moved or moved >= wanted.made.case.moves:
        return False
    attempt.moves = [*attempt.moves, place_m]
    attempt.save()
    return True


@transaction.atomic
def answer(wanted: Wanted, given: Answer, unit: UnitSystem) -> Attempt:
    """Judge an answer and note it.

    Raises:
        AnswerError: it is none.
    """
    verdict = wanted.made.case.judge(given, unit)
    attempt = wanted.begun()
    attempt.first = not wanted.attempts().exclude(grade="").exists()
    attempt.answer = {name: list(values) for name, values in given.items()}
    attempt.grade = verdict.grade.value
    attempt.save()
    return attempt


def given_of(attempt: Attempt) -> Mapping[str, tuple[str, ...]]:
    """The answer as it was given."""
    return {name: tuple(values) for name, values in attempt.answer.items()}


@transaction.atomic
def add_part(course: Course, *, kind: str, seed: int, source: str) -> Part:
    """One more case at the end of a course."""
    last = course.parts.aggregate(last=Max("place"))["last"] or 0
    _changed(course)
    return Part.objects.create(
        yard=course.yard, course=course, place=last + 1, kind=kind, seed=seed, source=source
    )


@transaction.atomic
def move_part(part: Part, *, up: bool) -> None:
    """One case of a course before or after its neighbour; at the end it stays."""
    parts = list(part.course.parts.all())
    at = parts.index(part)
    to = at - 1 if up else at + 1
    if not 0 <= to < len(parts):
        return
    parts[at], parts[to] = parts[to], parts[at]
    for place, one in enumerate(parts, start=1):
        Part.objects.filter(pk=one.pk).update(place=place)
    _changed(part.course)


@transaction.atomic
def remove_part(part: Part) -> None:
    """Take a case out of its course; what was tried stays tried."""
    _changed(part.course)
    part.delete()


def _changed(course: Course) -> None:
    Course.objects.filter(pk=course.pk).update(version=F("version") + 1)


def owner_sees(yard: Yard) -> bool:
    """Whether owners see everybody's record."""
    return Terms.objects.filter(yard=yard, owner_sees=True).exists()


def agree(yard: Yard, *, sees: bool) -> None:
    """Say whether owners see everybody's record."""
    Terms.objects.update_or_create(yard=yard, defaults={"owner_sees": sees})


def counted(attempts: list[Attempt]) -> dict[Grade, int]:
    """How many first answers were of each grade."""
    found = dict.fromkeys(Grade, 0)
    for one in attempts:
        if one.first and one.graded is not None:
            found[one.graded] += 1
    return found
