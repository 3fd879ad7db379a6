"""Forms of the book. Every number box takes any usual writing; a bare number is in the
units the person reads in, and what was typed stays in its box when it is not understood."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.forms import BaseInlineFormSet, inlineformset_factory

from book.fields import QuantityFormField
from book.models import (
    CouplerPart,
    Hitch,
    HitchPart,
    Machine,
    Thing,
    Trailer,
    TrailerAxle,
    Truck,
    TruckLoad,
)
from measures import UnitSystem
from yards.models import Yard


class InUnits:
    """Gives a form's number boxes the person's units and its other boxes their look."""

    fields: dict[str, forms.Field]

    def prepare(self, units: UnitSystem) -> None:
        """Set units and classes on every field."""
        for field in self.fields.values():
            if isinstance(field, QuantityFormField):
                field.units = units
                bare = units.mass_unit if field.kind == "mass" else units.length_unit
                field.widget.attrs["placeholder"] = bare
            elif isinstance(field.widget, forms.Select):
                field.widget.attrs["class"] = "form-select"
            elif not isinstance(field.widget, (forms.CheckboxInput, forms.HiddenInput)):
                field.widget.attrs["class"] = "form-control"


class ThingForm(InUnits, forms.ModelForm):
    """A truck, trailer or machine of a yard."""

    def __init__(self, *args: Any, units: UnitSystem, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.instance.yard = yard
        if "notes" in self.fields:
            self.fields["notes"].widget.attrs["rows"] = 3
        self.prepare(units)

    def clean_name(self) -> str:
        """A name stands for one thing in its list."""
        name = str(self.cleaned_data["name"]).strip()
        model: type[Thing] = self._meta.model
        twin = model._default_manager.filter(yard=self.instance.yard, name=name)
        if twin.exclude(pk=self.instance.pk).exists():
            raise ValidationError(f"The book already has a “{name}”. Give this one another name.")
        return name


class TruckForm(ThingForm):
    """A truck's own page."""

    class Meta:
        model = Truck
        exclude = ("yard",)


class TrailerForm(ThingForm):
    """A trailer's own page."""

    class Meta:
        model = Trailer
        exclude = ("yard",)

    def clean(self) -> dict[str, Any]:
        """The tongue is a part of the trailer's mass."""
        cleaned: dict[str, Any] = super().clean() or self.cleaned_data
        whole, tongue = cleaned.get("empty_mass"), cleaned.get("empty_tongue_mass")
        if whole and tongue and tongue.si >= whole.si:
            self.add_error(
                "empty_tongue_mass",
                "The tongue weight has to be less than the empty trailer. Are the two swapped?",
            )
        return cleaned


class MachineForm(ThingForm):
    """A machine's own page."""

    class Meta:
        model = Machine
        exclude = ("yard",)


class HitchForm(InUnits, forms.ModelForm):
    """A hitch of a truck."""

    class Meta:
        model = Hitch
        fields = ["name", "type", "offset", "mass", "front_axle_restoration"]

    def __init__(self, *args: Any, units: UnitSystem, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.prepare(units)


class RowForm(InUnits, forms.ModelForm):
    """A row of a list inside a page: an axle, a part, a load."""

    def __init__(self, *args: Any, units: UnitSystem = UnitSystem.US, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.prepare(units)


class AxleRows(BaseInlineFormSet):
    """A trailer has at least one axle."""

    def clean(self) -> None:
        super().clean()
        filled = [f for f in self.forms if f.has_changed() or f.instance.pk]
        if not [f for f in filled if not f.cleaned_data.get("DELETE")]:
            raise ValidationError("Give at least one axle: tape from the ball to its wheel centre.")


class PartRows(BaseInlineFormSet):
    """A part's name stands for one part."""

    def clean(self) -> None:
        super().clean()
        names = [
            str(f.cleaned_data.get("name")).strip().lower()
            for f in self.forms
            if getattr(f, "cleaned_data", None) and f.cleaned_data.get("name")
        ]
        if len(names) != len(set(names)):
            raise ValidationError("Two parts have the same name. Give each its own.")


RATING_FIELDS = [
    "name",
    "max_trailer_mass",
    "max_tongue_mass",
    "max_trailer_mass_wd",
    "max_tongue_mass_wd",
]

LoadRows = inlineformset_factory(
    Truck,
    TruckLoad,
    form=RowForm,
    fields=["name", "mass", "mass_tolerance", "ahead_of_rear_axle"],
    extra=2,
    max_num=30,
)
AxleFormSet = inlineformset_factory(
    Trailer,
    TrailerAxle,
    form=RowForm,
    formset=AxleRows,
    fields=["position", "gawr", "tire_capacity"],
    extra=2,
    max_num=6,
    validate_max=True,
)
CouplerRows = inlineformset_factory(
    Trailer, CouplerPart, form=RowForm, formset=PartRows, fields=RATING_FIELDS, extra=1, max_num=10
)
HitchPartRows = inlineformset_factory(
    Hitch, HitchPart, form=RowForm, formset=PartRows, fields=RATING_FIELDS, extra=3, max_num=12
)
