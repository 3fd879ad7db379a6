"""What the readings say about the book: the fit in words, and put into the book."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Any, Final

from django.db.models import F

from book.errors import IncompleteError
from book.estimates import axle_places, balance, whole_mass
from book.figures import built_machine, empty_trailer, lever_of, machine_lacks, si
from book.history import keep, recorded
from book.models import Configuration, Known, Machine, MachinePart, Trailer
from book.tolerances import Tolerances
from hauls.models import Haul
from measures import Quantity, UnitSystem
from measures.writing import write_inches, write_length, write_mass
from mechanics.coach import ERRORS
from mechanics.fit import Belief, Fitted, Slip, Suspect, fit, suspects
from mechanics.units import M_PER_IN
from web.sent import counted
from weighing.gathering import Gathered, Subject, believed, gather
from weighing.models import AcceptedFit
from weighing.services import quantity
from wording.phrases import signed_inches, signed_mass
from yards.models import User

TELLS: Final = 0.9
"""A fit that leaves more than this part of the doubt has told next to nothing."""

NAMES: Final = {
    "trailer": "Empty trailer",
    "tongue": "Empty tongue",
    "machine": "Mass of the machine",
    "ahead": "Balance point ahead of the mark",
    "lever": "Coupler to axles, effective",
}
LENGTHS: Final = ("ahead", "lever")

GUESSED: Final = {
    "trailer": "the empty trailer's mass",
    "tongue": "the trailer's empty tongue",
    "machine": "the machine's mass",
    "ahead": "where the machine balances",
    "lever": "the distance from coupler to axles",
}
"""Figures of the book that may be guesses, in the middle of a sentence."""


class StaleFit(Exception):
    """The book or the tickets have moved on since the page was drawn; nothing was stored."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Estimate:
    """One unknown: the book's figure and the readings', written out."""

    name: str
    title: str
    book: str
    book_doubt: str
    fitted: str
    fitted_doubt: str
    apart: str
    tells: bool
    offered: bool
    why_not: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class Residual:
    """One reading against the fit, written out; ``errors`` is how many times its own doubt."""

    gathered: Gathered
    read: str
    expected: str
    apart: str
    errors: float
    worst: bool

    @property
    def errors_words(self) -> str:
        """How many times its own doubt it is off, either way."""
        return f"{abs(self.errors):.1f}"


@dataclass(frozen=True, kw_only=True)
class Together:
    """Everything the page shows, and what accepting would use."""

    subject: Subject
    readings: list[Gathered]
    belief: Belief
    book: Belief
    fitted: Fitted
    slips: tuple[Suspect, ...]


def put_together(
    subject: Subject, without: set[str], since: date | None = None
) -> tuple[Together | None, Any]:
    """The fit of a subject, some readings left out, and what could not be used.

    ``None`` where there is no reading.

    Raises:
        IncompleteError: the trailer lacks its axles' places.
    """
    readings, unusable = gather(subject, since)
    used = [r for r in readings if r.key not in without]
    left = [r for r in readings if r.key in without]
    if not used:
        return None, (left, unusable)
    belief = believed(subject, used)
    seen = [r.seen for r in used]
    together = Together(
        subject=subject,
        readings=used,
        belief=belief,
        book=believed(subject, [], fresh=True),
        fitted=fit(seen, belief),
        slips=suspects(seen, belief),
    )
    return together, (left, unusable)


def estimates(found: Together, unit: UnitSystem) -> list[Estimate]:
    """Each unknown: the book's figure beside the readings'."""
    rows = []
    for name in found.subject.unknowns:
        doubt = getattr(found.belief, name)[1]
        was, book_doubt = getattr(found.book, name)
        now, error = found.fitted.estimate(name)
        write = write_length if name in LENGTHS else write_mass
        tells = error < TELLS * doubt
        close = write_inches if name in LENGTHS else write_mass
        why_not = _why_not(found.subject, name) if tells else ""
        rows.append(
            Estimate(
                name=name,
                title=NAMES[name],
                book=write(was, unit),
                book_doubt=close(ERRORS * book_doubt, unit),
                fitted=write(now, unit),
                fitted_doubt=close(ERRORS * error, unit),
                apart=(signed_inches if name in LENGTHS else signed_mass)(now - was, unit),
                tells=tells,
                offered=tells and not why_not,
                why_not=why_not,
            )
        )
    return rows


def _why_not(subject: Subject, name: str) -> str:
    """Why a figure cannot go into the book from here; empty where it can."""
    if name in ("trailer", "tongue") and subject.trailer is not None:
        try:
            empty_trailer(subject.trailer, Tolerances.of(subject.trailer.yard))
        except IncompleteError as error:
            return f"The book lacks {', '.join(error.lacks)} first."
    if name in ("machine", "ahead") and subject.machine is not None:
        try:
            built_machine(
                subject.machine, subject.configuration, Tolerances.of(subject.machine.yard)
            )
        except IncompleteError as error:
            return f"The book lacks {', '.join(error.lacks)} first."
        if _base_part(subject.machine) is None and subject.machine.built == Machine.Built.PARTS:
            return "No part of it is its base with a mass of its own: correct a part by hand."
    return ""


def residuals(found: Together, unit: UnitSystem) -> list[Residual]:
    """Each reading beside what the fit makes of it."""
    rows = []
    worst = found.fitted.worst
    for place, gathered in enumerate(found.readings):
        expected = found.fitted.predicted[place]
        apart = gathered.seen.kg - expected
        rows.append(
            Residual(
                gathered=gathered,
                read=write_mass(gathered.seen.kg, unit),
                expected=write_mass(expected, unit),
                apart=signed_mass(apart, unit),
                errors=found.fitted.residuals[place],
                worst=place == worst,
            )
        )
    return rows


def agreement(found: Together) -> str:
    """Whether the readings can all be right, in a sentence."""
    count = found.fitted.freedom
    if count == 1 and not found.fitted.contradict and found.fitted.guess is None:
        return "One reading: nothing to compare it with but the book."
    guess = found.fitted.guess
    if guess is not None:
        return (
            f"{'It does' if count == 1 else 'They do'} not fit the book's guess of "
            f"{GUESSED[guess]}. A guess accuses nobody: measure that first."
        )
    if not found.fitted.contradict:
        return f"The {count} readings and the book agree within what each may be wrong by."
    chance = found.fitted.chance
    rare = "less than once in 10,000 times" if chance < 1e-4 else f"{chance:.2%} of the time"
    what = "reading and the book" if count == 1 else "readings"
    return f"The {what} cannot all be right: honest ones lie so far apart {rare}."


def all_explained(found: Together) -> bool:
    """Whether the likeliest slip by itself would make all readings agree."""
    return bool(found.slips) and found.slips[0].all_of_it


def slip_words(found: Together, unit: UnitSystem) -> list[str]:
    """The likely slips, the likeliest first, each as a question."""
    return [_slip(suspect, found.readings[suspect.place], unit) for suspect in found.slips[:4]]


def _slip(suspect: Suspect, gathered: Gathered, unit: UnitSystem) -> str:
    day = gathered.ticket.weighed_on.strftime("%-d %b")
    reading = f"{gathered.words.capitalize()}, {day}: {write_mass(gathered.seen.kg, unit)}"
    size = suspect.size
    if suspect.slip is Slip.KG_FOR_LB:
        return f"{reading} would fit if the scale showed kilograms. Was the unit looked at?"
    if suspect.slip is Slip.LB_FOR_KG:
        return f"{reading} would fit if the scale showed pounds. Was the unit looked at?"
    if suspect.slip is Slip.TAPE_EDGE:
        way = "further back" if size > 0 else "further ahead"
        return (
            f"{reading} would fit with the machine {write_inches(abs(size), unit)} {way}. Was "
            "the tape hooked on the headboard, or on another edge?"
        )
    if suspect.slip is Slip.JACK:
        return (
            f"{reading} would fit if something else still carried {write_mass(size, unit)}. Was "
            "the jack off the ground?"
        )
    if suspect.slip is Slip.UNDER_JACK:
        return (
            f"{reading} would fit if the scale stood {write_inches(size, unit)} behind the ball, "
            "under the jack. Was it under the coupler?"
        )
    way = "heavier" if size < 0 else "lighter"
    return (
        f"{reading} is {write_mass(abs(size), unit)} {way} than the others say. Were the same "
        "people and things aboard, and nothing more on it since?"
    )


def hauls_on(subject: Subject) -> list[Haul]:
    """Hauls that were planned with what the subject is about, put away ones left out."""
    found: dict[int, Haul] = {}
    yard = (subject.trailer or subject.machine).yard  # type: ignore[union-attr]
    open_hauls = Haul.objects.filter(yard=yard, archived=False)
    if subject.trailer is not None:
        found |= {h.pk: h for h in open_hauls.filter(trailer=subject.trailer)}
    if subject.machine is not None:
        found |= {h.pk: h for h in open_hauls.filter(links__machine=subject.machine)}
    return list(found.values())


def versions(subject: Subject) -> str:
    """What the book's entries are at, so that an older page is noticed."""
    things = (subject.trailer, subject.machine)
    return "-".join("" if thing is None else str(thing.version) for thing in things)


def accept(
    found: Together, names: set[str], *, at: str, user: User, system: UnitSystem
) -> list[str]:
    """Put the chosen figures of a fit into the book as one change; what was changed.

    Raises:
        StaleFit: trailer or machine have moved on since ``at``.
    """
    subject = found.subject
    offered = {e.name for e in estimates(found, system) if e.offered}
    chosen = [name for name in subject.unknowns if name in names & offered]
    if not chosen:
        return []
    yard = (subject.trailer or subject.machine).yard  # type: ignore[union-attr]
    count = len(found.readings)
    why = f"Fitted to {count} reading{'s' * (count > 1)} of {subject.name}"
    with recorded(yard=yard, user=user, why=why):
        for thing, seen in zip((subject.trailer, subject.machine), at.split("-"), strict=False):
            if thing is None:
                continue
            based = counted(seen)
            current = type(thing)._default_manager.filter(pk=thing.pk, version=based)
            if not current.update(version=F("version") + 1):
                raise StaleFit
            thing.version = based + 1
        fitted = {name: found.fitted.estimate(name) for name in chosen}
        if subject.trailer is not None:
            _into_trailer(subject.trailer, fitted, system)
        if subject.machine is not None:
            _into_machine(subject.machine, subject.configuration, fitted, system)
        AcceptedFit.objects.create(
            yard=yard,
            trailer=subject.trailer,
            machine=subject.machine,
            configuration=subject.configuration,
            belief={
                name: [*getattr(found.belief, name), name in found.belief.measured]
                for name in chosen
            },
            accepted={name: list(figure) for name, figure in fitted.items()},
            readings=count,
            accepted_by=user,
        )
    return [NAMES[name].lower() for name in chosen]


def _mass_like(now: Quantity | None, kg: float, system: UnitSystem) -> Quantity:
    """A mass in the unit the book has it in, to the whole."""
    unit = now.unit if now is not None and now.unit in ("lb", "kg") else system.mass_unit
    return quantity(kg, unit)


def _length_like(now: Quantity | None, metres: float, system: UnitSystem) -> Quantity:
    """A length in the unit the book has it in: to an eighth of an inch, or to the millimetre."""
    unit = now.unit if now is not None else system.length_unit
    if unit in ("in", "ft"):
        return Quantity(Decimal(round(metres / M_PER_IN * 8)) / 8, "in")
    return Quantity(Decimal(round(metres * 1000)), "mm")


def _up(kg: float, now: Quantity | None, system: UnitSystem) -> Quantity:
    """Two standard errors, not rounded below one unit."""
    one = _mass_like(now, 0, system).unit
    least = float(Quantity(Decimal(1), one).si)
    return quantity(max(ERRORS * kg, least), one)


def _into_trailer(
    trailer: Trailer, fitted: dict[str, tuple[float, float]], system: UnitSystem
) -> None:
    if "trailer" in fitted or "tongue" in fitted:
        # additions not weighed in stand on top of what was weighed
        empties = empty_trailer(trailer, Tolerances.of(trailer.yard))
        more_kg = sum(a.mass_kg for a in empties.added)
        more_tongue = sum(a.tongue_kg for a in empties.added)
        if "trailer" in fitted:
            mass, error = fitted["trailer"]
            trailer.empty_mass = _mass_like(trailer.empty_mass, mass - more_kg, system)
            trailer.empty_known = Known.WEIGHED
            trailer.empty_mass_tolerance = _up(error, trailer.empty_mass, system)
        if "tongue" in fitted:
            tongue, error = fitted["tongue"]
            trailer.empty_tongue_mass = _mass_like(
                trailer.empty_tongue_mass, tongue - more_tongue, system
            )
            trailer.tongue_known = Known.WEIGHED
            trailer.tongue_taken_at = None
            trailer.empty_tongue_mass_tolerance = _up(error, trailer.empty_tongue_mass, system)
    trailer.save()
    if "lever" in fitted:
        _move_axles(trailer, fitted["lever"][0], system)
    keep(trailer)


def _move_axles(trailer: Trailer, lever: float, system: UnitSystem) -> None:
    """Every axle by the same, so that the lever becomes the fitted one; where only the middle of
    them was taped, that."""
    axles, found = list(trailer.axles.all()), axle_places(trailer)
    if found is None:
        return
    positions, by = found.places, 0.0
    for _ in range(20):
        by += lever - lever_of([x + by for x in positions], trailer.suspension)
    if any(axle.position is None for axle in axles):
        trailer.axles_at = _length_like(trailer.axles_at, found.middle + by, system)
        trailer.save()
        return
    for axle, position in zip(axles, positions, strict=True):
        axle.position = _length_like(axle.position, position + by, system)
        axle.save()


def _base_part(machine: Machine) -> MachinePart | None:
    return next(
        (
            part
            for part in machine.parts.all()
            if part.kind == MachinePart.Kind.BASE and part.mass is not None and part.ahead
        ),
        None,
    )


def _into_machine(
    machine: Machine,
    configuration: Configuration | None,
    fitted: dict[str, tuple[float, float]],
    system: UnitSystem,
) -> None:
    """What is fitted is the machine as configured; what changes is the whole that was entered,
    its axles, or the base part, by as much as the sum has to."""
    if not {"machine", "ahead"} & set(fitted):
        return
    body = built_machine(machine, configuration, Tolerances.of(machine.yard)).body
    mass, error = fitted.get("machine", (body.mass_kg, body.mass_tolerance_kg / ERRORS))
    ahead, ahead_error = fitted.get("ahead", (body.ahead_m, body.ahead_tolerance_m / ERRORS))
    more_kg = mass - body.mass_kg
    more_moment = mass * ahead - body.mass_kg * body.ahead_m
    weighed_so = configuration is not None and None not in (
        configuration.front_axle_mass,
        configuration.rear_axle_mass,
    )
    if configuration is not None and weighed_so:
        _into_axles(configuration, machine, mass, ahead, system)
    elif machine.built == Machine.Built.AXLES:
        own_kg = si(machine.front_axle_mass) + si(machine.rear_axle_mass)
        mark = 0.0 if machine.mark_ahead is None else si(machine.mark_ahead)
        own_ahead = si(machine.front_axle_mass) / own_kg * si(machine.wheelbase) - mark
        new = own_kg + more_kg
        _into_axles(machine, machine, new, (own_kg * own_ahead + more_moment) / new, system)
    elif machine.built == Machine.Built.PARTS:
        part = _base_part(machine)
        if part is not None:
            own_kg, own_ahead = si(part.mass), si(part.ahead)
            new = own_kg + more_kg
            part.mass = _mass_like(part.mass, new, system)
            part.ahead = _length_like(part.ahead, (own_kg * own_ahead + more_moment) / new, system)
            part.save()
    else:
        whole, ahead_of_it = whole_mass(machine), balance(machine)
        if whole is None or ahead_of_it is None:
            raise IncompleteError(machine.name, machine_lacks(machine, configuration))
        own_kg, own_ahead = whole.si, ahead_of_it.si
        new = own_kg + more_kg
        if "machine" in fitted:
            machine.mass = _mass_like(machine.mass, new, system)
            machine.mass_known = Known.WEIGHED
            machine.mass_tolerance = _up(error, machine.mass, system)
        if "ahead" in fitted:
            moved = (own_kg * own_ahead + more_moment) / new
            machine.balance_ahead = _length_like(machine.balance_ahead, moved, system)
            machine.balance_tolerance = _length_like(
                machine.balance_ahead, max(ERRORS * ahead_error, M_PER_IN / 8), system
            )
    machine.save()
    keep(machine)


def _into_axles(
    owner: Machine | Configuration,
    machine: Machine,
    mass: float,
    ahead: float,
    system: UnitSystem,
) -> None:
    mark = 0.0 if machine.mark_ahead is None else si(machine.mark_ahead)
    front = mass * (ahead + mark) / si(machine.wheelbase)
    owner.front_axle_mass = _mass_like(owner.front_axle_mass, front, system)
    owner.rear_axle_mass = _mass_like(owner.rear_axle_mass, mass - front, system)
    owner.save()
