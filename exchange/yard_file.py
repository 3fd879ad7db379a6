"""The whole yard as one JSON file: the book, the hauls, the photos; out, and read as a file."""

from __future__ import annotations

import base64
import json
from typing import Any, Final

from book.models import Photo, Thing, Ticket
from book.ticketfile import dump_ticket, list_of
from book.yardfile import FORMAT, SHAPES, YardFileError, dump_yard
from exchange.haul_entries import dump_haul, hauls_of
from mechanics.patience import go_on
from planfile.errors import PlanFileError
from planfile.reading import check_values
from yards.models import Yard

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
        "hauls": [dump_haul(haul) for haul in hauls_of(yard)],
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
