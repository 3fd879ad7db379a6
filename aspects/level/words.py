"""How the outfit rides, in the trade's words: level, squat, ball height, spring bars."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from measures.writing import (
    UnitSystem,
    write_inches,
    write_length,
    write_mass,
    write_number,
    write_percent,
)
from mechanics.attitude import (
    LEVEL_M,
    NOSE_UP_BEFORE_M,
    Attitude,
    attitude,
    axle_rate_wanted,
    missing_heights,
    weight_moment_kg_m,
)
from mechanics.checks import Check
from mechanics.plan import Plan
from mechanics.report import Report
from mechanics.trailer import Suspension
from wording.arithmetic import Term, Why
from wording.inputs import missing_of
from wording.limits import Telling, passed_words
from wording.phrases import NOT_KNOWN, signed_mass, tongue_word, within
from wording.sentences import STEP_WORDS

WORTH_SAYING_KG: Final = 5.0
"""A change of the tongue below this is not worth a sentence."""

HOLE_M: Final = 0.0508
"""Adjustable ball mounts are drilled about 2 in apart. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class RideWords:
    """What is said of an outfit's attitude.

    ``line`` in one line for the planner; ``advice`` what to do; ``worse`` what is passed,
    or short, as it rides and not when level. ``missing`` names heights that are wanting.
    """

    line: str
    advice: str
    worse: str
    missing: tuple[str, ...]


def ride_words(plan: Plan, riding: Attitude | None, unit: UnitSystem) -> RideWords:
    """The words for a plan's attitude; ``None`` where heights are wanting."""
    if riding is None:
        missing = missing_of(missing_heights(plan), plan)
        return RideWords(
            line="Taken as level: heights are not known."
            if missing
            else "Taken as level: with these heights and springs it settles at no slope.",
            advice="",
            worse="",
            missing=missing,
        )
    return RideWords(
        line=f"{_nose(riding.loaded.nose_up_m, unit)} as loaded. {_effect(plan, riding, unit)}",
        advice=_advice(riding, unit),
        worse=_worse(riding, unit),
        missing=(),
    )


def _nose(nose_up: float, unit: UnitSystem) -> str:
    if abs(nose_up) <= LEVEL_M:
        return "Level"
    way = "high" if nose_up > 0 else "low"
    return f"Nose {write_inches(abs(nose_up), unit)} {way}"


def _effect(plan: Plan, riding: Attitude, unit: UnitSystem) -> str:
    change = riding.tongue_change_kg
    word = tongue_word(plan.hitch.type)
    if abs(change) < WORTH_SAYING_KG:
        return f"That changes the {word} by next to nothing."
    verb = "takes" if change < 0 else "puts"
    where = "off" if change < 0 else "on"
    return f"That {verb} {write_mass(abs(change), unit)} {where} the {word}."


def _advice(riding: Attitude, unit: UnitSystem) -> str:
    change = riding.ball_change_m
    if riding.loaded.level:
        before = riding.before.nose_up_m
        if before > LEVEL_M:
            high = write_inches(before, unit)
            right = " That is right" if before <= 2 * NOSE_UP_BEFORE_M else " That is as it comes"
            return f"Before loading it rides {high} nose-high.{right}: the truck squats."
        return "Nothing to change."
    way = "Drop" if change < 0 else "Raise"
    holes = round(abs(change) / HOLE_M)
    by = write_inches(abs(change), unit)
    if holes >= 1 and abs(abs(change) - holes * HOLE_M) <= LEVEL_M:
        number = "one hole" if holes == 1 else f"{holes} holes"
        return f"{way} the ball mount {number}, {by}, and it rides level loaded."
    return f"{way} the ball by {by} and it rides level loaded."


def _worse(riding: Attitude, unit: UnitSystem) -> str:
    """Limits that are passed as the outfit rides and would not be with the trailer level."""
    if not riding.worse:
        return ""
    named = ", ".join(_named(c, unit) for c in riding.worse[:3])
    return f"Level it would hold; as it rides it does not: {named}."


def _named(check: Check, unit: UnitSystem) -> str:
    return within(passed_words(check.code, Telling(unit=unit)))


@dataclass(frozen=True, kw_only=True, slots=True)
class RideRow:
    """One figure before loading, level, and as the outfit rides."""

    name: str
    before: str
    level: str
    riding: str


@dataclass(frozen=True, kw_only=True)
class LevelPage:
    """Everything the page shows of the attitude; ``step`` is a small height in words."""

    ride: RideWords
    rows: list[RideRow]
    stiff_front: bool
    rate_wanted: bool
    torsion: bool
    step: str


def level_page(plan: Plan, unit: UnitSystem) -> LevelPage:
    """What the page shows of a plan's attitude."""
    riding = attitude(plan)
    springs = plan.truck.ride
    return LevelPage(
        ride=ride_words(plan, riding, unit),
        rows=[] if riding is None else _rows(plan, riding, unit),
        stiff_front=riding is not None
        and springs is not None
        and springs.front_rate_kg_per_m is None,
        rate_wanted=axle_rate_wanted(plan),
        torsion=plan.trailer.suspension is Suspension.INDEPENDENT
        and plan.trailer.axle_rate_kg_per_m is not None,
        step=STEP_WORDS[unit],
    )


def _rows(plan: Plan, riding: Attitude, unit: UnitSystem) -> list[RideRow]:
    def mass(kg: float) -> str:
        return write_mass(kg, unit)

    def height(metres: float) -> str:
        return write_length(metres, unit, step=4)

    def short(metres: float) -> str:
        return write_inches(metres, unit)

    before, loaded, level = riding.before, riding.loaded, riding.level
    word = tongue_word(plan.hitch.type).capitalize()
    target = plan.trailer.coupler_height_m or 0.0
    rows = [
        RideRow(
            name="Coupler above the ground",
            before=height(before.coupler_height_m),
            level=height(target),
            riding=height(loaded.coupler_height_m),
        ),
        RideRow(
            name="Nose high (low with a minus)",
            before=short(before.nose_up_m),
            level=short(0.0),
            riding=short(loaded.nose_up_m),
        ),
        RideRow(
            name="Rear arch sinks",
            before=short(before.rear_squat_m),
            level="",
            riding=short(loaded.rear_squat_m),
        ),
        RideRow(
            name="Front arch rises",
            before=short(before.front_rise_m),
            level="",
            riding=short(loaded.front_rise_m),
        ),
        RideRow(
            name=f"{word} weight",
            before=mass(before.loads.trailer.tongue_kg),
            level=mass(level.trailer.tongue_kg),
            riding=mass(loaded.loads.trailer.tongue_kg),
        ),
        RideRow(
            name="Share",
            before="",
            level=write_percent(level.trailer.share),
            riding=write_percent(loaded.loads.trailer.share),
        ),
    ]
    for n, (flat, now) in enumerate(
        zip(level.trailer.axles_kg, loaded.loads.trailer.axles_kg, strict=True), 1
    ):
        rows.append(
            RideRow(name=f"Trailer axle {n}", before="", level=mass(flat), riding=mass(now))
        )
    for name, flat, now in (
        ("Truck front axle", level.truck.front_kg, loaded.loads.truck.front_kg),
        ("Truck rear axle", level.truck.rear_kg, loaded.loads.truck.rear_kg),
    ):
        rows.append(RideRow(name=name, before="", level=mass(flat), riding=mass(now)))
    return rows


def level_figure(report: Report, unit: UnitSystem, number: int) -> Why:
    """What the tilt does, opened into its arithmetic."""
    plan = report.plan
    riding = attitude(plan)
    source = (
        "A nose that rides high shifts the weight back: mass times height times slope, over the "
        "axles' lever. Squat is load over spring rate, run to where nothing changes."
    )
    if riding is None:
        missing = missing_of(missing_heights(plan), plan)
        lacking = ", ".join(missing) or "springs that settle"
        terms = [Term(name=NOT_KNOWN, amount=lacking)]
        return Why(terms=terms, total="taken as level", limit="", source=source)
    trailer, loaded, ride = plan.trailer, riding.loaded, plan.truck.ride
    mass = riding.level.trailer.mass_kg
    high = weight_moment_kg_m(plan, loaded=True) / mass
    ball = NOT_KNOWN if ride is None else write_length(ride.ball_height_m, unit)
    slope = f"{write_number(loaded.slope * 100, 2)} %"

    def term(name: str, metres: float) -> Term:
        return Term(name=name, amount=write_length(metres, unit))

    return Why(
        terms=[
            Term(name="ball above the ground, unhitched", amount=ball),
            Term(name="rear arch sinks", amount=write_inches(loaded.rear_squat_m, unit)),
            term("coupler, hitched", loaded.coupler_height_m),
            term("coupler of the level trailer", trailer.coupler_height_m or 0.0),
            Term(name="slope, over the axles' lever", amount=slope),
            Term(name="loaded trailer", amount=write_mass(mass, unit)),
            term("balances above its axles", high),
            term("the axles' lever", trailer.couple_lever_m),
        ],
        total=f"{signed_mass(riding.tongue_change_kg, unit)} on the {tongue_word(plan.hitch.type)}",
        limit="",
        source=source,
    )
