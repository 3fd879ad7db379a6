"""The load card as a page and on paper, and saying who drives."""

from __future__ import annotations

from dataclasses import dataclass, replace

import segno
from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.utils import timezone
from django.utils.safestring import SafeString, mark_safe
from django.utils.text import slugify
from django.views.decorators.http import require_POST, require_safe

from aspects.card.page import LoadCard, load_card
from aspects.card.paper import printed
from aspects.card.who import WhoDrivesForm
from aspects.rooms import aspect_page, with_plan
from hauls.assigning import AlreadyChangedError, assign, assigned, job_of
from hauls.models import Haul
from mechanics.plan import Plan
from web.middleware import takes_long
from yards.access import YardRequest, in_yard, planners

SLUG = "card"
CHANGED = (
    "Somebody else said who drives, or when, in between. It is shown as it is now, with what you "
    "entered in the boxes: keep it if it is still right."
)


@dataclass(frozen=True, kw_only=True)
class CardPage:
    """The card; its address as a drawing; for planners the boxes of who drives, with what they
    were shown with, and why they were not kept."""

    card: LoadCard
    qr: SafeString
    form: WhoDrivesForm | None
    was: str
    not_kept: str


@require_safe
@in_yard
@with_plan
def card(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """The load card."""
    form = WhoDrivesForm(haul=haul) if request.role.plans else None
    return _page(request, haul, form)


@takes_long
@require_safe
@in_yard
@with_plan
def card_pdf(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """The same on one sheet of paper."""
    answer = HttpResponse(
        printed(_card(request, haul), request.user.unit_system), content_type="application/pdf"
    )
    name = slugify(haul.name) or "haul"
    answer["Content-Disposition"] = f'inline; filename="load-card-{name[:60]}.pdf"'
    return answer


@require_POST
@planners
@with_plan
def who_drives(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Say who drives, and when."""
    form = WhoDrivesForm(request.POST, haul=haul)
    if not form.is_valid():
        return _page(request, haul, form)
    told = form.cleaned_data
    try:
        job = replace(job_of(haul), day=told["day"], driver=told["driver"])
        assign(haul, job, was=request.POST.get("was", ""))
    except AlreadyChangedError:
        haul.refresh_from_db()
        return _page(request, haul, form, not_kept=CHANGED)
    messages.success(request, "Kept.")
    return redirect("haul_card", haul.pk)


def _card(request: YardRequest, haul: Haul) -> LoadCard:
    return load_card(
        haul,
        request.user.unit_system,
        address=_address(request, haul),
        now=timezone.localtime(timezone.now(), request.yard.clock),
    )


def _address(request: HttpRequest, haul: Haul) -> str:
    return request.build_absolute_uri(reverse("haul", args=[haul.pk]))


def _page(
    request: YardRequest, haul: Haul, form: WhoDrivesForm | None, not_kept: str = ""
) -> HttpResponse:
    made = _card(request, haul)
    drawing = segno.make(made.address, error="m").svg_inline(
        scale=1, border=0, omitsize=True, svgclass="lc-code", lineclass=None
    )
    page = CardPage(
        card=made,
        qr=mark_safe(drawing),  # noqa: S308  made of the address' squares alone
        form=form,
        was=assigned(haul),
        not_kept=not_kept,
    )
    wrong = bool(not_kept) or (form is not None and bool(form.errors))
    return aspect_page(request, "card/card.html", haul, SLUG, page, wrong=wrong)
