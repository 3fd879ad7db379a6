"""Flags of the law: what a haul is held against before anyone asks the local rule.

A rule is a code with conditions; it is raised where all of them are met, clear where one is not,
and
unknown where that hangs on a figure nobody has. Nothing here allows anything: a flag that is not
raised is no permit. Sources stand beside each rule, all from memory, with the date to which they
were
known; rules differ by place and year.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import Enum
from typing import Final

from mechanics.errors import InputError
from mechanics.units import KG_PER_LB, M_PER_FT, M_PER_IN

TIRE_M: Final = 0.23
"""Usual width of a tire: what a trailer takes beside the middle of its tires. Common practice, no
source."""


class Fact(str, Enum):
    """What a rule goes by. Masses in kg, lengths in m; the two that are yes or no are 1 or 0."""

    TRUCK_PLATE = "truck_plate"
    TRAILER_PLATE = "trailer_plate"
    TOGETHER_PLATES = "together_plates"
    TOGETHER_MOST = "together_most"
    """The greater of both plates together and what both weigh."""
    TRAILER = "trailer"
    TOGETHER = "together"
    HEAVIEST = "heaviest"
    UNBRAKED = "unbraked"
    OVER_HALF_TRUCK = "over_half_truck"
    """Whether the trailer weighs more than half of what the empty truck with its driver does."""
    WIDTH = "width"
    HEIGHT = "height"
    PAST_TAIL = "past_tail"
    PAST_SIDE = "past_side"


MASSES: Final = (
    Fact.TRUCK_PLATE,
    Fact.TRAILER_PLATE,
    Fact.TOGETHER_PLATES,
    Fact.TOGETHER_MOST,
    Fact.TRAILER,
    Fact.TOGETHER,
    Fact.HEAVIEST,
)
LENGTHS: Final = (Fact.WIDTH, Fact.HEIGHT, Fact.PAST_TAIL, Fact.PAST_SIDE)
SLACK_KG: Final = 0.2
"""A mass this near to a limit is at it; half a pound, to which plates are stamped, is more."""


@dataclass(frozen=True, kw_only=True, slots=True)
class OnTheRoad:
    """An outfit as the law looks at it; ``None`` is not known. Masses in kg, lengths in m.

    ``driver_kg`` rides in ``truck_empty_kg`` where a rule counts a truck ready to drive.
    """

    truck_plate_kg: float | None
    trailer_plate_kg: float | None
    truck_empty_kg: float
    trailer_kg: float
    together_kg: float
    heaviest_kg: float
    braked: bool | None
    width_m: float | None
    height_m: float | None
    past_tail_m: float
    past_side_m: float | None
    driver_kg: float = 75.0

    def __post_init__(self) -> None:
        given = (
            *(self.truck_empty_kg, self.trailer_kg, self.together_kg, self.heaviest_kg),
            *(self.truck_plate_kg or 0.0, self.trailer_plate_kg or 0.0, self.past_tail_m),
            *(self.width_m or 0.0, self.height_m or 0.0, self.past_side_m or 0.0, self.driver_kg),
        )
        if not all(math.isfinite(value) and value >= 0 for value in given):
            raise InputError("law", "masses and lengths that are finite and not below zero")

    def fact(self, fact: Fact) -> float | None:
        """A figure that rules go by; ``None`` where it is not known."""
        plates = (
            None
            if self.truck_plate_kg is None or self.trailer_plate_kg is None
            else self.truck_plate_kg + self.trailer_plate_kg
        )
        found: Mapping[Fact, float | None] = {
            Fact.TRUCK_PLATE: self.truck_plate_kg,
            Fact.TRAILER_PLATE: self.trailer_plate_kg,
            Fact.TOGETHER_PLATES: plates,
            Fact.TOGETHER_MOST: None if plates is None else max(plates, self.together_kg),
            Fact.TRAILER: self.trailer_kg,
            Fact.TOGETHER: self.together_kg,
            Fact.HEAVIEST: self.heaviest_kg,
            Fact.UNBRAKED: None if self.braked is None else float(not self.braked),
            Fact.OVER_HALF_TRUCK: float(
                self.trailer_kg > (self.truck_empty_kg + self.driver_kg) / 2
            ),
            Fact.WIDTH: self.width_m,
            Fact.HEIGHT: self.height_m,
            Fact.PAST_TAIL: self.past_tail_m,
            Fact.PAST_SIDE: self.past_side_m,
        }
        return found[fact]

    def at_least(self, fact: Fact) -> float | None:
        """What a figure is at the least, where it is not known itself."""
        known = self.fact(fact)
        return self.together_kg if known is None and fact is Fact.TOGETHER_MOST else known


@dataclass(frozen=True, kw_only=True, slots=True)
class Condition:
    """A figure that is above a limit; with ``reached`` at it or above. SI."""

    fact: Fact
    limit: float
    reached: bool = False

    def met(self, outfit: OnTheRoad) -> bool | None:
        """Whether it is met; ``None`` where the figure is not known."""
        least = outfit.at_least(self.fact)
        if least is not None and self._above(least):
            return True
        return None if outfit.fact(self.fact) is None else False

    def _above(self, value: float) -> bool:
        slack = SLACK_KG if self.fact in MASSES else 1e-6
        return value >= self.limit - slack if self.reached else value > self.limit + slack


@dataclass(frozen=True, kw_only=True, slots=True)
class Rule:
    """One rule: its code, what raises it, where it stands. Without conditions it is always
    raised."""

    code: str
    source: str
    conditions: tuple[Condition, ...] = ()


class Standing(str, Enum):
    """How a rule stands to a haul."""

    RAISED = "raised"
    UNKNOWN = "unknown"
    CLEAR = "clear"


@dataclass(frozen=True, kw_only=True, slots=True)
class Flag:
    """A rule, and how it stands."""

    rule: Rule
    standing: Standing


def stands(rule: Rule, outfit: OnTheRoad) -> Standing:
    """How a rule stands to an outfit."""
    met = [condition.met(outfit) for condition in rule.conditions]
    if any(one is False for one in met):
        return Standing.CLEAR
    return Standing.UNKNOWN if any(one is None for one in met) else Standing.RAISED


def flags(rules: tuple[Rule, ...], outfit: OnTheRoad) -> tuple[Flag, ...]:
    """Every rule with how it stands: raised ones first, then what cannot be said, then the rest."""
    order = list(Standing)
    found = [Flag(rule=rule, standing=stands(rule, outfit)) for rule in rules]
    return tuple(sorted(found, key=lambda flag: order.index(flag.standing)))


def _more(fact: Fact, limit: float) -> Condition:
    return Condition(fact=fact, limit=limit)


def _from(fact: Fact, limit: float) -> Condition:
    return Condition(fact=fact, limit=limit, reached=True)


_NO_BRAKES: Final = Condition(fact=Fact.UNBRAKED, limit=0.5)

US: Final = (
    Rule(
        code="us.commercial_vehicle",
        source="49 CFR 390.5",
        conditions=(_from(Fact.TOGETHER_MOST, 10_001 * KG_PER_LB),),
    ),
    Rule(
        code="us.commercial_licence",
        source="49 CFR 383.5",
        conditions=(
            _from(Fact.TOGETHER_MOST, 26_001 * KG_PER_LB),
            _more(Fact.TRAILER_PLATE, 10_000 * KG_PER_LB),
        ),
    ),
    Rule(
        code="us.heavy_truck_licence",
        source="49 CFR 383.5",
        conditions=(_from(Fact.TRUCK_PLATE, 26_001 * KG_PER_LB),),
    ),
    Rule(
        code="us.brakes",
        source="49 CFR 393.42",
        conditions=(_NO_BRAKES, _more(Fact.TRAILER, 3_000 * KG_PER_LB)),
    ),
    Rule(
        code="us.breakaway",
        source="49 CFR 393.43",
        conditions=(_more(Fact.TRAILER, 3_000 * KG_PER_LB),),
    ),
    Rule(code="us.width", source="23 CFR 658.15", conditions=(_more(Fact.WIDTH, 102 * M_PER_IN),)),
    Rule(
        code="us.height",
        source="states, most at 13 ft 6 in",
        conditions=(_more(Fact.HEIGHT, 13.5 * M_PER_FT),),
    ),
    Rule(
        code="us.past_tail",
        source="49 CFR 393.87",
        conditions=(_more(Fact.PAST_TAIL, 4 * M_PER_FT),),
    ),
    Rule(
        code="us.past_side",
        source="49 CFR 393.87",
        conditions=(_more(Fact.PAST_SIDE, 4 * M_PER_IN),),
    ),
    Rule(
        code="us.heavy_machine",
        source="49 CFR 393.130",
        conditions=(_from(Fact.HEAVIEST, 10_000 * KG_PER_LB),),
    ),
    Rule(code="us.ties", source="49 CFR 393.100 to 393.136"),
    Rule(code="us.speed", source="states; some have a lower limit with a trailer"),
)
"""United States, federal."""

CANADA: Final = (
    Rule(
        code="ca.trailer_licence",
        source="provinces that ask it from 4,600 kg as registered",
        conditions=(_more(Fact.TRAILER_PLATE, 4_600.0),),
    ),
    Rule(
        code="ca.commercial_vehicle",
        source="National Safety Code, more than 4,500 kg",
        conditions=(_more(Fact.TOGETHER_PLATES, 4_500.0),),
    ),
    Rule(
        code="ca.brakes",
        source="provinces, many from 1,360 kg",
        conditions=(_NO_BRAKES, _from(Fact.TRAILER, 1_360.0)),
    ),
    Rule(
        code="ca.breakaway",
        source="provinces, many from 1,360 kg",
        conditions=(_from(Fact.TRAILER, 1_360.0),),
    ),
    Rule(
        code="ca.width",
        source="understanding on vehicle weights and dimensions, 2.60 m",
        conditions=(_more(Fact.WIDTH, 2.60),),
    ),
    Rule(
        code="ca.height",
        source="understanding on vehicle weights and dimensions, 4.15 m",
        conditions=(_more(Fact.HEIGHT, 4.15),),
    ),
    Rule(
        code="ca.past_tail",
        source="provinces, some from 1.2 m",
        conditions=(_more(Fact.PAST_TAIL, 1.2),),
    ),
    Rule(
        code="ca.heavy_machine",
        source="National Safety Code standard 10, from 4,500 kg",
        conditions=(_from(Fact.HEAVIEST, 4_500.0),),
    ),
    Rule(code="ca.ties", source="National Safety Code standard 10"),
    Rule(code="ca.speed", source="provinces; some have a lower limit with a trailer"),
)
"""Canada, with the figures that many provinces have."""

EU: Final = (
    Rule(
        code="eu.b96",
        source="Directive 2006/126/EC, article 4",
        conditions=(_more(Fact.TRAILER_PLATE, 750.0), _more(Fact.TOGETHER_PLATES, 3_500.0)),
    ),
    Rule(
        code="eu.be",
        source="Directive 2006/126/EC, article 4",
        conditions=(_more(Fact.TRAILER_PLATE, 750.0), _more(Fact.TOGETHER_PLATES, 4_250.0)),
    ),
    Rule(
        code="eu.heavy_trailer",
        source="Directive 2006/126/EC, article 4",
        conditions=(_more(Fact.TRAILER_PLATE, 3_500.0),),
    ),
    Rule(
        code="eu.heavy_truck",
        source="Directive 2006/126/EC, article 4",
        conditions=(_more(Fact.TRUCK_PLATE, 3_500.0),),
    ),
    Rule(
        code="eu.tachograph",
        source="Regulation (EC) 561/2006, article 2",
        conditions=(_more(Fact.TOGETHER_PLATES, 3_500.0),),
    ),
    Rule(
        code="eu.brakes",
        source="UN Regulation 13, trailers of more than 750 kg",
        conditions=(_NO_BRAKES, _more(Fact.TRAILER_PLATE, 750.0)),
    ),
    Rule(
        code="eu.half_the_car",
        source="UN Regulation 13 and national rules",
        conditions=(_NO_BRAKES, Condition(fact=Fact.OVER_HALF_TRUCK, limit=0.5)),
    ),
    Rule(
        code="eu.breakaway",
        source="UN Regulation 13, braked trailers with a drawbar",
        conditions=(_more(Fact.TRAILER_PLATE, 750.0),),
    ),
    Rule(code="eu.width", source="Directive 96/53/EC", conditions=(_more(Fact.WIDTH, 2.55),)),
    Rule(code="eu.height", source="Directive 96/53/EC", conditions=(_more(Fact.HEIGHT, 4.0),)),
    Rule(
        code="eu.past_tail",
        source="national rules, many from 1 m",
        conditions=(_more(Fact.PAST_TAIL, 1.0),),
    ),
    Rule(code="eu.ties", source="Directive 2014/47/EU, annex III; EN 12195-1"),
    Rule(code="eu.speed", source="national rules, 80 to 100 km/h with a trailer"),
)
"""European Union."""

UK: Final = (
    Rule(
        code="uk.heavy_trailer",
        source="driving licence categories since December 2021",
        conditions=(_more(Fact.TRAILER_PLATE, 3_500.0),),
    ),
    Rule(
        code="uk.heavy_truck",
        source="driving licence categories",
        conditions=(_more(Fact.TRUCK_PLATE, 3_500.0),),
    ),
    Rule(
        code="uk.tachograph",
        source="assimilated Regulation (EC) 561/2006",
        conditions=(_more(Fact.TOGETHER_PLATES, 3_500.0),),
    ),
    Rule(
        code="uk.operator",
        source="Goods Vehicles (Licensing of Operators) Act 1995",
        conditions=(_more(Fact.TOGETHER_PLATES, 3_500.0),),
    ),
    Rule(
        code="uk.brakes",
        source="Road Vehicles (Construction and Use) Regulations 1986",
        conditions=(_NO_BRAKES, _more(Fact.TRAILER_PLATE, 750.0)),
    ),
    Rule(
        code="uk.half_the_car",
        source="Road Vehicles (Construction and Use) Regulations 1986",
        conditions=(_NO_BRAKES, Condition(fact=Fact.OVER_HALF_TRUCK, limit=0.5)),
    ),
    Rule(
        code="uk.breakaway",
        source="Road Vehicles (Construction and Use) Regulations 1986",
        conditions=(_more(Fact.TRAILER_PLATE, 750.0),),
    ),
    Rule(
        code="uk.width",
        source="Road Vehicles (Construction and Use) Regulations 1986, 2.55 m",
        conditions=(_more(Fact.WIDTH, 2.55),),
    ),
    Rule(
        code="uk.past_tail",
        source="Road Vehicles (Construction and Use) Regulations 1986, more than 1 m",
        conditions=(_more(Fact.PAST_TAIL, 1.0),),
    ),
    Rule(
        code="uk.past_side",
        source="Road Vehicles (Construction and Use) Regulations 1986, 305 mm",
        conditions=(_more(Fact.PAST_SIDE, 0.305),),
    ),
    Rule(
        code="uk.ties",
        source="Road Vehicles (Construction and Use) Regulations 1986, regulation 100",
    ),
    Rule(code="uk.speed", source="Road Traffic Regulation Act 1984, schedule 6"),
)
"""Great Britain."""
