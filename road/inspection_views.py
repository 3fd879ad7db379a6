"""Inspections: what is due, that it was done, how often it has to be."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST

from book.removed_views import told_removed
from book.services.removal import remove
from road.forms import InspectionForm, LookedForm
from road.inspections import Due, add, dues_of
from road.models import Inspection, Looked
from web.pages import show
from yards.access import YardRequest, in_yard, planners
from yards.throttle import address_of


@dataclass(frozen=True, kw_only=True)
class DueLine:
    """An inspection, and the boxes that say it was done."""

    due: Due
    form: LookedForm


@dataclass(frozen=True, kw_only=True)
class InspectionsPage:
    """All inspections of the yard, and for planners the boxes of one more."""

    dues: list[DueLine]
    form: InspectionForm | None


@require_http_methods(["GET", "HEAD", "POST"])
@in_yard
def inspections(request: YardRequest) -> HttpResponse:
    """What is due; one more, for those who plan."""
    if request.method != "POST":
        return _page(request)
    if not request.role.plans:
        raise PermissionDenied
    form = InspectionForm(request.POST, yard=request.yard, units=request.user.unit_system)
    if not form.is_valid():
        return _page(request, form=form, status=422)
    add(form, yard=request.yard, user=request.user)
    messages.success(request, "Kept.")
    return redirect("inspections")


@require_POST
@in_yard
def inspected(request: YardRequest, pk: int) -> HttpResponse:
    """Say that it was inspected."""
    found = get_object_or_404(Inspection.objects.filter(yard=request.yard), pk=pk)
    form = LookedForm(request.POST, units=request.user.unit_system, today=timezone.localdate())
    if not form.is_valid():
        return _page(request, sent={pk: form}, status=422)
    told = form.cleaned_data
    Looked.objects.create(inspection=found, on=told["on"], note=told["note"], by=request.user)
    messages.success(request, "Kept.")
    return redirect("inspections")


@require_POST
@planners
def remove_inspection(request: YardRequest, pk: int) -> HttpResponse:
    """Remove an inspection, with when it was done."""
    found = get_object_or_404(Inspection.objects.filter(yard=request.yard), pk=pk)
    remove(
        found,
        what="inspection",
        name=f"{found.thing.name}: {found.what}",
        yard=request.yard,
        user=request.user,
        address=address_of(request),
    )
    told_removed(request, "The inspection is removed.")
    return redirect("inspections")


def _page(
    request: YardRequest,
    *,
    form: InspectionForm | None = None,
    sent: dict[int, LookedForm] | None = None,
    status: int = 200,
) -> HttpResponse:
    today: date = timezone.localdate()
    unit, forms = request.user.unit_system, sent or {}
    if form is None and request.role.plans:
        form = InspectionForm(yard=request.yard, units=unit)
    page = InspectionsPage(
        dues=[
            DueLine(due=due, form=forms.get(due.pk) or LookedForm(units=unit, today=today))
            for due in dues_of(request.yard, today, unit, everything=True)
        ],
        form=form,
    )
    return show(request, "road/inspections.html", page, place="road", status=status)
