"""Forms of the gauge."""

from __future__ import annotations

from typing import Any

from django import forms
from django.core.exceptions import ValidationError

from book.fields import QuantityFormField
from book.forms import InUnits, refuse_formula
from gauge.models import Gauge
from measures import UnitSystem
from yards.models import Yard


class GaugeForm(InUnits, forms.ModelForm):
    """A gauge of the yard."""

    class Meta:
        model = Gauge
        fields = ("name", "unit", "step", "rating", "lag")

    def __init__(self, *args: Any, yard: Yard, units: UnitSystem, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.instance.yard = yard
        self.prepare(units)

    def clean_name(self) -> str:
        """A name stands for one gauge."""
        name = str(self.cleaned_data["name"]).strip()
        refuse_formula(name)
        twin = Gauge.objects.filter(yard=self.instance.yard, name=name)
        if twin.exclude(pk=self.instance.pk).exists():
            raise ValidationError(f"There is a gauge “{name}” already. Give this another name.")
        return name

    def clean_lag(self) -> Any:
        """A gauge that lags more than a few seconds coaches nobody."""
        lag = self.cleaned_data["lag"]
        if lag is not None and not 0 <= lag <= 5:
            raise ValidationError("A lag is between 0 and 5 seconds.")
        return lag


class DialForm(InUnits, forms.Form):
    """What somebody reads off a gauge that sends nothing."""

    dial = QuantityFormField(kind="mass", least="not_negative", label="The gauge shows")

    def __init__(self, *args: Any, units: UnitSystem, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.prepare(units)


class FrozenForm(InUnits, forms.Form):
    """A frozen reading on its way to a ticket."""

    reading = QuantityFormField(kind="mass", least="positive", label="The gauge showed")
    reference = QuantityFormField(
        kind="length",
        least="any",
        required=False,
        label="Its mark behind the headboard",
        help_text="Taped now. With the place the reading corrects the coach.",
    )
    aboard = forms.BooleanField(required=False, label="on the deck", initial=True)

    def __init__(self, *args: Any, units: UnitSystem, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.prepare(units)

    def clean(self) -> dict[str, Any]:
        """Without a place nothing can be corrected."""
        cleaned: dict[str, Any] = self.cleaned_data
        if (
            cleaned.get("aboard")
            and not cleaned.get("reference")
            and "reference" not in self.errors
        ):
            self.add_error("reference", "Tape where its mark stands, or say it is not on the deck.")
        return cleaned
