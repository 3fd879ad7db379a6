"""A course of the demo yard, and what its driver made of it: answered through the services."""

from __future__ import annotations

from typing import Final

from measures import UnitSystem
from practice.models import Course
from practice.services import Wanted, add_part, answer
from practice.sources import made
from yards.models import User, Yard

COURSE: Final = "First week with the trailers"

CASES: Final = (
    ("outfit", 11),
    ("round", 12),
    ("eye", 13),
    ("gauge", 14),
    ("slope", 15),
    ("tie", 16),
    ("walk", 17),
    ("sways", 18),
    ("ticket", 19),
)
"""One of each kind."""

TRIED: Final = (0, 1, 4, 6)
"""Which of them the driver has answered; every other one as the first that is offered."""


def make_practice(yard: Yard, driver: User) -> Course:
    """The course, and the driver's answers to some of it."""
    course = Course.objects.create(
        yard=yard, name=COURSE, note="One of each kind, in the order of the work."
    )
    parts = [add_part(course, kind=kind, seed=seed, source="") for kind, seed in CASES]
    for turn, n in enumerate(TRIED):
        part = parts[n]
        found = made(yard, part.kind, part.seed, part.source)
        wanted = Wanted(
            yard=yard, person=driver, made=found, seed=part.seed, source=part.source, part=part
        )
        given = found.case.best() if turn % 2 == 0 else next(found.case.every())
        answer(wanted, given, UnitSystem.US)
    return course
