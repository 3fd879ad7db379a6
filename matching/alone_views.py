"""A truck or a trailer asked about by itself."""

from __future__ import annotations

from dataclasses import dataclass

from django import forms
from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from django.views.decorators.http import require_safe

from book.fields import QuantityFormField
from book.forms import InUnits
from book.models import Hitch, Trailer, Truck
from matching.alone import TrailerAlone, TruckAlone, trailer_alone, truck_alone
from measures import UnitSystem
from mechanics.errors import MechanicsError
from web.pages import show
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class TruckPage:
    """A truck at each of its hitches."""

    truck: Truck
    ways: tuple[TruckAlone, ...]
    wrong: str = ""


@require_safe
@in_yard
def truck(request: YardRequest, pk: int) -> HttpResponse:
    """What a truck has left for a tongue weight, and how far it squats under one."""
    own = get_object_or_404(Truck.objects.filter(yard=request.yard), pk=pk)
    hitches = (
        Hitch.objects.filter(truck=own)
        .select_related("truck__yard")
        .prefetch_related("truck__loads", "links__part")
    )
    page = TruckPage(truck=own, ways=())
    try:
        ways = tuple(truck_alone(hitch, request.user.unit_system) for hitch in hitches)
        page = TruckPage(truck=own, ways=ways)
    except MechanicsError as error:
        page = TruckPage(truck=own, ways=(), wrong=f"Its figures do not fit together. {error}.")
    return show(request, "matching/truck_alone.html", page, place="match")


class ReadingForm(InUnits, forms.Form):
    """A tongue reading of a loaded trailer, and what it weighs."""

    tongue = QuantityFormField(
        kind="mass", least="positive", required=False, label="Tongue, as read"
    )
    loaded = QuantityFormField(
        kind="mass",
        least="positive",
        required=False,
        label="The loaded trailer weighs",
        help_text="Scale ticket, or what was on it and its own weight. Empty: not known.",
    )

    def __init__(self, *args: object, units: UnitSystem, **kwargs: object) -> None:
        super().__init__(*args, **kwargs)  # type: ignore[arg-type]
        self.prepare(units)

    def clean(self) -> dict[str, object]:
        """The tongue is a part of the whole."""
        cleaned: dict[str, object] = super().clean() or self.cleaned_data
        tongue, loaded = self.cleaned_data.get("tongue"), self.cleaned_data.get("loaded")
        if tongue and loaded and tongue.si >= loaded.si:
            self.add_error("loaded", "The tongue is a part of it: it has to weigh more than that.")
        return cleaned


@dataclass(frozen=True, kw_only=True)
class TrailerPage:
    """A trailer by itself, with a reading of its tongue if one was given."""

    trailer: Trailer
    form: ReadingForm
    found: TrailerAlone


@require_safe
@in_yard
def trailer(request: YardRequest, pk: int) -> HttpResponse:
    """What a trailer carries, and its share from a tongue reading."""
    own = get_object_or_404(
        Trailer.objects.filter(yard=request.yard)
        .select_related("yard")
        .prefetch_related("axles", "additions"),
        pk=pk,
    )
    unit = request.user.unit_system
    form = ReadingForm(request.GET or None, units=unit)
    given = form.cleaned_data if form.is_bound and form.is_valid() else {}
    found = trailer_alone(own, unit, tongue=given.get("tongue"), loaded=given.get("loaded"))
    page = TrailerPage(trailer=own, form=form, found=found)
    status = 422 if form.errors else 200
    return show(request, "matching/trailer_alone.html", page, place="match", status=status)
