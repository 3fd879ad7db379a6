"""A haul's prediction beside what a scale printed, pad by pad, and its ticket kept."""

from __future__ import annotations

import random
from dataclasses import dataclass
from typing import Any, Final

from django import forms
from django.db import transaction

from book.models import Aboard, Ticket
from hauls.loads import linked_loads
from hauls.models import Haul
from measures import Quantity, ReadingError, UnitSystem, read_mass
from measures.writing import write_entered, write_mass, write_percent
from mechanics.loads import Loads, bar_factor_m, compute_loads
from mechanics.plan import Plan
from mechanics.scalehouse import Pads, pads, printed, scale_doubt_kg
from planfile.document import text
from planfile.draft import tidy
from web.sent import counted
from weighing.forms import AtAScale
from weighing.learning import FIGURES, Learned, bias_of
from weighing.models import HaulTicket
from weighing.services import quantity
from weighing.share import hitch_words, rated_parts
from weighing.shifting import Shift, shift
from wording.phrases import signed_mass
from yards.models import User

METHOD: Final = "haul"
"""How a haul's own ticket says that it was weighed."""

PADS: Final = (
    ("steer", "Steer axle", "steer_kg"),
    ("drive", "Drive axle", "drive_kg"),
    ("trailer", "Trailer axles", "trailer_kg"),
)
ALONE: Final = (
    ("steer_alone", "Steer, truck alone"),
    ("drive_alone", "Drive, truck alone"),
)
AXLES: Final = (
    ("axle_1", "Trailer axle 1"),
    ("axle_2", "Trailer axle 2"),
    ("axle_3", "Trailer axle 3"),
)
BOX_LABELS: Final = {
    **{name: f"{label}, hitched" for name, label, _ in PADS},
    **dict(AXLES),
    **dict(ALONE),
}
"""What the boxes of a haul's ticket are called."""


@dataclass(frozen=True, kw_only=True, slots=True)
class PadRow:
    """One pad: what the plan says, what was read, and the difference."""

    name: str
    label: str
    planned: str
    learned: str = ""
    typed: str = ""
    wrong: str = ""
    difference: str = ""
    words: str = ""
    near: bool = True


@dataclass(frozen=True, kw_only=True)
class ScalePage:
    """Planned beside read: the pads, the trailer's axles, the truck alone, and what follows.

    ``hitch`` says what the hitch makes of the tongue read, ``shift`` what to move where it is not
    what is wanted, ``practice`` tells a ticket made up
    by the page, ``bias`` what the trailer's tickets have taught, ``kept`` the haul's own tickets,
    ``wrong`` the first box that is no mass.
    """

    rows: list[PadRow]
    alone: list[PadRow]
    axles: list[PadRow]
    total: PadRow | None
    tongue: PadRow | None
    hitch: str
    shift: Shift | None
    planned_total: str
    next_practice: str
    practice: bool
    all_read: bool
    bias: list[Learned]
    kept: list[Past]
    wrong: str


def scale_page(haul: Haul, plan: Plan, sent: Any, unit: UnitSystem) -> ScalePage:
    """The pads with what was sent for each; ``practice`` prints a ticket of its own."""
    loads = compute_loads(plan)
    true = pads(loads)
    seed = str(sent.get("practice", ""))[:12]
    ticket = _practice(true, seed) if seed else None
    rows, read = [], {}
    learned = bias_of(haul.trailer, unit) if haul.trailer else []
    taught = {one.name: one.bias.mean_kg for one in learned if one.matters}
    axles, each = _by_axle(loads, sent, unit, taught)
    for name, label, field in PADS:
        typed = str(sent.get(name, "")).strip()[:40]
        if ticket is not None and not typed:
            typed = write_mass(getattr(ticket, field), unit)
        if name == "trailer" and not typed and axles and len(each) == len(axles):
            typed = write_mass(sum(each.values()), unit)
        row, kg = _row(name, label, getattr(true, field), typed, unit, taught.get(name, 0.0))
        rows.append(row)
        if kg is not None:
            read[name] = kg
    alone, alone_kg = _alone(loads, sent, unit)
    total = None
    if len(read) == len(PADS):
        total = _beside("together", "All of it", true.together_kg, sum(read.values()), unit)
    tongue, hitch, moves = None, "", None
    if len(alone_kg) == len(ALONE) and {"steer", "drive"} <= set(read):
        kg = read["steer"] + read["drive"] - sum(alone_kg.values())
        words = "Tongue, from the two weighings"
        tongue = _beside("tongue", words, loads.trailer.handed_kg, kg, unit, doubts=4)
        hitch = hitch_words(kg, rated_parts(plan.hitch), unit)
        if "trailer" in read:
            moves = shift(
                plan,
                linked_loads(haul),
                tongue_kg=kg,
                trailer_kg=kg + read["trailer"],
                unit=unit,
            )
    wrong = next((row.wrong for row in (*rows, *axles, *alone) if row.wrong), "")
    return ScalePage(
        rows=rows,
        alone=alone,
        axles=axles,
        total=total,
        tongue=tongue,
        hitch=hitch,
        shift=moves,
        planned_total=write_mass(true.together_kg, unit),
        next_practice=str(counted(seed) + 1),
        practice=bool(seed),
        all_read=len(read) == len(PADS) and not wrong,
        bias=learned,
        kept=[
            past(one, unit)
            for one in haul.weighings.filter(ticket__method=METHOD).select_related("ticket")
        ],
        wrong=wrong,
    )


def _practice(true: Pads, seed: str) -> Pads:
    rng = random.Random(seed)  # noqa: S311  a practice ticket, no secret
    return printed(true, lambda: rng.uniform(-1, 1))


def _alone(loads: Loads, sent: Any, unit: UnitSystem) -> tuple[list[PadRow], dict[str, float]]:
    planned = (loads.truck.front_unhitched_kg, loads.truck.rear_unhitched_kg)
    rows, read = [], {}
    for (name, label), kg in zip(ALONE, planned, strict=True):
        row, got = _row(name, label, kg, str(sent.get(name, "")).strip()[:40], unit)
        rows.append(row)
        if got is not None:
            read[name] = got
    return rows, read


def axle_boxes(count: int) -> tuple[tuple[str, str], ...]:
    """Boxes for each trailer axle by itself; none where there is only one."""
    return AXLES[:count] if 2 <= count <= len(AXLES) else ()


def _by_axle(
    loads: Loads, sent: Any, unit: UnitSystem, taught: dict[str, float]
) -> tuple[list[PadRow], dict[str, float]]:
    """Each trailer axle by itself, as a single platform reads them."""
    rows, read = [], {}
    carried = loads.trailer.axles_kg
    for (name, label), kg in zip(axle_boxes(len(carried)), carried, strict=False):
        typed = str(sent.get(name, "")).strip()[:40]
        row, got = _row(name, label, kg, typed, unit, taught.get(name, 0.0))
        rows.append(row)
        if got is not None:
            read[name] = got
    return rows, read


def _row(
    name: str,
    label: str,
    planned: float,
    typed: str,
    unit: UnitSystem,
    taught: float = 0.0,
) -> tuple[PadRow, float | None]:
    shown = write_mass(planned, unit)
    learned = write_mass(planned + taught, unit) if taught else ""
    if not typed:
        return PadRow(name=name, label=label, planned=shown, learned=learned), None
    try:
        kg = float(read_mass(typed, unit.mass_unit).si)
    except ReadingError as error:
        row = PadRow(
            name=name, label=label, planned=shown, learned=learned, typed=typed, wrong=str(error)
        )
        return row, None
    return _beside(name, label, planned, kg, unit, typed=typed, learned=learned), kg


def _beside(
    name: str,
    label: str,
    planned: float,
    kg: float,
    unit: UnitSystem,
    *,
    typed: str = "",
    learned: str = "",
    doubts: int = 1,
) -> PadRow:
    """What was read beside what is planned; ``doubts`` is of how many readings it is made."""
    apart = kg - planned
    part = apart / planned if planned else 0.0
    within = abs(apart) <= doubts * scale_doubt_kg(kg)
    words = (
        "as planned"
        if within
        else f"{write_percent(abs(part))} {'more' if apart > 0 else 'less'} than planned"
    )
    return PadRow(
        name=name,
        label=label,
        planned=write_mass(planned, unit),
        learned=learned,
        typed=typed or write_mass(kg, unit),
        difference=signed_mass(apart, unit),
        words=words,
        near=within,
    )


@dataclass(frozen=True, kw_only=True)
class Past:
    """A ticket of the haul: what was planned then, what was read, and how far apart."""

    ticket: Ticket
    rows: list[tuple[str, str, str, str]]


def past(one: HaulTicket, unit: UnitSystem) -> Past:
    """A kept ticket beside the plan that it was read of."""
    readings = one.ticket.readings
    planned, read = readings.get("planned_kg", {}), readings.get("read_kg", {})
    rows = []
    for name, words in FIGURES.items():
        if name in planned and name in read:
            apart = float(read[name]) - float(planned[name])
            rows.append(
                (
                    words,
                    write_mass(float(planned[name]), unit),
                    write_mass(float(read[name]), unit),
                    signed_mass(apart, unit),
                )
            )
    return Past(ticket=one.ticket, rows=rows)


class HaulTicketForm(AtAScale, forms.Form):
    """What a haul's ticket says beside its readings."""

    weighed_on = forms.DateField(
        label="Date", widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")
    )
    place = forms.CharField(max_length=120, required=False)
    number = forms.CharField(label="Ticket number", max_length=60, required=False)
    fee = forms.CharField(max_length=30, required=False)
    read_by = forms.CharField(label="Read by", max_length=80, required=False)

    def __init__(self, *args: Any, units: UnitSystem, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.prepare(units)


def read_boxes(sent: Any, unit: UnitSystem, axles: int) -> tuple[dict[str, Quantity], list[str]]:
    """The readings that were sent, and what is wrong with the others.

    Every one of the trailer's ``axles`` read by itself stands in for their pad.
    """
    found: dict[str, Quantity] = {}
    problems = []
    for name, label in BOX_LABELS.items():
        typed = str(sent.get(name, "")).strip()[:40]
        if not typed:
            continue
        try:
            found[name] = read_mass(typed, unit.mass_unit)
        except ReadingError as error:
            problems.append(f"{label}: {error}")
    each = [found[name] for name, _ in axle_boxes(axles) if name in found]
    if each and len(each) < axles:
        problems.append("Of the trailer's axles give every one by itself, or none.")
    elif each and "trailer" not in found:
        kg = sum(float(one.si) for one in each)
        found["trailer"] = quantity(kg, each[0].unit if each[0].unit in ("lb", "kg") else "kg")
    elif each:
        kg = sum(float(one.si) for one in each)
        if abs(kg - float(found["trailer"].si)) > (axles + 1) * scale_doubt_kg(kg):
            problems.append("The trailer's axles by themselves do not add up to their pad.")
    lacking = [label for name, label, _ in PADS if name not in found]
    if lacking and not problems:
        problems.append(f"{lacking[0]}: a haul's ticket has all three pads.")
    given = [name for name, _ in ALONE if name in found]
    if len(given) == 1:
        problems.append("Of the truck alone give both axles, or neither.")
    if not problems and any(q.value <= 0 for q in found.values()):
        problems.append("Every pad reads more than zero.")
    return found, problems


@transaction.atomic
def keep_haul_ticket(
    haul: Haul,
    plan: Plan,
    boxes: dict[str, Quantity],
    about: dict[str, Any],
    *,
    user: User,
    system: UnitSystem,
) -> Ticket:
    """The ticket of a haul as it stood: readings, what was planned, and what was aboard."""
    loads = compute_loads(plan)
    true = pads(loads)
    kg = {name: float(q.si) for name, q in boxes.items()}
    unit = next((q.unit for q in boxes.values() if q.unit in ("lb", "kg")), system.mass_unit)
    planned = {name: getattr(true, field) for name, _, field in PADS}
    for (name, _), carried in zip(
        axle_boxes(len(loads.trailer.axles_kg)), loads.trailer.axles_kg, strict=False
    ):
        if name in kg:
            planned[name] = carried
    read = {name: kg[name] for name in planned}
    doubt = scale_doubt_kg(kg["trailer"])
    tolerances = {"axles_mass": doubt}
    ticket = Ticket(
        yard=haul.yard,
        method=METHOD,
        added_by=user,
        axles_mass=quantity(kg["trailer"], unit),
        **about,
    )
    ticket.thing = haul.trailer
    if "steer_alone" in kg and "drive_alone" in kg:
        planned["tongue"] = loads.trailer.handed_kg
        tongue = kg["steer"] + kg["drive"] - kg["steer_alone"] - kg["drive_alone"]
        read["tongue"] = tongue
        four = sum(scale_doubt_kg(kg[n]) for n in ("steer", "drive", "steer_alone", "drive_alone"))
        if tongue > 0:
            ticket.tongue_mass = quantity(tongue, unit)
            ticket.whole_mass = quantity(tongue + kg["trailer"], unit)
            tolerances |= {"tongue_mass": four, "whole_mass": four + doubt}
    ticket.readings = {
        "boxes": {name: write_entered(q) for name, q in boxes.items()},
        "tolerance_kg": tolerances,
        "planned_kg": planned,
        "read_kg": read,
        "empty": not plan.items,
        "bars": bar_factor_m(plan) > 0,
    }
    ticket.save()
    for load in loads_of(haul):
        load.ticket = ticket
        load.save()
    HaulTicket.objects.create(ticket=ticket, haul=haul)
    return ticket


def loads_of(haul: Haul) -> list[Aboard]:
    """What the haul has on its deck, each at its place, and what rides in the truck."""
    document = haul.draft.parsed()
    mass_unit, length_unit = document.units.mass, document.units.length
    links = {
        link.item_id: link
        for link in haul.links.select_related("machine", "configuration__machine")
    }
    found = []
    for item in document.items:
        link = links.get(item.id)
        found.append(
            Aboard(
                kind=Aboard.Kind.ITEM,
                name="" if link and link.machine else (text(item.name) or item.id)[:80],
                machine=link.machine if link else None,
                configuration=link.configuration if link else None,
                mass=Quantity.parse(f"{tidy(item.mass)} {mass_unit}"),
                reference=Quantity.parse(f"{tidy(item.placement.reference)} {length_unit}"),
                facing=item.placement.facing,
            )
        )
    for cargo in document.truck.cargo:
        found.append(
            Aboard(
                kind=Aboard.Kind.OTHER,
                name=text(cargo.name)[:80],
                mass=Quantity.parse(f"{tidy(cargo.mass)} {mass_unit}"),
            )
        )
    return found
