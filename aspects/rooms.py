"""What every view of a haul does alike: find the haul, frame the page."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import wraps
from typing import TYPE_CHECKING, Any, Final

from django.contrib import messages
from django.http import HttpResponse, HttpResponseBase
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse

from aspects.registry import aspects
from hauls.estimates import estimates_title, kept_estimates
from hauls.models import Haul
from mechanics.plan import Plan
from pictures.outfit import WIDTH
from planfile.errors import PlanFileError
from web.pages import parts
from web.sent import whole_number
from yards.access import YardRequest

HaulView = Callable[[YardRequest, Haul, Plan], HttpResponseBase]

if TYPE_CHECKING:
    from _typeshed import DataclassInstance


class ActionError(ValueError):
    """An action that cannot be done as asked; the message is for the person.

    ``typed`` is what was entered, to be kept in its box.
    """

    def __init__(self, message: str, typed: str = "") -> None:
        self.typed = typed
        super().__init__(message)


@dataclass(frozen=True, kw_only=True, slots=True)
class ViewLink:
    """A view of the haul in its head."""

    title: str
    address: str
    here: bool


@dataclass(frozen=True, kw_only=True)
class Head:
    """The head of every page of a haul: what it is, its views, what can be done with it."""

    haul: Haul
    truck: str
    trailer: str
    may_save: bool
    views: list[ViewLink]
    menu: list[ViewLink]
    estimates: str = ""
    """How many of its figures nobody measured, in words; the planner lists them."""

    @property
    def planner_here(self) -> bool:
        """Whether this is the planner, which has keys to list."""
        return bool(self.views) and self.views[0].here


def head_of(haul: Haul, view: str, *, may_save: bool) -> Head:
    """The head of a haul's page; ``view`` is the slug of the one that is open."""
    found: dict[bool, list[ViewLink]] = {False: [], True: []}
    for aspect in aspects():
        if aspect.changes and not may_save:
            continue
        found[aspect.menu].append(
            ViewLink(
                title=aspect.title,
                address=reverse(aspect.address, args=[haul.pk]),
                here=aspect.slug == view,
            )
        )
    draft = haul.draft
    return Head(
        haul=haul,
        truck=draft.truck_name,
        trailer=draft.trailer_name,
        may_save=may_save,
        views=found[False],
        menu=found[True],
        estimates="" if view == "place" else estimates_title(len(kept_estimates(draft.plan))),
    )


def with_plan(view: HaulView) -> Callable[[YardRequest, int], HttpResponseBase]:
    """A view of a haul of the yard with its plan; a plan that cannot be read is said at home."""

    @wraps(view)
    def found(request: YardRequest, pk: int) -> HttpResponseBase:
        hauls = Haul.objects.filter(yard=request.yard).with_book()
        haul = get_object_or_404(hauls, pk=pk)
        try:
            plan = haul.draft.plan
        except PlanFileError as error:
            return plan_unreadable(request, haul, error)
        return view(request, haul, plan)

    return found


def whole(text: Any, fallback: int) -> int:
    """A whole number that the page sent, or the fallback."""
    found = whole_number(text)
    return fallback if found is None else found


def base_sent(request: YardRequest) -> int:
    """The revision that a change is made of; one that is no number is nobody's."""
    return whole(request.POST.get("base"), 0)


def plan_unreadable(request: YardRequest, haul: Haul, error: PlanFileError) -> HttpResponse:
    """Say at home that a haul's plan cannot be read, and what to do."""
    messages.error(
        request,
        f"The plan of {haul.name} cannot be read. {error}. It is kept as it is; "
        "export it, mend the file and import it again.",
    )
    return redirect("home")


CONFLICT: Final = (
    "Somebody changed this haul in between; nothing of yours was kept. It is shown as it is now: "
    "look again, then do it once more."
)
"""What is said where two people changed a haul at once."""


def part_or_page(
    request: YardRequest,
    templates: tuple[str, str],
    haul: Haul,
    view: str,
    page: DataclassInstance,
    *,
    wrong: bool = False,
) -> HttpResponse:
    """A view's whole page, or the part of it that changes where only that is asked for: the first
    or the second of its templates."""
    inner = bool(request.headers.get("HX-Request"))
    return aspect_page(request, templates[inner], haul, view, page, wrong=wrong)


def aspect_page(
    request: YardRequest,
    template: str,
    haul: Haul,
    view: str,
    page: DataclassInstance | None = None,
    *,
    wrong: bool = False,
) -> HttpResponse:
    """A haul's other view, by its slug, showing a typed page; with something ``wrong`` it is a
    refusal.

    Raises:
        ValueError: the page has a field of a name that every view's frame needs.
    """
    may_save = request.role.plans
    frame = {
        "head": head_of(haul, view, may_save=may_save),
        "haul": haul,
        "place": "haul",
        "title": haul.name,
        "may_save": may_save,
        "unit": request.user.unit_system,
        "width": WIDTH,
    }
    shown = {} if page is None else parts(page)
    if taken := frame.keys() & shown.keys():
        raise ValueError(f"a page's field hides what the frame needs: {sorted(taken)}")
    return render(request, template, {**shown, **frame}, status=422 if wrong else 200)
