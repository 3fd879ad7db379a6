"""What a driver notes of a haul besides its steps: ticks, weather, stops, gain, trips."""

from __future__ import annotations

from django.core.exceptions import PermissionDenied
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils import timezone
from django.views.decorators.http import require_POST

from aspects.tied_down.list_views import GONE, tick_sent
from book.removed_views import told_removed
from book.services.removal import remove
from hauls.hookup import WEATHERS
from offline.once import kept, noted_at, once
from planfile.errors import PlanFileError
from road.forms import GainForm, TripForm
from road.gain import keep_gain
from road.lists import keys_of_lists, lists_of
from road.models import Trip
from road.page import so_far
from road.services import NotNextError, look_again, say_weather
from road.trips import keep_trip
from road.views import MOVED_ON, haul_of, not_noted, not_right
from yards.access import YardRequest, in_yard
from yards.throttle import address_of

NO_BOOK = "Its truck or trailer is not in the book, so there is nothing to keep the gain with."
NO_WEATHER = "Choose one of the kinds of weather."


@require_POST
@in_yard
@once
def tick_on_list(request: YardRequest, pk: int) -> HttpResponse:
    """Tick a line of any of a haul's lists, or take its tick back."""
    haul = haul_of(request, pk)
    try:
        keys = keys_of_lists(lists_of(haul, request.user.unit_system, timezone.localdate()))
    except PlanFileError as error:
        return not_noted(request, haul, f"Its plan cannot be read. {error}.")
    if not tick_sent(request, haul, keys):
        return not_noted(request, haul, GONE)
    return kept(redirect("road_haul", pk))


@require_POST
@in_yard
@once
def weather(request: YardRequest, pk: int) -> HttpResponse:
    """Say what weather it goes out in; the walk round takes it up."""
    haul, kind = haul_of(request, pk), request.POST.get("weather", "")
    if kind not in {one.key for one in WEATHERS}:
        return not_noted(request, haul, NO_WEATHER, status=422)
    say_weather(haul, kind)
    return kept(redirect("road_haul", pk))


@require_POST
@in_yard
@once
def looked_again(request: YardRequest, pk: int) -> HttpResponse:
    """Note a stop after the first one."""
    haul = haul_of(request, pk)
    try:
        look_again(haul, user=request.user, at=noted_at(request))
    except NotNextError:
        return not_noted(request, haul, MOVED_ON, theirs=so_far(haul))
    return kept(redirect("road_haul", pk))


@require_POST
@in_yard
@once
def gain(request: YardRequest, pk: int) -> HttpResponse:
    """Keep the brake gain that was right."""
    haul = haul_of(request, pk)
    form = GainForm(request.POST, units=request.user.unit_system)
    if not form.is_valid():
        return not_right(request, haul, gain=form)
    if keep_gain(haul, form.cleaned_data["value"], user=request.user, at=noted_at(request)) is None:
        return not_noted(request, haul, NO_BOOK)
    return kept(redirect("road_haul", pk))


@require_POST
@in_yard
@once
def trip(request: YardRequest, pk: int) -> HttpResponse:
    """Keep a trip of a haul in the road log."""
    haul = haul_of(request, pk)
    form = TripForm(request.POST, units=request.user.unit_system)
    if not form.is_valid():
        return not_right(request, haul, trip=form)
    keep_trip(haul, form, user=request.user, at=noted_at(request))
    return kept(redirect("road_haul", pk))


@require_POST
@in_yard
def remove_trip(request: YardRequest, pk: int) -> HttpResponse:
    """Remove a trip: one's own, or any for those who plan."""
    found = get_object_or_404(Trip.objects.filter(yard=request.yard), pk=pk)
    if not request.role.plans and found.by_id != request.user.pk:
        raise PermissionDenied
    remove(
        found,
        what="trip",
        name=str(found),
        yard=request.yard,
        user=request.user,
        address=address_of(request),
    )
    told_removed(request, "The trip is removed.")
    return redirect("road_log")
