"""The pages of the practice yard: its kinds, a case, what was said of an answer, a record."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from measures import UnitSystem
from measures.marks import write_place
from pictures.drawing import Drawing
from practice.cases import Answer, Grade, Kind, Question, Situation, Verdict
from practice.kinds import KINDS
from practice.models import Attempt, Course, Part
from practice.reading import marks_of, per_step, step_of
from practice.services import Wanted, counted, given_of
from practice.sources import Made, source_words
from yards.models import User, Yard


@dataclass(frozen=True, kw_only=True, slots=True)
class Box:
    """One option as it is shown: with what was chosen, and after the answer whether it was
    right."""

    value: str
    words: str
    note: str
    chosen: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Slider:
    """A place to be slid to, in steps behind the headboard."""

    low: int
    high: int
    value: int
    words: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Asked:
    """A question as it is shown, with what is wrong about its answer."""

    name: str
    label: str
    many: bool
    boxes: tuple[Box, ...]
    slider: Slider | None
    wrong: str


@dataclass(frozen=True, kw_only=True)
class CasePage:
    """A case to be answered. ``readings`` are those of the moves so far, ``left`` how many more
    there are, ``moved`` how many were made; ``per_step`` how many drawing units a step of the
    slider is."""

    kind: Kind
    seed: int
    source: str
    made_of: str
    part: Part | None
    of: str
    shown: Situation
    asked: tuple[Asked, ...]
    readings: tuple[tuple[str, str], ...] = ()
    moving: bool = False
    per_step: float = 0.0
    left: int = 0
    moved: int = 0
    said: str = ""


@dataclass(frozen=True, kw_only=True)
class PlacedPage:
    """The picture with the machine at a place, what a tape reads there, and how many drawing units
    a step of the slider is."""

    picture: Drawing | None
    reading: str
    per_step: float


def asked_of(
    questions: Sequence[Question],
    unit: UnitSystem,
    *,
    given: Answer | None = None,
    at_m: float | None = None,
    wrong: tuple[str, str] = ("", ""),
) -> tuple[Asked, ...]:
    """Questions with what was given so far; ``wrong`` is a question and what is wrong there."""
    given = given or {}
    return tuple(
        Asked(
            name=one.name,
            label=one.label,
            many=one.many,
            boxes=tuple(
                Box(
                    value=option.value,
                    words=option.words,
                    note=option.note,
                    chosen=option.value in given.get(one.name, ()),
                )
                for option in one.options
            ),
            slider=_slider(one, unit, at_m),
            wrong=wrong[1] if wrong[0] == one.name else "",
        )
        for one in questions
    )


def _slider(question: Question, unit: UnitSystem, at_m: float | None) -> Slider | None:
    if question.slide is None:
        return None
    low, high, first = marks_of(question.slide, unit)
    value = first if at_m is None else min(max(round(at_m / step_of(unit)), low), high)
    return Slider(low=low, high=high, value=value, words=write_place(value * step_of(unit), unit))


def case_page(
    wanted: Wanted,
    moves: Sequence[float],
    unit: UnitSystem,
    *,
    given: Answer | None = None,
    wrong: tuple[str, str] = ("", ""),
    said: str = "",
) -> CasePage:
    """A case as it stands after some moves, with what was given and is no answer yet."""
    case = wanted.made.case
    shown = case.situation(unit)
    at = moves[-1] if moves else None
    if at is not None:
        shown = replace(shown, picture=case.pictured(at, unit))
    return CasePage(
        kind=wanted.made.kind,
        seed=wanted.seed,
        source=wanted.source,
        made_of=source_words(wanted.yard, wanted.source),
        part=wanted.part,
        of=_of(wanted.part),
        shown=shown,
        asked=asked_of(shown.questions, unit, given=given, at_m=at, wrong=wrong),
        readings=tuple(
            (f"Move {n}, {write_place(place, unit)}", case.taken(place, unit))
            for n, place in enumerate(moves, start=1)
        ),
        moving=case.moves > 0,
        per_step=per_step(shown.picture, unit),
        left=case.moves - len(moves),
        moved=len(moves),
        said=said,
    )


def _of(part: Part | None) -> str:
    """Which case of its course it is."""
    if part is None:
        return ""
    parts = list(part.course.parts.values_list("pk", flat=True))
    return f"{part.course}, case {parts.index(part.pk) + 1} of {len(parts)}"


@dataclass(frozen=True, kw_only=True)
class DonePage:
    """What was said of an answer; without a verdict what the case was made of has changed, or is
    gone, and only the grade is left."""

    attempt: Attempt
    grade: Grade
    made_of: str
    of: str
    next: Part | None
    verdict: Verdict | None
    shown: Situation | None
    chosen: tuple[tuple[str, str], ...]


def done_page(attempt: Attempt, grade: Grade, made: Made | None, unit: UnitSystem) -> DonePage:
    """What was said of an answer, in somebody's units."""
    verdict, shown = None, None
    chosen: tuple[tuple[str, str], ...] = ()
    if made is not None and made.stamp == attempt.stamp:
        given = given_of(attempt)
        verdict = made.case.judge(given, unit)
        shown = made.case.situation(unit)
        chosen = tuple((one.label, _chosen(one, given, unit)) for one in shown.questions)
    part = attempt.part
    return DonePage(
        attempt=attempt,
        grade=grade,
        made_of=source_words(attempt.yard, attempt.source),
        of=_of(part),
        next=None if part is None else part.course.parts.filter(place__gt=part.place).first(),
        verdict=verdict,
        shown=shown,
        chosen=chosen,
    )


def _chosen(question: Question, given: Answer, unit: UnitSystem) -> str:
    """What was answered, in words."""
    values = given.get(question.name, ())
    if question.slide is not None:
        return write_place(float(values[0]), unit)
    words = [one.words for one in question.options if one.value in values]
    return ", ".join(words) if words else "nothing"


@dataclass(frozen=True, kw_only=True, slots=True)
class KindLine:
    """A kind among the kinds, with the person's own first answers."""

    kind: Kind
    tried: str


@dataclass(frozen=True, kw_only=True, slots=True)
class CourseLine:
    """A course and how far the person has come in it; ``next`` is the case he has not tried."""

    course: Course
    cases: int
    tried: int
    next: Part | None


@dataclass(frozen=True, kw_only=True)
class PracticePage:
    """The practice yard."""

    lines: list[KindLine]
    courses: list[CourseLine]
    sources: tuple[tuple[str, str], ...]
    hauls: tuple[tuple[str, str], ...]
    plans: bool
    wrong: str
    number: str
    source: str


def kind_lines(attempts: list[Attempt]) -> list[KindLine]:
    """Every kind, with how the first answers went."""
    return [
        KindLine(kind=kind, tried=counts_words([a for a in attempts if a.kind == kind.slug]))
        for kind in KINDS
    ]


def counts_words(attempts: list[Attempt]) -> str:
    """``4 tried: 2 right, 1 nearly, 1 not so``; empty of none."""
    counts = counted(attempts)
    tried = sum(counts.values())
    if not tried:
        return ""
    told = ", ".join(f"{n} {grade.words.lower()}" for grade, n in counts.items() if n)
    return f"{tried} tried: {told}"


@dataclass(frozen=True, kw_only=True, slots=True)
class Tried:
    """One answer in a record."""

    attempt: Attempt
    grade: Grade


@dataclass(frozen=True, kw_only=True)
class RecordPage:
    """A person's record; ``others`` are the yard's people whose records the one who looks may
    open."""

    person: User
    own: bool
    lines: list[KindLine]
    latest: list[Tried]
    others: list[tuple[User, str]]
    owner: bool
    sees: bool


@dataclass(frozen=True, kw_only=True)
class Sheet:
    """One case on paper."""

    number: int
    part: Part
    made_of: str
    shown: Situation | None
    asked: tuple[Asked, ...]
    best: str
    sentence: str
    readings: tuple[tuple[str, str], ...]
    why_not: str


@dataclass(frozen=True, kw_only=True)
class SheetsPage:
    """A course on paper, with answers or without."""

    course: Course
    sheets: list[Sheet]
    answers: bool


def sheet(yard: Yard, number: int, part: Part, made: Made | str, unit: UnitSystem) -> Sheet:
    """One case on paper; ``made`` is why there is none where it cannot be made."""
    made_of = source_words(yard, part.source)
    if isinstance(made, str):
        return Sheet(
            number=number,
            part=part,
            made_of=made_of,
            shown=None,
            asked=(),
            best="",
            sentence="",
            readings=(),
            why_not=made,
        )
    shown = made.case.situation(unit)
    verdict = made.case.judge(made.case.best(), unit)
    return Sheet(
        number=number,
        part=part,
        made_of=made_of,
        shown=shown,
        asked=asked_of(shown.questions, unit),
        best=verdict.best,
        sentence=verdict.sentence,
        readings=made.case.readings(unit),
        why_not="",
    )
