"""The arithmetic of each family of limits, with the numbers of a haul."""

from __future__ import annotations

from measures.writing import (
    UnitSystem,
    write_length,
    write_mass,
    write_masses_apart,
    write_share_against,
)
from mechanics.checks import Check
from mechanics.codes import Family
from mechanics.report import Report
from mechanics.rules import FIXED_RANGES, TrailerGvwrSchool, resolve_school
from mechanics.trailer import Suspension
from wording.arithmetic import Term, Why
from wording.phrases import NOT_KNOWN, signed_mass, tongue_word
from wording.schools import SCHOOL_LABELS


def _masses(check: Check, terms: list[Term], source: str, unit: UnitSystem) -> Why:
    """Terms that come to the check's value, against its limit."""
    if check.limit is None:
        return Why(terms=terms, total=write_mass(check.value, unit), limit=NOT_KNOWN, source=source)
    total, limit = write_masses_apart(check.value, check.limit, unit)
    return Why(terms=terms, total=total, limit=limit, source=source)


def whole_trailer(report: Report, unit: UnitSystem) -> list[Term]:
    """The empty trailer and what stands on it."""
    plan = report.plan
    return [Term(name="trailer, empty", amount=write_mass(plan.trailer.empty_mass_kg, unit))] + [
        Term(name=item.called, amount="+ " + write_mass(item.mass_kg, unit)) for item in plan.items
    ]


def _on_the_axles(report: Report, unit: UnitSystem) -> list[Term]:
    """The loaded trailer less what the truck carries of it."""
    return [*whole_trailer(report, unit), carried_by_truck(report, unit)]


def carried_by_truck(report: Report, unit: UnitSystem) -> Term:
    """What the truck takes off the trailer's axles."""
    word = tongue_word(report.plan.hitch.type)
    return Term(
        name=f"{word} carried by the truck",
        amount=signed_mass(-report.loads.trailer.handed_kg, unit),
    )


def shared_by_axles(report: Report) -> Term:
    """How many axles share, and how."""
    count = len(report.plan.trailer.axles)
    return Term(
        name=f"shared by {count} axle{'s' * (count > 1)}",
        amount=report.plan.trailer.suspension.value,
    )


def _aboard(report: Report, unit: UnitSystem) -> list[Term]:
    """People, load and hitch hardware on the truck."""
    plan = report.plan
    found = [
        Term(name=one.name or "load", amount="+ " + write_mass(one.mass_kg, unit))
        for one in plan.truck.cargo
    ]
    if plan.hitch.mass_kg:
        found.append(
            Term(name="hitch hardware", amount="+ " + write_mass(plan.hitch.mass_kg, unit))
        )
    return found


def _handed(report: Report, unit: UnitSystem) -> Term:
    word = tongue_word(report.plan.hitch.type)
    return Term(
        name=f"{word} on the truck", amount=signed_mass(report.loads.trailer.handed_kg, unit)
    )


def _empty_truck(report: Report, unit: UnitSystem) -> Term:
    return Term(name="truck, empty", amount=write_mass(report.plan.truck.empty_mass_kg, unit))


def trailer_plate(check: Check, report: Report, unit: UnitSystem) -> Why:
    """The trailer's GVWR, by the school the yard counts in."""
    axles_only = report.plan.rules.trailer_gvwr is TrailerGvwrSchool.AXLES
    return _masses(
        check,
        _on_the_axles(report, unit) if axles_only else whole_trailer(report, unit),
        "Maker's plate. The whole loaded trailer counts unless the yard's rule says axles.",
        unit,
    )


def trailer_axle(check: Check, report: Report, unit: UnitSystem) -> Why:
    """A trailer axle or its tires."""
    terms = [*_on_the_axles(report, unit), shared_by_axles(report)]
    return _masses(check, terms, "Axle tag or plate; tires by their sidewall.", unit)


def trailer_side(check: Check, report: Report, unit: UnitSystem) -> Why:
    """One side of the trailer."""
    half = report.loads.trailer.axles_mass_kg / 2
    terms = [
        Term(name="half of all trailer axles", amount=write_mass(half, unit)),
        Term(name="off-centre load", amount=signed_mass(check.value - half, unit)),
    ]
    source = (
        "Equalized axles carry alike: half of the weakest one's lesser rating, axle or tires, "
        "times their number."
        if report.plan.trailer.suspension is Suspension.EQUALIZED
        else "Half of the axles' lesser ratings, axle or tires."
    )
    return _masses(check, terms, source, unit)


def truck_axle(check: Check, report: Report, unit: UnitSystem) -> Why:
    """A truck axle against its rating or its tires', or that it stays on the ground."""
    truck = report.loads.truck
    front = check.about.which == "front"
    base = truck.front_unhitched_kg if front else truck.rear_unhitched_kg
    word = tongue_word(report.plan.hitch.type)
    terms = [
        Term(name="unhitched, with people, load and hitch", amount=write_mass(base, unit)),
        Term(name=f"from the {word}", amount=signed_mass(check.value - base, unit)),
    ]
    if report.loads.trailer.couple_kg_m:
        terms.append(Term(name="spring bars", amount="counted in"))
    source = "Door sticker. Lever: hitch to rear axle over wheelbase."
    if check.about.family is Family.TRUCK_LIGHT:
        source = (
            "Below 80 % of what it carries unhitched steering goes vague or the wheels lose "
            "their grip. Common practice, no source. At nothing it is off the ground."
        )
    return _masses(check, terms, source, unit)


def truck_plate(check: Check, report: Report, unit: UnitSystem) -> Why:
    """The truck's GVWR."""
    terms = [_empty_truck(report, unit), *_aboard(report, unit), _handed(report, unit)]
    return _masses(check, terms, "Door sticker.", unit)


def payload(check: Check, report: Report, unit: UnitSystem) -> Why:
    """The truck's payload, from its sticker or what the GVWR leaves."""
    rating = "truck MAM" if unit is UnitSystem.METRIC else "truck GVWR"
    source = (
        "Door sticker."
        if report.plan.truck.payload_kg is not None
        else f"No sticker given: {rating} less both empty axle masses."
    )
    return _masses(check, [*_aboard(report, unit), _handed(report, unit)], source, unit)


def combination(check: Check, report: Report, unit: UnitSystem) -> Why:
    """Truck and trailer together."""
    terms = [_empty_truck(report, unit), *_aboard(report, unit)]
    terms += [
        Term(name=t.name, amount=t.amount if t.amount[0] == "+" else "+ " + t.amount)
        for t in whole_trailer(report, unit)
    ]
    return _masses(check, terms, "Owner's handbook. The tongue is not counted twice.", unit)


def tongue(check: Check, report: Report, unit: UnitSystem) -> Why:
    """A rating of what rests on the hitch."""
    trailer = report.plan.trailer
    empty = report.loads.trailer.empty_tongue_kg
    lever, start = trailer.couple_lever_m, trailer.deck.start_m
    terms = [Term(name="trailer's empty tongue", amount=write_mass(empty, unit))]
    terms += [
        Term(
            name=item.called,
            amount=signed_mass(item.mass_kg * (1 - (start + item.balance_tape_m) / lever), unit),
        )
        for item in report.plan.items
    ]
    source = "Stamped on the part. Above 83 % less than a fifth is spare."
    if check.about.family is Family.TRUCK_TONGUE:
        source = "Plate at the hitch, or owner's handbook."
    return _masses(check, terms, source, unit)


def towed(check: Check, report: Report, unit: UnitSystem) -> Why:
    """The truck's tow rating."""
    return _masses(check, whole_trailer(report, unit), "Owner's handbook.", unit)


def stamped(check: Check, report: Report, unit: UnitSystem) -> Why:
    """A rating of the whole trailer that is stamped on a part."""
    return _masses(check, whole_trailer(report, unit), "Stamped on the part.", unit)


def _size(metres: float, unit: UnitSystem) -> str:
    """A size as it is stamped, to a sixteenth of an inch."""
    return write_length(metres, unit, step=16)


def ball_size(check: Check, report: Report, unit: UnitSystem) -> Why:
    """The ball against the coupler."""
    limit = NOT_KNOWN if check.limit is None else _size(check.limit, unit)
    known = report.plan.hitch.ball_diameter_m is not None
    ball = _size(check.value, unit) if known else NOT_KNOWN
    return Why(
        terms=[
            Term(name="ball", amount=ball),
            Term(name="coupler is made for", amount=limit),
        ],
        total=ball,
        limit=limit,
        source="Stamped on the ball and on the coupler; they have to be one size.",
    )


def on_the_tape(check: Check, report: Report, unit: UnitSystem) -> Why:
    """A length taped on the deck."""
    return Why(
        terms=[],
        total=_size(check.value, unit),
        limit=NOT_KNOWN if check.limit is None else _size(check.limit, unit),
        source="Taped on the deck, from its front edge.",
    )


def share(check: Check, report: Report, unit: UnitSystem) -> Why:
    """One end of the share that the yard's school asks for."""
    trailer, limit = report.loads.trailer, check.limit or 0.0
    word = tongue_word(report.plan.hitch.type)
    return Why(
        terms=[
            Term(name=f"{word} weight", amount=write_mass(trailer.tongue_kg, unit)),
            Term(name="over the loaded trailer", amount=write_mass(trailer.mass_kg, unit)),
        ],
        total=write_share_against(check.value, limit),
        limit=f"{limit * 100:g} %",
        source=school_source(report),
    )


def school_source(report: Report) -> str:
    """Where a range of share is from."""
    school = resolve_school(report.plan.rules.tongue, report.plan.hitch.type)
    fixed = school in FIXED_RANGES
    return f"Rule of share: {SCHOOL_LABELS[school]}" + (
        ". Common practice, no source." if fixed else ", by the axles or the yard."
    )


def concentration(check: Check, report: Report, unit: UnitSystem) -> Why:
    """What stands on one length of deck, against the maker's figure for it."""
    figure = report.plan.trailer.deck.concentration
    length = "" if figure is None else f" of {write_length(figure.length_m, unit)}"
    terms = [
        Term(name=f"most within any length{length}", amount=write_mass(check.value, unit)),
    ]
    return _masses(check, terms, "The maker's figure for that length of deck.", unit)
