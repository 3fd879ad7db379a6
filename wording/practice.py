"""Metric practice beside the checks: kerb mass, brakes, the nose weight plate.

None of it is a verdict: rules differ by place and year, and local rules prevail.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from measures.writing import UnitSystem, write_mass, write_percent
from mechanics.hitch import HitchType
from mechanics.report import Report
from mechanics.rules import FIXED_RANGES, TongueSchool, resolve_school
from wording.schools import SCHOOL_LABELS, range_words

LIGHT_VEHICLE_KG: Final = 3500.0
"""Largest permitted mass of a vehicle that the kerb-mass advice is meant for (licence
category B, UK and EU, from memory)."""

STEADY: Final = (0.80, 0.85)
"""Part of the towing vehicle's kerb mass up to which a trailer is commonly called steady.
Common practice, no source."""

UNBRAKED_KG: Final = 750.0
"""The most an unbraked trailer may weigh, and no more than half of the kerb mass (UK and EU,
from memory)."""

LEAST_NOSE_KG: Final = 25.0
"""The least nose load where four hundredths of the trailer would be more (EU practice, from
memory)."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Suggested:
    """A school that fits this truck better than the one in use."""

    words: str
    button: str


def suggested_school(report: Report, unit: UnitSystem) -> Suggested | None:
    """The nose plate's school, where the truck has one and the usual school is held."""
    plan = report.plan
    plate = plan.truck.max_tongue_mass_kg
    usual = resolve_school(plan.rules.tongue, plan.hitch.type) is TongueSchool.SHARE_10_15
    if (
        unit is not UnitSystem.METRIC
        or plate is None
        or plan.hitch.type is not HitchType.BALL
        or not usual
    ):
        return None
    share = range_words(*FIXED_RANGES[TongueSchool.NOSE_4_7])
    name = SCHOOL_LABELS[TongueSchool.NOSE_4_7]
    return Suggested(
        words=f"This truck has a nose weight plate, {write_mass(plate, unit)}. Behind such "
        f"vehicles people go by it: {share}, at least 4 % or {LEAST_NOSE_KG:.0f} kg.",
        button=f"Go by the {name}",
    )


def practice(report: Report, unit: UnitSystem, *, unbraked: bool) -> list[str]:
    """What metric practice says of this outfit, in sentences; empty in pounds.

    ``unbraked`` says that no axle of the trailer has a brake.
    """
    plan = report.plan
    if unit is not UnitSystem.METRIC or plan.hitch.type is not HitchType.BALL:
        return []
    kerb, mass = plan.truck.empty_mass_kg, report.loads.trailer.mass_kg
    found = []
    gvwr = plan.truck.gvwr_kg
    if gvwr is not None and gvwr <= LIGHT_VEHICLE_KG:
        part = mass / kerb
        least, most = (f"{bound * 100:.0f}" for bound in STEADY)
        found.append(
            f"The trailer is {write_percent(part)} of the truck's kerb mass; for steady towing "
            f"no more than {least} to {most} % is common advice."
        )
    if unbraked:
        most_kg = min(UNBRAKED_KG, kerb / 2)
        verb = "is more than that" if mass > most_kg else "is within that"
        found.append(
            f"Without brakes a trailer may weigh {write_mass(most_kg, unit)} behind this truck "
            f"(750 kg, and half the kerb mass; check your local rule): "
            f"{write_mass(mass, unit)} {verb}."
        )
    return found
