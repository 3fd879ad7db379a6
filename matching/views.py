"""Which truck and trailer can take a load."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from book.table_views import csv_file
from matching.forms import MatchForm
from matching.lists_out import match_table
from matching.pairs import PAIRS, Match, Order, matches
from mechanics.errors import MechanicsError
from planfile.errors import PlanFileError
from web.budget import costly
from web.pages import show
from yards.access import YardRequest, in_yard

NAME_LETTERS = 180
"""Letters of a new haul's name that the loads' names may fill."""


@dataclass(frozen=True, kw_only=True)
class MatchPage:
    """Pairs of truck and trailer for what was ``asked``; ``keys`` are its loads as they are sent.

    ``cut`` says after how many pairs the search stopped, 0 where it did not.
    """

    form: MatchForm
    asked: bool = False
    wrong: str = ""
    rows: Sequence[Match] = ()
    cut: int = 0
    name: str = ""
    keys: Sequence[tuple[str, str]] = ()
    single: bool = False
    orders: Sequence[OrderLink] = ()
    guessed: bool = False
    """Whether some verdict rests on estimates."""


@dataclass(frozen=True, kw_only=True, slots=True)
class OrderLink:
    """What the table can be sorted by."""

    words: str
    address: str
    here: bool


ORDERS = {Order.ROAD: "the road", Order.CLIMB: "getting on and off"}
"""What the table can be sorted by, in words."""


def _orders(request: YardRequest, order: Order) -> list[OrderLink]:
    links = []
    for one, words in ORDERS.items():
        query = request.GET.copy()
        query["sort"] = one.value
        links.append(OrderLink(words=words, address=f"?{query.urlencode()}", here=one is order))
    return links


@require_safe
@in_yard
@costly(12, "Match fewer loads at once.")
def match(request: YardRequest) -> HttpResponse:
    """Which truck and trailer can take a load: every pair with its verdict and why."""
    asked = any(key.startswith("load_") for key in request.GET)
    form = MatchForm(request.GET if asked else None, yard=request.yard)
    page = MatchPage(form=form)
    climb = request.GET.get("sort") == Order.CLIMB.value
    order = Order.CLIMB if climb else Order.ROAD
    if asked and form.is_valid():
        try:
            loads = form.loads
            rows, cut = matches(request.yard, loads, request.user.unit_system, order)
        except (PlanFileError, MechanicsError) as error:
            page = replace(page, wrong=f"The book's figures do not fit together. {error}.")
        else:
            if request.GET.get("as") in ("csv", "xlsx"):
                return csv_file(request, match_table(rows), "match")
            page = replace(
                page,
                asked=True,
                rows=rows,
                cut=PAIRS if cut else 0,
                name=", ".join(load.name for load in loads)[:NAME_LETTERS],
                keys=[(f"load_{n}", str(load.key)) for n, load in enumerate(loads, 1)],
                single=len(loads) == 1,
                guessed=any(row.likely for row in rows),
                orders=_orders(request, order),
            )
    status = 422 if form.errors or page.wrong else 200
    return show(request, "matching/match.html", page, place="match", status=status)
