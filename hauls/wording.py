"""What the planner says: the sentence on top, names of limits, and their arithmetic."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any, Final

from book.schools import SCHOOL_LABELS, school_words
from measures.writing import (
    UnitSystem,
    write_inches,
    write_length,
    write_mass,
    write_percent,
    write_signed,
)
from mechanics.checks import Check, Status
from mechanics.hitch import HitchType
from mechanics.limits import Quantity, Sense
from mechanics.report import Report
from mechanics.rules import TongueSchool, TrailerGvwrSchool, resolve_school
from mechanics.units import M_PER_IN

STATUS_WORDS: Final = {
    Status.OVER: "over",
    Status.NEAR: "near",
    Status.OK: "ok",
    Status.UNKNOWN: "cannot say",
}

LABELS: Final = {
    "trailer.gvwr": "Trailer GVWR",
    "trailer.side_left": "Left side tires",
    "trailer.side_right": "Right side tires",
    "truck.front_gawr": "Truck front axle",
    "truck.rear_gawr": "Truck rear axle",
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
    name = label(code, names, unit)
    if code.startswith("item."):
        return name if len(name) <= END_LETTERS else f"{name[: END_LETTERS - 1].rstrip()}…"
    return f"{within(name)} full"


@dataclass(frozen=True, kw_only=True, slots=True)
class Sentence:
    """The lines on top of the planner.

    ``before``, ``figure``, ``after`` make the first line; ``second`` the one under it;
    ``advice`` what to do, where something is wrong.
    """

    before: str
    figure: str
    after: str
    second: str
    advice: str


def sentence(
    report: Report,
    index: int | None,
    marks: dict[str, str],
    names: dict[str, str],
    unit: UnitSystem,
    tail: str = "",
) -> Sentence:
    """What to read out on the phone, for the item in hand; ``tail`` is what closes the deck."""
    if index is None:
        return Sentence(
            before="Nothing on the deck yet.",
            figure="",
            after="",
            second=f"{_tongue_now(report, unit)} with the trailer empty.",
            advice="Add a machine to see where it goes.",
        )
    item = report.plan.items[index]
    mark = marks[item.id]
    step = "25 mm" if unit is UnitSystem.METRIC else "An inch"
    metres = 0.025 if unit is UnitSystem.METRIC else M_PER_IN
    gain = item.mass_kg / report.plan.trailer.couple_lever_m * metres
    word = tongue_word(report.plan.hitch.type)
    second = (
        f"{step} forward adds {write_mass(gain, unit)} to the {word}. {_tightest(report, unit)}"
    )
    place = write_length(item.placement.reference_m, unit)
    faults = _faults(report)
    own = [c for c in faults if c.item in (None, item.id) or c.code == f"item.{item.id}"]
    if not own:
        unknown = [c for c in report.checks if c.status is Status.UNKNOWN]
        advice = ""
        if faults:
            advice = f"Another machine needs a look: {_fault(faults[0], report, names, unit)}"
        elif unknown:
            lacking = ", ".join(missing_words(c.missing[0], unit) for c in unknown)
            advice = f"Cannot say all is well: {lacking} is not known."
        before = f"As it stands: {mark} at" if faults or unknown else f"Stop with the {mark}"
        return Sentence(
            before=before, figure=place, after="behind the headboard.", second=second, advice=advice
        )
    return Sentence(
        before=f"Not with the {mark}",
        figure=place,
        after="behind the headboard.",
        second=" ".join(_fault(c, report, names, unit, tail) for c in own[:2]),
        advice=_way_out(report, index, mark, names, unit),
    )


def summary(report: Report, names: dict[str, str], unit: UnitSystem) -> str:
    """One line on a haul: what is passed, else what is not known, else what is tightest."""
    faults = _faults(report)
    if faults:
        return _fault(faults[0], report, names, unit)
    for check in report.checks:
        if check.status is Status.UNKNOWN:
            words = missing_words(check.missing[0], unit)
            return f"{words[:1].upper()}{words[1:]} is not known."
    return _tightest(report, unit)


def _faults(report: Report) -> list[Check]:
    """What is over, places on the deck first, then what is passed by the largest part."""
    over = [c for c in report.checks if c.status is Status.OVER]
    return sorted(
        over,
        key=lambda c: (
            c.quantity is not Quantity.LENGTH,
            0.0 if c.reserve is None else c.reserve,
        ),
    )


def _tongue_now(report: Report, unit: UnitSystem) -> str:
    word = tongue_word(report.plan.hitch.type).capitalize()
    tongue = report.loads.trailer
    return f"{word} {write_mass(tongue.tongue_kg, unit)}, {write_percent(tongue.share)}"


def _tightest(report: Report, unit: UnitSystem) -> str:
    rated = [c for c in report.checks if c.quantity is Quantity.MASS and c.reserve is not None]
    if not rated:
        return ""
    tightest = min(rated, key=lambda c: c.reserve or 0.0)
    margin = tightest.margin or 0.0
    words = "left" if margin >= 0 else "over"
    name = within(label(tightest.code, unit=unit))
    return f"Tightest: {name}, {write_mass(abs(margin), unit)} {words}."


def _fault(
    check: Check, report: Report, names: dict[str, str], unit: UnitSystem, tail: str = ""
) -> str:
    word = tongue_word(report.plan.hitch.type)
    limit, margin = check.limit or 0.0, check.margin or 0.0
    if check.quantity is Quantity.SHARE:
        verb = "lifts:" if check.value < 0 else "carries"
        bound = "least" if check.sense is Sense.AT_LEAST else "most"
        share = write_percent(check.value)
        return f"The {word} {verb} {share}, and {limit * 100:g} % is the {bound}."
    if check.code == "hitch.ball_size":
        return (
            f"The ball is {_size(check.value, unit)} and the coupler is made for "
            f"{_size(limit, unit)}: it can jump off."
        )
    if check.code == "deck.front":
        return f"It reaches {write_inches(-margin, unit)} past the front of the deck."
    if check.code == "deck.rear":
        into = "into the gate" if tail == "gate" else "past the tail of the deck"
        return f"It reaches {write_inches(-margin, unit)} {into}."
    if check.code.startswith("item."):
        other = names.get(check.code.removeprefix("item."), "its neighbour")
        here = names.get(check.item or "", "It")
        return f"{here} and {other} overlap by {write_inches(-margin, unit)}."
    name = label(check.code, unit=unit)
    return f"{name} is passed by {write_mass(-margin, unit)}."


def _size(metres: float, unit: UnitSystem) -> str:
    """A ball's size as it is stamped, to a sixteenth of an inch."""
    return write_length(metres, unit, step=16)


def _way_out(report: Report, index: int, mark: str, names: dict[str, str], unit: UnitSystem) -> str:
    item, window = report.plan.items[index], report.windows[index]
    if window.aim_m is not None:
        move = window.aim_m - item.placement.reference_m
        way = "back" if move > 0 else "forward"
        return (
            f"Move it {way} {write_length(abs(move), unit, step=1)}: "
            f"{mark} at {write_length(window.aim_m, unit, step=1)}."
        )
    if window.contradiction is None:
        return ""
    low, high = window.contradiction
    if low == high:
        if low == "hitch.ball_size":
            return "Do not couple it."
        return (
            f"No place on this deck helps: {label(low, names, unit)} is passed wherever it stands."
        )
    return (
        f"No place on this deck is right: further forward {_beyond(low, report, names, unit)}, "
        f"further back {_beyond(high, report, names, unit)}."
    )


def why_no_place(report: Report, index: int, names: dict[str, str], unit: UnitSystem) -> str:
    """What keeps an item from having any place on the deck; empty where it has one."""
    contradiction = report.windows[index].contradiction
    if contradiction is None:
        return ""
    low, high = contradiction
    if low == high:
        # a ball that can jump off comes before any rating
        over = [
            check
            for code in ("hitch.ball_size", low)
            for check in report.checks
            if check.code == code and check.status is Status.OVER
        ]
        passed = over[0] if over else None
        return "" if passed is None else _fault(passed, report, names, unit)
    return (
        f"No place is right: further forward {_beyond(low, report, names, unit)}, further back "
        f"{_beyond(high, report, names, unit)}."
    )


def _beyond(code: str, report: Report, names: dict[str, str], unit: UnitSystem) -> str:
    """What goes wrong past the end that a limit makes."""
    word = tongue_word(report.plan.hitch.type)
    least, greatest = report.plan.share_range
    if code.startswith("item."):
        other = code.removeprefix("item.")
        return f"it meets {names.get(other, other)}"
    rated = f"{label(code, names, unit)} is passed"
    return {
        "deck.front": "it runs past the front of the deck",
        "deck.rear": "it runs past the tail of the deck",
        "tongue.share_min": f"the {word} falls below {least * 100:g} %",
        "tongue.share_max": f"the {word} passes {greatest * 100:g} %",
    }.get(code, rated)


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
        source = "Half of the axles' lesser rating, axle or tires."
    elif code in ("truck.front_gawr", "truck.rear_gawr", "truck.front_tires", "truck.rear_tires"):
        front = code.startswith("truck.front")
        base = truck.front_unhitched_kg if front else truck.rear_unhitched_kg
        terms = [
            Term(name="unhitched, with people, load and hitch", amount=mass(base)),
            Term(name=f"from the {word}", amount=_signed(check.value - base, unit)),
        ]
        if bars:
            terms.append(Term(name="spring bars", amount="counted in"))
        source = "Door sticker. Lever: hitch to rear axle over wheelbase."
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
    limit = "not known" if check.limit is None else mass(check.limit)
    return Why(terms=terms, total=mass(check.value), limit=limit, source=source)


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
