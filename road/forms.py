"""Boxes of where a load really stopped."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Final

from django import forms
from django.core.exceptions import ValidationError

from book.fields import QuantityFormField
from book.forms import InUnits
from measures import Quantity, UnitSystem
from planfile.draft import Draft

MARK: Final = "mark-{}"
"""The box of a load's mark, by its number."""


class StoppedForm(InUnits, forms.Form):
    """Where each load's mark is, what the gauge shows, how high the wheel arches stand."""

    gauge = QuantityFormField(
        kind="mass", least="not_negative", required=False, label="Gauge or scale at the coupling"
    )
    arch_front = QuantityFormField(
        kind="length", least="positive", required=False, label="Front wheel arch"
    )
    arch_rear = QuantityFormField(
        kind="length", least="positive", required=False, label="Rear wheel arch"
    )
    note = forms.CharField(
        label="Worth remembering",
        required=False,
        max_length=300,
        widget=forms.Textarea(attrs={"rows": 2}),
    )

    def __init__(self, data: Any = None, *, draft: Draft, units: UnitSystem) -> None:
        super().__init__(data)
        self.draft = draft
        if draft.plan.hitch.weight_distribution is not None:
            self.fields["gauge"].help_text = "With the spring bars slack."
        marks = draft.marks
        for number, item in enumerate(draft.plan.items):
            self.fields[MARK.format(number)] = QuantityFormField(
                kind="length",
                least="any",
                required=False,
                label=f"{item.called}: {marks[item.id]} behind the headboard",
            )
        self.order_fields([MARK.format(n) for n in range(len(draft.plan.items))])
        self.prepare(units)

    def clean(self) -> dict[str, Any]:
        """Something has to be said."""
        cleaned: dict[str, Any] = self.cleaned_data
        if not self.errors and not any(value not in (None, "") for value in cleaned.values()):
            raise ValidationError("Tape at least one mark, or read the gauge.")
        return cleaned

    @property
    def taped(self) -> Iterator[tuple[str, Quantity]]:
        """The marks that were taped, by the load's id."""
        for number, item in enumerate(self.draft.plan.items):
            mark = self.cleaned_data.get(MARK.format(number))
            if mark is not None:
                yield item.id, mark
