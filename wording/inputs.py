"""Inputs that a plan lacks, in plain words: one entry for each, by its path in the plan file."""

from __future__ import annotations

import re
from typing import Final

from measures.writing import UnitSystem
from mechanics.plan import Plan

INPUTS: Final = {
    "trailer.gvwr": "the trailer's GVWR",
    "trailer.axles[].gawr": "the rating of trailer axle {}",
    "trailer.coupler_size": "the ball size of the coupler",
    "trailer.coupler_height": "the coupler's height when level",
    "trailer.axle_height": "the height of the trailer's axles",
    "trailer.deck.height": "the height of the deck",
    "trailer.ramp": "the length of its ramps or gate, or where its deck turns",
    "truck.front_gawr": "the truck's front axle rating",
    "truck.rear_gawr": "the truck's rear axle rating",
    "truck.gvwr": "the truck's GVWR",
    "truck.payload": "the truck's payload",
    "truck.max_trailer_mass": "the truck's tow rating",
    "truck.gcwr": "the combination rating (GCWR)",
    "truck.ride": "the truck's ball height and springs",
    "hitch.ball_diameter": "the size of the ball",
    "securing": "how it is tied down",
    "securing.ties[].wll": "what tie {} holds",
}

METRIC_INPUTS: Final = {
    "trailer.gvwr": "the trailer's maximum authorised mass (MAM)",
    "truck.gvwr": "the truck's maximum authorised mass (MAM)",
    "truck.max_trailer_mass": "the truck's towing limit",
    "truck.gcwr": "the gross train mass",
}
"""What metric plates call the same."""

_PLACE: Final = re.compile(r"\[(\d+)\]")


def missing_words(path: str, unit: UnitSystem = UnitSystem.US) -> str:
    """An absent input in plain words; a path that has no words as it is."""
    place = _PLACE.search(path)
    kind = _PLACE.sub("[]", path)
    words = INPUTS.get(kind, path)
    if unit is UnitSystem.METRIC:
        words = METRIC_INPUTS.get(kind, words)
    return words.format(int(place[1]) + 1) if place else words


OF_ITEMS: Final = {
    "items[].cg.height": "how high {} balances",
    "items[].contacts": "where {} stands on the ground: its wheelbase, or the length of its tracks",
    "items[].underside": "how low {} hangs at nose, belly and tail",
}
"""Inputs of an item, to be spoken of by its name."""


def missing_of(paths: tuple[str, ...], plan: Plan) -> tuple[str, ...]:
    """What is not known, in plain words; an item's by its name."""
    found = []
    for path in paths:
        place = _PLACE.search(path)
        words = OF_ITEMS.get(_PLACE.sub("[]", path))
        if words is not None and place:
            found.append(words.format(plan.items[int(place[1])].called))
        else:
            found.append(missing_words(path))
    return tuple(found)
