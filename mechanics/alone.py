"""A truck without a trailer: how much tongue it can still take, and by how much it squats.

Every limit that a tongue weight uses up is one bound on it, whatever hangs behind, so no trailer
has to be known. Spring bars hand a part of the tongue on to the trailer's axles; what they do then
goes by a lever of :data:`USUAL_LEVER_M`.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from mechanics.hitch import Hitch
from mechanics.limits import Form, load_limits
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.trailer import Axle, Deck, Trailer
from mechanics.truck import Truck

USUAL_LEVER_M: Final = 5.0
"""Coupler to axles of a trailer nobody has named. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class TongueRoom:
    """What one limit leaves for a tongue weight, in kg: as the figures stand, and at the least for
    all that they may be. Negative where it is used up without any."""

    code: str
    kg: float
    least_kg: float


def tongue_rooms(truck: Truck, hitch: Hitch) -> tuple[TongueRoom, ...]:
    """What each limit of truck and hitch leaves for the tongue, the least first; empty where no
    rating is known. Mass on the truck (people, cargo, hardware) is counted already."""
    rooms = [_bounds(shape, hitch) for shape in (truck, *truck.shapes)]
    return tuple(
        sorted(
            (
                TongueRoom(
                    code=code,
                    kg=-form.const,
                    least_kg=min(
                        -other[code].const - other[code].const_tolerance
                        for other in rooms
                        if code in other
                    ),
                )
                for code, form in rooms[0].items()
            ),
            key=lambda room: room.kg,
        )
    )


def squat_m_per_kg(truck: Truck, rear_rate_kg_per_m: float) -> float:
    """How far the rear arch sinks for each kilogram on the ball."""
    lever = (truck.wheelbase_m + truck.hitch_offset_m) / truck.wheelbase_m
    return lever / rear_rate_kg_per_m


def _bounds(truck: Truck, hitch: Hitch) -> dict[str, Form]:
    """Of each limit the form that says: no more than so much on the tongue."""
    trailer = Trailer(
        empty_mass_kg=2.0,
        empty_tongue_mass_kg=1.0,
        axles=(Axle(position_m=USUAL_LEVER_M),),
        track_width_m=2.0,
        deck=Deck(start_m=1.0, length_m=1.0),
    )
    plan = Plan(truck=truck, hitch=hitch, trailer=trailer)
    return {
        limit.code: form
        for limit in load_limits(plan, compute_loads(plan))
        for form in limit.forms
        if form.te > 0 and not form.me and form.a == form.te
    }
