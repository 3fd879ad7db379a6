"""The book: lists, and one page for each thing."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.contrib import messages
from django.db import transaction
from django.db.models import F
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from book.forms import (
    AxleFormSet,
    CouplerRows,
    HitchForm,
    HitchPartRows,
    LoadRows,
    MachineForm,
    ThingForm,
    TrailerForm,
    TruckForm,
)
from book.models import Hitch, Machine, Thing, Trailer, Truck
from measures.writing import UnitSystem, write_length, write_mass
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class Kind:
    """A kind of thing the book lists: its words, its form, its inner lists.

    ``rows`` are prefix, heading, help and formset class; ``groups`` the headings of the
    form with the fields under each.
    """

    slug: str
    one: str
    many: str
    model: type[Thing]
    form: type[ThingForm]
    rows: tuple[tuple[str, str, str, Any], ...] = ()
    groups: tuple[tuple[str, tuple[str, ...]], ...] = ()


KINDS = {
    kind.slug: kind
    for kind in (
        Kind(
            slug="trucks",
            one="truck",
            many="trucks",
            model=Truck,
            form=TruckForm,
            rows=(
                (
                    "loads",
                    "Usual load of the truck",
                    "People, tools, bed tank: everything that rides in it. It all uses payload.",
                    LoadRows,
                ),
            ),
            groups=(
                (
                    "Weighed and taped",
                    ("name", "front_axle_mass", "rear_axle_mass", "wheelbase"),
                ),
                (
                    "Ratings, as the plates say",
                    (
                        "front_gawr",
                        "rear_gawr",
                        "gvwr",
                        "payload",
                        "gcwr",
                        "max_trailer_mass",
                        "max_tongue_mass",
                    ),
                ),
                ("Notes", ("notes",)),
            ),
        ),
        Kind(
            slug="trailers",
            one="trailer",
            many="trailers",
            model=Trailer,
            form=TrailerForm,
            rows=(
                ("axles", "Axles", "From the front one back.", AxleFormSet),
                (
                    "parts",
                    "Hitch parts on the trailer",
                    "Coupler, safety chains: what stays with the trailer.",
                    CouplerRows,
                ),
            ),
            groups=(
                (
                    "Empty, on the scale",
                    (
                        "name",
                        "kind",
                        "empty_mass",
                        "empty_mass_tolerance",
                        "empty_tongue_mass",
                        "empty_tongue_mass_tolerance",
                        "gvwr",
                    ),
                ),
                ("Running gear", ("suspension", "track_width")),
                (
                    "Deck",
                    (
                        "deck_start",
                        "deck_length",
                        "deck_width",
                        "deck_height",
                        "front_overhang",
                        "rear_overhang",
                    ),
                ),
                ("Notes", ("notes",)),
            ),
        ),
        Kind(
            slug="machines",
            one="machine",
            many="machines",
            model=Machine,
            form=MachineForm,
            groups=(
                ("What it weighs", ("name", "shape", "mass", "mass_known", "mass_tolerance")),
                (
                    "Where it balances",
                    (
                        "mark_name",
                        "balance_ahead",
                        "balance_known",
                        "balance_tolerance",
                        "balance_left",
                        "balance_height",
                    ),
                ),
                ("How big it is", ("reach_front", "reach_rear", "width", "height", "wheelbase")),
                ("Notes", ("notes",)),
            ),
        ),
    )
}

MUST_KNOW = {
    "trucks": {
        "front_gawr": "front axle rating",
        "rear_gawr": "rear axle rating",
        "gvwr": "GVWR",
        "gcwr": "GCWR",
        "max_trailer_mass": "tow rating",
    },
    "trailers": {"gvwr": "GVWR"},
    "machines": {},
}
"""Ratings without which some check cannot say."""


def _kind(slug: str) -> Kind:
    try:
        return KINDS[slug]
    except KeyError:
        raise Http404(slug) from None


def _gaps(kind: Kind, thing: Any) -> list[str]:
    """What the thing lacks, in words."""
    gaps = [words for field, words in MUST_KNOW[kind.slug].items() if getattr(thing, field) is None]
    if kind.slug == "trucks":
        if thing.payload is None and thing.gvwr is None:
            gaps.append("payload")
        if not thing.hitches.all():
            gaps.append("a hitch")
    if kind.slug == "trailers" and any(a.gawr is None for a in thing.axles.all()):
        gaps.append("axle rating")
    return gaps


def _figures(kind: Kind, thing: Any, units: UnitSystem) -> list[tuple[str, str]]:
    """The two or three figures that tell one thing from another in a list."""

    def mass(quantity: Any) -> str:
        return "not known" if quantity is None else write_mass(float(quantity.si), units)

    if kind.slug == "trucks":
        empty = float(thing.front_axle_mass.si + thing.rear_axle_mass.si)
        return [
            ("empty", write_mass(empty, units)),
            ("payload", mass(thing.payload)),
            ("tow rating", mass(thing.max_trailer_mass)),
        ]
    if kind.slug == "trailers":
        return [
            ("empty", mass(thing.empty_mass)),
            ("GVWR", mass(thing.gvwr)),
            ("deck", write_length(float(thing.deck_length.si), units, step=1)),
        ]
    length = float(thing.reach_front.si + thing.reach_rear.si)
    return [
        ("mass", mass(thing.mass)),
        ("mass is", thing.get_mass_known_display().lower()),
        ("length", write_length(length, units, step=1)),
    ]


@require_GET
@in_yard
def book(request: YardRequest) -> HttpResponse:
    """All the yard owns, in three lists."""
    units = request.user.unit_system
    lists = []
    for kind in KINDS.values():
        things = kind.model._default_manager.filter(yard=request.yard)
        if kind.slug == "trucks":
            things = things.prefetch_related("hitches")
        elif kind.slug == "trailers":
            things = things.prefetch_related("axles")
        rows = [
            {"thing": t, "figures": _figures(kind, t, units), "gaps": _gaps(kind, t)}
            for t in things
        ]
        lists.append({"kind": kind, "rows": rows})
    return render(request, "book/book.html", {"lists": lists, "place": "book"})


@require_http_methods(["GET", "POST"])
@in_yard
def edit(request: YardRequest, slug: str, pk: int | None = None) -> HttpResponse:
    """Add or change a thing with everything that belongs to it, whole or not at all."""
    kind = _kind(slug)
    thing: Thing = (
        get_object_or_404(kind.model._default_manager.filter(yard=request.yard), pk=pk)
        if pk is not None
        else kind.model()
    )
    units = request.user.unit_system
    data = request.POST or None
    form = kind.form(data, instance=thing, units=units, yard=request.yard)
    rows = [
        {
            "heading": heading,
            "help": words,
            "formset": formset(data, instance=thing, prefix=prefix, form_kwargs={"units": units}),
        }
        for prefix, heading, words, formset in kind.rows
    ]
    behind = False
    if request.method == "POST":
        # every box is checked before anything is said, so that all errors show at once
        valid = [form.is_valid(), *(row["formset"].is_valid() for row in rows)]
        if all(valid):
            if _store(kind, form, [row["formset"] for row in rows], request.POST.get("version")):
                messages.success(request, f"{thing.name} is saved.")
                if kind.slug == "trucks" and not thing.hitches.exists():  # type: ignore[attr-defined]
                    return redirect("add_hitch", thing.pk)
                return redirect("book")
            behind = True
    stored_version = (
        kind.model._default_manager.filter(pk=pk).values_list("version", flat=True).first() or 0
    )
    context = {
        "kind": kind,
        "thing": thing if pk is not None else None,
        "name": kind.model._default_manager.get(pk=pk).name if pk is not None else "",
        "form": form,
        "groups": [(heading, [form[name] for name in names]) for heading, names in kind.groups],
        "rows": rows,
        "hitches": list(thing.hitches.all()) if pk and kind.slug == "trucks" else None,  # type: ignore[attr-defined]
        "version": stored_version
        if behind or request.method == "GET"
        else request.POST.get("version"),
        "behind": behind,
        "place": "book",
    }
    status = 409 if behind else 422 if request.method == "POST" else 200
    return render(request, "book/edit.html", context, status=status)


@transaction.atomic
def _store(kind: Kind, form: ThingForm, formsets: list[Any], version: str | None) -> bool:
    """Save a page whole; False, with nothing stored, where the thing has moved on."""
    thing = form.instance
    if thing.pk is not None:
        based = int(version) if (version or "").isdigit() else 0
        current = kind.model._default_manager.filter(pk=thing.pk, version=based)
        if not current.update(version=F("version") + 1):
            return False
        thing.version = based + 1
    form.save()
    for formset in formsets:
        formset.instance = thing
        formset.save()
    return True


@require_POST
@in_yard
def remove(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Take a thing out of the book; hauls planned with it keep their numbers."""
    kind = _kind(slug)
    thing = get_object_or_404(kind.model._default_manager.filter(yard=request.yard), pk=pk)
    thing.delete()
    messages.success(
        request, f"{thing.name} is out of the book. Hauls planned with it keep their numbers."
    )
    return redirect("book")


@require_http_methods(["GET", "POST"])
@in_yard
def edit_hitch(request: YardRequest, truck_pk: int, pk: int | None = None) -> HttpResponse:
    """Add or change a hitch of a truck with its parts."""
    truck = get_object_or_404(Truck.objects.filter(yard=request.yard), pk=truck_pk)
    hitch = get_object_or_404(truck.hitches, pk=pk) if pk is not None else Hitch(truck=truck)
    units = request.user.unit_system
    data = request.POST or None
    form = HitchForm(data, instance=hitch, units=units)
    parts = HitchPartRows(data, instance=hitch, prefix="parts", form_kwargs={"units": units})
    behind = False
    if request.method == "POST":
        valid = [form.is_valid(), parts.is_valid()]
        if all(valid):
            if _store_hitch(truck, form, parts, request.POST.get("version")):
                messages.success(request, f"{hitch.name} of {truck.name} is saved.")
                return redirect("edit_thing", "trucks", truck.pk)
            behind = True
            truck.refresh_from_db()
    context = {
        "truck": truck,
        "hitch": hitch if pk is not None else None,
        "form": form,
        "rows": [
            {
                "heading": "Parts that stay with the truck",
                "help": "Receiver, sleeve, ball mount, ball: each with the ratings stamped on it. "
                "The weakest governs.",
                "formset": parts,
            }
        ],
        "version": truck.version
        if behind or request.method == "GET"
        else request.POST.get("version"),
        "behind": behind,
        "place": "book",
    }
    status = 409 if behind else 422 if request.method == "POST" else 200
    return render(request, "book/hitch.html", context, status=status)


@transaction.atomic
def _store_hitch(truck: Truck, form: HitchForm, parts: Any, version: str | None) -> bool:
    """Save hitch and parts; a hitch is part of its truck and shares its version."""
    based = int(version) if (version or "").isdigit() else 0
    current = Truck.objects.filter(pk=truck.pk, version=based)
    if not current.update(version=F("version") + 1):
        return False
    parts.instance = form.save()
    parts.save()
    return True


@require_POST
@in_yard
def remove_hitch(request: YardRequest, truck_pk: int, pk: int) -> HttpResponse:
    """Take a hitch off a truck."""
    truck = get_object_or_404(Truck.objects.filter(yard=request.yard), pk=truck_pk)
    hitch = get_object_or_404(truck.hitches, pk=pk)
    hitch.delete()
    messages.success(request, f"{hitch.name} is taken off {truck.name}.")
    return redirect(reverse("edit_thing", args=["trucks", truck.pk]))
