"""A haul's prediction beside what a scale printed, pad by pad."""

from __future__ import annotations

import random
from dataclasses import dataclass
from typing import Any, Final

from measures import ReadingError, UnitSystem, read_mass
from measures.writing import write_mass, write_percent
from mechanics.loads import compute_loads
from mechanics.plan import Plan
from mechanics.scalehouse import Pads, pads, printed, scale_doubt_kg

PADS: Final = (
    ("steer", "Steer axle", "steer_kg"),
    ("drive", "Drive axle", "drive_kg"),
    ("trailer", "Trailer axles", "trailer_kg"),
)


@dataclass(frozen=True, kw_only=True, slots=True)
class PadRow:
    """One pad: what the plan says, what was read, and the difference."""

    name: str
    label: str
    planned: str
    typed: str
    wrong: str = ""
    difference: str = ""
    words: str = ""


def scale_page(plan: Plan, sent: Any, unit: UnitSystem) -> dict[str, Any]:
    """The pads with what the address holds for each; ``practice`` prints a ticket of its own."""
    true = pads(compute_loads(plan))
    seed = str(sent.get("practice", ""))[:12]
    ticket = _practice(true, seed) if seed else None
    rows, read = [], {}
    for name, label, field in PADS:
        typed = str(sent.get(name, "")).strip()[:40]
        if ticket is not None and not typed:
            typed = write_mass(getattr(ticket, field), unit)
        row, kg = _row(name, label, getattr(true, field), typed, unit)
        rows.append(row)
        if kg is not None:
            read[name] = kg
    total = None
    if len(read) == len(PADS):
        total, _ = _row(
            "together", "All of it", true.together_kg, write_mass(sum(read.values()), unit), unit
        )
    return {
        "rows": rows,
        "total": total,
        "planned_total": write_mass(true.together_kg, unit),
        "next_practice": str(int(seed) + 1) if seed.isdigit() else "1",
        "wrong": next((row.wrong for row in rows if row.wrong), ""),
    }


def _practice(true: Pads, seed: str) -> Pads:
    rng = random.Random(seed)  # noqa: S311  a practice ticket, no secret
    return printed(true, lambda: rng.uniform(-1, 1))


def _row(
    name: str, label: str, planned: float, typed: str, unit: UnitSystem
) -> tuple[PadRow, float | None]:
    shown = write_mass(planned, unit)
    if not typed:
        return PadRow(name=name, label=label, planned=shown, typed=""), None
    try:
        kg = float(read_mass(typed, unit.mass_unit).si)
    except ReadingError as error:
        return PadRow(name=name, label=label, planned=shown, typed=typed, wrong=str(error)), None
    apart = kg - planned
    part = apart / planned if planned else 0.0
    sign = "+" if apart >= 0 else "−"
    within = abs(apart) <= scale_doubt_kg(kg)
    words = (
        "as planned"
        if within
        else f"{write_percent(abs(part))} {'more' if apart > 0 else 'less'} than planned"
    )
    return (
        PadRow(
            name=name,
            label=label,
            planned=shown,
            typed=typed,
            difference=f"{sign} {write_mass(abs(apart), unit)}",
            words=words,
        ),
        kg,
    )
