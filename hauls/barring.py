"""Weight distribution as the page shows it: slack and set, side by side."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

from hauls.wording import label
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
from mechanics.plan import Plan
from mechanics.units import LengthUnit

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


def bar_length_m(document: dict[str, Any]) -> float | None:
    """How long the hitch's bars are where no give-back is chosen; ``None`` where not known."""
    length = document["hitch"].get("extra", {}).get("bar_length")
    if isinstance(length, bool) or not isinstance(length, (int, float)) or length <= 0:
        return None
    return float(length) * LengthUnit(document["units"]["length"]).m


def read_gauge(
    text: str | None, plan: Plan, document: dict[str, Any], unit: UnitSystem
) -> tuple[float | None, str]:
    """The part that bars give back at a wanted gauge reading, and what is wrong with it.

    ``None`` where nothing was typed, or it cannot be.
    """
    if text is None or not text.strip() or not bars_fit(plan):
        return None, ""
    try:
        wanted = float(read_mass(text[:40], unit.mass_unit).si)
    except ReadingError as error:
        return None, str(error)
    length = bar_length_m(document)
    part = restoration_for_gauge(plan, wanted, length)
    if part is not None and -1e-9 <= part <= 1 + 1e-9:
        return min(max(part, 0.0), 1.0), ""
    ends = sorted(set_bars(plan, end, length).gauge_kg for end in (0.0, 1.0))
    low, high = (write_mass(kg, unit) for kg in ends)
    return None, (
        f"With these bars the gauge reads from {low}, slack, to {high}, all of it given back. "
        "Choose a reading between."
    )


def bars_page(
    plan: Plan, part: float, document: dict[str, Any], unit: UnitSystem
) -> dict[str, Any]:
    """Everything the page shows of spring bars; only ``fit`` where they cannot act."""
    if not bars_fit(plan):
        return {"fit": False}
    setup = set_bars(plan, part, bar_length_m(document))
    return {
        "fit": True,
        "asks": [in_units_of(ASKS[reason], unit) for reason in asks_for_bars(plan)],
        "percent": f"{part * 100:.4g}",
        "hung": plan.hitch.weight_distribution is not None,
        "rows": _rows(setup, unit),
        "ratings": _ratings(plan, unit),
        "gauge": write_mass(setup.gauge_kg, unit),
        "force": write_mass(setup.bar_force_kg / 2, unit),
        "bar_length": write_length(setup.bar_length_m, unit, step=1),
        "arch": _arch_words(setup, unit),
        "ball": None
        if setup.ball_height_m is None
        else write_length(setup.ball_height_m, unit, step=2),
    }


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
            **_statuses(setup, "truck.front_"),
        ),
        BarRow(
            name="Truck rear axle",
            slack=mass(slack.truck.rear_kg),
            set=mass(loads.truck.rear_kg),
            **_statuses(setup, "truck.rear_"),
        ),
        BarRow(
            name="Trailer axles together",
            slack=mass(slack.trailer.axles_mass_kg),
            set=mass(loads.trailer.axles_mass_kg),
            **_statuses(setup, "trailer.axle_"),
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


def _statuses(setup: BarSetup, begins: str) -> dict[str, str]:
    """The worst status of the limits whose code begins so: each axle's, and its tires'."""

    def of(checks: tuple[Check, ...]) -> str:
        return worst(c for c in checks if c.code.startswith(begins)).value

    return {"slack_status": of(setup.slack_checks), "set_status": of(setup.checks)}


def _tightest_axle(checks: tuple[Check, ...], unit: UnitSystem) -> str:
    """The trailer axle, or its tires, with the least part of its rating left."""
    rated = [c for c in checks if c.code.startswith("trailer.axle_") and c.reserve is not None]
    if not rated:
        return "no rating known"
    tightest = min(rated, key=lambda c: c.reserve or 0.0)
    margin = tightest.margin or 0.0
    if margin >= 0:
        left = f"{write_mass(margin, unit)} left"
    else:
        left = f"{write_excess(margin, unit)} over"
    return f"{label(tightest.code, unit=unit).removeprefix('Trailer ')}, {left}"


def _ratings(plan: Plan, unit: UnitSystem) -> list[dict[str, str]]:
    """Both pairs of ratings of every hitch part."""

    def mass(kg: float | None) -> str:
        return "not known" if kg is None else write_mass(kg, unit)

    return [
        {
            "name": part.name[:1].upper() + part.name[1:],
            "carrying": f"{mass(part.max_trailer_mass_kg)} / {mass(part.max_tongue_mass_kg)}",
            "bars": f"{mass(part.max_trailer_mass_wd_kg)} / {mass(part.max_tongue_mass_wd_kg)}",
        }
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
