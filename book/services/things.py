"""Save, copy and remove things of the book: whole or not at all, and recorded."""

from __future__ import annotations

from typing import Any, cast

from django.db import transaction
from django.db.models import F
from django.forms import ModelForm
from django.utils import timezone
from reversion.models import Revision

from book.estimates import driver
from book.forms import link_parts
from book.history import keep, note, put_back, recorded
from book.models import (
    Configuration,
    Gear,
    Hitch,
    HitchPart,
    Known,
    Machine,
    MachinePoint,
    Thing,
    Trailer,
    TrailerAnchor,
    Truck,
)
from book.services.removal import remove
from book.ties import usual_anchors, usual_points
from book.yardfile import dump_thing, load_thing
from measures import Quantity, UnitSystem
from web.sent import counted
from yards.models import User, Yard


class StaleThing(Exception):
    """Somebody saved the thing in between; nothing was stored."""


def claim(thing: Any, version: str | None) -> None:
    """Take the next version of a stored thing, or of any row that counts its versions, if it still
    is at the one given.

    Raises:
        StaleThing: it has moved on.
    """
    based = counted(version)
    current = type(thing)._default_manager.filter(pk=thing.pk, version=based)
    if not current.update(version=F("version") + 1):
        raise StaleThing
    thing.version = based + 1


@transaction.atomic
def keep_over(form: ModelForm[Any], there: Any | None, version: str | None) -> Any:
    """Keep what a form says of a row that counts its versions, on top of the version it was filled
    from; of a new one, where ``there`` is ``None``, as it is.

    Raises:
        StaleThing: somebody else changed it in between; nothing is stored.
    """
    if there is not None:
        claim(there, version)
    return form.save()


def save_thing(
    form: ModelForm[Any], formsets: list[Any], *, version: str | None, user: User, why: str
) -> Thing:
    """Save a page of the book with its inner lists.

    Raises:
        StaleThing: the thing has moved on; nothing is stored.
    """
    thing: Thing = form.instance
    with recorded(yard=thing.yard, user=user, why=why):
        if thing.pk is not None:
            claim(thing, version)
        form.save()
        linked = list(form.cleaned_data.get("parts_on", []))
        for formset in formsets:
            if formset.prefix == "new":
                linked += save_new_parts(formset, thing.name)
            else:
                formset.instance = thing
                formset.save()
        if isinstance(thing, Trailer):
            link_parts(thing, linked)
        keep(thing)
    return thing


def save_hitch(
    form: ModelForm[Any], new_parts: Any, *, version: str | None, user: User, why: str
) -> Hitch:
    """Save a hitch with its parts; it is part of its truck and shares its version.

    Raises:
        StaleThing: the truck has moved on; nothing is stored.
    """
    hitch: Hitch = form.instance
    truck: Truck = hitch.truck
    with recorded(yard=truck.yard, user=user, why=why):
        claim(truck, version)
        form.save()
        link_parts(hitch, [*form.cleaned_data["parts_on"], *save_new_parts(new_parts, truck.name)])
        keep(truck)
    return hitch


def save_new_parts(formset: Any, owner: str) -> list[HitchPart]:
    """Bring the filled rows into the book; a nameless part is named for kind and owner."""
    made = []
    for form in formset.forms:
        if not form.has_changed():
            continue
        part: HitchPart = form.save(commit=False)
        if not part.name:
            part.name = free_name(
                HitchPart, part.yard_id, f"{part.get_kind_display()}, {owner}"[:110]
            )
        part.save()
        keep(part)
        made.append(part)
    return made


def save_configuration(
    form: ModelForm[Any], *, version: str | None, user: User, why: str
) -> Configuration:
    """Save a configuration; it is part of its machine and shares its version.

    Raises:
        StaleThing: the machine has moved on; nothing is stored.
    """
    configuration: Configuration = form.instance
    machine: Machine = configuration.machine
    with recorded(yard=machine.yard, user=user, why=why):
        claim(machine, version)
        form.save()
        keep(machine)
    return configuration


def remove_inner(
    inner: Hitch | Configuration, *, version: str | None, user: User, address: str = ""
) -> None:
    """Take a hitch off its truck, or a configuration off its machine.

    Raises:
        StaleThing: truck or machine have moved on; nothing is removed.
    """
    owner: Thing = inner.truck if isinstance(inner, Hitch) else inner.machine
    words = "taken off" if isinstance(inner, Hitch) else "removed"
    with recorded(yard=owner.yard, user=user, why=f"{inner.name} {words}"):
        claim(owner, version)
        what = "hitch" if isinstance(inner, Hitch) else "configuration"
        name = f"{owner.name}: {inner.name}"
        remove(inner, what=what, name=name, yard=owner.yard, user=user, address=address)
        keep(owner)


def copy_thing(thing: Thing, *, user: User) -> Thing:
    """The thing again under a free name, as a start for the next one; photos stay."""
    kind = type(thing)
    document = dump_thing(thing)
    document["name"] = free_name(kind, thing.yard_id, f"{thing.name[:100]}, copy")
    with recorded(yard=thing.yard, user=user, why=f"Copied from {thing.name}"):
        made = load_thing(kind, document, yard=thing.yard)
        keep(made)
    return made


def remove_thing(thing: Thing, *, version: str | None, user: User, address: str = "") -> None:
    """Take a thing out of the book, to be brought back if wanted; hauls planned with it keep
    their numbers.

    Raises:
        StaleThing: it has moved on since the page was drawn; nothing is removed.
    """
    with transaction.atomic():
        claim(thing, version)
        note(yard=thing.yard, user=user, why=f"{thing.name} removed from the book")
        remove(
            thing,
            what=str(thing._meta.verbose_name),
            name=thing.name,
            yard=thing.yard,
            user=user,
            address=address,
        )


def restore_version(thing: Thing, revision: int, *, version: str | None, user: User) -> int:
    """Make a thing again what it was after a recorded change; how many of its parts are lost.

    Raises:
        StaleThing: it has moved on since the page was drawn; nothing is stored.
        LookupError: there is no such change of it.
        IntegrityError: something else has its name of then; nothing is stored.
    """
    there = Revision.objects.filter(pk=revision, of_yard__yard=thing.yard_id).first()
    if there is None:
        raise LookupError(revision)
    when = timezone.localtime(there.date_created)
    with recorded(
        yard=thing.yard, user=user, why=f"As it was on {when:%d %b %Y, %H:%M}", by_hand=True
    ):
        claim(thing, version)
        lost = put_back(thing, there)
        keep(thing)
    return lost


def retire_one(gear: Gear, reason: str, *, version: str | None, user: User) -> Gear:
    """Retire one piece of gear; of several that are alike it becomes an entry of its own.

    Raises:
        StaleThing: it has moved on since the page was drawn; nothing is stored.
    """
    with recorded(yard=gear.yard, user=user, why=f"One of {gear.name} retired"):
        claim(gear, version)
        if gear.count == 1:
            gear.retired = reason
            gear.save()
            keep(gear)
            return gear
        gear.count -= 1
        gear.save()
        keep(gear)
        document = dump_thing(gear) | {"count": 1, "retired": reason}
        document["name"] = free_name(Gear, gear.yard_id, f"{gear.name[:100]}, retired")
        gone = load_thing(Gear, document, yard=gear.yard)
        keep(gone)
        return cast(Gear, gone)


def places_of(thing: Thing) -> list[TrailerAnchor | MachinePoint]:
    """Anchors of a trailer, points of a machine; nothing else has places to tie to."""
    if isinstance(thing, Trailer):
        return list(thing.anchors.all())
    return list(thing.points.all()) if isinstance(thing, Machine) else []


def put_usual_places(thing: Thing, *, version: str | None, user: User) -> int:
    """Give a trailer without anchors, or a machine without points, the usual ones; how many rows.

    Raises:
        StaleThing: it has moved on since the page was drawn; nothing is stored.
    """
    rows: list[TrailerAnchor | MachinePoint] = []
    if isinstance(thing, Trailer):
        rows = list(usual_anchors(thing))
    elif isinstance(thing, Machine):
        rows = list(usual_points(thing))
    if not rows or places_of(thing):
        return 0
    with recorded(yard=thing.yard, user=user, why="Usual places to tie to, as guesses"):
        claim(thing, version)
        for row in rows:
            row.save()
        keep(thing)
    return len(rows)


def seat_people(truck: Truck, count: int, *, units: UnitSystem, user: User) -> int:
    """Let so many people ride in a truck of which the book says nothing of who does; how many came
    in. Their mass is the usual one with the whole of its band, their place is left to the usual
    one of front seats.
    """
    with recorded(yard=truck.yard, user=user, why="who rides in it"):
        now = Truck.objects.prefetch_related("loads").get(pk=truck.pk)
        found = driver(now)
        if found is None:
            return 0
        mass, _ = found
        for name in ("Driver", "Passenger")[:count]:
            now.loads.create(
                name=name,
                mass=Quantity.nearest(mass.si, units.mass_unit),
                known=Known.GUESS,
                mass_tolerance=Quantity.nearest(mass.tolerance, units.mass_unit),
            )
        Truck.objects.filter(pk=now.pk).update(version=F("version") + 1)
        keep(now)
    return count


def is_set_up(yard: Yard) -> bool:
    """Whether the yard has a truck with a hitch, a trailer and a machine to begin with."""
    return (
        Hitch.objects.filter(truck__yard=yard).exists()
        and Trailer.objects.filter(yard=yard).exists()
        and Machine.objects.filter(yard=yard).exists()
    )


def free_name(model: type[Thing], yard_id: int, name: str) -> str:
    """The name, or the name with the next number that is free in its list."""
    taken = set(
        model._default_manager.filter(yard_id=yard_id, name__startswith=name).values_list(
            "name", flat=True
        )
    )
    if name not in taken:
        return name
    return next(f"{name} {n}" for n in range(2, 10_000) if f"{name} {n}" not in taken)
