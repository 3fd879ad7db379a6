"""Whether a case is fair; ``python -m scripts.fair_cases`` tries a thousand numbers of every kind.

Some answer is right and some is wrong, what is best is graded right, and the right answers
are one class: of places on a tape a single stretch, of questions with one option each a single
answer (of ties the same piece, however it is hooked), of things to be ticked a single set.
"""

from __future__ import annotations

from collections.abc import Sequence

from practice.cases import Answer, Grade, Kind, UnfitError


def classes(right: Sequence[bool]) -> int:
    """How many stretches of right answers stand in a row."""
    return sum(one and not (n and right[n - 1]) for n, one in enumerate(right))


def proved(kind: Kind, seed: int) -> str:
    """What is wrong with a case; empty where it is fair."""
    try:
        case = kind.make(seed)
    except UnfitError as error:
        return f"no case: {error}"
    answers = list(case.every())
    right = [case.grade(answer) is Grade.RIGHT for answer in answers]
    if not any(right):
        return "no answer is right"
    if all(right):
        return "none is wrong"
    if case.grade(case.best()) is not Grade.RIGHT:
        return "the best answer is not right"
    best = [answer for answer, one in zip(answers, right, strict=True) if one]
    found = classes(right) if "place" in answers[0] else len({_told(kind, one) for one in best})
    return "" if found == 1 else f"{found} classes of right answers"


def _told(kind: Kind, answer: Answer) -> str:
    """What of an answer tells it from others."""
    return str([(name, sorted(answer[name])) for name in kind.decides or sorted(answer)])
