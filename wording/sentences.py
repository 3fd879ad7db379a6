"""The sentence on top of the planner, and what to do about what is wrong."""

from __future__ import annotations

import math
from dataclasses import dataclass

from measures.marks import STEPS, write_ends, write_place
from measures.writing import (
    UnitSystem,
    write_excess,
    write_length,
    write_mass,
    write_percent,
)
from mechanics.aim_band import aim_band
from mechanics.checks import Check, Status
from mechanics.codes import Family
from mechanics.limits import Quantity
from mechanics.report import Report
from mechanics.standing import Standing, best_standing, is_sure
from mechanics.units import M_PER_IN
from wording.inputs import missing_words
from wording.limits import Telling, beyond_words, fault, label, light_words, passed_words
from wording.phrases import Names, begun, tongue_word, within
from wording.places import place_words

STEP_M = {UnitSystem.US: M_PER_IN, UnitSystem.METRIC: 0.025}
"""The step that a gain of the tongue is told for."""

STEP_WORDS = {UnitSystem.US: "1 in", UnitSystem.METRIC: "25 mm"}


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
    names: Names,
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
    step = "An inch" if unit is UnitSystem.US else STEP_WORDS[unit]
    gain = item.mass_kg / report.plan.trailer.couple_lever_m * STEP_M[unit]
    word = tongue_word(report.plan.hitch.type)
    second = (
        f"{step} forward adds {write_mass(gain, unit)} to the {word}. {_tightest(report, unit)}"
    )
    place = place_words(report, index, unit)
    faults = faults_of(report)
    against = Family.NEIGHBOUR.of(item.id)
    own = [c for c in faults if c.item in (None, item.id) or c.code == against]
    guessed = bool(own) and all(c.code in report.unsettled for c in own)
    telling = Telling.of(report.plan, unit, names, tail)
    after = "behind the headboard."
    if own:
        return Sentence(
            before=f"{'Better do not' if guessed else 'Do not'} stop with the {mark}",
            figure=place,
            after=after,
            second=" ".join(fault(c, telling) for c in own[:2]),
            advice=way_out(report, index, mark, names, unit),
        )
    unknown = [c for c in report.checks if c.status is Status.UNKNOWN]
    if faults or unknown:
        right = bool(report.windows[index].intervals) and report.plan.estimated
        if faults:
            first = fault(faults[0], Telling.of(report.plan, unit, names))
            advice = f"Another machine needs a look: {first}"
        else:
            lacking = ", ".join(missing_words(c.missing[0], unit) for c in unknown)
            advice = f"Cannot say all is well: {lacking} is not known."
            if right:
                advice = f"{_as_estimated(report, index, unit)} {advice}".strip()
        return Sentence(
            before=_likely_right(mark) if right and not faults else f"As it stands: {mark} at",
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
    if report.plan.estimated:
        return Sentence(
            before=_likely_right(mark),
            figure=place,
            after=after,
            second=second,
            advice=_as_estimated(report, index, unit),
        )
    return Sentence(
        before=f"As entered it is ok with the {mark}",
        figure=place,
        after=after,
        second=second,
        advice=_not_sure(report, index, unit, settles),
    )


def _likely_right(mark: str) -> str:
    """What is said before a place that is right for the figures as they are estimated."""
    return f"Likely right with the {mark} at about"


def _as_estimated(report: Report, index: int, unit: UnitSystem) -> str:
    """Between which marks the best place lies, of a plan that rests on estimates."""
    found = aim_band(report.plan, index)
    if found is None:
        return ""
    aim = report.windows[index].aim_m
    ends = [found.foremost_m, found.rearmost_m, *([] if aim is None else [aim])]
    step = STEPS[unit][0]
    first, last = (
        write_place(way(end / step) * step, unit)
        for way, end in ((math.floor, min(ends)), (math.ceil, max(ends)))
    )
    return f"The best place lies between {first} and {last}, by figures that are estimates."


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


def summary(report: Report, names: Names, unit: UnitSystem) -> str:
    """One line on a haul: what is passed, else what is not known, else what is tightest."""
    faults = faults_of(report)
    if faults:
        return fault(faults[0], Telling.of(report.plan, unit, names))
    for check in report.checks:
        if check.status is Status.UNKNOWN:
            return f"{begun(missing_words(check.missing[0], unit))} is not known."
    return _tightest(report, unit)


def faults_of(report: Report) -> list[Check]:
    """What is over, places on the deck first, then what is passed by the largest part."""
    over = [c for c in report.checks if c.status is Status.OVER]
    return sorted(
        over,
        key=lambda c: (
            c.quantity is not Quantity.LENGTH,
            c.about.family is not Family.TRUCK_LIGHT,
            0.0 if c.reserve is None else c.reserve,
        ),
    )


def _tongue_now(report: Report, unit: UnitSystem) -> str:
    word = tongue_word(report.plan.hitch.type).capitalize()
    tongue = report.loads.trailer
    return f"{word} {write_mass(tongue.tongue_kg, unit)}, {write_percent(tongue.share)}"


def tightest_of(report: Report) -> Check | None:
    """The rating of which the least part is left; ``None`` where none is known."""
    rated = [
        (room, c)
        for c in report.checks
        if c.quantity is Quantity.MASS
        and c.margin is not None
        # an axle with enough on the ground is nobody's tightest limit
        and not (c.about.family is Family.TRUCK_LIGHT and c.status is Status.OK)
        and (room := c.room_left) is not None
    ]
    return min(rated, key=lambda pair: pair[0])[1] if rated else None


def _tightest(report: Report, unit: UnitSystem) -> str:
    tightest = tightest_of(report)
    if tightest is None:
        return ""
    name = within(label(tightest.code, unit=unit))
    if tightest.about.family is Family.TRUCK_LIGHT:
        return f"Tightest: {light_words(tightest, unit)}"
    margin = tightest.margin or 0.0
    words = "left" if margin >= 0 else "over"
    amount = write_mass(margin, unit) if margin >= 0 else write_excess(margin, unit)
    return f"Tightest: {name}, {amount} {words}."


def kept_places(report: Report, marks: Names, unit: UnitSystem) -> list[str]:
    """What to say of items that kept their place on another outfit, where another is better."""
    found = []
    for index, item in enumerate(report.plan.items):
        best = best_standing(report.plan, index, STEPS[unit])
        if best is None or abs(best.at_m - item.placement.reference_m) < M_PER_IN:
            continue
        words = "its best place is" if best.right else "the best of what can hold is"
        at = f"{marks[item.id]} at {_at(best, unit)}"
        found.append(f"{item.called} kept its place. Here {words} {at}.")
    return found


def way_out(report: Report, index: int, mark: str, names: Names, unit: UnitSystem) -> str:
    """What to do about an item that does not stand right."""
    item, window = report.plan.items[index], report.windows[index]
    best = best_standing(report.plan, index, STEPS[unit])
    if window.aim_m is not None and best is not None:
        return f"{_move(item.placement.reference_m, best, unit)}: {mark} at {_at(best, unit)}."
    if window.contradiction is None:
        return ""
    low, high = window.contradiction
    if Family.BALL_SIZE.of() in (low, high):
        return "Do not couple it."
    telling = Telling.of(report.plan, unit, names)
    if low == high:
        words = f"No place on this deck helps: {passed_words(low, telling)} wherever it stands."
    else:
        words = f"No place on this deck is right: {_both_ways(low, high, telling)}."
    if best is None:
        return words
    held = (
        "Best for the share and what can hold"
        if best.holds
        else "Least wrong for the share and the limits that can hold"
    )
    here = abs(best.at_m - item.placement.reference_m) < 0.5 * M_PER_IN
    return f"{words} {held}: {'where it stands' if here else _at(best, unit)}."


def _both_ways(low: str, high: str, telling: Telling) -> str:
    """What goes wrong further forward and further back."""
    return (
        f"further forward {beyond_words(low, telling)}, further back {beyond_words(high, telling)}"
    )


def _at(best: Standing, unit: UnitSystem) -> str:
    return write_place(best.at_m, unit)


def _move(now_m: float, best: Standing, unit: UnitSystem) -> str:
    move = best.at_m - now_m
    return f"Move it {'back' if move > 0 else 'forward'} {write_length(abs(move), unit, step=2)}"


def why_no_place(report: Report, index: int, names: Names, unit: UnitSystem) -> str:
    """What keeps an item from having any place on the deck; empty where it has one."""
    contradiction = report.windows[index].contradiction
    if contradiction is None:
        return ""
    low, high = contradiction
    telling = Telling.of(report.plan, unit, names)
    if low != high:
        return f"No place is right: {_both_ways(low, high, telling)}."
    # a ball that can jump off comes before any rating
    over = [
        check
        for code in (Family.BALL_SIZE.of(), low)
        for check in report.checks
        if check.code == code and check.status is Status.OVER
    ]
    return fault(over[0], telling) if over else ""
