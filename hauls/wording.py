"""Names of limits and figures, and the arithmetic of a limit."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any, Final

from book.schools import SCHOOL_LABELS, school_words
from measures.writing import (
    UnitSystem,
    write_length,
    write_mass,
    write_masses_apart,
    write_signed,
)
from mechanics.checks import Check, Status
from mechanics.hitch import HitchType
from mechanics.limits import Quantity
from mechanics.report import Report
from mechanics.rules import LIGHT, TongueSchool, TrailerGvwrSchool, resolve_school
from mechanics.trailer import Suspension

STATUS_WORDS: Final = {
    Status.OVER: "over",
    Status.NEAR: "near",
    Status.OK: "ok",
    Status.UNKNOWN: "cannot say",
}

UNDER: Final = "under"
"""What is said of a share that falls below the least: too little is not over."""

LABELS: Final = {
    "trailer.gvwr": "Trailer GVWR",
    "trailer.side_left": "Trailer left side",
    "trailer.side_right": "Trailer right side",
    "truck.front_gawr": "Truck front axle",
    "truck.rear_gawr": "Truck rear axle",
    "truck.front_light": "Truck front axle on the ground",
    "truck.rear_light": "Truck rear axle on the ground",
    "truck.front_tires": "Truck front tires",
    "truck.rear_tires": "Truck rear tires",
    "truck.gvwr": "Truck GVWR",
    "truck.payload": "Truck payload",
    "truck.max_trailer_mass": "Tow rating",
    "truck.max_tongue_mass": "Truck tongue limit",
    "combination.gcwr": "Combination GCWR",
    "hitch.ball_size": "Ball in coupler",
    "tongue.share_min": "Least share",
    "tongue.share_max": "Greatest share",
    "deck.front": "Front of the deck",
    "deck.rear": "Tail of the deck",
    "deck.width": "Deck width",
    "deck.concentration": "Load on one length",
}

METRIC_LABELS: Final = {
    "trailer.gvwr": "Trailer MAM",
    "truck.gvwr": "Truck MAM",
    "truck.max_trailer_mass": "Towing limit",
    "truck.max_tongue_mass": "Nose weight limit",
    "combination.gcwr": "Gross train mass",
}
"""What metric plates call the same limits."""

MISSING_WORDS: Final = {
    "trailer.gvwr": "the trailer's GVWR",
    "truck.front_gawr": "the truck's front axle rating",
    "truck.rear_gawr": "the truck's rear axle rating",
    "truck.gvwr": "the truck's GVWR",
    "truck.payload": "the truck's payload",
    "truck.max_trailer_mass": "the truck's tow rating",
    "truck.gcwr": "the combination rating (GCWR)",
    "hitch.ball_diameter": "the size of the ball",
    "trailer.coupler_size": "the ball size of the coupler",
}

METRIC_MISSING_WORDS: Final = {
    "trailer.gvwr": "the trailer's maximum authorised mass (MAM)",
    "truck.gvwr": "the truck's maximum authorised mass (MAM)",
    "truck.max_trailer_mass": "the truck's towing limit",
    "truck.gcwr": "the gross train mass",
}

END_LETTERS: Final = 25
"""Letters of a neighbour's name that have room beside the end of a window."""


def status_word(check: Check) -> str:
    """The word for a check's status; below a least share it is *under*, not over."""
    if check.status is Status.OVER and check.code == "tongue.share_min":
        return UNDER
    return STATUS_WORDS[check.status]


def unhitched_kg(check: Check) -> float:
    """What the axle of a check that it stays on the ground carried unhitched."""
    return (check.near_at or 0.0) / LIGHT


def is_light(code: str) -> bool:
    """Whether a limit is that a truck axle stays on the ground."""
    return code in ("truck.front_light", "truck.rear_light")


def room_left(check: Check) -> float | None:
    """What is left of a limit as a part of it; of an axle on the ground, of what it carried
    unhitched. ``None`` where there is nothing to compare with."""
    if is_light(check.code):
        unhitched = unhitched_kg(check)
        return check.value / unhitched if unhitched > 0 else None
    return check.reserve


def tongue_word(hitch: HitchType) -> str:
    """What the load on the hitch is called: pin weight on a gooseneck or fifth wheel."""
    return "pin" if hitch in (HitchType.GOOSENECK, HitchType.FIFTH_WHEEL) else "tongue"


def label(code: str, names: dict[str, str] | None = None, unit: UnitSystem = UnitSystem.US) -> str:
    """The short name of a limit, from its code, as plates in those units call it.

    ``names`` maps item ids to names.
    """
    if unit is UnitSystem.METRIC and code in METRIC_LABELS:
        return METRIC_LABELS[code]
    if code in LABELS:
        return LABELS[code]
    if match := re.fullmatch(r"trailer\.axle_(\d+)\.(gawr|tires)", code):
        return f"Trailer axle {match[1]}" + (" tires" if match[2] == "tires" else "")
    if match := re.fullmatch(r"hitch\.(.+)\.max_(trailer|tongue)_mass", code, re.DOTALL):
        return f"{match[1][:1].upper()}{match[1][1:]}, {match[2]}"
    if match := re.fullmatch(r"item\.(.+)", code, re.DOTALL):
        return "Clear of " + ((names or {}).get(match[1]) or match[1])
    return code


def within(words: str) -> str:
    """A name in the middle of a sentence: ``truck GVWR``."""
    return words[:1].lower() + words[1:]


def missing_words(path: str, unit: UnitSystem = UnitSystem.US) -> str:
    """An absent input in plain words."""
    if unit is UnitSystem.METRIC and path in METRIC_MISSING_WORDS:
        return METRIC_MISSING_WORDS[path]
    if match := re.fullmatch(r"trailer\.axles\[(\d+)\]\.gawr", path):
        return f"the rating of trailer axle {int(match[1]) + 1}"
    return MISSING_WORDS.get(path, path)


def school_label(school: TongueSchool, report: Report) -> str:
    """A school with its range, as the chooser lists it."""
    resolved = resolve_school(school, report.plan.hitch.type)
    words = school_words(resolved, len(report.plan.trailer.axles))
    if school is resolved:
        return words
    return f"{words.split(', ')[0]}, {SCHOOL_LABELS[school]}"


def end_words(
    code: str,
    hitch: HitchType,
    share: tuple[float, float],
    names: dict[str, str],
    unit: UnitSystem,
) -> str:
    """What happens at the end of a window that a limit makes."""
    word = tongue_word(hitch)
    if code == "tongue.share_max":
        return f"{word} reaches {share[1] * 100:g} %"
    if code == "tongue.share_min":
        return f"{word} falls to {share[0] * 100:g} %"
    if code in ("deck.front", "deck.rear"):
        return "front of the deck" if code == "deck.front" else "tail of the deck"
    if is_light(code):
        return f"truck {'front' if 'front' in code else 'rear'} axle lifts off"
    name = label(code, names, unit)
    if code.startswith("item."):
        return name if len(name) <= END_LETTERS else f"{name[: END_LETTERS - 1].rstrip()}…"
    return f"{within(name)} full"


@dataclass(frozen=True, kw_only=True, slots=True)
class Term:
    """One line of an arithmetic: what, and how much with its sign and unit."""

    name: str
    amount: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Why:
    """The arithmetic behind one limit: terms, what they come to, the limit, its source."""

    terms: list[Term]
    total: str
    limit: str
    source: str


def why(check: Check, report: Report, unit: UnitSystem, cargo: list[dict[str, Any]]) -> Why:
    """The arithmetic of one limit with the numbers of this haul.

    ``cargo`` holds name and mass in kg of what rides in the truck.
    """

    def mass(kg: float) -> str:
        return write_mass(kg, unit)

    if check.quantity is Quantity.LENGTH:
        return _why_of_a_length(check, unit)
    loads, plan = report.loads, report.plan
    trailer, truck = loads.trailer, loads.truck
    word = tongue_word(plan.hitch.type)
    whole = [Term(name="trailer, empty", amount=mass(plan.trailer.empty_mass_kg))] + [
        Term(name=i.name or i.id, amount="+ " + mass(i.mass_kg)) for i in plan.items
    ]
    aboard = [Term(name=c["name"] or "load", amount="+ " + mass(c["kg"])) for c in cargo]
    if plan.hitch.mass_kg:
        aboard.append(Term(name="hitch hardware", amount="+ " + mass(plan.hitch.mass_kg)))
    handed = Term(name=f"{word} on the truck", amount=_signed(trailer.handed_kg, unit))
    bars = trailer.couple_kg_m
    code = check.code
    source = "Rating as stamped or printed; entered by the yard."
    if code == "trailer.gvwr":
        if plan.rules.trailer_gvwr is TrailerGvwrSchool.AXLES:
            terms = [
                *whole,
                Term(name=f"{word} carried by the truck", amount=_signed(-trailer.handed_kg, unit)),
            ]
        else:
            terms = whole
        source = "Maker's plate. The whole loaded trailer counts unless the yard's rule says axles."
    elif code.startswith("trailer.axle_"):
        count = len(plan.trailer.axles)
        terms = [
            *whole,
            Term(name=f"{word} carried by the truck", amount=_signed(-trailer.handed_kg, unit)),
            Term(
                name=f"shared by {count} axle{'s' * (count > 1)}",
                amount=plan.trailer.suspension.value,
            ),
        ]
        source = "Axle tag or plate; tires by their sidewall."
    elif code.startswith("trailer.side_"):
        terms = [
            Term(name="half of all trailer axles", amount=mass(trailer.axles_mass_kg / 2)),
            Term(
                name="off-centre load",
                amount=_signed(check.value - trailer.axles_mass_kg / 2, unit),
            ),
        ]
        source = (
            "Equalized axles carry alike: half of the weakest one's lesser rating, axle or tires, "
            "times their number."
            if plan.trailer.suspension is Suspension.EQUALIZED
            else "Half of the axles' lesser ratings, axle or tires."
        )
    elif code.startswith(("truck.front_", "truck.rear_")):
        front = code.startswith("truck.front")
        base = truck.front_unhitched_kg if front else truck.rear_unhitched_kg
        terms = [
            Term(name="unhitched, with people, load and hitch", amount=mass(base)),
            Term(name=f"from the {word}", amount=_signed(check.value - base, unit)),
        ]
        if bars:
            terms.append(Term(name="spring bars", amount="counted in"))
        source = "Door sticker. Lever: hitch to rear axle over wheelbase."
        if is_light(code):
            source = (
                "Below 80 % of what it carries unhitched steering goes vague or the wheels lose "
                "their grip. Common practice, no source. At nothing it is off the ground."
            )
    elif code == "truck.gvwr":
        terms = [Term(name="truck, empty", amount=mass(plan.truck.empty_mass_kg)), *aboard, handed]
        source = "Door sticker."
    elif code == "truck.payload":
        terms = [*aboard, handed]
        rating = within(label("truck.gvwr", unit=unit))
        source = (
            "Door sticker."
            if plan.truck.payload_kg is not None
            else f"No sticker given: {rating} less both empty axle masses."
        )
    elif code == "combination.gcwr":
        terms = [Term(name="truck, empty", amount=mass(plan.truck.empty_mass_kg)), *aboard]
        terms += [
            Term(name=t.name, amount=t.amount if t.amount[0] == "+" else "+ " + t.amount)
            for t in whole
        ]
        source = "Owner's handbook. The tongue is not counted twice."
    elif code.endswith("max_tongue_mass"):
        terms = [Term(name="trailer's empty tongue", amount=mass(trailer.empty_tongue_kg))]
        lever, start = plan.trailer.couple_lever_m, plan.trailer.deck.start_m
        terms += [
            Term(
                name=i.name or i.id,
                amount=_signed(i.mass_kg * (1 - (start + i.balance_tape_m) / lever), unit),
            )
            for i in plan.items
        ]
        source = "Stamped on the part. Above 83 % less than a fifth is spare."
    else:
        terms = whole
        source = "Owner's handbook." if code.startswith("truck.") else "Stamped on the part."
    if check.limit is None:
        return Why(terms=terms, total=mass(check.value), limit="not known", source=source)
    total, limit = write_masses_apart(check.value, check.limit, unit)
    return Why(terms=terms, total=total, limit=limit, source=source)


def _size(metres: float, unit: UnitSystem) -> str:
    """A ball's size as it is stamped, to a sixteenth of an inch."""
    return write_length(metres, unit, step=16)


def _why_of_a_length(check: Check, unit: UnitSystem) -> Why:
    limit = "not known" if check.limit is None else _size(check.limit, unit)
    if check.code == "hitch.ball_size":
        ball = "not known" if "hitch.ball_diameter" in check.missing else _size(check.value, unit)
        return Why(
            terms=[
                Term(name="ball", amount=ball),
                Term(name="coupler is made for", amount=limit),
            ],
            total=ball,
            limit=limit,
            source="Stamped on the ball and on the coupler; they have to be one size.",
        )
    return Why(
        terms=[],
        total=_size(check.value, unit),
        limit=limit,
        source="Taped on the deck, from its front edge.",
    )


def _signed(kg: float, unit: UnitSystem) -> str:
    return f"{write_signed(kg / unit.kg)} {unit.mass_unit}"
