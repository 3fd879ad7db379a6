"""A haul's job in files: when it goes and how long it takes, from where to where, what for.

People are no part of a file, so nobody's name stands in it; places stand by the yard's own names.
"""

from __future__ import annotations

from datetime import date, time
from typing import Any, Final

from book.models import Place
from hauls.assigning import LONGEST_MINUTES, Job, assign, assigned
from hauls.models import PURPOSE, Haul
from yards.models import Yard

KEYS: Final = ("day", "starts", "takes_minutes", "from", "to", "purpose")


def dump_job(haul: Haul) -> dict[str, Any]:
    """What is said of a haul, as a file has it; empty where nothing is."""
    said = {
        "day": None if haul.day is None else haul.day.isoformat(),
        "starts": None if haul.starts is None else f"{haul.starts:%H:%M}",
        "takes_minutes": haul.takes_minutes,
        "from": None if haul.fetched_from is None else haul.fetched_from.name,
        "to": None if haul.taken_to is None else haul.taken_to.name,
        "purpose": haul.purpose or None,
    }
    return {name: value for name, value in said.items() if value is not None}


def read_job(said: Any, *, yard: Yard, path: str, problems: list[str]) -> Job:
    """What a file says of a haul, for a yard; what is wrong goes into ``problems``."""
    if not isinstance(said, dict):
        problems.append(f"{path}: expected an object")
        return Job()
    problems += [f"{path}.{name}: no such field" for name in sorted(set(said) - set(KEYS))]
    return Job(
        day=_read(said, "day", date.fromisoformat, "a day like 2026-05-31", path, problems),
        starts=_read(said, "starts", time.fromisoformat, "a time like 14:30", path, problems),
        takes_minutes=_minutes(said.get("takes_minutes"), path, problems),
        fetched_from=_place(said.get("from"), yard, f"{path}.from", problems),
        taken_to=_place(said.get("to"), yard, f"{path}.to", problems),
        purpose=_purpose(said.get("purpose", ""), path, problems),
    )


def take_job(haul: Haul) -> list[str]:
    """Take over what the plan file of a haul that was just imported says of when and where it goes
    (``extra.job``); what of it this yard cannot read, in words."""
    said = haul.document.get("extra", {}).get("job")
    if said is None:
        return []
    problems: list[str] = []
    job = read_job(said, yard=haul.yard, path="job", problems=problems)
    assign(haul, job, was=assigned(haul))
    return problems


def _read(
    said: dict[str, Any], name: str, read: Any, wanted: str, path: str, problems: list[str]
) -> Any:
    value = said.get(name)
    if value is None:
        return None
    try:
        found = read(value)
    except (ValueError, TypeError):
        found = None
    if found is None or getattr(found, "tzinfo", None) is not None:
        problems.append(f"{path}.{name}: expected {wanted}")
        return None
    return found


def _minutes(value: Any, path: str, problems: list[str]) -> int | None:
    if value is None:
        return None
    if isinstance(value, bool) or not isinstance(value, int) or not 0 < value <= LONGEST_MINUTES:
        problems.append(f"{path}.takes_minutes: expected a whole number up to {LONGEST_MINUTES}")
        return None
    return value


def _place(name: Any, yard: Yard, path: str, problems: list[str]) -> Place | None:
    if name is None:
        return None
    place = None
    if isinstance(name, str):
        place = Place.objects.filter(yard=yard, name=name).first()
    if place is None:
        problems.append(f"{path}: expected the name of a place of the book")
    return place


def _purpose(value: Any, path: str, problems: list[str]) -> str:
    if not isinstance(value, str) or len(value) > PURPOSE:
        problems.append(f"{path}.purpose: expected at most {PURPOSE} characters")
        return ""
    return value
