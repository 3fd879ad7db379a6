"""The book: lists, one page for each thing, its history, photos and inner pages."""

from __future__ import annotations

import json
from typing import Any

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.db.models import QuerySet
from django.http import FileResponse, Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from book.drawing import Sketch, machine_sketch, trailer_sketch, truck_sketch
from book.errors import IncompleteError
from book.figures import built_machine, empty_axles, empty_trailer, si
from book.forms import (
    ConfigurationForm,
    HitchForm,
    NewPartFormSet,
    PhotoForm,
    TolerancesForm,
)
from book.gaps import doubts, gaps
from book.history import changes_of, latest_changes
from book.kinds import KINDS, Group, Kind, Rows
from book.models import (
    Configuration,
    Hitch,
    HitchPart,
    Machine,
    Photo,
    Thing,
    Trailer,
    Truck,
)
from book.services.photos import PhotoError, attach, detach
from book.services.things import (
    StaleThing,
    copy_thing,
    is_set_up,
    remove_inner,
    remove_thing,
    save_configuration,
    save_hitch,
    save_thing,
)
from book.summary import chain_shown, derived, fluid_sources, sums
from book.tolerances import Tolerances
from measures import READERS, ReadingError, UnitSystem
from measures.writing import write_entered, write_length, write_mass, write_understood
from yards.access import YardRequest, in_yard, planners

LISTED = ("trucks", "trailers", "machines", "bulk", "hitch-parts")
"""The lists in the order of the book's page."""

SHOWN = 40
"""Things of one list that the page shows; the search finds the others."""

RECENT = 12
"""Changes that the book's page lists."""


def _kind(slug: str) -> Kind:
    try:
        return KINDS[slug]
    except KeyError:
        raise Http404(slug) from None


def _things(kind: Kind, request: YardRequest) -> QuerySet[Any]:
    found = kind.model._default_manager.filter(yard=request.yard).select_related("yard")
    return found.prefetch_related(*kind.prefetch)


def _figures(thing: Any, units: UnitSystem, tolerances: Tolerances) -> list[tuple[str, str]]:
    """The two or three figures that tell one thing from another in a list."""

    def mass(quantity: Any) -> str:
        return "not known" if quantity is None else write_entered(quantity)

    if isinstance(thing, Truck):
        return [
            ("GVWR", mass(thing.gvwr)),
            ("payload", mass(thing.payload)),
            ("tow rating", mass(thing.max_trailer_mass)),
        ]
    if isinstance(thing, Trailer):
        deck = thing.deck_length
        return [
            ("GVWR", mass(thing.gvwr)),
            ("empty", mass(thing.empty_mass)),
            ("deck", "not known" if deck is None else write_length(si(deck), units, step=1)),
        ]
    if isinstance(thing, HitchPart):
        return [
            ("is a", str(thing.get_kind_display()).lower()),
            ("trailer", mass(thing.max_trailer_mass)),
            ("tongue", mass(thing.max_tongue_mass)),
        ]
    if isinstance(thing, Machine):
        return _machine_figures(thing, units, tolerances)
    worked = {row.name: row.figure for row in derived(thing, units, tolerances)}
    return [
        ("mass", worked.get("Mass", "not known").partition(",  give")[0]),
        ("balances", worked.get("Balances", "not known")),
    ]


def _machine_figures(
    machine: Machine, units: UnitSystem, tolerances: Tolerances
) -> list[tuple[str, str]]:
    try:
        built = built_machine(machine, _drawn_as(machine), tolerances)
    except IncompleteError:
        front, rear = machine.reach_front, machine.reach_rear
        mass = "not known" if machine.mass is None else write_entered(machine.mass)
        length = (
            "not known"
            if front is None or rear is None
            else write_length(si(front) + si(rear), units, step=1)
        )
    else:
        mass = write_mass(built.body.mass_kg, units)
        length = write_length(built.outline.front_m + built.outline.rear_m, units, step=1)
    known = (
        str(machine.get_mass_known_display()).lower()
        if machine.built == Machine.Built.WHOLE
        else str(machine.get_built_display()).lower()
    )
    return [("mass", mass), ("known by", known), ("length", length)]


@require_GET
@in_yard
def book(request: YardRequest) -> HttpResponse:
    """All the yard owns, list by list, with what is missing."""
    units, tolerances = request.user.unit_system, Tolerances.of(request.yard)
    search = request.GET.get("q", "").strip()[:100]
    lists = []
    open_gaps = open_questions = 0
    for slug in LISTED:
        kind, rows = KINDS[slug], []
        things = _things(kind, request).filter(name__icontains=search)
        count = things.count()
        for thing in things[:SHOWN]:
            lacking, asked = gaps(thing, units), doubts(thing, units, tolerances)
            open_gaps += bool(lacking)
            open_questions += bool(asked)
            rows.append(
                {
                    "thing": thing,
                    "figures": _figures(thing, units, tolerances),
                    "gaps": lacking,
                    "doubts": asked,
                }
            )
        lists.append({"kind": kind, "rows": rows, "count": count, "more": count - len(rows)})
    context = {
        "lists": lists,
        "search": search,
        "all_shown": not any(entry["more"] for entry in lists),
        "open_gaps": open_gaps,
        "open_questions": open_questions,
        "latest": latest_changes(request.yard, RECENT),
        "place": "book",
    }
    return render(request, "book/book.html", context)


@require_http_methods(["GET", "POST"])
@in_yard
def edit(request: YardRequest, slug: str, pk: int | None = None) -> HttpResponse:
    """Look at a thing; add or change it with everything that belongs to it."""
    kind = _kind(slug)
    if (request.method == "POST" or pk is None) and not request.role.plans:
        raise PermissionDenied
    thing: Thing = (
        get_object_or_404(_things(kind, request), pk=pk) if pk is not None else kind.model()
    )
    stored_name = thing.name
    was_set_up = pk is not None or is_set_up(request.yard)
    units = request.user.unit_system
    data = request.POST if request.method == "POST" else None
    # a page sent with another plate, or read anew, is worded for that plate
    if data is None and pk is None and isinstance(thing, Truck) and units is UnitSystem.METRIC:
        thing.plate = Truck.Plate.METRIC
    form = kind.form(data, instance=thing, units=units, yard=request.yard)
    rows = [(row, _formset(row, data, thing, request)) for row in kind.rows]
    behind = False
    if data is not None:
        # every box is checked before anything is said, so that all errors show at once
        valid = [form.is_valid(), *(formset.is_valid() for _, formset in rows)]
        if all(valid):
            try:
                save_thing(
                    form,
                    [formset for _, formset in rows],
                    version=data.get("version"),
                    user=request.user,
                    why=data.get("why", ""),
                )
            except StaleThing:
                behind = True
            else:
                messages.success(request, f"{thing.name} is saved.")
                return _after_saving(kind, thing, new=pk is None, was_set_up=was_set_up)
    shown = get_object_or_404(_things(kind, request), pk=pk) if pk is not None else None
    context = {
        "kind": kind,
        "thing": shown,
        "name": stored_name,
        "form": form,
        "sheets": _sheets(kind, form, rows),
        "version": shown.version
        if shown and (behind or data is None)
        else (data or {}).get("version", ""),
        "why": (data or {}).get("why", ""),
        "behind": behind,
        "may_change": request.role.plans,
        "place": "book",
        **(_beside(shown, request) if shown is not None else {"aside": None}),
    }
    status = 409 if behind else 422 if data is not None else 200
    return render(request, "book/edit.html", context, status=status)


def _formset(row: Rows, data: Any, thing: Thing, request: YardRequest) -> Any:
    units = request.user.unit_system
    if row.prefix == "new":
        more = {"units": units, "yard": request.yard, "on_trailer": True}
        return row.formset(data, prefix=row.prefix, form_kwargs=more)
    return row.formset(data, instance=thing, prefix=row.prefix, form_kwargs={"units": units})


def _after_saving(kind: Kind, thing: Thing, *, new: bool, was_set_up: bool) -> HttpResponse:
    """A truck goes on to its hitch; in a yard that is being set up, on to the next step."""
    if isinstance(thing, Truck) and not thing.hitches.exists():
        return redirect("add_hitch", thing.pk)
    if new and not was_set_up:
        return redirect("home")
    return redirect("edit_thing", kind.slug, thing.pk)


def _sheets(kind: Kind, form: Any, rows: list[tuple[Rows, Any]]) -> list[dict[str, Any]]:
    """Groups of boxes and inner lists in the order of the page."""
    sheets = []
    for group in kind.groups:
        fields = [form[name] for name in group.fields]
        sheets.append(
            {
                "group": group,
                "fields": fields,
                "folded": group.folded,
                "open": any(b.errors for b in fields),
                "filled": sum(_differs(b) for b in fields) if group.folded else 0,
                "rows": None,
            }
        )
    lists = [
        {
            "group": None,
            "fields": [],
            "rows": {"heading": row.heading, "help": row.help, "formset": formset},
            "folded": row.folded,
            "filled": 0,
            "open": bool(formset.initial_form_count())
            or any(f.has_changed() for f in formset.forms if formset.is_bound)
            or form["built"].value() == "parts"
            if row.folded
            else True,
        }
        for row, formset in rows
    ]
    after = {"new": "Coupler and chains"}
    for entry, (row, _) in zip(lists, rows, strict=True):
        heading = after.get(row.prefix)
        at = next(
            (n + 1 for n, s in enumerate(sheets) if heading and _is(s["group"], heading)),
            len(sheets) - 1,
        )
        sheets.insert(at, entry)
    return sheets


def _is(group: Group | None, heading: str) -> bool:
    return group is not None and group.heading == heading


def _differs(bound: Any) -> bool:
    """Whether a box holds something other than its default."""
    columns = bound.form._meta.model._meta.concrete_fields
    defaults = {column.name: column.get_default() for column in columns}
    return bound.value() not in (None, "", False, [], defaults.get(bound.name))


def _beside(thing: Thing, request: YardRequest) -> dict[str, Any]:
    """What stands beside the boxes: drawing, derived figures, gaps, doubts, photos."""
    units, tolerances = request.user.unit_system, Tolerances.of(request.yard)
    chains = []
    if isinstance(thing, Truck):
        trailers = list(
            Trailer.objects.filter(yard=request.yard).prefetch_related("axles", "links__part")
        )
        for hitch in thing.hitches.all():
            chains.append(
                {
                    "hitch": hitch,
                    "alone": chain_shown(hitch, None),
                    "pairs": [
                        (trailer, chain_shown(hitch, trailer))
                        for trailer in trailers
                        if trailer.links.all()
                    ],
                }
            )
    return {
        "aside": {
            "sketch": _sketch(thing, units, tolerances),
            "sketch_of": _drawn_as(thing),
            "derived": derived(thing, units, tolerances),
            "gaps": gaps(thing, units),
            "doubts": doubts(thing, units, tolerances),
            "sums": sums(thing, units, tolerances) if isinstance(thing, Machine) else [],
            "chains": chains,
            "photos": list(thing.photos.all()),
            "photo_form": PhotoForm(),
            "on": _whereabouts(thing),
            "fluids": fluid_sources() if isinstance(thing, Machine) else [],
        }
    }


def _whereabouts(thing: Thing) -> list[str]:
    if not isinstance(thing, HitchPart):
        return []
    return [
        *(str(link.hitch) for link in thing.on_hitches.all()),
        *(link.trailer.name for link in thing.on_trailers.all()),
    ]


def _drawn_as(thing: Thing) -> Configuration | None:
    """The configuration a built-up machine is drawn and listed in: its first."""
    if isinstance(thing, Machine) and thing.built == Machine.Built.PARTS:
        return next(iter(thing.configurations.all()), None)
    return None


def _sketch(thing: Thing, units: UnitSystem, tolerances: Tolerances) -> Sketch | None:
    """The drawing, where there are figures enough for one."""
    try:
        if isinstance(thing, Truck):
            return truck_sketch(thing, empty_axles(thing, tolerances), units)
        if isinstance(thing, Trailer):
            return trailer_sketch(thing, empty_trailer(thing, tolerances), units)
        if isinstance(thing, Machine):
            built = built_machine(thing, _drawn_as(thing), tolerances)
            return machine_sketch(thing, built, units)
    except IncompleteError:
        return None
    return None


@require_GET
@in_yard
def understand(request: YardRequest, kind: str) -> HttpResponse:
    """What a number box understood, as a line under it; the first value sent is read."""
    if kind not in READERS:
        raise Http404(kind)
    text = next(iter(request.GET.values()), "").strip()[:200]
    units = request.user.unit_system
    context = {"words": "", "wrong": ""}
    if text:
        try:
            quantity = READERS[kind](text, units.bare_unit(kind))
            context["words"] = write_understood(quantity, units)
        except ReadingError as error:
            context["wrong"] = str(error)
    return render(request, "book/_understood.html", context)


@require_GET
@in_yard
def history(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Who changed what, when and why."""
    kind = _kind(slug)
    thing = get_object_or_404(_things(kind, request), pk=pk)
    context = {"kind": kind, "thing": thing, "changes": changes_of(thing), "place": "book"}
    return render(request, "book/history.html", context)


@require_POST
@planners
def copy(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """The thing again, as a start for the next one."""
    kind = _kind(slug)
    thing = get_object_or_404(_things(kind, request), pk=pk)
    made = copy_thing(thing, user=request.user)
    messages.success(request, f"Copied from {thing.name}. Give it its own name and figures.")
    return redirect("edit_thing", kind.slug, made.pk)


@require_POST
@planners
def remove(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Take a thing out of the book; hauls planned with it keep their numbers."""
    kind = _kind(slug)
    thing = get_object_or_404(_things(kind, request), pk=pk)
    try:
        remove_thing(thing, version=request.POST.get("version"), user=request.user)
    except StaleThing:
        messages.error(request, f"Somebody changed {thing.name} in between. Look again first.")
        return redirect("edit_thing", kind.slug, thing.pk)
    messages.success(
        request, f"{thing.name} is out of the book. Hauls planned with it keep their numbers."
    )
    return redirect("book")


@require_http_methods(["GET", "POST"])
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
    context = {
        "truck": truck,
        "hitch": hitch if pk is not None else None,
        "name": name,
        "form": form,
        "fields": [form[n] for n in ("name", "type", "offset", "mass")],
        "bars": form["front_axle_restoration"],
        "parts_on": form["parts_on"],
        "rows": {
            "heading": "New parts on it",
            "help": "Receiver, sleeve, ball mount, ball: each with the ratings stamped on it.",
            "formset": parts,
        },
        "chain": chain_shown(hitch, None) if pk is not None and data is None else None,
        "version": truck.version if behind or data is None else data.get("version"),
        "why": "" if data is None else data.get("why", ""),
        "behind": behind,
        "place": "book",
    }
    status = 409 if behind else 422 if data is not None else 200
    return render(request, "book/hitch.html", context, status=status)


@require_POST
@planners
def remove_hitch(request: YardRequest, truck_pk: int, pk: int) -> HttpResponse:
    """Take a hitch off a truck."""
    truck = get_object_or_404(Truck.objects.filter(yard=request.yard), pk=truck_pk)
    hitch = get_object_or_404(truck.hitches.select_related("truck__yard"), pk=pk)
    try:
        remove_inner(hitch, version=request.POST.get("version"), user=request.user)
    except StaleThing:
        messages.error(request, f"Somebody changed {truck.name} in between. Look again first.")
    else:
        messages.success(request, f"{hitch.name} is taken off {truck.name}.")
    return redirect("edit_thing", "trucks", truck.pk)


@require_http_methods(["GET", "POST"])
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
    context = {
        "machine": machine,
        "configuration": configuration if pk is not None else None,
        "name": name,
        "form": form,
        "removable": form.fields["parts"].queryset.exists(),  # type: ignore[attr-defined]
        "version": machine.version if behind or data is None else data.get("version"),
        "why": "" if data is None else data.get("why", ""),
        "behind": behind,
        "place": "book",
    }
    status = 409 if behind else 422 if data is not None else 200
    return render(request, "book/configuration.html", context, status=status)


@require_POST
@planners
def remove_configuration(request: YardRequest, machine_pk: int, pk: int) -> HttpResponse:
    """Remove a configuration; hauls planned with it keep their numbers."""
    machine = get_object_or_404(Machine.objects.filter(yard=request.yard), pk=machine_pk)
    configuration = get_object_or_404(machine.configurations.select_related("machine__yard"), pk=pk)
    try:
        remove_inner(configuration, version=request.POST.get("version"), user=request.user)
    except StaleThing:
        messages.error(request, f"Somebody changed {machine.name} in between. Look again first.")
    else:
        messages.success(request, f"{configuration.name} is removed from {machine.name}.")
    return redirect("edit_thing", "machines", machine.pk)


@require_POST
@planners
def add_photo(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Keep a photo of a plate with the thing."""
    kind = _kind(slug)
    thing = get_object_or_404(_things(kind, request), pk=pk)
    form = PhotoForm(request.POST, request.FILES)
    if not form.is_valid():
        words = " ".join(e for errors in form.errors.values() for e in errors)
        messages.error(request, f"The photo was not kept. {words}")
    else:
        try:
            attach(
                thing,
                form.cleaned_data["file"],
                caption=form.cleaned_data["caption"],
                user=request.user,
            )
        except PhotoError as error:
            messages.error(request, f"The photo was not kept. {error}")
        else:
            messages.success(request, "The photo is kept.")
    return redirect("edit_thing", kind.slug, thing.pk)


@require_GET
@in_yard
def photo(request: YardRequest, pk: int) -> FileResponse:
    """The picture itself, to people of its yard."""
    found = get_object_or_404(Photo.objects.filter(yard=request.yard), pk=pk)
    try:
        opened = found.file.open("rb")
    except FileNotFoundError:
        raise Http404(pk) from None
    answer = FileResponse(opened, content_type="image/jpeg")
    answer["Cache-Control"] = "private, max-age=3600"
    return answer


@require_POST
@planners
def remove_photo(request: YardRequest, pk: int) -> HttpResponse:
    """Remove a photo."""
    found = get_object_or_404(Photo.objects.filter(yard=request.yard), pk=pk)
    thing = found.thing
    detach(found)
    messages.success(request, "The photo is removed.")
    slug = next(kind.slug for kind in KINDS.values() if isinstance(thing, kind.model))
    return redirect("edit_thing", slug, thing.pk)


@require_http_methods(["GET", "POST"])
@planners
def tolerances(request: YardRequest) -> HttpResponse:
    """How far figures may be wrong in this yard, by how they are known."""
    now = Tolerances.of(request.yard)
    initial = {name: f"{getattr(now, name):g}" for name in TolerancesForm.LABELS}
    data = request.POST if request.method == "POST" else None
    form = TolerancesForm(data, initial=initial)
    stamp = json.dumps(request.yard.tolerances, sort_keys=True)
    behind = data is not None and data.get("stamp") != stamp
    if data is not None and form.is_valid() and not behind:
        usual = Tolerances()
        request.yard.tolerances = {
            name: value
            for name, value in form.cleaned_data.items()
            if value != getattr(usual, name)
        }
        request.yard.save(update_fields=["tolerances"])
        messages.success(request, "Saved. Hauls keep what they were planned with until asked.")
        return redirect("tolerances")
    status = 409 if behind else 422 if form.errors else 200
    context = {"form": form, "stamp": stamp, "behind": behind, "place": "book"}
    return render(request, "book/tolerances.html", context, status=status)
