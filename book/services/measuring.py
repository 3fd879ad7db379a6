"""One measure of a thing by itself, typed on its drawing."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.core.exceptions import ValidationError
from django.db import models

from book.fields import QuantityField, QuantityFormField
from book.history import keep, recorded
from book.models import Thing, Trailer, Truck
from book.services.things import claim
from measures import Quantity, UnitSystem
from measures.writing import write_entered
from web.sent import whole_number
from yards.models import User


@dataclass(frozen=True, kw_only=True, slots=True)
class Box:
    """A box that a dimension of a drawing stands for: a row's and its field."""

    row: models.Model
    field: str

    @property
    def entered(self) -> str:
        """What is in it, as it was entered; empty where nothing is."""
        value: Quantity | None = getattr(self.row, self.field)
        return "" if value is None else write_entered(value)


def box_of(thing: Thing, name: str) -> Box:
    """The box of a name: a field of the thing, ``axle-2`` of a trailer, ``hitch-7`` of a truck.

    Raises:
        LookupError: the thing has none.
    """
    kind, _, number = name.partition("-")
    if number:
        at = whole_number(number)
        if at is None:
            raise LookupError(name)
        if kind == "axle" and isinstance(thing, Trailer):
            axles = list(thing.axles.all())
            if not 1 <= at <= len(axles):
                raise LookupError(name)
            return Box(row=axles[at - 1], field="position")
        if kind == "hitch" and isinstance(thing, Truck):
            for hitch in thing.hitches.all():
                if hitch.pk == at:
                    return Box(row=hitch, field="offset")
        raise LookupError(name)
    fields = {field.name: field for field in thing._meta.concrete_fields}
    if not isinstance(fields.get(name), QuantityField):
        raise LookupError(name)
    return Box(row=thing, field=name)


def put_measure(
    thing: Thing,
    box: Box,
    typed: str,
    *,
    form: Any,
    version: str,
    units: UnitSystem,
    user: User,
) -> None:
    """Save one measure, or with nothing typed take it away. ``form`` is the class of the thing's
    own page, which judges it beside the other boxes.

    Raises:
        ValidationError: it cannot be read, or does not go with another box; nothing is stored.
        StaleThing: the thing has moved on; nothing is stored.
    """
    column: Any = box.row._meta.get_field(box.field)
    field = column.formfield()
    if not isinstance(field, QuantityFormField):
        raise LookupError(box.field)
    field.units = units
    value = field.clean(typed)
    if box.row is thing:
        _judge(thing, box.field, typed, form, units)
    with recorded(yard=thing.yard, user=user, why="typed on the drawing"):
        claim(thing, version)
        setattr(box.row, box.field, value)
        box.row.save(update_fields=[box.field])
        keep(thing)


def _judge(thing: Thing, name: str, typed: str, form: Any, units: UnitSystem) -> None:
    """Let the thing's own form say what does not go together with the new measure."""
    model = type(thing)
    fresh = model._default_manager.select_related("yard").get(pk=thing.pk)
    empty = form(instance=fresh, units=units, yard=thing.yard)
    data: dict[str, Any] = {}
    for field in empty.fields:
        held = empty[field].value()
        if held not in (None, False):
            data[field] = held
    filled = form(
        data | {name: typed},
        instance=model._default_manager.get(pk=thing.pk),
        units=units,
        yard=thing.yard,
    )
    if not filled.is_valid() and name in filled.errors:
        raise ValidationError([str(error) for error in filled.errors[name]])
