"""The page of how the outfit rides, and setting spring bars."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST, require_safe

from aspects.level.bars import BarsPage, bars_page, read_gauge, read_restoration
from aspects.level.mounts import mount_words
from aspects.level.words import LevelPage, level_page
from aspects.rooms import aspect_page, base_sent, with_plan
from hauls.models import Haul
from hauls.steps import StaleRevision
from hauls.store import save_haul
from measures import UnitSystem
from mechanics.attitude import attitude
from mechanics.plan import Plan
from pictures.drawing import Drawing, plain_picture
from web.pages import parts
from yards.access import YardRequest, in_yard, planners


@dataclass(frozen=True, kw_only=True)
class LevelView(LevelPage):
    """How it rides, and the bars as they are being set.

    ``picture`` shows it larger than it is, ``None`` where that is not known; ``mount`` says how
    much drop would level it. ``wanted`` is the gauge reading that was asked
    for, ``wrong`` and ``wrong_gauge`` what cannot be read of what was typed.
    """

    bars: BarsPage
    picture: Drawing | None
    mount: str
    wanted: str
    wrong: str
    wrong_gauge: str


LARGER: Final = 8
"""How many times tilt and squat are drawn as large as they are: an inch is hardly seen."""


def _picture(haul: Haul, plan: Plan, unit: UnitSystem) -> Drawing | None:
    riding, draft = attitude(plan), haul.draft
    if riding is None:
        return None
    return plain_picture(plan, draft.drawn, draft.look, unit, riding=riding, times=LARGER)


@require_safe
@in_yard
@with_plan
def level(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Level, squat, ball height, and weight distribution."""
    unit, length = request.user.unit_system, haul.draft.bar_length_m
    part, wrong = read_restoration(request.GET.get("restore"), plan)
    wanted = request.GET.get("gauge")
    by_gauge, wrong_gauge = read_gauge(wanted, plan, length, unit)
    page = LevelView(
        **parts(level_page(plan, unit)),
        bars=bars_page(plan, part if by_gauge is None else by_gauge, length, unit),
        picture=_picture(haul, plan, unit),
        mount=mount_words(haul, unit),
        wanted=(wanted or "")[:40],
        wrong=wrong,
        wrong_gauge=wrong_gauge,
    )
    template = "level/_bars.html" if request.headers.get("HX-Request") else "level/level.html"
    return aspect_page(request, template, haul, "level", page, wrong=bool(wrong or wrong_gauge))


@require_POST
@planners
@with_plan
def set_restoration(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """Hang spring bars on the haul, or take them off."""
    part = None
    what = "bars off"
    if request.POST.get("bars") != "off":
        part, wrong = read_restoration(request.POST.get("restore"), plan)
        if wrong:
            messages.error(request, wrong)
            return redirect("haul_ride", haul.pk)
        what = f"bars give back {round(part * 100)} %"
    try:
        save_haul(
            haul,
            haul.draft.with_bars(part),
            base=base_sent(request),
            user=request.user,
            what=what,
        )
    except StaleRevision:
        messages.error(request, "Somebody changed this haul in between. Look again, then set it.")
    else:
        messages.success(request, f"Set in this haul: {what}.")
    return redirect("haul_ride", haul.pk)
