"""The yard's gauges: what they send, and how they connect."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from django.conf import settings
from django.contrib import messages
from django.db.models import F
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.urls import reverse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from gauge.forms import GaugeForm
from gauge.models import Gauge
from gauge.watching import list_changed
from web.pages import show
from web.sent import counted
from yards.access import YardRequest, planners


@dataclass(frozen=True, kw_only=True)
class GaugeList:
    """Every gauge of the yard, and a form for another."""

    gauges: Iterable[Gauge]
    form: GaugeForm


@dataclass(frozen=True, kw_only=True)
class GaugePage:
    """One gauge; with ``moved_on`` somebody else changed it in between."""

    gauge: Gauge
    form: GaugeForm
    moved_on: bool
    version: int


@dataclass(frozen=True, kw_only=True)
class SetUp:
    """What whoever builds a gauge has to know: where to send, and an example reading."""

    gauge: Gauge
    host: str
    port: int
    address: str
    example: int


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def gauges(request: YardRequest) -> HttpResponse:
    """Every gauge of the yard, and a form for another."""
    form = GaugeForm(
        request.POST if request.method == "POST" else None,
        yard=request.yard,
        units=request.user.unit_system,
    )
    if request.method == "POST" and form.is_valid():
        gauge = form.save()
        messages.success(request, f"{gauge.name} is in the list. Give it its key to send with.")
        return redirect("gauge_set_up", gauge.pk)
    page = GaugeList(
        gauges=Gauge.objects.filter(yard=request.yard),
        form=form,
    )
    return show(request, "gauge/list.html", page, place="weigh", status=422 if form.errors else 200)


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def edit_gauge(request: YardRequest, pk: int) -> HttpResponse:
    """One gauge: its name and figures."""
    gauge = get_object_or_404(Gauge.objects.filter(yard=request.yard), pk=pk)
    form = GaugeForm(
        request.POST if request.method == "POST" else None,
        instance=gauge,
        yard=request.yard,
        units=request.user.unit_system,
    )
    moved_on = False
    if request.method == "POST" and form.is_valid():
        based = counted(request.POST.get("version"))
        # the other's change stands; what was typed here stays in the boxes
        claimed = Gauge.objects.filter(pk=pk, version=based).update(version=F("version") + 1)
        moved_on = not claimed
    if request.method == "POST" and form.is_valid() and not moved_on:
        gauge.version = based + 1
        form.save()
        messages.success(request, "Saved. The gauge goes by it when it connects next.")
        return redirect("edit_gauge", gauge.pk)
    page = GaugePage(
        gauge=gauge,
        form=form,
        moved_on=moved_on,
        version=Gauge.objects.values_list("version", flat=True).get(pk=pk),
    )
    status = 409 if moved_on else 422 if form.errors else 200
    return show(request, "gauge/edit.html", page, place="weigh", status=status)


@never_cache
@require_safe
@planners
def set_up(request: YardRequest, pk: int) -> HttpResponse:
    """For whoever builds a gauge: its key, and what it has to send where."""
    gauge = get_object_or_404(Gauge.objects.filter(yard=request.yard), pk=pk)
    page = SetUp(
        gauge=gauge,
        host=settings.GAUGE_HOST,
        port=settings.GAUGE_PORT,
        address=request.build_absolute_uri(reverse("gauge_send")),
        example=1120 if gauge.unit == Gauge.Unit.LB else 508,
    )
    return show(request, "gauge/set_up.html", page, place="weigh")


@require_POST
@planners
def remove_gauge(request: YardRequest, pk: int) -> HttpResponse:
    """Take a gauge off the list; its key is good for nothing then."""
    gauge = get_object_or_404(Gauge.objects.filter(yard=request.yard), pk=pk)
    key = gauge.key
    gauge.delete()
    if settings.GAUGE_PORT:
        list_changed(settings.GAUGE_HOST, settings.GAUGE_PORT, key)
    messages.success(request, f"{gauge.name} is off the list. Readings that were kept stay.")
    return redirect("gauges")
