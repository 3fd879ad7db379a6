"""The page of tying down, and what its buttons do."""

from __future__ import annotations

from urllib.parse import urlencode

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from aspects.rooms import CONFLICT, ActionError, base_sent, part_or_page, with_plan
from aspects.tied_down.actions import act
from aspects.tied_down.page import TiedPage, tied_page
from aspects.tied_down.tables import write_ties
from book.table_views import csv_file
from hauls.models import Haul
from hauls.steps import StaleRevision
from hauls.store import save_haul
from mechanics.plan import Plan
from planfile.errors import PlanFileError
from yards.access import YardRequest, in_yard, planners

TEMPLATES = ("tied_down/tied_down.html", "tied_down/_show.html")


def _answer(
    request: YardRequest, haul: Haul, page: TiedPage, *, wrong: bool = False
) -> HttpResponse:
    return part_or_page(request, TEMPLATES, haul, "tied_down", page, wrong=wrong)


@require_safe
@in_yard
@with_plan
def tied_down(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Which tie runs where, and what they hold."""
    item = request.GET.get("item", "")[:100]
    return _answer(request, haul, tied_page(haul, item, request.user.unit_system))


@require_safe
@in_yard
@with_plan
def ties_table(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """A haul's ties as a CSV file, in the units the person reads in."""
    return csv_file(request, write_ties(haul.draft, request.user.unit_system), "ties")


@require_POST
@planners
@with_plan
def do(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Put a tie on, choose its gear, take it off, have ties suggested."""
    item, unit = str(request.POST.get("item", ""))[:100], request.user.unit_system
    try:
        done = act(haul, request.POST, unit)
        if done.what:
            save_haul(haul, done.draft, base=base_sent(request), user=request.user, what=done.what)
    except ActionError as error:
        typed = (str(request.POST.get("do", "")), error.typed) if error.typed else None
        page = tied_page(haul, item, unit, wrong=str(error), typed=typed)
        return _answer(request, haul, page, wrong=True)
    except PlanFileError as error:
        page = tied_page(haul, item, unit, wrong=f"That cannot be kept. {error}")
        return _answer(request, haul, page, wrong=True)
    except StaleRevision as stale:
        page = tied_page(stale.haul, item, unit, conflict=CONFLICT)
        return _answer(request, stale.haul, page, wrong=True)
    if request.headers.get("HX-Request") or done.told is not None:
        return _answer(request, haul, tied_page(haul, item, unit, told=done.told))
    messages.success(request, "Kept. Undo is in the planner.")
    return redirect(f"{reverse('haul_tied', args=[haul.pk])}?{urlencode({'item': item})}")
