"""A haul as the law looks at it: plates, masses, how wide, how high, how far past the deck."""

from __future__ import annotations

from hauls.models import Haul
from hauls.stopping import braked_axles_kg
from mechanics.law import TIRE_M, OnTheRoad
from mechanics.plan import Plan
from mechanics.report import Report


def on_the_road(haul: Haul, report: Report) -> OnTheRoad:
    """The outfit by its plan and the book."""
    plan = report.plan
    brakes = braked_axles_kg(haul)
    return OnTheRoad(
        truck_plate_kg=plan.truck.gvwr_kg,
        trailer_plate_kg=plan.trailer.gvwr_kg,
        truck_empty_kg=plan.truck.front_axle_mass_kg + plan.truck.rear_axle_mass_kg,
        trailer_kg=report.loads.trailer.mass_kg,
        together_kg=report.loads.combination_kg,
        heaviest_kg=max((item.mass_kg for item in plan.items), default=0.0),
        braked=None if brakes is None else brakes > 0,
        width_m=widest_m(plan),
        height_m=highest_m(plan),
        past_tail_m=max(
            (0.0, *(item.rearmost_m - plan.trailer.deck.length_m for item in plan.items))
        ),
        past_side_m=_past_side_m(plan),
    )


def widest_m(plan: Plan) -> float | None:
    """From side to side of what is widest: tires, deck or a load. ``None`` where a load's width is
    not known."""
    loads = [
        None if item.width_m is None else item.width_m + 2 * abs(item.placement.left_m)
        for item in plan.items
    ]
    if any(one is None for one in loads):
        return None
    own = plan.trailer.track_width_m + TIRE_M
    return max(own, plan.trailer.deck.width_m or 0.0, *(one or 0.0 for one in loads), 0.0)


def highest_m(plan: Plan) -> float | None:
    """From the ground to the highest load's top, deck level; ``None`` where a height is not
    known."""
    if not plan.items:
        return plan.trailer.deck.height_m
    deck = plan.trailer.deck.height_m
    heights = [item.height_m for item in plan.items]
    if deck is None or any(one is None for one in heights):
        return None
    return deck + max(one or 0.0 for one in heights)


def _past_side_m(plan: Plan) -> float | None:
    deck = plan.trailer.deck.width_m
    if not plan.items:
        return 0.0
    if deck is None or any(item.width_m is None for item in plan.items):
        return None
    return max(
        0.0,
        *((item.width_m or 0.0) / 2 + abs(item.placement.left_m) - deck / 2 for item in plan.items),
    )
