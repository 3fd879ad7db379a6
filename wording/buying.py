"""What is said of what would do: names of the figures, and what practice asks for, with why."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from mechanics.typical import TrailerKind

KIND_WORDS: Final = {
    (TrailerKind.FLATBED, False): "Equipment trailer on a ball",
    (TrailerKind.UTILITY, False): "Utility trailer on a ball",
    (TrailerKind.TILT, False): "Tilt trailer on a ball",
    (TrailerKind.DUMP, False): "Dump trailer on a ball",
    (TrailerKind.GOOSENECK, True): "Gooseneck over the bed",
}
"""Kinds of trailers that are asked for."""

POINTS: Final = {
    "carries": "carries, with the reserve kept back",
    "axles": "axles together",
    "deck_length": "deck length",
    "deck_width": "deck width",
    "payload": "payload",
    "pulls": "may pull",
}
"""What is held against what is needed."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Feature:
    """Something that practice asks for, and why; common practice, no source unless it is named."""

    what: str
    why: str


def features(*, axles: int, several: bool, machines: bool, over_bed: bool) -> tuple[Feature, ...]:
    """What to ask the dealer for besides the figures."""
    found = [
        Feature(
            what="Brakes on both axles" if axles == 2 else "Brakes on every axle",
            why="One braked axle stops half the trailer and locks first on wet grass.",
        )
        if axles > 1
        else Feature(
            what="Brakes on the axle",
            why="Many states ask for them above 3,000 lb, and the truck's own are made for the "
            "truck.",
        ),
        Feature(
            what="A spare on its wheel, with the wrench that fits",
            why="The outfit cannot wait at the roadside with a machine on it.",
        ),
        Feature(
            what="A frame of channel rather than angle",
            why="A machine stands on four or five crossmembers; a rating on paper takes the load "
            "to be spread over the deck.",
        ),
        Feature(
            what="Tires rated for more than the axles",
            why="Tires are what gives first, and they age standing.",
        ),
        Feature(
            what=f"{'Eight' if several else 'Four'} rings or pockets at least, of a marked limit",
            why="Each machine is tied at four corners, two pulling forward and two back; more of "
            "them mean shorter, steeper ties."
            if machines
            else "What is heaped or stacked is tied down across it every few feet.",
        ),
        Feature(
            what="A jack set back from the coupler, or one that swings away",
            why="The truck's gate drops without striking it, and it does not hang into the road.",
        ),
        Feature(
            what="A breakaway switch with its own battery",
            why="It brakes the trailer that has come off; 49 CFR 393.43 asks for it.",
        ),
    ]
    if machines:
        found += [
            Feature(
                what="Ramps rather than a gate, with feet or stands at the tail",
                why="A gate forbids what hangs over the rear; stands keep the tongue "
                "down while a machine climbs.",
            ),
            Feature(
                what="A foot of free deck at either end",
                why="A trailer that just fits cannot be balanced.",
            ),
        ]
    if over_bed:
        found.append(
            Feature(
                what="A coupler that can be raised and lowered",
                why="The neck clears the bed's sides, and the deck rides level behind this truck.",
            )
        )
    return tuple(found)
