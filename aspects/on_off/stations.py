"""Where on its way a machine is, in words a person beside it would use."""

from __future__ import annotations

from typing import Final

from measures.writing import UnitSystem, write_length
from mechanics.item import Facing, Item
from mechanics.loading import Path, Station
from mechanics.loading.path import Walk
from mechanics.loading.terrain import Part

AT_EDGE_M: Final = 0.02
"""Nearer to an edge than this, wheels are said to be at it."""


class Wheels:
    """What the two contacts of a machine are called: the one that leads, and the one behind; in
    short where there is little room."""

    def __init__(self, item: Item) -> None:
        tracks = len(item.contacts) == 1
        front, rear = (
            ("front of the tracks", "rear of the tracks")
            if tracks
            else ("front wheels", "rear wheels")
        )
        forward = item.placement.facing is Facing.FORWARD
        self.lead, self.trail = (front, rear) if forward else (rear, front)
        ends = ("tracks, front", "tracks, rear") if tracks else (front, rear)
        self.lead_short, self.trail_short = ends if forward else ends[::-1]


class Teller:
    """Says where a machine is on its way."""

    def __init__(self, item: Item, walk: Walk, unit: UnitSystem) -> None:
        self.wheels, self.walk, self.unit = Wheels(item), walk, unit
        hinged = walk.up is not None
        self.edge = "hinge" if hinged else "tail edge"

    def place(self, station: Station) -> str:
        """``front wheels 6 ft 1 in past the tail edge, rear wheels on the ramp``."""
        stance, ground = station.stance, self.walk.ground
        lead = self._contact(self.wheels.lead, stance.lead_x, level=stance.level)
        if ground.part(stance.lead_x) is Part.GROUND:
            return f"{self.wheels.lead} meet the {self.ramp}"
        trail = self._contact(self.wheels.trail, stance.trail_x, level=stance.level)
        return f"{lead}, {trail}"

    def moment(self, station: Station) -> str:
        """When it is: ``when the rear wheels leave the ramp``."""
        stance, ground = station.stance, self.walk.ground
        if abs(stance.trail_x - ground.edge_m) < AT_EDGE_M:
            return f"when the {self.wheels.trail} leave the {self.ramp}"
        if abs(stance.lead_x - ground.edge_m) < AT_EDGE_M:
            return f"when the {self.wheels.lead} reach the {self.edge}"
        if ground.part(stance.lead_x) is Part.GROUND:
            return f"when the {self.wheels.lead} meet the {self.ramp}"
        if abs(stance.trail_x - ground.foot_m) < AT_EDGE_M:
            return f"when the {self.wheels.trail} meet the {self.ramp}"
        if station.lead_m <= self.walk.end_m:
            return "at its mark"
        return f"with the {self._contact(self.wheels.lead, stance.lead_x, level=stance.level)}"

    @property
    def ramp(self) -> str:
        """What it drives up."""
        ramp = self.walk.plan.trailer.ramp
        return {"gate": "gate", "tilt": "deck"}.get("" if ramp is None else ramp.kind.value, "ramp")

    def _contact(self, name: str, x: float, *, level: bool) -> str:
        part = Part.DECK if level else self.walk.ground.part(x)
        edge = self.walk.ground.edge_m
        if part is Part.GROUND:
            return f"{name} on the ground"
        if abs(x - edge) < AT_EDGE_M:
            return f"{name} at the {self.edge}"
        away = write_length(abs(edge - x), self.unit, step=1)
        if part is Part.RAMP:
            return f"{name} {away} short of the {self.edge}"
        return f"{name} {away} past the {self.edge}"


APART_M: Final = 0.002
"""Stations nearer to each other than this are one to a hand on the slider."""

ROCKS: Final = 0.01
"""A pitch that changes by more than this between them, in radians, is seen all the same."""


def played(path: Path) -> tuple[Station, ...]:
    """The stations that the page plays: none that a step of the slider would not show."""
    kept: list[Station] = []
    for station in path.stations:
        if kept and kept[-1].lead_m - station.lead_m < APART_M:
            rocks = abs(kept[-1].stance.pitch - station.stance.pitch) > ROCKS
            if station is path.lowest:
                kept[-1] = station
                continue
            if not rocks:
                continue
        kept.append(station)
    if kept[-1] is not path.stations[-1] and kept[-1] is not path.lowest:
        kept[-1] = path.stations[-1]
    return tuple(kept)
