"""Hauls: home, list, planner, import and export."""

from __future__ import annotations

import json
from collections.abc import Callable
from functools import lru_cache
from typing import Any

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.core.paginator import Paginator
from django.db.models import QuerySet
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from book.errors import IncompleteError
from book.gaps import gaps
from book.kinds import KINDS
from book.models import Bulk, Hitch, Machine, Trailer, Truck
from book.yardfile import YardFileError
from hauls.drawing import WIDTH
from hauls.forms import (
    LOADS,
    FindForm,
    ImportForm,
    MatchForm,
    OutfitForm,
    load_choices,
    load_key,
    read_load,
)
from hauls.holding import ActionError, State
from hauls.matching import matches
from hauls.models import Haul, HaulQuerySet
from hauls.moves import act, done
from hauls.news import books_news
from hauls.planner import drawn_of, headline, present
from hauls.saying import kept_places
from hauls.services.haul import (
    book_document,
    copy_haul,
    create_haul,
    import_plan,
    linked_loads,
    put_on,
    save_haul,
    swap_outfit,
    take_off,
)
from hauls.services.steps import NothingToUndo, StaleRevision, around, walk
from hauls.services.yard import dump_whole, load_whole, read_file
from hauls.wording import STATUS_WORDS
from measures import UnitSystem
from mechanics.checks import Status
from mechanics.errors import MechanicsError
from mechanics.report import evaluate
from planfile.errors import PlanFileError
from planfile.reading import read_document
from yards.access import YardRequest, in_yard, owners, planners
from yards.recent import in_yard_recently

LISTED = 48
"""Hauls on one page of the list."""

LACKING = 8
"""Things without which no plan can be made that the list of hauls names."""

MOST_ITEMS = 100
"""Loads of one haul; the plan format takes no more."""

PROBLEMS = 40
"""Problems of a yard file that the page lists."""

PICTURES = 12
"""Hauls that the list shows with their picture; drawing one takes a few milliseconds."""


def _hauls(request: YardRequest) -> HaulQuerySet:
    return Haul.objects.filter(yard=request.yard)


def _cards(hauls: QuerySet[Haul], unit: UnitSystem) -> list[dict[str, Any]]:
    """What the list shows of each haul; the newest with their picture."""
    cards: list[dict[str, Any]] = [
        {
            "haul": haul,
            "status": haul.verdict,
            "word": STATUS_WORDS[Status(haul.verdict)],
            "truck": haul.document["truck"].get("name", "truck"),
            "trailer": haul.document["trailer"].get("name", "trailer"),
            "items": ", ".join(
                item.get("name") or item["id"] for item in haul.document.get("items", [])
            )
            or "empty",
            "picture": None,
            "line": "",
        }
        for haul in hauls
    ]
    for card in cards[:PICTURES]:
        try:
            card["picture"], card["word"], card["line"] = headline(card["haul"], unit)
        except PlanFileError as error:
            card["line"] = f"Its plan cannot be read. {error}."
    return cards


@require_GET
@in_yard
def home(request: YardRequest) -> HttpResponse:
    """The yard's hauls with their verdicts, or the first steps of an empty yard."""
    form = FindForm(request.GET or None, yard=request.yard)
    hauls = form.narrow(_hauls(request))
    page = Paginator(hauls, LISTED).get_page(request.GET.get("page"))
    query = request.GET.copy()
    query.pop("page", None)
    context = {
        "cards": _cards(page.object_list, request.user.unit_system),
        "page": page,
        "width": WIDTH,
        "form": form,
        "search": str(request.GET.get("q", "")).strip()[:100],
        "narrowed": form.narrowed,
        "query": query.urlencode(),
    }
    if request.headers.get("HX-Request"):
        return render(request, "hauls/_cards.html", context)
    return render(
        request,
        "hauls/home.html",
        {
            **context,
            **_first_steps(request, with_gaps=not (context["search"] or context["narrowed"])),
            "place": "haul",
        },
    )


def _first_steps(request: YardRequest, *, with_gaps: bool) -> dict[str, Any]:
    """What a yard has, and where what is there still stops every plan.

    Whoever looks for a haul is not told of gaps: ``with_gaps`` is False then.
    """
    yard = request.yard
    counts = {
        "trucks": Truck.objects.filter(yard=yard).count(),
        "hitches": Hitch.objects.filter(truck__yard=yard).count(),
        "trailers": Trailer.objects.filter(yard=yard).count(),
        "loads": Machine.objects.filter(yard=yard).count() + Bulk.objects.filter(yard=yard).count(),
    }
    lacking = []
    for slug in ("trucks", "trailers", "machines", "bulk") if with_gaps else ():
        kind = KINDS[slug]
        things = kind.model._default_manager.filter(yard=yard).prefetch_related(*kind.prefetch)
        if kind.model is Machine:
            things = things.perhaps_stopped()
        for thing in things:
            stops = [gap.words for gap in gaps(thing, request.user.unit_system) if gap.stops_plans]
            if stops:
                lacking.append({"kind": kind, "thing": thing, "stops": stops})
    first_truck = Truck.objects.filter(yard=yard).first()
    return {
        "counts": counts,
        "ready": all(counts.values()),
        "lacking": lacking[:LACKING],
        "lacking_more": max(len(lacking) - LACKING, 0),
        "first_truck": first_truck.pk if first_truck else None,
    }


@require_http_methods(["GET", "POST"])
@planners
def new_haul(request: YardRequest) -> HttpResponse:
    """Choose truck, trailer and machines; the planner opens on the new haul."""
    form = OutfitForm(request.POST or None, yard=request.yard)
    if request.method == "POST" and form.is_valid():
        try:
            haul = create_haul(
                yard=request.yard,
                user=request.user,
                name=form.cleaned_data["name"],
                hitch=form.cleaned_data["hitch"],
                trailer=form.cleaned_data["trailer"],
                loads=form.loads,
                backward=request.POST.get("backward") == "1",
            )
        except IncompleteError as error:
            form.add_error(None, _incomplete(error))
        except (PlanFileError, MechanicsError) as error:
            form.add_error(None, f"The book's figures do not fit together. {error}.")
        else:
            return redirect(haul)
    return render(
        request, "hauls/outfit.html", {"form": form, "title": "New haul", "place": "haul"}
    )


@require_GET
@in_yard
def match(request: YardRequest) -> HttpResponse:
    """Which truck and trailer can take a load: every pair with its verdict and why."""
    asked = any(key.startswith("load_") for key in request.GET)
    form = MatchForm(request.GET if asked else None, yard=request.yard)
    context: dict[str, Any] = {"form": form, "rows": None, "wrong": "", "place": "match"}
    if asked and form.is_valid():
        try:
            loads = form.loads
            rows, cut = matches(request.yard, loads, request.user.unit_system)
        except (PlanFileError, MechanicsError) as error:
            context["wrong"] = f"The book's figures do not fit together. {error}."
        else:
            context |= {
                "rows": rows,
                "cut": cut,
                "name": ", ".join(load.name for load in loads)[:180],
                "keys": [(f"load_{n}", load_key(load)) for n, load in enumerate(loads, 1)],
                "single": len(loads) == 1,
            }
    status = 422 if form.errors or context["wrong"] else 200
    return render(request, "hauls/match.html", context, status=status)


@require_http_methods(["GET", "POST"])
@planners
def outfit(request: YardRequest, pk: int) -> HttpResponse:
    """Another truck, trailer or set of machines for a haul."""
    haul = get_object_or_404(_hauls(request).with_book(), pk=pk)
    links = list(linked_loads(haul).values())
    initial: dict[str, Any] = {
        "name": haul.name,
        "hitch": haul.hitch_id,
        "trailer": haul.trailer_id,
    }
    initial |= {f"load_{n + 1}": load_key(load) for n, load in enumerate(links[:LOADS])}
    form = OutfitForm(request.POST or None, yard=request.yard, initial=initial)
    if request.method == "POST" and form.is_valid():
        try:
            swap_outfit(
                haul,
                hitch=form.cleaned_data["hitch"],
                trailer=form.cleaned_data["trailer"],
                loads=form.loads,
                name=form.cleaned_data["name"],
                base=int(request.POST.get("base") or 0),
                user=request.user,
            )
        except StaleRevision as stale:
            who = stale.haul.changed_by.shown_name if stale.haul.changed_by else "Somebody"
            form.add_error(
                None,
                f"{who} changed this haul in between. What you chose is kept here; save again to "
                "put it on top of the haul as it is now.",
            )
            haul = stale.haul
        except IncompleteError as error:
            form.add_error(None, _incomplete(error))
        except (PlanFileError, MechanicsError) as error:
            form.add_error(None, f"The book's figures do not fit together. {error}.")
        else:
            for words in _kept_places(haul, request.user.unit_system):
                messages.info(request, words)
            return redirect(haul)
    return render(
        request,
        "hauls/outfit.html",
        {
            "form": form,
            "title": "Truck, trailer and machines",
            "haul": haul,
            "loose": len(haul.document.get("items", [])) - len(links),
            "place": "haul",
        },
    )


def _kept_places(haul: Haul, unit: UnitSystem) -> list[str]:
    """Better places of machines that kept theirs on another outfit."""
    report = evaluate(read_document(haul.document))
    drawn = {item["id"]: drawn_of(item) for item in haul.document.get("items", [])}
    return kept_places(report, {i: str(d.get("mark", "mark")) for i, d in drawn.items()}, unit)


@require_GET
@in_yard
def planner(request: YardRequest, pk: int) -> HttpResponse:
    """The haul page; its address may hold what to look at, and places that are not stored."""
    haul = get_object_or_404(_hauls(request).with_book(), pk=pk)
    try:
        unit = request.user.unit_system
        news = books_news(haul, unit)
        context = present(
            _looked_at(haul, request),
            unit,
            books_news=news,
            may_save=request.role.plans,
            around=around(haul),
            saved=not request.GET.get("count"),
        )
    except PlanFileError as error:
        messages.error(
            request,
            f"The plan of {haul.name} cannot be read. {error}. It is kept as it is; "
            "export it, mend the file and import it again.",
        )
        return redirect("home")
    return render(
        request,
        "hauls/planner.html",
        {**context, **_tools(request), "place": "haul", "view": "place", "title": haul.name},
    )


def _looked_at(haul: Haul, request: YardRequest) -> State:
    """What the address holds, or the haul as it is stored where that makes no sense."""
    if not request.GET:
        return State(haul)
    try:
        state = State(haul, request.GET)
        state.plan()
    except (ActionError, PlanFileError):
        return State(haul)
    return state


def _tools(request: YardRequest) -> dict[str, Any]:
    """What can be put on a deck."""
    machines, bulk = load_choices(request.yard)
    return {"choices": [("Machines", machines), ("Bulk", bulk)]}


@lru_cache(maxsize=64)
def _haul_at(yard_pk: int, pk: int, revision: int) -> Haul:
    """A haul of a yard as it stood at a revision, for looking only.

    Raises:
        Haul.DoesNotExist: it is not that yard's, or has moved on.
    """
    return Haul.objects.get(yard=yard_pk, pk=pk, revision=revision)


@require_POST
@in_yard_recently
def preview(request: YardRequest, pk: int) -> HttpResponse:
    """One step of a drag: drawn anew and nothing stored.

    Asked many times a second. A page that is behind is answered by :func:`change`.
    """
    sent = request.POST
    try:
        haul = _haul_at(request.yard.pk, pk, int(sent.get("base") or 0))
    except (Haul.DoesNotExist, ValueError):
        return change(request, pk)
    unit = request.user.unit_system
    try:
        state = State(haul, sent)
        act(state, "drag_side" if sent.get("do") == "drag_side" else "drag", sent, unit)
        context = present(state, unit, saved=False, may_save=request.role.plans)
    except (ActionError, PlanFileError):
        return change(request, pk)
    return render(request, "hauls/_planner.html", context)


@require_POST
@in_yard
def change(request: YardRequest, pk: int) -> HttpResponse:
    """One action of the planner: the same partial as the page, drawn anew.

    With ``commit`` the outcome is saved on top of the revision the page was drawn from;
    where somebody else saved in between, nothing is stored, the answer has status 409,
    says so, and still shows what this person did.
    """
    haul = get_object_or_404(_hauls(request), pk=pk)
    unit = request.user.unit_system
    sent = request.POST
    action = sent.get("do", "")
    error: ActionError | None = None
    conflict: Haul | None = None
    status = 200
    state: State | None = None
    stores = action in STORED or sent.get("commit") == "1" or action == "overwrite"
    if stores and not request.role.plans:
        raise PermissionDenied
    try:
        state = State(haul, sent)
        if action not in STORED:
            act(state, action, sent, unit)
        state.plan()
    except ActionError as problem:
        state, error, status = state or State(haul), problem, 422
    except PlanFileError as problem:
        state, error, status = State(haul), ActionError(f"That cannot be: {problem}."), 422
    commit = sent.get("commit") == "1" and error is None
    if action == "overwrite":
        state.base = int(sent.get("theirs") or 0)
        commit = True
    try:
        if error is None and action in STORED:
            state = STORED[action](state, request)
            commit = True
        elif commit:
            _commit(state, done(state, action), request)
    except StaleRevision as stale:
        conflict, status = stale.haul, 409
    except ActionError as problem:
        error, status, commit = problem, 422, False
    # what was refused has changed nothing: the page is as saved as it was
    kept = commit or (error is not None and state.document == haul.document)
    context = present(
        state,
        unit,
        error=error,
        conflict=conflict,
        saved=kept and not conflict,
        may_save=request.role.plans,
        around=around(haul) if commit or error or conflict else None,
    )
    if request.headers.get("X-Requested-With") != "planner" and not conflict and not error:
        return redirect(haul)
    template = "hauls/_planner.html"
    if request.headers.get("X-Requested-With") != "planner":
        template = "hauls/planner.html"
        context |= {**_tools(request), "place": "haul", "view": "place", "title": haul.name}
    return render(request, template, context, status=status)


def _commit(state: State, what: str, request: YardRequest) -> None:
    """Save what the person holds.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
    """
    save_haul(
        state.haul,
        state.document,
        base=state.base,
        user=request.user,
        what=what,
        plan=state.plan(),
    )
    state.base = state.haul.revision


def _put_on(state: State, request: YardRequest) -> State:
    """Put what was chosen from the book on the deck, in hand."""
    key = request.POST.get("load", "")
    machines, bulk = load_choices(request.yard)
    if key not in {k for k, _ in (*machines, *bulk)}:
        raise ActionError("Choose what to put on the deck first.")
    if len(state.document.get("items", [])) >= MOST_ITEMS:
        raise ActionError(f"A haul holds at most {MOST_ITEMS} loads.")
    try:
        put_on(
            state.haul,
            state.document,
            read_load(key, request.yard),
            base=state.base,
            user=request.user,
        )
    except IncompleteError as error:
        raise ActionError(_incomplete(error)) from None
    except (PlanFileError, MechanicsError) as error:
        raise ActionError(f"The book's figures do not fit together. {error}.") from None
    fresh = State(state.haul)
    fresh.selected = len(state.haul.document["items"]) - 1
    fresh.times = state.times
    return fresh


def _take_off(state: State, request: YardRequest) -> State:
    """Take the item in hand off the deck."""
    if state.selected is None:
        raise ActionError("There is nothing on the deck to take off.")
    item_id = state.document["items"][state.selected]["id"]
    take_off(state.haul, state.document, item_id, base=state.base, user=request.user)
    return State(state.haul)


def _walked(way: int) -> Callable[[State, YardRequest], State]:
    def walked(state: State, request: YardRequest) -> State:
        try:
            haul = walk(state.haul, way, base=state.base, user=request.user)
        except NothingToUndo:
            words = "undo" if way < 0 else "do again"
            raise ActionError(f"There is nothing to {words}.") from None
        fresh = State(haul)
        fresh.times, fresh.open = state.times, state.open
        count = len(haul.document.get("items", []))
        if count:
            fresh.selected = min(state.selected or 0, count - 1)
        return fresh

    return walked


STORED: dict[str, Callable[[State, YardRequest], State]] = {
    "put_on": _put_on,
    "take_off": _take_off,
    "undo": _walked(-1),
    "redo": _walked(1),
}
"""Actions that change more than places, and store it at once."""


@require_POST
@planners
def copy(request: YardRequest, pk: int) -> HttpResponse:
    """Keep what this person holds as another haul; the one it came from stays as it is."""
    haul = get_object_or_404(_hauls(request), pk=pk)
    try:
        state = State(haul, request.POST)
        made = copy_haul(haul, state.document, user=request.user, name=f"{haul.name[:180]}, copy")
    except (ActionError, PlanFileError) as error:
        messages.error(request, f"The copy was not made. {error}")
        return redirect(haul)
    messages.success(request, "Your version is kept as a copy.")
    return redirect(made)


@require_POST
@planners
def take_books_numbers(request: YardRequest, pk: int) -> HttpResponse:
    """Put the book's present numbers into the haul; places stay."""
    haul = get_object_or_404(_hauls(request).with_book(), pk=pk)
    try:
        save_haul(
            haul,
            book_document(haul),
            base=int(request.POST.get("base") or 0),
            user=request.user,
        )
    except StaleRevision:
        messages.error(
            request, "Somebody changed this haul in between. Look again, then take them."
        )
    except IncompleteError as error:
        messages.error(request, _incomplete(error))
    except (PlanFileError, MechanicsError) as error:
        messages.error(request, f"The book's figures do not fit together. {error}.")
    else:
        messages.success(request, "The haul now stands on the book's present numbers.")
    return redirect(haul)


@require_POST
@planners
def remove(request: YardRequest, pk: int) -> HttpResponse:
    """Remove a haul."""
    haul = get_object_or_404(_hauls(request), pk=pk)
    haul.delete()
    messages.success(request, f"{haul.name} is removed.")
    return redirect("home")


@require_POST
@planners
def archive(request: YardRequest, pk: int) -> HttpResponse:
    """Put a haul away, or bring it back."""
    haul = get_object_or_404(_hauls(request), pk=pk)
    away = request.POST.get("away") == "1"
    Haul.objects.filter(pk=haul.pk).update(archived=away)
    words = "put away; the list shows it under “put away”" if away else "back on the list"
    messages.success(request, f"{haul.name} is {words}.")
    return redirect("home" if away else haul)


@require_http_methods(["GET", "POST"])
@planners
def bring_in(request: YardRequest) -> HttpResponse:
    """Import a plan file as a haul."""
    form = ImportForm(request.POST, request.FILES) if request.method == "POST" else ImportForm()
    if form.is_bound and form.is_valid():
        file = form.cleaned_data["file"]
        try:
            haul = import_plan(
                yard=request.yard,
                user=request.user,
                data=file.read(),
                fallback_name=str(file.name).removesuffix(".json"),
            )
        except (PlanFileError, MechanicsError) as error:
            form.add_error("file", f"Not a valid plan. {error}. Nothing was stored.")
        else:
            return redirect(haul)
    status = 422 if form.errors else 200
    return render(request, "hauls/import.html", {"form": form, "place": "haul"}, status=status)


@require_GET
@in_yard
def export(request: YardRequest, pk: int) -> HttpResponse:
    """The haul as a plan file, exactly as it is kept."""
    haul = get_object_or_404(_hauls(request), pk=pk)
    body = json.dumps(haul.document, indent=2, ensure_ascii=False)
    response = HttpResponse(body, content_type="application/json; charset=utf-8")
    name = slugify(haul.name) or f"haul-{haul.pk}"
    response["Content-Disposition"] = f'attachment; filename="{name}.json"'
    return response


@require_http_methods(["GET", "POST"])
@owners
def yard_file(request: YardRequest) -> HttpResponse:
    """The whole yard as one file, and back."""
    problems: list[str] = []
    if request.method == "POST":
        file = request.FILES.get("file")
        try:
            if file is None:
                raise YardFileError(["choose a file first"])
            counted = load_whole(read_file(file.read()), yard=request.yard, user=request.user)
        except YardFileError as error:
            problems = error.problems
        else:
            words = ", ".join(f"{n} {what}" for what, n in counted.items())
            messages.success(request, f"Taken in: {words}.")
            return redirect("home")
    context = {"problems": problems[:PROBLEMS], "more": max(len(problems) - PROBLEMS, 0)}
    status = 422 if problems else 200
    return render(request, "hauls/yard_file.html", {**context, "place": ""}, status=status)


@require_GET
@owners
def yard_out(request: YardRequest) -> HttpResponse:
    """The yard file itself."""
    document = dump_whole(request.yard, photos=request.GET.get("photos") == "1")
    body = json.dumps(document, indent=1, ensure_ascii=False)
    response = HttpResponse(body, content_type="application/json; charset=utf-8")
    name = slugify(request.yard.name) or "yard"
    response["Content-Disposition"] = f'attachment; filename="{name}.yard.json"'
    return response


def _incomplete(error: IncompleteError) -> str:
    """What to do about a thing that lacks figures."""
    return f"{error.thing} lacks {', '.join(error.lacks)}. Enter it in the book, then plan again."
