"""A truck, or a trailer, asked about by itself: what is left for the tongue, what it carries."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from book.errors import IncompleteError
from book.estimates import empty_mass, rear_rate
from book.figures import empty_trailer, si
from book.models import Hitch, Trailer
from book.tolerances import Tolerances
from hauls.compose import hitch_section, truck_section
from hauls.units import FileUnits
from measures import Quantity, UnitSystem
from measures.writing import write_length, write_mass, write_percent
from mechanics.alone import squat_m_per_kg, tongue_rooms
from mechanics.hitch import HitchType
from mechanics.rules import FIXED_RANGES, TongueSchool, resolve_school
from mechanics.typical import SHARE_ALONE, Estimate, TrailerKind
from mechanics.units import KG_PER_LB
from planfile.convert import Scale, outfit_of
from wording.estimates import band
from wording.limits import label

SQUAT_LOAD: Final = {UnitSystem.US: 100 * KG_PER_LB, UnitSystem.METRIC: 50.0}
"""What a squat is told for, in kg."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Room:
    """One limit and what it leaves for the tongue."""

    name: str
    left: str
    least: str
    status: str


@dataclass(frozen=True, kw_only=True, slots=True)
class TruckAlone:
    """A truck at one of its hitches. ``left`` is for the tongue, ``sure`` for all that its figures
    may be; ``lacks`` what it cannot be told without."""

    hitch: str
    left: str = ""
    sure: str = ""
    tightest: str = ""
    rooms: tuple[Room, ...] = ()
    carries: str = ""
    squat: str = ""
    squat_estimated: bool = False
    lacks: str = ""


def truck_alone(hitch: Hitch, unit: UnitSystem) -> TruckAlone:
    """What a truck has left for a tongue weight at a hitch, and how far it squats under one."""
    units = FileUnits.of(unit)
    try:
        truck, own = outfit_of(
            truck_section(hitch.truck, hitch, units),
            hitch_section(hitch, None, units),
            Scale(units.mass.value, units.length.value),
        )
    except IncompleteError as error:
        return TruckAlone(hitch=hitch.name, lacks=f"{error}.")
    rooms = tongue_rooms(truck, own)
    if not rooms:
        return TruckAlone(hitch=hitch.name, lacks="No rating of it is known.")
    least = min(room.least_kg for room in rooms)
    first = rooms[0]
    rate, measured = rear_rate(hitch.truck)
    squat = ""
    if rate is not None:
        load = SQUAT_LOAD[unit]
        most, fewest = (squat_m_per_kg(truck, r) * load for r in (rate.least, rate.most))
        found = (
            write_length(most, unit, step=16)
            if measured
            else f"{write_length(fewest, unit, step=16)} to {write_length(most, unit, step=16)}"
        )
        squat = f"{found} for each {write_mass(load, unit)} on the ball"
    return TruckAlone(
        hitch=hitch.name,
        left=_or_none(first.kg, unit),
        sure=_or_none(least, unit) if least < first.kg - 0.5 else "",
        tightest=label(first.code, unit=unit),
        rooms=tuple(
            Room(
                name=label(room.code, unit=unit),
                left=_or_none(room.kg, unit),
                least=_or_none(room.least_kg, unit) if room.least_kg < room.kg - 0.5 else "",
                status="over" if room.kg <= 0 else "ok",
            )
            for room in rooms
        ),
        carries=_trailer_for(own.type, first.kg, unit),
        squat=squat,
        squat_estimated=not measured,
    )


def _or_none(kg: float, unit: UnitSystem) -> str:
    return write_mass(kg, unit) if kg > 0 else "nothing"


def _school(kind: HitchType) -> tuple[float, float]:
    return FIXED_RANGES[resolve_school(TongueSchool.DEFAULT, kind)]


def _trailer_for(kind: HitchType, left_kg: float, unit: UnitSystem) -> str:
    """Trailers that put no more than that on the hitch, at either end of the usual share."""
    if left_kg <= 0:
        return ""
    least, most = _school(kind)
    return (
        f"A loaded trailer of {write_mass(left_kg / most, unit)} uses it up at {most * 100:g} %, "
        f"one of {write_mass(left_kg / least, unit)} at {least * 100:g} %."
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class TrailerAlone:
    """A trailer by itself: what it carries, and its share from a reading of the tongue."""

    carries: str
    carries_how: str
    axles: str
    usual: str
    share: str = ""
    share_words: str = ""
    status: str = ""


def trailer_alone(
    trailer: Trailer,
    unit: UnitSystem,
    *,
    tongue: Quantity | None = None,
    loaded: Quantity | None = None,
) -> TrailerAlone:
    """What a trailer carries, and what a tongue reading says; without its loaded mass the share
    lies between those of the empty trailer and of one at its plate."""
    empty = _empty(trailer)
    rating = None if trailer.gvwr is None else si(trailer.gvwr)
    carries, how = "", ""
    if rating is not None and empty is not None:
        left = Estimate(least=rating - empty.most, most=rating - empty.least)
        weighed = trailer.empty_mass is not None
        carries = write_mass(left.value, unit) if weighed else band("mass", left, unit)
        how = f"GVWR {write_mass(rating, unit)} less its own weight"
    elif rating is not None:
        how = "what it weighs empty is not known"
    ratings = [si(axle.gawr) for axle in trailer.axles.all() if axle.gawr is not None]
    share, words, status = ("", "", "")
    if tongue is not None:
        share, words, status = _share(trailer, unit, si(tongue), loaded, empty, rating)
    usual = SHARE_ALONE.get(TrailerKind(trailer.kind)) if trailer.deckless else None
    return TrailerAlone(
        carries=carries,
        carries_how=how,
        axles=write_mass(sum(ratings), unit) if ratings else "",
        usual="" if usual is None else band("part", usual, unit),
        share=share,
        share_words=words,
        status=status,
    )


def _empty(trailer: Trailer) -> Estimate | None:
    """The empty trailer and how far that may be off; ``None`` where nothing says it."""
    try:
        empties = empty_trailer(trailer, Tolerances.of(trailer.yard))
    except IncompleteError:
        figure = empty_mass(trailer)
        return None if figure is None else Estimate(least=figure.least, most=figure.most)
    off = empties.mass_tolerance_kg
    return Estimate(least=empties.mass_kg - off, most=empties.mass_kg + off)


def _share(
    trailer: Trailer,
    unit: UnitSystem,
    tongue: float,
    loaded: Quantity | None,
    empty: Estimate | None,
    rating: float | None,
) -> tuple[str, str, str]:
    """The share, what is said of it, and its status."""
    kind = HitchType.GOOSENECK if trailer.over_bed else HitchType.BALL
    least, most = _school(kind)
    if loaded is not None:
        mass = si(loaded)
        share = tongue / mass
        wanted = f"{write_mass(least * mass, unit)} to {write_mass(most * mass, unit)}"
        words = f"{least * 100:g} to {most * 100:g} % of it would be {wanted}."
        return write_percent(share), words, "ok" if least <= share <= most else "over"
    if rating is None and empty is None:
        return "", "Say what it weighs loaded: neither its plate nor its own weight is known.", ""
    high = tongue / (empty.least if empty is not None else 0.2 * (rating or 1.0))
    low = tongue / (rating if rating is not None else 3 * (empty.most if empty else 1.0))
    words = (
        "Loaded to its plate it is the lesser, empty the greater. Say what it weighs loaded for "
        "one figure."
    )
    shown = f"{write_percent(low)} to {write_percent(min(high, 1.0))}"
    settled = least <= low and high <= most
    passed = high < least or low > most
    return shown, words, "ok" if settled else "over" if passed else "unknown"
