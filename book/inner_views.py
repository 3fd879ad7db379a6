"""Pages of what belongs to a thing: hitches of a truck, configurations of a machine."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.contrib import messages
from django.forms import BoundField
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_http_methods, require_POST

from book.forms import ConfigurationForm, HitchForm
from book.kinds import Rows
from book.models import (
    Configuration,
    Hitch,
    Machine,
    Truck,
)
from book.removed_views import told_removed
from book.row_forms import NewPartFormSet
from book.services.things import (
    StaleThing,
    is_set_up,
    remove_inner,
    save_configuration,
    save_hitch,
)
from book.summary import ChainShown, chain_shown
from web.pages import show
from yards.access import YardRequest, planners
from yards.throttle import address_of


@dataclass(frozen=True, kw_only=True)
class InnerPage:
    """What belongs to a thing, with its boxes.

    ``name`` is what it is stored under, empty for a new one; ``behind`` tells that somebody
    else has changed the thing since ``version``.
    """

    name: str
    form: Any
    version: Any
    why: str
    behind: bool


@dataclass(frozen=True, kw_only=True)
class HitchPage(InnerPage):
    """A hitch of a truck, its boxes in groups; ``rows`` are new parts, ``chain`` the whole."""

    truck: Truck
    hitch: Hitch | None
    fields: list[BoundField]
    bars: list[BoundField]
    bars_open: bool
    parts_on: BoundField
    rows: Rows
    chain: ChainShown | None


@dataclass(frozen=True, kw_only=True)
class ConfigurationPage(InnerPage):
    """A configuration of a machine; ``removable`` whether any part of it comes off."""

    machine: Machine
    configuration: Configuration | None
    removable: bool


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def edit_hitch(request: YardRequest, truck_pk: int, pk: int | None = None) -> HttpResponse:
    """Add or change a hitch of a truck with its parts."""
    truck = get_object_or_404(
        Truck.objects.filter(yard=request.yard).select_related("yard"), pk=truck_pk
    )
    hitch = (
        get_object_or_404(truck.hitches.prefetch_related("links__part"), pk=pk)
        if pk is not None
        else Hitch(truck=truck)
    )
    name = hitch.name if pk is not None else ""
    was_set_up = pk is not None or is_set_up(request.yard)
    units = request.user.unit_system
    data = request.POST if request.method == "POST" else None
    form = HitchForm(data, instance=hitch, units=units, yard=request.yard)
    more = {"units": units, "yard": request.yard, "on_trailer": False}
    parts = NewPartFormSet(data, prefix="new", form_kwargs=more)
    behind = False
    if data is not None:
        valid = [form.is_valid(), parts.is_valid()]
        if all(valid):
            try:
                save_hitch(
                    form,
                    parts,
                    version=data.get("version"),
                    user=request.user,
                    why=data.get("why", ""),
                )
            except StaleThing:
                behind = True
                truck.refresh_from_db()
            else:
                messages.success(request, f"{hitch.name} of {truck.name} is saved.")
                if not was_set_up:
                    return redirect("home")
                return redirect("edit_thing", "trucks", truck.pk)
    bars = [form["front_axle_restoration"], form["bar_length"]]
    page = HitchPage(
        truck=truck,
        hitch=hitch if pk is not None else None,
        name=name,
        form=form,
        fields=[form[n] for n in ("name", "type", "offset", "ball_height", "mass")],
        bars=bars,
        bars_open=bars[0].value() not in (None, "") or any(box.errors for box in bars),
        parts_on=form["parts_on"],
        rows=Rows(
            prefix="new",
            heading="New parts on it",
            help="Receiver, sleeve, ball mount, ball: each with the ratings stamped on it.",
            formset=parts,
        ),
        chain=chain_shown(hitch, None, request.user.unit_system)
        if pk is not None and data is None
        else None,
        version=truck.version if behind or data is None else data.get("version"),
        why="" if data is None else data.get("why", ""),
        behind=behind,
    )
    status = 409 if behind else 422 if data is not None else 200
    return show(request, "book/hitch.html", page, place="book", status=status)


@require_POST
@planners
def remove_hitch(request: YardRequest, truck_pk: int, pk: int) -> HttpResponse:
    """Take a hitch off a truck."""
    truck = get_object_or_404(Truck.objects.filter(yard=request.yard), pk=truck_pk)
    hitch = get_object_or_404(truck.hitches.select_related("truck__yard"), pk=pk)
    return _removed(request, hitch, "trucks", truck, f"{hitch.name} is taken off {truck.name}.")


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def edit_configuration(
    request: YardRequest, machine_pk: int, pk: int | None = None
) -> HttpResponse:
    """Add or change a configuration of a machine."""
    machine = get_object_or_404(
        Machine.objects.filter(yard=request.yard).select_related("yard").prefetch_related("parts"),
        pk=machine_pk,
    )
    configuration = (
        get_object_or_404(machine.configurations, pk=pk)
        if pk is not None
        else Configuration(machine=machine)
    )
    name = configuration.name
    data = request.POST if request.method == "POST" else None
    form = ConfigurationForm(
        data, instance=configuration, units=request.user.unit_system, machine=machine
    )
    behind = False
    if data is not None and form.is_valid():
        try:
            save_configuration(
                form, version=data.get("version"), user=request.user, why=data.get("why", "")
            )
        except StaleThing:
            behind = True
            machine.refresh_from_db()
        else:
            messages.success(request, f"{configuration.name} of {machine.name} is saved.")
            return redirect("edit_thing", "machines", machine.pk)
    page = ConfigurationPage(
        machine=machine,
        configuration=configuration if pk is not None else None,
        name=name,
        form=form,
        removable=form.fields["parts"].queryset.exists(),  # type: ignore[attr-defined]
        version=machine.version if behind or data is None else data.get("version"),
        why="" if data is None else data.get("why", ""),
        behind=behind,
    )
    status = 409 if behind else 422 if data is not None else 200
    return show(request, "book/configuration.html", page, place="book", status=status)


@require_POST
@planners
def remove_configuration(request: YardRequest, machine_pk: int, pk: int) -> HttpResponse:
    """Remove a configuration; hauls planned with it keep their numbers."""
    machine = get_object_or_404(Machine.objects.filter(yard=request.yard), pk=machine_pk)
    configuration = get_object_or_404(machine.configurations.select_related("machine__yard"), pk=pk)
    done = f"{configuration.name} is removed from {machine.name}."
    return _removed(request, configuration, "machines", machine, done)


def _removed(
    request: YardRequest,
    inner: Hitch | Configuration,
    kind: str,
    thing: Truck | Machine,
    done: str,
) -> HttpResponse:
    """Take away what belongs to a thing, unless somebody changed the thing meanwhile."""
    try:
        remove_inner(
            inner,
            version=request.POST.get("version"),
            user=request.user,
            address=address_of(request),
        )
    except StaleThing:
        messages.error(request, f"Somebody changed {thing.name} in between. Look again first.")
    else:
        told_removed(request, done)
    return redirect("edit_thing", kind, thing.pk)
