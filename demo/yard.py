"""Fernbeck Drainage, all of it invented, made from the lists of :mod:`demo.outfit`.

The yard has gaps on purpose: a rating nobody looked up, a brochure weight, a machine
whose balance point nobody knows, an adapter sleeve rated far under its truck.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from decimal import Decimal
from typing import Any

from django.db import transaction
from django.utils import timezone
from reversion.models import Version

from book.history import keep, recorded
from book.models import (
    Bulk,
    Configuration,
    Hitch,
    HitchLink,
    HitchPart,
    Machine,
    MachinePart,
    Thing,
    Ticket,
    Trailer,
    TrailerAddition,
    TrailerAxle,
    TrailerPart,
    Truck,
    TruckLoad,
)
from book.services.photos import attach
from demo.given import inches, pounds
from demo.jobs import job_said, make_places, make_stays
from demo.login import DRIVER, LOGIN, PASSWORD, PLANNER
from demo.outfit import BULK, HAULS, MACHINES, PARTS, TICKETS, TRAILERS, TRUCKS
from demo.plate import plate_photo
from demo.practised import make_practice
from demo.road import make_road
from demo.tying import make_anchors, make_gear, make_points, tied
from demo.weighings import make_weighings
from hauls.assigning import Job, assign, assigned
from hauls.loads import Load
from hauls.models import Haul
from hauls.store import create_haul, save_haul
from measures import Quantity
from mechanics.units import M_PER_IN
from planfile.climbing import Place
from planfile.document import Site
from yards.models import Membership, Role, User, Yard

NAME = "Fernbeck Drainage"
PHONE = "555 0100"
A_DAY = 3
"""Hauls of one day, one after the other as the list has them."""
DAYS = 3
"""Days that are settled already; whatever else is planned has none yet."""


@transaction.atomic
def make_demo_yard() -> bool:
    """Make the demo yard; False, with nothing touched, where it stands already."""
    if Yard.objects.filter(name=NAME).exists():
        return False
    yard = Yard.objects.create(name=NAME, phone=PHONE)
    user = _person(yard, LOGIN, "Ida Fern", Role.OWNER)
    drivers = [
        _person(yard, DRIVER, "Jo Marsh", Role.DRIVER),
        _person(yard, PLANNER, "Tam Reedy", Role.PLANNER),
    ]
    today = timezone.localdate()
    made: list[Thing] = []
    with recorded(yard=yard, user=user, why="Read off the plates and stickers"):
        parts = {entry["name"]: _part(yard, entry) for entry in PARTS}
        made += parts.values()
        hitches = [_truck(yard, entry, parts, made) for entry in TRUCKS]
        trailers = [_trailer(yard, entry, parts) for entry in TRAILERS]
        machines = [_machine(yard, entry) for entry in MACHINES]
        bulk = [_bulk(yard, entry) for entry in BULK]
        for trailer in trailers:
            make_anchors(trailer)
        for machine in machines:
            make_points(machine)
        places = make_places(yard)
        made += [*trailers, *machines, *bulk, *make_gear(yard), *places.values()]
        for thing in made:
            keep(thing)
    loads = _loads(machines, bulk)
    # the list shows the newest first, and the good one should lead it
    for number, entry in reversed(list(enumerate(HAULS))):
        truck, hitch, trailer = entry["outfit"]
        haul = create_haul(
            yard=yard,
            user=user,
            name=entry["name"],
            hitch=hitches[truck][hitch],
            trailer=trailers[trailer],
            loads=[loads[name] for name in entry["loads"]],
        )
        _place(haul, entry, user)
        later, turn = divmod(number, A_DAY)
        job = Job(**job_said(entry["name"], places))
        if later < DAYS:
            day = today + timedelta(days=later)
            job = replace(job, day=day, driver=drivers[turn % 2])
        assign(haul, job, was=assigned(haul))
    make_stays(yard, today, places)
    _photos(yard, user)
    _tickets(yard)
    make_weighings(yard)
    make_road(yard, drivers[0], user)
    make_practice(yard, drivers[0])
    _reweigh(yard, user)
    return True


def _person(yard: Yard, login: str, name: str, role: Role) -> User:
    first, _, last = name.partition(" ")
    user = User.objects.create_user(login, password=PASSWORD, first_name=first, last_name=last)
    Membership.objects.create(yard=yard, user=user, role=role)
    return user


def _reweigh(yard: Yard, user: User) -> None:
    """Months ago the book was filled; last week the roller stood on a scale again."""
    then = timezone.now() - timedelta(days=143)
    Version.objects.none()
    roller = Machine.objects.get(yard=yard, name="Ridge R5 roller")
    for version in Version.objects.get_for_object(roller).select_related("revision"):
        version.revision.date_created = then
        version.revision.save(update_fields=["date_created"])
    with recorded(yard=yard, user=user, why="New ticket: water in the drum was not counted"):
        roller.front_axle_mass = pounds(2620)
        roller.version += 1
        roller.save()
        keep(roller)


def _tickets(yard: Yard) -> None:
    """Some months of tickets, read by the driver."""
    driver = User.objects.get(username=DRIVER)
    for model, name, days, number, readings in TICKETS:
        thing = {"truck": Truck, "trailer": Trailer, "machine": Machine}[
            model
        ]._default_manager.get(yard=yard, name=name)
        Ticket.objects.create(
            yard=yard,
            thing=thing,
            weighed_on=timezone.localdate() - timedelta(days=days),
            place="Mill Ponds scale",
            number=number,
            added_by=driver,
            **{field: pounds(figure) for field, figure in readings.items()},
        )


def _photos(yard: Yard, user: User) -> None:
    for thing, lines, caption in (
        (
            Truck.objects.get(yard=yard, name="Work truck 3"),
            ("GVWR 10000 LB", "GAWR FRT 5200 LB", "GAWR RR 6340 LB", "PAYLOAD 2700 LB"),
            "Door sticker",
        ),
        (
            Trailer.objects.get(yard=yard, name="20 ft equipment trailer"),
            ("GVWR 10000 LB", "GAWR 5200 LB EA AXLE"),
            "Plate on the tongue",
        ),
    ):
        attach(thing, plate_photo(lines), caption=caption, user=user)


def _loads(machines: list[Machine], bulk: list[Bulk]) -> dict[str, Load]:
    loads = [Load(machine=machine) for machine in machines]
    loads += [
        Load(machine=machine, configuration=configuration)
        for machine in machines
        for configuration in machine.configurations.all()
    ]
    loads += [Load(bulk=entry) for entry in bulk]
    return {load.name: load for load in loads}


def _place(haul: Haul, entry: dict[str, Any], user: User) -> None:
    draft = haul.draft
    if entry["at"] is not None:
        for index, at in enumerate(entry["at"]):
            draft = draft.put(index, at * M_PER_IN)
    for place, key in ((Place.LOADING, "site"), (Place.UNLOADING, "unloading")):
        if key in entry:
            draft = draft.with_site(Site(**entry[key]), place)
    save_haul(haul, tied(haul, draft), base=haul.revision, user=user)
    # the yard's story begins here: there is nothing before it to go back to
    haul.steps.all().delete()
    Haul.objects.filter(pk=haul.pk).update(step=0)


def _part(yard: Yard, entry: dict[str, Any]) -> HitchPart:
    trailer, tongue = entry["rated"]
    with_bars = entry.get("bars", (None, None))
    return HitchPart.objects.create(
        yard=yard,
        name=entry["name"],
        kind=entry["kind"],
        max_trailer_mass=pounds(trailer),
        max_tongue_mass=pounds(tongue),
        max_trailer_mass_wd=pounds(with_bars[0]),
        max_tongue_mass_wd=pounds(with_bars[1]),
        ball_size=inches(entry.get("ball")),
        shank_size=inches(entry.get("shank")),
        mass=pounds(entry.get("mass")),
    )


def _truck(
    yard: Yard, entry: dict[str, Any], parts: dict[str, HitchPart], made: list[Thing]
) -> list[Hitch]:
    truck = Truck.objects.create(
        yard=yard,
        name=entry["name"],
        drive=entry["drive"],
        cab=entry["cab"],
        rear_wheels=entry["rear_wheels"],
        wheelbase=inches(entry["wheelbase"]),
        **_arches(*entry.get("arches", (None,) * 6)),
        **{field: pounds(number) for field, number in entry["masses"].items()},
    )
    made.append(truck)
    for name, mass, tolerance, ahead in entry["loads"]:
        TruckLoad.objects.create(
            truck=truck,
            name=name,
            mass=pounds(mass),
            mass_tolerance=pounds(tolerance),
            ahead_of_rear_axle=inches(ahead),
        )
    hitches = []
    heights = entry.get("ball_heights", (None,) * len(entry["hitches"]))
    for (name, kind, offset, mass, names), height in zip(entry["hitches"], heights, strict=True):
        hitch = Hitch.objects.create(
            truck=truck,
            name=name,
            type=kind,
            offset=inches(offset),
            mass=pounds(mass),
            ball_height=inches(height),
        )
        for part in names:
            HitchLink.objects.create(hitch=hitch, part=parts[part])
        hitches.append(hitch)
    return hitches


def _arches(
    front: float | None,
    rear: float | None,
    mass: float | None,
    ahead: float | None,
    front_loaded: float | None,
    rear_loaded: float | None,
) -> dict[str, Quantity | None]:
    return {
        "arch_front": inches(front),
        "arch_rear": inches(rear),
        "arch_load_mass": pounds(mass),
        "arch_load_ahead": inches(ahead),
        "arch_front_loaded": inches(front_loaded),
        "arch_rear_loaded": inches(rear_loaded),
    }


def _ramps(
    rating: float | None, width: float | None, narrowest: float | None, widest: float | None
) -> dict[str, Quantity | None]:
    return {
        "ramp_rating": pounds(rating),
        "ramp_width": inches(width),
        "ramp_narrowest": inches(narrowest),
        "ramp_widest": inches(widest),
    }


def _stands(
    gap: float | None, at: float | None, rating: float | None
) -> dict[str, Quantity | bool | None]:
    return {
        "stands": gap is not None,
        "stands_gap": inches(gap),
        "stands_at": inches(at),
        "stands_rating": pounds(rating),
    }


def _winch(
    rating: float | None, height: float | None, anchor: float | None
) -> dict[str, Quantity | None]:
    return {
        "winch_rating": pounds(rating),
        "winch_height": inches(height),
        "winch_anchor": pounds(anchor),
    }


def _trailer(yard: Yard, entry: dict[str, Any], parts: dict[str, HitchPart]) -> Trailer:
    start, length, width, height = entry["deck"]
    hinge, bed_mass, bed_balance = entry.get("bed", (None, None, None))
    coupler_height, axle_height = entry["heights"]
    most, within = entry.get("most", (None, None))
    dovetail_length, dovetail_drop = entry.get("dovetail", (None, None))
    trailer = Trailer.objects.create(
        yard=yard,
        name=entry["name"],
        kind=entry["kind"],
        empty_mass=pounds(entry["empty"][0]),
        empty_mass_tolerance=pounds(entry["empty"][1]),
        empty_tongue_mass=pounds(entry["tongue"][0]),
        empty_tongue_mass_tolerance=pounds(entry["tongue"][1]),
        gvwr=pounds(entry["gvwr"]),
        suspension=entry["suspension"],
        tire_pressure=Quantity(Decimal(entry["psi"]), "psi") if "psi" in entry else None,
        tires_made=entry.get("tires_made", ""),
        track_width=inches(entry["track"]),
        deck_start=inches(start),
        deck_length=inches(length),
        deck_width=inches(width),
        deck_height=inches(height),
        coupler_height=inches(coupler_height),
        axle_height=inches(axle_height),
        concentration_mass=pounds(most),
        concentration_length=inches(within),
        front_overhang=inches(entry["overhang"][0]),
        rear_overhang=inches(entry["overhang"][1]),
        tail=entry["tail"],
        sides=entry.get("sides", ""),
        fenders="beside",
        ramp_length=inches(entry.get("ramp")),
        ramps_stored="upright" if "ramp" in entry else "",
        bed_latched=entry.get("latched", False),
        **_ramps(*entry.get("ramps", (None,) * 4)),
        **_stands(*entry.get("stands", (None,) * 3)),
        **_winch(*entry.get("winch", (None,) * 3)),
        dovetail_length=inches(dovetail_length),
        dovetail_drop=inches(dovetail_drop),
        bed_hinge=inches(hinge),
        bed_mass=pounds(bed_mass),
        bed_balance=inches(bed_balance),
    )
    for position, gawr, tires in entry["axles"]:
        TrailerAxle.objects.create(
            trailer=trailer,
            position=inches(position),
            gawr=pounds(gawr),
            tire_capacity=pounds(tires),
            brake="electric",
        )
    for name in entry["parts"]:
        TrailerPart.objects.create(trailer=trailer, part=parts[name])
    for name, kind, mass, behind, weighed_in in entry.get("added", ()):
        TrailerAddition.objects.create(
            trailer=trailer,
            name=name,
            kind=kind,
            mass=pounds(mass),
            behind_coupler=inches(behind),
            weighed_in=weighed_in,
        )
    return trailer


def _hangs(
    tail: float | None, belly: float | None, nose: float | None
) -> dict[str, Quantity | None]:
    return {
        "tail_clearance": inches(tail),
        "belly_clearance": inches(belly),
        "nose_clearance": inches(nose),
    }


def _tread(track: float | None, tire: float | None) -> dict[str, Quantity | None]:
    return {"track_width": inches(track), "tire_width": inches(tire)}


def _machine(yard: Yard, entry: dict[str, Any]) -> Machine:
    mass, tolerance, known = entry.get("mass", (None, None, "guess"))
    ahead, ahead_tolerance, balance_known = entry.get("balance", (None, None, "guess"))
    front_axle, rear_axle = entry.get("axle_masses", (None, None))
    width, height, wheelbase = entry["size"]
    machine = Machine.objects.create(
        yard=yard,
        name=entry["name"],
        shape=entry["shape"],
        built=entry.get("built", "whole"),
        running="tracks" if "track" in entry["mark"] else "wheels",
        mass=pounds(mass),
        mass_tolerance=pounds(tolerance),
        mass_known=known,
        front_axle_mass=pounds(front_axle),
        rear_axle_mass=pounds(rear_axle),
        mark_name=entry["mark"],
        balance_ahead=inches(ahead),
        balance_tolerance=inches(ahead_tolerance),
        balance_known=balance_known,
        reach_front=inches(entry["reach"][0]),
        reach_rear=inches(entry["reach"][1]),
        width=inches(width),
        height=inches(height),
        wheelbase=inches(wheelbase),
        balance_height=inches(entry.get("balance_height")),
        **_hangs(*entry.get("hangs", (None,) * 3)),
        **_tread(*entry.get("tread", (None,) * 2)),
    )
    parts = {}
    for name, kind, mass, known, ahead, height, more in entry.get("parts", ()):
        volume, fill, fluid = more.get("contents", (None, None, ""))
        parts[name] = MachinePart.objects.create(
            machine=machine,
            name=name,
            kind=kind,
            mass=pounds(mass),
            known=known,
            ahead=inches(ahead),
            height=inches(height),
            volume=None if volume is None else Quantity.parse(volume),
            fill=fill,
            fluid=fluid,
            reach_front=inches(more.get("reach_front")),
            reach_rear=inches(more.get("reach_rear")),
            weighed_in=more.get("weighed_in", False),
            removable=more.get("off", False),
        )
    for name, on, more in entry.get("configurations", ()):
        configuration = Configuration.objects.create(
            machine=machine,
            name=name,
            reach_front=inches(more.get("reach_front")),
            **_hangs(*more.get("hangs", (None,) * 3)),
        )
        configuration.parts.set([parts[part] for part in on])
    return machine


def _bulk(yard: Yard, entry: dict[str, Any]) -> Bulk:
    length, width, height = entry["size"]
    piece, volume = entry.get("piece_mass"), entry.get("volume")
    return Bulk.objects.create(
        yard=yard,
        name=entry["name"],
        measured=entry["measured"],
        material=entry.get("material", ""),
        volume=None if volume is None else Quantity.parse(volume),
        count=entry.get("count"),
        piece_mass=None if piece is None else Quantity.parse(piece),
        heap=entry["heap"],
        length=inches(length),
        width=inches(width),
        height=inches(height),
    )
