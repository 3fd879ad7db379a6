"""What a page of the practice yard sends: an answer, a place on the tape, a number."""

from __future__ import annotations

import math

from django.http import QueryDict

from measures import UnitSystem
from measures.marks import STEPS
from pictures.drawing import Drawing
from practice.cases import Answer, AnswerError, Question, Slide
from practice.models import MOST_SEED
from web.sent import whole_number


def step_of(unit: UnitSystem) -> float:
    """How finely a machine is placed."""
    return STEPS[unit][0]


def per_step(picture: Drawing | None, unit: UnitSystem) -> float:
    """How many drawing units one step is; 0 without a picture."""
    return 0.0 if picture is None else picture.scale * step_of(unit)


def marks_of(slide: Slide, unit: UnitSystem) -> tuple[int, int, int]:
    """The lowest and the highest place in steps behind the headboard, and the one at first."""
    step = step_of(unit)
    low, high = math.ceil(slide.low_m / step), math.floor(slide.high_m / step)
    return low, high, min(max(round(slide.start_m / step), low), high)


def place_sent(data: QueryDict, question: Question, unit: UnitSystem) -> float:
    """The place that was sent, in metres behind the headboard.

    Raises:
        AnswerError: none was.
    """
    sent = whole_number(data.get(question.name))
    if sent is None or question.slide is None:
        raise AnswerError("Say where it is to stop.", question.name)
    low, high, _ = marks_of(question.slide, unit)
    return min(max(sent, low), high) * step_of(unit)


def answer_sent(data: QueryDict, questions: tuple[Question, ...], unit: UnitSystem) -> Answer:
    """The answer as it was sent, whether it is one or not.

    Raises:
        AnswerError: a place was asked for and none was sent.
    """
    found: dict[str, tuple[str, ...]] = {}
    for question in questions:
        if question.slide is not None:
            found[question.name] = (repr(place_sent(data, question, unit)),)
        else:
            found[question.name] = tuple(data.getlist(question.name)[: len(question.options)])
    return found


def seed_sent(text: str | None) -> int | None:
    """The number of a case; ``None`` for anything that is none."""
    found = whole_number(text)
    return found if found is not None and 0 < found <= MOST_SEED else None
