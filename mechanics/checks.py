"""Each limit compared with its value: findings with a stable code, never exceptions."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import Enum

from mechanics.codes import Code, Family, read_code
from mechanics.limits import ROUNDING, Limit, Quantity, Sense, passes
from mechanics.rules import LIGHT


class Status(str, Enum):
    """What a check says. ``UNKNOWN`` never counts as ok."""

    OK = "ok"
    NEAR = "near"
    UNKNOWN = "unknown"
    OVER = "over"

    @property
    def severity(self) -> int:
        """Rank in the verdict: ok, near, unknown, over."""
        return _SEVERITY[self]


_SEVERITY = {Status.OK: 0, Status.NEAR: 1, Status.UNKNOWN: 2, Status.OVER: 3}


@dataclass(frozen=True, kw_only=True, slots=True)
class Check:
    """One finding.

    ``margin`` is limit less value, or value less limit for a least allowed figure; of two
    sizes that have to be equal it is zero or, negative, what they differ by.
    ``limit`` and ``margin`` are ``None`` exactly when the status is unknown, and
    ``missing`` then names the absent input. ``near_at`` is the value above which (of a
    least allowed figure: below which) reserve is short, for drawing it.
    """

    code: str
    item: str | None
    quantity: Quantity
    sense: Sense
    status: Status
    value: float
    limit: float | None
    margin: float | None
    missing: tuple[str, ...] = ()
    near_at: float | None = None

    @property
    def about(self) -> Code:
        """What the code is about."""
        return read_code(self.code)

    @property
    def reserve(self) -> float | None:
        """Margin as a part of the limit; ``None`` without a limit or with one of zero."""
        if self.margin is None or not self.limit:
            return None
        return self.margin / abs(self.limit)

    @property
    def unhitched_kg(self) -> float:
        """What the axle of a check that it stays on the ground carried unhitched."""
        return (self.near_at or 0.0) / LIGHT

    @property
    def room_left(self) -> float | None:
        """What is left of a limit as a part of it; of an axle on the ground, of what it carried
        unhitched. ``None`` where there is nothing to compare with."""
        if self.about.family is not Family.TRUCK_LIGHT:
            return self.reserve
        return self.value / self.unhitched_kg if self.unhitched_kg > 0 else None


def judge(limit: Limit) -> Check:
    """Compare one limit with its value.

    Past the limit is over; exactly on it is not, but for an axle that carries nothing.
    Soft limits are near when passed.
    """
    bound = limit.limit
    if bound is None:
        return Check(
            code=limit.code,
            item=limit.item,
            quantity=limit.quantity,
            sense=limit.sense,
            status=Status.UNKNOWN,
            value=limit.value,
            limit=None,
            margin=None,
            missing=(limit.missing or limit.code,),
        )
    near_at = limit.near_below if limit.near is None else limit.near * bound
    if not passes(limit.value, bound, limit.sense, limit.quantity, strict=limit.strict):
        status = Status.NEAR if limit.soft else Status.OVER
    elif limit.near_below is not None:
        status = Status.NEAR if limit.value < limit.near_below else Status.OK
    elif near_at is not None and limit.value > near_at * (1 + ROUNDING):
        status = Status.NEAR
    else:
        status = Status.OK
    if limit.sense is Sense.EQUAL:
        margin = -abs(limit.value - bound)
    elif limit.sense is Sense.AT_MOST:
        margin = bound - limit.value
    else:
        margin = limit.value - bound
    return Check(
        code=limit.code,
        item=limit.item,
        quantity=limit.quantity,
        sense=limit.sense,
        status=status,
        value=limit.value,
        limit=bound,
        margin=margin,
        near_at=near_at,
    )


def worst(checks: Iterable[Check]) -> Status:
    """The verdict: the worst status, in the order over, unknown, near, ok."""
    return max((c.status for c in checks), key=lambda s: s.severity, default=Status.OK)
