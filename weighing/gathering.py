"""Readings about one trailer and one machine, gathered from tickets for a fit."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

from django.contrib.contenttypes.models import ContentType
from django.db.models import Q

from book import estimates
from book.errors import IncompleteError
from book.figures import built_machine, empty_trailer, lever_m, si
from book.models import Aboard, Configuration, Known, Machine, Ticket, Trailer
from book.tolerances import Tolerances
from measures import Quantity
from mechanics.coach import ERRORS, LEVER_DOUBT_M
from mechanics.fit import Belief, Seen, What
from mechanics.scalehouse import scale_doubt_kg
from mechanics.units import M_PER_IN
from weighing.models import AcceptedFit
from weighing.services import bars_hung
from yards.models import Yard

VAGUE_MASS: Final = 0.2
"""Part of a mass in doubt where the book's own figure came off the same tickets: a guess's."""

VAGUE_TONGUE: Final = 0.5
VAGUE_BALANCE_M: Final = 10 * M_PER_IN
AT_COUPLER: Final = ("under-the-ball", "at-the-jack", "lever", "hung-at-the-coupler")
"""Ways of weighing with a scale at the coupler, where a jack may still carry."""

NOT_KNOWN_KG: Final = 5000.0
"""Standard error of a mass that the book does not know at all."""

NOTHING: Final = (1.0, 1e-6)
"""What stands in for an unknown that no reading is about."""


@dataclass(frozen=True, kw_only=True)
class Gathered:
    """One reading of a ticket: what it says to the fit, and of what in words."""

    ticket: Ticket
    seen: Seen
    words: str
    figure: str

    @property
    def key(self) -> str:
        """By which the page leaves it out."""
        return f"{self.ticket.pk}-{self.seen.what.value}"


@dataclass(frozen=True, kw_only=True)
class Subject:
    """What a fit is about: a trailer, a machine as it was set up, or both."""

    trailer: Trailer | None = None
    machine: Machine | None = None
    configuration: Configuration | None = None

    @property
    def unknowns(self) -> tuple[str, ...]:
        """Which of the unknowns it has."""
        names: tuple[str, ...] = ("trailer", "tongue") if self.trailer else ()
        names += ("machine", "ahead") if self.machine else ()
        return (*names, "lever") if self.trailer else names

    @property
    def name(self) -> str:
        """What it is called."""
        both = (self.trailer, self.configuration or self.machine)
        return " with ".join(str(one) for one in both if one is not None)


WORDS: Final = {
    What.TONGUE_EMPTY: "tongue, empty",
    What.TRAILER_EMPTY: "trailer, empty",
    What.TONGUE_LOADED: "tongue, loaded",
    What.TRAILER_LOADED: "trailer, loaded",
    What.AXLES_LOADED: "trailer axles, loaded",
    What.MACHINE: "machine",
    What.MACHINE_FRONT: "machine, front axle",
}


def gather(
    subject: Subject, since: date | None = None
) -> tuple[list[Gathered], list[tuple[Ticket, str]]]:
    """Every reading that says something about the subject, the oldest first, and the tickets
    that cannot be used, with the reason. Those before ``since`` count for nothing."""
    found: list[Gathered] = []
    left: list[tuple[Ticket, str]] = []
    for ticket in _tickets(subject):
        if since is not None and ticket.weighed_on < since:
            continue
        thing = ticket.thing
        if isinstance(thing, Trailer) and thing == subject.trailer:
            got, why = _of_trailer(ticket, subject)
        elif isinstance(thing, Machine) and ticket.configuration == subject.configuration:
            got, why = _of_machine(ticket, subject), ""
        else:
            continue
        found += got
        if why:
            left.append((ticket, why))
    return found, left


def _tickets(subject: Subject) -> Iterable[Ticket]:
    about = Q(pk=None)
    for thing in (subject.trailer, subject.machine):
        if thing is not None:
            kind = ContentType.objects.get_for_model(type(thing))
            about |= Q(content_type=kind, object_id=thing.pk)
    yard = (subject.trailer or subject.machine).yard  # type: ignore[union-attr]
    return (
        Ticket.objects.filter(about, yard=yard)
        .select_related("configuration__machine", "of_haul__haul")
        .prefetch_related("thing", "loads__machine", "loads__configuration")
        .order_by("weighed_on", "pk")
    )


def _doubt(ticket: Ticket, field: str, kg: float) -> float:
    tolerance = ticket.readings.get("tolerance_kg", {}).get(field)
    return max(float(tolerance) if tolerance else scale_doubt_kg(kg), 0.1) / ERRORS


def _read(ticket: Ticket, field: str, what: What, **more: Any) -> Gathered:
    mass: Quantity = getattr(ticket, field)
    kg = float(mass.si)
    seen = Seen(
        what=what,
        kg=kg,
        doubt=_doubt(ticket, field, kg),
        name=WORDS[what],
        at_coupler=ticket.method in AT_COUPLER,
        **more,
    )
    return Gathered(ticket=ticket, seen=seen, words=WORDS[what], figure=field)


def _of_machine(ticket: Ticket, subject: Subject) -> list[Gathered]:
    machine = subject.machine
    found = []
    if ticket.whole_mass is not None:
        found.append(_read(ticket, "whole_mass", What.MACHINE))
    if (
        machine is not None
        and machine.wheelbase is not None
        and ticket.front_axle_mass is not None
        and ticket.rear_axle_mass is not None
        and machine.running == Machine.Running.WHEELS
    ):
        mark = 0.0 if machine.mark_ahead is None else si(machine.mark_ahead)
        more = {"base_m": si(machine.wheelbase), "mark_m": mark}
        found.append(_read(ticket, "front_axle_mass", What.MACHINE_FRONT, **more))
    return found


def _of_trailer(ticket: Ticket, subject: Subject) -> tuple[list[Gathered], str]:
    items = [load for load in ticket.loads.all() if load.kind == Aboard.Kind.ITEM]
    if not items:
        if not ticket.readings.get("empty") and ticket.method:
            return [], "it does not say what stood on the trailer, nor that it was empty"
        found = []
        if ticket.whole_mass is not None:
            found.append(_read(ticket, "whole_mass", What.TRAILER_EMPTY))
        if ticket.tongue_mass is not None and not bars_hung(ticket):
            found.append(_read(ticket, "tongue_mass", What.TONGUE_EMPTY))
        return found, ""
    ours = [
        load
        for load in items
        if subject.machine is not None
        and load.machine == subject.machine
        and load.configuration == subject.configuration
    ]
    if subject.machine is None:
        return [], "something stood on the trailer: it counts when put together with that machine"
    if len(ours) != 1:
        # a ticket with another machine on belongs to that machine's fit
        return [], ""
    beside = [load for load in items if load is not ours[0]]
    more = _placed(ticket, ours[0], beside, subject.trailer)
    if more is None:
        return [], "what else stood on it lacks its mass or its place"
    return _loaded(ticket, ours[0], more), ""


def _loaded(ticket: Ticket, ours: Aboard, more: dict[str, Any]) -> list[Gathered]:
    found = []
    has_place = ours.reference is not None
    # hung bars take a couple's worth off the tongue and put it on the axles: together they
    # are still the whole
    bars = bars_hung(ticket)
    if ticket.tongue_mass is not None and has_place and not bars:
        found.append(_read(ticket, "tongue_mass", What.TONGUE_LOADED, **more))
    if ticket.axles_mass is not None and has_place and not bars:
        found.append(_read(ticket, "axles_mass", What.AXLES_LOADED, **more))
    both = (
        ticket.axles_mass is not None and ticket.tongue_mass is not None and has_place and not bars
    )
    # the whole that is the sum of pad and tongue says nothing of its own
    if ticket.whole_mass is not None and not both:
        found.append(_read(ticket, "whole_mass", What.TRAILER_LOADED, **more))
    return found


def _placed(
    ticket: Ticket, ours: Aboard, beside: list[Aboard], trailer: Trailer | None
) -> dict[str, Any] | None:
    start = 0.0 if trailer is None or trailer.deck_start is None else si(trailer.deck_start)
    kg = moment = 0.0
    for load in beside:
        body = _body(load)
        if body is None or load.reference is None:
            return None
        mass, ahead = body
        facing = -1 if load.facing == Aboard.Facing.FORWARD else 1
        kg += mass
        moment += mass * (start + si(load.reference) + facing * ahead)
    return {
        "mark_m": start + (0.0 if ours.reference is None else si(ours.reference)),
        "direction": -1 if ours.facing == Aboard.Facing.FORWARD else 1,
        "beside_kg": kg,
        "beside_moment_kg_m": moment,
    }


def _body(load: Aboard) -> tuple[float, float] | None:
    """Mass and balance point ahead of its mark of something else on the deck."""
    if load.machine is None:
        return None if load.mass is None else (si(load.mass), 0.0)
    try:
        tolerances = Tolerances.of(load.machine.yard)
        body = built_machine(load.machine, load.configuration, tolerances).body
    except IncompleteError:
        return None
    return (body.mass_kg if load.mass is None else si(load.mass)), body.ahead_m


def believed(subject: Subject, readings: list[Gathered], *, fresh: bool = False) -> Belief:
    """What the book says of the subject, with its own doubts as standard errors.

    A weighed figure of which there are tickets came off one of them: it is not counted a
    second time, and only says where to start. ``fresh`` is the book as it stands, whatever
    was accepted before.

    Raises:
        IncompleteError: the trailer's axles are not taped.
    """
    given = {reading.seen.what for reading in readings}
    said = {
        "trailer": NOTHING,
        "tongue": NOTHING,
        "machine": NOTHING,
        "ahead": (0.0, 1e-6),
        "lever": NOTHING,
    }
    # what no reading is about is held as it is
    measured = set(said) - set(subject.unknowns)
    if subject.trailer is not None:
        said |= _of_the_trailer(subject.trailer, given)
        measured |= _measured_of_trailer(subject.trailer)
    if subject.machine is not None:
        said |= _of_the_machine(subject.machine, subject.configuration, given, readings)
        measured |= _measured_of_machine(subject.machine, subject.configuration)
    if not fresh:
        before, known = _before(subject, said)
        said |= before
        measured = (measured - set(before)) | known
    return Belief(**said, measured=frozenset(measured))


def _measured_of_trailer(trailer: Trailer) -> set[str]:
    """Which of a trailer's figures came off a scale or a tape."""
    found = {"lever"}
    if trailer.empty_mass is not None and trailer.empty_known == Known.WEIGHED:
        found.add("trailer")
    if trailer.empty_tongue_mass is not None and trailer.tongue_known == Known.WEIGHED:
        found.add("tongue")
    return found


def _measured_of_machine(machine: Machine, configuration: Configuration | None) -> set[str]:
    """Which of a machine's figures came off a scale or a tape, as it was set up."""
    if configuration is not None and None not in (
        configuration.front_axle_mass,
        configuration.rear_axle_mass,
    ):
        return {"machine", "ahead"}
    if machine.built == Machine.Built.AXLES:
        weighed = None not in (machine.front_axle_mass, machine.rear_axle_mass)
        return {"machine", "ahead"} if weighed else set()
    if machine.built != Machine.Built.WHOLE:
        return set()
    found = set()
    if machine.mass is not None and machine.mass_known == Known.WEIGHED:
        found.add("machine")
    by_axles = machine.balance_known == Machine.BalanceKnown.AXLES
    if machine.balance_ahead is not None and by_axles:
        found.add("ahead")
    return found


def _before(
    subject: Subject, said: dict[str, tuple[float, float]]
) -> tuple[dict[str, tuple[float, float]], set[str]]:
    """Beliefs before the last fit that was accepted, where the book still says what it said,
    and which of them had been measured; those of earlier versions do not say so."""
    found: dict[str, tuple[float, float]] = {}
    known: set[str] = set()
    for one in AcceptedFit.objects.filter(
        trailer=subject.trailer, machine=subject.machine, configuration=subject.configuration
    ):
        for name, (figure, error) in one.accepted.items():
            # the book holds whole pounds, and lengths to a sixteenth
            near = abs(said[name][0] - figure) <= max(0.002 * abs(figure), 0.3 * error, 1e-9)
            if name not in found and near:
                before, doubt, *measured = one.belief[name]
                found[name] = (float(before), float(doubt))
                if measured and measured[0]:
                    known.add(name)
    return found, known


def _of_the_trailer(trailer: Trailer, given: set[What]) -> dict[str, tuple[float, float]]:
    axles, lever = estimates.axle_places(trailer), lever_m(trailer)
    if axles is None or axles.guessed is not None or lever is None or trailer.deck_start is None:
        lacks = ["its axles' places"] * (axles is None or axles.guessed is not None)
        raise IncompleteError(
            trailer.name, lacks + ["where its deck begins"] * (trailer.deck_start is None)
        )
    try:
        empties = empty_trailer(trailer, Tolerances.of(trailer.yard))
    except IncompleteError:
        mass = si(trailer.empty_mass) if trailer.empty_mass else NOT_KNOWN_KG / 4
        return {
            "trailer": (mass, mass * VAGUE_MASS if trailer.empty_mass else NOT_KNOWN_KG),
            "tongue": (0.12 * mass, NOT_KNOWN_KG),
            "lever": (lever, LEVER_DOUBT_M),
        }
    whole, tongue = empties.mass_tolerance_kg / ERRORS, empties.tongue_tolerance_kg / ERRORS
    if trailer.empty_known == Known.WEIGHED and What.TRAILER_EMPTY in given:
        whole = VAGUE_MASS * empties.mass_kg
    if trailer.tongue_known == Known.WEIGHED and What.TONGUE_EMPTY in given:
        tongue = VAGUE_TONGUE * empties.tongue_kg
    return {
        "trailer": (empties.mass_kg, max(whole, 0.5)),
        "tongue": (empties.tongue_kg, max(tongue, 0.5)),
        "lever": (lever, LEVER_DOUBT_M),
    }


def _of_the_machine(
    machine: Machine,
    configuration: Configuration | None,
    given: set[What],
    readings: list[Gathered],
) -> dict[str, tuple[float, float]]:
    try:
        body = built_machine(machine, configuration, Tolerances.of(machine.yard)).body
    except IncompleteError:
        weighed = [r.seen.kg for r in readings if r.seen.what is What.MACHINE]
        mass = si(machine.mass) if machine.mass else (weighed or [NOT_KNOWN_KG / 2])[0]
        ahead = 0.0 if machine.balance_ahead is None else si(machine.balance_ahead)
        return {
            "machine": (mass, mass * VAGUE_MASS if machine.mass else NOT_KNOWN_KG),
            "ahead": (ahead, 1.5 if machine.balance_ahead is None else VAGUE_BALANCE_M),
        }
    doubt, place = body.mass_tolerance_kg / ERRORS, body.ahead_tolerance_m / ERRORS
    by_axles = machine.built == Machine.Built.AXLES
    weighed_whole = machine.built == Machine.Built.WHOLE and machine.mass_known == Known.WEIGHED
    if (by_axles or weighed_whole) and What.MACHINE in given:
        doubt = VAGUE_MASS * body.mass_kg
    known_by_axles = by_axles or machine.balance_known == Machine.BalanceKnown.AXLES
    if known_by_axles and What.MACHINE_FRONT in given:
        place = VAGUE_BALANCE_M
    return {
        "machine": (body.mass_kg, max(doubt, 0.5)),
        "ahead": (body.ahead_m, max(place, 0.002)),
    }


MOST_LOOKED_AT: Final = 2000
"""Tickets, the newest, among which the subjects of a whole yard are looked for."""


def subjects_of(yard: Yard, about: Trailer | Machine | None = None) -> list[tuple[Subject, int]]:
    """What there are tickets of in a yard, with how many, the most first; one pass over them.

    ``about`` looks for what a thing has a part in only.
    """
    found: dict[tuple[int | None, int | None, int | None], tuple[Subject, int]] = {}
    those = Ticket.objects.filter(yard=yard)
    if about is not None:
        kind = ContentType.objects.get_for_model(type(about))
        own = Q(content_type=kind, object_id=about.pk)
        aboard = Q(loads__machine=about) if isinstance(about, Machine) else Q(pk=None)
        those = those.filter(own | aboard).distinct()
    tickets = those.select_related("configuration").prefetch_related(
        "thing", "loads__machine", "loads__configuration"
    )[:MOST_LOOKED_AT]
    for ticket in tickets:
        thing = ticket.thing
        subjects: list[Subject] = []
        if isinstance(thing, Machine):
            subjects.append(Subject(machine=thing, configuration=ticket.configuration))
        elif isinstance(thing, Trailer):
            items = [load for load in ticket.loads.all() if load.kind == Aboard.Kind.ITEM]
            subjects += [
                Subject(trailer=thing, machine=load.machine, configuration=load.configuration)
                for load in items
                if load.machine is not None
            ]
            if not items and (ticket.readings.get("empty") or not ticket.method):
                subjects.append(Subject(trailer=thing))
        for subject in subjects:
            if about is not None and about not in (subject.trailer, subject.machine):
                continue
            key = (
                None if subject.trailer is None else subject.trailer.pk,
                None if subject.machine is None else subject.machine.pk,
                None if subject.configuration is None else subject.configuration.pk,
            )
            first, count = found.get(key, (subject, 0))
            found[key] = (first, count + 1)
    return sorted(found.values(), key=lambda one: -one[1])
