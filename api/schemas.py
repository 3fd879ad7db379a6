"""What programs send and are sent, beside the open formats."""

from __future__ import annotations

from datetime import date, time
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import ConfigDict, Field

Key = Annotated[int, Field(ge=1, le=2**53)]
"""The key of a row."""

Page = Annotated[int, Field(ge=1, le=100_000)]
Text = Annotated[str, Field(max_length=400)]
Document = dict[str, Any]
"""An object of an open format: a plan file, or an entry of a yard file."""

BookList = Literal["hitch_parts", "trucks", "trailers", "machines", "bulk", "gear", "places"]
"""A list of the book, named as in a yard file."""


class Sent(Schema):
    """What a program sends: nothing that nobody reads."""

    model_config = ConfigDict(extra="forbid")


class Problem(Schema):
    """What is wrong with a request, each in a sentence."""

    problems: list[str]


class Me(Schema):
    """Whose token it is."""

    person: str
    yard: str
    role: str
    scopes: list[str]
    units: str


class Thing(Schema):
    """A thing of the book; ``entry`` is as a yard file has it."""

    id: int
    version: int
    entry: Document


class Things(Schema):
    """A page of a list of the book."""

    count: int
    page: int
    things: list[Thing]


class ThingIn(Sent):
    """A thing for the book; ``version`` is the one that a change is based on."""

    entry: Document
    version: int | None = None


class Haul(Schema):
    """A haul in short; ``stamp`` is what is said of when and where it goes, as a change of that
    hands it back."""

    id: int
    name: str
    state: str
    verdict: str
    revision: int
    archived: bool
    truck: str | None
    trailer: str | None
    driver: str | None
    job: Document
    stamp: str


class HaulWhole(Haul):
    """A haul with its plan."""

    plan: Document


class Hauls(Schema):
    """A page of hauls, the newest first."""

    count: int
    page: int
    hauls: list[Haul]


class HaulIn(Sent):
    """A haul from the book: ``loads`` in driving-on order, as ``machine-3``, ``machine-3-7`` (in a
    configuration) or ``bulk-2``; ``hitch`` and ``trailer`` by key."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    hitch: Key
    trailer: Key
    loads: Annotated[list[Text], Field(max_length=8)]
    backward: bool = False


class PlanIn(Sent):
    """A plan file, on top of a revision where it changes a haul."""

    plan: Document
    revision: Annotated[int, Field(ge=1, le=2**31)] | None = None


class JobIn(Sent):
    """When and where a haul goes; places by their names, the driver by his sign-in name; what is
    left out is not said. ``stamp`` is what was read with the haul."""

    stamp: Annotated[str, Field(max_length=800)]
    day: date | None = None
    starts: time | None = None
    takes_minutes: int | None = None
    fetched_from: Text | None = None
    taken_to: Text | None = None
    purpose: Text = ""
    driver: Text | None = None


class LoadsIn(Sent):
    """Loads, as of a new haul."""

    loads: Annotated[list[Text], Field(min_length=1, max_length=3)]


class Match(Schema):
    """One truck, hitch and trailer under some loads. ``reserve`` is the least part that is left of
    any rating, null where it is not known."""

    hitch: int
    trailer: int
    outfit: str
    status: str
    word: str
    line: str
    reserve: float | None


class Matches(Schema):
    """Every pair, the best first; ``cut`` where there are more."""

    matches: list[Match]
    cut: bool


class Ticket(Schema):
    """A ticket; ``entry`` is as a yard file has it."""

    id: int
    entry: Document


class Tickets(Schema):
    """A page of tickets, the newest first."""

    count: int
    page: int
    tickets: list[Ticket]


class TicketIn(Sent):
    """A ticket for the book, as an entry of a yard file."""

    entry: Document


class Card(Schema):
    """A haul of the board with what does not go together."""

    haul: int
    name: str
    day: str
    hours: str
    who: str
    loads: str
    status: str
    word: str
    problems: list[str]
    empty: str
    stamp: str
    revision: int


class Board(Schema):
    """A week of the board: what is promised twice or brought by nothing, what no hours decide."""

    week: date
    by: str
    clashes: list[str]
    questions: list[str]
    cards: list[Card]
    waiting: list[Card]


class MoveIn(Sent):
    """Where a haul goes on the board: a day or none, a truck's or driver's key or none."""

    haul: Key
    day: date | None = None
    by: Literal["truck", "driver"] = "truck"
    key: Annotated[str, Field(max_length=20)] = ""
    stamp: Annotated[str, Field(max_length=800)]
    revision: Annotated[int, Field(ge=1, le=2**31)]
