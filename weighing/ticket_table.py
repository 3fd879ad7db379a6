"""Tickets as a CSV table: written with units in the header, read back with a dry run.

Reading adds tickets and changes none: a row that a ticket of the yard says already is left
alone, so the same file may be taken in twice.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Final

from django.db import transaction

from book.models import Aboard, Ticket
from book.services.intakes import took_in
from book.sheet import TableError, needs_unit, sheet, title_and_unit
from book.table_outcome import Line, Outcome
from book.tables import FORMULA, csv_text, unquoted
from book.ticketfile import TicketRead, list_of, read_ticket
from longwork.running import Progress, no_progress
from measures import Quantity, UnitSystem
from measures.quantity import UNIT_TABLES
from yards.audit import happened
from yards.models import Happened, User, Yard

MASSES: Final = Ticket.FIGURES
LOADS: Final = ("loads__machine", "loads__configuration")

NOT_IN_BOOK: Final = "load"
"""The word for something at a place on the deck that is no machine of the book."""

TEXTS: Final = ("place", "number", "fee", "read_by", "aboard", "method")


@dataclass(frozen=True, kw_only=True, slots=True)
class Column:
    """A column: its name in the file, and what goes into it."""

    name: str
    words: str
    mass: bool = False

    def header(self, units: UnitSystem) -> str:
        """The header with the unit of its bare numbers."""
        title = self.name.replace("_", " ")
        return f"{title} ({units.mass_unit})" if self.mass else title


COLUMNS: Final = (
    Column(name="weighed_on", words="The date, as 2026-05-31."),
    Column(name="list", words="trucks, trailers or machines; empty where it is not in the book."),
    Column(name="name", words="What the book calls it."),
    Column(name="configuration", words="How a machine was set up, where it has configurations."),
    Column(name="whole_mass", words="The whole.", mass=True),
    Column(name="front_axle_mass", words="The front axle.", mass=True),
    Column(name="rear_axle_mass", words="The rear axle.", mass=True),
    Column(name="tongue_mass", words="The tongue.", mass=True),
    Column(name="axles_mass", words="The trailer's axles, hitched.", mass=True),
    Column(name="place", words="Where the scale is."),
    Column(name="number", words="The ticket's number."),
    Column(name="fee", words="As it was paid."),
    Column(name="read_by", words="Who read it."),
    Column(name="aboard", words="Anything worth remembering."),
    Column(name="method", words="The way of weighing, by its word in the address."),
    Column(name="empty", words="yes where a trailer or truck was weighed empty."),
    Column(
        name="loads",
        words="What was aboard, one after another with semicolons: "
        "“person | Ida | {180 lb|82 kg}”, “fuel | full”, "
        "“item | Harrow 48 | | {150 in|3.8 m} | forward” (name, mass, mark, facing), or "
        "“load | Gravel | {2400 lb|1.2 t} | {80 in|2 m} | forward” for what is no machine of the "
        "book.",
    ),
)


def write_tickets(tickets: Iterable[Ticket], units: UnitSystem) -> str:
    """The table as CSV text."""
    return csv_text(
        [column.header(units) for column in COLUMNS],
        ([_cell(ticket, column, units) for column in COLUMNS] for ticket in tickets),
    )


def _cell(ticket: Ticket, column: Column, units: UnitSystem) -> str:
    thing = ticket.thing
    if column.name == "weighed_on":
        return ticket.weighed_on.isoformat()
    if column.name == "list":
        return "" if thing is None else list_of(thing)
    if column.name == "empty":
        return "yes" if ticket.readings.get("empty") else ""
    if column.mass:
        mass: Quantity | None = getattr(ticket, column.name)
        if mass is None:
            return ""
        number = mass.plain
        return number if mass.unit == units.mass_unit else f"{number} {mass.unit}"
    if column.name == "name":
        text = "" if thing is None else thing.name
    elif column.name == "configuration":
        text = "" if ticket.configuration is None else ticket.configuration.name
    elif column.name == "loads":
        text = "; ".join(_load(load) for load in ticket.loads.all())
    else:
        text = str(getattr(ticket, column.name))
    return f"'{text}" if text.startswith((*FORMULA, "'")) else text


def _load(load: Aboard) -> str:
    kind, name = load.kind, load.name
    if load.machine is not None:
        name = load.machine.name
        if load.configuration is not None:
            name += f" / {load.configuration.name}"
    elif kind == Aboard.Kind.ITEM:
        kind = NOT_IN_BOOK
    cells = [kind, name, str(load.mass or "")]
    if load.kind == Aboard.Kind.ITEM:
        cells += [str(load.reference or ""), load.facing]
    return " | ".join(cell.replace("|", "/").replace(";", ",") for cell in cells).rstrip(" |")


def take_tickets_in(
    text: str,
    *,
    yard: Yard,
    user: User,
    stamp: str | None = None,
    progress: Progress = no_progress,
) -> Outcome:
    """Try a table, or with the ``stamp`` of a trial take it in: all of it or nothing.

    Rows are checked without keeping others from writing. ``progress`` is told rows done and rows
    in all; what it raises ends the reading.

    Raises:
        TableError: the text is no such table.
    """
    headers, body, semicolons = sheet(text)
    names = _columns(headers)
    if not body:
        raise TableError("The file has a header and no rows.")
    mark = _mark(yard, text)
    those = Ticket.objects.filter(yard=yard)
    there = {_sameness(t, t.loads.all()) for t in those.prefetch_related("thing", *LOADS)}
    lines: list[Line] = []
    new: list[TicketRead] = []
    for number, row in enumerate(body, 2):
        progress(number - 1, len(body))
        cells = {name: unquoted(cell.strip()) for (name, _), cell in zip(names, row, strict=False)}
        problems: list[str] = []
        if any(cell.strip() for cell in row[len(headers) :]):
            problems.append("more cells than the header. Is a comma not in quotes?")
        entry = _entry(cells, dict(names), problems, semicolons=semicolons)
        read = None
        if not problems:
            read = read_ticket(entry, yard=yard, user=user, path="", problems=problems, before=[])
        title = " ".join(p for p in (cells.get("weighed_on", ""), cells.get("name", "")) if p)
        outcome = "not right" if problems else "new"
        if read is not None:
            same = _sameness(read.ticket, read.loads)
            if same in there:
                outcome = "there already"
            else:
                there.add(same)
                new.append(read)
        lines.append(
            Line(
                number=number,
                name=title,
                outcome=outcome,
                problems=tuple(p.lstrip(".: ").replace("_", " ") for p in problems),
            )
        )
    intake: int | None = None
    if stamp == mark and not any(line.problems for line in lines):
        with transaction.atomic():
            # somebody may have weighed while the rows were checked
            if _mark(yard, text) == mark:
                made = [read.store() for read in new]
                about = f"table of tickets, {len(new)} new"
                happened(Happened.TAKEN_IN, yard=yard, by=user, about=about)
                intake = took_in(yard=yard, user=user, what=about, made=made).pk
    return Outcome(lines=tuple(lines), stamp=mark, intake=intake)


def _mark(yard: Yard, text: str) -> str:
    """What a trial was made of, to notice changes in between."""
    counted = Ticket.objects.filter(yard=yard).count()
    return hashlib.sha256(f"{counted}\n{text}".encode()).hexdigest()


def _columns(headers: list[str]) -> list[tuple[str, str]]:
    """Names of the file's columns, each with the unit of its bare numbers."""
    known = {column.name.replace("_", " "): column for column in COLUMNS}
    found: list[tuple[str, str]] = []
    for header in headers:
        title, unit = title_and_unit(header)
        column = known.get(title)
        if column is None:
            raise TableError(
                f"No column of tickets is called “{header[:60]}”. There are: {', '.join(known)}."
            )
        # without a unit every cell of the column has to bring its own
        if column.mass and unit and unit not in UNIT_TABLES["mass"]:
            raise TableError(needs_unit(title, "mass"))
        if any(name == column.name for name, _ in found):
            raise TableError(f"Column “{title}” stands in the file twice.")
        found.append((column.name, unit))
    if "weighed_on" not in dict(found):
        raise TableError("The column “weighed on” is missing; every ticket has a date.")
    return found


def _entry(
    cells: dict[str, str], units: dict[str, str], problems: list[str], *, semicolons: bool
) -> dict[str, Any]:
    entry: dict[str, Any] = {}
    for name, cell in cells.items():
        if not cell or name in ("empty", "loads"):
            continue
        if name in MASSES:
            if semicolons and cell.replace(",", "").isdigit() and "," in cell:
                problems.append(
                    f"{name}: “{cell}” could mean two things in a file with semicolons. Write it "
                    "without a comma."
                )
            bare = cell.replace(",", "").replace(".", "").replace(" ", "").isdigit()
            if bare and not units[name]:
                problems.append(f"{name}: “{cell}” without a unit. {needs_unit(name, 'mass')}")
            entry[name] = f"{cell} {units[name]}" if bare and units[name] else cell
        else:
            entry[name] = cell
    empty = cells.get("empty", "").lower()
    if empty not in ("", "yes", "no"):
        problems.append("empty: write yes or no")
    elif empty == "yes":
        entry["readings"] = {"empty": True}
    loads = [_load_entry(part) for part in cells.get("loads", "").split(";") if part.strip()]
    if loads:
        entry["loads"] = loads
    return entry


def _load_entry(text: str) -> dict[str, Any]:
    cells = [cell.strip() for cell in text.split("|")]
    entry: dict[str, Any] = {"kind": cells[0].lower()}
    names = ("name", "mass", "reference", "facing")
    entry |= {name: cell for name, cell in zip(names, cells[1:], strict=False) if cell}
    if entry["kind"] == NOT_IN_BOOK:
        entry["kind"] = Aboard.Kind.ITEM.value
    elif entry["kind"] == Aboard.Kind.ITEM and "name" in entry:
        machine, _, configuration = entry.pop("name").partition(" / ")
        entry["machine"] = machine
        if configuration:
            entry["configuration"] = configuration
    return entry


def _sameness(ticket: Ticket, loads: Iterable[Aboard]) -> tuple[Any, ...]:
    """What makes two tickets the same weighing; ``loads`` are what was aboard."""
    figures = tuple(str(getattr(ticket, name) or "") for name in Ticket.FIGURES)
    return (
        ticket.weighed_on,
        ticket.content_type_id,
        ticket.object_id,
        ticket.configuration_id,
        ticket.place,
        ticket.number,
        *figures,
        # two readings of a day may differ in nothing but where the machine stood
        *(_load(load) for load in loads),
    )
