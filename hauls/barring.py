"""Weight distribution as the page shows it: slack and set, side by side."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

from measures.writing import UnitSystem, write_length, write_mass
from mechanics.bars import BarSetup, asks_for_bars, bars_fit, set_bars
from mechanics.checks import Check
from mechanics.plan import Plan

USUAL: Final = 0.5
"""Restoration the slider begins at: handbooks commonly ask for half. Common practice, no
source."""

ASKS: Final = {
    "heavy": "the trailer is above 5,000 lb (2,270 kg)",
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


def bars_page(plan: Plan, part: float, unit: UnitSystem) -> dict[str, Any]:
    """Everything the page shows of spring bars; only ``fit`` where they cannot act."""
    if not bars_fit(plan):
        return {"fit": False}
    setup = set_bars(plan, part)
    return {
        "fit": True,
        "asks": [ASKS[reason] for reason in asks_for_bars(plan)],
        "percent": round(part * 100),
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
            **_statuses(setup, "truck.front_gawr"),
        ),
        BarRow(
            name="Truck rear axle",
            slack=mass(slack.truck.rear_kg),
            set=mass(loads.truck.rear_kg),
            **_statuses(setup, "truck.rear_gawr"),
        ),
        BarRow(
            name="Trailer axles together",
            slack=mass(slack.trailer.axles_mass_kg),
            set=mass(loads.trailer.axles_mass_kg),
            **_statuses(setup, "trailer.axle_1.gawr"),
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


def _statuses(setup: BarSetup, code: str) -> dict[str, str]:
    def of(checks: tuple[Check, ...]) -> str:
        return next((c.status.value for c in checks if c.code == code), "")

    return {"slack_status": of(setup.slack_checks), "set_status": of(setup.checks)}


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
