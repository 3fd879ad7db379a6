"""What to buy or rent: a sheet to take to the dealer, and whether an advertised one would do."""

from __future__ import annotations

from dataclasses import dataclass, replace

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from matching.buy import NoSheetError, Sheet, sheet
from matching.buy_forms import BuyForm
from web.budget import costly
from web.pages import show
from yards.access import YardRequest, in_yard

DEFAULTS = {"kind_asked": "flatbed", "trip": "short"}


@dataclass(frozen=True, kw_only=True)
class BuyPage:
    """What is asked, and the sheet."""

    form: BuyForm
    sheet: Sheet | None = None
    wrong: str = ""


@require_safe
@in_yard
@costly(12, "Ask for fewer loads at once.")
def buy(request: YardRequest) -> HttpResponse:
    """What would do for some loads."""
    asked = request.GET.copy()
    for name, value in DEFAULTS.items():
        asked.setdefault(name, value)
    units = request.user.unit_system
    given = any(key.startswith("load_") for key in request.GET)
    form = BuyForm(asked if given else None, initial=DEFAULTS, yard=request.yard, units=units)
    page = BuyPage(form=form)
    if given and form.is_valid():
        try:
            page = replace(page, sheet=sheet(form, request.yard, units))
        except NoSheetError as error:
            page = replace(page, wrong=str(error))
    status = 422 if form.errors or page.wrong else 200
    return show(request, "matching/buy.html", page, place="match", status=status)
