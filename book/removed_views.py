"""What was removed lately, and bringing it back."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.urls import reverse
from django.utils import timezone
from django.utils.html import format_html
from django.views.decorators.http import require_POST, require_safe

from book.models import Removed
from book.services.removal import KEPT, RemovalError, bring_back
from web.pages import show
from yards.access import YardRequest, planners
from yards.throttle import address_of

SHOWN = 200


@dataclass(frozen=True, kw_only=True)
class RemovedPage:
    """What can be brought back, the newest first, and for how many days."""

    rows: Iterable[Removed]
    days: int


def told_removed(request: YardRequest, words: str) -> None:
    """Say that something is removed, with the way to bring it back for those who may."""
    if request.role.plans:
        way = format_html(' <a href="{}">Bring it back</a>', reverse("removed"))
        messages.success(request, format_html("{}{}", words, way))
    else:
        messages.success(request, words)


@require_safe
@planners
def removed(request: YardRequest) -> HttpResponse:
    """What was removed lately."""
    rows = Removed.objects.filter(yard=request.yard, removed_at__gt=timezone.now() - KEPT)
    page = RemovedPage(
        rows=rows.defer("rows", "links").select_related("removed_by")[:SHOWN], days=KEPT.days
    )
    return show(request, "book/removed.html", page, place="book")


@require_POST
@planners
def bring_removed_back(request: YardRequest, pk: int) -> HttpResponse:
    """Bring something back."""
    there = Removed.objects.filter(yard=request.yard, removed_at__gt=timezone.now() - KEPT)
    one = get_object_or_404(there, pk=pk)
    try:
        bring_back(one, user=request.user, address=address_of(request))
    except RemovalError as error:
        messages.error(request, f"{one.name} was not brought back. {error}")
    else:
        messages.success(request, f"{one.name} is back.")
    return redirect("removed")
