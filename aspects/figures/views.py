"""The page of all figures."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from aspects.registry import figures as every_figure
from aspects.rooms import aspect_page, with_plan
from hauls.models import Haul
from mechanics.plan import Plan
from mechanics.report import evaluate
from wording.arithmetic import Reason
from wording.figures import all_reasons
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class FiguresView:
    """Every figure with its arithmetic, and all of it as one text to copy."""

    reasons: list[Reason]
    text: str


@require_safe
@in_yard
@with_plan
def figures(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Every figure and limit with its arithmetic, to read, print or copy."""
    reasons = all_reasons(evaluate(plan), request.user.unit_system, every_figure())
    text = "\n\n".join([haul.name, *(reason.text for reason in reasons)])
    page = FiguresView(reasons=reasons, text=text)
    return aspect_page(request, "figures/figures.html", haul, "figures", page)
