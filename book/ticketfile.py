"""Tickets in files: as objects of a yard file, and checked as the pages check them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, Final

from django import forms

from book.forms import TicketForm
from book.models import Aboard, Configuration, Machine, Thing, Ticket
from book.yardfile import SHAPES
from measures import UnitSystem
from yards.models import User, Yard

TEXTS: Final = ("place", "number", "aboard", "fee", "read_by", "method")
NUMBERS_OF: Final = ("tolerance_kg", "planned_kg", "read_kg")
"""Entries of a ticket's readings that hold numbers by name."""
MOST_LOADS: Final = 40


class FileTicketForm(TicketForm):
    """A ticket with everything that a page keeps."""

    class Meta(TicketForm.Meta):
        fields = ("weighed_on", *Ticket.FIGURES, *TEXTS)  # type: ignore[assignment]

    def clean(self) -> dict[str, Any]:
        """A ticket without a figure is a record of its readings, where it has any."""
        cleaned = forms.ModelForm.clean(self) or self.cleaned_data
        if any(cleaned.get(name) for name in Ticket.READINGS):
            return super().clean()
        return cleaned


class AboardForm(forms.ModelForm):
    """One line of what was aboard."""

    class Meta:
        model = Aboard
        fields = ("kind", "name", "mass", "reference", "facing")


def dump_ticket(ticket: Ticket, numbers: dict[int, int]) -> dict[str, Any]:
    """A ticket as the file has it; ``numbers`` are the places of tickets in its list."""
    document: dict[str, Any] = {"weighed_on": ticket.weighed_on.isoformat()}
    thing = ticket.thing
    if thing is not None:
        document |= {"list": list_of(thing), "name": thing.name}
    for name in (*Ticket.FIGURES, *TEXTS):
        value = getattr(ticket, name)
        if value:
            document[name] = str(value)
    if ticket.configuration is not None:
        document["configuration"] = ticket.configuration.name
    first = None if ticket.first_id is None else numbers.get(ticket.first_id)
    if first is not None and first < numbers.get(ticket.pk, 0):
        document["first"] = first
    if ticket.readings:
        document["readings"] = ticket.readings
    loads = [_dump_aboard(load) for load in ticket.loads.all()]
    return {**document, "loads": loads} if loads else document


def _dump_aboard(load: Aboard) -> dict[str, Any]:
    document: dict[str, Any] = {"kind": load.kind}
    for name, value in (
        ("name", load.own_words),
        ("mass", load.mass),
        ("reference", load.reference),
    ):
        if value:
            document[name] = str(value)
    if load.kind == Aboard.Kind.ITEM:
        document["facing"] = load.facing
        if load.machine is not None:
            document["machine"] = load.machine.name
        if load.configuration is not None:
            document["configuration"] = load.configuration.name
    return document


def list_of(thing: Thing) -> str:
    """The list of the file that a thing stands in."""
    return next(name for name, shape in SHAPES.items() if isinstance(thing, shape.model))


@dataclass(frozen=True, kw_only=True, slots=True)
class TicketRead:
    """A ticket of a file with what was aboard; not stored before somebody says so."""

    ticket: Ticket
    loads: tuple[Aboard, ...]

    def store(self) -> Ticket:
        """Store it; the first weighing that it belongs to has to be stored before."""
        # a number that it was given since it was read is not on the row yet
        self.ticket.first = self.ticket.first
        self.ticket.save()
        for load in self.loads:
            load.ticket = self.ticket
            load.save()
        return self.ticket


def read_ticket(
    entry: Any, *, yard: Yard, user: User, path: str, problems: list[str], before: list[Ticket]
) -> TicketRead | None:
    """A ticket of a file, for a yard; what is wrong goes into ``problems``. Nothing is stored.

    ``before`` are the tickets of the same file that were read before it.
    """
    if not isinstance(entry, dict):
        problems.append(f"{path}: expected an object")
        return None
    counted = len(problems)
    thing = None
    if "list" in entry or "name" in entry:
        thing = _thing(entry, yard)
        if thing is None:
            problems.append(
                f"{path}: “{str(entry.get('name', ''))[:60]}” is not a thing of the book; write "
                "list and name as the book has them"
            )
    form = FileTicketForm(entry, units=UnitSystem.US)
    known = {"list", "name", "configuration", "first", "readings", "loads", *form.fields}
    problems += [f"{path}.{name}: no such field" for name in sorted(set(entry) - known)]
    for name, errors in form.errors.items():
        problems += [f"{path}.{name}: {words}" for words in errors]
    first = entry.get("first")
    if first is not None and not (isinstance(first, int) and 0 <= first < len(before)):
        problems.append(f"{path}.first: expected the number of an earlier ticket of the file")
    readings = clean_readings(entry.get("readings", {}))
    if readings is None:
        problems.append(f"{path}.readings: expected what a ticket keeps of its readings")
    loads = entry.get("loads", [])
    if not isinstance(loads, list) or len(loads) > MOST_LOADS:
        problems.append(f"{path}.loads: expected a list of at most {MOST_LOADS}")
        loads = []
    rows = [_aboard(load, yard, f"{path}.loads[{n}]", problems) for n, load in enumerate(loads)]
    if len(problems) > counted:
        return None
    ticket: Ticket = form.save(commit=False)
    ticket.yard, ticket.thing, ticket.added_by = yard, thing, user
    ticket.readings = readings
    if isinstance(thing, Machine) and "configuration" in entry:
        ticket.configuration = thing.configurations.filter(name=entry["configuration"]).first()
    if first is not None:
        ticket.first = before[first]
    return TicketRead(ticket=ticket, loads=tuple(row for row in rows if row is not None))


def _thing(entry: dict[str, Any], yard: Yard) -> Any:
    shape = SHAPES.get(str(entry.get("list", "")))
    if shape is None:
        return None
    return shape.model._default_manager.filter(yard=yard, name=entry.get("name")).first()


def _aboard(entry: Any, yard: Yard, path: str, problems: list[str]) -> Aboard | None:
    if not isinstance(entry, dict):
        problems.append(f"{path}: expected an object")
        return None
    typed = {"facing": Aboard.Facing.FORWARD, **entry}
    row = Aboard()
    form = AboardForm(typed, instance=row)
    unknown = set(entry) - {"machine", "configuration", *form.fields}
    problems += [f"{path}.{name}: no such field" for name in sorted(unknown)]
    for name, errors in form.errors.items():
        problems += [f"{path}.{name}: {words}" for words in errors]
    if "machine" in entry:
        row.machine = Machine.objects.filter(yard=yard, name=entry["machine"]).first()
        if row.machine is None:
            problems.append(f"{path}.machine: not a machine of the book")
        elif "configuration" in entry:
            row.configuration = Configuration.objects.filter(
                machine=row.machine, name=entry["configuration"]
            ).first()
    return row


def clean_readings(value: Any) -> dict[str, Any] | None:
    """What a ticket keeps of its readings, or ``None`` where it is something else."""
    if not isinstance(value, dict):
        return None
    found: dict[str, Any] = {}
    for name, part in value.items():
        if name in ("empty", "bars") and isinstance(part, bool):
            found[name] = part
        elif name == "choice" and isinstance(part, str):
            found[name] = part[:30]
        elif name == "boxes" and _all_named(part, str):
            found[name] = {key: text[:60] for key, text in part.items()}
        elif name in NUMBERS_OF and _all_named(part, (int, float)):
            found[name] = part
        elif name == "figures" and isinstance(part, list) and len(part) <= MOST_LOADS:
            if not all(_figure(one) for one in part):
                return None
            found[name] = part
        else:
            return None
    return found


def _all_named(part: Any, kind: type | tuple[type, ...]) -> bool:
    return (
        isinstance(part, dict)
        and len(part) <= MOST_LOADS
        and all(
            isinstance(one, kind)
            and not isinstance(one, bool)
            and (isinstance(one, str) or math.isfinite(float(str(one))))
            for one in part.values()
        )
    )


def _figure(one: Any) -> bool:
    return (
        isinstance(one, list)
        and len(one) == 3
        and isinstance(one[0], str)
        and all(isinstance(n, (int, float)) and math.isfinite(n) for n in one[1:])
    )
