"""A haul against the scale: planned beside read, and the haul's own tickets."""

from __future__ import annotations

from dataclasses import dataclass

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.utils import timezone
from django.views.decorators.http import require_http_methods

from aspects.rooms import aspect_page, with_plan
from hauls.models import Haul
from mechanics.plan import Plan
from web.pages import parts
from weighing.scaling import HaulTicketForm, ScalePage, keep_haul_ticket, read_boxes, scale_page
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class ScaleView(ScalePage):
    """Planned beside read, and the form that keeps it; ``problems`` are of its boxes."""

    form: HaulTicketForm
    problems: list[str]
    posted: bool
    not_kept: bool


@require_http_methods(["GET", "HEAD", "POST"])
@in_yard
@with_plan
def scale(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """What a scale should show for the plan, beside what it did show; kept when asked."""
    unit = request.user.unit_system
    posted = request.method == "POST" and request.POST.get("do") != "compare"
    form = HaulTicketForm(
        request.POST if posted else None,
        units=unit,
        initial={"weighed_on": timezone.localdate(), "read_by": request.user.shown_name},
    )
    problems: list[str] = []
    if posted:
        boxes, problems = read_boxes(request.POST, unit, len(plan.trailer.axles))
        if form.is_valid() and not problems:
            ticket = keep_haul_ticket(
                haul, plan, boxes, form.cleaned_data, user=request.user, system=unit
            )
            messages.success(request, "The haul's ticket is kept, with what was planned.")
            return redirect("weighed", ticket.pk)
    sent = request.POST if request.method == "POST" else request.GET
    page = scale_page(haul, plan, sent, unit)
    view = ScaleView(
        **parts(page),
        form=form,
        problems=problems,
        posted=posted,
        not_kept=posted and bool(problems or form.errors),
    )
    return aspect_page(
        request,
        "weighing/scale.html",
        haul,
        "scale",
        view,
        wrong=posted or bool(page.wrong),
    )
