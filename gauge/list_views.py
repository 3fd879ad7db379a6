"""The yard's gauges: what they send, and how they connect."""

from __future__ import annotations

from django.conf import settings
from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_POST

from gauge.forms import GaugeForm
from gauge.models import Gauge
from yards.access import YardRequest, planners


@require_http_methods(["GET", "POST"])
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
        return redirect("edit_gauge", gauge.pk)
    context = {
        "gauges": Gauge.objects.filter(yard=request.yard),
        "form": form,
        "place": "weigh",
    }
    return render(request, "gauge/list.html", context, status=422 if form.errors else 200)


@require_http_methods(["GET", "POST"])
@planners
def edit_gauge(request: YardRequest, pk: int) -> HttpResponse:
    """One gauge: its figures, its key, the first line it has to send."""
    gauge = get_object_or_404(Gauge.objects.filter(yard=request.yard), pk=pk)
    form = GaugeForm(
        request.POST if request.method == "POST" else None,
        instance=gauge,
        yard=request.yard,
        units=request.user.unit_system,
    )
    if request.method == "POST" and form.is_valid():
        form.save()
        messages.success(request, "Saved. The gauge goes by it when it connects next.")
        return redirect("edit_gauge", gauge.pk)
    context = {
        "gauge": gauge,
        "form": form,
        "host": settings.GAUGE_HOST,
        "port": settings.GAUGE_PORT,
        "place": "weigh",
    }
    return render(request, "gauge/edit.html", context, status=422 if form.errors else 200)


@require_POST
@planners
def remove_gauge(request: YardRequest, pk: int) -> HttpResponse:
    """Take a gauge off the list; its key is good for nothing then."""
    gauge = get_object_or_404(Gauge.objects.filter(yard=request.yard), pk=pk)
    gauge.delete()
    messages.success(request, f"{gauge.name} is off the list. Readings that were kept stay.")
    return redirect("gauges")
