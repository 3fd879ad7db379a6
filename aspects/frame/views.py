"""The page of the frame."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from aspects.frame.diagram import Diagram, diagram
from aspects.frame.words import FrameWords, Within, frame_words, length_rows
from aspects.rooms import aspect_page, with_plan
from hauls.models import Haul
from mechanics.frame import frame_use
from mechanics.plan import Plan
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class FrameView:
    """The frame in words and drawn, and the largest mass within lengths; one may be ``typed``."""

    words: FrameWords
    diagram: Diagram
    lengths: list[Within]
    typed: str
    wrong: str
    loaded: bool


@require_safe
@in_yard
@with_plan
def frame(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """The frame as a beam, and the largest mass within a length of deck."""
    unit = request.user.unit_system
    rows, typed, wrong = length_rows(plan, request.GET.get("length", ""), unit)
    page = FrameView(
        words=frame_words(plan, unit),
        diagram=diagram(plan, frame_use(plan), unit),
        lengths=rows,
        typed=typed,
        wrong=wrong,
        loaded=bool(plan.items),
    )
    return aspect_page(request, "frame/frame.html", haul, "frame", page, wrong=bool(wrong))
