"""The planner: its page, each step of a drag, each action."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.http import HttpResponse, HttpResponseBase, JsonResponse
from django.middleware.csrf import get_token
from django.shortcuts import get_object_or_404, redirect
from django.template.loader import render_to_string
from django.views.decorators.http import require_POST, require_safe

from aspects.place.moves import Asked, act, done
from aspects.place.page import Planner, present
from aspects.place.state import State, finite
from aspects.place.strip import strip_of
from aspects.rooms import ActionError, Head, head_of, plan_unreadable, whole
from book.errors import IncompleteError
from hauls.loads import load_choices, read_load
from hauls.models import Haul
from hauls.news import News, books_news
from hauls.steps import NothingToUndo, StaleRevision, around, walk
from hauls.store import copy_haul, put_on, save_haul, take_off
from mechanics.bounds import MOST_ITEMS
from mechanics.errors import MechanicsError
from planfile.errors import PlanFileError
from web import pieces
from web.middleware import takes_long
from web.pages import parts, show
from yards.access import YardRequest, in_yard, planners
from yards.recent import in_yard_recently

SLUG = "place"
PARTIAL = "place/_planner.html"
BY_SCRIPT = "HX-Request"
"""The header by which htmx says that it asks for a part of the page."""


@require_safe
@in_yard
def planner(request: YardRequest, pk: int) -> HttpResponse:
    """The haul page; its address may hold what to look at, and places that are not stored."""
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard).with_book(), pk=pk)
    unit = request.user.unit_system
    try:
        news = books_news(haul, unit)
        page = present(
            _looked_at(haul, request),
            unit,
            may_save=request.role.plans,
            around=around(haul),
            saved=not request.GET.get("count"),
        )
    except PlanFileError as error:
        return plan_unreadable(request, haul, error)
    return _page(request, page, news)


@dataclass(frozen=True, kw_only=True)
class PlannerPage(Planner):
    """The partial inside its page: the haul's head, and what the book says by now."""

    head: Head
    books_news: list[News]
    title: str


def _page(
    request: YardRequest, page: Planner, news: list[News], *, status: int = 200
) -> HttpResponse:
    """The whole page around the partial."""
    whole_page = PlannerPage(
        **parts(replace(page, choices=load_choices(request.yard).groups)),
        head=head_of(page.haul, SLUG, may_save=page.may_save),
        books_news=news,
        title=page.haul.name,
    )
    return show(request, "place/planner.html", whole_page, place="haul", status=status)


def _looked_at(haul: Haul, request: YardRequest) -> State:
    """What the address holds, or the haul as it is stored where that makes no sense."""
    if not request.GET:
        return State(haul)
    try:
        return State(haul, request.GET)
    except (ActionError, PlanFileError):
        return State(haul)


@lru_cache(maxsize=64)
def _haul_at(yard_pk: int, pk: int, revision: int) -> Haul:
    """A haul of a yard as it stood at a revision, for looking only.

    Raises:
        Haul.DoesNotExist: it is not that yard's, or has moved on.
    """
    return Haul.objects.get(yard=yard_pk, pk=pk, revision=revision)


@require_POST
@in_yard_recently
def preview(request: YardRequest, pk: int) -> HttpResponseBase:
    """One step of a drag: drawn anew and nothing stored.

    Asked many times a second. A page that is behind is answered by :func:`change`.
    """
    sent = request.POST
    try:
        haul = _haul_at(request.yard.pk, pk, whole(sent.get("base"), 0))
    except Haul.DoesNotExist:
        return change(request, pk)
    unit = request.user.unit_system
    try:
        state = State(haul, sent)
        act(state, Asked("drag_side" if sent.get("do") == "drag_side" else "drag", sent=sent), unit)
        folded = sent.get("more") == "folded"
        page = present(state, unit, saved=False, may_save=request.role.plans, folded=folded)
    except (ActionError, PlanFileError):
        return change(request, pk)
    return HttpResponse(_partial(request, page))


@takes_long
@require_POST
@in_yard_recently
def strip(request: YardRequest, pk: int) -> HttpResponseBase:
    """What the planner shows at every place of the load in hand, for the page to play; 204 where
    there is none, and the page asks step by step."""
    sent = request.POST
    try:
        haul = _haul_at(request.yard.pk, pk, whole(sent.get("base"), 0))
        state = State(haul, sent)
        at_m = finite(sent.get("to")) * state.draft.units.length.m
        found = strip_of(state, request.user.unit_system, at_m)
    except Haul.DoesNotExist:
        get_object_or_404(Haul.objects.filter(yard=request.yard), pk=pk)
        found = None
    except (ActionError, PlanFileError):
        found = None
    return HttpResponse(status=204) if found is None else JsonResponse(found)


def _partial(request: YardRequest, page: Planner) -> str:
    """The page's part that every change draws anew, without the pieces that the page has already;
    it needs nothing of the page's frame."""
    return render_to_string(
        PARTIAL,
        {
            **parts(page),
            "request": request,
            "csrf_token": get_token(request),
            pieces.HELD: pieces.held(request),
        },
    )


@require_POST
@in_yard
def change(request: YardRequest, pk: int) -> HttpResponse:
    """One action of the planner: the same partial as the page, drawn anew.

    With ``commit`` the outcome is saved on top of the revision the page was drawn from;
    where somebody else saved in between, nothing is stored, the answer has status 409,
    says so, and still shows what this person did.
    """
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard), pk=pk)
    unit = request.user.unit_system
    sent = request.POST
    asked = Asked.of(sent)
    action = asked.action
    commit = (sent.get("commit") == "1" and not asked.looks) or action == "overwrite"
    if (action in STORED or commit) and not request.role.plans:
        raise PermissionDenied
    error: ActionError | None = None
    conflict: Haul | None = None
    state = None
    try:
        state = State(haul, sent)
        if action in STORED:
            state, commit = STORED[action](state, request), True
        else:
            act(state, asked, unit)
            if action == "overwrite":
                state.base = whole(sent.get("theirs"), 0)
            if commit:
                _commit(state, done(state, action), request)
    except StaleRevision as stale:
        conflict = stale.haul
    except ActionError as problem:
        error, commit = problem, False
    except PlanFileError as problem:
        error, commit = ActionError(f"That cannot be: {problem}."), False
    held = state or State(haul)
    # what was refused, or only looked at, has changed nothing: the page is as saved as it was
    kept = commit or not held.changed
    page = present(
        held,
        unit,
        error=error,
        conflict=conflict,
        saved=kept and not conflict,
        may_save=request.role.plans,
        around=around(haul) if commit or error or conflict else None,
    )
    by_script = request.headers.get(BY_SCRIPT) == "true"
    if not by_script and not conflict and not error and not asked.looks:
        return redirect(haul)
    status = 409 if conflict else 422 if error else 200
    if by_script:
        return HttpResponse(_partial(request, page), status=status)
    return _page(request, page, [], status=status)


def _commit(state: State, what: str, request: YardRequest) -> None:
    """Save what the person holds.

    Raises:
        StaleRevision: the haul has moved on; nothing is stored.
    """
    save_haul(state.haul, state.draft, base=state.base, user=request.user, what=what)
    state.base = state.haul.revision


def _put_on(state: State, request: YardRequest) -> State:
    """Put what was chosen from the book on the deck, in hand."""
    key = request.POST.get("load", "")
    if key not in {k for k, _ in load_choices(request.yard).all}:
        raise ActionError("Choose what to put on the deck first.")
    if len(state.plan.items) >= MOST_ITEMS:
        raise ActionError(f"A haul holds at most {MOST_ITEMS} loads.")
    load = read_load(key, request.yard)
    try:
        put_on(state.haul, state.draft, load, base=state.base, user=request.user)
    except IncompleteError as error:
        raise ActionError(f"{error}. Enter it in the book, then plan again.") from None
    except (PlanFileError, MechanicsError) as error:
        raise ActionError(f"The book's figures do not fit together. {error}.") from None
    fresh = State(state.haul)
    fresh.selected = len(fresh.plan.items) - 1
    fresh.times = state.times
    return fresh


def _take_off(state: State, request: YardRequest) -> State:
    """Take the item in hand off the deck."""
    if state.selected is None:
        raise ActionError("There is nothing on the deck to take off.")
    item_id = state.draft.item_ids[state.selected]
    take_off(state.haul, state.draft, item_id, base=state.base, user=request.user)
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
        count = len(fresh.plan.items)
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
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard), pk=pk)
    try:
        state = State(haul, request.POST)
        name = f"{haul.name[:180]}, copy"
        made = copy_haul(haul, state.draft, user=request.user, name=name)
    except (ActionError, PlanFileError) as error:
        messages.error(request, f"The copy was not made. {error}")
        return redirect(haul)
    messages.success(request, "Your version is kept as a copy.")
    return redirect(made)
