"""What a trailer is loaded over: ramps or gate, dovetail, stands, a bed that lifts."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from mechanics.errors import InputError


class RampKind(str, Enum):
    """What a machine is driven on over."""

    RAMPS = "ramps"
    GATE = "gate"
    TILT = "tilt"


@dataclass(frozen=True, kw_only=True, slots=True)
class Ramp:
    """Ramps, a gate, or the part of a deck that tilts, ``length_m`` from tail edge to foot.

    ``rating_kg`` is of all ramps together. ``feet`` says that they stand on legs at the
    tail edge and so hold the trailer up there.
    """

    kind: RampKind
    length_m: float
    rating_kg: float | None = None
    feet: bool = False

    def __post_init__(self) -> None:
        if not self.length_m > 0:
            raise InputError("trailer.ramp.length", "a length greater than zero")
        if self.rating_kg is not None and not self.rating_kg > 0:
            raise InputError("trailer.ramp.rating", "a mass greater than zero")


@dataclass(frozen=True, kw_only=True, slots=True)
class Dovetail:
    """The deck's last ``length_m``, which falls by ``drop_m``."""

    length_m: float
    drop_m: float

    def __post_init__(self) -> None:
        if not self.length_m > 0:
            raise InputError("trailer.dovetail.length", "a length greater than zero")
        if not self.drop_m >= 0:
            raise InputError("trailer.dovetail.drop", "zero or more")


@dataclass(frozen=True, kw_only=True, slots=True)
class Stands:
    """Support stands, ``gap_m`` above the ground once they are dropped.

    ``position_m`` is behind the coupler, ``None`` at the deck's own end.
    """

    gap_m: float
    position_m: float | None = None
    rating_kg: float | None = None

    def __post_init__(self) -> None:
        if not self.gap_m >= 0:
            raise InputError("trailer.stands.gap", "zero or more")
        if self.rating_kg is not None and not self.rating_kg > 0:
            raise InputError("trailer.stands.rating", "a mass greater than zero")


@dataclass(frozen=True, kw_only=True, slots=True)
class Bed:
    """A dump bed: hinge and balance point behind the coupler. ``latched`` cannot lift."""

    hinge_m: float
    mass_kg: float
    balance_m: float
    latched: bool = False

    def __post_init__(self) -> None:
        if not self.mass_kg > 0:
            raise InputError("trailer.bed.mass", "a mass greater than zero")
