"""Choosing an outfit, and handing in a plan file."""

from __future__ import annotations

from typing import Any

from django import forms

from book.models import Hitch, Machine, Trailer
from planfile.reading import MAX_BYTES
from yards.models import Yard

MACHINES = 3
"""Machines that one haul takes from the book."""


class OutfitForm(forms.Form):
    """A truck by its hitch, a trailer, up to three machines in driving-on order."""

    name = forms.CharField(
        max_length=200, help_text="What and where to: “Tractor to the lower meadow”."
    )
    hitch = forms.ModelChoiceField(
        Hitch.objects.none(), label="Truck and hitch", empty_label="Choose a truck"
    )
    trailer = forms.ModelChoiceField(Trailer.objects.none(), empty_label="Choose a trailer")

    def __init__(self, *args: Any, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        hitch, trailer = self.fields["hitch"], self.fields["trailer"]
        hitch.queryset = (  # type: ignore[attr-defined]
            Hitch.objects.filter(truck__yard=yard)
            .select_related("truck")
            .order_by("truck__name", "pk")
        )
        trailer.queryset = Trailer.objects.filter(yard=yard)  # type: ignore[attr-defined]
        for n in range(1, MACHINES + 1):
            self.fields[f"machine_{n}"] = forms.ModelChoiceField(
                Machine.objects.filter(yard=yard),
                label="Machine" if n == 1 else f"Machine {n}",
                required=False,
                empty_label="No machine" if n == 1 else "No more",
            )
        for field in self.fields.values():
            field.widget.attrs["class"] = (
                "form-select" if isinstance(field, forms.ModelChoiceField) else "form-control"
            )

    @property
    def machines(self) -> list[Machine]:
        """The machines chosen, in order."""
        chosen = (self.cleaned_data.get(f"machine_{n}") for n in range(1, MACHINES + 1))
        return [machine for machine in chosen if machine is not None]


class ImportForm(forms.Form):
    """A plan file."""

    file = forms.FileField(
        label="Plan file",
        help_text=f"A .json file of the plan format, at most {MAX_BYTES // 1000} kB.",
        widget=forms.FileInput(attrs={"class": "form-control", "accept": ".json,application/json"}),
    )
