"""The planner's one line of how it tows."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from aspects.registry import Ground, Panel
from aspects.sway.page import best_of, figures_at, half_at
from aspects.sway.speeds import SPEEDS_IN
from measures import UnitSystem
from mechanics.plan import Plan
from mechanics.sway import towing_of
from wording.sway import NO_LOAD_HERE


@dataclass(frozen=True, kw_only=True, slots=True)
class SwayPanel:
    """How it tows in one line; ``best`` is the same at the best place, empty where it stands there,
    or where several loads would have to be looked at."""

    haul_pk: int
    line: str
    best: str


def panel(ground: Ground) -> Panel:
    """How fast a swing dies out as the loads stand."""
    plan, speeds = ground.report.plan, SPEEDS_IN[ground.unit]
    towing = towing_of(plan)
    if not towing.stands:
        line, best = NO_LOAD_HERE, ""
    else:
        line = f"At {speeds.words(speeds.usual)} a swing {half_at(towing, speeds, speeds.usual)}"
        best = _at_best(plan, ground.unit)
    return Panel(
        template="sway/_panel.html",
        it=SwayPanel(
            haul_pk=ground.haul.pk,
            line=line,
            best=best,
        ),
    )


def _at_best(plan: Plan, unit: UnitSystem) -> str:
    """How fast it dies out with the one load at its best place; nothing where it stands there."""
    if len(plan.items) != 1:
        return ""
    best = best_of(plan, unit)
    return "" if best == plan else _told(best, unit)


@lru_cache(maxsize=64)
def _told(plan: Plan, unit: UnitSystem) -> str:
    """The same place is asked for at every place of the one in hand."""
    towing, speeds = towing_of(plan), SPEEDS_IN[unit]
    return figures_at(towing, speeds, speeds.usual) if towing.stands else ""
