"""What a case is: a situation that is shown, a truth that is not, and who judges an answer.

A case is made of a seed and, where a yard wants its own, of a haul. The same seed makes the same
case for everybody; what is shown is said in the units of whoever looks.
"""

from __future__ import annotations

import random
from abc import ABC, abstractmethod
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import Enum
from typing import Final

from measures import UnitSystem
from measures.writing import write_mass, write_percent
from mechanics.checks import Status
from mechanics.report import Report, evaluate
from pictures.drawing import Drawing, draw
from planfile.draft import Draft
from wording.limits import Telling, fault
from wording.phrases import names_of
from wording.schools import range_words
from wording.sentences import faults_of, summary

Answer = Mapping[str, tuple[str, ...]]
"""What was chosen, by the name of the question; a place is a number of metres."""

TRIES: Final = 600
"""Cases tried before a seed is given up."""

TRIES_OF_A_HAUL: Final = 24
"""The same where its figures are given, and chance can only vary what is asked."""

WISHED: Final = 40
"""At most so many tries, and no more than half of them, hold to the answer that a seed would have;
then any fair case serves."""


class Grade(str, Enum):
    """How good an answer is."""

    RIGHT = "right"
    NEARLY = "nearly"
    WRONG = "wrong"

    @property
    def status(self) -> Status:
        """The sign it is marked with."""
        return {"right": Status.OK, "nearly": Status.NEAR, "wrong": Status.OVER}[self.value]

    @property
    def words(self) -> str:
        """What it is called."""
        return {"right": "Right", "nearly": "Nearly", "wrong": "Not so"}[self.value]


class UnfitError(ValueError):
    """Of this haul, or in so many tries, no case of the kind can be made; says why."""


class AnswerError(ValueError):
    """An answer that is none; says what to do, and of which question."""

    def __init__(self, message: str, question: str) -> None:
        self.question = question
        super().__init__(message)


@dataclass(frozen=True, kw_only=True, slots=True)
class Option:
    """One of several answers."""

    value: str
    words: str
    note: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Slide:
    """A place on the tape to be chosen, in metres behind the headboard."""

    low_m: float
    high_m: float
    start_m: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Question:
    """What is asked: one option of several, with ``many`` any number of them, or a place."""

    name: str
    label: str
    options: tuple[Option, ...] = ()
    many: bool = False
    slide: Slide | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Table:
    """Figures in rows and columns."""

    head: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, kw_only=True)
class Situation:
    """What is shown of a case."""

    story: tuple[str, ...]
    facts: tuple[tuple[str, str], ...] = ()
    table: Table | None = None
    picture: Drawing | None = None
    questions: tuple[Question, ...]


@dataclass(frozen=True, kw_only=True)
class Verdict:
    """What is said of an answer: a grade, one sentence why, the figures, the best answer."""

    grade: Grade
    sentence: str
    best: str
    figures: tuple[tuple[str, str], ...] = ()
    picture: Drawing | None = None


@dataclass(frozen=True, kw_only=True)
class Case(ABC):
    """One case of a kind."""

    @property
    def moves(self) -> int:
        """How many moves there are before the answer; none for most kinds."""
        return 0

    @abstractmethod
    def situation(self, unit: UnitSystem) -> Situation:
        """What is shown, in somebody's units."""

    @abstractmethod
    def judge(self, answer: Answer, unit: UnitSystem) -> Verdict:
        """What an answer is worth, by the core's own figures.

        Raises:
            AnswerError: it is none.
        """

    def grade(self, answer: Answer) -> Grade:
        """How good an answer is.

        Raises:
            AnswerError: it is none.
        """
        return self.judge(answer, UnitSystem.US).grade

    @abstractmethod
    def every(self) -> Iterator[Answer]:
        """Every answer there is; of places on a tape, one at each inch."""

    def best(self) -> Answer:
        """A best answer.

        Raises:
            ValueError: no answer is right, so that it is no case.
        """
        for answer in self.every():
            if self.grade(answer) is Grade.RIGHT:
                return answer
        raise ValueError("no answer is right")

    def taken(self, place_m: float, unit: UnitSystem) -> str:
        """What is read after a move to a place.

        Raises:
            ValueError: nothing is moved in this kind.
        """
        raise ValueError("nothing is moved here")

    def left_at(self, place_m: float) -> Answer:
        """The answer that leaving it at a place is.

        Raises:
            ValueError: nothing is moved in this kind.
        """
        raise ValueError("nothing is moved here")

    def readings(self, unit: UnitSystem) -> tuple[tuple[str, str], ...]:
        """What whoever leads a case on paper reads out: places and what is read there; nothing of
        most kinds."""
        return ()

    def pictured(self, place_m: float, unit: UnitSystem) -> Drawing | None:
        """The picture with the machine at a place; ``None`` where nothing is placed."""
        return None


@dataclass(frozen=True, kw_only=True, slots=True)
class Kind:
    """A kind of case. ``of_hauls``: a haul of the yard can be made one. ``decides`` are the
    questions that tell right answers apart, where one can be given in several ways; else all do."""

    slug: str
    title: str
    about: str
    make: Maker
    of_hauls: bool
    decides: tuple[str, ...] = ()


class Maker(ABC):
    """Makes cases of one kind."""

    kind: str

    def __call__(
        self, seed: int, haul: Draft | None = None, *, tries: int = TRIES_OF_A_HAUL
    ) -> Case:
        """The case of a seed, invented or of a haul, of which so many are tried.

        Raises:
            UnfitError: no such case can be made.
        """
        # the same seed has to make the same case: chance is only to vary it
        rng = random.Random(f"{self.kind} {seed}")  # noqa: S311
        wish = self.wish(rng)
        why = "No case comes of this number: take another."
        most = TRIES if haul is None else tries
        for n in range(most):
            try:
                return self.tried(rng, haul, wish if n < min(WISHED, most // 2) else None)
            except UnfitError as error:
                why = str(error)
        raise UnfitError(why)

    def wish(self, rng: random.Random) -> str | None:
        """The answer that a seed would have, so that all of them come up as often; ``None`` for
        any."""
        return None

    @abstractmethod
    def tried(self, rng: random.Random, haul: Draft | None, wish: str | None) -> Case:
        """One try.

        Raises:
            UnfitError: it makes no fair case, or none of that wish.
        """


def chosen(answer: Answer, question: Question) -> str:
    """The one option that was chosen.

    Raises:
        AnswerError: none was, or one that is not offered.
    """
    given = answer.get(question.name, ())
    if len(given) != 1 or given[0] not in {one.value for one in question.options}:
        raise AnswerError("Choose one.", question.name)
    return given[0]


def ticked(answer: Answer, question: Question) -> frozenset[str]:
    """The options that were ticked.

    Raises:
        AnswerError: one of them is not offered.
    """
    given = frozenset(answer.get(question.name, ()))
    if given - {one.value for one in question.options}:
        raise AnswerError("Tick some of what is offered.", question.name)
    return given


def words_of(question: Question, value: str) -> str:
    """What an option is called."""
    return next(one.words for one in question.options if one.value == value)


def one_of_each(questions: Sequence[Question]) -> Iterator[Answer]:
    """Every way to answer some questions of which each has one answer."""
    if not questions:
        yield {}
        return
    first, *rest = questions
    for others in one_of_each(rest):
        for option in first.options:
            yield {first.name: (option.value,), **others}


def picture(draft: Draft, unit: UnitSystem, placed: int | None = None) -> Drawing:
    """A plan from the side, with the mark of the item that is ``placed``."""
    report = evaluate(draft.plan)
    pieces = 0 if placed is None else len(report.windows[placed].intervals)
    return draw(
        report,
        drawn=draft.drawn,
        selected=placed,
        # where it may stand is what nobody is told
        end_texts=[("", "")] * pieces,
        unit=unit,
        look=draft.look,
    )


def passed(report: Report, unit: UnitSystem) -> str:
    """What a plan passes, as a sentence; what is tightest where it passes nothing."""
    faults = faults_of(report)
    names = names_of(report.plan)
    if faults:
        return fault(faults[0], Telling.of(report.plan, unit, names))
    return summary(report, names, unit)


def shares(report: Report, unit: UnitSystem) -> tuple[tuple[str, str], ...]:
    """The figures that every place is judged by first."""
    loads = report.loads
    asked = range_words(*report.plan.share_range)
    return (
        ("Tongue share", f"{write_percent(loads.trailer.share)} ({asked} asked)"),
        ("Tongue", write_mass(loads.trailer.tongue_kg, unit)),
        ("Truck's rear axle", write_mass(loads.truck.rear_kg, unit)),
        ("Trailer with load", write_mass(loads.trailer.mass_kg, unit)),
    )
