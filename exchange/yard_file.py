"""The whole yard as one JSON file: the book, the hauls, the photos, and back."""

from __future__ import annotations

import base64
import binascii
import json
from dataclasses import dataclass
from typing import Any, Final

from django.core.files.uploadedfile import SimpleUploadedFile

from book.history import keep, recorded
from book.models import Bulk, Configuration, Machine, Photo, Thing, Ticket, Trailer, Truck
from book.services.photos import PhotoError, attach_encoded, encoded, refuse_more
from book.ticketfile import dump_ticket, list_of, read_ticket
from book.tolerances import Tolerances
from book.yardfile import FORMAT, MAX_THINGS, SHAPES, YardFileError, dump_yard, load_yard
from hauls.models import Haul, HaulItem
from hauls.road_rules import RoadRules
from longwork.running import Progress, no_progress
from mechanics.errors import MechanicsError
from mechanics.patience import go_on
from mechanics.report import evaluate
from mechanics.ties import SecuringSchool
from planfile.draft import Draft
from planfile.errors import PlanFileError
from planfile.reading import check_values, read_rules
from yards.models import User, Yard

VERSION: Final = 1
MAX_BYTES: Final = 60_000_000
KEYS: Final = (
    "format",
    "version",
    "name",
    "tolerances",
    "rules",
    "securing_school",
    "road",
    *SHAPES,
    "hauls",
    "tickets",
    "photos",
)


def dump_whole(yard: Yard, *, photos: bool) -> dict[str, Any]:
    """The yard as the file has it."""
    document: dict[str, Any] = {
        "format": FORMAT,
        "version": VERSION,
        "name": yard.name,
        "tolerances": yard.tolerances,
        "rules": yard.rules,
        "securing_school": yard.securing_school,
        "road": yard.road,
        **dict(dump_yard(yard)),
        "hauls": [_dump_haul(haul) for haul in _hauls(yard)],
    }
    tickets = list(
        Ticket.objects.filter(yard=yard)
        .select_related("configuration")
        .prefetch_related("thing", "loads__machine", "loads__configuration")
        .order_by("pk")
    )
    numbers = {ticket.pk: n for n, ticket in enumerate(tickets)}
    document["tickets"] = [dump_ticket(ticket, numbers) for ticket in tickets]
    if photos:
        document["photos"] = [
            entry for p in Photo.objects.filter(yard=yard) if (entry := _photo(p, numbers))
        ]
    return document


def _hauls(yard: Yard) -> Any:
    return (
        Haul.objects.filter(yard=yard)
        .select_related("truck", "hitch", "trailer")
        .prefetch_related("links__machine", "links__configuration", "links__bulk")
        .order_by("changed_at", "pk")
    )


def _dump_haul(haul: Haul) -> dict[str, Any]:
    go_on()
    document: dict[str, Any] = {"name": haul.name, "plan": haul.document}
    if haul.archived:
        document["put_away"] = True
    if haul.truck and haul.hitch and haul.trailer:
        document |= {
            "truck": haul.truck.name,
            "hitch": haul.hitch.name,
            "trailer": haul.trailer.name,
        }
    items = {}
    for link in haul.links.all():
        if link.bulk is not None:
            items[link.item_id] = {"bulk": link.bulk.name}
        elif link.machine is not None:
            items[link.item_id] = {"machine": link.machine.name}
            if link.configuration is not None:
                items[link.item_id]["configuration"] = link.configuration.name
    return {**document, "items": items} if items else document


def _photo(photo: Photo, numbers: dict[int, int]) -> dict[str, Any] | None:
    thing = photo.thing
    name = photo.file.name
    go_on()
    if not isinstance(thing, (Thing, Ticket)) or not name or not photo.file.storage.exists(name):
        # photos of the road stay with what they are of, which the file does not hold
        return None
    with photo.file.open("rb") as file:
        data = base64.b64encode(file.read()).decode()
    if isinstance(thing, Ticket):
        return {"ticket": numbers[thing.pk], "caption": photo.caption, "jpeg": data}
    return {"list": list_of(thing), "name": thing.name, "caption": photo.caption, "jpeg": data}


def read_file(data: bytes) -> dict[str, Any]:
    """The JSON object of an uploaded yard file.

    Raises:
        YardFileError: too large, or no file of this format.
    """
    if len(data) > MAX_BYTES:
        raise YardFileError([f"the file is larger than {MAX_BYTES // 1_000_000} MB"])
    try:
        document = json.loads(data.decode("utf-8-sig"))
    except UnicodeDecodeError:
        raise YardFileError(["the file is not in UTF-8"]) from None
    except (json.JSONDecodeError, RecursionError) as error:
        raise YardFileError([f"the file is not JSON: {error}"]) from None
    except ValueError:
        raise YardFileError(["the file has a number of thousands of digits"]) from None
    try:
        check_values(document, "")
    except (PlanFileError, RecursionError) as error:
        raise YardFileError([str(error)]) from None
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise YardFileError([f'format: expected "{FORMAT}"'])
    if document.get("version") != VERSION:
        raise YardFileError([f"version: expected {VERSION}"])
    unknown = sorted(set(document) - set(KEYS))
    if unknown:
        raise YardFileError([f"{name}: no such field" for name in unknown])
    return document


@dataclass(frozen=True, kw_only=True)
class _Prepared:
    """What of a file can be worked out without the yard, and takes long: plans with what is said
    of them, pictures encoded anew; in their places in the file, or what is wrong with each."""

    plans: list[tuple[Draft, str] | str]
    pictures: list[bytes | str]


def _entries(document: dict[str, Any], name: str) -> list[Any]:
    entries = document.get(name, [])
    return entries if isinstance(entries, list) and len(entries) <= MAX_THINGS else []


def _prepare(document: dict[str, Any], progress: Progress) -> _Prepared:
    hauls, photos = _entries(document, "hauls"), _entries(document, "photos")
    total = len(hauls) + len(photos)
    plans: list[tuple[Draft, str] | str] = []
    pictures: list[bytes | str] = []
    for entry in hauls:
        progress(len(plans), total)
        plans.append(_plan(entry))
    for entry in photos:
        progress(len(plans) + len(pictures), total)
        pictures.append(_picture(entry))
    return _Prepared(plans=plans, pictures=pictures)


def _plan(entry: Any) -> tuple[Draft, str] | str:
    if not isinstance(entry, dict) or not isinstance(entry.get("plan"), dict):
        return "expected a plan"
    try:
        draft = Draft.read(entry["plan"])
        return draft, evaluate(draft.plan).verdict.value
    except (PlanFileError, MechanicsError) as error:
        return str(error)


def _picture(entry: Any) -> bytes | str:
    if not isinstance(entry, dict):
        return "expected an object"
    try:
        data = base64.b64decode(str(entry.get("jpeg", "")), validate=True)
        return encoded(SimpleUploadedFile("photo.jpg", data))
    except (binascii.Error, ValueError, PhotoError) as error:
        return str(error)


def load_whole(
    document: dict[str, Any],
    *,
    yard: Yard,
    user: User,
    progress: Progress = no_progress,
) -> dict[str, int]:
    """Bring a yard file into a yard, whole or not at all; how many of each came in.

    What the yard has stays as it is: a name that is taken is a problem, not a change. Plans and
    pictures are worked through before others are kept from writing; ``progress`` is told how
    many of them are done, and ends it by raising.

    Raises:
        YardFileError: with every place that is not right; nothing is stored.
    """
    prepared = _prepare(document, progress)
    kept: list[Photo] = []
    try:
        return _load_whole(document, prepared, yard, user, kept)
    except Exception:
        # files are not undone by the database
        for photo in kept:
            photo.file.delete(save=False)
        raise


def _load_whole(
    document: dict[str, Any], prepared: _Prepared, yard: Yard, user: User, kept: list[Photo]
) -> dict[str, int]:
    problems: list[str] = []
    with recorded(yard=yard, user=user, why="Taken in from a yard file"):
        things = load_yard(document, yard, problems)
        hauls = 0
        entries = document.get("hauls", [])
        if not isinstance(entries, list) or len(entries) > MAX_THINGS:
            problems.append("hauls: expected a list")
            entries = []
        for n, entry in enumerate(entries):
            plan = prepared.plans[n]
            if isinstance(plan, str):
                problems.append(f"hauls[{n}].plan: {plan}")
            else:
                hauls += _load_haul(entry, plan, yard, user, f"hauls[{n}]", problems)
        tickets = document.get("tickets", [])
        if not isinstance(tickets, list) or len(tickets) > MAX_THINGS:
            problems.append("tickets: expected a list")
            tickets = []
        made: list[Ticket] = []
        for n, entry in enumerate(tickets):
            read = read_ticket(
                entry, yard=yard, user=user, path=f"tickets[{n}]", problems=problems, before=made
            )
            if read is not None:
                made.append(read.store())
        photos = document.get("photos", [])
        if not isinstance(photos, list) or len(photos) > MAX_THINGS:
            problems.append("photos: expected a list")
            photos = []
        for n, entry in enumerate(photos):
            thing = _pictured(entry, yard, made)
            _load_photo(entry, prepared.pictures[n], thing, user, f"photos[{n}]", problems, kept)
        _load_tolerances(document.get("tolerances", {}), yard, problems)
        _load_rules(document.get("rules", {}), yard, problems)
        _load_school(document.get("securing_school", ""), yard, problems)
        _load_road(document.get("road", {}), yard, problems)
        if problems:
            raise YardFileError(problems)
        for thing in things:
            keep(thing)
    return {"entries": len(things), "hauls": hauls, "photos": len(kept)}


def _load_tolerances(own: Any, yard: Yard, problems: list[str]) -> None:
    try:
        read = Tolerances.read(own if isinstance(own, dict) else {"tolerances": own})
    except (ValueError, TypeError, ArithmeticError):
        problems.append(
            "tolerances: expected percents from 0 to 100, and masses and lengths such as “20 lb”, "
            "under known names"
        )
        return
    if own:
        yard.tolerances = read.own()
        yard.save(update_fields=["tolerances"])


def _load_rules(own: Any, yard: Yard, problems: list[str]) -> None:
    """The yard's schools, checked as the rules of a plan are."""
    try:
        read_rules(own)
    except (PlanFileError, MechanicsError) as error:
        problems.append(str(error))
        return
    if own:
        yard.rules = own
        yard.save(update_fields=["rules"])


def _load_road(own: Any, yard: Yard, problems: list[str]) -> None:
    """How the yard goes on the road; what of it cannot be read is as usual."""
    if not isinstance(own, dict):
        problems.append("road: expected an object, as the file of a yard has it")
    elif own:
        yard.road = RoadRules.read(own).own()
        yard.save(update_fields=["road"])


def _load_school(word: Any, yard: Yard, problems: list[str]) -> None:
    """The rule that the yard's ties are held against."""
    words = [school.value for school in SecuringSchool]
    if word not in ("", *words):
        problems.append(f"securing_school: expected one of {', '.join(words)}, or nothing")
    elif word:
        yard.securing_school = word
        yard.save(update_fields=["securing_school"])


def _load_haul(
    entry: dict[str, Any],
    plan: tuple[Draft, str],
    yard: Yard,
    user: User,
    path: str,
    problems: list[str],
) -> bool:
    draft, verdict = plan
    if not isinstance(entry.get("put_away", False), bool):
        problems.append(f"{path}.put_away: expected true or false")
        return False
    truck = _named(Truck, entry.get("truck"), yard)
    hitch = None if truck is None else truck.hitches.filter(name=entry.get("hitch")).first()
    haul = Haul.objects.create(
        yard=yard,
        name=str(entry.get("name") or draft.name or "Haul")[:200],
        document=draft.json(),
        truck=truck if hitch else None,
        hitch=hitch,
        trailer=_named(Trailer, entry.get("trailer"), yard) if hitch else None,
        verdict=verdict,
        archived=entry.get("put_away", False),
        changed_by=user,
    )
    items = entry.get("items", {})
    if not isinstance(items, dict):
        problems.append(f"{path}.items: expected an object")
        return False
    ids = set(draft.item_ids)
    for item_id, named in items.items():
        link = _link(haul, item_id, named, yard) if item_id in ids else None
        if link is None:
            problems.append(f"{path}.items.{item_id}: not an item of the plan and of the book")
        else:
            link.save()
    return True


def _named(model: type[Thing], name: Any, yard: Yard) -> Any:
    return model._default_manager.filter(yard=yard, name=name).first() if name else None


def _link(haul: Haul, item_id: str, named: Any, yard: Yard) -> HaulItem | None:
    if not isinstance(named, dict):
        return None
    if "bulk" in named:
        bulk = _named(Bulk, named["bulk"], yard)
        return None if bulk is None else HaulItem(haul=haul, item_id=item_id, bulk=bulk)
    machine = _named(Machine, named.get("machine"), yard)
    if machine is None:
        return None
    configuration: Configuration | None = None
    if "configuration" in named:
        configuration = machine.configurations.filter(name=named["configuration"]).first()
        if configuration is None:
            return None
    return HaulItem(haul=haul, item_id=item_id, machine=machine, configuration=configuration)


def _pictured(entry: Any, yard: Yard, tickets: list[Ticket]) -> Thing | Ticket | None:
    """What a photo of the file is of: a thing by its name, or a ticket by its number."""
    if not isinstance(entry, dict):
        return None
    number = entry.get("ticket")
    if isinstance(number, int) and 0 <= number < len(tickets):
        return tickets[number]
    shape = SHAPES.get(entry.get("list", ""))
    found: Thing | None = _named(shape.model, entry.get("name"), yard) if shape else None  # type: ignore[arg-type]
    return found


def _load_photo(
    entry: Any,
    picture: bytes | str,
    thing: Thing | Ticket | None,
    user: User,
    path: str,
    problems: list[str],
    kept: list[Photo],
) -> None:
    if thing is None:
        problems.append(f"{path}: not a thing of the book")
        return
    if isinstance(picture, str):
        problems.append(f"{path}: {picture}")
        return
    caption = str(entry.get("caption", ""))[:120]
    try:
        refuse_more(thing)
        kept.append(attach_encoded(thing, picture, caption=caption, user=user))
    except PhotoError as error:
        problems.append(f"{path}: {error}")
