"""Reading a table back: a dry run with a line for each row, then all of it or nothing."""

from __future__ import annotations

import hashlib
import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Final

import tablib
from django.core.exceptions import ValidationError
from django.db import IntegrityError, models
from django.db.models import F
from import_export.instance_loaders import BaseInstanceLoader
from import_export.resources import Resource
from import_export.results import RowResult

from book.doubts import Doubt, doubts
from book.forms import link_parts
from book.history import FOLLOWS, keep_many, recorded
from book.models import (
    Configuration,
    Hitch,
    HitchPart,
    Thing,
    Trailer,
    TrailerAxle,
)
from book.services.intakes import Changed, last_changes, took_in
from book.sheet import (
    TableError,
    either_number,
    needs_unit,
    sheet,
    split_thousands,
    title_and_unit,
)
from book.table_outcome import Line, Outcome
from book.tables import FORMULA, Column, Table, unquoted
from book.tolerances import Tolerances
from book.yardfile import checked
from longwork.running import Progress, no_progress
from measures import UnitSystem
from measures.quantity import UNIT_TABLES
from yards.audit import happened
from yards.models import Happened, User, Yard

MAX_CELL: Final = 4_000

AT_ONCE: Final = 500
"""Things that are put into the history at once."""

NOBODY: Final = -1
"""Number of a thing that is not stored: nothing belongs to it."""


def batched(many: list[Any], size: int) -> Iterator[list[Any]]:
    """A list in pieces of at most ``size``."""
    for start in range(0, len(many), size):
        yield many[start : start + size]


@dataclass(frozen=True, kw_only=True, slots=True)
class _Checked:
    """A row that is right: its form, and the parts that are to stand on it, where it names any."""

    form: Any
    parts: list[Any] | None


@dataclass(frozen=True, kw_only=True, slots=True)
class _Given:
    """A column that the file has: which, and the unit of its bare numbers."""

    column: Column
    unit: str


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
    wrong, strange = [], []
    for header in headers:
        title, unit = title_and_unit(header)
        column = known.get(title)
        if column is None:
            strange.append(f"“{header[:60]}”")
        elif any(column.name == one.column.name for one in given):
            wrong.append(f"Column “{title}” stands in the file twice.")
        else:
            # without a unit every cell of the column has to bring its own
            if column.kind and unit and unit not in UNIT_TABLES[column.kind]:
                wrong.append(needs_unit(title, column.kind))
            given.append(_Given(column=column, unit=unit))
    if strange:
        names = ", ".join(known)
        called = ", ".join(strange[:8])
        wrong.insert(0, f"No column of this table is called {called}. There are: {names}.")
    needed = [table.key] if table.model is TrailerAxle else dict.fromkeys((table.key, "name"))
    for name in needed:
        if name not in {one.column.name for one in given}:
            wrong.append(f"The column “{name}” is missing; it says what each row is about.")
    if wrong:
        raise TableError(" ".join(wrong))
    return given


class _TableResource(Resource):
    """One table being taken in: rows are checked by the page's own forms."""

    class Meta:
        skip_diff = True
        report_skipped = True
        use_transactions = False
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
        count: int,
        progress: Progress,
    ) -> None:
        super().__init__()
        self.units = units
        self.questions: dict[str, tuple[str, ...]] = {}
        self.table = table
        self.given = given
        self.yard = yard
        self.tolerances = Tolerances.of(yard)
        self.count = count
        self.progress = progress
        self.semicolons = semicolons
        self.seen: set[tuple[str, str]] = set()
        self.owners: dict[str, Thing] = {}
        self.taken: dict[str, int] = {}
        self.checked: list[_Checked] = []
        self.there: dict[str, list[models.Model]] = {}
        self.taken_away: list[str] = []

    def before_import(self, dataset: tablib.Dataset, **kwargs: Any) -> None:
        """Look up what the file is about: the things it names, or whose inner lists it replaces."""
        names = sorted({unquoted(str(name).strip()) for name in dataset[self.table.key]})
        model: Any = self.table.owner or self.table.model
        whole = [path for path in FOLLOWS[model] if self.table.owner is None]
        for some in batched(names, AT_ONCE):
            there = model._default_manager.filter(yard=self.yard, name__in=some)
            self.owners |= {thing.name: thing for thing in there.prefetch_related(*whole)}
        self.taken = {thing.name: thing.pk for thing in self.owners.values()}
        if self.table.owner is None:
            return
        for name, owner in self.owners.items():
            rows = self.table.model._default_manager.filter(**{self.table.parent: owner})
            self.there[name] = list(rows.order_by("pk"))

    def after_import(self, dataset: tablib.Dataset, result: Any, **kwargs: Any) -> None:
        """Name what stood in the replaced lists and is not in the file."""
        for name, rows in self.there.items():
            self.taken_away += [f"{name}: {getattr(row, 'name', None) or row}" for row in rows]

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
        return self.owners.get(unquoted(str(row["name"]).strip()))

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
        own = unquoted(str(row.get("name", "")).strip())
        if own and (key.lower(), own.lower()) in self.seen and self._named_once(instance):
            problems.append(f"name: “{own[:60]}” stands in the file twice")
        self.seen.add((key.lower(), own.lower()))
        self._form = checked(instance, typed, yard=self.yard, taken=self.taken)
        for name, errors in self._form.errors.items():
            problems += [f"{name.replace('_', ' ')}: {words}" for words in errors]
        self._parts = self._find_parts(instance, row, problems)
        if problems:
            raise ValidationError(problems)
        self._same = typed == before and not self._parts_differ(instance, row)

    @staticmethod
    def _named_once(instance: Any) -> bool:
        """Whether no two of its list may have one name."""
        return any(
            "name" in constraint.fields
            for constraint in instance._meta.constraints
            if isinstance(constraint, models.UniqueConstraint)
        )

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
            if not one.unit:
                raise ValueError(
                    f"“{text[:30]}” without a unit. {needs_unit(column.title, column.kind)}"
                )
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
        """Note the row: nothing is stored before every row is right."""
        self.checked.append(
            _Checked(form=self._form, parts=self._parts if "parts" in row else None)
        )
        if isinstance(instance, Thing):
            given = {one.column.name for one in self.given}
            self.questions[instance.name] = tuple(
                doubt.question
                for doubt in _doubts(instance, self.units, self.tolerances)
                if doubt.field in given
            )

    def save_m2m(self, instance: Any, row: Any, **kwargs: Any) -> None:
        """Links are stored with the row."""

    def after_import_row(self, row: Any, row_result: Any, **kwargs: Any) -> None:
        """Tell whoever waits how far it has come."""
        self.progress(kwargs["row_number"], self.count)

    def store(self) -> tuple[list[Thing], list[Changed]]:
        """Store every row that was noted, and take away what the file replaces; the things that
        are new, and those that were there."""
        new = {id(row.form.instance) for row in self.checked if row.form.instance.pk is None}
        bare = [
            row.form.instance
            for row in self.checked
            if self.table.owner is None and row.form.instance.pk is None and not row.parts
        ]
        self.table.model._default_manager.bulk_create(bare)
        stored = {id(instance) for instance in bare}
        touched: dict[tuple[type[Thing], int], Thing] = {}
        for row in self.checked:
            instance = row.form.instance
            if id(instance) not in stored:
                row.form.save()
            if row.parts is not None:
                if isinstance(instance, Configuration):
                    instance.parts.set(row.parts)
                elif isinstance(instance, (Hitch, Trailer)):
                    link_parts(instance, row.parts)
            thing = (
                instance if isinstance(instance, Thing) else getattr(instance, self.table.parent)
            )
            touched[(type(thing), thing.pk)] = thing
        for rows in self.there.values():
            for row_gone in rows:
                row_gone.delete()
        made = [thing for thing in touched.values() if id(thing) in new]
        there = [thing for thing in touched.values() if id(thing) not in new]
        kinds: dict[type[Thing], list[int]] = {}
        for kind, pk in touched:
            kinds.setdefault(kind, []).append(pk)
        changed: list[Changed] = []
        for kind, pks in kinds.items():
            back = last_changes(kind, [thing.pk for thing in there if type(thing) is kind])
            changed += [
                Changed(row=thing, back=back.get(thing.pk))
                for thing in there
                if type(thing) is kind
            ]
            for some in batched(pks, AT_ONCE):
                kind._default_manager.filter(pk__in=some).update(version=F("version") + 1)
                keep_many(kind, some)
        return made, changed


@lru_cache(maxsize=16)
def _nothing(model: type[Thing]) -> dict[str, Any]:
    """Lists of a thing to which nothing belongs yet, looked up already."""
    found: dict[str, Any] = {}
    for name in FOLLOWS[model]:
        inner: Any = model._meta.get_field(name).related_model
        found[name] = inner._default_manager.none()
        len(found[name])
    return found


def _doubts(thing: Thing, units: UnitSystem, tolerances: Tolerances) -> list[Doubt]:
    """Questions about a thing that need not be stored: one that is new has no rows yet."""
    if thing.pk is not None:
        return doubts(thing, units, tolerances)
    thing.pk = NOBODY
    thing._prefetched_objects_cache = _nothing(type(thing))  # type: ignore[attr-defined]
    try:
        return doubts(thing, units, tolerances)
    finally:
        thing.pk = None
        del thing._prefetched_objects_cache  # type: ignore[attr-defined]


def take_in(
    text: str,
    table: Table,
    *,
    yard: Yard,
    user: User,
    stamp: str | None = None,
    progress: Progress = no_progress,
) -> Outcome:
    """Try a table, or store it: all of it or nothing.

    Without a ``stamp`` nothing is stored. With the stamp of a dry run it is stored, unless
    something in the file's way changed since, in which case this is another dry run. Rows are
    checked without keeping others from writing; only storing what is right does that.
    ``progress`` is told rows done and rows in all; what it raises ends the reading.

    Raises:
        TableError: it is not a table of this kind.
    """
    dataset, given, semicolons = read_table(text, table)
    now = _stamp(table, yard, dataset)
    resource = _TableResource(
        table,
        given,
        yard,
        semicolons=semicolons,
        units=user.unit_system,
        count=len(dataset),
        progress=progress,
    )
    lines = _run(resource, dataset, table)
    intake: int | None = None
    if stamp == now and not any(line.problems for line in lines):
        why = f"Table “{table.title}” taken in"
        try:
            with recorded(yard=yard, user=user, why=why, by_hand=True):
                # somebody may have changed it while the rows were checked
                if _stamp(table, yard, dataset) == now:
                    made, changed = resource.store()
                    about = f"table of {table.slug}, {len(dataset)} rows"
                    happened(Happened.TAKEN_IN, yard=yard, by=user, about=about)
                    what = took_in(yard=yard, user=user, what=about, made=made, changed=changed)
                    intake = what.pk
        except IntegrityError:
            # a part that a row names is gone
            intake = None
    return Outcome(lines=lines, stamp=now, intake=intake, taken_away=tuple(resource.taken_away))


def _run(resource: _TableResource, dataset: tablib.Dataset, table: Table) -> tuple[Line, ...]:
    # what the library calls a dry run is a transaction, and keeps others from writing; rows that
    # are right are only noted here, so there is nothing to undo
    result = resource.import_data(dataset, dry_run=False, use_transactions=False)
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
