"""The trailer's frame as a beam, in words and as a diagram."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Final

from measures import ReadingError, read_length
from measures.writing import UnitSystem, write_length, write_mass, write_number, write_percent
from mechanics.frame import FrameUse, concentration, frame_use
from mechanics.plan import Plan
from mechanics.report import Report
from wording.arithmetic import STATICS, Term, Why

WORTH_SAYING: Final = 0.05
"""A footprint that uses the frame by this much more than its mass suggests is worth saying."""

CALLS_FOR_A_LOOK: Final = 0.9
"""Part of the rated load's bending above which reserve is short, as with any rating."""


@dataclass(frozen=True, kw_only=True, slots=True)
class FrameWords:
    """What is said of the frame: in one line, at more length, and what was assumed."""

    line: str
    sentence: str
    spread: str
    status: str
    share: str


@lru_cache(maxsize=512)
def frame_words(plan: Plan, unit: UnitSystem) -> FrameWords:
    """The words for a plan's frame."""
    return words_for(plan, frame_use(plan), unit)


def words_for(plan: Plan, use: FrameUse, unit: UnitSystem) -> FrameWords:
    """The words for a frame that has been computed."""
    if not plan.items:
        return FrameWords(line="Nothing on it.", sentence="", spread="", status="ok", share="")
    at, peak = use.peak
    if use.share_of_rated is None or use.mass_share is None:
        return FrameWords(
            line="Cannot say: without the trailer's rating there is nothing to compare with.",
            sentence="",
            spread=_spread(plan, use),
            status="unknown",
            share="",
        )
    share, mass = use.share_of_rated, use.mass_share
    bends = "sags" if peak > 0 else "is bent over its axles"
    line = f"Frame {bends} {write_percent(share)} as much as its rated load spread over the deck."
    sentence = f"It {bends} most {along_frame(at - plan.trailer.deck.start_m, unit)}."
    if use.unrated_way:
        other = "over its axles" if peak > 0 else "down between them"
        sentence += f" It is also bent {other}, which its rated load spread evenly never does."
    if share > mass + WORTH_SAYING:
        sentence += (
            f" The load is {write_percent(mass)} of what the trailer may carry, and bends the "
            f"frame as much as {write_percent(share)}: a small, heavy footprint."
        )
    return FrameWords(
        line=line,
        sentence=sentence,
        spread=_spread(plan, use),
        # no maker's limit is passed, so it is never over: it calls for a look
        status="near" if share > CALLS_FOR_A_LOOK or use.unrated_way else "ok",
        share=write_percent(share),
    )


def along_frame(tape_m: float, unit: UnitSystem) -> str:
    """A place on the frame by the tape, which begins at the headboard."""
    side = "ahead of" if tape_m < 0 else "behind"
    return f"{write_length(abs(tape_m), unit, step=1)} {side} the headboard"


def _spread(plan: Plan, use: FrameUse) -> str:
    names = [plan.item(i).called for i in use.spread_items]
    if not names:
        return ""
    outside = [i for i in use.spread_items if plan.item(i).contacts]
    words = (
        f"Where {' and '.join(names)} stand{'s' if len(names) == 1 else ''} on the floor is not "
        "known: the mass is spread over its length, which is kinder to the frame than wheels."
    )
    if outside:
        tipping = " and ".join(plan.item(i).called for i in outside)
        words += f" {tipping} balances outside its wheels: are wheelbase and mark right?"
    return words


def bending_words(kg_m: float, unit: UnitSystem) -> str:
    """A bending moment in pounds-feet of mass, or kilogram-metres."""
    if unit is UnitSystem.US:
        return f"{write_number(kg_m / unit.kg / 0.3048)} lb ft"
    return f"{write_number(kg_m)} kg m"


@dataclass(frozen=True, kw_only=True, slots=True)
class Within:
    """The largest mass within one length of deck."""

    length: str
    mass: str
    begins: str
    figure: str


def within_lengths(plan: Plan, lengths: Sequence[float], unit: UnitSystem) -> list[Within]:
    """The largest mass within each length, against the maker's figure where it is for that."""
    figure = plan.trailer.deck.concentration
    found = []
    for length in lengths:
        mass, begins = concentration(plan, length)
        against = ""
        if figure is not None and abs(figure.length_m - length) < 1e-6:
            left = figure.mass_kg - mass
            words = "left" if left >= 0 else "over"
            against = (
                f"maker's figure {write_mass(figure.mass_kg, unit)}: "
                f"{write_mass(abs(left), unit)} {words}"
            )
        found.append(
            Within(
                length=write_length(length, unit),
                mass=write_mass(mass, unit),
                begins=write_length(max(begins, 0.0), unit, step=1),
                figure=against,
            )
        )
    return found


LENGTHS: Final = {
    UnitSystem.US: (1.2192, 1.8288, 2.4384),
    UnitSystem.METRIC: (1.2, 1.8, 2.4),
}
"""Lengths of deck that are looked at unasked: 4, 6 and 8 ft, or about as much in metres."""


def length_rows(plan: Plan, typed: str, unit: UnitSystem) -> tuple[list[Within], str, str]:
    """The table of lengths, with the one typed first; what was typed, and what is wrong."""
    typed = typed.strip()[:40]
    wanted: list[float] = []
    wrong = ""
    if typed:
        try:
            length = float(read_length(typed, unit.length_unit).si)
        except ReadingError as error:
            wrong = str(error)
        else:
            if length > 0:
                wanted.append(length)
            else:
                wrong = "A length of deck is more than nothing."
    figure = plan.trailer.deck.concentration
    if figure is not None:
        wanted.append(figure.length_m)
    wanted += LENGTHS[unit]
    # a length that was entered in inches and one in feet are one length
    apart = list({round(length, 4): length for length in wanted}.values())
    return within_lengths(plan, apart, unit), typed, wrong


def frame_figure(report: Report, unit: UnitSystem, number: int) -> Why:
    """Bending of the frame, opened into its arithmetic."""
    use = frame_use(report.plan)
    start = report.plan.trailer.deck.start_m

    def term(words: str, at: float, moment: float) -> Term:
        return Term(name=f"{words}, {along_frame(at - start, unit)}", amount=_way(moment, unit))

    terms = [term("largest bending that way", *use.peak)]
    if use.rated_peak is not None:
        terms.append(term("with the rated load spread over the deck", *use.rated_peak))
    share = use.share_of_rated
    return Why(
        terms=terms,
        total="cannot say" if share is None else write_percent(share),
        limit="",
        source="The trailer as a beam on coupler and axles, its own weight counted in both; "
        "sagging against sagging, bending over the axles against the same. " + STATICS,
    )


def _way(kg_m: float, unit: UnitSystem) -> str:
    """A bending moment with the way it bends."""
    return f"{bending_words(abs(kg_m), unit)}, {'sagging' if kg_m > 0 else 'over the axles'}"
