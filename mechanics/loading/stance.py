"""How a machine stands on the way up: its two contacts, its pitch, and what each carries.

At a crawl every reaction of the ground is vertical, so a machine shares its weight between
its contacts by their horizontal distances. Contacts are points: wheel radius, and how tires
and springs of the machine give, are left out.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import NamedTuple

from mechanics.item import Facing, Item
from mechanics.loading.terrain import Part, Terrain


class Stance(NamedTuple):
    """One place of the machine on its way.

    Places behind the coupler and heights above the outfit's ground, in metres; ``pitch`` in
    radians, positive with the leading end up. ``level`` says that a tilting deck has come up.
    ``lying`` that a track lies along one straight part, its mass acting at the balance point.
    """

    lead_x: float
    lead_z: float
    trail_x: float
    trail_z: float
    pitch: float
    balance_x: float
    balance_z: float
    lead_kg: float
    trail_kg: float
    lying: bool
    level: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Climber:
    """A machine as it drives on: the contact that leads, and the balance point from the other.

    ``apart_m`` is between the two contacts, ``balance_m`` from the trailing one towards the
    leading one, ``height_m`` square to the line through both. ``lead_tape_m`` is where the
    leading contact stands on the tape at the item's mark, ``mark_m`` the mark's place from
    the trailing contact towards the leading one.
    """

    mass_kg: float
    apart_m: float
    balance_m: float
    height_m: float
    tracked: bool
    lead_tape_m: float
    mark_m: float
    underside: tuple[tuple[float, float], ...]

    def stance(self, lead_x: float, ground: Terrain, up: Terrain | None) -> Stance:
        """How it stands with its leading contact at a place.

        ``up`` is the deck once it has come up, of one that tilts: it does so as soon as the
        balance point has passed the hinge.
        """
        found = self._on(lead_x, ground)
        if up is None or found.balance_x > ground.edge_m:
            return found
        return self._on(lead_x, up)

    def _on(self, lead_x: float, ground: Terrain) -> Stance:
        lead_z = ground.height(lead_x)
        trail_x, trail_z = ground.behind(lead_x, lead_z, self.apart_m)
        if self.tracked:
            lying = self._lying(lead_x, lead_z, trail_x, ground)
            if lying is not None:
                return lying
        sin = (lead_z - trail_z) / self.apart_m
        cos = (trail_x - lead_x) / self.apart_m
        balance_x = trail_x - self.balance_m * cos + self.height_m * sin
        lead_kg = self.mass_kg * (trail_x - balance_x) / (trail_x - lead_x)
        return Stance(
            lead_x,
            lead_z,
            trail_x,
            trail_z,
            math.atan2(lead_z - trail_z, trail_x - lead_x),
            balance_x,
            trail_z + self.balance_m * sin + self.height_m * cos,
            lead_kg,
            self.mass_kg - lead_kg,
            False,
            not ground.corners,
        )

    def _lying(
        self, lead_x: float, lead_z: float, trail_x: float, ground: Terrain
    ) -> Stance | None:
        """A track along one straight part, or over crests; ``None`` where it bridges a hollow.

        Over a crest it lies along the lower part until its balance point has passed the
        crest, then along the upper one.
        """
        first = sum(corner.x <= lead_x for corner in ground.corners)
        last = sum(corner.x < trail_x for corner in ground.corners)
        slopes = ground.slopes[first : last + 1]
        if any(lower > upper for upper, lower in pairwise(slopes)):
            return None
        for slope, crest in zip(
            reversed(slopes[1:]), reversed(ground.corners[first:last]), strict=True
        ):
            height = crest.z + (lead_x - crest.x) * slope
            found = self._along(lead_x, height, slope, ground)
            if found.balance_x > crest.x:
                return found
        return self._along(lead_x, lead_z, slopes[0], ground)

    def _along(self, lead_x: float, lead_z: float, slope: float, ground: Terrain) -> Stance:
        """Lying along a straight line that falls by ``-slope`` rearward."""
        pitch = math.atan(-slope)
        cos, sin = math.cos(pitch), math.sin(pitch)
        trail_x, trail_z = lead_x + self.apart_m * cos, lead_z - self.apart_m * sin
        balance_x = trail_x - self.balance_m * cos + self.height_m * sin
        lead_kg = self.mass_kg * (trail_x - balance_x) / (trail_x - lead_x)
        return Stance(
            lead_x,
            lead_z,
            trail_x,
            trail_z,
            pitch,
            balance_x,
            trail_z + self.balance_m * sin + self.height_m * cos,
            lead_kg,
            self.mass_kg - lead_kg,
            True,
            not ground.corners,
        )

    def stood_on(self, stance: Stance, ground: Terrain) -> tuple[tuple[Part, float, float], ...]:
        """What it presses on: part, place and load, of each contact or of the whole."""
        part = _deck if stance.level else ground.part
        if stance.lying:
            return ((part(stance.balance_x), stance.balance_x, self.mass_kg),)
        return (
            (part(stance.lead_x), stance.lead_x, stance.lead_kg),
            (part(stance.trail_x), stance.trail_x, stance.trail_kg),
        )


def _deck(_: float) -> Part:
    return Part.DECK


def climber(item: Item) -> Climber | None:
    """An item as it drives on; ``None`` where its contacts or the height of its balance point
    are not known."""
    ends = [
        contact.ahead_m + side * contact.length_m / 2
        for contact in item.contacts
        for side in (-1, 1)
    ]
    if not ends or item.cg.height_m is None or not max(ends) - min(ends) > 0:
        return None
    forward = item.placement.facing is Facing.FORWARD
    # from the trailing contact towards the leading one
    base, way = (min(ends), 1.0) if forward else (max(ends), -1.0)
    leading = max(ends) if forward else min(ends)
    return Climber(
        mass_kg=item.mass_kg,
        apart_m=max(ends) - min(ends),
        balance_m=way * (item.cg.ahead_m - base),
        height_m=item.cg.height_m,
        tracked=len(item.contacts) == 1,
        lead_tape_m=item.placement.reference_m + item.direction * leading,
        mark_m=way * -base,
        underside=tuple(
            sorted((way * (point.ahead_m - base), point.clearance_m) for point in item.underside)
        ),
    )
