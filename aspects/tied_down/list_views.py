"""The driver's list, and ticking its lines."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST, require_safe

from aspects.rooms import part_or_page, with_plan
from aspects.tied_down.driver_list import keys_of, list_page
from aspects.tied_down.models import Tick
from hauls.models import Haul
from mechanics.plan import Plan
from yards.access import YardRequest, in_yard

TEMPLATES = ("tied_down/list.html", "tied_down/_list.html")
GONE = "The plan has changed: that line is no longer as it was. Look at the list again."


@require_safe
@in_yard
@with_plan
def tie_list(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """What to do before moving, tie by tie."""
    return _list(request, haul)


@require_POST
@in_yard
@with_plan
def tick(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Tick one line, or take the tick back; done twice it stays as it is."""
    key = str(request.POST.get("key", ""))[:80]
    if key not in keys_of(list_page(haul, request.user.unit_system)):
        return _list(request, haul, missing=GONE)
    if request.POST.get("done") == "1":
        Tick.objects.get_or_create(haul=haul, key=key, defaults={"by": request.user})
    else:
        Tick.objects.filter(haul=haul, key=key).delete()
    if request.headers.get("HX-Request"):
        return _list(request, haul)
    return redirect("haul_tied_list", haul.pk)


def _list(request: YardRequest, haul: Haul, missing: str = "") -> HttpResponse:
    page = list_page(haul, request.user.unit_system, missing)
    return part_or_page(request, TEMPLATES, haul, "tied_down", page, wrong=bool(missing))
