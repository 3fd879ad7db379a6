"""A sheet of rows as spreadsheets write it: its text, its cells, units in its headers."""

from __future__ import annotations

import csv
import io
import re
from typing import Final

from measures.quantity import UNIT_TABLES

MAX_BYTES: Final = 1_000_000
MAX_ROWS: Final = 5_000


class TableError(ValueError):
    """A file that is no table of this kind at all; the message says what to do."""


def decode(data: bytes) -> str:
    """The text of an uploaded file.

    Raises:
        TableError: too large, or in an encoding that is not known.
    """
    if len(data) > MAX_BYTES:
        raise TableError("The file is larger than 1 MB. Split it into several.")
    for mark, name in ((b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16"), (b"", "utf-8-sig")):
        if data.startswith(mark):
            try:
                text = data.decode(name)
            except UnicodeDecodeError:
                raise TableError(
                    "The file is not in UTF-8. In the spreadsheet choose “CSV UTF-8” when "
                    "saving, then send it again."
                ) from None
            break
    if "\x00" in text:
        raise TableError("That is not a CSV table. Save the sheet as “CSV UTF-8”.")
    return text


def sheet(text: str) -> tuple[list[str], list[list[str]], bool]:
    """Header and rows of a text; the last value says that semicolons part its cells.

    Raises:
        TableError: it is no table, or too long a one.
    """
    first = next((line for line in text.splitlines() if line.strip()), "")
    if not first:
        raise TableError("The file is empty.")
    counts = {mark: first.count(mark) for mark in (",", ";", "\t")}
    delimiter = max(counts, key=lambda mark: counts[mark])
    try:
        rows = [
            row
            for row in csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True)
            if any(cell.strip() for cell in row)
        ]
    except csv.Error as error:
        raise TableError(f"The file cannot be read as CSV: {error}.") from None
    if len(rows) - 1 > MAX_ROWS:
        raise TableError(f"The file has more than {MAX_ROWS:,} rows. Split it into several.")
    return [cell.strip() for cell in rows[0]], rows[1:], delimiter == ";"


def title_and_unit(header: str) -> tuple[str, str]:
    """A column's title in small letters, and the unit it has in brackets; empty without one."""
    match = re.fullmatch(r"(?P<title>[^()]*?)\s*(?:\((?P<unit>[^()]*)\))?", header)
    if match is None:
        return header.lower(), ""
    title = match["title"].strip().lower().replace("_", " ")
    return title, (match["unit"] or "").strip()


def needs_unit(title: str, kind: str) -> str:
    """What to say of a column of numbers whose header has no unit that is known."""
    units = list(UNIT_TABLES[kind])
    return (
        f"Column “{title[:60]}” needs the unit of its numbers in brackets, such as "
        f"“{title[:60]} ({units[0]})”. Units: {', '.join(units)}."
    )


def split_thousands(text: str) -> bool:
    """Whether a number of a file with semicolons can be thousands as well as a fraction."""
    return re.fullmatch(r"-?\d{1,3}[.,]\d{3}", text) is not None


def either_number(text: str) -> str:
    """What to do about a number that can be two."""
    return (
        f"“{text}” can be read as thousands or as a fraction in a file with semicolons. Write "
        f"{text.replace(',', '').replace('.', '')} or {text.replace(',', '.')}0"
    )
