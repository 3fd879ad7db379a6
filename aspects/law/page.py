"""Flags of the law in words, and the room an outfit needs beside the truck's own."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from aspects.law.own import OwnFlagForm, own_rule
from hauls.models import Haul
from hauls.outlined import on_the_road, widest_m
from hauls.road_rules import RoadRules
from hauls.stopping import braking
from measures import UnitSystem
from measures.writing import write_length, write_number
from mechanics.law import Flag, OnTheRoad, Standing, flags, stands
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.stopping import Brakes, outfit_length_m, seconds_ahead
from mechanics.units import M_S_PER_MPH
from wording.law import ALWAYS, CHECK, LAWS, USUAL, WORDS, trigger_words
from wording.stopping import AS_ALONE, distance_words

SPEEDS: Final = {
    UnitSystem.US: tuple((f"{mph} mph", mph * M_S_PER_MPH) for mph in (25, 35, 45, 55, 65)),
    UnitSystem.METRIC: tuple((f"{kmh} km/h", kmh / 3.6) for kmh in (40, 60, 80, 100)),
}
"""Speeds at which it is told how far it needs."""

DOWN: Final = -0.06
"""The grade that is signed before long descents in many places. Common practice, no source."""

SIGNS: Final = {Standing.RAISED: "near", Standing.UNKNOWN: "unknown", Standing.CLEAR: "ok"}
"""The shape that goes with how a rule stands: none of them says that something is allowed."""


@dataclass(frozen=True, kw_only=True, slots=True)
class FlagLine:
    """One rule: what it asks for, what triggers it on this haul, where it stands."""

    words: str
    triggers: tuple[str, ...]
    source: str
    sign: str
    own: int
    """Which of the yard's own it is, from 1; 0 is none of them."""


@dataclass(frozen=True, kw_only=True, slots=True)
class RoomRow:
    """How far it takes to stop from a speed."""

    speed: str
    alone: str
    loaded: str
    down: str
    ahead: str


@dataclass(frozen=True, kw_only=True)
class LawPage:
    """The law's flags by how they stand, and the room."""

    laws: list[tuple[str, str]]
    law: str
    name: str
    as_of: str
    check: str
    raised: list[FlagLine]
    unknown: list[FlagLine]
    clear: list[FlagLine]
    form: OwnFlagForm | None
    was: str
    wrong: str
    rows: list[RoomRow]
    no_brakes: str
    times: str
    climbs: str
    mirrors: str


def law_page(
    haul: Haul,
    unit: UnitSystem,
    *,
    law: str,
    form: OwnFlagForm | None,
    was: str = "",
    wrong: str = "",
) -> LawPage:
    """The page of a haul by one set of rules; one that is not known is the yard's, or the usual."""
    rules = RoadRules.of(haul.yard)
    key = next((k for k in (law, rules.law) if k in LAWS), USUAL[unit])
    report = evaluate(haul.draft.plan)
    outfit = on_the_road(haul, report)
    found = [
        *(_line(flag, outfit, unit) for flag in flags(LAWS[key].rules, outfit)),
        *_own(rules, outfit, unit),
    ]
    brakes = braking(haul, report)
    plan = report.plan
    return LawPage(
        laws=[(k, one.name) for k, one in LAWS.items()],
        law=key,
        name=LAWS[key].name,
        as_of=LAWS[key].as_of,
        check=CHECK,
        raised=[one for one in found if one.sign == SIGNS[Standing.RAISED]],
        unknown=[one for one in found if one.sign == SIGNS[Standing.UNKNOWN]],
        clear=[one for one in found if one.sign == SIGNS[Standing.CLEAR]],
        form=form,
        was=was,
        wrong=wrong,
        rows=[] if brakes is None else list(_rows(brakes, plan, unit)),
        no_brakes="" if brakes is not None else NO_BRAKES,
        times="" if brakes is None else _times(brakes),
        climbs=_climbs(plan, report.loads.combination_kg),
        mirrors=_mirrors(plan, unit),
    )


NO_BRAKES: Final = (
    "How far it needs to stop cannot be said: the truck's plate, or which of the trailer's axles "
    "have brakes, is not in the book."
)
NOT_READ: Final = "its limit cannot be read: remove the flag and add it anew"


def _line(flag: Flag, outfit: OnTheRoad, unit: UnitSystem) -> FlagLine:
    rule = flag.rule
    triggers = tuple(trigger_words(condition, outfit, unit) for condition in rule.conditions)
    return FlagLine(
        words=WORDS[rule.code],
        triggers=triggers or (ALWAYS,),
        source=rule.source,
        sign=SIGNS[flag.standing],
        own=0,
    )


def _own(rules: RoadRules, outfit: OnTheRoad, unit: UnitSystem) -> Iterator[FlagLine]:
    for number, flag in enumerate(rules.own_flags, 1):
        rule = own_rule(flag)
        yield FlagLine(
            words=flag.words,
            triggers=(NOT_READ,)
            if rule is None
            else tuple(trigger_words(c, outfit, unit) for c in rule.conditions),
            source=f"{flag.source}, as of {flag.as_of}",
            sign=SIGNS[Standing.UNKNOWN if rule is None else stands(rule, outfit)],
            own=number,
        )


def _rows(brakes: Brakes, plan: Plan, unit: UnitSystem) -> Iterator[RoomRow]:
    alone = Brakes(mass_kg=brakes.truck_kg, truck_kg=brakes.truck_kg, trailer_kg=0.0)
    length = outfit_length_m(plan)

    def way(of: Brakes, speed: float, slope: float = 0.0) -> str:
        found = of.distance_m(speed, slope)
        return "does not stop" if found is None else distance_words(found, unit)

    for said, speed in SPEEDS[unit]:
        yield RoomRow(
            speed=said,
            alone=way(alone, speed),
            loaded=way(brakes, speed),
            down=way(brakes, speed, DOWN),
            ahead=f"{seconds_ahead(length, speed)} s",
        )


def _times(brakes: Brakes) -> str:
    if brakes.times <= AS_ALONE:
        return (
            "Its brakes are rated for what it weighs: it stops about as the truck alone does full."
        )
    times = write_number(brakes.times, 1)
    return (
        f"It weighs {times} times what its brakes are rated for, so braking takes so much longer."
    )


def _climbs(plan: Plan, together_kg: float) -> str:
    """What hills ask of the engine and the gears, beside the truck alone at its plate."""
    if plan.truck.gvwr_kg is None:
        return ""
    times = write_number(together_kg / plan.truck.gvwr_kg, 1)
    return (
        f"Uphill it takes {times} times the pull that the truck alone takes full, on any grade; "
        "downhill as much has to be held back. Choose the gear before the descent."
    )


def _mirrors(plan: Plan, unit: UnitSystem) -> str:
    widest = widest_m(plan)
    if widest is None:
        return "How wide the mirrors have to reach is not known: a load's width is missing."
    return (
        f"Mirrors have to reach {write_length(widest, unit, step=1)} from edge to edge at least, "
        "as wide as what is behind them; narrower ones see nothing past it."
    )
