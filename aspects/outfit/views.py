"""Another truck, trailer or set of loads for a haul, and the book's present numbers."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_http_methods, require_POST

from aspects.outfit.forms import LOAD_NAMES, LOADS, OutfitForm, asked_for
from aspects.outfit.wanting import Wanting, address_with, wanting
from aspects.rooms import base_sent
from book.errors import IncompleteError
from hauls.drafting import book_draft
from hauls.loads import linked_loads
from hauls.models import Haul, HaulQuerySet
from hauls.steps import StaleRevision
from hauls.store import save_haul, swap_outfit, with_people
from measures import UnitSystem
from mechanics.errors import MechanicsError
from mechanics.report import evaluate
from planfile.errors import PlanFileError
from web.pages import show
from wording.sentences import kept_places
from yards.access import YardRequest, planners

ENTER_IT = "Enter it in the book, then plan again."
"""What to do about a thing that lacks figures."""


@dataclass(frozen=True, kw_only=True)
class OutfitPage:
    """What a haul is made of; ``haul`` is ``None`` for a new one, ``loose`` counts loads that are
    not of the book, ``wanting`` is what the book lacks for it, ``here`` the page's own address with
    what is chosen."""

    form: OutfitForm
    title: str
    haul: Haul | None = None
    loose: int = 0
    wanting: tuple[Wanting, ...] = ()
    here: str = ""
    stopped: bool = False
    """Whether something is wanting that no estimate stands in for."""


def here_of(request: YardRequest) -> str:
    """This page with what is chosen on it."""
    data = request.POST if request.method == "POST" else request.GET
    return address_with(request.path, data, OutfitForm.base_fields | LOAD_NAMES)


def wanting_of(form: OutfitForm, request: YardRequest) -> tuple[Wanting, ...]:
    """What the book lacks for what was chosen."""
    chosen = form.cleaned_data
    units = request.user.unit_system
    return wanting(chosen["hitch"], chosen["trailer"], form.loads, units, here_of(request))


def not_yet(form: OutfitForm, request: YardRequest) -> tuple[Wanting, ...]:
    """What has to be entered, or agreed to as estimates, before what was chosen is planned; empty
    once the estimates are agreed to and nothing stops a plan."""
    lacks = wanting_of(form, request)
    agreed = request.POST.get("estimates") == "yes" and not stopped_by(lacks)
    return () if agreed else lacks


def stopped_by(lacks: tuple[Wanting, ...]) -> bool:
    """Whether something is wanting that no estimate stands in for."""
    return any(one.stops for one in lacks)


def _hauls(request: YardRequest) -> HaulQuerySet:
    return Haul.objects.filter(yard=request.yard)


@require_http_methods(["GET", "HEAD", "POST"])
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
    initial |= {f"load_{n + 1}": str(load.key) for n, load in enumerate(links[:LOADS])}
    initial |= asked_for(request.GET)
    form = OutfitForm(request.POST or None, yard=request.yard, initial=initial)
    lacks: tuple[Wanting, ...] = ()
    if request.method == "POST" and form.is_valid() and not (lacks := not_yet(form, request)):
        try:
            swap_outfit(
                haul,
                hitch=form.cleaned_data["hitch"],
                trailer=form.cleaned_data["trailer"],
                loads=form.loads,
                name=form.cleaned_data["name"],
                base=base_sent(request),
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
            form.add_error(None, f"{error}. {ENTER_IT}")
        except (PlanFileError, MechanicsError) as error:
            form.add_error(None, f"The book's figures do not fit together. {error}.")
        else:
            for words in _kept_places(haul, request.user.unit_system):
                messages.info(request, words)
            return redirect(haul)
    page = OutfitPage(
        form=form,
        title="Truck, trailer and machines",
        haul=haul,
        loose=len(haul.draft.plan.items) - len(links),
        wanting=lacks,
        stopped=stopped_by(lacks),
        here=here_of(request),
    )
    return show(request, "outfit/outfit.html", page, place="haul")


def _kept_places(haul: Haul, unit: UnitSystem) -> list[str]:
    """Better places of machines that kept theirs on another outfit."""
    return kept_places(evaluate(haul.draft.plan), haul.draft.marks, unit)


@require_POST
@planners
def take_books_numbers(request: YardRequest, pk: int) -> HttpResponse:
    """Put the book's present numbers into the haul; places stay."""
    haul = get_object_or_404(_hauls(request).with_book(), pk=pk)
    try:
        save_haul(
            haul,
            book_draft(haul),
            base=base_sent(request),
            user=request.user,
        )
    except StaleRevision:
        messages.error(
            request, "Somebody changed this haul in between. Look again, then take them."
        )
    except IncompleteError as error:
        messages.error(request, f"{error}. {ENTER_IT}")
    except (PlanFileError, MechanicsError) as error:
        messages.error(request, f"The book's figures do not fit together. {error}.")
    else:
        messages.success(request, "The haul now stands on the book's present numbers.")
    return redirect(haul)


@require_POST
@planners
def aboard(request: YardRequest, pk: int) -> HttpResponse:
    """One or two people ride in the haul's truck, instead of the one that is counted unasked."""
    haul = get_object_or_404(_hauls(request).with_book(), pk=pk)
    count = 2 if request.POST.get("people") == "2" else 1
    try:
        with_people(
            haul,
            haul.draft,
            count,
            base=base_sent(request),
            user=request.user,
            units=request.user.unit_system,
        )
    except StaleRevision:
        messages.error(request, "Somebody changed this haul in between. Look again, then say it.")
    except (IncompleteError, PlanFileError, MechanicsError) as error:
        messages.error(request, f"The truck's figures do not fit together. {error}.")
    return redirect(haul)
