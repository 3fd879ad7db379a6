"""Every figure of the planner opened into its arithmetic for this haul, term by term.

A figure is a :class:`Figure`: its code, its heading, what it is made of. The ones of loads
and places stand in :data:`FIGURES`; a view of a haul that has figures of its own brings
them along.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Final

from measures.marks import STEPS, write_ends, write_place
from measures.writing import UnitSystem, write_length, write_mass, write_percent
from mechanics.item import Item
from mechanics.report import Report
from mechanics.standing import best_standing
from wording.arithmetic import STATICS, Reason, Term, Why
from wording.limit_arithmetic import (
    carried_by_truck,
    school_source,
    shared_by_axles,
    whole_trailer,
)
from wording.limits import label, why
from wording.phrases import NOT_KNOWN, begun, names_of, signed_mass, tongue_word, within
from wording.places import place_words
from wording.sentences import STEP_M, STEP_WORDS


@dataclass(frozen=True, kw_only=True)
class Figure:
    """A figure that can be opened.

    ``code`` names it; with ``{}`` it stands for several, numbered from one, and ``count``
    says how many a report has. ``title`` may hold ``{Word}`` (tongue or pin), ``{number}``
    and ``{name}`` (of the item of that number). ``make`` gets the number, 0 for a single one.
    """

    code: str
    title: str
    make: Callable[[Report, UnitSystem, int], Why]
    count: Callable[[Report], int] | None = None

    def codes(self, report: Report) -> list[str]:
        """The codes that a report has of it."""
        if self.count is None:
            return [self.code]
        return [self.code.format(n) for n in range(1, self.count(report) + 1)]

    def number(self, code: str) -> int | None:
        """Which one of it a code asks for; ``None`` where it is another figure's code."""
        if self.count is None:
            return 0 if code == self.code else None
        match = re.fullmatch(re.escape(self.code).replace(r"\{\}", r"([1-9]\d*)"), code)
        return None if match is None else int(match[1])

    def reason(self, code: str, report: Report, unit: UnitSystem) -> Reason | None:
        """Its arithmetic under a code; ``None`` where the report has no such one."""
        number = self.number(code)
        if number is None or (self.count is not None and number > self.count(report)):
            return None
        items = report.plan.items
        title = self.title.format(
            Word=begun(tongue_word(report.plan.hitch.type)),
            number=number,
            name=items[number - 1].called if 0 < number <= len(items) else "",
        )
        return Reason(code=code, title=title, why=self.make(report, unit, number))


def reason(code: str, report: Report, unit: UnitSystem, figures: Iterable[Figure]) -> Reason | None:
    """The arithmetic behind a figure or a limit; ``None`` for a code that nothing has."""
    for figure in figures:
        found = figure.reason(code, report, unit)
        if found is not None:
            return found
    check = report.check(code)
    if check is None:
        return None
    title = label(code, names_of(report.plan), unit)
    return Reason(code=code, title=title, why=why(check, report, unit))


def all_reasons(report: Report, unit: UnitSystem, figures: Iterable[Figure]) -> list[Reason]:
    """Every figure and every limit, figures first, those of which there are several last."""
    figures = sorted(figures, key=lambda figure: figure.count is not None)
    codes = [code for figure in figures for code in figure.codes(report)]
    # limits of place are repeated for each item under one code
    codes += list(dict.fromkeys(c.code for c in report.checks if c.item is None))
    found = (reason(code, report, unit, figures) for code in codes)
    return [one for one in found if one is not None]


def _lever_words(item: Item, report: Report, unit: UnitSystem) -> str:
    at = report.plan.trailer.deck.start_m + item.balance_tape_m
    lever = report.plan.trailer.couple_lever_m
    return (
        f"{write_mass(item.mass_kg, unit)} balances {write_length(at, unit)} behind the coupler, "
        f"the axles stand {write_length(lever, unit)} behind it"
    )


def _tongue(report: Report, unit: UnitSystem, number: int) -> Why:
    trailer = report.loads.trailer
    lever, start = report.plan.trailer.couple_lever_m, report.plan.trailer.deck.start_m
    empty = write_mass(trailer.empty_tongue_kg, unit)
    terms = [Term(name="trailer's empty tongue", amount=empty)]
    for item in report.plan.items:
        part = item.mass_kg * (1 - (start + item.balance_tape_m) / lever)
        name = f"{item.called}: {_lever_words(item, report, unit)}"
        terms.append(Term(name=name, amount=signed_mass(part, unit)))
    if trailer.couple_kg_m:
        source = "Before the spring bars act. " + STATICS
    else:
        source = "Each load's mass times its lever to the axles over theirs to the coupler. "
        source += STATICS
    return Why(terms=terms, total=write_mass(trailer.tongue_kg, unit), limit="", source=source)


def _share(report: Report, unit: UnitSystem, number: int) -> Why:
    trailer = report.loads.trailer
    word = tongue_word(report.plan.hitch.type)
    least, greatest = report.plan.share_range
    return Why(
        terms=[
            Term(name=f"{word} weight", amount=write_mass(trailer.tongue_kg, unit)),
            Term(name="over the loaded trailer", amount=write_mass(trailer.mass_kg, unit)),
        ],
        total=write_percent(trailer.share),
        limit=f"{least * 100:g} to {greatest * 100:g} %",
        source=school_source(report),
    )


def _added(report: Report, unit: UnitSystem, number: int) -> Why:
    trailer = report.loads.trailer
    gained = trailer.tongue_kg - trailer.empty_tongue_kg
    share = trailer.added_share
    return Why(
        terms=[
            Term(name="what the load adds to the tongue", amount=write_mass(gained, unit)),
            Term(name="over the load's own mass", amount=write_mass(trailer.items_mass_kg, unit)),
        ],
        total="nothing is on it" if share is None else write_percent(share),
        limit="",
        source="A yard rule asks for 10 to 15 %. Common practice, no source.",
    )


def _inch(report: Report, unit: UnitSystem, number: int) -> Why:
    if not report.plan.items:
        return Why(terms=[], total="nothing is on it", limit="", source=STATICS)
    heavy = max(report.plan.items, key=lambda i: i.mass_kg)
    lever = report.plan.trailer.couple_lever_m
    over = f"times {STEP_WORDS[unit]} over the axles' lever"
    return Why(
        terms=[
            Term(name=heavy.called, amount=write_mass(heavy.mass_kg, unit)),
            Term(name=over, amount=write_length(lever, unit)),
        ],
        total=write_mass(heavy.mass_kg * STEP_M[unit] / lever, unit),
        limit="",
        source="The same wherever it stands: the tongue grows evenly with the place. " + STATICS,
    )


def _axle(report: Report, unit: UnitSystem, number: int) -> Why:
    trailer, plan = report.loads.trailer, report.plan
    limit = plan.trailer.axles[number - 1].limit_kg
    return Why(
        terms=[
            Term(name="loaded trailer", amount=write_mass(trailer.mass_kg, unit)),
            carried_by_truck(report, unit),
            shared_by_axles(report),
        ],
        total=write_mass(trailer.axles_kg[number - 1], unit),
        limit=NOT_KNOWN if limit is None else write_mass(limit, unit),
        source="Equalized springs share alike; independent ones by how far each is pressed. "
        "The lesser of axle and tire rating is the limit.",
    )


def _front(report: Report, unit: UnitSystem, number: int) -> Why:
    plan = report.plan
    return _truck_axle(
        report,
        unit,
        own=plan.truck.front_axle_mass_kg,
        lever=-plan.truck.hitch_offset_m,
        share=lambda ahead: ahead,
        bars=1,
        total=report.loads.truck.front_kg,
        limit=plan.truck.front_gawr_kg,
    )


def _rear(report: Report, unit: UnitSystem, number: int) -> Why:
    plan = report.plan
    return _truck_axle(
        report,
        unit,
        own=plan.truck.rear_axle_mass_kg,
        lever=plan.truck.wheelbase_m + plan.truck.hitch_offset_m,
        share=lambda ahead: 1 - ahead,
        bars=-1,
        total=report.loads.truck.rear_kg,
        limit=plan.truck.rear_gawr_kg,
    )


def _truck_axle(
    report: Report,
    unit: UnitSystem,
    *,
    own: float,
    lever: float,
    share: Callable[[float], float],
    bars: int,
    total: float,
    limit: float | None,
) -> Why:
    """An axle of the truck: ``lever`` is the hitch's arm about the other axle, ``share`` what it
    takes of a mass that stands so many wheelbases ahead of the rear axle."""
    plan, truck = report.plan, report.loads.truck
    word = tongue_word(plan.hitch.type)
    wheelbase, offset = plan.truck.wheelbase_m, plan.truck.hitch_offset_m
    terms = [Term(name="empty truck", amount=write_mass(own, unit))]
    for cargo in plan.truck.cargo:
        part = cargo.mass_kg * share(cargo.ahead_of_rear_axle_m / wheelbase)
        terms.append(Term(name=cargo.name or "load", amount=signed_mass(part, unit)))
    if plan.hitch.mass_kg:
        part = plan.hitch.mass_kg * lever / wheelbase
        terms.append(Term(name="hitch hardware", amount=signed_mass(part, unit)))
    name = (
        f"{word} of {write_mass(truck.handed_kg, unit)}, {write_length(abs(offset), unit)} "
        f"{'behind' if offset >= 0 else 'ahead of'} the rear axle, wheelbase "
        f"{write_length(wheelbase, unit)}"
    )
    terms.append(Term(name=name, amount=signed_mass(truck.handed_kg * lever / wheelbase, unit)))
    if truck.couple_kg_m:
        part = truck.couple_kg_m / wheelbase * bars
        terms.append(Term(name="spring bars", amount=signed_mass(part, unit)))
    return Why(
        terms=terms,
        total=write_mass(total, unit),
        limit=NOT_KNOWN if limit is None else write_mass(limit, unit),
        source="Axle rating from the door sticker. " + STATICS,
    )


def _trailer_mass(report: Report, unit: UnitSystem, number: int) -> Why:
    gvwr = report.plan.trailer.gvwr_kg
    return Why(
        terms=whole_trailer(report, unit),
        total=write_mass(report.loads.trailer.mass_kg, unit),
        limit=NOT_KNOWN if gvwr is None else write_mass(gvwr, unit),
        source="Maker's plate.",
    )


def _place(report: Report, unit: UnitSystem, number: int) -> Why:
    index, names = number - 1, names_of(report.plan)
    window = report.windows[index]
    terms = []
    for piece in window.intervals:
        low, high = write_ends(piece.start_m, piece.end_m, unit)
        starts, ends = (
            within(label(code, names, unit)) for code in (piece.start_limit, piece.end_limit)
        )
        terms.append(Term(name=f"right from {starts}", amount=low))
        terms.append(Term(name=f"to {ends}", amount=high))
    for piece in window.sure:
        low, high = write_ends(piece.start_m, piece.end_m, unit)
        terms.append(Term(name="sure for every figure as known", amount=f"{low} to {high}"))
    best = best_standing(report.plan, index, STEPS[unit])
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


FIGURES: Final = (
    Figure(code="figure.tongue", title="{Word} weight", make=_tongue),
    Figure(code="figure.share", title="{Word} share", make=_share),
    Figure(code="figure.added", title="Added share", make=_added),
    Figure(code="figure.inch", title="What one small step forward adds", make=_inch),
    Figure(code="figure.trailer", title="Loaded trailer", make=_trailer_mass),
    Figure(code="figure.front", title="Truck front axle", make=_front),
    Figure(code="figure.rear", title="Truck rear axle", make=_rear),
    Figure(
        code="figure.axle_{}",
        title="Trailer axle {number}",
        make=_axle,
        count=lambda report: len(report.plan.trailer.axles),
    ),
    Figure(
        code="figure.place_{}",
        title="Where {name} may stand",
        make=_place,
        count=lambda report: len(report.plan.items),
    ),
)
"""Figures of loads and places."""
