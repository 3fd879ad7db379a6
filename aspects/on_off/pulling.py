"""A machine that does not run, pulled on by the trailer's winch."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

from measures import ReadingError, UnitSystem, read_length, write_length, write_mass
from measures.writing import write_number
from mechanics.checks import Status
from mechanics.finding import rated
from mechanics.loading import Way
from mechanics.loading.winch import Rolling, haulage
from mechanics.plan import Plan
from planfile.draft import Draft

ROLLS: Final = {
    Rolling.WHEELS_ON_DECK: "hard wheels, rolling free",
    Rolling.TIRES_ON_GRAVEL: "tires on gravel or a firm ramp",
    Rolling.SOFT_GROUND: "tires on soft ground, or flat",
    Rolling.TRACKS: "tracks that turn",
    Rolling.DRAGGED: "dragged: wheels or tracks locked",
}
"""How a machine may roll, to choose from."""

LAYERS: Final = (1, 2, 3, 4, 5)
"""Layers of rope on the drum."""

HOOK_M: Final = 0.45
"""Where a hook commonly finds hold on a machine, above what it stands on. Common practice, no
source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Layer:
    """A layer of rope to choose."""

    number: int
    here: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class PullPage:
    """The boxes and what comes of them. Without a winch in the book there are no figures."""

    has_winch: bool
    rolls: list[tuple[str, str]]
    roll: str
    layers: list[Layer]
    doubled: bool
    hook: str
    wrong: str
    status: str
    line: str
    winch: str
    anchor: str
    assumed: str
    opened: bool


def pull_page(
    draft: Draft, plan: Plan, index: int, one: Way, asked: Mapping[str, Any], unit: UnitSystem
) -> PullPage:
    """What it takes to pull one machine on."""
    roll = _roll(asked, tracked=len(plan.items[index].contacts) == 1)
    layer = next((n for n in LAYERS if str(n) == asked.get("layer")), 1)
    doubled = bool(asked.get("doubled"))
    typed = str(asked.get("hook", ""))[:40]
    hook, wrong = HOOK_M, ""
    if typed.strip():
        try:
            hook = float(read_length(typed, unit.length_unit).si)
        except ReadingError as error:
            wrong = str(error)
    winch = draft.winch
    status, line, drum, anchor, assumed = Status.UNKNOWN, "", "", "", ""
    if winch is not None and one.walk is not None and one.path is not None and not wrong:
        found = haulage(
            one.walk,
            one.path,
            rating_kg=winch.rating_kg,
            winch_height_m=winch.height_m or 0.0,
            hook_height_m=hook,
            rolling=roll.resistance,
            layer=layer,
            doubled=doubled,
        )
        status = rated(found.winch_kg, found.can_kg)
        angle = write_number(found.line_degrees)
        line = f"{write_mass(found.line_kg, unit)} in the line, which runs at {angle}° there"
        drum = (
            f"{write_mass(found.winch_kg, unit)} at the drum; on layer {layer} the winch pulls "
            f"{write_mass(found.can_kg, unit)}"
        )
        anchor, status = _anchor(found.anchor_kg, winch.anchor_kg, status, unit)
        if winch.height_m is None:
            assumed = "The winch is taken to stand on the deck at its front edge."
    return PullPage(
        has_winch=winch is not None,
        rolls=[(one_way.value, words) for one_way, words in ROLLS.items()],
        roll=roll.value,
        layers=[Layer(number=n, here=n == layer) for n in LAYERS],
        doubled=doubled,
        hook=typed or write_length(HOOK_M, unit, step=1),
        wrong=wrong,
        status=status.value,
        line=line,
        winch=drum,
        anchor=anchor,
        assumed=assumed,
        opened=bool(asked.get("roll")),
    )


def _roll(asked: Mapping[str, Any], *, tracked: bool) -> Rolling:
    usual = Rolling.TRACKS if tracked else Rolling.TIRES_ON_GRAVEL
    return next((one for one in Rolling if one.value == asked.get("roll")), usual)


def _anchor(
    pull_kg: float, holds_kg: float | None, status: Status, unit: UnitSystem
) -> tuple[str, Status]:
    """What the mount has to hold, and the worse of the two verdicts."""
    words = f"its mount and the line's end have to hold {write_mass(pull_kg, unit)}"
    if holds_kg is None:
        worse = max(status, Status.UNKNOWN, key=lambda one: one.severity)
        return f"{words}; what they hold is not known", worse
    worse = max(status, rated(pull_kg, holds_kg), key=lambda one: one.severity)
    return f"{words} of {write_mass(holds_kg, unit)}", worse
