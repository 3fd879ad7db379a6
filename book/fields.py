"""Columns and form fields for measures: any usual writing, kept as entered."""

from __future__ import annotations

from datetime import date
from typing import TYPE_CHECKING, Any, Final, NamedTuple

from django import forms
from django.core.exceptions import ValidationError
from django.db import models
from django.utils.text import capfirst

from measures import READERS, Quantity, ReadingError, UnitSystem
from measures.writing import in_units_of, write_entered, write_given
from mechanics.bounds import (
    DENSEST_KG_M3,
    FARTHEST_M,
    FASTEST_M_S,
    HARDEST_PA,
    HEAVIEST_KG,
    LARGEST_M3,
    LONGEST_M,
)
from web.sent import whole_number


def field_words(model: type[models.Model] | models.Model, name: str) -> str:
    """What a model's own field is called."""
    field = model._meta.get_field(name)
    return str(getattr(field, "verbose_name", name))


def value_words(field: models.Field[Any, Any], value: Any, units: UnitSystem) -> str:
    """A value of a model's field as a person reads it; empty where it is not known."""
    if value is None or value == "":
        return ""
    if isinstance(value, Quantity):
        return write_given(value, units)
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, date):
        return f"{value:%d %b %Y}".lstrip("0")
    return str(dict(field.flatchoices).get(value, value))


LONGEST = 200
"""Characters of a box that are read; no measure is longer."""


class Most(NamedTuple):
    """The most that anything of a kind may be, in SI, and in words for either units."""

    si: float
    words: str


MOST: Final = {
    "mass": Most(HEAVIEST_KG, "{1,100,000 lb|500 t}"),
    "length": Most(LONGEST_M, "{328 ft|100 m}"),
    "volume": Most(LARGEST_M3, "{1,300 yd3|1,000 m3}"),
    "density": Most(DENSEST_KG_M3, "{42,000 lb/yd3|25 t/m3}"),
    "distance": Most(FARTHEST_M, "{6,200 mi|10,000 km}"),
    "speed": Most(FASTEST_M_S, "{155 mph|250 km/h}"),
    "pressure": Most(HARDEST_PA, "{217 psi|1,500 kPa}"),
}


if TYPE_CHECKING:
    _Text = models.CharField[Any, Any]
else:
    _Text = models.CharField


class QuantityField(_Text):
    """A quantity in the unit it was entered in, stored as ``7000 lb``.

    ``least`` bounds it: ``"positive"``, ``"not_negative"`` or ``"any"``.
    """

    kind = ""

    if TYPE_CHECKING:
        # what the type checker's plugin looks for: a quantity goes in and comes out
        _pyi_private_set_type: Any
        _pyi_private_get_type: Any

    def __init__(self, *args: Any, least: str = "positive", **kwargs: Any) -> None:
        self.least = least
        kwargs.setdefault("max_length", 60)
        if kwargs.get("null"):
            kwargs.setdefault("blank", True)
        super().__init__(*args, **kwargs)

    def deconstruct(self) -> Any:
        name, path, args, kwargs = super().deconstruct()
        return name, path, args, {**kwargs, "least": self.least}

    def run_validators(self, value: Any) -> None:
        """None: the bounds are the form field's, and a text's length says nothing here."""

    def from_db_value(self, value: str | None, *_: Any) -> Quantity | None:
        return Quantity.parse(value) if value else None

    def to_python(self, value: Any) -> Quantity | None:
        if value is None or isinstance(value, Quantity):
            return value
        return Quantity.parse(value) if value else None

    def get_prep_value(self, value: Any) -> str | None:
        return None if value is None else str(value)

    def formfield(self, **kwargs: Any) -> forms.Field:
        return QuantityFormField(
            kind=self.kind,
            least=self.least,
            required=not self.blank,
            label=capfirst(str(self.verbose_name)),
            help_text=self.help_text,
        )


class MassField(QuantityField):
    """A mass."""

    kind = "mass"


class LengthField(QuantityField):
    """A length."""

    kind = "length"


class VolumeField(QuantityField):
    """A volume."""

    kind = "volume"


class DensityField(QuantityField):
    """A density."""

    kind = "density"


class DistanceField(QuantityField):
    """A way that is driven."""

    kind = "distance"


class SpeedField(QuantityField):
    """A speed."""

    kind = "speed"


class PressureField(QuantityField):
    """The pressure of a tire."""

    kind = "pressure"


def number_pad(kind: str, units: UnitSystem, *, minus: bool = False) -> str:
    """Which keys a telephone offers for a measure: digits alone where a bare number says it all.
    Feet and inches want letters, and a pad of digits has no minus."""
    feet = kind == "length" and units is UnitSystem.US
    return "text" if feet or minus else "decimal"


class QuantityFormField(forms.Field):
    """A box that takes ``7,000``, ``3.5 t``, ``16 ft 6``; a bare number is in ``units``."""

    def __init__(self, *, kind: str, least: str, **kwargs: Any) -> None:
        self.kind = kind
        self.least = least
        kwargs.setdefault(
            "widget",
            forms.TextInput(attrs={"autocomplete": "off", "class": "form-control measure"}),
        )
        super().__init__(**kwargs)
        self.units = UnitSystem.US

    @property
    def units(self) -> UnitSystem:
        """The units of a bare number."""
        return self._units

    @units.setter
    def units(self, units: UnitSystem) -> None:
        self._units = units
        pad = number_pad(self.kind, units, minus=self.least == "any")
        self.widget.attrs["inputmode"] = pad

    def prepare_value(self, value: Any) -> Any:
        return write_entered(value) if isinstance(value, Quantity) else value

    def to_python(self, value: Any) -> Quantity | None:
        if value in self.empty_values:
            return None
        try:
            quantity = READERS[self.kind](str(value)[:LONGEST], self.units.bare_unit(self.kind))
        except ReadingError as error:
            raise ValidationError(str(error)) from None
        most = MOST[self.kind]
        if abs(float(quantity.si)) > most.si:
            raise ValidationError(
                f"That is more than {in_units_of(most.words, self.units)}. The right unit, or a "
                "digit too many?"
            )
        if self.least == "positive" and quantity.value <= 0:
            raise ValidationError("This has to be more than zero. Leave it empty if not known.")
        if self.least == "not_negative" and quantity.value < 0:
            raise ValidationError("This cannot be less than zero.")
        return quantity

    def has_changed(self, initial: Any, data: Any) -> bool:
        return (self.prepare_value(initial) or "") != (data or "")


class SeveralField(forms.ModelMultipleChoiceField):
    """Boxes to tick of rows; a key that no row can have is no choice, whatever its length."""

    def clean(self, value: Any) -> Any:
        """The rows that are ticked."""
        for key in value or ():
            if whole_number(key) is None:
                raise ValidationError(
                    self.error_messages["invalid_pk_value"],
                    code="invalid_pk_value",
                    params={"pk": str(key)[:40]},
                )
        return super().clean(value)
