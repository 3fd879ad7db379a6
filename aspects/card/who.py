"""The boxes that say who drives, and when."""

from __future__ import annotations

from typing import Any

from django import forms

from hauls.models import Haul
from yards.models import User


class WhoDrivesForm(forms.Form):
    """A day, and somebody of the yard."""

    day = forms.DateField(
        label="Day",
        required=False,
        widget=forms.DateInput(attrs={"type": "date", "class": "form-control"}, format="%Y-%m-%d"),
        error_messages={"invalid": "Write the day like 2026-05-31."},
    )
    driver = forms.ModelChoiceField(
        User.objects.none(),
        label="Driver",
        required=False,
        empty_label="nobody yet",
        widget=forms.Select(attrs={"class": "form-select"}),
        error_messages={"invalid_choice": "Choose somebody of this yard."},
    )

    def __init__(self, data: Any = None, *, haul: Haul) -> None:
        super().__init__(data, initial={"day": haul.day, "driver": haul.driver_id})
        people = self.fields["driver"]
        people.queryset = haul.yard.members.order_by("username")  # type: ignore[attr-defined]
        people.label_from_instance = lambda user: user.shown_name  # type: ignore[attr-defined]
