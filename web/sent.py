"""What a page sends that is no figure of a haul: whole numbers and ways back, read so that nothing
a request can hold breaks anything."""

from __future__ import annotations

from typing import Any, Final

from django.forms import BaseForm
from django.utils.http import url_has_allowed_host_and_scheme

DIGITS: Final = 18
"""A whole number of more digits than this is nobody's: it still fits into 64 bits."""

LONGEST_WAY: Final = 2000
"""Characters of an address that is come back to."""


def whole_number(text: Any, fallback: int | None = None) -> int | None:
    """A whole number of plain digits, perhaps with a minus; anything else is the fallback."""
    written = str(text if text is not None else "").strip()
    digits = written.removeprefix("-")
    if not digits.isascii() or not digits.isdigit() or len(digits) > DIGITS:
        return fallback
    return int(written)


def counted(text: Any) -> int:
    """The same where nothing, or nonsense, is zero: a version, a revision, a place in a list."""
    return whole_number(text) or 0


def way_back(text: Any) -> str:
    """An address inside the application, to come back to; empty for anything else."""
    back = str(text or "")
    if len(back) > LONGEST_WAY or not back.startswith("/"):
        return ""
    return back if url_has_allowed_host_and_scheme(back, allowed_hosts=None) else ""


def faults_of(form: BaseForm) -> str:
    """All that is wrong with a form, in one line: for whoever has no page to show it on."""
    return " ".join(str(words) for errors in form.errors.values() for words in errors)
