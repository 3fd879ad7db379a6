"""What findings of the way on and of ties have in common: a figure against its limit."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from mechanics.checks import Status
from mechanics.limits import ROUNDING
from mechanics.rules import NEAR_RATING


class Measure(Enum):
    """What kind of figure a finding compares, so that the edge knows its unit."""

    MASS = "mass"
    LENGTH = "length"
    MOMENT = "moment"
    RATIO = "ratio"
    DEGREES = "degrees"
    COUNT = "count"
    G = "g"


@dataclass(frozen=True, kw_only=True, slots=True)
class Compared:
    """A figure against its limit, in SI.

    ``margin`` is limit less value of a most, value less limit of a least. Without a value there
    is nothing to compare; where that is because an input is absent the status is unknown and
    ``missing`` names it.
    """

    measure: Measure
    status: Status
    value: float | None
    limit: float | None
    margin: float | None
    missing: tuple[str, ...] = ()


def rated(value: float, rating: float) -> Status:
    """A load against a rating: over past it, near within a tenth of it; exactly on it is not
    over, and a rounding error is not past."""
    if value > rating * (1 + ROUNDING):
        return Status.OVER
    if value > NEAR_RATING * rating * (1 + ROUNDING):
        return Status.NEAR
    return Status.OK
