"""Reading a plan file: every refusal names the field and says what was expected."""

from __future__ import annotations

import json
import math
import re
from typing import Any, Final

import msgspec

from mechanics.bounds import MOST_ITEMS
from mechanics.errors import InputError
from mechanics.plan import Plan
from mechanics.rules import Rules
from planfile.convert import to_plan, to_rules
from planfile.document import (
    Anchor,
    Axle,
    AxleNumber,
    Cargo,
    Contact,
    HitchComponent,
    Item,
    PlanDocument,
    Tie,
    TiePoint,
    UndersidePoint,
)
from planfile.document import Rules as RulesDocument
from planfile.errors import PlanFileError

MAX_BYTES = 1_000_000
"""A haul is some kilobytes; this leaves room for long notes and extras."""

MAX_DEPTH = 32
"""Objects and lists inside one another; the format itself needs six."""

_WRONG_TYPE = re.compile(r"^Expected `(?P<expected>[^`]+)`(?:, got `(?P<got>[^`]+)`)?$")
_MISSING = re.compile(r"^Object missing required field `(?P<name>[^`]+)`$")
_UNKNOWN = re.compile(r"^Object contains unknown field `(?P<name>.*)`$", re.DOTALL)
_INVALID = re.compile(r"^Invalid enum value (?P<got>.*)$", re.DOTALL)
_LOCATED = re.compile(r"^(?P<what>.*?)(?: - at `(?P<path>[^`]*)`)?$", re.DOTALL)
_TYPE_WORDS = {
    "float": "a number",
    "int": "a whole number",
    "str": "text",
    "object": "an object",
    "array": "a list",
    "null": "null",
    "bool": "true or false",
    "object | null": "an object or null",
}


# The library learns a structure the first time it meets it, and two threads that teach it
# at once have been seen to crash the process. So it is taught here, while importing.
msgspec.convert(
    {
        "format": "eyebolt.plan",
        "version": 1,
        "units": {"mass": "kg", "length": "m"},
        "truck": {
            "front_axle_mass": 1,
            "rear_axle_mass": 1,
            "wheelbase": 1,
            "hitch_offset": 1,
            "cargo": [{"mass": 1, "ahead_of_rear_axle": 1}],
        },
        "hitch": {
            "type": "ball",
            "components": [{"name": "ball"}],
            "weight_distribution": {"front_axle_restoration": 1},
        },
        "trailer": {
            "empty_mass": 2,
            "empty_tongue_mass": 1,
            "axles": [{"position": 1}],
            "track_width": 1,
            "deck": {"start": 0, "length": 1},
            "ramp": {"kind": "ramps", "length": 1},
            "dovetail": {"length": 1, "drop": 0},
            "stands": {"gap": 0},
            "bed": {"hinge": 1, "mass": 1, "balance": 1},
            "anchors": [{"id": "a", "tape": 0, "left": 0}],
        },
        "items": [
            {
                "id": "m",
                "mass": 1,
                "cg": {"ahead": 0},
                "front": 1,
                "rear": 1,
                "placement": {"reference": 1},
                "contacts": [{"ahead": 0}],
                "underside": [{"ahead": 0, "clearance": 0}],
                "points": [{"id": "p", "ahead": 0, "left": 0, "height": 1}],
            }
        ],
        "rules": {"tongue": "default"},
        "site": {"held_trailer_axles": [1]},
        "securing": {
            "ties": [{"id": "t", "item": "m", "point": "p", "anchor": "a", "kind": "chain"}]
        },
    },
    PlanDocument,
)


def read_plan(data: bytes) -> tuple[dict[str, Any], Plan]:
    """Read a plan file.

    Returns the document exactly as the file has it (to keep and give back) and the plan
    in SI.

    Raises:
        PlanFileError: the file is not a valid plan; nothing of it is used.
    """
    if len(data) > MAX_BYTES:
        raise PlanFileError("", f"a file of at most {MAX_BYTES // 1000} kB", f"{len(data)} bytes")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise PlanFileError("", "text in UTF-8", f"another encoding (byte {error.start})") from None
    _check_depth(text)
    try:
        raw = json.loads(text, object_pairs_hook=_unique_keys, parse_constant=_refuse_constant)
    except json.JSONDecodeError as error:
        raise PlanFileError(
            "", "JSON", f"a mistake in line {error.lineno}, column {error.colno}: {error.msg}"
        ) from None
    except ValueError as error:
        if isinstance(error, PlanFileError):
            raise
        raise PlanFileError(
            "", "numbers of ordinary length", "one with thousands of digits"
        ) from None
    return raw, read_document(raw)


def read_document(raw: Any) -> Plan:
    """The plan of a document that is already parsed.

    Raises:
        PlanFileError: the document is not a valid plan.
    """
    return to_plan_checked(parse_document(raw))


def parse_document(raw: Any) -> PlanDocument:
    """The typed document, without the checks that only the mechanics can make.

    Raises:
        PlanFileError: a field is missing, unknown, of the wrong type or out of range.
    """
    if not isinstance(raw, dict):
        raise PlanFileError("", "an object", _word_for(raw))
    check_values(raw, "")
    if raw.get("format") != "eyebolt.plan":
        raise PlanFileError("format", '"eyebolt.plan"', _shown(raw.get("format")))
    version = raw.get("version")
    if isinstance(version, bool) or version != 1:
        raise PlanFileError("version", "1, the version this application reads", _shown(version))
    try:
        return msgspec.convert(raw, PlanDocument)
    except msgspec.ValidationError as error:
        raise _explain(error, raw) from None


def read_rules(raw: Any) -> Rules:
    """A ``rules`` object by itself, as a yard keeps one.

    Raises:
        PlanFileError: it is none.
    """
    if not isinstance(raw, dict):
        raise PlanFileError("rules", "an object", _word_for(raw))
    check_values(raw, "rules")
    try:
        return to_rules(msgspec.convert(raw, RulesDocument))
    except msgspec.ValidationError as error:
        found = _explain(error, raw)
        raise PlanFileError(_join("rules", found.path), found.expected, found.got) from None
    except InputError as error:
        raise PlanFileError(error.path, error.expected) from None


def to_plan_checked(document: PlanDocument) -> Plan:
    """The plan in SI.

    Raises:
        PlanFileError: figures that no real outfit can have.
    """
    try:
        return to_plan(document)
    except InputError as error:
        raise PlanFileError(error.path, error.expected) from None


def _check_depth(text: str) -> None:
    """Refuse deep nesting before a parser meets it; brackets inside strings do not count."""
    depth = 0
    for token in re.finditer(r'"(?:[^"\\]|\\.)*"|[\[{]|[\]}]', text, re.DOTALL):
        if token.group() in ("[", "{"):
            depth += 1
            if depth > MAX_DEPTH:
                raise PlanFileError("", f"at most {MAX_DEPTH} objects and lists inside one another")
        elif token.group() in ("]", "}"):
            depth -= 1


def _unique_keys(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, value in pairs:
        if key in found:
            raise PlanFileError(key, "each field once in its object", "it twice")
        found[key] = value
    return found


def _refuse_constant(name: str) -> Any:
    raise PlanFileError("", "finite numbers", name)


def check_values(value: Any, path: str) -> None:
    """Refuse what JSON can hold and nothing can keep, wherever it stands: ``1e999``, which reads
    as infinity, and half a character, which no text can be written with.

    Raises:
        PlanFileError: with the place of it.
    """
    if isinstance(value, str):
        _check_written(value, path)
    elif isinstance(value, float):
        if not math.isfinite(value):
            raise PlanFileError(path, "a finite number", "one too large to hold")
    elif isinstance(value, dict):
        for key, inner in value.items():
            _check_written(key, path)
            check_values(inner, f"{path}.{key}" if path else str(key))
    elif isinstance(value, list):
        for index, inner in enumerate(value):
            check_values(inner, f"{path}[{index}]")


def _check_written(text: str, path: str) -> None:
    try:
        text.encode()
    except UnicodeEncodeError:
        raise PlanFileError(path, "text of whole characters", "half a character") from None


def _explain(error: msgspec.ValidationError, raw: Any) -> PlanFileError:
    """The library's finding in the format's own words."""
    located = _LOCATED.match(str(error))
    what, path = (located["what"], located["path"] or "$") if located else (str(error), "$")
    path = path.removeprefix("$").lstrip(".")
    if "[...]" in path:
        path = _first_bad_index(path, what, raw)
    if match := _MISSING.match(what):
        return PlanFileError(_join(path, match["name"]), "this field to be given", "nothing")
    if match := _UNKNOWN.match(what):
        return PlanFileError(
            _join(path, match["name"]),
            'a field of the format (put data of your own into an "extra" object)',
            "an unknown one",
        )
    if match := _INVALID.match(what):
        return PlanFileError(path, "one of the words the format lists", match["got"].strip("'"))
    if match := _WRONG_TYPE.match(what):
        got = _TYPE_WORDS.get(match["got"] or "", match["got"] or "")
        if got == "null":
            got = "null (leave the field out where it is not known)"
        return PlanFileError(path, _TYPE_WORDS.get(match["expected"], match["expected"]), got)
    expected = what.removeprefix("Expected ")
    for ours, theirs in (
        ("a number greater than zero", "`float` > 0.0"),
        ("zero or more", "`float` >= 0.0"),
        ("a number from 0 to 1", "`float` <= 1.0"),
        ("a number of at most 1,000,000,000", "`float` <= 1000000000.0"),
        ("a number of at least -1,000,000,000", "`float` >= -1000000000.0"),
        ("at least one", "`array` of length >= 1"),
        (f"at most {MOST_ITEMS} loads", f"`array` of length <= {MOST_ITEMS}"),
        ("a whole number from 1", "`int` >= 1"),
        ("a number of at most 10", "`float` <= 10.0"),
        ("a number of at least -10", "`float` >= -10.0"),
        ("an axle's number, at most 12", "`int` <= 12"),
    ):
        if expected == theirs:
            expected = ours
    expected = re.sub(r"`(\w+)`", lambda m: _TYPE_WORDS.get(m[1], m[1]), expected)
    return PlanFileError(path, expected)


def _first_bad_index(path: str, what: str, raw: Any) -> str:
    """Put the real indices in place of each ``[...]`` that the library gives for lists."""
    found, node = "", raw
    head, *rest = path.split("[...]")
    kind = ""
    for tail in rest:
        kind, found = kind + head, found + head
        node = _below(node, head)
        kinds = _LIST_TYPES.get(kind)
        if not isinstance(node, list) or kinds is None:
            return path
        index = _first_bad(node, kinds)
        if index is None:
            return f"{found}{tail}"
        found, node, head = f"{found}[{index}]", node[index], tail
    return found + head


def _below(node: Any, dotted: str) -> Any:
    for name in dotted.split("."):
        if name:
            node = node.get(name) if isinstance(node, dict) else None
    return node


def _first_bad(rows: list[Any], kind: Any) -> int | None:
    for index, row in enumerate(rows):
        try:
            msgspec.convert(row, kind)
        except msgspec.ValidationError:
            return index
    return None


_LIST_TYPES: Final[dict[str, Any]] = {
    "truck.cargo": Cargo,
    "hitch.components": HitchComponent,
    "trailer.axles": Axle,
    "items": Item,
    "items.contacts": Contact,
    "items.underside": UndersidePoint,
    "items.points": TiePoint,
    "trailer.anchors": Anchor,
    "securing.ties": Tie,
    "site.held_trailer_axles": AxleNumber,
}


def _join(path: str, name: str) -> str:
    return f"{path}.{name}" if path else name


def _word_for(value: Any) -> str:
    if isinstance(value, bool):
        return "true or false"
    if value is None:
        return "null"
    if isinstance(value, (int, float)):
        return "a number"
    return "text" if isinstance(value, str) else "a list"


def _shown(value: Any) -> str:
    if value is None:
        return "nothing"
    return json.dumps(value)[:60]
