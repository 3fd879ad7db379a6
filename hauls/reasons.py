"""Every figure of the planner opened into its arithmetic for this haul, term by term."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from hauls.framing import along_frame, bending_words
from hauls.riding import missing_words
from hauls.standing import best_standing, place_words
from hauls.wording import (
    SCHOOL_LABELS,
    Term,
    Why,
    label,
    tongue_word,
    why,
    within,
)
from measures.marks import write_ends, write_place
from measures.writing import (
    UnitSystem,
    write_inches,
    write_length,
    write_mass,
    write_number,
    write_percent,
    write_signed,
)
from mechanics.attitude import attitude, weight_moment_kg_m
from mechanics.frame import frame_use
from mechanics.item import Item
from mechanics.report import Report
from mechanics.rules import FIXED_RANGES, resolve_school
from mechanics.units import M_PER_IN

STATICS: Final = "Statics of a beam on two supports."


@dataclass(frozen=True, kw_only=True)
class Reason:
    """A figure with its arithmetic: what it is called, the terms, and all of it as text."""

    code: str
    title: str
    why: Why
    text: str


def reason(code: str, report: Report, names: dict[str, str], unit: UnitSystem) -> Reason | None:
    """The arithmetic behind a figure or a limit; ``None`` for a code that nothing has."""
    if code in FIGURES or code.startswith(("figure.axle_", "figure.place_")):
        return _figure(code, report, names, unit)
    check = next((c for c in report.checks if c.code == code), None)
    if check is None:
        return None
    cargo = [{"name": c.name, "kg": c.mass_kg} for c in report.plan.truck.cargo]
    return _reason(code, label(code, names, unit), why(check, report, unit, cargo))


def all_reasons(report: Report, names: dict[str, str], unit: UnitSystem) -> list[Reason]:
    """Every figure and every limit, figures first."""
    codes = [*FIGURES]
    codes += [f"figure.axle_{n}" for n in range(1, len(report.plan.trailer.axles) + 1)]
    codes += [f"figure.place_{n}" for n in range(1, len(report.plan.items) + 1)]
    # limits of place are repeated for each item under one code
    codes += list(dict.fromkeys(c.code for c in report.checks if c.item is None))
    found = [reason(code, report, names, unit) for code in codes]
    return [r for r in found if r is not None]


def _reason(code: str, title: str, found: Why) -> Reason:
    lines = [title]
    lines += [f"  {term.name}: {term.amount}" for term in found.terms]
    lines.append(f"  comes to: {found.total}")
    if found.limit:
        lines.append(f"  limit: {found.limit}")
    lines.append(f"  {found.source}")
    return Reason(code=code, title=title, why=found, text="\n".join(lines))


def _mass(kg: float, unit: UnitSystem) -> str:
    return write_mass(kg, unit)


def _signed(kg: float, unit: UnitSystem) -> str:
    return f"{write_signed(kg / unit.kg)} {unit.mass_unit}"


def _figure(code: str, report: Report, names: dict[str, str], unit: UnitSystem) -> Reason | None:
    if code.startswith("figure.axle_"):
        number = code.removeprefix("figure.axle_")
        if not number.isdigit() or not 1 <= int(number) <= len(report.plan.trailer.axles):
            return None
        return _reason(code, f"Trailer axle {number}", _axle(int(number) - 1, report, unit))
    if code.startswith("figure.place_"):
        number = code.removeprefix("figure.place_")
        if not number.isdigit() or not 1 <= int(number) <= len(report.plan.items):
            return None
        index = int(number) - 1
        name = names[report.plan.items[index].id]
        return _reason(code, f"Where {name} may stand", _place(index, report, names, unit))
    title, make = FIGURES[code]
    word = tongue_word(report.plan.hitch.type)
    return _reason(code, title.format(word.capitalize()), make(report, names, unit))


def _lever_words(item: Item, report: Report, unit: UnitSystem) -> str:
    at = report.plan.trailer.deck.start_m + item.balance_tape_m
    lever = report.plan.trailer.couple_lever_m
    return (
        f"{_mass(item.mass_kg, unit)} balances {write_length(at, unit)} behind the coupler, "
        f"the axles stand {write_length(lever, unit)} behind it"
    )


def _tongue(report: Report, names: dict[str, str], unit: UnitSystem) -> Why:
    trailer = report.loads.trailer
    lever, start = report.plan.trailer.couple_lever_m, report.plan.trailer.deck.start_m
    terms = [Term(name="trailer's empty tongue", amount=_mass(trailer.empty_tongue_kg, unit))]
    for item in report.plan.items:
        part = item.mass_kg * (1 - (start + item.balance_tape_m) / lever)
        name = f"{names[item.id]}: {_lever_words(item, report, unit)}"
        terms.append(Term(name=name, amount=_signed(part, unit)))
    if trailer.couple_kg_m:
        source = "Before the spring bars act. " + STATICS
    else:
        source = "Each load's mass times its lever to the axles over theirs to the coupler. "
        source += STATICS
    return Why(terms=terms, total=_mass(trailer.tongue_kg, unit), limit="", source=source)


def _share(report: Report, names: dict[str, str], unit: UnitSystem) -> Why:
    trailer = report.loads.trailer
    word = tongue_word(report.plan.hitch.type)
    school = resolve_school(report.plan.rules.tongue, report.plan.hitch.type)
    least, greatest = report.plan.share_range
    fixed = school in FIXED_RANGES
    return Why(
        terms=[
            Term(name=f"{word} weight", amount=_mass(trailer.tongue_kg, unit)),
            Term(name="over the loaded trailer", amount=_mass(trailer.mass_kg, unit)),
        ],
        total=write_percent(trailer.share),
        limit=f"{least * 100:g} to {greatest * 100:g} %",
        source=f"School: {SCHOOL_LABELS[school]}"
        + (". Common practice, no source." if fixed else ", by the axles or the yard."),
    )


def _added(report: Report, names: dict[str, str], unit: UnitSystem) -> Why:
    trailer = report.loads.trailer
    gained = trailer.tongue_kg - trailer.empty_tongue_kg
    share = trailer.added_share
    return Why(
        terms=[
            Term(name="what the load adds to the tongue", amount=_mass(gained, unit)),
            Term(name="over the load's own mass", amount=_mass(trailer.items_mass_kg, unit)),
        ],
        total="nothing is on it" if share is None else write_percent(share),
        limit="",
        source="A yard rule asks for 10 to 15 %. Common practice, no source.",
    )


def _inch(report: Report, names: dict[str, str], unit: UnitSystem) -> Why:
    if not report.plan.items:
        return Why(terms=[], total="nothing is on it", limit="", source=STATICS)
    heavy = max(report.plan.items, key=lambda i: i.mass_kg)
    lever = report.plan.trailer.couple_lever_m
    step = 0.025 if unit is UnitSystem.METRIC else M_PER_IN
    words = "25 mm" if unit is UnitSystem.METRIC else "1 in"
    return Why(
        terms=[
            Term(name=names[heavy.id], amount=_mass(heavy.mass_kg, unit)),
            Term(name=f"times {words} over the axles' lever", amount=write_length(lever, unit)),
        ],
        total=_mass(heavy.mass_kg * step / lever, unit),
        limit="",
        source="The same wherever it stands: the tongue grows evenly with the place. " + STATICS,
    )


def _axle(index: int, report: Report, unit: UnitSystem) -> Why:
    trailer, plan = report.loads.trailer, report.plan
    count = len(plan.trailer.axles)
    word = tongue_word(plan.hitch.type)
    terms = [
        Term(name="loaded trailer", amount=_mass(trailer.mass_kg, unit)),
        Term(name=f"{word} carried by the truck", amount=_signed(-trailer.handed_kg, unit)),
        Term(
            name=f"shared by {count} axle{'s' * (count > 1)}", amount=plan.trailer.suspension.value
        ),
    ]
    limit = plan.trailer.axles[index].limit_kg
    return Why(
        terms=terms,
        total=_mass(trailer.axles_kg[index], unit),
        limit="not known" if limit is None else _mass(limit, unit),
        source="Equalized springs share alike; independent ones by how far each is pressed. "
        "The lesser of axle and tire rating is the limit.",
    )


def _truck_axle(front: bool) -> Callable[[Report, dict[str, str], UnitSystem], Why]:
    def made(report: Report, names: dict[str, str], unit: UnitSystem) -> Why:
        plan, truck = report.plan, report.loads.truck
        word = tongue_word(plan.hitch.type)
        wheelbase, offset = plan.truck.wheelbase_m, plan.truck.hitch_offset_m
        own = plan.truck.front_axle_mass_kg if front else plan.truck.rear_axle_mass_kg
        terms = [Term(name="empty truck", amount=_mass(own, unit))]
        for cargo in plan.truck.cargo:
            ahead = cargo.ahead_of_rear_axle_m / wheelbase
            part = cargo.mass_kg * (ahead if front else 1 - ahead)
            terms.append(Term(name=cargo.name or "load", amount=_signed(part, unit)))
        if plan.hitch.mass_kg:
            lever = -offset if front else wheelbase + offset
            part = plan.hitch.mass_kg * lever / wheelbase
            terms.append(Term(name="hitch hardware", amount=_signed(part, unit)))
        lever = -offset if front else wheelbase + offset
        part = truck.handed_kg * lever / wheelbase
        name = (
            f"{word} of {_mass(truck.handed_kg, unit)}, {write_length(abs(offset), unit)} "
            f"{'behind' if offset >= 0 else 'ahead of'} the rear axle, wheelbase "
            f"{write_length(wheelbase, unit)}"
        )
        terms.append(Term(name=name, amount=_signed(part, unit)))
        if truck.couple_kg_m:
            part = truck.couple_kg_m / wheelbase * (1 if front else -1)
            terms.append(Term(name="spring bars", amount=_signed(part, unit)))
        limit = plan.truck.front_gawr_kg if front else plan.truck.rear_gawr_kg
        return Why(
            terms=terms,
            total=_mass(truck.front_kg if front else truck.rear_kg, unit),
            limit="not known" if limit is None else _mass(limit, unit),
            source="Axle rating from the door sticker. " + STATICS,
        )

    return made


def _trailer_mass(report: Report, names: dict[str, str], unit: UnitSystem) -> Why:
    plan = report.plan
    terms = [Term(name="trailer, empty", amount=_mass(plan.trailer.empty_mass_kg, unit))]
    terms += [Term(name=names[i.id], amount="+ " + _mass(i.mass_kg, unit)) for i in plan.items]
    return Why(
        terms=terms,
        total=_mass(report.loads.trailer.mass_kg, unit),
        limit="not known" if plan.trailer.gvwr_kg is None else _mass(plan.trailer.gvwr_kg, unit),
        source="Maker's plate.",
    )


def _place(index: int, report: Report, names: dict[str, str], unit: UnitSystem) -> Why:
    window = report.windows[index]
    terms = []
    for piece in window.intervals:
        low, high = write_ends(piece.start_m, piece.end_m, unit)
        terms.append(
            Term(name=f"right from {within(label(piece.start_limit, names, unit))}", amount=low)
        )
        terms.append(Term(name=f"to {within(label(piece.end_limit, names, unit))}", amount=high))
    for piece in window.sure:
        low, high = write_ends(piece.start_m, piece.end_m, unit)
        terms.append(Term(name="sure for every figure as known", amount=f"{low} to {high}"))
    best = best_standing(report.plan, index, unit)
    if best is not None:
        words = "aim: most left of the tightest" if best.right else "best of what can hold"
        terms.append(Term(name=words, amount=write_place(best.at_m, unit)))
    if window.contradiction is not None:
        both = " and ".join(dict.fromkeys(label(c, names, unit) for c in window.contradiction))
        terms.append(Term(name="no place: between them stand", amount=both))
    return Why(
        terms=terms,
        total=place_words(report, index, unit),
        limit="",
        source="Every limit cuts the tape at one exact place; the others stay where they are. "
        "Ends are rounded into the window.",
    )


def _level(report: Report, names: dict[str, str], unit: UnitSystem) -> Why:
    plan = report.plan
    riding = attitude(plan)
    source = (
        "A nose that rides high shifts the weight back: mass times height times slope, over the "
        "axles' lever. Squat is load over spring rate, run to where nothing changes."
    )
    if riding is None:
        lacking = ", ".join(missing_words(plan)) or "springs that settle"
        terms = [Term(name="not known", amount=lacking)]
        return Why(terms=terms, total="taken as level", limit="", source=source)
    trailer, loaded = plan.trailer, riding.loaded
    mass = riding.level.trailer.mass_kg
    high = weight_moment_kg_m(plan, loaded=True) / mass
    lever = trailer.couple_lever_m
    return Why(
        terms=[
            Term(name="ball above the ground, unhitched", amount=_ball(report, unit)),
            Term(name="rear arch sinks", amount=write_inches(loaded.rear_squat_m, unit)),
            Term(name="coupler, hitched", amount=write_length(loaded.coupler_height_m, unit)),
            Term(
                name="coupler of the level trailer",
                amount=write_length(trailer.coupler_height_m or 0.0, unit),
            ),
            Term(
                name="slope, over the axles' lever",
                amount=f"{write_number(loaded.slope * 100, 2)} %",
            ),
            Term(name="loaded trailer", amount=_mass(mass, unit)),
            Term(name="balances above its axles", amount=write_length(high, unit)),
            Term(name="the axles' lever", amount=write_length(lever, unit)),
        ],
        total=f"{_signed(riding.tongue_change_kg, unit)} on the {tongue_word(plan.hitch.type)}",
        limit="",
        source=source,
    )


def _ball(report: Report, unit: UnitSystem) -> str:
    ride = report.plan.truck.ride
    return "not known" if ride is None else write_length(ride.ball_height_m, unit)


def _frame(report: Report, names: dict[str, str], unit: UnitSystem) -> Why:
    use = frame_use(report.plan)
    start = report.plan.trailer.deck.start_m
    at, peak = use.peak
    name = f"largest bending that way, {along_frame(at - start, unit)}"
    terms = [Term(name=name, amount=bending(peak, unit))]
    if use.rated_peak is not None:
        rated_at, rated = use.rated_peak
        name = f"with the rated load spread over the deck, {along_frame(rated_at - start, unit)}"
        terms.append(Term(name=name, amount=bending(rated, unit)))
    share = use.share_of_rated
    return Why(
        terms=terms,
        total="cannot say" if share is None else write_percent(share),
        limit="",
        source="The trailer as a beam on coupler and axles, its own weight counted in both; "
        "sagging against sagging, bending over the axles against the same. " + STATICS,
    )


def bending(kg_m: float, unit: UnitSystem) -> str:
    """A bending moment with the way it bends."""
    return f"{bending_words(abs(kg_m), unit)}, {'sagging' if kg_m > 0 else 'over the axles'}"


FIGURES: Final[dict[str, tuple[str, Callable[[Report, dict[str, str], UnitSystem], Why]]]] = {
    "figure.tongue": ("{} weight", _tongue),
    "figure.share": ("{} share", _share),
    "figure.added": ("Added share", _added),
    "figure.inch": ("What one small step forward adds", _inch),
    "figure.trailer": ("Loaded trailer", _trailer_mass),
    "figure.front": ("Truck front axle", _truck_axle(front=True)),
    "figure.rear": ("Truck rear axle", _truck_axle(front=False)),
    "figure.level": ("What the tilt does", _level),
    "figure.frame": ("Bending of the frame", _frame),
}
"""Figures by their code, with the words that head them."""
