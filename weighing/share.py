"""What a tongue and a trailer that were weighed say together: the share, and the tongue wanted."""

from __future__ import annotations

from measures import UnitSystem
from measures.writing import write_mass, write_percent
from mechanics.rules import FIXED_RANGES, TongueSchool
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
