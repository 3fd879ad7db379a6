"""Finding the brake gain step by step, and keeping it for truck, trailer and load."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from typing import Final

from hauls.models import Haul
from measures import UnitSystem
from measures.writing import in_units_of, write_mass
from mechanics.loads import compute_loads
from planfile.draft import glance
from planfile.errors import PlanFileError
from road.models import BrakeGain
from wording.phrases import NOBODY
from yards.models import User

STEPS: Final = (
    ("Level, dry and empty road", "Nobody behind. Brakes are tried at about {20 mph|30 km/h}."),
    ("Set the gain to the middle", "On most controllers 5 of 10."),
    ("Roll at {20 mph|30 km/h}", "Straight on. Foot off, no truck brake."),
    ("Squeeze the manual lever all the way", "Feel and hear the trailer pull."),
    ("It hardly pulls?", "Half a step more, and again."),
    ("The wheels lock?", "Half a step less: just short of locking is right."),
    ("Once more with the truck's brake", "It stops straight, and does not push or jerk."),
)
"""The routine, one step to a look: what to do, and what goes with it. Common practice, no
source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class KeptGain:
    """A setting that was kept: for what, by whom."""

    value: str
    words: str
    mine: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class GainStep:
    """One step of the routine."""

    number: int
    words: str
    more: str


def steps(unit: UnitSystem) -> tuple[GainStep, ...]:
    """The routine in the person's units."""
    return tuple(
        GainStep(number=n, words=in_units_of(words, unit), more=in_units_of(more, unit))
        for n, (words, more) in enumerate(STEPS, 1)
    )


def loaded_trailer_kg(haul: Haul) -> float | None:
    """The loaded trailer by the plan; ``None`` where that cannot be read."""
    try:
        return compute_loads(haul.draft.plan).trailer.mass_kg
    except PlanFileError:
        return None


def keep_gain(haul: Haul, value: Decimal, *, user: User, at: datetime) -> BrakeGain | None:
    """Keep what was found with a haul; ``None`` where its truck or trailer is not in the book."""
    if haul.truck is None or haul.trailer is None:
        return None
    return BrakeGain.objects.create(
        yard=haul.yard,
        truck=haul.truck,
        trailer=haul.trailer,
        haul=haul,
        load=(", ".join(glance(haul.document).items) or "empty")[:300],
        trailer_kg=loaded_trailer_kg(haul),
        value=value,
        by=user,
        at=at,
    )


def kept_gains(haul: Haul, unit: UnitSystem, most: int = 4) -> Sequence[KeptGain]:
    """Settings of the same truck and trailer, the one with the nearest load first; with a load as
    near, the newest."""
    found = list(
        BrakeGain.objects.filter(
            yard=haul.yard, truck=haul.truck_id, trailer=haul.trailer_id
        ).select_related("by")[:100]
    )
    here = loaded_trailer_kg(haul)

    def apart(one: BrakeGain) -> float:
        return (
            float("inf") if one.trailer_kg is None or here is None else abs(one.trailer_kg - here)
        )

    return [
        KeptGain(
            value=str(one.value.normalize()), words=_words(one, unit), mine=one.haul_id == haul.pk
        )
        for one in sorted(found, key=apart)[:most]
    ]


def _words(one: BrakeGain, unit: UnitSystem) -> str:
    weighs = "" if one.trailer_kg is None else f", trailer {write_mass(one.trailer_kg, unit)}"
    who = one.by.shown_name if one.by else NOBODY
    return f"{one.load}{weighs}; {who}, {one.at:%d %b %Y}"
