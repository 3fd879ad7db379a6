"""How a haul's outfit tows, in words, a table and a curve, compared with other ways of it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from aspects.sway.speeds import SPEEDS_IN, Speeds
from measures import UnitSystem
from measures.marks import STEPS
from measures.writing import write_percent
from mechanics.plan import Plan
from mechanics.standing import stood
from mechanics.sway import Towing, cases, swings, towing_of
from mechanics.tidying import stood_best
from pictures.svg import path
from wording.sway import half_figures, half_words, speed_band

SEARCH_S: Final = 0.3

WIDTH, HEIGHT = 700, 220
"""The curve, in drawing units."""

CURVE: Final = 41
"""Points of a curve."""

MOST_DAMPED: Final = 1.0

Ways = tuple[tuple[str, Plan], ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Way:
    """One way of it: what it is, its share, its swing at each of the speeds, how it goes wrong."""

    name: str
    share: str
    swings: tuple[str, ...]
    critical: str
    divergence: str
    band: str
    line: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Tick:
    """A speed, a time, a damping ratio or an angle at the edge of a curve."""

    at: float
    words: str


@dataclass(frozen=True, kw_only=True, slots=True)
class SwayPage:
    """How it tows; without ``ways`` an axle carries nothing."""

    sentence: str = ""
    compared: tuple[str, ...] = ()
    speeds: tuple[str, ...]
    ways: tuple[Way, ...] = ()
    across: tuple[Tick, ...] = ()
    up: tuple[Tick, ...] = ()
    zero: float = 0.0


def sway_page(plan: Plan, unit: UnitSystem, speed: int, *, others: Ways = ()) -> SwayPage:
    """How an outfit tows, told first for a speed, in the person's units; ``others`` are ways of it
    to compare with, beside the best place and the empty trailer."""
    speeds = SPEEDS_IN[unit]
    told = tuple(speeds.words(one) for one in speeds.told)
    if not towing_of(plan).stands:
        return SwayPage(speeds=told)
    asked = [(words, towing_of(other)) for words, other in _ways(plan, unit, others)]
    found = [(words, towing) for words, towing in asked if towing.stands]
    here, *rest = [(words, half_at(towing, speeds, speed)) for words, towing in found]
    ends = speeds.m_s * speeds.told[0], speeds.m_s * speeds.told[-1]
    return SwayPage(
        sentence=f"At {speeds.words(speed)} a swing {here[1]}.",
        compared=tuple(f"{words}: it {half}." for words, half in rest),
        speeds=told,
        ways=tuple(_way(words, towing, speeds, ends) for words, towing in found),
        across=tuple(
            Tick(at=_x(one * speeds.m_s, ends), words=speeds.words(one)) for one in speeds.told
        ),
        up=tuple(
            Tick(at=_y(one), words=words)
            for one, words in ((1.0, "no swing at all"), (0.5, "0.5"), (0.0, "goes on for ever"))
        ),
        zero=_y(0.0),
    )


def best_of(plan: Plan, unit: UnitSystem) -> Plan:
    """The plan with its loads where they are best put."""
    if len(plan.items) == 1:
        return stood(plan, 0, STEPS[unit])
    return stood_best(plan, seconds=SEARCH_S)


def _ways(plan: Plan, unit: UnitSystem, others: Ways) -> Iterator[tuple[str, Plan]]:
    """As it stands, at the best place, other ways, empty."""
    yield "As it stands", plan
    if not plan.items:
        return
    best = best_of(plan, unit)
    if best != plan:
        yield "At the best place", best
    yield from others
    yield "The trailer empty", plan.carrying(())


def half_at(towing: Towing, speeds: Speeds, speed: int) -> str:
    """``halves in 0.9 to 1.6 s``, at one speed."""
    return half_words(swings(towing, speed * speeds.m_s))


def figures_at(towing: Towing, speeds: Speeds, speed: int) -> str:
    """``0.9 to 1.6 s``, at one speed."""
    return half_figures(swings(towing, speed * speeds.m_s))


def _way(words: str, towing: Towing, speeds: Speeds, ends: tuple[float, float]) -> Way:
    its = cases(
        towing,
        [one * speeds.m_s for one in speeds.told],
        most_m_s=speeds.most * speeds.m_s,
        step_m_s=speeds.m_s,
    )
    critical, divergence = (
        speed_band(found, speeds.m_s, speeds.name, speeds.most)
        for found in ([one.critical_m_s for one in its], [one.divergence_m_s for one in its])
    )
    low, middle, high = _damped(towing, ends)
    return Way(
        name=words,
        share=write_percent(_share(towing)),
        swings=tuple(
            half_figures([case.swings[n] for case in its]) for n in range(len(speeds.told))
        ),
        critical=critical,
        divergence=divergence,
        band=path([*_points(low, ends), *reversed(_points(high, ends))]),
        line=path(_points(middle, ends), closed=False),
    )


def _share(towing: Towing) -> float:
    return 1 - sum(towing.axle_loads_kg) / towing.trailer.mass_kg


Points = list[tuple[float, float]]


# the curve: damping over speed, the band between tires that hold little and much


def _damped(towing: Towing, ends: tuple[float, float]) -> list[Points]:
    """For each case the points of its curve; what does not swing is as damped as can be."""
    speeds = [ends[0] + (ends[1] - ends[0]) * n / (CURVE - 1) for n in range(CURVE)]
    found = cases(towing, speeds, most_m_s=ends[1], step_m_s=ends[1])
    return [
        [
            (one.speed_m_s, MOST_DAMPED if one.damping is None else one.damping)
            for one in case.swings
        ]
        for case in found
    ]


def _x(speed: float, ends: tuple[float, float]) -> float:
    return (speed - ends[0]) / (ends[1] - ends[0]) * WIDTH


LEAST: Final = -0.25
"""Damping at the lower edge of the curve."""


def _y(damping: float) -> float:
    inside = min(max(damping, LEAST), MOST_DAMPED)
    return (MOST_DAMPED - inside) / (MOST_DAMPED - LEAST) * HEIGHT


def _points(points: Points, ends: tuple[float, float]) -> Points:
    return [(_x(speed, ends), _y(damping)) for speed, damping in points]
