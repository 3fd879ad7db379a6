"""What is said of figures that nobody measured: their names, why they are as they are, what would
replace them, and their bands, rounded outward so that they never read narrower than they are."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Final

from measures.writing import UnitSystem, write_length, write_number
from mechanics.typical import Estimate
from mechanics.units import M_PER_IN


@dataclass(frozen=True, kw_only=True, slots=True)
class Told:
    """``words`` name the figure, ``why`` says what it was taken from, ``instead`` what would say
    it."""

    words: str
    why: str
    instead: str


TOLD: Final = {
    ("truck", "empty_mass"): Told(
        words="empty weight",
        why="a usual part of the GVWR",
        instead="the sticker's payload, or a scale",
    ),
    ("truck", "front_share"): Told(
        words="how it stands on its axles",
        why="so much of an empty pickup stands in front",
        instead="a scale, one axle at a time",
    ),
    ("truck", "wheelbase"): Told(
        words="wheelbase",
        why="pickups of that rating, from a short cab to a long bed",
        instead="a tape from wheel centre to wheel centre",
    ),
    ("truck", "hitch_offset"): Told(
        words="rear axle to ball",
        why="where such hitches usually stand; with a minus ahead of the axle",
        instead="a tape from the rear wheel's centre to the ball",
    ),
    ("truck", "cargo"): Told(
        words="who rides in it",
        why="nobody is entered, so one person is counted",
        instead="saying who and what rides in it",
    ),
    ("truck", "cargo.ahead_of_rear_axle"): Told(
        words="where they sit",
        why="front seats are usually so far ahead of the rear axle",
        instead="a tape from the rear wheel's centre to the seat",
    ),
    ("trailer", "empty_mass"): Told(
        words="empty mass",
        why="trailers of its kind, rating, length and axles",
        instead="a scale, unhitched and empty",
    ),
    ("trailer", "empty_tongue_mass"): Told(
        words="empty tongue weight",
        why="frame and deck resting on coupler and axles where they stand",
        instead="a scale under the coupler",
    ),
    ("trailer", "deck.start"): Told(
        words="coupler to deck",
        why="tongues and necks are usually so long",
        instead="a tape from the ball to the deck's front edge",
    ),
    ("trailer", "axles"): Told(
        words="coupler to the middle of the axles",
        why="axles stand a little behind the deck's middle",
        instead="a tape from the ball to halfway between the hubs",
    ),
    ("trailer", "track_width"): Told(
        words="track width",
        why="tires stand beside the deck or under it; it matters only off the middle",
        instead="a tape from tire centre to tire centre",
    ),
    ("item", "mass"): Told(
        words="mass as hauled",
        why="brochures leave out fuel, fluid in the tires, ballast and often what hangs on it",
        instead="a scale",
    ),
    ("item", "cg.ahead"): Told(
        words="where it balances, from its mark",
        why="machines of its kind with what hangs on them",
        instead="its two axles or ends on a scale, one at a time",
    ),
    ("item", "cg.height"): Told(
        words="how high it balances",
        why="a usual part of its height",
        instead="a figure of the maker",
    ),
}
"""By whose figure it is and what a plan calls it."""

MASS_STEP: Final = 10
SHORT_KG_STEP: Final = 5


def band(what: str, found: Estimate, unit: UnitSystem) -> str:
    """A band by what it is of: ``mass``, ``length``, ``part``, or ``ahead``, a length that is
    behind where it is negative: ``2,450 to 3,310 lb``, ``1 in to 1 ft 5 in behind``."""
    if what == "mass":
        step = MASS_STEP if unit is UnitSystem.US else SHORT_KG_STEP
        least = math.floor(found.least / unit.kg / step + 1e-9) * step
        most = math.ceil(found.most / unit.kg / step - 1e-9) * step
        return f"{write_number(least)} to {write_number(most)} {unit.mass_unit}"
    if what == "part":
        return f"{math.floor(found.least * 100 + 1e-9)} to {math.ceil(found.most * 100 - 1e-9)} %"
    step_m = M_PER_IN if unit is UnitSystem.US else 0.01
    least_m = math.floor(found.least / step_m + 1e-9) * step_m
    most_m = math.ceil(found.most / step_m - 1e-9) * step_m
    least_words, most_words = (write_length(abs(m), unit, step=1) for m in (least_m, most_m))
    if what != "ahead":
        signs = ("−" if least_m < 0 else "", "−" if most_m < 0 else "")
        return f"{signs[0]}{least_words} to {signs[1]}{most_words}"
    if least_m >= 0:
        return f"{least_words} to {most_words} ahead"
    if most_m <= 0:
        return f"{most_words} to {least_words} behind"
    return f"{least_words} behind to {most_words} ahead"
