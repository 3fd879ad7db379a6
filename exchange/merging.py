"""A yard file beside a yard that has some of it: what is the same, what clashes, and the names
that things get which come in beside one of the same name.

Entries stand by list and number, ``trucks/3``; the yard's own figures and rules by their field,
``yard/rules``.
"""

from __future__ import annotations

import json
from collections.abc import Container, Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Any, Final

from django.db import models

from book.fields import QuantityField, value_words
from book.models import Thing, Ticket
from book.services.things import free_name
from book.ticketfile import dump_ticket
from book.tolerances import Tolerances
from book.yardfile import SHAPES, Shape, dump_thing
from exchange.haul_entries import dump_haul, hauls_of
from hauls.models import Haul
from hauls.road_rules import RoadRules
from measures import Quantity, UnitSystem
from yards.models import Yard

SETTINGS: Final = ("tolerances", "rules", "securing_school", "road")
"""Fields of a yard that its file holds."""

TOLD: Final = 5
"""Figures of one clash that are told."""


class Choice(StrEnum):
    """What becomes of something that is in the yard and in the file, and differs."""

    MINE = "mine"
    THEIRS = "theirs"
    BOTH = "both"


@dataclass(frozen=True, kw_only=True, slots=True)
class Clash:
    """Something that both have and that differs: ``what`` it is, its ``name``, the first figures
    that are not the same, in words; ``stamp`` is how often the yard has changed its own."""

    key: str
    what: str
    name: str
    differs: tuple[str, ...]
    stamp: int
    both: bool = True


@dataclass(frozen=True, kw_only=True, slots=True)
class Chosen:
    """What somebody chose for a clash, and the stamp of what they had before them."""

    choice: Choice
    stamp: int

    def answers(self, clash: Clash) -> bool:
        """Whether it was chosen for what stands there now, and can be done."""
        return self.stamp == clash.stamp and (clash.both or self.choice is not Choice.BOTH)


class ClashError(Exception):
    """The yard has some of the file otherwise, and somebody has to say what to keep; nothing is
    stored."""

    def __init__(self, clashes: tuple[Clash, ...]) -> None:
        self.clashes = clashes
        super().__init__(f"{len(clashes)} clashes")


@dataclass(frozen=True, kw_only=True, slots=True)
class Overlap:
    """What of a file a yard has: entries that are the ``same``, those that clash, and the yard's
    own rows of both."""

    same: frozenset[str]
    clashes: tuple[Clash, ...]
    mine: Mapping[str, models.Model]


def overlap(document: dict[str, Any], yard: Yard, units: UnitSystem) -> Overlap:
    """What of a file the yard has. What is no list, or no object, is left to whoever reads it."""
    same: set[str] = set()
    clashes: list[Clash] = []
    mine: dict[str, models.Model] = {}
    for key, row, clash in (*_things(document, yard, units), *_hauls(document, yard)):
        mine[key] = row
        if clash is None:
            same.add(key)
        else:
            clashes.append(clash)
    clashes += _settings(document, yard)
    same |= _tickets(document, yard, mine)
    return Overlap(same=frozenset(same), clashes=tuple(clashes), mine=mine)


def _entries(document: dict[str, Any], name: str) -> Iterator[tuple[str, dict[str, Any]]]:
    rows = document.get(name)
    for n, entry in enumerate(rows if isinstance(rows, list) else ()):
        if isinstance(entry, dict):
            yield f"{name}/{n}", entry


def _things(
    document: dict[str, Any], yard: Yard, units: UnitSystem
) -> Iterator[tuple[str, Thing, Clash | None]]:
    for name, shape in SHAPES.items():
        model: Any = shape.model
        there: dict[str, Any] = {row.name: row for row in model.objects.filter(yard=yard)}
        for key, entry in _entries(document, name):
            row = there.get(str(entry.get("name")))
            if row is None:
                continue
            own, theirs = _bare(dump_thing(row), shape), _bare(entry, shape)
            if own == theirs:
                yield key, row, None
                continue
            differs = tuple(_differences(own, theirs, shape, units))
            what = str(row._meta.verbose_name)
            yield (
                key,
                row,
                Clash(key=key, what=what, name=row.name, differs=differs, stamp=row.version),
            )


def _bare(entry: dict[str, Any], shape: Shape) -> dict[str, Any]:
    """An entry without what it need not say: what is not known, and what is as usual."""
    usual = {
        column.name: column.get_default()
        for column in shape.plain
        if not isinstance(column, QuantityField) and column.has_default()
    }
    found: dict[str, Any] = {}
    for name, value in entry.items():
        inner = shape.inner.get(name)
        if value in (None, "", []) or (name in usual and str(usual[name]) == str(value)):
            continue
        if inner is None or not isinstance(value, list):
            found[name] = value
        else:
            found[name] = [_bare(one, inner) if isinstance(one, dict) else one for one in value]
    return found


def _differences(
    own: dict[str, Any], theirs: dict[str, Any], shape: Shape, units: UnitSystem
) -> Iterator[str]:
    columns = {column.name: column for column in shape.plain}
    names = [name for name in dict.fromkeys((*own, *theirs)) if own.get(name) != theirs.get(name)]
    for name in names[:TOLD]:
        column = columns.get(name)
        if column is None:
            yield f"its {name.replace('_', ' ')} are otherwise"
            continue
        here, there = (_words(column, side.get(name), units) for side in (own, theirs))
        yield f"{column.verbose_name}: {here} here, {there} in the file"
    if len(names) > TOLD:
        yield f"and {len(names) - TOLD} more"


def _words(column: models.Field[Any, Any], value: Any, units: UnitSystem) -> str:
    """A value of the file in words; one that nobody can read stands as it is."""
    if value is None:
        return "not known" if isinstance(column, QuantityField) else "nothing"
    if isinstance(column, QuantityField):
        try:
            return value_words(column, Quantity.parse(str(value)), units)
        except (ValueError, ArithmeticError, LookupError):
            return f"“{str(value)[:40]}”"
    chosen = isinstance(value, bool) or str(value) in dict(column.flatchoices)
    return value_words(column, value, units) if chosen else f"“{str(value)[:60]}”"


def _hauls(
    document: dict[str, Any], yard: Yard
) -> Iterator[tuple[str, models.Model, Clash | None]]:
    names = {str(entry.get("name")) for _, entry in _entries(document, "hauls")}
    there: dict[str, list[tuple[Haul, dict[str, Any]]]] = {}
    for haul in hauls_of(yard).filter(name__in=names) if names else ():
        there.setdefault(haul.name, []).append((haul, dump_haul(haul)))
    for key, entry in _entries(document, "hauls"):
        beside = there.get(str(entry.get("name")), [])
        same = next((one for one in beside if one[1] == entry), None)
        if same is not None:
            beside.remove(same)
            yield key, same[0], None
        elif len(beside) == 1:
            # of several that are called alike nobody can say which one it would be
            haul = beside[0][0]
            yield (
                key,
                haul,
                Clash(
                    key=key,
                    what="haul",
                    name=haul.name,
                    differs=("its plan is otherwise",),
                    stamp=haul.revision,
                ),
            )


def _tickets(document: dict[str, Any], yard: Yard, mine: dict[str, models.Model]) -> set[str]:
    """Weighings that the yard has; which one is the first of a pair is left out of that."""
    dates = [str(entry.get("weighed_on")) for _, entry in _entries(document, "tickets")]
    there: dict[str, list[Ticket]] = {}
    known = Ticket.objects.filter(yard=yard).select_related("configuration")
    for ticket in known.prefetch_related("thing", "loads__machine", "loads__configuration"):
        if ticket.weighed_on.isoformat() in dates:
            there.setdefault(_face(dump_ticket(ticket, {})), []).append(ticket)
    same: set[str] = set()
    for key, entry in _entries(document, "tickets"):
        beside = there.get(_face(entry))
        if beside:
            mine[key] = beside.pop(0)
            same.add(key)
    return same


def _face(entry: dict[str, Any]) -> str:
    return json.dumps({k: v for k, v in entry.items() if k != "first"}, sort_keys=True)


def _settings(document: dict[str, Any], yard: Yard) -> Iterator[Clash]:
    for name in SETTINGS:
        own, theirs = getattr(yard, name), document.get(name)
        if own and theirs and _read(name, own) != _read(name, theirs):
            yield Clash(
                key=f"yard/{name}",
                what="the yard's own",
                name=name.replace("_", " "),
                differs=(),
                stamp=0,
                both=False,
            )


def _read(name: str, value: Any) -> Any:
    """A setting as it is kept; what cannot be read stands as it is, for the reader to refuse."""
    if not isinstance(value, dict):
        return value
    try:
        if name == "tolerances":
            return Tolerances.read(value).own()
        if name == "road":
            return RoadRules.read(value).own()
    except (ValueError, TypeError, ArithmeticError):
        return value
    return value


def with_other_names(document: dict[str, Any], keys: Container[str], yard: Yard) -> dict[str, Any]:
    """The file with free names for things that come in beside one of the same name, wherever it
    speaks of them."""
    names: dict[tuple[str, str], str] = {}
    for name, shape in SHAPES.items():
        for key, entry in _entries(document, name):
            if key in keys:
                model: Any = shape.model
                wanted = f"{str(entry['name'])[:100]}, taken in"
                names[name, entry["name"]] = free_name(model, yard.pk, wanted)
    if not names:
        return document
    changed = {**document}
    for name in SHAPES:
        if isinstance(document.get(name), list):
            changed[name] = [_renamed_thing(name, entry, names) for entry in document[name]]
    for name, rename in (
        ("hauls", _renamed_haul),
        ("tickets", _renamed_ticket),
        ("photos", _renamed_of),
    ):
        if isinstance(document.get(name), list):
            changed[name] = [
                rename(entry, names) if isinstance(entry, dict) else entry
                for entry in document[name]
            ]
    return changed


Names = Mapping[tuple[str, str], str]


def _new(names: Names, listed: str, name: Any) -> Any:
    return names.get((listed, name), name) if isinstance(name, str) else name


def _renamed_thing(listed: str, entry: Any, names: Names) -> Any:
    if not isinstance(entry, dict):
        return entry
    changed = {**entry, "name": _new(names, listed, entry.get("name"))}
    if isinstance(entry.get("links"), list):
        changed["links"] = [_renamed_part(one, names) for one in entry["links"]]
    if isinstance(entry.get("hitches"), list):
        changed["hitches"] = [
            {**one, "links": [_renamed_part(part, names) for part in one["links"]]}
            if isinstance(one, dict) and isinstance(one.get("links"), list)
            else one
            for one in entry["hitches"]
        ]
    return changed


def _renamed_part(link: Any, names: Names) -> Any:
    if not isinstance(link, dict):
        return link
    return {**link, "part": _new(names, "hitch_parts", link.get("part"))}


def _renamed_haul(entry: dict[str, Any], names: Names) -> dict[str, Any]:
    changed = {**entry}
    for field, listed in (("truck", "trucks"), ("trailer", "trailers")):
        if field in entry:
            changed[field] = _new(names, listed, entry[field])
    if isinstance(entry.get("job"), dict):
        changed["job"] = {
            name: _new(names, "places", value) if name in ("from", "to") else value
            for name, value in entry["job"].items()
        }
    if isinstance(entry.get("items"), dict):
        changed["items"] = {
            item: {
                **named,
                **{
                    field: _new(names, listed, named[field])
                    for field, listed in (("machine", "machines"), ("bulk", "bulk"))
                    if field in named
                },
            }
            if isinstance(named, dict)
            else named
            for item, named in entry["items"].items()
        }
    return changed


def _renamed_of(entry: dict[str, Any], names: Names) -> dict[str, Any]:
    """An entry that says by ``list`` and ``name`` what it is of."""
    if "name" not in entry:
        return entry
    return {**entry, "name": _new(names, str(entry.get("list")), entry["name"])}


def _renamed_ticket(entry: dict[str, Any], names: Names) -> dict[str, Any]:
    changed = _renamed_of(entry, names)
    if isinstance(entry.get("loads"), list):
        changed = {
            **changed,
            "loads": [
                {**load, "machine": _new(names, "machines", load["machine"])}
                if isinstance(load, dict) and "machine" in load
                else load
                for load in entry["loads"]
            ],
        }
    return changed
