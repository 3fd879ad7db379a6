"""The fleet in words: what to do next, and every thing with where it is and how it stands."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from typing import Final

from django.urls import reverse
from django.utils.formats import date_format

from book.kinds import slug_of
from book.models import Gear, Machine, Place, Thing, Trailer, Truck
from day.held import held_up
from day.stays import late
from day.whereabouts import moves_of, place_at
from fleet.hauled import Hauled, Key, hauled, most_often
from hauls.models import Haul
from measures import UnitSystem
from mechanics.checks import Status
from road.defects import holding_up
from road.inspections import dues_of
from road.models import Step, Trip
from wording.limits import label
from wording.phrases import begun, listed
from yards.models import Yard

NEAR_MISS: Final = timedelta(days=60)
"""How far back near misses are told."""

MOST_OF_EACH: Final = 6
"""Lines of one kind in what to do next."""

LOOKED_OVER: Final = timedelta(days=365)
"""Gear that nobody has looked over for longer is told. Common practice, no source."""

FEW: Final = 3
"""Hauls that rest on a guess before it is worth a line of its own."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Todo:
    """Something to do next, where, and how it stands."""

    words: str
    address: str
    status: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """A thing of the fleet: its state in a word, where it is, what is due, what nobody measured,
    which limit is tightest how often, what is next."""

    name: str
    address: str
    status: str
    state: str
    where: str
    notes: tuple[str, ...]
    coming: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Group:
    """Things of one kind."""

    title: str
    lines: tuple[Line, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Fleet:
    """The fleet as a page shows it."""

    todo: tuple[Todo, ...]
    groups: tuple[Group, ...]


def fleet_of(yard: Yard, today: date, units: UnitSystem) -> Fleet:
    """The fleet on a day, in the person's units."""
    return _Told(yard, today, units).fleet()


class _Told:
    def __init__(self, yard: Yard, today: date, units: UnitSystem) -> None:
        self.yard, self.today, self.units = yard, today, units
        self.hauled: Hauled = hauled(yard, today)
        self.held = held_up(yard, today, units)
        self.dues = dues_of(yard, today, units, everything=True)
        self.home = Place.objects.filter(yard=yard, home=True).first()
        self.trucks = list(Truck.objects.filter(yard=yard))
        self.trailers = list(Trailer.objects.filter(yard=yard))
        self.machines = list(Machine.objects.filter(yard=yard))
        self.gear = list(Gear.objects.filter(yard=yard))
        self.moves = moves_of(yard, [one.pk for one in self.machines])

    def fleet(self) -> Fleet:
        groups = (
            ("Trucks", [self._driven(one, ("truck", one.pk)) for one in self.trucks]),
            ("Trailers", [self._driven(one, ("trailer", one.pk)) for one in self.trailers]),
            ("Machines", [self._machine(one) for one in self.machines]),
            ("Gear", [self._gear(one) for one in self.gear]),
        )
        return Fleet(
            todo=tuple(self._todo()),
            groups=tuple(
                Group(title=title, lines=tuple(lines)) for title, lines in groups if lines
            ),
        )

    # what to do next

    def _todo(self) -> Iterator[Todo]:
        for defect in holding_up(self.yard, MOST_OF_EACH):
            yield Todo(
                words=f"Decide or mend: {defect.thing.name}: {defect.what}.",
                address=reverse("defects"),
                status=Status.OVER.value,
            )
        overdue = [due for due in self.dues if due.overdue]
        for due in overdue[:MOST_OF_EACH]:
            yield Todo(
                words=f"Inspect {due.thing}: {due.what} {due.words}.",
                address=reverse("inspections"),
                status=Status.OVER.value,
            )
        week = self.today + timedelta(days=7)
        for words in list(late(self.yard, self.today, week))[:MOST_OF_EACH]:
            yield Todo(words=words, address=reverse("plan_day"), status=Status.OVER.value)
        yield from list(self._near_misses())[:MOST_OF_EACH]
        yield from self._guesses()
        for due in [due for due in self.dues if due.soon][:MOST_OF_EACH]:
            yield Todo(
                words=f"Soon: {due.thing}: {due.what} {due.words}.",
                address=reverse("inspections"),
                status=Status.NEAR.value,
            )

    def _near_misses(self) -> Iterator[Todo]:
        """Ways that frightened somebody or ran hot, and hauls that went out over a limit."""
        since = self.today - NEAR_MISS
        trips = Trip.objects.filter(yard=self.yard, driven_on__gte=since)
        for trip in trips.select_related("haul")[:200]:
            what = [
                str(field.verbose_name)
                for field in Trip._meta.fields
                if field.name in Trip.COMPLAINTS and getattr(trip, field.name)
            ]
            if trip.drove is not None and trip.drove <= Trip.Drove.POOR:
                what.append("it drove uneasily")
            if not what:
                continue
            day = date_format(trip.driven_on, "j M")
            haul = "" if trip.haul is None else f", “{trip.haul.name}”"
            address = (
                reverse("home") if trip.haul_id is None else reverse("haul", args=[trip.haul_id])
            )
            yield Todo(
                words=f"Near miss on {day}{haul}: {listed(what)}. Look at its plan before it goes "
                "again.",
                address=address,
                status=Status.NEAR.value,
            )
        went = Haul.objects.filter(
            yard=self.yard,
            verdict=Status.OVER.value,
            steps_done__step=Step.GO,
            steps_done__at__date__gte=since,
        ).distinct()
        for gone in went[:MOST_OF_EACH]:
            yield Todo(
                words=f"“{gone.name}” went out over a limit. Look at it before it goes again.",
                address=gone.get_absolute_url(),
                status=Status.NEAR.value,
            )

    def _guesses(self) -> Iterator[Todo]:
        """What most hauls rest on that nobody measured."""
        found = [
            (count, key, name)
            for key, names in self.hauled.guesses.items()
            for name, count in names.items()
            if count >= FEW
        ]
        things: dict[Key, Thing] = {
            (kind, one.pk): one
            for kind, rows in (
                ("truck", self.trucks),
                ("trailer", self.trailers),
                ("machine", self.machines),
            )
            for one in rows
        }
        for count, key, name in sorted(found, key=lambda one: (-one[0], one[1], one[2]))[
            :MOST_OF_EACH
        ]:
            thing = things.get(key)
            if thing is not None:
                yield Todo(
                    words=f"{count} hauls rest on a guess: {thing.name}, {name}. Take the figure.",
                    address=_address(thing),
                    status=Status.UNKNOWN.value,
                )

    # every thing

    def _driven(self, thing: Truck | Trailer, key: Key) -> Line:
        held = self.held.get((type(thing), thing.pk), ())
        out = self.hauled.out.get(key)
        notes = [*held]
        notes += [
            f"{due.what} {due.words}"
            for due in self.dues
            if due.key == (type(thing), thing.pk) and not due.overdue
        ][:2]
        notes += self._counted(key)
        state = "held up" if held else "on the road" if out else "ready"
        place = "" if self.home is None else self.home.name
        if out is not None:
            place = f"with “{out.name}”"
        return Line(
            name=thing.name,
            address=_address(thing),
            status=(Status.OVER if held else Status.OK).value,
            state=state,
            where=place,
            notes=tuple(notes),
            coming=self._coming(key),
        )

    def _counted(self, key: Key) -> list[str]:
        notes = []
        hauls, tight = self.hauled.hauls[key], self.hauled.tight.get(key)
        if tight:
            code, count = most_often(tight.items())
            notes.append(f"tightest: {label(code, unit=self.units)}, {count} of {hauls} hauls")
        guesses = self.hauled.guesses.get(key)
        if guesses:
            notes.append(f"nobody measured: {listed(sorted(guesses))}")
        return notes

    def _machine(self, machine: Machine) -> Line:
        key: Key = ("machine", machine.pk)
        out = self.hauled.out.get(key)
        there = place_at(self.moves, machine.pk, datetime.combine(self.today, time.max))
        there = there or self.home
        where = "" if there is None else there.name
        if out is not None:
            where = f"with “{out.name}”"
        guesses = self.hauled.guesses.get(key)
        return Line(
            name=machine.name,
            address=_address(machine),
            status=(Status.UNKNOWN if guesses else Status.OK).value,
            state="on the road" if out else "rests on guesses" if guesses else "measured",
            where=where,
            notes=tuple(self._counted(key)),
            coming=self._coming(key),
        )

    def _gear(self, gear: Gear) -> Line:
        notes = []
        looked = gear.inspected_on
        if looked is None:
            notes.append("nobody has looked it over")
        elif self.today - looked > LOOKED_OVER:
            notes.append(f"last looked over {date_format(looked, 'j M Y')}")
        if gear.unmarked:
            notes.append("no limit or grade can be read on it")
        status = Status.OVER if gear.retired else Status.NEAR if notes else Status.OK
        return Line(
            name=gear.name,
            address=_address(gear),
            status=status.value,
            state=f"retired: {gear.get_retired_display().lower()}" if gear.retired else "in use",
            where=f"{gear.count} on the rack",
            notes=tuple(notes),
            coming="",
        )

    def _coming(self, key: Key) -> str:
        haul = self.hauled.coming.get(key)
        if haul is None or haul.day is None:
            return ""
        return f"{begun(date_format(haul.day, 'l j M'))}: {haul.name}"


def _address(thing: Thing) -> str:
    return reverse("edit_thing", args=[slug_of(thing), thing.pk])
