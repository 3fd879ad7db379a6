"""A typed structure of a plan file as the plain objects that JSON is written from."""

from __future__ import annotations

from typing import Any, Final

import msgspec
from msgspec import UNSET, Struct

FIRST: Final = ("id", "name")


def plain(part: Struct) -> dict[str, Any]:
    """The object of a structure: what is not known is left out, numbers stay as they are."""
    found = {}
    # what a thing is comes first, as people write it
    for field in sorted(msgspec.structs.fields(part), key=lambda field: field.name not in FIRST):
        value = getattr(part, field.name)
        if value is UNSET or value is None:
            continue
        if isinstance(value, Struct):
            value = plain(value)
        elif isinstance(value, list):
            value = [plain(one) if isinstance(one, Struct) else one for one in value]
        found[field.name] = value
    return found
