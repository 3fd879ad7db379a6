"""What a haul weighs on the road, and what its brakes are rated for by the book."""

from __future__ import annotations

from book.models import TrailerAxle
from hauls.models import Haul
from mechanics.report import Report
from mechanics.stopping import Brakes


def braking(haul: Haul, report: Report) -> Brakes | None:
    """The brakes of a haul; ``None`` where the truck's plate is not known, or the trailer's brakes
    are not."""
    axles, plate = braked_axles_kg(haul), report.plan.truck.gvwr_kg
    if axles is None or plate is None:
        return None
    return Brakes(mass_kg=report.loads.combination_kg, truck_kg=plate, trailer_kg=axles)


def braked_axles_kg(haul: Haul) -> float | None:
    """Ratings of the trailer's axles that have brakes; ``None`` where the book does not say of
    every axle whether it has, or what it is rated for."""
    if haul.draft.unbraked:
        return 0.0
    axles = [] if haul.trailer is None else list(haul.trailer.axles.all())
    if not axles or any(not axle.brake for axle in axles):
        return None
    ratings = [axle.gawr for axle in axles if axle.brake != TrailerAxle.Brake.NONE]
    known = [float(rating.si) for rating in ratings if rating is not None]
    return sum(known) if len(known) == len(ratings) else None
