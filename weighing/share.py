"""What a tongue that was weighed says: its share of the trailer, the tongue wanted, and what the
hitch has left."""

from __future__ import annotations

from collections.abc import Sequence

from book.chain import Chain, assemble, couples
from book.models import Hitch as HitchOfBook
from book.models import Trailer
from measures import UnitSystem
from measures.writing import write_mass, write_percent
from mechanics.hitch import Hitch
from mechanics.rules import FIXED_RANGES, NEAR_HITCH, TongueSchool
from wording.schools import range_words
from yards.models import Yard


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


Rated = Sequence[tuple[float, str]]
"""Parts of a hitch that say what tongue they are rated for, in kg, each with its name."""


def rated_parts(hitch: Hitch) -> Rated:
    """Those of a plan's hitch, bars counted in where they act."""
    limits = ((hitch.tongue_limit_kg(part), part.name) for part in hitch.parts)
    return [(limit, name) for limit, name in limits if limit is not None]


def rated_links(chain: Chain) -> Rated:
    """Those of a hitch of the book, bars counted in where they act."""
    names = chain.names()
    limits = ((chain.tongue_rating(part), names[part.pk]) for part in chain.parts)
    return [(float(limit.si), name) for limit, name in limits if limit is not None]


def hitch_words(tongue_kg: float, rated: Rated, unit: UnitSystem) -> str:
    """What the part of the hitch that is rated for the least tongue makes of a tongue that was
    read. A tongue bounces on the road, so a part is kept free: the load may be
    :data:`~mechanics.rules.NEAR_HITCH` of the rating (common practice, no source).
    Where no part says its tongue rating it cannot be told, and the words say so.

    ``Receiver is rated for 1,250 lb of tongue: 110 lb left. With a sixth kept free for
    bounce it takes 1,042 lb: this is more.``
    """
    if not rated:
        return "No part of the hitch says what tongue it is rated for: cannot say what it has left."
    limit, name = min(rated)
    left = limit - tongue_kg
    said = f"{name} is rated for {write_mass(limit, unit)} of tongue: "
    said += f"{write_mass(abs(left), unit)} {'left' if left >= 0 else 'over'}."
    calm = NEAR_HITCH * limit
    enough = "enough" if tongue_kg <= calm else "this is more"
    return f"{said} With a sixth kept free for bounce it takes {write_mass(calm, unit)}: {enough}."


def yard_hitches(
    tongue_kg: float, yard: Yard, trailer: Trailer | None, unit: UnitSystem
) -> list[tuple[str, str]]:
    """What each hitch of the yard that a trailer can be coupled to makes of its tongue, by truck;
    without a trailer those behind the bumper."""
    behind = (HitchOfBook.Type.BALL, HitchOfBook.Type.PINTLE)
    there = (
        HitchOfBook.objects.filter(truck__yard=yard)
        .select_related("truck")
        .prefetch_related("links__part")
        .order_by("truck__name", "name", "pk")
    )
    return [
        (
            f"{hitch.truck.name}, {hitch.name}",
            hitch_words(tongue_kg, rated_links(assemble(hitch, trailer)), unit),
        )
        for hitch in there
        if (hitch.type in behind if trailer is None else couples(hitch, trailer))
    ]
