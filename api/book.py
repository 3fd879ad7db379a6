"""The book, for programs: things as a yard file has them."""

from __future__ import annotations

from typing import Any, cast

from django.shortcuts import get_object_or_404
from ninja import Router, Status

from api.models import Scope
from api.schemas import BookList, Key, Page, Thing, ThingIn, Things
from api.service import WRONG, Asking, Stale, WrongError, needs, page_of
from book.history import keep, recorded
from book.models import Thing as BookThing
from book.services.things import StaleThing, claim, remove_thing
from book.yardfile import SHAPES, dump_thing, load_yard

router = Router(tags=["book"])

WHY = "by a program"


def _one(request: Asking, name: str, pk: int) -> BookThing:
    return cast(BookThing, get_object_or_404(SHAPES[name].model, yard=request.yard, pk=pk))


def _out(thing: Any) -> Thing:
    return Thing(id=thing.pk, version=thing.version, entry=dump_thing(thing))


@router.get("/{name}", response={200: Things, **WRONG}, summary="A list of the book")
@needs(Scope.BOOK_READ)
def things(request: Asking, name: BookList, page: Page = 1) -> Things:
    """Things by name, fifty to a page, each as an entry of a yard file."""
    rows = SHAPES[name].model._default_manager.filter(yard=request.yard).order_by("name", "pk")
    found = [_out(one) for one in page_of(rows, page)]
    return Things(count=rows.count(), page=page, things=found)


@router.get("/{name}/{pk}", response={200: Thing, **WRONG}, summary="A thing of the book")
@needs(Scope.BOOK_READ)
def thing(request: Asking, name: BookList, pk: Key) -> Thing:
    """One thing."""
    return _out(_one(request, name, pk))


@router.post("/{name}", response={201: Thing, **WRONG}, summary="Add a thing")
@needs(Scope.BOOK_WRITE)
def add_thing(request: Asking, name: BookList, sent: ThingIn) -> Any:
    """A new thing, checked exactly as the page checks it."""
    problems: list[str] = []
    with recorded(yard=request.yard, user=request.user, why=WHY):
        made = load_yard({name: [sent.entry]}, request.yard, problems).made
        if problems:
            raise WrongError(*problems)
        keep(made[0])
    return Status(201, _out(made[0]))


@router.put("/{name}/{pk}", response={200: Thing, **WRONG}, summary="Change a thing")
@needs(Scope.BOOK_WRITE)
def change_thing(request: Asking, name: BookList, pk: Key, sent: ThingIn) -> Thing:
    """The whole entry in the place of what is there, based on a version."""
    there = _one(request, name, pk)
    problems: list[str] = []
    with recorded(yard=request.yard, user=request.user, why=WHY):
        try:
            claim(there, str(sent.version))
        except StaleThing:
            raise Stale from None
        load_yard({name: [sent.entry]}, request.yard, problems, onto={f"{name}/0": there})
        if problems:
            raise WrongError(*problems)
        keep(there)
    return _out(_one(request, name, pk))


@router.delete("/{name}/{pk}", response={204: None, **WRONG}, summary="Remove a thing")
@needs(Scope.BOOK_WRITE)
def take_out(request: Asking, name: BookList, pk: Key, version: Key) -> Any:
    """Out of the book; it can be brought back on its pages for a while."""
    try:
        remove_thing(_one(request, name, pk), version=str(version), user=request.user)
    except StaleThing:
        raise Stale from None
    return Status(204, None)
