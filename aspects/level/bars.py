"""Weight distribution as the page shows it: slack and set, side by side."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from measures import ReadingError, read_mass
from measures.writing import UnitSystem, in_units_of, write_excess, write_length, write_mass
from mechanics.bars import (
    BarSetup,
    asks_for_bars,
    bars_fit,
    restoration_for_gauge,
    set_bars,
)
from mechanics.checks import Check, worst
from mechanics.codes import Family
from mechanics.plan import Plan
from wording.limits import label
from wording.phrases import NOT_KNOWN, begun

USUAL: Final = 0.5
"""Restoration the slider begins at: handbooks commonly ask for half. Common practice, no
source."""

ASKS: Final = {
    "heavy": "the trailer is above {5,000 lb|2,270 kg}",
    "half_of_truck": "the trailer is above half of what the truck may weigh",
    "hitch_rating": "a hitch part is passed carrying and would hold with bars",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class BarRow:
    """One figure with slack bars and with bars set."""

    name: str
    slack: str
    set: str
    slack_status: str = ""
    set_status: str = ""


def read_restoration(text: str | None, plan: Plan) -> tuple[float, str]:
    """The part asked for, from 0 to 1, and what is wrong with it; the haul's own by default."""
    now = plan.hitch.weight_distribution
    own = USUAL if now is None else now.front_axle_restoration
    if text is None or not text.strip():
        return own, ""
    try:
        percent = float(text.replace("%", "").replace(",", ".").strip())
    except ValueError:
        return own, f"“{text[:20]}” is not a percentage. Write it like 50."
    if not 0 <= percent <= 100:
        return own, "Bars give back from nothing to all of it: 0 to 100 %."
    return percent / 100, ""


def read_gauge(
    text: str | None, plan: Plan, length: float | None, unit: UnitSystem
) -> tuple[float | None, str]:
    """The part that bars give back at a wanted gauge reading, and what is wrong with it.

    ``None`` where nothing was typed, or it cannot be. ``length`` is how long the bars are.
    """
    if text is None or not text.strip() or not bars_fit(plan):
        return None, ""
    try:
        wanted = float(read_mass(text[:40], unit.mass_unit).si)
    except ReadingError as error:
        return None, str(error)
    part = restoration_for_gauge(plan, wanted, length)
    if part is not None and -1e-9 <= part <= 1 + 1e-9:
        return min(max(part, 0.0), 1.0), ""
    ends = sorted(set_bars(plan, end, length).gauge_kg for end in (0.0, 1.0))
    low, high = (write_mass(kg, unit) for kg in ends)
    return None, (
        f"With these bars the gauge reads from {low}, slack, to {high}, all of it given back. "
        "Choose a reading between."
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class PartRatings:
    """Both pairs of ratings of a hitch part: trailer and tongue, carrying and with bars."""

    name: str
    carrying: str
    bars: str


@dataclass(frozen=True, kw_only=True)
class BarsPage:
    """Everything the page shows of spring bars; only ``fit`` where they cannot act."""

    fit: bool
    asks: Sequence[str] = ()
    percent: str = ""
    hung: bool = False
    rows: Sequence[BarRow] = ()
    ratings: Sequence[PartRatings] = ()
    gauge: str = ""
    force: str = ""
    bar_length: str = ""
    arch: str = ""
    ball: str = ""


def bars_page(plan: Plan, part: float, length: float | None, unit: UnitSystem) -> BarsPage:
    """What the page shows of bars that give a part back; ``length`` is how long they are where
    the plan does not say."""
    if not bars_fit(plan):
        return BarsPage(fit=False)
    setup = set_bars(plan, part, length)
    ball = setup.ball_height_m
    return BarsPage(
        fit=True,
        asks=[in_units_of(ASKS[reason], unit) for reason in asks_for_bars(plan)],
        percent=f"{part * 100:.4g}",
        hung=plan.hitch.weight_distribution is not None,
        rows=_rows(setup, unit),
        ratings=_ratings(plan, unit),
        gauge=write_mass(setup.gauge_kg, unit),
        force=write_mass(setup.bar_force_kg / 2, unit),
        bar_length=write_length(setup.bar_length_m, unit, step=1),
        arch=_arch_words(setup, unit),
        ball="" if ball is None else write_length(ball, unit, step=2),
    )


def _rows(setup: BarSetup, unit: UnitSystem) -> list[BarRow]:
    def mass(kg: float) -> str:
        return write_mass(kg, unit)

    slack, loads = setup.slack, setup.loads
    rows = [
        BarRow(
            name="Truck front axle, unhitched",
            slack=mass(slack.truck.front_unhitched_kg),
            set=mass(loads.truck.front_unhitched_kg),
        ),
        BarRow(
            name="Truck front axle, hitched",
            slack=mass(slack.truck.front_kg),
            set=mass(loads.truck.front_kg),
            **_statuses(setup, FRONT),
        ),
        BarRow(
            name="Truck rear axle",
            slack=mass(slack.truck.rear_kg),
            set=mass(loads.truck.rear_kg),
            **_statuses(setup, REAR),
        ),
        BarRow(
            name="Trailer axles together",
            slack=mass(slack.trailer.axles_mass_kg),
            set=mass(loads.trailer.axles_mass_kg),
            **_statuses(setup, AXLES),
        ),
        BarRow(
            name="Tightest of them, axle or tires",
            slack=_tightest_axle(setup.slack_checks, unit),
            set=_tightest_axle(setup.checks, unit),
        ),
        BarRow(
            name="Tongue handed to the truck",
            slack=mass(slack.trailer.handed_kg),
            set=mass(loads.trailer.handed_kg),
        ),
        BarRow(
            name="A gauge under the ball shows",
            slack=mass(slack.trailer.tongue_kg),
            set=mass(setup.gauge_kg),
        ),
    ]
    return rows


TRUCK_END: Final = (Family.TRUCK_AXLE, Family.TRUCK_TIRES, Family.TRUCK_LIGHT)
FRONT: Final = tuple(family.of("front") for family in TRUCK_END)
REAR: Final = tuple(family.of("rear") for family in TRUCK_END)
AXLES: Final = (Family.TRAILER_AXLE, Family.TRAILER_TIRES)


def _statuses(setup: BarSetup, among: tuple[str | Family, ...]) -> dict[str, str]:
    """The worst status of limits, by code or family: each axle's, and its tires'."""

    def of(checks: tuple[Check, ...]) -> str:
        return worst(c for c in checks if c.code in among or c.about.family in among).value

    return {"slack_status": of(setup.slack_checks), "set_status": of(setup.checks)}


def _tightest_axle(checks: tuple[Check, ...], unit: UnitSystem) -> str:
    """The trailer axle, or its tires, with the least part of its rating left."""
    rated = [c for c in checks if c.about.family in AXLES and c.reserve is not None]
    if not rated:
        return "no rating known"
    tightest = min(rated, key=lambda c: c.reserve or 0.0)
    margin = tightest.margin or 0.0
    if margin >= 0:
        left = f"{write_mass(margin, unit)} left"
    else:
        left = f"{write_excess(margin, unit)} over"
    return f"{label(tightest.code, unit=unit).removeprefix('Trailer ')}, {left}"


def _ratings(plan: Plan, unit: UnitSystem) -> list[PartRatings]:
    """Both pairs of ratings of every hitch part."""

    def mass(kg: float | None) -> str:
        return NOT_KNOWN if kg is None else write_mass(kg, unit)

    return [
        PartRatings(
            name=begun(part.name),
            carrying=f"{mass(part.max_trailer_mass_kg)} / {mass(part.max_tongue_mass_kg)}",
            bars=f"{mass(part.max_trailer_mass_wd_kg)} / {mass(part.max_tongue_mass_wd_kg)}",
        )
        for part in plan.hitch.parts
    ]


def _arch_words(setup: BarSetup, unit: UnitSystem) -> str:
    before, after = setup.front_rise_before_m, setup.front_rise_m
    if before is None or after is None or before <= 0:
        return ""
    return (
        f"With slack bars the front arch rises {write_length(before, unit, step=8)}. Hang the bars "
        f"until it has come back to {write_length(after, unit, step=8)} above the unhitched height."
    )
