"""Hauls of the demo yard on the scale and on the gauge; what was read is made up."""

from __future__ import annotations

import random
from dataclasses import replace
from datetime import timedelta

from django.utils import timezone

from demo.login import DRIVER
from demo.outfit import GAUGES, PLACED, SCALED
from gauge.models import Gauge
from gauge.services import Reading, keep_reading
from gauge.simulated import SimulatedGauge, Traits
from hauls.models import Haul
from measures import Quantity, UnitSystem
from mechanics.loads import compute_loads
from mechanics.scalehouse import pads, printed, printed_alone
from mechanics.units import KG_PER_LB, M_PER_IN
from weighing.scaling import keep_haul_ticket
from yards.models import User, Yard


def make_weighings(yard: Yard) -> None:
    """Two gauges, readings at several places, and a few hauls weighed on three pads."""
    gauges = [
        Gauge.objects.create(
            yard=yard,
            name=name,
            unit=unit,
            step=Quantity.parse(step),
            rating=Quantity.parse(rating),
        )
        for name, unit, step, rating in GAUGES
    ]
    gauge = gauges[0]
    driver = User.objects.get(username=DRIVER)
    rng = random.Random(7)  # noqa: S311  made-up readings
    for name, days, places, heavier, ahead, slip in PLACED:
        _placed(
            Haul.objects.get(yard=yard, name=name),
            gauge,
            driver,
            days,
            places,
            rng,
            heavier=heavier,
            ahead=ahead,
            slip=slip,
        )
    for name, days, number, beyond in SCALED:
        _scaled(Haul.objects.get(yard=yard, name=name), driver, days, number, beyond, rng)


def _lb(number: float) -> Quantity:
    return Quantity.parse(f"{round(number)} lb")


def _placed(
    haul: Haul,
    gauge: Gauge,
    driver: User,
    days: int,
    places: list[float],
    rng: random.Random,
    *,
    heavier: float,
    ahead: float,
    slip: int | None,
) -> None:
    stand_in = SimulatedGauge(
        plan=haul.draft.plan,
        traits=Traits(step=20.0, rating=4000.0, noise_kg=2.0),
        seed=rng.randrange(1000),
        heavier=heavier,
        ahead_m=ahead * M_PER_IN,
    )
    planned = haul.draft.plan.items[0].placement.reference_m / M_PER_IN
    for n, beside in enumerate(places):
        inches = round(planned + beside)
        stand_in.stand(inches * M_PER_IN)
        load = stand_in.reading()["load"]
        shown = load * KG_PER_LB if n == slip else load
        keep_reading(
            haul,
            gauge,
            Reading(mass=_lb(shown), index=0, reference=Quantity.parse(f"{inches} in")),
            user=driver,
            day=timezone.localdate() - timedelta(days=days),
        )


def _scaled(
    haul: Haul, driver: User, days: int, number: str, beyond: float, rng: random.Random
) -> None:
    plan = haul.draft.plan
    loads = compute_loads(plan)

    def luck() -> float:
        return rng.uniform(-1, 1)

    true = pads(loads)
    ticket = printed(replace(true, trailer_kg=true.trailer_kg + beyond * KG_PER_LB), luck)
    steer, drive = printed_alone(loads, luck)
    boxes = {
        "steer": ticket.steer_kg,
        "drive": ticket.drive_kg,
        "trailer": ticket.trailer_kg,
        "steer_alone": steer,
        "drive_alone": drive,
    }
    keep_haul_ticket(
        haul,
        plan,
        {name: _lb(kg / KG_PER_LB) for name, kg in boxes.items()},
        {
            "weighed_on": timezone.localdate() - timedelta(days=days),
            "place": "Mill Ponds scale",
            "number": number,
            "fee": "14.50",
            "read_by": driver.shown_name,
        },
        user=driver,
        system=UnitSystem.US,
    )
