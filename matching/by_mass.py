"""What can be said of a pair and a load by its mass alone, while nobody knows how long it is or
where it balances: plate, tow rating, combination, and what the least usual tongue would use up."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from book.errors import IncompleteError
from book.estimates import whole_mass
from book.figures import built_machine, bulk_body, empty_trailer, machine_lacks
from book.models import Hitch, Known, Trailer
from book.tolerances import Tolerances
from hauls.compose import hitch_section, truck_section
from hauls.loads import Load
from hauls.units import FileUnits
from measures import UnitSystem
from measures.writing import write_mass
from mechanics.alone import tongue_rooms
from mechanics.checks import Status
from mechanics.rules import FIXED_RANGES, TongueSchool, resolve_school
from mechanics.typical import Estimate
from planfile.convert import Scale, outfit_of
from wording.limits import label
from wording.phrases import within


@dataclass(frozen=True, kw_only=True, slots=True)
class ByMass:
    """A verdict by mass alone: never better than likely, since nothing is placed."""

    status: Status
    word: str
    line: str


def load_mass(load: Load, tolerances: Tolerances) -> Estimate | None:
    """What a load weighs, whatever else of it is not known; ``None`` where nothing says it."""
    try:
        if load.bulk is not None:
            body = bulk_body(load.bulk, tolerances)
            return _around(body.mass_kg, body.mass_tolerance_kg)
        if load.machine is None:
            return None
        if not machine_lacks(load.machine, load.configuration):
            body = built_machine(load.machine, load.configuration, tolerances).body
            return _around(body.mass_kg, body.mass_tolerance_kg)
    except IncompleteError:
        return None
    machine = load.machine
    found = whole_mass(machine)
    if found is None or load.configuration is not None:
        return None
    if found.guessed is not None:
        return found.guessed.estimate
    known = Known(machine.mass_known)
    return _around(found.si, tolerances.mass_kg(found.si, known, machine.mass_tolerance))


def _around(kg: float, off: float) -> Estimate:
    return Estimate(least=kg - off, most=kg + off)


def by_mass(
    hitch: Hitch, trailer: Trailer, loads: Sequence[Load], unit: UnitSystem
) -> ByMass | None:
    """The verdict of a pair by mass alone; ``None`` where a mass is not known either."""
    tolerances = Tolerances.of(trailer.yard)
    masses = [load_mass(load, tolerances) for load in loads]
    try:
        empties = empty_trailer(trailer, tolerances)
        units = FileUnits.of(unit)
        truck, own = outfit_of(
            truck_section(hitch.truck, hitch, units),
            hitch_section(hitch, trailer, units),
            Scale(units.mass.value, units.length.value),
        )
    except IncompleteError:
        return None
    whole = _around(empties.mass_kg, empties.mass_tolerance_kg)
    for mass in masses:
        if mass is None:
            return None
        whole = whole.plus(mass)
    unhitched = truck.empty_mass_kg + truck.cargo_mass_kg + own.mass_kg
    gvwr = None if trailer.gvwr is None else float(trailer.gvwr.si)
    limits: list[tuple[str, float | None, float]] = [
        ("trailer.gvwr", gvwr, 1.0),
        ("truck.max_trailer_mass", truck.max_trailer_mass_kg, 1.0),
        ("combination.gcwr", None if truck.gcwr_kg is None else truck.gcwr_kg - unhitched, 1.0),
    ]
    share, _ = FIXED_RANGES[resolve_school(TongueSchool.DEFAULT, own.type)]
    limits += [(room.code, room.kg, share) for room in tongue_rooms(truck, own)]
    passed = [
        (code, whole.least * part - room, part)
        for code, room, part in limits
        if room is not None and whole.least * part > room
    ]
    if passed:
        code, over, part = max(passed, key=lambda one: one[1])
        names = label(code, unit=unit)
        how = "" if part == 1.0 else f", with only {share * 100:g} % on the tongue"
        line = f"By mass alone: {names} is passed by {write_mass(over, unit)} at least{how}."
        return ByMass(status=Status.OVER, word="over by mass", line=line)
    missing = [label(code, unit=unit) for code, room, _ in limits if room is None]
    open_ones = [
        label(code, unit=unit)
        for code, room, part in limits
        if room is not None and whole.most * part > room
    ]
    if missing or open_ones:
        why = (
            f"not known: {', '.join(missing)}" if missing else f"it may pass {within(open_ones[0])}"
        )
        return ByMass(status=Status.UNKNOWN, word="cannot say", line=f"By mass alone: {why}.")
    return ByMass(
        status=Status.OK,
        word="likely ok by mass",
        line="By mass alone it holds plate, tow rating, combination and truck.",
    )
