"""Writing a loading file: every machine's way on, in the units of the plan it answers."""

from __future__ import annotations

import math
from typing import Any

from mechanics.loading import LoadingReport, Station, Way
from planfile.compared import written
from planfile.convert import Scale


def loading_document(report: LoadingReport, unit: Scale) -> dict[str, Any]:
    """The loading file: full precision, nothing rounded."""
    return {
        "format": "eyebolt.loading",
        "version": 1,
        "units": unit.words,
        "items": [_way(way, unit) for way in report.ways],
        "verdict": report.verdict.value,
    }


def _way(way: Way, unit: Scale) -> dict[str, Any]:
    if way.walk is None or way.path is None:
        return {"item": way.item, "missing": list(way.missing)}
    path = way.path
    lowest, worst, closest = path.lowest, path.worst_hold, path.closest
    shift = lowest.carried.slope_shift_kg
    return {
        "item": way.item,
        "missing": [],
        "ramp_angle": math.degrees(way.walk.ground.angle),
        "stations": [_station(station, unit) for station in path.stations],
        "lowest": _station(lowest, unit),
        "worst_hold": None if worst is None else _station(worst, unit),
        "slope_shift": None if shift is None else shift / unit.kg,
        "clearance": None
        if closest is None or closest.gap is None
        else {
            "least": closest.gap.least_m / unit.m,
            "lead": closest.lead_m / unit.m,
            "at": closest.gap.at.value,
        },
        "checks": [written(finding.code, finding, unit) for finding in way.findings],
    }


def _station(station: Station, unit: Scale) -> dict[str, Any]:
    stance, carried = station.stance, station.carried
    return {
        "lead": stance.lead_x / unit.m,
        "trail": stance.trail_x / unit.m,
        "pitch": math.degrees(stance.pitch),
        "lead_load": stance.lead_kg / unit.kg,
        "trail_load": stance.trail_kg / unit.kg,
        "tail_edge": station.edge_kg / unit.kg,
        "tongue": carried.tongue_kg / unit.kg,
        "tongue_free": carried.free_kg / unit.kg,
        "stand": carried.stand_kg / unit.kg,
        "axles": [axle / unit.kg for axle in carried.axles_kg],
        "truck_front": carried.front_kg / unit.kg,
        "truck_rear": carried.rear_kg / unit.kg,
        "hold": station.hold,
        "state": carried.state.value,
    }
