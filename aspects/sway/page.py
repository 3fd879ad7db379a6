"""How a haul's outfit tows, in words, a table and a curve, compared with other ways of it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from measures import UnitSystem
from measures.marks import STEPS
from measures.writing import write_percent
from mechanics.plan import Plan
from mechanics.standing import stood
from mechanics.sway import Case, cases, towing_of
from mechanics.tidying import stood_best
from mechanics.units import M_S_PER_KMH, M_S_PER_MPH
from pictures.svg import path
from wording.sway import half_words, speed_band

TOLD: Final = {
    UnitSystem.US: ("mph", M_S_PER_MPH, (35, 45, 55, 65, 75), 55, 150),
    UnitSystem.METRIC: ("km/h", M_S_PER_KMH, (60, 70, 80, 90, 100), 80, 240),
}
"""Of each system: its unit of speed, what that is in m/s, the speeds that are told, the one that is
told first, and up to which something that grows is looked for."""

SEARCH_S: Final = 0.3

WIDTH, HEIGHT = 700, 220
"""The curve, in drawing units."""

CURVE: Final = 41
"""Points of a curve."""

MOST_DAMPED: Final = 1.0


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
    """A speed or a damping ratio on the curve's edge."""

    at: float
    words: str


@dataclass(frozen=True, kw_only=True, slots=True)
class SwayPage:
    """How it tows; without ``ways`` an axle carries nothing."""

    sentence: str
    compared: tuple[str, ...]
    speeds: tuple[tuple[int, str], ...]
    asked: int
    ways: tuple[Way, ...]
    across: tuple[Tick, ...]
    up: tuple[Tick, ...]
    zero: float


def sway_page(plan: Plan, unit: UnitSystem, asked: int | None) -> SwayPage:
    """How an outfit tows, at a speed that is asked for first, in the person's units."""
    name, metres, speeds, usual, most = TOLD[unit]
    speed = asked if asked in speeds else usual
    told = tuple(f"{one} {name}" for one in speeds)
    empty = SwayPage(
        sentence="",
        compared=(),
        speeds=tuple(zip(speeds, told, strict=True)),
        asked=speed,
        ways=(),
        across=(),
        up=(),
        zero=0.0,
    )
    found = [
        (words, other, _cases(other, unit))
        for words, other in _ways(plan, unit)
        if towing_of(other).stands
    ]
    if not found or not towing_of(plan).stands:
        return empty
    here = half_words([case.swings[speeds.index(speed)] for case in found[0][2]])
    compared = [
        f"{words}: it {half_words([case.swings[speeds.index(speed)] for case in told_cases])}."
        for words, _, told_cases in found[1:]
    ]
    ends = metres * speeds[0], metres * speeds[-1]
    return SwayPage(
        sentence=f"At {speed} {name} a swing {here}.",
        compared=tuple(compared),
        speeds=tuple(zip(speeds, told, strict=True)),
        asked=speed,
        ways=tuple(
            Way(
                name=words,
                share=write_percent(_share(other)),
                swings=tuple(
                    half_words([case.swings[n] for case in told_cases]) for n in range(len(speeds))
                ),
                critical=speed_band([c.critical_m_s for c in told_cases], metres, name, most),
                divergence=speed_band([c.divergence_m_s for c in told_cases], metres, name, most),
                band=_band(other, ends),
                line=_line(other, ends),
            )
            for words, other, told_cases in found
        ),
        across=tuple(
            Tick(at=_x(one * metres, ends), words=words)
            for one, words in zip(speeds, told, strict=True)
        ),
        up=tuple(
            Tick(at=_y(one), words=words)
            for one, words in ((1.0, "no swing at all"), (0.5, "0.5"), (0.0, "goes on for ever"))
        ),
        zero=_y(0.0),
    )


def _ways(plan: Plan, unit: UnitSystem) -> Iterator[tuple[str, Plan]]:
    """As it stands, at the best place, empty."""
    yield "As it stands", plan
    if plan.items:
        best = (
            stood(plan, 0, STEPS[unit])
            if len(plan.items) == 1
            else stood_best(plan, seconds=SEARCH_S)
        )
        if best != plan:
            yield "At the best place", best
        yield "The trailer empty", plan.carrying(())


def _cases(plan: Plan, unit: UnitSystem) -> tuple[Case, ...]:
    _, metres, speeds, _, most = TOLD[unit]
    return cases(
        towing_of(plan),
        [one * metres for one in speeds],
        most_m_s=most * metres,
        step_m_s=metres,
    )


def _share(plan: Plan) -> float:
    towing = towing_of(plan)
    return 1 - sum(towing.axle_loads_kg) / towing.trailer.mass_kg


Points = list[tuple[float, float]]


# the curve: damping over speed, the band between tires that hold little and much


def _damped(plan: Plan, ends: tuple[float, float]) -> list[Points]:
    """For each case the points of its curve; what does not swing is as damped as can be."""
    speeds = [ends[0] + (ends[1] - ends[0]) * n / (CURVE - 1) for n in range(CURVE)]
    found = cases(towing_of(plan), speeds, most_m_s=ends[1], step_m_s=ends[1])
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


def _band(plan: Plan, ends: tuple[float, float]) -> str:
    low, _, high = _damped(plan, ends)
    return path([*_points(low, ends), *reversed(_points(high, ends))])


def _line(plan: Plan, ends: tuple[float, float]) -> str:
    return path(_points(_damped(plan, ends)[1], ends), closed=False)
