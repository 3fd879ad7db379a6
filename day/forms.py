"""The boxes of a haul's job, and what the board sends when a card is moved."""

from __future__ import annotations

import re
from typing import Any, Final

from django import forms
from django.core.exceptions import ValidationError
from django.core.validators import MaxValueValidator, MinValueValidator

from book.models import Place
from day.board import EARLIEST, LATEST
from day.services import BY
from hauls.assigning import FIELDS, LONGEST_MINUTES, Job
from hauls.models import PURPOSE, Haul
from yards.models import User

HOURS: Final = re.compile(r"(\d{1,2})(?:\s*h\s*|:)(\d{1,2})?(?:\s*m(?:in)?)?")
PARTS: Final = re.compile(r"(\d{1,2}[.,]\d{1,2})\s*h?")
MINUTES: Final = re.compile(r"(\d{1,4})\s*m(?:in(?:utes?)?)?")
BARE: Final = re.compile(r"\d{1,2}")


def read_minutes(text: str) -> int:
    """How long something takes: ``2 h 30``, ``2:30``, ``2.5 h``, ``150 min``; a bare number is in
    hours.

    Raises:
        ValueError: it is none of these.
    """
    typed = text.strip().lower()
    if found := PARTS.fullmatch(typed):
        return round(float(found[1].replace(",", ".")) * 60)
    if found := HOURS.fullmatch(typed):
        return int(found[1]) * 60 + int(found[2] or 0)
    if found := MINUTES.fullmatch(typed):
        return int(found[1])
    if BARE.fullmatch(typed):
        return int(typed) * 60
    raise ValueError(f"“{text[:30]}” is not how long it takes. Write 2 h 30, 2:30 or 150 min.")


def minutes_words(minutes: int | None) -> str:
    """``2 h 30``, as it is read again; empty where it is not said."""
    if minutes is None:
        return ""
    hours, rest = divmod(minutes, 60)
    if not hours:
        return f"{rest} min"
    return f"{hours} h {rest}" if rest else f"{hours} h"


BOUNDS: Final = [MinValueValidator(EARLIEST), MaxValueValidator(LATEST)]


class MinutesField(forms.CharField):
    """A box for how long something takes."""

    def to_python(self, value: Any) -> Any:
        """Minutes, or nothing."""
        text = str(super().to_python(value) or "").strip()
        if not text:
            return None
        try:
            minutes = read_minutes(text)
        except ValueError as error:
            raise ValidationError(str(error)) from None
        if not 0 < minutes <= LONGEST_MINUTES:
            raise ValidationError(
                "It takes more than nothing and at most a day. What takes longer is several hauls."
            )
        return minutes

    def run_validators(self, value: Any) -> None:
        """A number of minutes has been looked at already."""


class JobForm(forms.Form):
    """When a haul goes and how long it takes, who drives, from where to where, what for."""

    day = forms.DateField(
        required=False,
        widget=forms.DateInput(attrs={"type": "date", "class": "form-control"}, format="%Y-%m-%d"),
        error_messages={"invalid": "Write the day like 2026-05-31."},
        validators=BOUNDS,
    )
    starts = forms.TimeField(
        label="Leaves at",
        required=False,
        widget=forms.TimeInput(attrs={"type": "time", "class": "form-control"}, format="%H:%M"),
        error_messages={"invalid": "Write the hour like 9:30 or 14:00."},
        help_text="By the yard's clock. Empty: some time that day.",
    )
    takes_minutes = MinutesField(
        label="Away for",
        required=False,
        max_length=20,
        widget=forms.TextInput(attrs={"class": "form-control", "placeholder": "2 h"}),
        help_text="Until truck, trailer and driver are free again.",
    )
    driver = forms.ModelChoiceField(User.objects.none(), required=False, empty_label="nobody yet")
    fetched_from = forms.ModelChoiceField(
        Place.objects.none(), label="From", required=False, empty_label="not said"
    )
    taken_to = forms.ModelChoiceField(
        Place.objects.none(), label="To", required=False, empty_label="not said"
    )
    purpose = forms.CharField(
        required=False,
        max_length=PURPOSE,
        widget=forms.TextInput(attrs={"class": "form-control"}),
        help_text="To cut the ditch, home for the winter, to the shop.",
    )

    def __init__(self, data: Any = None, *, haul: Haul) -> None:
        said = {name: getattr(haul, name) for name in FIELDS}
        said["takes_minutes"] = minutes_words(haul.takes_minutes)
        super().__init__(data, initial=said)
        people: Any = self.fields["driver"]
        people.queryset = haul.yard.members.order_by("username")
        people.label_from_instance = lambda user: user.shown_name
        for name in ("fetched_from", "taken_to"):
            places: Any = self.fields[name]
            places.queryset = Place.objects.filter(yard=haul.yard)
        for name in ("driver", "fetched_from", "taken_to"):
            self.fields[name].widget.attrs["class"] = "form-select"
            self.fields[name].error_messages["invalid_choice"] = "Choose one of this yard."

    @property
    def job(self) -> Job:
        """What was said."""
        return Job(**{name: self.cleaned_data[name] for name in FIELDS})


class MoveForm(forms.Form):
    """Where a card goes."""

    haul = forms.IntegerField(min_value=1, max_value=2**62)
    day = forms.DateField(required=False, validators=BOUNDS)
    by = forms.ChoiceField(choices=[(one, one) for one in BY])
    key = forms.CharField(required=False, max_length=20)
    was = forms.CharField(required=False, max_length=400)
    base = forms.IntegerField(min_value=1, max_value=2**31)
    week = forms.DateField(validators=BOUNDS)
