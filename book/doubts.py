"""What looks odd and is asked about. No number is refused for it.

People know their outfit, and plates do say odd things.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, Final

from django.utils import timezone

from book.chain import assemble
from book.errors import IncompleteError
from book.estimates import axle_places
from book.figures import (
    empty_axles,
    lever_m,
    part_mass_kg,
    parts_on,
    si,
    tow_limit_kg,
)
from book.gear import LOOKED_OVER_DAYS, gear_limit, overdue
from book.models import (
    Bulk,
    Gear,
    Hitch,
    HitchPart,
    Known,
    Machine,
    MachinePart,
    Place,
    Thing,
    Trailer,
    Truck,
)
from book.tolerances import Tolerances
from measures import Quantity, UnitSystem, write_length, write_mass
from measures.writing import in_units_of, write_given, write_percent
from mechanics.gear import chain_limit_kg
from mechanics.heap import MATERIALS
from mechanics.limits import SAME_SIZE_M
from mechanics.units import M_PER_IN

HEAVIEST_KG: Final = 45_000.0
"""A machine heavier than this is asked about: about 100,000 lb. Common practice, no source."""

LOW_RATING: Final = 0.9
"""A hitch part rated below this part of the truck's tow rating is asked about."""

MARKED_OVER: Final = 1.5
"""A chain marked with more than so many times what is published is asked about."""

USUAL_BALLS_M: Final = (*(inches * M_PER_IN for inches in (1.875, 2, 2.3125, 3)), 0.05)
"""Ball sizes in common use. Common practice, no source."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Doubt:
    """A question about an entry; ``field`` is the box it is about."""

    question: str
    field: str


Words = tuple[UnitSystem, Tolerances]

USUAL_BALLS: Final = "{1 7/8, 2, 2 5/16 or 3 in|50 mm, or 48, 51, 59 or 76 mm}"
"""Sizes of usual balls, as they are stamped."""


def doubts(thing: Thing, units: UnitSystem, tolerances: Tolerances) -> list[Doubt]:
    """Questions about what was entered, in the person's units."""
    return list(_DOUBTS[type(thing)](thing, (units, tolerances)))


def _truck_doubts(truck: Truck, words: Words) -> Iterator[Doubt]:
    units, tolerances = words

    def mass(kg: float) -> str:
        return write_mass(kg, units)

    try:
        empty = empty_axles(truck, tolerances)
        empty_kg: float | None = empty.front_kg + empty.rear_kg
    except IncompleteError:
        empty_kg = None
    gvwr, payload = truck.gvwr, truck.payload
    if truck.empty_from != Truck.EmptyFrom.AXLES and truck.front_share is None and empty_kg:
        yield Doubt(
            question="The split over the axles is the usual one, not this truck's. Weigh both "
            "axles when you pass a scale: it decides the axle figures.",
            field="front_share",
        )
    if payload and empty_kg and si(payload) > empty_kg:
        yield Doubt(
            question=f"A payload of {mass(si(payload))} is more than the truck itself weighs. "
            "Is this the tow rating?",
            field="payload",
        )
    elif payload and gvwr and empty_kg and truck.empty_from != Truck.EmptyFrom.STICKER:
        left = si(gvwr) - empty_kg
        if abs(left - si(payload)) > 0.05 * si(gvwr):
            yield Doubt(
                question=f"GVWR less the empty truck leaves {mass(left)}; the payload says "
                f"{mass(si(payload))}. Are both from this truck?",
                field="payload",
            )
    if gvwr and truck.front_gawr and truck.rear_gawr:
        both = si(truck.front_gawr) + si(truck.rear_gawr)
        if both < si(gvwr) * 0.98:
            yield Doubt(
                question=f"Both axle ratings together are {mass(both)}, less than the GVWR of "
                f"{mass(si(gvwr))}. Read the sticker again?",
                field="front_gawr",
            )
    if gvwr and empty_kg and si(gvwr) <= empty_kg:
        yield Doubt(question="The truck weighs its GVWR empty. Swapped?", field="gvwr")
    if gvwr and truck.gcwr and truck.gcwr.si <= gvwr.si:
        yield Doubt(
            question="Truck and trailer together may weigh no more than the truck alone?",
            field="gcwr",
        )
    if truck.max_trailer_mass and truck.gcwr and empty_kg:
        room = si(truck.gcwr) - empty_kg
        if si(truck.max_trailer_mass) > room * 1.02:
            yield Doubt(
                question=f"The tow rating is more than GCWR less the empty truck, {mass(room)}. "
                "Is one of them from another truck?",
                field="max_trailer_mass",
            )
    if truck.wheelbase and not 2.2 <= si(truck.wheelbase) <= 6.5:
        yield Doubt(
            question=f"A wheelbase of {write_length(si(truck.wheelbase), units)}?",
            field="wheelbase",
        )
    if truck.pk and not truck.loads.all():
        yield Doubt(
            question="Nobody rides in it. The driver counts too: everything aboard uses payload.",
            field="loads",
        )
    if (
        truck.arch_rear
        and truck.arch_rear_loaded
        and si(truck.arch_rear_loaded) >= si(truck.arch_rear)
    ):
        yield Doubt(
            question="The rear arch did not sink under the known load. Are the two readings "
            "swapped, or does friction hold the springs?",
            field="arch_rear_loaded",
        )
    tow = tow_limit_kg(truck)
    for hitch in truck.hitches.all():
        yield from _hitch_doubts(hitch, tow, mass, lambda q: write_given(q, words[0]))


def _hitch_doubts(
    hitch: Hitch,
    tow: float | None,
    mass: Callable[[float], str],
    given: Callable[[Quantity], str],
) -> Iterator[Doubt]:
    gooseneck = hitch.type in (Hitch.Type.GOOSENECK, Hitch.Type.FIFTH_WHEEL)
    if hitch.offset is not None and gooseneck and si(hitch.offset) > 0.3:
        yield Doubt(
            question=f"{hitch.name} stands behind the rear axle. Bed hitches usually stand over "
            "it or a little ahead: is a minus missing?",
            field="hitches",
        )
    if hitch.offset is not None and not gooseneck and si(hitch.offset) < 0:
        yield Doubt(
            question=f"{hitch.name} stands ahead of the rear axle. Is the minus meant?",
            field="hitches",
        )
    chain = assemble(hitch, None)
    weakest = chain.weakest_trailer
    if weakest is not None and tow is not None:
        rating = chain.trailer_rating(weakest)
        if rating is not None and si(rating) < tow * LOW_RATING:
            yield Doubt(
                question=f"{weakest.name} is rated {given(rating)}, the truck "
                f"{mass(tow)}. The part governs: is it the right one for this truck?",
                field="hitches",
            )
    sizes = {p.shank_size.si for p in chain.parts if p.shank_size is not None}
    sleeve = any(p.kind == HitchPart.Kind.SLEEVE for p in chain.parts)
    if len(sizes) > 1 and not sleeve:
        yield Doubt(
            question=f"The shanks and openings on {hitch.name} differ in size and there is no "
            "sleeve between them. Do they fit?",
            field="hitches",
        )


def _trailer_doubts(trailer: Trailer, words: Words) -> Iterator[Doubt]:
    units, _ = words
    empty, tongue, gvwr = trailer.empty_mass, trailer.empty_tongue_mass, trailer.gvwr
    gooseneck = trailer.over_bed
    if empty and tongue:
        share = si(tongue) / si(empty)
        if share > trailer.most_empty_share:
            yield Doubt(
                question=f"The tongue is {write_percent(share)} of the empty trailer, more than "
                f"{'three tenths' if gooseneck else 'a fifth'}. Was the trailer level, and the "
                "jack off the ground?",
                field="empty_tongue_mass",
            )
        elif share < 0.04:
            yield Doubt(
                question=f"The tongue is only {write_percent(share)} of the empty trailer. Was "
                "the jack still carrying?",
                field="empty_tongue_mass",
            )
    if empty and gvwr and gvwr.si <= empty.si:
        yield Doubt(
            question="The trailer weighs its GVWR empty. Is the GVWR the payload?", field="gvwr"
        )
    axles = list(trailer.axles.all())
    rated = [si(a.gawr) for a in axles if a.gawr is not None]
    if gvwr and axles and len(rated) == len(axles) and si(gvwr) > 1.35 * sum(rated):
        yield Doubt(
            question="The GVWR is far above what its axles carry together. Read the plate again?",
            field="gvwr",
        )
    for number, axle in enumerate(axles, 1):
        if axle.gawr and axle.tire_capacity and axle.tire_capacity.si < axle.gawr.si:
            yield Doubt(
                question=f"The tires of axle {number} carry less than the axle is rated for. "
                "Counted for all its tires?",
                field="axles",
            )
    if trailer.empty_known in (Known.BROCHURE, Known.GUESS):
        yield Doubt(
            question="The empty mass is not weighed. Does it count spare, toolbox, winch and "
            "ramps in?",
            field="empty_mass",
        )
    yield from _deck_doubts(trailer, axles, units)


def _deck_doubts(trailer: Trailer, axles: list[Any], units: UnitSystem) -> Iterator[Doubt]:
    start, length = trailer.deck_start, trailer.deck_length
    if start is not None and length is not None and axles:
        found = axle_places(trailer)
        centre = si(start) if found is None else found.middle
        if found is not None and not si(start) < centre < si(start) + si(length):
            yield Doubt(
                question=f"The axles stand {write_length(centre, units)} behind the coupler, "
                "which is not under the deck. Are both taped from the ball?",
                field="deck_start",
            )
    if start is not None and length is not None:
        for number, axle in enumerate(axles, 1):
            if axle.position is None:
                continue
            at = si(axle.position)
            if at < si(start) or at > si(start) + si(length):
                where = "ahead of the deck" if at < si(start) else "behind the deck's end"
                yield Doubt(
                    question=f"Axle {number} stands {write_length(at, units)} behind the coupler, "
                    f"{where}. Taped from the ball?",
                    field="axles",
                )
    if trailer.track_width and not 1.0 <= si(trailer.track_width) <= 2.8:
        yield Doubt(
            question=f"A track of {write_length(si(trailer.track_width), units)}?",
            field="track_width",
        )
    if (
        trailer.tail == Trailer.Tail.GATE
        and trailer.rear_overhang is not None
        and trailer.rear_overhang.si > 0
    ):
        yield Doubt(
            question="A gate stands at the tail, yet the load may reach past it. Does it travel "
            "open?",
            field="rear_overhang",
        )
    if (trailer.concentration_mass is None) != (trailer.concentration_length is None):
        yield Doubt(
            question="The most on one length needs both, the mass and the length.",
            field="concentration_mass",
        )
    if lever_m(trailer) is None and trailer.gvwr is not None:
        return
    brakes = {a.brake for a in axles}
    if trailer.gvwr and si(trailer.gvwr) > 1360 and brakes and brakes <= {"none"}:
        yield Doubt(
            question="A trailer this heavy without brakes? Check your local rule.", field="axles"
        )


def _machine_doubts(machine: Machine, words: Words) -> Iterator[Doubt]:
    units, _ = words
    if (
        machine.built == Machine.Built.WHOLE
        and machine.mass_known == Known.BROCHURE
        and not machine.brochure_checked
    ):
        yield Doubt(
            question="A brochure weight. Does it count bucket, tire fluid, fuel and ballast in? "
            "Most leave them out.",
            field="mass",
        )
    bases = [p for p in machine.parts.all() if p.kind == MachinePart.Kind.BASE]
    if machine.built == Machine.Built.PARTS and machine.parts.all() and not bases:
        yield Doubt(question="There is no base machine among the parts.", field="parts")
    kinds = {p.kind for p in machine.parts.all()}
    if (
        machine.built == Machine.Built.PARTS
        and machine.shape == Machine.Shape.TRACTOR
        and bases
        and any(p.known == Known.BROCHURE for p in bases)
        and not kinds & {MachinePart.Kind.TIRE_FLUID, MachinePart.Kind.WHEEL_WEIGHTS}
    ):
        yield Doubt(
            question="No tire fluid and no wheel weights: are its tires really empty?",
            field="parts",
        )
    if machine.mass_known == Known.GUESS and machine.built == Machine.Built.WHOLE and machine.mass:
        yield Doubt(
            question="A guessed mass. People guess a fifth to a third too low.", field="mass"
        )
    front, rear = machine.reach_front, machine.reach_rear
    ahead = machine.balance_ahead if machine.built == Machine.Built.WHOLE else None
    if ahead is not None and (
        (front is not None and ahead.si > front.si) or (rear is not None and -ahead.si > rear.si)
    ):
        # the form refuses it; the book may hold it from before
        yield Doubt(
            question="The balance point lies outside the machine. Is a minus wrong?",
            field="balance_ahead",
        )
    elif (
        ahead is not None
        and machine.wheelbase is not None
        and machine.shape in (Machine.Shape.TRACTOR, Machine.Shape.LOADER)
        and not machine.mark_ahead
        and not 0 <= ahead.si <= machine.wheelbase.si
        and "rear" in machine.mark_name
    ):
        yield Doubt(
            question="The balance point is not between the wheels; it would tip. Taken from the "
            "rear axle?",
            field="balance_ahead",
        )
    if front is not None and rear is not None and machine.wheelbase is not None:
        total = front.si + rear.si
        if total < machine.wheelbase.si:
            yield Doubt(
                question=f"It is {write_length(float(total), units)} long and its wheels stand "
                f"{write_length(si(machine.wheelbase), units)} apart. Swapped?",
                field="wheelbase",
            )
    for part in machine.parts.all():
        mass = part_mass_kg(part)
        if part.mass is not None and part.volume is not None:
            yield Doubt(
                question=f"{part.name} has a mass and a volume; the mass is used.", field="parts"
            )
        if mass is not None and part.known == Known.BROCHURE and part.kind == "base":
            yield Doubt(
                question=f"{part.name}: a brochure weight. With or without cab, loader and "
                "fluids? Count each once.",
                field="parts",
            )
    entered = machine.mass if machine.built == Machine.Built.WHOLE else None
    for field, mass_of in (
        ("mass", entered),
        ("front_axle_mass", machine.front_axle_mass),
        ("rear_axle_mass", machine.rear_axle_mass),
    ):
        if mass_of is not None and si(mass_of) > HEAVIEST_KG:
            yield Doubt(
                question=f"{write_given(mass_of, units)} is more than anything that goes on these "
                "trailers. The right unit, or a digit too many?",
                field=field,
            )
    names = {p.pk: p.name for p in machine.parts.all()}
    for configuration in machine.configurations.all():
        on = {p.kind for p in parts_on(machine, configuration)}
        if {"bucket", "forks"} <= on:
            yield Doubt(
                question=f"{configuration.name}: bucket and forks at once?", field="configurations"
            )
        if not names:
            yield Doubt(
                question=f"{configuration.name} has no parts to choose from.",
                field="configurations",
            )


def _part_doubts(part: HitchPart, words: Words) -> Iterator[Doubt]:
    trailer, tongue = part.max_trailer_mass, part.max_tongue_mass
    if trailer and tongue:
        share = si(tongue) / si(trailer)
        if share > 0.3 or share < 0.05:
            yield Doubt(
                question=f"A tongue rating of {write_percent(share)} of the trailer rating. "
                "Are the two swapped, or is a digit missing?",
                field="max_tongue_mass",
            )
    for bars, carrying, field in (
        (part.max_trailer_mass_wd, trailer, "max_trailer_mass_wd"),
        (part.max_tongue_mass_wd, tongue, "max_tongue_mass_wd"),
    ):
        if bars and carrying and bars.si < carrying.si:
            yield Doubt(
                question="The rating with bars is usually the higher one of the pair.",
                field=field,
            )
    if part.ball_size is not None:
        size = si(part.ball_size)
        if not any(abs(size - usual) <= SAME_SIZE_M for usual in USUAL_BALLS_M):
            yield Doubt(
                question=f"{write_given(part.ball_size, words[0])} is not a usual ball. It is "
                + in_units_of(f"stamped on top: {USUAL_BALLS}.", words[0]),
                field="ball_size",
            )


def _bulk_doubts(bulk: Bulk, words: Words) -> Iterator[Doubt]:
    material = MATERIALS.get(bulk.material)
    if material is not None and bulk.density is not None:
        density = si(bulk.density)
        if not 0.8 * material.least_kg_m3 <= density <= 1.2 * material.greatest_kg_m3:
            yield Doubt(
                question=f"{write_given(bulk.density, words[0])} is far from what "
                f"{material.name.lower()} usually weighs. The right unit?",
                field="density",
            )
    if bulk.volume is not None and not 0.01 <= si(bulk.volume) <= 30:
        yield Doubt(
            question=f"A volume of {write_given(bulk.volume, words[0])}? The right unit?",
            field="volume",
        )


def _gear_doubts(gear: Gear, words: Words) -> Iterator[Doubt]:
    if gear.retired:
        return
    if overdue(gear, timezone.localdate()):
        yield Doubt(
            question=f"Last looked over {gear.inspected_on:%d %b %Y}, more than "
            f"{LOOKED_OVER_DAYS} days ago. Is it still sound?",
            field="inspected_on",
        )
    published = None
    if gear.kind == Gear.Kind.CHAIN and gear.size is not None and gear.wll is not None:
        published = chain_limit_kg(si(gear.size), int(gear.grade or 100))
    limit = gear_limit(gear).kg
    if published is not None and limit is not None and limit > MARKED_OVER * published:
        yield Doubt(
            question=f"{write_given(gear.wll, words[0])} is far above the "
            f"{write_mass(published, words[0])} published for such chain. Is it the breaking "
            "strength?",
            field="wll",
        )
    if gear.runs and gear.length is not None and not 0.3 <= si(gear.length) <= 30:
        yield Doubt(
            question=f"A length of {write_given(gear.length, words[0])}? The right unit?",
            field="length",
        )


_DOUBTS: dict[type, Callable[[Any, Words], Iterator[Doubt]]] = {
    Truck: _truck_doubts,
    HitchPart: _part_doubts,
    Trailer: _trailer_doubts,
    Machine: _machine_doubts,
    Bulk: _bulk_doubts,
    Gear: _gear_doubts,
    Place: lambda place, words: iter(()),
}
