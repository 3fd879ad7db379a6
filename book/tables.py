"""The lists of the book as CSV tables: written with units in their headers, read back whole.

A table of things has one row for each, found again by its name. A table of an inner list
(axles, parts) names the thing in its first column and replaces that list whole. Cells
hold bare numbers in the unit of their header, or a number with a unit of its own, so that
what was entered in another unit comes back unchanged.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Any, Final

import tablib
from django.db import models

from book.fields import QuantityField
from book.models import (
    Bulk,
    Configuration,
    Gear,
    Hitch,
    HitchPart,
    Machine,
    MachinePart,
    MachinePoint,
    Place,
    PlaceWay,
    Thing,
    Trailer,
    TrailerAddition,
    TrailerAnchor,
    TrailerAxle,
    Truck,
    TruckLoad,
)
from book.yardfile import shape_of
from measures import Quantity, UnitSystem
from measures.writing import in_units_of
from yards.models import Yard

FORMULA: Final = ("=", "+", "-", "@", "\t", "\r")
"""First characters by which a spreadsheet takes a cell for a formula."""

PART_SEPARATOR: Final = "; "


@dataclass(frozen=True, kw_only=True)
class Column:
    """One column: the field it holds, and the kind of measure where it is one."""

    name: str
    field: models.Field[Any, Any] | None
    kind: str = ""

    @property
    def title(self) -> str:
        """The header without its unit."""
        return self.name.replace("_", " ")

    def header(self, units: UnitSystem) -> str:
        """The header with the unit of its bare numbers."""
        return f"{self.title} ({units.bare_unit(self.kind)})" if self.kind else self.title

    def words(self, units: UnitSystem) -> str:
        """What goes into the column, for the page that documents it."""
        if self.field is None:
            return "Names of hitch parts or machine parts, separated by semicolons."
        if self.field.flatchoices:
            return "One of: " + ", ".join(str(v) for v, _ in self.field.flatchoices if v) + "."
        if isinstance(self.field, models.BooleanField):
            return "yes or no."
        help_text = in_units_of(str(self.field.help_text), units)
        name = str(self.field.verbose_name)
        return f"{name[:1].upper()}{name[1:]}. {help_text}".strip()


@dataclass(frozen=True, kw_only=True)
class Table:
    """One list of the book as a table; ``owner`` is what an inner list belongs to."""

    slug: str
    title: str
    model: type[models.Model]
    owner: type[Thing] | None = None
    parent: str = ""

    @property
    def key(self) -> str:
        """The column by which rows, or their owners, are found again."""
        return self.parent or "name"

    @property
    def columns(self) -> list[Column]:
        """All columns in their order, the key first."""
        found = [
            Column(
                name=field.name,
                field=field,
                kind=field.kind if isinstance(field, QuantityField) else "",
            )
            for field in shape_of(self.model).plain
        ]
        found.sort(key=lambda column: column.name != "name")
        if self.parent:
            owner = self.model._meta.get_field(self.parent)
            found.insert(0, Column(name=self.parent, field=owner))  # type: ignore[arg-type]
        if self.model in (Hitch, Trailer, Configuration):
            found.append(Column(name="parts", field=None))
        return found


TABLES: Final = {
    table.slug: table
    for table in (
        Table(slug="hitch-parts", title="Hitch parts", model=HitchPart),
        Table(slug="trucks", title="Trucks", model=Truck),
        Table(
            slug="truck-loads",
            title="Usual loads of trucks",
            model=TruckLoad,
            owner=Truck,
            parent="truck",
        ),
        Table(slug="hitches", title="Hitches of trucks", model=Hitch, owner=Truck, parent="truck"),
        Table(slug="trailers", title="Trailers", model=Trailer),
        Table(
            slug="trailer-axles",
            title="Axles of trailers",
            model=TrailerAxle,
            owner=Trailer,
            parent="trailer",
        ),
        Table(
            slug="trailer-additions",
            title="Additions to trailers",
            model=TrailerAddition,
            owner=Trailer,
            parent="trailer",
        ),
        Table(
            slug="trailer-anchors",
            title="Anchors of trailers",
            model=TrailerAnchor,
            owner=Trailer,
            parent="trailer",
        ),
        Table(slug="machines", title="Machines", model=Machine),
        Table(
            slug="machine-parts",
            title="Parts of machines",
            model=MachinePart,
            owner=Machine,
            parent="machine",
        ),
        Table(
            slug="machine-points",
            title="Points of machines",
            model=MachinePoint,
            owner=Machine,
            parent="machine",
        ),
        Table(
            slug="configurations",
            title="Configurations of machines",
            model=Configuration,
            owner=Machine,
            parent="machine",
        ),
        Table(slug="bulk", title="Bulk loads", model=Bulk),
        Table(slug="gear", title="Gear", model=Gear),
        Table(slug="places", title="Places", model=Place),
        Table(
            slug="place-ways",
            title="Ways between places",
            model=PlaceWay,
            owner=Place,
            parent="place",
        ),
    )
}
"""The tables in the order in which a whole book is taken in."""


# writing ------------------------------------------------------------------------------


def write_table(table: Table, yard: Yard, units: UnitSystem) -> str:
    """The table as CSV text."""
    return csv_text(
        [column.header(units) for column in table.columns],
        ([_cell(row, column, units) for column in table.columns] for row in _rows_of(table, yard)),
    )


def csv_text(headers: Sequence[str], rows: Iterable[Sequence[str]]) -> str:
    """Rows as CSV text below their headers; whoever makes a cell of what somebody typed makes it
    :func:`quoted`."""
    dataset = tablib.Dataset(headers=headers)
    for row in rows:
        dataset.append(row)
    return str(dataset.export("csv"))


def _rows_of(table: Table, yard: Yard) -> Iterable[models.Model]:
    if table.owner is None:
        return table.model._default_manager.filter(yard=yard)
    found = table.model._default_manager.filter(**{f"{table.parent}__yard": yard})
    return found.select_related(table.parent).order_by(f"{table.parent}__name", "pk")


def _cell(row: Any, column: Column, units: UnitSystem) -> str:
    if column.field is None:
        if isinstance(row, Configuration):
            names = [part.name for part in row.parts.all()]
        else:
            names = [link.part.name for link in row.links.all()]
        return quoted(PART_SEPARATOR.join(names))
    value = getattr(row, column.name)
    if value is None:
        return ""
    if isinstance(value, Quantity):
        number = value.plain
        return number if value.unit == units.bare_unit(column.kind) else f"{number} {value.unit}"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, (Decimal, int)):
        return str(value)
    return quoted(str(value))


def quoted(text: str) -> str:
    """Text that no spreadsheet takes for a formula; :func:`unquoted` undoes it."""
    return f"'{text}" if text.startswith((*FORMULA, "'")) else text


def unquoted(text: str) -> str:
    """What a cell says, without the apostrophe that kept spreadsheets from reading it."""
    return text[1:] if text.startswith("'") and text[1:].startswith((*FORMULA, "'")) else text
