"""The board of a week: days across, outfits or drivers down, every haul in its field, and what does
not go together."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final
from urllib.parse import urlencode

from django.db.models import Prefetch, Q
from django.utils.dateparse import parse_date
from django.utils.formats import date_format

from book.models import Machine, Place, Trailer, Truck
from day.clashes import Booking, Clash, Of, Used, clashes
from day.held import held_up
from day.runs import empty_runs
from day.stays import late
from day.whereabouts import not_there
from hauls.assigning import assigned, hour_words, where_words
from hauls.models import TO_DO, Haul, HaulItem
from measures import UnitSystem
from planfile.draft import glance
from planning.cards import Headline, in_short
from wording.phrases import listed
from yards.models import Yard

DAYS: Final = 7
EARLIEST, LATEST = date(2000, 1, 1), date(2199, 12, 31)
"""Days that a board is shown for."""

MOST_WAITING: Final = 60
"""Hauls without a day that are offered beside the board, the newest."""

MOST_PICTURED: Final = 30
"""Hauls that a board shows with their picture; one of two hundred would be a megabyte."""


@dataclass(frozen=True, kw_only=True)
class Field:
    """A row of the board: a truck, a driver, or neither; ``key`` as a form sends it."""

    key: str
    title: str
    under: str = ""


@dataclass(frozen=True, kw_only=True)
class Card:
    """One haul of the board. ``was`` is what is said of it, as a change hands it back; ``move`` is
    the address at which it is taken in hand, empty for whoever may not."""

    pk: int
    name: str
    where: str
    hours: str
    who: str
    loads: str
    status: str
    word: str
    line: str
    headline: Headline | None
    problems: tuple[str, ...]
    empty: str
    day: str
    field: str
    was: str
    revision: int
    move: str = ""


@dataclass(frozen=True, kw_only=True)
class Column:
    """A day: its date as a form sends it, its words, whether it is today."""

    iso: str
    words: str
    today: bool


@dataclass(frozen=True, kw_only=True)
class Row:
    """A row with its days: one list of cards for each."""

    field: Field
    days: tuple[tuple[Column, tuple[Card, ...]], ...]


@dataclass(frozen=True, kw_only=True)
class Board:
    """A week. ``clashes``, and machines that nothing brings in time, are told first, in words;
    ``waiting`` have no day yet. ``by`` says what stands down its side, ``in_hand`` which haul is
    about to be moved."""

    by: str
    columns: tuple[Column, ...]
    rows: tuple[Row, ...]
    clashes: tuple[str, ...]
    questions: tuple[str, ...]
    waiting: tuple[Card, ...]
    fields: tuple[Field, ...]
    before: str
    after: str
    week: str
    title: str
    in_hand: int


NONE: Final = Field(key="", title="Nobody yet")
NO_TRUCK: Final = Field(key="", title="No truck of the book")


def asked_day(text: str | None) -> date | None:
    """A day that a page is asked for; ``None`` of what is none, or none that anybody plans."""
    try:
        day = parse_date(text or "")
    except ValueError:
        return None
    return day if day is not None and EARLIEST <= day <= LATEST else None


def monday(day: date) -> date:
    """The first day of its week."""
    return day - timedelta(days=day.weekday())


def board(
    yard: Yard,
    first: date,
    *,
    by: str,
    today: date,
    units: UnitSystem,
    may_move: bool = True,
    in_hand: int = 0,
) -> Board:
    """The week from a day on, in the person's units; ``by`` is ``truck`` or ``driver``, ``in_hand``
    the haul that somebody is about to move."""
    last = first + timedelta(days=DAYS - 1)
    open_ones = Q(archived=False)
    there = Haul.objects.filter(yard=yard)
    # a card tells names: all figures of each truck for each haul would take longer than the rest
    machines = Prefetch("machine", queryset=Machine.objects.only("name"))
    named = (
        Prefetch("links", HaulItem.objects.prefetch_related(machines)),
        Prefetch("truck", Truck.objects.only("name")),
        Prefetch("trailer", Trailer.objects.only("name")),
        Prefetch("fetched_from", Place.objects.only("name")),
        Prefetch("taken_to", Place.objects.only("name")),
    )
    week = list(
        there.filter(open_ones, day__range=(first, last))
        .select_related("driver")
        .prefetch_related(*named)
        .order_by("day", "starts", "pk")
    )
    waiting = list(
        there.filter(open_ones, day=None, state__in=TO_DO)
        .select_related("driver")
        .prefetch_related(*named)[:MOST_WAITING]
    )
    found = list(clashes(booking for haul in week if (booking := booking_of(haul))))
    problems = _problems(week, found, yard, today, units)
    fields = _fields(yard, week, by)
    pictured = len(week) <= MOST_PICTURED
    runs = empty_runs(yard, week, units)
    here = f"?{urlencode({'week': first.isoformat(), 'by': by})}&move=" if may_move else ""
    drawn = _Drawn(by=by, units=units, pictured=pictured, move=here)
    cards = [drawn.card(h, problems.get(h.pk, ()), runs.get(h.pk, "")) for h in week]
    columns = tuple(
        Column(
            iso=(day := first + timedelta(days=n)).isoformat(),
            words=date_format(day, "D j"),
            today=day == today,
        )
        for n in range(DAYS)
    )
    by_key = {haul.pk: haul for haul in week}
    return Board(
        by=by,
        columns=columns,
        rows=tuple(
            Row(
                field=field,
                days=tuple(
                    (
                        column,
                        tuple(c for c in cards if c.field == field.key and c.day == column.iso),
                    )
                    for column in columns
                ),
            )
            for field in fields
        ),
        clashes=(
            *dict.fromkeys(clash_words(one, by_key) for one in found if one.sure),
            *late(yard, first, last),
        ),
        questions=tuple(dict.fromkeys(clash_words(one, by_key) for one in found if not one.sure)),
        waiting=tuple(drawn.card(haul, (), "") for haul in waiting),
        in_hand=in_hand if may_move else 0,
        fields=fields,
        before=(first - timedelta(days=DAYS)).isoformat(),
        after=(first + timedelta(days=DAYS)).isoformat(),
        week=first.isoformat(),
        title=f"{date_format(first, 'j M')} to {date_format(last, 'j M Y')}",
    )


def booking_of(haul: Haul) -> Booking | None:
    """A haul as it is booked; ``None`` where it has no day, or is done."""
    if haul.day is None or haul.state not in TO_DO:
        return None
    uses = [
        Used(of, one.pk, name)
        for of, one, name in (
            (Of.TRUCK, haul.truck, getattr(haul.truck, "name", "")),
            (Of.TRAILER, haul.trailer, getattr(haul.trailer, "name", "")),
            (Of.DRIVER, haul.driver, haul.driver.shown_name if haul.driver else ""),
        )
        if one is not None
    ]
    uses += [
        Used(Of.MACHINE, link.machine.pk, link.machine.name)
        for link in haul.links.all()
        if link.machine is not None
    ]
    return Booking(
        haul=haul.pk,
        day=haul.day,
        starts=None if haul.starts is None else haul.starts.hour * 60 + haul.starts.minute,
        minutes=haul.takes_minutes,
        uses=frozenset(uses),
    )


def clash_words(clash: Clash, names: Mapping[int, Haul]) -> str:
    """``Thursday 26: Work truck 3 is promised for 9:00 and for 9:30.``"""
    day = date_format(clash.one.day, "l j")
    wanted = listed([used.name for used in clash.used])
    if clash.sure:
        one, other = (hour_words(names[b.haul].starts) for b in (clash.one, clash.other))
        when = f"for {one} twice" if one == other else f"for {one} and for {other}"
        return f"{day}: {wanted} {'is' if len(clash.used) == 1 else 'are'} promised {when}."
    return (
        f"{day}: {wanted} for “{names[clash.one.haul].name}” and for "
        f"“{names[clash.other.haul].name}”. No hours say which is first."
    )


def _problems(
    week: list[Haul], found: Iterable[Clash], yard: Yard, today: date, units: UnitSystem
) -> dict[int, tuple[str, ...]]:
    """What does not go together, by haul."""
    said: dict[int, list[str]] = {}
    for clash in found:
        if clash.sure:
            for booking in (clash.one, clash.other):
                names = listed([used.name for used in clash.used])
                said.setdefault(booking.haul, []).append(f"{names} promised twice")
    for pk, words in not_there(yard, week):
        said.setdefault(pk, []).append(words)
    held = held_up(yard, today, units)
    for haul in week:
        for thing in (haul.truck, haul.trailer):
            for words in held.get((type(thing), thing.pk), ()) if thing is not None else ():
                said.setdefault(haul.pk, []).append(f"{thing}: {words}")
    return {pk: tuple(dict.fromkeys(words)) for pk, words in said.items()}


def _fields(yard: Yard, week: list[Haul], by: str) -> tuple[Field, ...]:
    if by == "driver":
        people = list(yard.members.order_by("username"))
        rows = [Field(key=str(user.pk), title=user.shown_name) for user in people]
        return (*rows, NONE)
    trucks = Truck.objects.filter(yard=yard)
    rows = [Field(key=str(truck.pk), title=truck.name) for truck in trucks]
    return (*rows, NO_TRUCK) if any(haul.truck_id is None for haul in week) else tuple(rows)


@dataclass(frozen=True, kw_only=True)
class _Drawn:
    """How the cards of a board are drawn."""

    by: str
    units: UnitSystem
    pictured: bool
    move: str

    def card(self, haul: Haul, problems: tuple[str, ...], empty: str) -> Card:
        """A haul's card."""
        short = in_short(haul, self.units)
        names = glance(haul.document)
        driver = haul.driver.shown_name if haul.driver else ""
        row = haul.driver_id if self.by == "driver" else haul.truck_id
        return Card(
            pk=haul.pk,
            name=haul.name,
            where=where_words(haul),
            hours=hour_words(haul.starts),
            who=names.truck if self.by == "driver" else driver,
            loads=", ".join(names.items) or "empty",
            status=short.status,
            word=short.word,
            line=short.line,
            headline=short.headline if self.pictured else None,
            problems=problems,
            empty=empty,
            day="" if haul.day is None else haul.day.isoformat(),
            field="" if row is None else str(row),
            was=assigned(haul),
            revision=haul.revision,
            move=f"{self.move}{haul.pk}" if self.move else "",
        )
