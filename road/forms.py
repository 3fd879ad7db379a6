"""Boxes of what is noted on the road."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from typing import Any, Final

from django import forms
from django.core.exceptions import ValidationError

from book.fields import QuantityFormField
from book.forms import InUnits, refuse_to_come
from book.models import Trailer, Truck
from measures import Quantity, UnitSystem
from planfile.draft import Draft
from road.models import Trip
from yards.models import Yard

MARK: Final = "mark-{}"
"""The box of a load's mark, by its number."""


PHOTO_HELP: Final = "Taken now or before; place and time in it are taken out."


class PhotoInput(forms.FileInput):
    """A box for a photo; a phone offers its camera."""

    def __init__(self) -> None:
        super().__init__(attrs={"accept": "image/jpeg,image/png,image/webp"})


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
    photo = forms.FileField(
        label="Photo", required=False, help_text=PHOTO_HELP, widget=PhotoInput()
    )

    def __init__(
        self, data: Any = None, files: Any = None, *, draft: Draft, units: UnitSystem
    ) -> None:
        super().__init__(data, files)
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


class DefectForm(InUnits, forms.Form):
    """What is wrong, on what, with a photo where there is one."""

    on = forms.ChoiceField(label="On", choices=[("trailer", "the trailer"), ("truck", "the truck")])
    what = forms.CharField(
        label="What is wrong",
        max_length=160,
        widget=forms.TextInput(attrs={"list": "way-lines", "autocomplete": "off"}),
        error_messages={"required": "Say what is wrong: right rear tire, say."},
    )
    note = forms.CharField(
        label="How so",
        required=False,
        max_length=400,
        widget=forms.Textarea(attrs={"rows": 2}),
        help_text="31 psi, plate says 50.",
    )
    photo = forms.FileField(
        label="Photo", required=False, help_text=PHOTO_HELP, widget=PhotoInput()
    )

    def __init__(self, data: Any = None, files: Any = None, *, units: UnitSystem) -> None:
        super().__init__(data, files, prefix="defect")
        self.prepare(units)


class DecisionForm(InUnits, forms.Form):
    """Whether hauls may go with a defect, and why."""

    decision = forms.ChoiceField(
        label="Hauls with it",
        choices=[("go", "may go"), ("stop", "must not go")],
        error_messages={"invalid_choice": "Choose whether it may go."},
    )
    reason = forms.CharField(
        label="Why",
        max_length=300,
        error_messages={"required": "Give the reason: whoever drives has to understand it."},
    )

    def __init__(self, data: Any = None, *, units: UnitSystem) -> None:
        super().__init__(data)
        self.prepare(units)


class TripForm(InUnits, forms.ModelForm):
    """A trip as it was driven."""

    class Meta:
        model = Trip
        fields = (
            "driven_on",
            "carried",
            "distance",
            "fuel",
            "speed",
            "weather",
            "drove",
            *Trip.COMPLAINTS,
            "note",
        )
        widgets = {
            "driven_on": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
            "note": forms.Textarea(attrs={"rows": 2}),
        }
        error_messages = {
            "driven_on": {"invalid": "Write the day like 2026-05-31."},
        }

    def __init__(self, data: Any = None, *, units: UnitSystem, initial: Any = None) -> None:
        super().__init__(data, prefix="trip", initial=initial)
        far = self.fields["distance"]
        far.error_messages["required"] = "How far was it? The odometer says, or the map."
        self.prepare(units)

    def clean_driven_on(self) -> date:
        """Nobody has driven tomorrow."""
        day: date = self.cleaned_data["driven_on"]
        refuse_to_come(day, "driven")
        return day


class GainForm(InUnits, forms.Form):
    """The brake controller's setting."""

    value = forms.DecimalField(
        label="Gain that was right",
        min_value=0,
        max_value=100,
        max_digits=4,
        decimal_places=1,
        widget=forms.TextInput(attrs={"inputmode": "decimal"}),
        error_messages={
            "required": "Read the gain off the controller.",
            "invalid": "A number as the controller shows it, 6.5 say.",
        },
    )

    def __init__(self, data: Any = None, *, units: UnitSystem) -> None:
        super().__init__(data, prefix="gain")
        self.prepare(units)


class InspectionForm(InUnits, forms.Form):
    """What is inspected, of what, and how often."""

    of = forms.ChoiceField(label="Of", error_messages={"invalid_choice": "Choose one of the list."})
    what = forms.CharField(label="What is inspected", max_length=120, help_text="Hub grease, say.")
    every_days = forms.IntegerField(
        label="Every so many days",
        required=False,
        min_value=1,
        max_value=3660,
        widget=forms.TextInput(attrs={"inputmode": "numeric"}),
    )
    every_way = QuantityFormField(
        kind="distance", least="positive", required=False, label="Every so far"
    )
    last = forms.DateField(
        label="Inspected last on",
        required=False,
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
        help_text="Empty: not known, so it is due.",
        error_messages={"invalid": "Write the day like 2026-05-31."},
    )

    def __init__(self, data: Any = None, *, yard: Yard, units: UnitSystem) -> None:
        super().__init__(data)
        things = [("trailer", Trailer.objects), ("truck", Truck.objects)]
        self.fields["of"].choices = [  # type: ignore[attr-defined]
            (f"{kind}-{one.pk}", one.name)
            for kind, rows in things
            for one in rows.filter(yard=yard)
        ]
        self.yard = yard
        self.prepare(units)

    def clean_last(self) -> date | None:
        """Nobody has inspected tomorrow."""
        day: date | None = self.cleaned_data["last"]
        refuse_to_come(day, "inspected")
        return day

    def clean(self) -> dict[str, Any]:
        """How often has to be said, one way or the other."""
        found: dict[str, Any] = super().clean() or {}
        both = ("every_days", "every_way")
        if not any(found.get(name) or name in self.errors for name in both):
            raise ValidationError("Say how often: every so many days, every so far, or both.")
        return found

    @property
    def thing(self) -> Truck | Trailer:
        """What was chosen."""
        kind, _, pk = str(self.cleaned_data["of"]).partition("-")
        model: type[Truck | Trailer] = Truck if kind == "truck" else Trailer
        return model._default_manager.get(yard=self.yard, pk=int(pk))


class LookedForm(InUnits, forms.Form):
    """That something was inspected."""

    on = forms.DateField(
        label="Inspected on",
        widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
        error_messages={"invalid": "Write the day like 2026-05-31."},
    )
    note = forms.CharField(label="Found", required=False, max_length=300)

    def __init__(self, data: Any = None, *, units: UnitSystem, today: date) -> None:
        super().__init__(data, initial={"on": today})
        self.prepare(units)

    def clean_on(self) -> date:
        """Nobody has inspected tomorrow."""
        day: date = self.cleaned_data["on"]
        refuse_to_come(day, "inspected")
        return day
