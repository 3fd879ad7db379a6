"""Tables as spreadsheets keep them: a workbook's first sheet as the text of a table, and a table
written as one."""

from __future__ import annotations

import csv
import io
import zipfile
from datetime import date, datetime
from typing import Any, Final

from openpyxl import Workbook, load_workbook
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter
from openpyxl.utils.exceptions import InvalidFileException

from book.sheet import MAX_ROWS, TableError, sheet

MAGIC: Final = b"PK\x03\x04"
"""What a workbook begins with."""

TYPE: Final = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
MOST_UNPACKED: Final = 60_000_000
"""Bytes that a workbook may become; a table of 5,000 rows is a sixth of it."""

MOST_COLUMNS: Final = 200
WIDEST: Final = 44
"""Characters that a column is made wide for."""


def is_workbook(data: bytes) -> bool:
    """Whether it begins like one."""
    return data.startswith(MAGIC)


def read_workbook(data: bytes) -> str:
    """The first sheet of a workbook as the text of a table.

    Raises:
        TableError: it is none, is damaged, or has too much in it.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(one.file_size for one in packed.infolist()) > MOST_UNPACKED:
                raise TableError("The workbook is too large. Keep one sheet of at most 5,000 rows.")
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        rows = _rows(book.worksheets[0]) if book.worksheets else []
        book.close()
    except TableError:
        raise
    except (
        zipfile.BadZipFile,
        InvalidFileException,
        KeyError,
        ValueError,
        TypeError,
        AttributeError,
        IndexError,
        EOFError,
        OSError,
        SyntaxError,
    ):
        raise TableError(
            "The workbook cannot be read. Save it as .xlsx once more, or as “CSV UTF-8”."
        ) from None
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerows(rows)
    return out.getvalue()


def _rows(found: Any) -> list[list[str]]:
    rows: list[list[str]] = []
    width = 0
    for row in found.iter_rows(values_only=True, max_col=MOST_COLUMNS):
        cells = [_text(value) for value in row]
        while cells and not cells[-1]:
            cells.pop()
        width = max(width, len(cells))
        rows.append(cells)
        if len(rows) > MAX_ROWS + 1:
            raise TableError(f"The file has more than {MAX_ROWS:,} rows. Split it into several.")
    while rows and not rows[-1]:
        rows.pop()
    return [row + [""] * (width - len(row)) for row in rows]


def _text(value: Any) -> str:
    """A cell as somebody would type it: a number without thousands set apart, a day as a day."""
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:.10g}" if abs(value) < 1e10 else repr(value)
    if isinstance(value, datetime):
        return value.date().isoformat() if value.time().isoformat() == "00:00:00" else str(value)
    if isinstance(value, date):
        return value.isoformat()
    return str(value)


def write_workbook(text: str, name: str) -> bytes:
    """The text of a table as a workbook with one sheet: numbers as numbers, the header in bold and
    kept in sight."""
    headers, rows, _ = sheet(text)
    book = Workbook()
    page = book.active
    page.title = name[:31]
    page.append(headers)
    for number, row in enumerate(rows, 2):
        for column, cell in enumerate(row, 1):
            put = page.cell(number, column, _value(cell))
            # what begins like a formula is text all the same
            if put.data_type == "f":
                put.data_type = "s"
    for cell in page[1]:
        cell.font = Font(bold=True)
    page.freeze_panes = "A2"
    for number, title in enumerate(headers, 1):
        longest = max([len(title), *(len(row[number - 1]) for row in rows if len(row) >= number)])
        page.column_dimensions[get_column_letter(number)].width = min(longest + 2, WIDEST)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _value(cell: str) -> float | int | str | None:
    """A number where the cell is one and reads back as the same text; else its text."""
    if not cell:
        return None
    try:
        number = float(cell)
    except ValueError:
        return _harmless(cell)
    whole = int(number) if number.is_integer() and abs(number) < 1e15 else number
    return whole if _text(whole) == cell else _harmless(cell)


def _harmless(cell: str) -> str:
    """Text without what a workbook cannot hold."""
    return "".join(c for c in cell if c in "\t\n" or ord(c) >= 32)
