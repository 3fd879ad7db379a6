"""The gauge coach: from live readings of the tongue to "back up so far" and "stop".

``dx = (T - T_target) Lc / m``, positive rearward on the trailer. Mass, balance point and
empty tongue are the plan's, corrected by what the gauge has shown at places that were
taped. Readings lag and come in steps, so the tongue now is read off a line through the
last second and carried forward by the gauge's lag.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import Enum
from typing import Final

from mechanics.fit import Belief, Fitted, Seen, What, fit
from mechanics.item import Facing
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.scales import HITCH_GAUGE
from mechanics.units import KG_PER_LB, M_PER_IN

LOOKED_BACK_S: Final = 1.6
"""Readings of this long make the line; a creeping machine hardly changes its speed in it, and
a gauge's steps make less of a slope the longer it is."""

REACTION_S: Final = 0.5
"""From "stop" on the page to the machine standing. Common practice, no source."""

LEAST_DOUBT: Final = 1e-3
"""Part of a figure by which it stays in doubt in a fit, whatever the book says."""

LEVER_DOUBT_M: Final = 0.5 * M_PER_IN
"""Standard error of a taped axle place. Common practice, no source."""

ERRORS: Final = 2.0
"""A tolerance is taken as so many standard errors. Common practice, no source."""

WEIGHED_KG: Final = 15.0
"""Mass in doubt by less than this, or by :data:`WEIGHED_PART` of itself, came off a scale: a
step of a vehicle scale either way (NIST Handbook 44, from memory)."""

WEIGHED_PART: Final = 0.015

TAPED_M: Final = 1.5 * M_PER_IN
"""A balance point in doubt by less came off two weighed axles. Common practice, no source."""

POUNDS_IN_KILOGRAM: Final = 1 / KG_PER_LB


class Move(Enum):
    """What to do next. Rearward and forward are along the trailer."""

    REARWARD = "rearward"
    FORWARD = "forward"
    STOP = "stop"
    NO_PLACE = "no_place"
    WAIT = "wait"


@dataclass(frozen=True, kw_only=True, slots=True)
class Shown:
    """One reading of the gauge: seconds on one clock, mass in kg, whether at its rating."""

    at_s: float
    kg: float
    saturated: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class Gauge:
    """What is known of the gauge itself: step and lag of its readings."""

    step_kg: float = HITCH_GAUGE.step_kg
    lag_s: float = 0.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Band:
    """The tongue at the window's two ends and at the aim, in kg; ``None`` aim: no place.

    ``sure`` says that the band is the sure window's. ``kg_per_m`` is what the tongue loses
    for every metre rearward. ``least_kg`` and ``most_kg`` are the tongue with the item at
    either end of the deck: beyond them no place explains a reading.
    """

    target_kg: float | None
    low_kg: float
    high_kg: float
    sure: bool
    kg_per_m: float
    least_kg: float
    most_kg: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Advice:
    """What the coach says: the move and its length in m, and the tongue it goes by."""

    move: Move
    by_m: float
    now_kg: float
    rate_kg_s: float
    settled: bool
    at_least: bool = False


def band(plan: Plan, index: int, gauge: Gauge | None = None) -> Band:
    """The tongue band of an item's window. The sure window where there is one.

    With a ``gauge`` the target keeps a step and a half from the band's ends, or a third of
    a narrow band: the aim may lie at an end, where a coarse gauge cannot keep anybody.
    """
    item, deck = plan.items[index], plan.trailer.deck
    lever = plan.trailer.couple_lever_m
    per_m = item.mass_kg / lever
    here = item.placement.reference_m
    tongue = compute_loads(plan).trailer.tongue_kg

    def at(reference_m: float) -> float:
        return tongue - per_m * (reference_m - here)

    window = evaluate(plan).windows[index]
    aim = window.aim_m
    pieces = [
        (piece, sure)
        for sure, found in ((True, window.sure), (False, window.intervals))
        for piece in found
        if aim is not None and piece.start_m - 1e-6 <= aim <= piece.end_m + 1e-6
    ]
    edges = at(deck.length_m), at(0.0)
    if aim is None or not pieces:
        return Band(
            target_kg=None,
            low_kg=0.0,
            high_kg=0.0,
            sure=False,
            kg_per_m=per_m,
            least_kg=edges[0],
            most_kg=edges[1],
        )
    piece, sure = pieces[0]
    low, high = at(piece.end_m), at(piece.start_m)
    room = 0.0 if gauge is None else min(1.5 * gauge.step_kg, (high - low) / 3)
    return Band(
        target_kg=min(max(at(aim), low + room), high - room),
        low_kg=low,
        high_kg=high,
        sure=sure,
        kg_per_m=per_m,
        least_kg=edges[0],
        most_kg=edges[1],
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class Taped:
    """A settled reading at a taped place; ``reference_m`` on the deck tape, ``None`` for
    the trailer before the item was on it."""

    kg: float
    reference_m: float | None
    facing: Facing = Facing.FORWARD


def corrected(plan: Plan, index: int, taped: Sequence[Taped], gauge: Gauge) -> tuple[Plan, Fitted]:
    """The plan with the moved item's mass and balance point, and the empty tongue, as the
    taped readings and the plan together say.

    Tolerances shrink to two standard errors where that is less, and never grow.

    Raises:
        InputError: no reading was given.
    """
    item, trailer = plan.items[index], plan.trailer
    start = trailer.deck.start_m
    others = [i for i in plan.items if i is not item]
    beside = sum(i.mass_kg for i in others)
    moment = sum(i.mass_kg * (start + i.balance_tape_m) for i in others)
    readings = []
    for one in taped:
        # half a step either way, evenly spread, and the gauge's own part
        doubt = max(gauge.step_kg / 2 / 3**0.5, 0.005 * abs(one.kg), 0.5)
        if one.reference_m is None:
            readings.append(Seen(what=What.TONGUE_EMPTY, kg=one.kg, doubt=doubt))
        else:
            readings.append(
                Seen(
                    what=What.TONGUE_LOADED,
                    kg=one.kg,
                    doubt=doubt,
                    mark_m=start + one.reference_m,
                    direction=-1 if one.facing is Facing.FORWARD else 1,
                    beside_kg=beside,
                    beside_moment_kg_m=moment,
                )
            )
    found = fit(readings, belief_of(plan, index))
    mass, mass_error = found.estimate("machine")
    ahead, ahead_error = found.estimate("ahead")
    tongue, tongue_error = found.estimate("tongue")
    cg = replace(
        item.cg,
        ahead_m=ahead,
        ahead_tolerance_m=min(item.cg.ahead_tolerance_m, ERRORS * ahead_error),
    )
    better = replace(
        item,
        mass_kg=max(mass, 1.0),
        mass_tolerance_kg=min(item.mass_tolerance_kg, ERRORS * mass_error),
        cg=cg,
    )
    items = tuple(better if i is item else i for i in plan.items)
    lighter = replace(
        trailer,
        empty_tongue_mass_kg=tongue,
        empty_tongue_mass_tolerance_kg=min(
            trailer.empty_tongue_mass_tolerance_kg, ERRORS * tongue_error
        ),
    )
    return replace(plan.carrying(items), trailer=lighter), found


def belief_of(plan: Plan, index: int) -> Belief:
    """What a plan says of a trailer and one item, its tolerances as two standard errors.

    A plan does not say how a figure is known; one with little doubt counts as measured.
    """
    item, trailer = plan.items[index], plan.trailer

    def doubt(tolerance: float, value: float) -> float:
        return max(tolerance / ERRORS, LEAST_DOUBT * abs(value), LEAST_DOUBT)

    def weighed(tolerance: float, value: float) -> bool:
        return tolerance <= max(WEIGHED_KG, WEIGHED_PART * value)

    mass, tongue = trailer.empty_mass_kg, trailer.empty_tongue_mass_kg
    measured = {"lever"}
    if weighed(trailer.empty_mass_tolerance_kg, mass):
        measured.add("trailer")
    if weighed(trailer.empty_tongue_mass_tolerance_kg, tongue):
        measured.add("tongue")
    if weighed(item.mass_tolerance_kg, item.mass_kg):
        measured.add("machine")
    if item.cg.ahead_tolerance_m <= TAPED_M:
        measured.add("ahead")
    return Belief(
        trailer=(mass, doubt(trailer.empty_mass_tolerance_kg, mass)),
        tongue=(tongue, doubt(trailer.empty_tongue_mass_tolerance_kg, tongue)),
        machine=(item.mass_kg, doubt(item.mass_tolerance_kg, item.mass_kg)),
        ahead=(item.cg.ahead_m, doubt(item.cg.ahead_tolerance_m, item.cg.ahead_m)),
        lever=(trailer.couple_lever_m, LEVER_DOUBT_M),
        measured=frozenset(measured),
    )


def line_through(readings: Sequence[Shown]) -> tuple[float, float]:
    """Mass and its rate per second at the last reading, by least squares over the last ones.

    Raises:
        IndexError: there is no reading.
    """
    last = readings[-1]
    recent = [r for r in readings if last.at_s - r.at_s <= LOOKED_BACK_S]
    count = len(recent)
    mean_t = sum(r.at_s for r in recent) / count
    mean = sum(r.kg for r in recent) / count
    spread = sum((r.at_s - mean_t) ** 2 for r in recent)
    if count < 4 or spread < 0.05:
        return last.kg, 0.0
    rate = sum((r.at_s - mean_t) * (r.kg - mean) for r in recent) / spread
    return mean + rate * (last.at_s - mean_t), rate


def is_settled(readings: Sequence[Shown], gauge: Gauge) -> bool:
    """Whether the readings have stood for a second: noise may carry them over a step's edge
    to either side, but they do not run away."""
    last = readings[-1]
    recent = [r for r in readings if last.at_s - r.at_s <= LOOKED_BACK_S]
    span = last.at_s - recent[0].at_s
    kept = max(r.kg for r in recent) - min(r.kg for r in recent) <= 2.01 * gauge.step_kg
    _, rate = line_through(readings)
    # of noise and steps alone the line's slope passes this once in some hundred readings
    return span >= 0.75 * LOOKED_BACK_S and kept and abs(rate) <= 0.75 * gauge.step_kg


def mean_of_settled(readings: Sequence[Shown]) -> float:
    """The mean of the last readings: finer than a step where noise carries it over the edge."""
    last = readings[-1]
    recent = [r.kg for r in readings if last.at_s - r.at_s <= LOOKED_BACK_S]
    return sum(recent) / len(recent)


def advise(readings: Sequence[Shown], target: Band, gauge: Gauge) -> Advice:
    """What to do next, from the readings so far, the newest last.

    "Stop" comes early by the gauge's lag and a person's reaction, so that the machine
    stands inside the band and not past it. A machine that stands anywhere in the band, half
    a step inside it where there is room, is told to stay.
    """
    if not readings:
        return Advice(move=Move.WAIT, by_m=0.0, now_kg=0.0, rate_kg_s=0.0, settled=False)
    last = readings[-1]
    settled = is_settled(readings, gauge)
    kg, rate = (mean_of_settled(readings), 0.0) if settled else line_through(readings)
    now = kg + rate * gauge.lag_s
    if target.target_kg is None:
        return Advice(move=Move.NO_PLACE, by_m=0.0, now_kg=now, rate_kg_s=rate, settled=settled)
    by = (now - target.target_kg) / target.kg_per_m
    if last.saturated:
        # it shows no more than its rating: the true tongue may be anything above
        move = Move.REARWARD if by > 0 else Move.WAIT
        return Advice(move=move, by_m=by, now_kg=now, rate_kg_s=0.0, settled=settled, at_least=True)
    soon = now + rate * REACTION_S
    if _stop(soon, target, gauge, settled=settled):
        move = Move.STOP
    else:
        move = Move.REARWARD if by > 0 else Move.FORWARD
    return Advice(move=move, by_m=by, now_kg=now, rate_kg_s=rate, settled=settled)


def _stop(kg: float, target: Band, gauge: Gauge, *, settled: bool) -> bool:
    """Whether a machine whose tongue will be so much has to stop, or may stay."""
    aim = target.target_kg
    if aim is None:
        return False
    half_step = gauge.step_kg / 2
    if settled and target.high_kg - target.low_kg > 4 * half_step:
        return target.low_kg + half_step <= kg <= target.high_kg - half_step
    # on the move: within a quarter of the band's side of the aim, and at least half an inch
    least = 0.5 * M_PER_IN * target.kg_per_m
    above = max((target.high_kg - aim) / 4, least)
    below = max((aim - target.low_kg) / 4, least)
    return aim - below <= kg <= aim + above


def other_unit(kg: float, target: Band) -> bool:
    """Whether a reading fits no place on the deck but would in the other unit."""
    room = 0.1 * (target.most_kg - target.least_kg)

    def possible(value: float) -> bool:
        return target.least_kg - room <= value <= target.most_kg + room

    if possible(kg):
        return False
    return possible(kg * POUNDS_IN_KILOGRAM) or possible(kg * KG_PER_LB)


def carried_by_ramps(down_kg: float, up_kg: float, *, tail_m: float, lever_m: float) -> float:
    """What ramps or stands at the tail carry, in kg, from the tongue with them down and up.

    A prop at ``tail_m`` behind the coupler that carries ``R`` adds ``R (tail / Lc - 1)`` to
    the tongue. Zero where the tail is not behind the axles.
    """
    arm = tail_m / lever_m - 1
    return max((down_kg - up_kg) / arm, 0.0) if arm > 0 else 0.0
