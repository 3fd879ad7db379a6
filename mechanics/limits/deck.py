"""Limits of the deck: its ends and width, neighbours, and what may stand on one length of it."""

from __future__ import annotations

from mechanics.codes import Family
from mechanics.frame import concentration
from mechanics.limits.limit import Limit, Quantity, Sense
from mechanics.plan import Plan
from mechanics.rules import NEAR_RATING


def deck_limits(plan: Plan) -> list[Limit]:
    """Limits of the deck for each item, then of each pair that cannot pass sideways.

    Deck and neighbour limits say nothing of loads and carry no forms; the windows know
    their geometry.
    """
    deck = plan.trailer.deck
    found = [
        Limit(
            code=Family.DECK_FRONT.of(),
            item=item.id,
            quantity=Quantity.LENGTH,
            value=item.foremost_m,
            limit=0.0 - deck.front_overhang_m,
            sense=Sense.AT_LEAST,
        )
        for item in plan.items
    ]
    found += [
        Limit(
            code=Family.DECK_REAR.of(),
            item=item.id,
            quantity=Quantity.LENGTH,
            value=item.rearmost_m,
            limit=deck.length_m + deck.rear_overhang_m,
        )
        for item in plan.items
    ]
    found += [
        Limit(
            code=Family.DECK_WIDTH.of(),
            item=item.id,
            quantity=Quantity.LENGTH,
            value=item.width_m + 2 * abs(item.placement.left_m),
            limit=deck.width_m,
            soft=True,
        )
        for item in plan.items
        if item.width_m is not None and deck.width_m is not None
    ]
    found += _concentration_limits(plan)
    for index, first in enumerate(plan.items):
        found += [
            Limit(
                code=Family.NEIGHBOUR.of(other.id),
                item=first.id,
                quantity=Quantity.LENGTH,
                value=first.gap_to_m(other),
                limit=0.0,
                sense=Sense.AT_LEAST,
            )
            for other in plan.items[index + 1 :]
            if not first.clear_sideways_of(other)
        ]
    return found


def _concentration_limits(plan: Plan) -> list[Limit]:
    """The maker's figure for a length of deck, where there is one.

    Soft: it is not linear in an item's place, and makes no end of a window.
    """
    figure = plan.trailer.deck.concentration
    if figure is None or not plan.items:
        return []
    return [
        Limit(
            code=Family.CONCENTRATION.of(),
            quantity=Quantity.MASS,
            value=concentration(plan, figure.length_m)[0],
            limit=figure.mass_kg,
            near=NEAR_RATING,
            soft=True,
        )
    ]
