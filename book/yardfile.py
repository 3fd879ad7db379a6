"""The whole yard as one JSON file and back (``eyebolt.yard``, version 1).

A thing is an object of its fields, measures in the unit they were entered in (``"7000
lb"``), with its inner lists; a field that is absent is not known. Hitch parts are named
where they are on a hitch or trailer, machine parts numbered where a configuration has
them on. Hauls keep their plan files whole.
"""

from __future__ import annotations

from collections.abc import Container, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from types import MappingProxyType
from typing import Any, Final, cast

from django.db import models
from django.forms import ModelForm

from book.fields import QuantityField
from book.forms import (
    BulkForm,
    ConfigurationForm,
    GearForm,
    HitchForm,
    HitchPartForm,
    MachineForm,
    PlaceForm,
    ThingForm,
    TrailerForm,
    TruckForm,
)
from book.models import (
    Bulk,
    Configuration,
    Gear,
    Hitch,
    HitchLink,
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
    TrailerPart,
    Truck,
    TruckLoad,
)
from book.row_forms import (
    AdditionRow,
    AnchorRow,
    AxleRow,
    LoadRow,
    MachinePartRow,
    PointRow,
    RowForm,
    WayRow,
)
from measures import Quantity, UnitSystem
from yards.models import Yard

FORMAT: Final = "eyebolt.yard"
MAX_THINGS: Final = 20_000
MAX_INNER: Final = 200


class YardFileError(ValueError):
    """A yard file that cannot be taken in; ``problems`` name every place and what is wrong."""

    def __init__(self, problems: list[str]) -> None:
        self.problems = problems
        super().__init__("; ".join(problems[:5]))


@dataclass(frozen=True, kw_only=True)
class Shape:
    """How one model stands in the file: its parent's field, and its inner lists."""

    model: type[models.Model]
    parent: str = ""
    inner: dict[str, Shape] = field(default_factory=dict)

    @property
    def plain(self) -> list[models.Field[Any, Any]]:
        """The columns that are written as they are."""
        return [
            f
            for f in self.model._meta.concrete_fields
            if f.name not in ("id", "yard", "version", "changed_at", self.parent)
            and not f.is_relation
        ]


SHAPES: Final[dict[str, Shape]] = {
    "hitch_parts": Shape(model=HitchPart),
    "trucks": Shape(
        model=Truck,
        inner={
            "loads": Shape(model=TruckLoad, parent="truck"),
            "hitches": Shape(
                model=Hitch,
                parent="truck",
                inner={"links": Shape(model=HitchLink, parent="hitch")},
            ),
        },
    ),
    "trailers": Shape(
        model=Trailer,
        inner={
            "axles": Shape(model=TrailerAxle, parent="trailer"),
            "additions": Shape(model=TrailerAddition, parent="trailer"),
            "anchors": Shape(model=TrailerAnchor, parent="trailer"),
            "links": Shape(model=TrailerPart, parent="trailer"),
        },
    ),
    "machines": Shape(
        model=Machine,
        inner={
            "parts": Shape(model=MachinePart, parent="machine"),
            "points": Shape(model=MachinePoint, parent="machine"),
            "configurations": Shape(model=Configuration, parent="machine"),
        },
    ),
    "bulk": Shape(model=Bulk),
    "gear": Shape(model=Gear),
    "places": Shape(model=Place, inner={"ways": Shape(model=PlaceWay, parent="place")}),
}
"""Lists of the file in the order they are taken in: parts before what they are on."""

_SHAPE_OF = {shape.model: shape for shape in SHAPES.values()}


def shape_of(model: type[models.Model]) -> Shape:
    """How a model stands in the file, inner lists included."""
    waiting = list(SHAPES.values())
    for shape in waiting:
        if shape.model is model:
            return shape
        waiting += shape.inner.values()
    raise KeyError(model)


def dump_thing(thing: Thing) -> dict[str, Any]:
    """A thing as the file has it."""
    return _dump(thing, _SHAPE_OF[type(thing)])


def _dump(row: models.Model, shape: Shape) -> dict[str, Any]:
    if isinstance(row, (HitchLink, TrailerPart)):
        return {"part": row.part.name}
    document: dict[str, Any] = {}
    for column in shape.plain:
        value = getattr(row, column.name)
        if value is None or value == "":
            continue
        if isinstance(value, (Quantity, Decimal, date)):
            value = str(value)
        document[column.name] = value
    if isinstance(row, Configuration):
        order = [part.pk for part in row.machine.parts.all()]
        document["parts"] = sorted(order.index(part.pk) for part in row.parts.all())
    for name, inner in shape.inner.items():
        rows = [_dump(child, inner) for child in getattr(row, name).all()]
        if rows:
            document[name] = rows
    return document


def load_thing(model: type[Thing], document: dict[str, Any], *, yard: Yard) -> Thing:
    """Bring a thing into a yard.

    Raises:
        YardFileError: naming every field that is not right; the caller undoes the rest.
    """
    problems: list[str] = []
    row = _load(document, _SHAPE_OF[model], yard, model.__name__.lower(), problems)
    if row is None or problems:
        raise YardFileError(problems)
    return row  # type: ignore[return-value]


def _load(
    document: Any,
    shape: Shape,
    yard: Yard,
    path: str,
    problems: list[str],
    parent: models.Model | None = None,
    onto: models.Model | None = None,
) -> models.Model | None:
    """The row of a file's object, with all that belongs to it; ``onto`` is the row that it takes
    the place of, which keeps its key."""
    if not isinstance(document, dict):
        problems.append(f"{path}: expected an object")
        return None
    if shape.model in (HitchLink, TrailerPart):
        return _load_link(document, shape, yard, path, problems, parent)
    extra = {"parts"} if shape.model is Configuration else set(shape.inner)
    unknown = set(document) - {f.name for f in shape.plain} - extra
    problems += [f"{path}.{name}: no such field" for name in sorted(unknown)]
    row = onto or shape.model()
    if parent is not None:
        setattr(row, shape.parent, parent)
    if isinstance(row, Thing):
        row.yard = yard
    before = len(problems)
    form = checked(row, _as_typed(document, shape), yard=yard)
    for name, errors in form.errors.items():
        problems += [f"{path}.{name}: {words}" for words in errors]
    if len(problems) > before:
        return None
    row = form.save()
    for inner_name, inner in shape.inner.items():
        rows = document.get(inner_name, [])
        if not isinstance(rows, list) or len(rows) > MAX_INNER:
            problems.append(f"{path}.{inner_name}: expected a list of at most {MAX_INNER}")
            continue
        stay = {} if onto is None else _clear(getattr(row, inner_name).all(), rows)
        made = [
            _load(
                entry,
                inner,
                yard,
                f"{path}.{inner_name}[{n}]",
                problems,
                row,
                stay.pop(str(entry.get("name")), None) if isinstance(entry, dict) else None,
            )
            for n, entry in enumerate(rows)
        ]
        if inner.model is Configuration:
            _choose_parts(row, rows, made, f"{path}.{inner_name}", problems)
    return cast("models.Model", row)


def _clear(there: Iterable[models.Model], coming: list[Any]) -> dict[str, models.Model]:
    """Take away the rows that others take the place of. Hitches and configurations whose names
    come again stay, by their names: hauls point at them."""
    names = {str(entry.get("name")) for entry in coming if isinstance(entry, dict)}
    stay: dict[str, models.Model] = {}
    for row in there:
        if isinstance(row, (Hitch, Configuration)) and row.name in names:
            stay[row.name] = row
        else:
            row.delete()
    return stay


def _choose_parts(
    machine: Any, rows: list[Any], made: list[Any], path: str, problems: list[str]
) -> None:
    parts = list(machine.parts.order_by("pk"))
    for n, (entry, configuration) in enumerate(zip(rows, made, strict=True)):
        if configuration is None:
            continue
        numbers = entry.get("parts", [])
        if not isinstance(numbers, list) or not all(
            isinstance(i, int) and 0 <= i < len(parts) for i in numbers
        ):
            problems.append(f"{path}[{n}].parts: expected numbers of the machine's parts")
            continue
        configuration.parts.set([parts[i] for i in numbers])


def _load_link(
    document: dict[str, Any],
    shape: Shape,
    yard: Yard,
    path: str,
    problems: list[str],
    parent: models.Model | None,
) -> models.Model | None:
    name = document.get("part")
    part = HitchPart.objects.filter(yard=yard, name=name).first() if name else None
    if part is None or set(document) != {"part"}:
        problems.append(f"{path}.part: expected the name of a hitch part of the book")
        return None
    return shape.model._default_manager.create(**{shape.parent: parent, "part": part})


_THING_FORMS: Final[dict[type[Thing], type[ThingForm]]] = {
    Truck: TruckForm,
    HitchPart: HitchPartForm,
    Trailer: TrailerForm,
    Machine: MachineForm,
    Bulk: BulkForm,
    Gear: GearForm,
    Place: PlaceForm,
}
_ROW_FORMS: Final[dict[type[models.Model], type[RowForm]]] = {
    TruckLoad: LoadRow,
    TrailerAxle: AxleRow,
    TrailerAddition: AdditionRow,
    TrailerAnchor: AnchorRow,
    PlaceWay: WayRow,
    MachinePart: MachinePartRow,
    MachinePoint: PointRow,
}


def checked(
    row: models.Model,
    typed: dict[str, Any],
    *,
    yard: Yard,
    taken: Mapping[str, int] | None = None,
) -> ModelForm[Any]:
    """The page's own form on a row, so that files are checked exactly as boxes are.

    ``taken`` are the names of a thing's list, where they are known already.
    """
    units = UnitSystem.US
    if isinstance(row, Thing):
        return _THING_FORMS[type(row)](typed, instance=row, units=units, yard=yard, taken=taken)
    if isinstance(row, Hitch):
        return HitchForm(typed, instance=row, units=units, yard=yard)
    if isinstance(row, Configuration):
        return ConfigurationForm(typed, instance=row, units=units, machine=row.machine)
    return _ROW_FORMS[type(row)](typed, instance=row, units=units)


def _as_typed(document: dict[str, Any], shape: Shape) -> dict[str, Any]:
    """The object's fields as a browser would send them; defaults stand in for choices."""
    typed: dict[str, Any] = {}
    for column in shape.plain:
        value = document.get(column.name)
        if value is None:
            if not isinstance(column, QuantityField) and column.has_default():
                value = column.get_default()
            else:
                continue
        typed[column.name] = value if isinstance(value, (bool, str)) else str(value)
    return typed


def dump_yard(yard: Yard) -> Iterator[tuple[str, list[dict[str, Any]]]]:
    """Every list of the book."""
    for name, shape in SHAPES.items():
        rows = shape.model._default_manager.filter(yard=yard)
        yield name, [_dump(row, shape) for row in rows]


@dataclass(frozen=True, kw_only=True, slots=True)
class Loaded:
    """The things of a file that came new, and those of the yard that became the file's."""

    made: list[Thing]
    changed: list[Thing]


def load_yard(
    document: dict[str, Any],
    yard: Yard,
    problems: list[str],
    *,
    leave: Container[str] = (),
    onto: Mapping[str, Thing] = MappingProxyType({}),
) -> Loaded:
    """Bring every list of the book into a yard; what is wrong goes into ``problems``.

    Entries stand by list and number, ``trucks/3``: those to ``leave`` out, and those that take the
    place of a thing of the yard.
    """
    loaded = Loaded(made=[], changed=[])
    for name, shape in SHAPES.items():
        for n, entry in enumerate(listed(document, name, problems)):
            there = onto.get(f"{name}/{n}")
            if f"{name}/{n}" in leave:
                continue
            row = _load(entry, shape, yard, f"{name}[{n}]", problems, onto=there)
            if isinstance(row, Thing):
                (loaded.made if there is None else loaded.changed).append(row)
    return loaded


def listed(document: dict[str, Any], name: str, problems: list[str]) -> list[Any]:
    """A list of a yard file; empty where something else stands there."""
    rows = document.get(name, [])
    if not isinstance(rows, list) or len(rows) > MAX_THINGS:
        problems.append(f"{name}: expected a list")
        return []
    return rows
