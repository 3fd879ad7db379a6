"""The road log."""

from __future__ import annotations

from django.http import HttpResponse
from django.views.decorators.http import require_safe

from road.trip_page import log_page
from road.trips import trips_of
from web.pages import show
from yards.access import YardRequest, in_yard


@require_safe
@in_yard
def road_log(request: YardRequest) -> HttpResponse:
    """Every trip of the yard, and what an outfit's say together."""
    page = log_page(trips_of(request.yard), request.user.unit_system)
    return show(request, "road/log.html", page, place="road")
