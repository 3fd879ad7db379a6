"""How truck and trailer move while a machine climbs: what is drawn, and nothing that counts.

Straight lines in the tongue mass, as in :mod:`mechanics.attitude`: what the tongue loses, the
truck's springs give back.
"""

from __future__ import annotations

from typing import NamedTuple

from mechanics.loading.outfit import ball_give
from mechanics.plan import Plan


class Heave(NamedTuple):
    """Against how it stood before the machine came: the coupler's rise over its distance from
    the axles, how far the truck's rear sinks and how far its front rises, in m."""

    slope: float
    rear_sinks_m: float
    front_rises_m: float


STILL = Heave(0.0, 0.0, 0.0)


def heave(plan: Plan, tongue_change_kg: float) -> Heave:
    """How the outfit moves when the tongue mass changes; not at all without spring rates."""
    give, ride, truck = ball_give(plan), plan.truck.ride, plan.truck
    if give is None or ride is None:
        return STILL
    by_wheelbase = truck.hitch_offset_m / truck.wheelbase_m
    front = ride.front_rate_kg_per_m
    return Heave(
        -tongue_change_kg * give / plan.trailer.couple_lever_m,
        tongue_change_kg * (1 + by_wheelbase) / ride.rear_rate_kg_per_m,
        0.0 if front is None else tongue_change_kg * by_wheelbase / front,
    )
