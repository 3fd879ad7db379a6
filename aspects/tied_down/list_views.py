"""The driver's list, and ticking its lines."""

from __future__ import annotations

from collections.abc import Collection

from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST, require_safe

from aspects.rooms import part_or_page, with_plan
from aspects.tied_down.driver_list import keys_of, list_page
from aspects.tied_down.ticking import tick, untick
from hauls.models import Haul
from mechanics.plan import Plan
from offline.once import kept, noted_at, once, refused
from yards.access import YardRequest, in_yard

TEMPLATES = ("tied_down/list.html", "tied_down/_list.html")
GONE = "The plan has changed: that line is no longer as it was. Look at the list again."


@require_safe
@in_yard
@with_plan
def tie_list(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """What to do before moving, tie by tie."""
    return _list(request, haul)


def tick_sent(request: YardRequest, haul: Haul, keys: Collection[str]) -> bool:
    """Tick the line that was sent, or take its tick back; whether it is one of those."""
    done, undone = (str(request.POST.get(name, ""))[:80] for name in ("tick", "untick"))
    if (done or undone) not in keys:
        return False
    if done:
        tick(haul, done, user=request.user, at=noted_at(request))
    else:
        untick(haul, undone, user=request.user)
    return True


@require_POST
@in_yard
@once
@with_plan
def tick_line(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Tick one line, or take the tick back; done twice it stays as it is."""
    keys = keys_of(list_page(haul, request.user.unit_system))
    if not tick_sent(request, haul, keys):
        return refused(request, GONE, lambda: _list(request, haul, missing=GONE), status=409)
    return kept(redirect("haul_tied_list", haul.pk))


def _list(request: YardRequest, haul: Haul, missing: str = "") -> HttpResponse:
    page = list_page(haul, request.user.unit_system, missing)
    return part_or_page(request, TEMPLATES, haul, "tied_down", page, wrong=bool(missing))
