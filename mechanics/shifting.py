"""What of a load has to go how far forward or back, so that the tongue carries what it should.

Moving a mass ``m`` a distance ``d`` forward puts ``m d / l`` more on the coupler, ``l`` from the
coupler to the middle of the axles (statics of a beam on two supports).
"""

from __future__ import annotations

from math import ceil, sqrt
from typing import Final

from mechanics.errors import InputError

WHOLE: Final = 1e-9
"""A number of pieces that is over by no more than rounding is not rounded up once more."""


def move_m(*, load_kg: float, tongue_kg: float, lever_m: float) -> float:
    """How far a whole load goes forward, negative back, for ``tongue_kg`` more on the coupler.

    Raises:
        InputError: a load or lever that is not greater than zero.
    """
    _refuse(load=load_kg, lever=lever_m)
    return tongue_kg * lever_m / load_kg


def carried_kg(
    *, load_kg: float, length_m: float, tongue_kg: float, lever_m: float
) -> float | None:
    """How much of a load that lies evenly over ``length_m`` is taken from one end of it and laid
    onto the other, forward or back as ``tongue_kg`` has its sign; ``None`` where even half of it
    is not enough.

    What is taken is the outermost part ``x`` of the mass ``M``; laid down as long as it lay, its
    middle has gone ``L (1 - x / M)``.

    Raises:
        InputError: a load, length or lever that is not greater than zero.
    """
    _refuse(load=load_kg, length=length_m, lever=lever_m)
    part = 4 * abs(tongue_kg) * lever_m / (load_kg * length_m)
    if part > 1:
        return None
    return load_kg / 2 * (1 - sqrt(1 - part))


def carried_pieces(
    *, count: int, piece_kg: float, length_m: float, tongue_kg: float, lever_m: float
) -> int | None:
    """The same in whole pieces, rounded up; ``None`` where half of them is not enough.

    Raises:
        InputError: no piece, or a mass, length or lever that is not greater than zero.
    """
    _refuse(count=count, piece=piece_kg)
    kg = carried_kg(
        load_kg=count * piece_kg, length_m=length_m, tongue_kg=tongue_kg, lever_m=lever_m
    )
    if kg is None:
        return None
    pieces = ceil(kg / piece_kg - WHOLE)
    return pieces if 2 * pieces <= count else None


def _refuse(**figures: float) -> None:
    for name, value in figures.items():
        if not value > 0:
            raise InputError(name, "a figure greater than zero")
