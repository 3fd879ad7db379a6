"""What is found along the way on: limits with a stable code, never exceptions."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import Enum
from typing import Final

from mechanics.checks import Status
from mechanics.finding import Compared, Measure, rated
from mechanics.limits import ROUNDING
from mechanics.loading.outfit import Outfit
from mechanics.loading.path import Path, Station, Walk

HOLDS_WELL: Final = 1.5
"""Below so many times the push the hold is short of reserve. An assumption, no source."""

TIRES_GIVE_M: Final = 0.05
"""Clearance that tires use up: contacts are points here, tires and springs give."""

STEEP_DEGREES: Final = 15.0
"""A ramp steeper than this calls for a look. Common practice, no source."""

TIP_SHARE: Final = 0.2
"""Part of the machine's mass on its higher contact below which it is near tipping. An
assumption, no source."""

REAR_SHARE: Final = 0.5
"""Part of its unhitched load below which the truck's rear axle is near lifting. An
assumption, no source."""


class Subject(Enum):
    """What a finding is about. ``{}`` stands for an axle's number."""

    TRUCK_REAR = "loading.truck_rear"
    TONGUE = "loading.tongue"
    HOLD = "loading.hold"
    STAND = "loading.stand"
    RAMP = "loading.ramp"
    AXLE = "loading.axle_{}"
    TIP = "loading.tip"
    CLEARANCE = "loading.clearance"
    ANGLE = "loading.angle"
    BED = "loading.bed"
    TILT = "loading.tilt"


@dataclass(frozen=True, kw_only=True, slots=True)
class Finding(Compared):
    """One limit on the way on. ``station`` is where it is worst, ``None`` where it is the same
    everywhere."""

    subject: Subject
    which: str = ""
    station: Station | None = None

    @property
    def code(self) -> str:
        """The code as the file has it."""
        return self.subject.value.format(self.which)


def findings(walk: Walk, path: Path, index: int) -> tuple[Finding, ...]:
    """Every finding of one machine's way, in the order of their codes."""
    return tuple(_findings(walk, path, index))


def _findings(walk: Walk, path: Path, index: int) -> Iterator[Finding]:
    outfit, trailer = walk.outfit, walk.plan.trailer
    yield _rear(outfit, path.lightest_rear)
    lowest = path.lowest
    low = lowest.tongue_kg
    yield _least(Subject.TONGUE, Measure.MASS, low, 0.0, lowest, near=0.0, soft=True)
    yield _hold(path.worst_hold)
    yield from _stand(outfit, path.stations)
    if trailer.ramp is not None and trailer.ramp.rating_kg is not None:
        most = max(path.stations, key=lambda s: s.ramp_kg)
        yield _rated(Subject.RAMP, most.ramp_kg, trailer.ramp.rating_kg, most)
    for number, axle in enumerate(trailer.axles):
        if axle.gawr_kg is not None:
            most = max(path.stations, key=lambda s: s.carried.axles_kg[number])
            yield _axle(most.carried.axles_kg[number], axle.gawr_kg, number + 1, most)
    yield _tip(path.stations)
    yield _clearance(path, index)
    yield _angle(walk)
    yield from _bed(path.stations)
    if walk.up is not None:
        yield _tilt(walk)


def _rear(outfit: Outfit, station: Station) -> Finding:
    near = REAR_SHARE * outfit.rear_kg
    value = station.carried.rear_kg
    return _least(Subject.TRUCK_REAR, Measure.MASS, value, 0.0, station, near=near, strict=True)


def _least(
    subject: Subject,
    measure: Measure,
    value: float,
    limit: float,
    station: Station | None,
    *,
    near: float,
    soft: bool = False,
    strict: bool = False,
) -> Finding:
    """A figure that may be no less than its limit, and is short of reserve below ``near``.

    ``soft`` ones call for a look when passed; ``strict`` ones are passed at the limit itself.
    """
    status = Status.OK
    if not soft and (value < limit or (strict and value == limit)):
        status = Status.OVER
    elif value < near:
        status = Status.NEAR
    return Finding(
        subject=subject,
        measure=measure,
        status=status,
        value=value,
        limit=limit,
        margin=value - limit,
        station=station,
    )


def _hold(worst: Station | None) -> Finding:
    if worst is None or worst.hold is None:
        return Finding(
            subject=Subject.HOLD,
            measure=Measure.RATIO,
            status=Status.OK,
            value=None,
            limit=1.0,
            margin=None,
        )
    return _least(Subject.HOLD, Measure.RATIO, worst.hold, 1.0, worst, near=HOLDS_WELL)


def _stand(outfit: Outfit, stations: Sequence[Station]) -> Iterator[Finding]:
    """The stands' rating against what they carry, or would if the trailer's springs gave way:
    what stands on the tail edge."""
    stands = outfit.plan.trailer.stands
    if outfit.prop is None or not outfit.prop.stands or stands is None or stands.rating_kg is None:
        return
    bearing = [s for s in stations if s.carried.stand_kg > 0]
    most = max(bearing, key=_on_stand, default=None)
    value = 0.0 if most is None else _on_stand(most)
    yield _rated(Subject.STAND, value, stands.rating_kg, most)


def _on_stand(station: Station) -> float:
    return max(station.carried.stand_kg, station.edge_kg)


def _rated(subject: Subject, value: float, rating: float, station: Station | None) -> Finding:
    return Finding(
        subject=subject,
        measure=Measure.MASS,
        status=rated(value, rating),
        value=value,
        limit=rating,
        margin=rating - value,
        station=station,
    )


def _axle(value: float, gawr: float, number: int, station: Station) -> Finding:
    """A trailer axle against its rating: at a crawl a little over calls for a look only."""
    return Finding(
        subject=Subject.AXLE,
        which=str(number),
        measure=Measure.MASS,
        status=Status.NEAR if value > gawr * (1 + ROUNDING) else Status.OK,
        value=value,
        limit=gawr,
        margin=gawr - value,
        station=station,
    )


def _tip(stations: Sequence[Station]) -> Finding:
    pitched = [s for s in stations if s.high_share is not None]
    worst = min(pitched, key=lambda s: s.high_share or 0.0, default=None)
    if worst is None or worst.high_share is None:
        return Finding(
            subject=Subject.TIP,
            measure=Measure.RATIO,
            status=Status.OK,
            value=None,
            limit=0.0,
            margin=None,
        )
    return _least(
        Subject.TIP, Measure.RATIO, worst.high_share, 0.0, worst, near=TIP_SHARE, strict=True
    )


def _clearance(path: Path, index: int) -> Finding:
    closest = path.closest
    if closest is None or closest.gap is None:
        return Finding(
            subject=Subject.CLEARANCE,
            measure=Measure.LENGTH,
            status=Status.UNKNOWN,
            value=None,
            limit=None,
            margin=None,
            missing=(f"items[{index}].underside",),
        )
    return _least(
        Subject.CLEARANCE,
        Measure.LENGTH,
        closest.gap.least_m,
        0.0,
        closest,
        near=TIRES_GIVE_M,
    )


def _angle(walk: Walk) -> Finding:
    degrees = math.degrees(walk.ground.angle)
    return Finding(
        subject=Subject.ANGLE,
        measure=Measure.DEGREES,
        status=Status.NEAR if degrees > STEEP_DEGREES else Status.OK,
        value=degrees,
        limit=STEEP_DEGREES,
        margin=STEEP_DEGREES - degrees,
    )


def _bed(stations: Sequence[Station]) -> Iterator[Finding]:
    worst = min(stations, key=lambda s: s.bed_margin_kg_m or 0.0)
    if worst.bed_margin_kg_m is not None:
        yield _least(Subject.BED, Measure.MOMENT, worst.bed_margin_kg_m, 0.0, worst, near=0.0)


def _tilt(walk: Walk) -> Finding:
    """Whether a tilting deck comes up: the balance point's way past its hinge at the mark."""
    stance = walk.stance(walk.end_m)
    past = walk.ground.edge_m - stance.balance_x
    return Finding(
        subject=Subject.TILT,
        measure=Measure.LENGTH,
        status=Status.OK if stance.level else Status.OVER,
        value=past,
        limit=0.0,
        margin=past,
    )
