"""The sentence on top of the planner, faults in words, and what to do about them."""

from __future__ import annotations

from dataclasses import dataclass

from hauls.standing import Standing, best_standing, is_sure, place_words
from hauls.wording import (
    STATUS_WORDS,
    UNDER,
    is_light,
    label,
    missing_words,
    room_left,
    status_word,
    tongue_word,
    unhitched_kg,
    within,
)
from measures.marks import write_ends, write_place
from measures.writing import (
    UnitSystem,
    write_excess,
    write_inches,
    write_length,
    write_mass,
    write_percent,
    write_share_against,
)
from mechanics.checks import Check, Status
from mechanics.limits import Quantity, Sense
from mechanics.report import Report
from mechanics.units import M_PER_IN

BALL_SIZE = "hitch.ball_size"


@dataclass(frozen=True, kw_only=True, slots=True)
class Sentence:
    """The lines on top of the planner.

    ``before``, ``figure``, ``after`` make the first line; ``second`` the one under it;
    ``advice`` what to do, where something is wrong or nothing is sure. ``sure`` says that
    the place is right for every figure as known.
    """

    before: str
    figure: str
    after: str
    second: str
    advice: str
    sure: bool = False


def sentence(
    report: Report,
    index: int | None,
    marks: dict[str, str],
    names: dict[str, str],
    unit: UnitSystem,
    tail: str = "",
    settles: str = "",
) -> Sentence:
    """What to read out on the phone, for the item in hand.

    ``tail`` is what closes the deck; ``settles`` what has to be weighed before a place is
    sure, empty where no single weighing does it.
    """
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
    place = place_words(report, index, unit)
    faults = faults_of(report)
    own = [c for c in faults if c.item in (None, item.id) or c.code == f"item.{item.id}"]
    after = "behind the headboard."
    if own:
        return Sentence(
            before=f"Not with the {mark}",
            figure=place,
            after=after,
            second=" ".join(fault(c, report, names, unit, tail) for c in own[:2]),
            advice=way_out(report, index, mark, names, unit),
        )
    unknown = [c for c in report.checks if c.status is Status.UNKNOWN]
    if faults or unknown:
        if faults:
            advice = f"Another machine needs a look: {fault(faults[0], report, names, unit)}"
        else:
            lacking = ", ".join(missing_words(c.missing[0], unit) for c in unknown)
            advice = f"Cannot say all is well: {lacking} is not known."
        return Sentence(
            before=f"As it stands: {mark} at",
            figure=place,
            after=after,
            second=second,
            advice=advice,
        )
    if is_sure(report, index):
        return Sentence(
            before=f"Stop with the {mark}",
            figure=place,
            after=after,
            second=second,
            advice="",
            sure=True,
        )
    return Sentence(
        before=f"As entered it is ok with the {mark}",
        figure=place,
        after=after,
        second=second,
        advice=_not_sure(report, index, unit, settles),
    )


def _not_sure(report: Report, index: int, unit: UnitSystem, settles: str) -> str:
    """What is known of a place that is right as entered and not for all that it might be."""
    sure = report.windows[index].sure
    if not sure:
        if settles:
            return f"No place is sure until {settles} weighed."
        return "No place is sure, and no single weighing would make one so."
    pieces = " or ".join(
        " to ".join(write_ends(piece.start_m, piece.end_m, unit)) for piece in sure
    )
    return f"It is not sure there. Sure is {pieces}."


def summary(report: Report, names: dict[str, str], unit: UnitSystem) -> str:
    """One line on a haul: what is passed, else what is not known, else what is tightest."""
    faults = faults_of(report)
    if faults:
        return fault(faults[0], report, names, unit)
    for check in report.checks:
        if check.status is Status.UNKNOWN:
            words = missing_words(check.missing[0], unit)
            return f"{words[:1].upper()}{words[1:]} is not known."
    return _tightest(report, unit)


def verdict_word(report: Report) -> str:
    """The word for a report's verdict: *under* where a share too small is all that is wrong,
    and not simply *ok* where a load stands right as entered only."""
    words = {status_word(c) for c in report.checks if c.status is Status.OVER}
    word = UNDER if words == {UNDER} else STATUS_WORDS[report.verdict]
    unsure = not all(is_sure(report, index) for index in range(len(report.plan.items)))
    if report.verdict in (Status.OK, Status.NEAR) and unsure:
        return f"{word} as entered"
    return word


def faults_of(report: Report) -> list[Check]:
    """What is over, places on the deck first, then what is passed by the largest part."""
    over = [c for c in report.checks if c.status is Status.OVER]
    return sorted(
        over,
        key=lambda c: (
            c.quantity is not Quantity.LENGTH,
            not is_light(c.code),
            0.0 if c.reserve is None else c.reserve,
        ),
    )


def _tongue_now(report: Report, unit: UnitSystem) -> str:
    word = tongue_word(report.plan.hitch.type).capitalize()
    tongue = report.loads.trailer
    return f"{word} {write_mass(tongue.tongue_kg, unit)}, {write_percent(tongue.share)}"


def _tightest(report: Report, unit: UnitSystem) -> str:
    rated = [
        (room, c)
        for c in report.checks
        if c.quantity is Quantity.MASS
        and c.margin is not None
        # an axle with enough on the ground is nobody's tightest limit
        and not (is_light(c.code) and c.status is Status.OK)
        and (room := room_left(c)) is not None
    ]
    if not rated:
        return ""
    room, tightest = min(rated, key=lambda pair: pair[0])
    name = within(label(tightest.code, unit=unit))
    if is_light(tightest.code):
        return f"Tightest: {_light(tightest, unit)}"
    margin = tightest.margin or 0.0
    words = "left" if margin >= 0 else "over"
    amount = write_mass(margin, unit) if margin >= 0 else write_excess(margin, unit)
    return f"Tightest: {name}, {amount} {words}."


def _light(check: Check, unit: UnitSystem) -> str:
    """A truck axle with too little on it, in words."""
    end = "front" if check.code == "truck.front_light" else "rear"
    unhitched = unhitched_kg(check)
    return (
        f"truck {end} axle carries {write_mass(check.value, unit)}, "
        f"{write_percent(check.value / unhitched) if unhitched > 0 else 'a part'} of what it "
        "carries unhitched."
    )


def fault(
    check: Check, report: Report, names: dict[str, str], unit: UnitSystem, tail: str = ""
) -> str:
    """A limit that is passed, as a sentence."""
    word = tongue_word(report.plan.hitch.type)
    limit, margin = check.limit or 0.0, check.margin or 0.0
    if check.quantity is Quantity.SHARE:
        verb = "lifts:" if check.value < 0 else "carries"
        bound = "least" if check.sense is Sense.AT_LEAST else "most"
        share = write_share_against(check.value, limit)
        return f"The {word} {verb} {share}, and {limit * 100:g} % is the {bound}."
    if is_light(check.code):
        end = "front" if check.code == "truck.front_light" else "rear"
        return f"The {word} lifts the truck's {end} axle off the ground."
    if check.code == BALL_SIZE:
        ball, coupler = (write_length(m, unit, step=16) for m in (check.value, limit))
        return f"The ball is {ball} and the coupler is made for {coupler}: it can jump off."
    if check.code == "deck.front":
        return f"It reaches {write_inches(-margin, unit)} past the front of the deck."
    if check.code == "deck.rear":
        into = "into the gate" if tail == "gate" else "past the tail of the deck"
        return f"It reaches {write_inches(-margin, unit)} {into}."
    if check.code.startswith("item."):
        other = names.get(check.code.removeprefix("item."), "its neighbour")
        here = names.get(check.item or "", "It")
        return f"{here} and {other} overlap by {write_inches(-margin, unit)}."
    return f"{label(check.code, unit=unit)} is passed by {write_excess(margin, unit)}."


def kept_places(report: Report, marks: dict[str, str], unit: UnitSystem) -> list[str]:
    """What to say of items that kept their place on another outfit, where another is better."""
    found = []
    for index, item in enumerate(report.plan.items):
        best = best_standing(report.plan, index, unit)
        if best is None or abs(best.at_m - item.placement.reference_m) < M_PER_IN:
            continue
        name = item.name or item.id
        words = "its best place is" if best.right else "the best of what can hold is"
        found.append(f"{name} kept its place. Here {words} {marks[item.id]} at {_at(best, unit)}.")
    return found


def way_out(report: Report, index: int, mark: str, names: dict[str, str], unit: UnitSystem) -> str:
    """What to do about an item that does not stand right."""
    item, window = report.plan.items[index], report.windows[index]
    best = best_standing(report.plan, index, unit)
    if window.aim_m is not None and best is not None:
        return f"{_move(item.placement.reference_m, best, unit)}: {mark} at {_at(best, unit)}."
    if window.contradiction is None:
        return ""
    low, high = window.contradiction
    if BALL_SIZE in (low, high):
        return "Do not couple it."
    if low == high:
        words = f"No place on this deck helps: {passed_words(low, names, unit)} wherever it stands."
    else:
        words = (
            f"No place on this deck is right: further forward {_beyond(low, report, names, unit)}, "
            f"further back {_beyond(high, report, names, unit)}."
        )
    if best is None:
        return words
    held = (
        "Best for the share and what can hold"
        if best.holds
        else "Least wrong for the share and the limits that can hold"
    )
    here = abs(best.at_m - item.placement.reference_m) < 0.5 * M_PER_IN
    return f"{words} {held}: {'where it stands' if here else _at(best, unit)}."


def _at(best: Standing, unit: UnitSystem) -> str:
    return write_place(best.at_m, unit)


def _move(now_m: float, best: Standing, unit: UnitSystem) -> str:
    move = best.at_m - now_m
    return f"Move it {'back' if move > 0 else 'forward'} {write_length(abs(move), unit, step=2)}"


def passed_words(code: str, names: dict[str, str], unit: UnitSystem) -> str:
    """A limit that is passed, in the middle of a sentence."""
    if is_light(code):
        return f"the truck's {'front' if 'front' in code else 'rear'} axle is off the ground"
    if code == "tongue.share_min":
        return "the share is below the least"
    if code == "tongue.share_max":
        return "the share is above the most"
    return f"{label(code, names, unit)} is passed"


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
            for code in (BALL_SIZE, low)
            for check in report.checks
            if check.code == code and check.status is Status.OVER
        ]
        passed = over[0] if over else None
        return "" if passed is None else fault(passed, report, names, unit)
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
    if is_light(code):
        return f"the truck's {'front' if 'front' in code else 'rear'} axle lifts off"
    rated = f"{label(code, names, unit)} is passed"
    return {
        "deck.front": "it runs past the front of the deck",
        "deck.rear": "it runs past the tail of the deck",
        "tongue.share_min": f"the {word} falls below {least * 100:g} %",
        "tongue.share_max": f"the {word} passes {greatest * 100:g} %",
    }.get(code, rated)
