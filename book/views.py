"""The book: lists, one page for each thing, its history, photos and inner pages."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

from django.contrib import messages
from django.core.exceptions import PermissionDenied, ValidationError
from django.db import IntegrityError
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils.html import escape
from django.views.decorators.http import require_http_methods, require_POST, require_safe
from reversion.models import Revision

from book.forms import TicketForm
from book.history import Change, changes_of, latest_changes
from book.kinds import KINDS, Kind, Rows, kind_of, things_of
from book.listing import ListOf, list_of
from book.models import Gear, Thing, Truck
from book.page import Aside, Sheet, beside, sheets
from book.plan_view import plan_view
from book.removed_views import told_removed
from book.row_forms import points_know_parts
from book.services.measuring import box_of, put_measure
from book.services.moving import others_of
from book.services.things import (
    StaleThing,
    copy_thing,
    is_set_up,
    places_of,
    put_usual_places,
    remove_thing,
    restore_version,
    retire_one,
    save_thing,
)
from book.tolerances import PERCENTS, QUANTITIES, Tolerances
from book.yard_forms import RulesForm, TolerancesForm
from measures import READERS, ReadingError, UnitSystem
from measures.writing import write_given
from web.pages import show
from web.sent import counted, way_back, whole_number
from yards.access import YardRequest, in_yard, planners
from yards.models import Role
from yards.throttle import address_of

LISTED = ("trucks", "trailers", "machines", "gear", "bulk", "hitch-parts")
"""The lists in the order of the book's page."""

RECENT = 12
"""Changes that the book's page lists."""


@dataclass(frozen=True, kw_only=True)
class BookPage:
    """All the yard owns, with what is missing and who changed what last."""

    lists: list[ListOf]
    search: str
    all_shown: bool
    open_gaps: int
    open_questions: int
    latest: Sequence[tuple[Revision, str]]


@dataclass(frozen=True, kw_only=True)
class ThingPage:
    """A thing with its boxes, or one that is not in the book yet (``thing`` is ``None``).

    ``name`` is what it is stored under, whatever the box says now; ``behind`` tells that
    somebody else has changed it since ``version``, ``other_yards`` that it could be moved.
    """

    kind: Kind
    thing: Thing | None
    name: str
    form: Any
    sheets: Sequence[Sheet]
    version: int | str
    may_change: bool
    why: str = ""
    behind: bool = False
    aside: Aside | None = None
    back: str = ""
    other_yards: bool = False


@dataclass(frozen=True, kw_only=True)
class Understood:
    """What a box was understood as, or what is wrong with it."""

    words: str = ""
    wrong: str = ""


@dataclass(frozen=True, kw_only=True)
class HistoryPage:
    """Who changed what of a thing."""

    kind: Kind
    thing: Thing
    changes: Sequence[Change]


@dataclass(frozen=True, kw_only=True)
class TolerancesPage:
    """How the yard judges; ``stamp`` is what it said when the page was drawn."""

    form: TolerancesForm
    rules: RulesForm
    wrong: bool
    stamp: str
    behind: bool


@require_safe
@in_yard
def book(request: YardRequest) -> HttpResponse:
    """All the yard owns, list by list, with what is missing."""
    units, tolerances = request.user.unit_system, Tolerances.of(request.yard)
    search = request.GET.get("q", "").strip()[:100]
    lists = [
        list_of(
            KINDS[slug],
            request.yard,
            search,
            units,
            tolerances,
            max(whole_number(request.GET.get(slug)) or 1, 1),
        )
        for slug in LISTED
    ]
    rows = [row for one in lists for row in one.rows]
    page = BookPage(
        lists=lists,
        search=search,
        all_shown=not any(entry.more for entry in lists),
        open_gaps=sum(bool(row.gaps) for row in rows),
        open_questions=sum(bool(row.doubts) for row in rows),
        latest=latest_changes(request.yard, RECENT),
    )
    return show(request, "book/book.html", page, place="book")


@require_http_methods(["GET", "HEAD", "POST"])
@in_yard
def edit(request: YardRequest, slug: str, pk: int | None = None) -> HttpResponse:
    """Look at a thing; add or change it with everything that belongs to it."""
    kind = kind_of(slug)
    if (request.method == "POST" or pk is None) and not request.role.plans:
        raise PermissionDenied
    thing: Thing = (
        get_object_or_404(things_of(kind, request.yard), pk=pk) if pk is not None else kind.model()
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
        valid.append(points_know_parts(formset for _, formset in rows))
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
                return _after_saving(
                    kind, thing, new=pk is None, was_set_up=was_set_up, back=_back(request)
                )
    shown = get_object_or_404(things_of(kind, request.yard), pk=pk) if pk is not None else None
    page = replace(
        _page(request, kind, shown, form, rows),
        name=stored_name,
        behind=behind,
        back=_back(request),
    )
    if data is not None:
        version = shown.version if shown and behind else data.get("version", "")
        page = replace(page, version=version, why=data.get("why", ""))
    status = 409 if behind else 422 if data is not None else 200
    return show(request, "book/edit.html", page, place="book", status=status)


@dataclass(frozen=True, kw_only=True)
class Measured:
    """What a thing comes to once one of its measures was typed on the drawing."""

    kind: Kind
    thing: Thing
    aside: Aside
    may_change: bool = True


@require_POST
@planners
def measure(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """One measure typed on a thing's drawing: the drawing anew, or in words what is wrong."""
    kind = kind_of(slug)
    thing = get_object_or_404(things_of(kind, request.yard), pk=pk)
    units = request.user.unit_system
    try:
        box = box_of(thing, str(request.POST.get("box", "")))
        put_measure(
            thing,
            box,
            str(request.POST.get("typed", ""))[:LONGEST_TYPED],
            form=kind.form,
            version=str(request.POST.get("version", "")),
            units=units,
            user=request.user,
        )
    except LookupError:
        return HttpResponse("That length is not in the book any more.", status=404)
    except ValidationError as error:
        return HttpResponse(escape(" ".join(error.messages)), status=422)
    except StaleThing:
        words = f"Somebody saved this {kind.one} in between. Look at the page again, then type it."
        return HttpResponse(words, status=409)
    now = get_object_or_404(things_of(kind, request.yard), pk=pk)
    page = Measured(kind=kind, thing=now, aside=beside(now, request))
    answer = show(request, "book/_comes.html", page)
    answer["Eyebolt-Version"] = str(now.version)
    answer["Eyebolt-Entered"] = box_of(now, str(request.POST.get("box", ""))).entered
    return answer


LONGEST_TYPED = 200
"""Characters of a measure that are read."""


def _back(request: YardRequest) -> str:
    """The page of the application that this one was opened from, and goes back to once it is
    saved; empty where there is none."""
    data = request.POST if request.method == "POST" else request.GET
    return way_back(data.get("back"))


def _page(
    request: YardRequest,
    kind: Kind,
    thing: Thing | None,
    form: Any,
    rows: list[tuple[Rows, Any]],
    ticket_form: TicketForm | None = None,
) -> ThingPage:
    """What the page of a thing needs, or of one that is not in the book yet."""
    return ThingPage(
        kind=kind,
        thing=thing,
        name=thing.name if thing else "",
        form=form,
        sheets=sheets(
            kind,
            form,
            rows,
            plan_view(thing, request.user.unit_system, Tolerances.of(request.yard)),
        ),
        version=thing.version if thing else "",
        may_change=request.role.plans,
        aside=beside(thing, request, ticket_form) if thing else None,
        other_yards=request.role is Role.OWNER and bool(others_of(request.user, request.yard)),
    )


def thing_page(
    request: YardRequest, kind: Kind, thing: Thing, ticket_form: TicketForm
) -> HttpResponse:
    """A thing's page with a ticket that was not right, still filled in."""
    form = kind.form(instance=thing, units=request.user.unit_system, yard=request.yard)
    rows = [(row, _formset(row, None, thing, request)) for row in kind.rows]
    page = _page(request, kind, thing, form, rows, ticket_form)
    return show(request, "book/edit.html", page, place="book", status=422)


def _formset(row: Rows, data: Any, thing: Thing, request: YardRequest) -> Any:
    units = request.user.unit_system
    if row.prefix == "new":
        more = {"units": units, "yard": request.yard, "on_trailer": True}
        return row.formset(data, prefix=row.prefix, form_kwargs=more)
    return row.formset(data, instance=thing, prefix=row.prefix, form_kwargs={"units": units})


def _after_saving(
    kind: Kind, thing: Thing, *, new: bool, was_set_up: bool, back: str
) -> HttpResponse:
    """A truck goes on to its hitch; anything else back to where it was opened from; in a yard that
    is being set up, on to the next step."""
    if isinstance(thing, Truck) and not thing.hitches.exists():
        return redirect("add_hitch", thing.pk)
    if back:
        return redirect(back)
    if new and not was_set_up:
        return redirect("home")
    return redirect("edit_thing", kind.slug, thing.pk)


@require_safe
@in_yard
def understand(request: YardRequest, kind: str) -> HttpResponse:
    """What a number box understood, as a line under it; the first value sent is read."""
    if kind not in READERS:
        raise Http404(kind)
    text = str(next(iter(request.GET.values()), "")).strip()[:200]
    units = request.user.unit_system
    understood = Understood()
    if text:
        try:
            quantity = READERS[kind](text, units.bare_unit(kind))
            understood = Understood(words=write_given(quantity, units))
        except ReadingError as error:
            understood = Understood(wrong=str(error))
    return show(request, "book/_understood.html", understood)


@require_safe
@in_yard
def history(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Who changed what, when and why."""
    kind = kind_of(slug)
    thing = get_object_or_404(things_of(kind, request.yard), pk=pk)
    changes = changes_of(thing, request.user.unit_system)
    page = HistoryPage(kind=kind, thing=thing, changes=changes)
    return show(request, "book/history.html", page, place="book")


@require_POST
@planners
def restore(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Make a thing again what it was after one of its changes."""
    kind = kind_of(slug)
    thing = get_object_or_404(things_of(kind, request.yard), pk=pk)
    try:
        lost = restore_version(
            thing,
            counted(request.POST.get("revision")),
            version=request.POST.get("version"),
            user=request.user,
        )
    except StaleThing:
        messages.error(request, f"Somebody changed {thing.name} in between. Look again first.")
        return redirect("history", kind.slug, thing.pk)
    except LookupError:
        raise Http404(pk) from None
    except IntegrityError:
        messages.error(request, "Something else is called by its name of then. Rename that first.")
        return redirect("history", kind.slug, thing.pk)
    words = "" if not lost else " A hitch part that was on it then is not in the book any more."
    messages.success(request, f"It is what it was then.{words}")
    return redirect("edit_thing", kind.slug, thing.pk)


@require_POST
@planners
def copy(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """The thing again, as a start for the next one."""
    kind = kind_of(slug)
    thing = get_object_or_404(things_of(kind, request.yard), pk=pk)
    made = copy_thing(thing, user=request.user)
    messages.success(request, f"Copied from {thing.name}. Give it its own name and figures.")
    return redirect("edit_thing", kind.slug, made.pk)


@require_POST
@planners
def retire(request: YardRequest, pk: int) -> HttpResponse:
    """Retire one piece of gear, with the reason."""
    gear = get_object_or_404(Gear, yard=request.yard, pk=pk)
    reason = request.POST.get("reason", "")
    if reason not in Gear.Retired.values or not reason:
        messages.error(request, "Say why it is retired: choose one of the reasons.")
        return redirect("edit_thing", "gear", gear.pk)
    try:
        gone = retire_one(gear, reason, version=request.POST.get("version"), user=request.user)
    except StaleThing:
        messages.error(request, f"Somebody changed {gear.name} in between. Look again first.")
        return redirect("edit_thing", "gear", gear.pk)
    messages.success(request, f"{gone.name} holds nothing from now on.")
    return redirect("edit_thing", "gear", gear.pk)


@require_POST
@planners
def usual_places(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Give a trailer its usual anchors, or a machine its usual points: guesses, to be taped."""
    kind = kind_of(slug)
    thing = get_object_or_404(things_of(kind, request.yard), pk=pk)
    if places_of(thing):
        messages.error(request, f"{thing.name} has places to tie to already: they stay.")
        return redirect("edit_thing", kind.slug, thing.pk)
    try:
        put = put_usual_places(thing, version=request.POST.get("version"), user=request.user)
    except StaleThing:
        messages.error(request, f"Somebody changed {thing.name} in between. Look again first.")
    else:
        if put:
            messages.success(request, f"{put} rows put as guesses. Tape them when you can.")
        else:
            messages.error(
                request,
                "Its length and width are wanted first: then it is known where usual ones are.",
            )
    return redirect("edit_thing", kind.slug, thing.pk)


@require_POST
@planners
def remove(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Take a thing out of the book; hauls planned with it keep their numbers."""
    kind = kind_of(slug)
    thing = get_object_or_404(things_of(kind, request.yard), pk=pk)
    try:
        remove_thing(
            thing,
            version=request.POST.get("version"),
            user=request.user,
            address=address_of(request),
        )
    except StaleThing:
        messages.error(request, f"Somebody changed {thing.name} in between. Look again first.")
        return redirect("edit_thing", kind.slug, thing.pk)
    told_removed(
        request, f"{thing.name} is out of the book. Hauls planned with it keep their numbers."
    )
    return redirect("book")


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def tolerances(request: YardRequest) -> HttpResponse:
    """How this yard judges: schools of new hauls, and how far figures may be wrong."""
    yard, units = request.yard, request.user.unit_system
    now = Tolerances.of(yard)
    data = request.POST if request.method == "POST" else None
    initial = {n: f"{getattr(now, n):g}" for n in PERCENTS}
    initial |= {n: getattr(now, n) for n in QUANTITIES}
    form = TolerancesForm(data, units=units, initial=initial)
    rules = RulesForm(data, initial=RulesForm.initial_of(yard.rules, yard.securing_school))
    stamp = json.dumps([yard.tolerances, yard.rules, yard.securing_school], sort_keys=True)
    behind = data is not None and data.get("stamp") != stamp
    # both are asked, so that every box that is wrong says so at once
    if data is not None and all([form.is_valid(), rules.is_valid()]) and not behind:
        yard.tolerances = Tolerances(**form.cleaned_data).own()
        yard.rules = rules.rules()
        yard.securing_school = rules.cleaned_data["securing"]
        yard.save(update_fields=["tolerances", "rules", "securing_school"])
        messages.success(request, "Saved. Hauls keep what they were planned with until asked.")
        return redirect("tolerances")
    wrong = bool(form.errors or rules.errors)
    status = 409 if behind else 422 if wrong else 200
    page = TolerancesPage(
        form=form,
        rules=rules,
        wrong=wrong,
        stamp=stamp,
        behind=behind,
    )
    return show(request, "book/tolerances.html", page, place="book", status=status)
