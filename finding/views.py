"""The search's page."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from finding.results import Group, found
from web.pages import show
from yards.access import YardRequest, in_yard

LONGEST = 100
"""Characters of what is looked for."""


@dataclass(frozen=True, kw_only=True)
class SearchPage:
    """What was looked for, and what was found."""

    typed: str
    groups: list[Group]


@require_safe
@in_yard
def search(request: YardRequest) -> HttpResponse:
    """Look for words in hauls, the book and tickets; a part of the page while somebody types."""
    typed = request.GET.get("q", "").strip()[:LONGEST]
    page = SearchPage(typed=typed, groups=found(request.yard, typed))
    inner = request.headers.get("HX-Request") == "true"
    return show(request, "finding/_found.html" if inner else "finding/search.html", page)
