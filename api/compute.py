"""Plans worked out, for programs: the same documents as the commands print."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.core.exceptions import ObjectDoesNotExist
from ninja import Router

from api.models import Scope
from api.schemas import Document, LoadsIn, Match, Matches, PlanIn
from api.service import WRONG, Asking, WrongError, needs
from hauls.loads import read_load
from matching.pairs import matches
from mechanics.loading import loading
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.securing import secure
from planfile.convert import Scale, usual_school
from planfile.draft import Draft
from planfile.loading_file import loading_document
from planfile.securing_file import securing_document
from planfile.writing import report_document

router = Router(tags=["work out"])


def _answer(sent: PlanIn, work: Callable[[Plan, Scale], Document]) -> Document:
    draft = Draft.read(sent.plan)
    return work(draft.plan, Scale(draft.units.mass.value, draft.units.length.value))


@router.post("/evaluate", response={200: Document, **WRONG}, summary="The report of a plan")
@needs(Scope.COMPUTE)
def evaluated(request: Asking, sent: PlanIn) -> Any:
    """Loads, limits, windows."""
    return _answer(sent, lambda plan, unit: report_document(evaluate(plan), unit))


@router.post("/loading", response={200: Document, **WRONG}, summary="Getting on and off")
@needs(Scope.COMPUTE)
def loaded(request: Asking, sent: PlanIn) -> Any:
    """How each machine of a plan gets on and off."""
    return _answer(sent, lambda plan, unit: loading_document(loading(plan), unit))


@router.post("/securing", response={200: Document, **WRONG}, summary="How a load is tied down")
@needs(Scope.COMPUTE)
def secured(request: Asking, sent: PlanIn) -> Any:
    """What the ties of a plan hold."""
    return _answer(
        sent,
        lambda plan, unit: securing_document(secure(plan, usual_school(unit.words["mass"])), unit),
    )


@router.post("/match", response={200: Matches, **WRONG}, summary="Which outfits take some loads")
@needs(Scope.COMPUTE)
def matched(request: Asking, sent: LoadsIn) -> Matches:
    """Every truck, hitch and trailer of the yard that can be coupled, the best first."""
    try:
        loads = [read_load(key, request.yard) for key in sent.loads]
    except (ObjectDoesNotExist, ValueError) as error:
        raise WrongError("loads: expected loads of the book, as machine-3 or bulk-2") from error
    found, cut = matches(request.yard, loads, request.user.unit_system)
    return Matches(
        matches=[
            Match(
                hitch=one.hitch.pk,
                trailer=one.trailer.pk,
                outfit=f"{one.hitch.truck.name}, {one.hitch.name}, {one.trailer.name}",
                status=one.status,
                word=one.word,
                line=one.line,
                reserve=one.reserve,
            )
            for one in found
        ],
        cut=cut,
    )
