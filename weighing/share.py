"""What a tongue that was weighed says: its share of the trailer, the tongue wanted, and what the
hitch has left."""

from __future__ import annotations

from measures import UnitSystem
from measures.writing import write_mass, write_percent
from mechanics.hitch import Hitch
from mechanics.rules import FIXED_RANGES, NEAR_HITCH, TongueSchool
from wording.schools import range_words


def share_words(tongue_kg: float, trailer_kg: float, unit: UnitSystem, *, over_bed: bool) -> str:
    """The tongue's share of a trailer, and the tongue that the usual rule of share wants of it;
    ``over_bed`` says that it is coupled over the truck's bed. Empty where the trailer weighs
    nothing, or the tongue more than it.

    ``13.7 % of the trailer is on the tongue. 10–15 % of 8,250 lb is 825 lb to 1,238 lb.``
    """
    if not trailer_kg > 0 or not tongue_kg <= trailer_kg:
        return ""
    school = TongueSchool.GOOSENECK_15_25 if over_bed else TongueSchool.SHARE_10_15
    least, most = FIXED_RANGES[school]
    word = "pin" if over_bed else "tongue"
    return (
        f"{write_percent(tongue_kg / trailer_kg)} of the trailer is on the {word}. "
        f"{range_words(least, most)} of {write_mass(trailer_kg, unit)} is "
        f"{write_mass(least * trailer_kg, unit)} to {write_mass(most * trailer_kg, unit)}."
    )


def hitch_words(tongue_kg: float, hitch: Hitch, unit: UnitSystem) -> str:
    """What the part of the hitch that is rated for the least tongue, bars counted in where they
    act, makes of a tongue that was read. A tongue bounces on the road, so a part is kept free:
    the load may be :data:`~mechanics.rules.NEAR_HITCH` of the rating (common practice, no source).
    Where no part says its tongue rating it cannot be told, and the words say so.

    ``Receiver is rated for 1,250 lb of tongue: 110 lb left. With a sixth kept free for
    bounce it takes 1,042 lb: this is more.``
    """
    rated = [
        (limit, part.name)
        for part in hitch.parts
        if (limit := hitch.tongue_limit_kg(part)) is not None
    ]
    if not rated:
        return "No part of the hitch says what tongue it is rated for: cannot say what it has left."
    limit, name = min(rated)
    left = limit - tongue_kg
    said = f"{name} is rated for {write_mass(limit, unit)} of tongue: "
    said += f"{write_mass(abs(left), unit)} {'left' if left >= 0 else 'over'}."
    calm = NEAR_HITCH * limit
    enough = "enough" if tongue_kg <= calm else "this is more"
    return f"{said} With a sixth kept free for bounce it takes {write_mass(calm, unit)}: {enough}."
