"""A machine's mass and balance point, built up from parts or read off two axles.

Places are ``ahead`` of the reference mark, positive towards the machine's own front;
heights are above the ground the machine stands on. Tolerances are taken at their worst
together, never averaged, because the sure window promises every combination at once.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from mechanics.errors import BalanceError, InputError

ROUNDS = 50
"""Steps in which the worst balance point is found; it takes three or four."""

CLOSE_M = 1e-12
"""Two balance points closer than this are the same."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Piece:
    """One part of a machine with its own balance point.

    ``removed`` takes the part off a whole that was weighed with it on. The height may be
    unknown; a piece without one leaves the height of the whole unknown.
    """

    mass_kg: float
    ahead_m: float
    mass_tolerance_kg: float = 0.0
    ahead_tolerance_m: float = 0.0
    left_m: float = 0.0
    height_m: float | None = None
    removed: bool = False
    name: str = ""

    def __post_init__(self) -> None:
        if not self.mass_kg > 0:
            raise InputError("parts.mass", "a mass greater than zero")
        if not self.mass_tolerance_kg >= 0:
            raise InputError("parts.mass_tolerance", "zero or more")
        if not self.ahead_tolerance_m >= 0:
            raise InputError("parts.ahead_tolerance", "zero or more")

    @property
    def signed_kg(self) -> float:
        """What the piece adds to the whole; negative where it is taken off."""
        return -self.mass_kg if self.removed else self.mass_kg


@dataclass(frozen=True, kw_only=True, slots=True)
class Body:
    """The whole: mass, balance point, and how far both may be from the truth."""

    mass_kg: float
    mass_tolerance_kg: float
    ahead_m: float
    ahead_tolerance_m: float
    left_m: float = 0.0
    height_m: float | None = None


def build_up(pieces: Sequence[Piece]) -> Body:
    """The sum of the pieces.

    The mass tolerance is the sum of theirs. The balance tolerance is the furthest that
    the common balance point moves, either way, over every mass and place in their ranges.

    Raises:
        InputError: no pieces, or so much taken off that nothing may be left.
    """
    mass = sum(p.signed_kg for p in pieces)
    tolerance = sum(p.mass_tolerance_kg for p in pieces)
    if not pieces or not mass > 0:
        raise InputError("parts", "parts that weigh more than what is taken off")
    if not mass - tolerance > 0:
        raise InputError("parts", "masses known well enough that something is left for sure")
    moment = sum(p.signed_kg * p.ahead_m for p in pieces)
    ahead = moment / mass
    left = sum(p.signed_kg * p.left_m for p in pieces) / mass
    height: float | None = None
    if all(p.height_m is not None for p in pieces):
        height = sum(p.signed_kg * (p.height_m or 0.0) for p in pieces) / mass
    residual = sum(p.signed_kg * (p.ahead_m - ahead) for p in pieces)
    if abs(residual) > 1e-9 * max(1.0, sum(abs(p.signed_kg * p.ahead_m) for p in pieces)):
        raise BalanceError("moment of the parts about their balance point", residual)
    worst = max(_furthest(pieces, ahead, 1) - ahead, ahead - _furthest(pieces, ahead, -1))
    return Body(
        mass_kg=mass,
        mass_tolerance_kg=tolerance,
        ahead_m=ahead,
        ahead_tolerance_m=max(worst, 0.0),
        left_m=left,
        height_m=height,
    )


def _furthest(pieces: Sequence[Piece], start: float, way: int) -> float:
    """The common balance point furthest ahead (``way`` 1) or behind (-1).

    The greatest quotient of two sums over a box: at a trial point every piece stands at
    the corner that pulls hardest, the balance point of those corners is the next trial,
    and it ends after as many changes of corners as there are, mostly two or three.
    """
    at = start
    for _ in range(ROUNDS):
        mass = moment = 0.0
        for p in pieces:
            sign = -1 if p.removed else 1
            place = p.ahead_m + way * sign * p.ahead_tolerance_m
            pull = way * sign * (place - at)
            corner = sign * (
                p.mass_kg + (p.mass_tolerance_kg if pull > 0 else -p.mass_tolerance_kg)
            )
            mass += corner
            moment += corner * place
        found = moment / mass
        if abs(found - at) <= CLOSE_M:
            return found
        at = found
    return at


def from_two_axles(
    *,
    front_kg: float,
    rear_kg: float,
    wheelbase_m: float,
    mark_ahead_of_rear_axle_m: float = 0.0,
    reading_tolerance_kg: float = 0.0,
    tape_tolerance_m: float = 0.0,
) -> Body:
    """A machine whose two axles were weighed one by one, which gives both figures exactly.

    The balance point lies ``front / (front + rear)`` of the wheelbase ahead of the rear
    axle. ``reading_tolerance_kg`` is of each reading. The tape's part is added to what
    the readings leave open.

    Raises:
        InputError: a reading or the wheelbase is not greater than zero, or a tolerance is
            as large as its reading.
    """
    if not front_kg > reading_tolerance_kg:
        raise InputError("front_axle_mass", "a reading greater than its tolerance")
    if not rear_kg > reading_tolerance_kg:
        raise InputError("rear_axle_mass", "a reading greater than its tolerance")
    if not wheelbase_m > 0:
        raise InputError("wheelbase", "a length greater than zero")
    t = reading_tolerance_kg
    body = build_up(
        (
            Piece(mass_kg=front_kg, mass_tolerance_kg=t, ahead_m=wheelbase_m, name="front axle"),
            Piece(mass_kg=rear_kg, mass_tolerance_kg=t, ahead_m=0.0, name="rear axle"),
        )
    )
    return Body(
        mass_kg=body.mass_kg,
        mass_tolerance_kg=body.mass_tolerance_kg,
        ahead_m=body.ahead_m - mark_ahead_of_rear_axle_m,
        ahead_tolerance_m=body.ahead_tolerance_m + tape_tolerance_m,
    )
