"""The list of hauls; making, changing and putting them away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.core.paginator import Page, Paginator
from django.db.models import QuerySet
from django.http import HttpResponse
from django.shortcuts import redirect
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_safe

from aspects.outfit.forms import OutfitForm, asked_for
from aspects.outfit.views import ENTER_IT, OutfitPage, here_of, not_yet, stopped_by
from aspects.outfit.wanting import Wanting
from book.errors import IncompleteError
from book.gaps import STOPPED_BY, stops
from book.kinds import KINDS
from book.models import Bulk, Hitch, Machine, Thing, Trailer, Truck
from book.stored import made_of
from book.table_views import csv_file
from hauls.models import Haul, HaulQuerySet
from hauls.store import create_haul
from mechanics.errors import MechanicsError
from planfile.errors import PlanFileError
from planning.cards import Card, cards_of
from planning.forms import FindForm
from planning.lists_out import MOST, hauls_table
from web.middleware import takes_long
from web.notices import Notice, notices
from web.pages import parts, show
from yards.access import YardRequest, in_yard, planners

LISTED = 48
"""Hauls on one page of the list."""

MOST_TODAY = 24
"""Hauls of a day; more stand in the list below as any other."""

LACKING = 8
"""Things without which no plan can be made that the list of hauls names."""


def _hauls(request: YardRequest) -> HaulQuerySet:
    return Haul.objects.filter(yard=request.yard).select_related("driver")


@dataclass(frozen=True, kw_only=True)
class Found:
    """A page of the hauls found; ``query`` is the rest of the address, with its ``&``."""

    cards: list[Card]
    page: Page[Haul]
    form: FindForm
    search: str
    narrowed: bool
    query: str
    today: list[Card]
    """Today's, above the others; none while something is looked for."""


@require_safe
@in_yard
def home(request: YardRequest) -> HttpResponse:
    """The yard's hauls with their verdicts, or the first steps of an empty yard."""
    form = FindForm(request.GET or None, yard=request.yard)
    hauls = form.narrow(_hauls(request))
    search = str(request.GET.get("q", "")).strip()[:100]
    looking = bool(search or form.narrowed)
    # today's stand above the list, and not in it once more
    today = _hauls(request).filter(archived=False, day=timezone.localdate())
    todays = [] if looking else list(today.order_by("pk")[:MOST_TODAY])
    hauls = hauls.exclude(pk__in=[haul.pk for haul in todays]) if todays else hauls
    page = Paginator(hauls, LISTED).get_page(request.GET.get("page"))
    query = request.GET.copy()
    query.pop("page", None)
    found = Found(
        cards=cards_of(page.object_list, request.user.unit_system),
        page=page,
        form=form,
        search=search,
        narrowed=form.narrowed,
        query=f"{query.urlencode()}&" if query else "",
        today=cards_of(todays, request.user.unit_system) if page.number == 1 else [],
    )
    if request.headers.get("HX-Request"):
        return show(request, "planning/_cards.html", found)
    start = _first_steps(request, looking=looking, empty=not found.cards and not todays)
    home = Home(
        **parts(found),
        **parts(start),
        notices=[] if looking else notices(request),
    )
    return show(request, "planning/home.html", home, place="haul")


@takes_long
@require_safe
@in_yard
def hauls_out(request: YardRequest) -> HttpResponse:
    """The hauls that the list finds as a CSV file, or as a workbook."""
    form = FindForm(request.GET or None, yard=request.yard)
    rows = form.narrow(_hauls(request)).select_related("fetched_from", "taken_to")[:MOST]
    return csv_file(request, hauls_table(rows), "hauls")


@dataclass(frozen=True, kw_only=True)
class Step:
    """One of the first steps of a new yard; ``to`` is where it is done, empty where not yet."""

    heading: str
    words: str
    to: str
    done: bool
    next: bool


@dataclass(frozen=True, kw_only=True)
class Lacking:
    """A thing of the book that still stops every plan, and by what."""

    slug: str
    pk: int
    name: str
    stops: str


@dataclass(frozen=True, kw_only=True)
class Start:
    """What a yard has yet to do before it can plan."""

    steps: list[Step]
    ready: bool
    first: bool
    lacking: list[Lacking]
    lacking_more: int


@dataclass(frozen=True, kw_only=True)
class Home(Found, Start):
    """The yard's hauls, what it has yet to do, and what has to be seen to first."""

    notices: list[Notice]


def _first_steps(request: YardRequest, *, looking: bool, empty: bool) -> Start:
    """What a yard has, and where what is there still stops every plan.

    Whoever looks for a haul is told neither of gaps nor that there is none.
    """
    yard = request.yard
    truck = Truck.objects.filter(yard=yard).first()
    machines, bulk = Machine.objects.filter(yard=yard), Bulk.objects.filter(yard=yard)
    asked = (
        (
            "Add a truck",
            "Door sticker or papers, and what it weighs empty.",
            reverse("add_thing", args=["trucks"]),
            truck is not None,
        ),
        (
            "Add its hitch",
            "Where the ball is, and the parts it sits on.",
            "" if truck is None else reverse("add_hitch", args=[truck.pk]),
            Hitch.objects.filter(truck__yard=yard).exists(),
        ),
        (
            "Add a trailer",
            "Maker's plate, empty weight and tongue, axles and deck.",
            reverse("add_thing", args=["trailers"]),
            Trailer.objects.filter(yard=yard).exists(),
        ),
        (
            "Add a machine",
            "What it weighs, where it balances, how long it is.",
            reverse("add_thing", args=["machines"]),
            machines.exists() or bulk.exists(),
        ),
    )
    undone = [n for n, (*_, done) in enumerate(asked) if not done]
    lacking = [] if looking else _lacking(request)
    return Start(
        steps=[
            Step(heading=heading, words=words, to=to, done=done, next=undone[:1] == [n])
            for n, (heading, words, to, done) in enumerate(asked)
        ],
        ready=not undone,
        first=not undone and empty and not looking,
        lacking=lacking[:LACKING],
        lacking_more=max(len(lacking) - LACKING, 0),
    )


def _lacking(request: YardRequest) -> list[Lacking]:
    """Things of the book that still stop every plan."""
    found: list[Lacking] = []
    for slug in ("trucks", "trailers", "machines", "bulk"):
        kind = KINDS[slug]
        own: QuerySet[Any] = kind.model._default_manager.filter(yard=request.yard)
        if kind.model is Machine:
            own = Machine.objects.filter(yard=request.yard).perhaps_stopped()
        found += made_of(own, STOPPED_BY[kind.model], _stopped, slug)
    return found


def _stopped(things: Sequence[Thing], slug: str) -> tuple[Lacking, ...]:
    lacks = ((thing, stops(thing)) for thing in things)
    return tuple(
        Lacking(slug=slug, pk=thing.pk, name=thing.name, stops=", ".join(words))
        for thing, words in lacks
        if words
    )


@require_http_methods(["GET", "HEAD", "POST"])
@planners
def new_haul(request: YardRequest) -> HttpResponse:
    """Choose truck, trailer and machines; the planner opens on the new haul."""
    form = OutfitForm(request.POST or None, yard=request.yard, initial=asked_for(request.GET))
    lacks: tuple[Wanting, ...] = ()
    if request.method == "POST" and form.is_valid() and not (lacks := not_yet(form, request)):
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
            form.add_error(None, f"{error}. {ENTER_IT}")
        except (PlanFileError, MechanicsError) as error:
            form.add_error(None, f"The book's figures do not fit together. {error}.")
        else:
            return redirect(haul)
    page = OutfitPage(
        form=form,
        title="New haul",
        wanting=lacks,
        stopped=stopped_by(lacks),
        here=here_of(request),
    )
    return show(request, "outfit/outfit.html", page, place="haul")
