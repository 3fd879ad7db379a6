"""What one limit is: a figure to compare, and the same as linear constraints.

The two forms serve two questions. :mod:`mechanics.checks` compares ``value`` with
``limit`` where the items stand. :mod:`mechanics.windows` asks where else they might
stand, and needs each limit as a form that is linear in one item's place and bilinear in
its mass and balance point (see :class:`Form`).
"""

from __future__ import annotations

from collections.abc import Callable
from enum import Enum
from typing import NamedTuple

from mechanics.item import TOUCH_M
from mechanics.loads import Loads
from mechanics.rules import NEAR_RATING

ROUNDING = 1e-9
"""Part of a limit by which a value may pass it through rounding alone."""

SAME_SIZE_M = 0.0003
"""Ball and coupler sizes this close are one size: 50 mm is sold as 1 31/32 in, while 2 in,
the next size up, is 0.8 mm larger and is another."""


class Quantity(Enum):
    """What kind of figure a limit compares, so that the edge knows its unit."""

    MASS = "mass"
    LENGTH = "length"
    SHARE = "share"


class Sense(Enum):
    """Which side of the limit is right."""

    AT_MOST = "at_most"
    AT_LEAST = "at_least"
    EQUAL = "equal"


class Form(NamedTuple):
    """``const + me Me + te Te + sum m (a + b x + c y) <= 0`` says that a limit holds.

    ``Me``, ``Te`` are the empty trailer's mass and tongue, ``x`` an item's balance point
    behind the coupler, ``y`` to the left. ``const_tolerance`` is how much worse the
    constant gets when the truck's cargo is as unlucky as its tolerances allow. A
    constant of infinity says that nothing can make the limit hold. ``scale`` is what
    rounding is measured against.
    """

    const: float
    const_tolerance: float = 0.0
    me: float = 0.0
    te: float = 0.0
    a: float = 0.0
    b: float = 0.0
    c: float = 0.0
    scale: float = 1.0


class Limit(NamedTuple):
    """One limit with the value found against it.

    ``read`` takes the value from the loads of this plan with the items elsewhere;
    ``None`` where the value is not a load.
    ``limit`` is ``None`` where the plan does not give it; ``missing`` then names the
    absent input. ``near`` is the part of the limit above which reserve is short, or
    ``None`` for limits that are never near; ``near_below`` the value below which it is
    short of a least allowed one. ``soft`` limits call for a look, not a stop; ``strict``
    ones are passed at the limit itself.
    """

    code: str
    quantity: Quantity
    value: float
    limit: float | None
    read: Callable[[Loads], float] | None = None
    item: str | None = None
    sense: Sense = Sense.AT_MOST
    near: float | None = None
    soft: bool = False
    missing: str | None = None
    forms: tuple[Form, ...] = ()
    near_below: float | None = None
    strict: bool = False

    @property
    def size(self) -> float:
        """What a margin is a part of: the limit, or with a limit of zero the reserve wanted."""
        return abs(self.limit or 0.0) or abs(self.near_below or 0.0) or 1e-6


def passes(
    value: float, limit: float, sense: Sense, quantity: Quantity, *, strict: bool = False
) -> bool:
    """Whether a value is on the right side of its limit, rounding forgiven.

    ``strict`` wants it truly beyond: an axle that carries nothing is off the ground.
    """
    if strict:
        return value < limit if sense is Sense.AT_MOST else value > limit
    if quantity is Quantity.LENGTH:
        slack = TOUCH_M
    elif quantity is Quantity.SHARE:
        slack = ROUNDING
    else:
        slack = ROUNDING * max(abs(limit), 1.0)
    if sense is Sense.EQUAL:
        return abs(value - limit) <= SAME_SIZE_M
    if sense is Sense.AT_MOST:
        return value <= limit + slack
    return value >= limit - slack


def mass_limit(
    code: str,
    loads: Loads,
    read: Callable[[Loads], float],
    limit: float | None,
    *,
    missing: str | None = None,
    near: float = NEAR_RATING,
    forms: tuple[Form, ...] = (),
) -> Limit:
    """A limit on a load that may be at most ``limit`` kilograms; ``missing`` names the absent
    input where it is ``None``."""
    return Limit(
        code=code,
        quantity=Quantity.MASS,
        value=read(loads),
        limit=limit,
        read=read,
        near=near,
        missing=missing if limit is None else None,
        forms=forms if limit is not None else (),
    )
