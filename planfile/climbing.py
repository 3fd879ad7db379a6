"""What a document keeps of getting on and off beside the plan itself.

None of it takes part in a load: how far apart the ramps go, how wide a machine's tires are,
the winch, what clearances are usual for a kind, and the place where the haul is unloaded.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum
from typing import Any, Final

import msgspec

from mechanics.item import Underside
from planfile.document import Site, UndersidePoint

UNLOADING: Final = "unloading_site"
"""Where the place of unloading stands in the document's ``extra`` object."""


class Place(Enum):
    """The two ends of a haul."""

    LOADING = "loading"
    UNLOADING = "unloading"


@dataclass(frozen=True, kw_only=True, slots=True)
class RampSet:
    """Loose ramps: width of one, and how far apart their middles go; ``None``: not known.

    ``upright`` says that they, or the gate, stand up at the tail on the road.
    """

    width_m: float | None = None
    narrowest_m: float | None = None
    widest_m: float | None = None
    upright: bool = False


@dataclass(frozen=True, kw_only=True, slots=True)
class Winch:
    """A winch at the deck's front: its pull on the first layer, and what its mount holds."""

    rating_kg: float
    height_m: float | None = None
    anchor_kg: float | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Tread:
    """How wide a machine stands: middle to middle of its wheels, width of its widest tire."""

    track_m: float | None = None
    tire_m: float | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class UsualUnderside:
    """Low points that machines of a kind commonly have, at the least and at the most."""

    least: tuple[Underside, ...]
    most: tuple[Underside, ...]


Read = Callable[[Any], float | None]


def ramp_set(extra: dict[str, Any], length: Read) -> RampSet:
    """The ramps in a trailer's ``extra`` object."""
    kept = inner(extra, "ramps")
    return RampSet(
        width_m=length(kept.get("width")),
        narrowest_m=length(kept.get("narrowest")),
        widest_m=length(kept.get("widest")),
        upright=kept.get("upright") is True,
    )


def winch(extra: dict[str, Any], length: Read, mass: Read) -> Winch | None:
    """The winch in a trailer's ``extra`` object; ``None`` where there is none."""
    kept = inner(extra, "winch")
    rating = mass(kept.get("rating"))
    if rating is None:
        return None
    return Winch(
        rating_kg=rating,
        height_m=length(kept.get("height")),
        anchor_kg=mass(kept.get("anchor")),
    )


def tread(extra: dict[str, Any], length: Read) -> Tread:
    """How wide a machine stands, in its ``extra`` object."""
    kept = inner(extra, "tread")
    return Tread(track_m=length(kept.get("track")), tire_m=length(kept.get("tire")))


def usual_underside(extra: dict[str, Any], per_m: float) -> UsualUnderside | None:
    """The usual low points in an item's ``extra`` object; ``None`` where there are none."""
    kept = extra.get("usual_underside")
    try:
        read = msgspec.convert(kept, dict[str, list[UndersidePoint]])
    except msgspec.ValidationError:
        return None
    least, most = (
        tuple(
            Underside(ahead_m=p.ahead * per_m, clearance_m=p.clearance * per_m)
            for p in read.get(name, ())
        )
        for name in ("least", "most")
    )
    return UsualUnderside(least=least, most=most) if least and most else None


def unloading_site(extra: dict[str, Any]) -> Site | None:
    """The place of unloading in a document's ``extra`` object; ``None`` where there is none, or
    something else of that name."""
    kept = extra.get(UNLOADING)
    if kept is None:
        return None
    try:
        return msgspec.convert(kept, Site)
    except msgspec.ValidationError:
        return None


def inner(of: dict[str, Any], name: str) -> dict[str, Any]:
    """An object inside an ``extra`` object, which may hold anything."""
    found = of.get(name, {})
    return found if isinstance(found, dict) else {}
