"""Moving a thing to another yard of the same owner."""

from __future__ import annotations

from dataclasses import dataclass

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_http_methods

from book.kinds import Kind, kind_of
from book.models import Thing
from book.services.moving import Luggage, MoveError, luggage, move_thing, others_of, why_not
from book.services.things import StaleThing
from web.pages import show
from web.sent import whole_number
from yards.access import YardRequest, owners
from yards.models import Yard


@dataclass(frozen=True, kw_only=True, slots=True)
class Choice:
    """A yard that it can go to; ``why_not`` says why it cannot."""

    yard: Yard
    why_not: str


@dataclass(frozen=True, kw_only=True)
class MovePage:
    """A thing, the other yards, and what moving it does."""

    kind: Kind
    thing: Thing
    choices: list[Choice]
    packed: Luggage
    wrong: str


@require_http_methods(["GET", "HEAD", "POST"])
@owners
def move(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """Move a thing to another yard with its history."""
    kind = kind_of(slug)
    thing = get_object_or_404(kind.model._default_manager, yard=request.yard, pk=pk)
    others = others_of(request.user, request.yard)
    if not others:
        raise Http404
    wrong = ""
    if request.method == "POST":
        asked = whole_number(request.POST.get("yard"))
        to = next((yard for yard in others if yard.pk == asked), None)
        try:
            if to is None:
                raise MoveError("Choose one of your other yards.")
            move_thing(thing, to, version=request.POST.get("version"), user=request.user)
        except MoveError as error:
            wrong = str(error)
        except StaleThing:
            wrong = f"Somebody changed {thing.name} in between. Look at it again first."
        else:
            messages.success(request, f"{thing.name} is in {to.name} now, with its history.")
            return redirect("book")
    page = MovePage(
        kind=kind,
        thing=thing,
        choices=[Choice(yard=yard, why_not=why_not(thing, yard)) for yard in others],
        packed=luggage(thing),
        wrong=wrong,
    )
    return show(request, "book/move.html", page, place="book", status=409 if wrong else 200)
