"""Reading a table back: a dry run with a line for each row, then all of it or nothing."""

from __future__ import annotations

import csv
import hashlib
import io
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Final

import tablib
from django.core.exceptions import ValidationError
from django.db import models
from django.db.models import F
from import_export.instance_loaders import BaseInstanceLoader
from import_export.resources import Resource
from import_export.results import RowResult

from book.doubts import doubts
from book.forms import link_parts
from book.history import keep, recorded
from book.models import (
    Configuration,
    Hitch,
    HitchPart,
    Thing,
    Trailer,
    TrailerAxle,
)
from book.tables import FORMULA, Column, Table, unquoted
from book.tolerances import Tolerances
from book.yardfile import checked
from measures import UnitSystem
from measures.quantity import UNIT_TABLES
from yards.models import User, Yard

MAX_BYTES: Final = 1_000_000
MAX_ROWS: Final = 5_000
MAX_CELL: Final = 4_000


class TableError(ValueError):
    """A file that is no table of this kind at all; the message says what to do."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """What happens to one line of the file."""

    number: int
    name: str
    outcome: str
    problems: tuple[str, ...] = ()
    questions: tuple[str, ...] = ()
    """What is odd about it, and may be right all the same."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Outcome:
    """A dry run or an import: every line, and whether it was stored."""

    lines: tuple[Line, ...]
    stored: bool
    stamp: str
    taken_away: tuple[str, ...] = ()

    @property
    def wrong(self) -> bool:
        """Whether any line has a problem; nothing is stored then."""
        return any(line.problems for line in self.lines)


@dataclass(frozen=True, kw_only=True, slots=True)
class _Given:
    """A column that the file has: which, and the unit of its bare numbers."""

    column: Column
    unit: str


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


def read_table(text: str, table: Table) -> tuple[tablib.Dataset, list[_Given], bool]:
    """Rows and columns of a text; the last value says that semicolons part its cells.

    Raises:
        TableError: it is not a table of this kind.
    """
    headers, body, semicolons = sheet(text)
    given = _columns(headers, table)
    dataset = tablib.Dataset(headers=[one.column.name for one in given])
    for number, row in enumerate(body, 2):
        if len(row) > len(headers) and any(cell.strip() for cell in row[len(headers) :]):
            raise TableError(
                f"Row {number} has {len(row)} cells and the header {len(headers)}. Is a comma in "
                "a number or name not in quotes?"
            )
        dataset.append([*row, *[""] * len(headers)][: len(headers)])
    if not body:
        raise TableError("The file has a header and no rows.")
    return dataset, given, semicolons


def _columns(headers: list[str], table: Table) -> list[_Given]:
    known = {column.title: column for column in table.columns}
    given: list[_Given] = []
    for header in headers:
        title, unit = title_and_unit(header)
        column = known.get(title)
        if column is None:
            names = ", ".join(known)
            raise TableError(
                f"No column of this table is called “{header[:60]}”. There are: {names}."
            )
        if column.kind and unit not in UNIT_TABLES[column.kind]:
            raise TableError(needs_unit(title, column.kind))
        if any(column is one.column or column.name == one.column.name for one in given):
            raise TableError(f"Column “{title}” stands in the file twice.")
        given.append(_Given(column=column, unit=unit))
    needed = [table.key] if table.model is TrailerAxle else dict.fromkeys((table.key, "name"))
    for name in needed:
        if name not in {one.column.name for one in given}:
            raise TableError(f"The column “{name}” is missing; it says what each row is about.")
    return given


class _TableResource(Resource):
    """One table being taken in: rows are checked by the page's own forms."""

    class Meta:
        skip_diff = True
        report_skipped = True
        use_transactions = True
        import_id_fields = ()
        instance_loader_class = BaseInstanceLoader

    def __init__(
        self,
        table: Table,
        given: list[_Given],
        yard: Yard,
        *,
        semicolons: bool,
        units: UnitSystem,
    ) -> None:
        super().__init__()
        self.units = units
        self.questions: dict[str, tuple[str, ...]] = {}
        self.table = table
        self.given = given
        self.yard = yard
        self.semicolons = semicolons
        self.seen: set[str] = set()
        self.owners: dict[str, Thing] = {}
        self.touched: dict[tuple[type[Thing], int], Thing] = {}
        self.there: dict[str, list[models.Model]] = {}
        self.taken_away: list[str] = []

    def before_import(self, dataset: tablib.Dataset, **kwargs: Any) -> None:
        """Look up the inner lists that the file replaces."""
        if self.table.owner is None:
            return
        names = {unquoted(str(name).strip()) for name in dataset[self.table.parent]}
        owners = self.table.owner._default_manager.filter(yard=self.yard, name__in=names)
        self.owners = {owner.name: owner for owner in owners}
        for name, owner in self.owners.items():
            rows = self.table.model._default_manager.filter(**{self.table.parent: owner})
            self.there[name] = list(rows.order_by("pk"))

    def after_import(self, dataset: tablib.Dataset, result: Any, **kwargs: Any) -> None:
        """Take away what stood in the replaced lists and is not in the file."""
        for name, rows in self.there.items():
            for row in rows:
                self.taken_away.append(f"{name}: {getattr(row, 'name', None) or row}")
                row.delete()

    def get_instance(self, instance_loader: Any, row: dict[str, Any]) -> Any:
        """The thing of that name; in an inner list the row of that name, or the next axle.

        It keeps its place in configurations and hauls that way.
        """
        if self.table.owner is not None:
            rows = self.there.get(unquoted(str(row[self.table.parent]).strip()), [])
            name = unquoted(str(row.get("name", "")).strip())
            same = [r for r in rows if self.table.model is TrailerAxle or str(r.name) == name]  # type: ignore[attr-defined]
            if not same:
                return None
            rows.remove(same[0])
            return same[0]
        name = unquoted(str(row["name"]).strip())
        return self.table.model._default_manager.filter(yard=self.yard, name=name).first()

    def init_instance(self, row: Any = None) -> Any:
        """A new row of the table's list."""
        return self.table.model()

    def import_instance(self, instance: Any, row: dict[str, Any], **kwargs: Any) -> None:
        """Check a row as the page would, and put its figures on the instance."""
        if isinstance(instance, Thing):
            instance.yard = self.yard
        typed, problems = self._typed(instance, row)
        before = self._standing(instance)
        key = unquoted(str(row[self.table.key]).strip())
        if self.table.owner is not None:
            owner = self.owners.get(key)
            if owner is None:
                problems.append(f"{self.table.parent}: the book has no “{key[:60]}”")
                raise ValidationError(problems)
            setattr(instance, self.table.parent, owner)
        elif key.lower() in self.seen:
            problems.append(f"name: “{key[:60]}” stands in the file twice")
        self.seen.add(key.lower())
        self._form = checked(instance, typed, yard=self.yard)
        for name, errors in self._form.errors.items():
            problems += [f"{name.replace('_', ' ')}: {words}" for words in errors]
        self._parts = self._find_parts(instance, row, problems)
        if problems:
            raise ValidationError(problems)
        self._same = typed == before and not self._parts_differ(instance, row)

    def _parts_differ(self, instance: Any, row: dict[str, Any]) -> bool:
        if instance.pk is None or "parts" not in row:
            return False
        if isinstance(instance, Configuration):
            there = {part.pk for part in instance.parts.all()}
        else:
            there = {link.part_id for link in instance.links.all()}
        return there != {part.pk for part in self._parts}

    def skip_row(
        self, instance: Any, original: Any, row: Any, import_validation_errors: Any = None
    ) -> bool:
        """A thing that the file says nothing new about is left alone."""
        return instance.pk is not None and not import_validation_errors and self._same

    def _standing(self, instance: Any) -> dict[str, Any]:
        """The instance's figures as a browser would send them."""
        typed: dict[str, Any] = {}
        for column in self.table.columns:
            if column.field is None or column.name == self.table.parent:
                continue
            value = getattr(instance, column.name)
            if value is not False:
                typed[column.name] = "" if value is None else value if value is True else str(value)
        return typed

    def _typed(self, instance: Any, row: dict[str, Any]) -> tuple[dict[str, Any], list[str]]:
        """What a browser would send: the figures there are, the file's on top."""
        typed = self._standing(instance)
        problems: list[str] = []
        for one in self.given:
            column, text = one.column, str(row[one.column.name]).strip()
            if column.name == self.table.parent or column.field is None:
                continue
            try:
                cell = self._read_cell(text, one)
            except ValueError as error:
                problems.append(f"{column.title}: {error}")
                continue
            if cell is None:
                typed.pop(column.name, None)
            else:
                typed[column.name] = cell
        return typed, problems

    def _read_cell(self, text: str, one: _Given) -> Any:
        column = one.column
        if len(text) > MAX_CELL:
            raise ValueError(f"longer than {MAX_CELL:,} characters")
        if text.startswith(("=", "@")) or (text.startswith(FORMULA) and not column.kind):
            raise ValueError(
                f"“{text[:30]}” looks like a formula. Write its value, or put ' before text"
            )
        text = unquoted(text)
        if isinstance(column.field, models.BooleanField):
            return self._yes_or_no(text)
        if not text and column.field is not None and column.field.has_default():
            return column.field.get_default()
        number = bool(column.kind) or isinstance(column.field, models.DecimalField)
        if number and self.semicolons and split_thousands(text):
            raise ValueError(either_number(text))
        if isinstance(column.field, models.DecimalField):
            return text.replace(",", ".")
        if column.kind and re.fullmatch(r"-?[\d.,\s/]+", text):
            return f"{text} {one.unit}"
        return text

    @staticmethod
    def _yes_or_no(text: str) -> bool | None:
        if text.lower() in ("yes", "y", "true", "1", "x"):
            return True
        if text.lower() in ("no", "n", "false", "0", ""):
            return None
        raise ValueError(f"“{text[:30]}” is neither yes nor no")

    def _find_parts(self, instance: Any, row: dict[str, Any], problems: list[str]) -> list[Any]:
        if "parts" not in row:
            return []
        names = [name.strip() for name in unquoted(str(row["parts"])).split(";") if name.strip()]
        if self.table.model is Configuration:
            there: Any = instance.machine.parts.filter(removable=True)
        else:
            there = HitchPart.objects.filter(yard=self.yard)
        found = {part.name: part for part in there.filter(name__in=names)}
        problems += [
            f"parts: there is no “{name[:60]}” that can be on it"
            for name in names
            if name not in found
        ]
        return [found[name] for name in names if name in found]

    def validate_instance(
        self, instance: Any, import_validation_errors: Any = None, **kwargs: Any
    ) -> None:
        """Everything was checked by the form; its findings are raised here."""
        if import_validation_errors:
            raise ValidationError(import_validation_errors)

    def save_instance(self, instance: Any, is_create: bool, row: Any, **kwargs: Any) -> None:
        """Store the row with its links."""
        self._form.save()
        if isinstance(instance, Configuration):
            if "parts" in row:
                instance.parts.set(self._parts)
        elif isinstance(instance, (Hitch, Trailer)) and "parts" in row:
            link_parts(instance, self._parts)
        thing = instance if isinstance(instance, Thing) else getattr(instance, self.table.parent)
        self.touched[(type(thing), thing.pk)] = thing
        if isinstance(instance, Thing):
            given = {one.column.name for one in self.given}
            self.questions[instance.name] = tuple(
                doubt.question
                for doubt in doubts(instance, self.units, Tolerances.of(self.yard))
                if doubt.field in given
            )

    def save_m2m(self, instance: Any, row: Any, **kwargs: Any) -> None:
        """Links are stored with the row."""


def take_in(
    text: str,
    table: Table,
    *,
    yard: Yard,
    user: User,
    stamp: str | None = None,
) -> Outcome:
    """Try a table, or store it: all of it or nothing.

    Without a ``stamp`` nothing is stored. With the stamp of a dry run it is stored, unless
    something in the file's way changed since, in which case this is another dry run.

    Raises:
        TableError: it is not a table of this kind.
    """
    dataset, given, semicolons = read_table(text, table)
    now = _stamp(table, yard, dataset)
    dry = stamp is None or stamp != now
    resource = _TableResource(table, given, yard, semicolons=semicolons, units=user.unit_system)
    lines: tuple[Line, ...] = ()
    stored = False
    if dry:
        lines = _run(resource, dataset, table, dry=True)
    else:
        try:
            with recorded(yard=yard, user=user, why=f"Table “{table.title}” taken in"):
                lines = _run(resource, dataset, table, dry=False)
                if any(line.problems for line in lines):
                    raise _NothingStored
                for thing in resource.touched.values():
                    there = type(thing)._default_manager.filter(pk=thing.pk)
                    there.update(version=F("version") + 1)
                    keep(thing)
            stored = True
        except _NothingStored:
            stored = False
    return Outcome(lines=lines, stored=stored, stamp=now, taken_away=tuple(resource.taken_away))


class _NothingStored(Exception):
    """Undoes an import of which a line was not right."""


def _run(
    resource: _TableResource, dataset: tablib.Dataset, table: Table, *, dry: bool
) -> tuple[Line, ...]:
    result = resource.import_data(
        dataset,
        dry_run=dry,
        raise_errors=False,
        use_transactions=True,
        rollback_on_validation_errors=True,
    )
    for error in result.base_errors:
        raise error.error
    return tuple(_lines(result, dataset, table, resource.questions))


def _lines(
    result: Any, dataset: tablib.Dataset, table: Table, questions: dict[str, tuple[str, ...]]
) -> Iterator[Line]:
    invalid = {row.number: row for row in result.invalid_rows}
    outcomes = {
        RowResult.IMPORT_TYPE_NEW: "new",
        RowResult.IMPORT_TYPE_UPDATE: "changed",
        RowResult.IMPORT_TYPE_SKIP: "as it is",
    }
    for number, (row, found) in enumerate(zip(dataset.dict, result.rows, strict=True), 1):
        name = str(row.get("name") or row.get(table.key) or "").strip()[:80]
        problems: tuple[str, ...] = ()
        if number in invalid:
            problems = tuple(invalid[number].error.messages)
        elif found.errors:
            raise found.errors[0].error
        yield Line(
            number=number + 1,
            name=name,
            outcome="not right" if problems else outcomes.get(found.import_type, ""),
            problems=problems,
            questions=() if problems else questions.get(name, ()),
        )


def _stamp(table: Table, yard: Yard, dataset: tablib.Dataset) -> str:
    """What the things in the file's way look like now, to notice changes in between."""
    names = {unquoted(str(name).strip()) for name in dataset[table.key]}
    model = table.owner or table.model
    there = model._default_manager.filter(yard=yard, name__in=names).order_by("pk")
    state = repr(list(there.values_list("pk", "version")))
    return hashlib.sha256(state.encode()).hexdigest()[:24]
