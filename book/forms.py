"""Forms of the book. Every number box takes any usual writing; a bare number is in the
units the person reads in, and what was typed stays in its box when it is not understood."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import date, timedelta
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.urls import reverse_lazy
from django.utils import timezone

from book.fields import QuantityFormField, SeveralField
from book.models import (
    Bulk,
    Configuration,
    Gear,
    Hitch,
    HitchLink,
    HitchPart,
    Machine,
    Place,
    Thing,
    Ticket,
    Trailer,
    TrailerPart,
    Truck,
)
from measures import UnitSystem
from measures.writing import in_units_of, write_length
from yards.models import Yard


class InUnits:
    """Gives a form's number boxes the person's units and its other boxes their look."""

    fields: dict[str, forms.Field]

    def prepare(self, units: UnitSystem) -> None:
        """Set units and classes on every field."""
        for field in self.fields.values():
            field.help_text = in_units_of(str(field.help_text), units)
            if isinstance(field, QuantityFormField):
                field.units = units
                bare = units.bare_unit(field.kind)
                # the page asks what was understood as soon as the box is left
                field.widget.attrs |= {
                    "placeholder": bare,
                    "hx-get": reverse_lazy("understand", args=[field.kind]),
                    "hx-trigger": "change",
                    "hx-target": "next .understood",
                }
            elif isinstance(field.widget, forms.Select):
                field.widget.attrs["class"] = "form-select"
            elif isinstance(field.widget, (forms.CheckboxInput, forms.CheckboxSelectMultiple)):
                field.widget.attrs["class"] = "form-check-input"
            elif not isinstance(field.widget, forms.HiddenInput):
                field.widget.attrs["class"] = "form-control"


def refuse_formula(text: str) -> None:
    """A name that a spreadsheet would take for a formula.

    Raises:
        ValidationError: it begins like one.
    """
    if text.startswith(("=", "@", "\t", "\r")):
        raise ValidationError(
            f"“{text[:40]}” begins with “{text[:1].strip() or 'a blank'}”, which spreadsheets "
            "take for a formula. Begin it with a letter or a number."
        )


def refuse_to_come(day: date | None, done: str) -> None:
    """Say so where something is dated that cannot have been done yet; ``done`` tells what.

    A yard west of the server's clock may still be in yesterday, none is two days ahead.
    """
    if day is not None and day > timezone.localdate() + timedelta(days=1):
        raise ValidationError(f"This date is still to come. Which day was it {done}?")


class WeighedDay:
    """A form with the day on which something was weighed."""

    cleaned_data: dict[str, Any]

    def clean_weighed_on(self) -> date:
        """Nobody has weighed tomorrow."""
        day: date = self.cleaned_data["weighed_on"]
        refuse_to_come(day, "weighed")
        return day


class ThingForm(InUnits, forms.ModelForm):
    """Something of the book, of a yard."""

    def __init__(
        self,
        *args: Any,
        units: UnitSystem,
        yard: Yard,
        taken: Mapping[str, int] | None = None,
        **kwargs: Any,
    ) -> None:
        """``taken`` are names of the list that are known already, with the numbers of what has
        them; without it the book is asked."""
        super().__init__(*args, **kwargs)
        self.yard = yard
        self.taken = taken
        self.instance.yard = yard
        self.units = units
        if "notes" in self.fields:
            self.fields["notes"].widget.attrs["rows"] = 3
        self.prepare(units)

    def clean_name(self) -> str:
        """A name stands for one thing in its list."""
        name = str(self.cleaned_data["name"]).strip()
        refuse_formula(name)
        if self._twin(name):
            raise ValidationError(f"The book already has a “{name}”. Give this one another name.")
        return name

    def _twin(self, name: str) -> bool:
        """Whether another thing of the list has that name."""
        if self.taken is not None:
            return bool(self.taken.get(name, self.instance.pk) != self.instance.pk)
        model: type[Thing] = self._meta.model
        there = model._default_manager.filter(yard=self.instance.yard, name=name)
        return there.exclude(pk=self.instance.pk).exists()


def part_kinds(*, on_trailer: bool) -> list[HitchPart.Kind]:
    """Kinds of hitch parts that stay with a trailer, or with a truck."""
    return [
        kind
        for kind in HitchPart.Kind
        if (kind in HitchPart.ON_TRAILER) == on_trailer or kind == HitchPart.Kind.OTHER
    ]


class PartsChooser:
    """Adds the yard's hitch parts as boxes to tick, and links the ticked ones."""

    on_trailer = False
    fields: dict[str, forms.Field]

    def add_parts(self, yard: Yard, chosen: Iterable[HitchPart]) -> None:
        """Put the box list on the form."""
        self.fields["parts_on"] = SeveralField(
            HitchPart.objects.filter(yard=yard, kind__in=part_kinds(on_trailer=self.on_trailer)),
            required=False,
            label="Parts of the book that are on it",
            widget=forms.CheckboxSelectMultiple,
            initial=[part.pk for part in chosen],
        )


class TruckForm(ThingForm):
    """A truck's own page."""

    class Meta:
        model = Truck
        exclude = ("yard",)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        if self.instance.plate == Truck.Plate.METRIC:
            for name, label, words in METRIC_WORDS:
                self.fields[name].label = label
                self.fields[name].help_text = words


METRIC_WORDS = (
    ("gvwr", "Maximum authorised mass (MAM)", "Plate or papers: the most the vehicle may weigh."),
    ("gcwr", "Gross train mass", "Plate: vehicle and trailer together."),
    (
        "max_trailer_mass",
        "Towing limit",
        "Papers, for a braked trailer. Empty: gross train mass less MAM.",
    ),
    ("max_tongue_mass", "Nose weight limit", "Papers or towbar plate; the lower of the two."),
    ("front_gawr", "Front axle limit", "Plate, third line as a rule."),
    ("rear_gawr", "Rear axle limit", "Plate, last line as a rule."),
    ("payload", "Payload", "Empty: MAM less the empty vehicle."),
)
"""What a metric plate calls the same ratings."""


class TrailerForm(PartsChooser, ThingForm):
    """A trailer's own page."""

    on_trailer = True

    class Meta:
        model = Trailer
        exclude = ("yard",)

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        pk = self.instance.pk
        if kwargs.get("units") is UnitSystem.METRIC:
            self.fields["gvwr"].label = "Maximum authorised mass (MAM)"
            self.fields["gvwr"].help_text = "Plate: the trailer with all that is on it."
            self.fields["empty_tongue_mass"].label = "Empty nose weight"
        self.add_parts(self.yard, [link.part for link in self.instance.links.all()] if pk else [])
        self.fields["parts_on"].widget.attrs["class"] = "form-check-input"

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

    def clean(self) -> dict[str, Any]:
        """A machine balances somewhere on itself."""
        cleaned: dict[str, Any] = super().clean() or self.cleaned_data
        ahead = cleaned.get("balance_ahead")
        front, rear = cleaned.get("reach_front"), cleaned.get("reach_rear")
        if ahead is None or cleaned.get("built") != Machine.Built.WHOLE:
            return cleaned
        for reach, beyond, words in (
            (front, ahead.si, "ahead of"),
            (rear, -ahead.si, "behind"),
        ):
            if reach is not None and beyond > reach.si:
                self.add_error(
                    "balance_ahead",
                    f"This lies outside the machine, which reaches "
                    f"{write_length(float(reach.si), self.units)} {words} its mark. Taped from "
                    "another point, or is a minus wrong?",
                )
        return cleaned


class HitchPartForm(ThingForm):
    """A hitch part's own page."""

    class Meta:
        model = HitchPart
        exclude = ("yard",)


class BulkForm(ThingForm):
    """A bulk load's own page."""

    class Meta:
        model = Bulk
        exclude = ("yard",)


class GearForm(ThingForm):
    """A piece of gear's own page."""

    class Meta:
        model = Gear
        exclude = ("yard",)
        widgets = {"inspected_on": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")}

    def clean_inspected_on(self) -> date | None:
        """Nobody has looked it over tomorrow."""
        day: date | None = self.cleaned_data["inspected_on"]
        refuse_to_come(day, "looked over")
        return day


class PlaceForm(ThingForm):
    """A place's own page."""

    class Meta:
        model = Place
        exclude = ("yard",)

    def clean(self) -> dict[str, Any]:
        """Half a coordinate is none, and there is one yard."""
        cleaned: dict[str, Any] = super().clean() or self.cleaned_data
        for name, other in (("latitude", "longitude"), ("longitude", "latitude")):
            if cleaned.get(name) is None and cleaned.get(other) is not None:
                self.add_error(name, f"The {name} is wanted too, or leave both empty.")
        home = Place.objects.filter(yard=self.instance.yard_id, home=True)
        if cleaned.get("home") and (there := home.exclude(pk=self.instance.pk).first()):
            self.add_error("home", f"{there.name} is the yard itself. Untick that one first.")
        return cleaned


class HitchForm(PartsChooser, InUnits, forms.ModelForm):
    """A hitch of a truck."""

    class Meta:
        model = Hitch
        exclude = ("truck", "parts")

    def __init__(self, *args: Any, units: UnitSystem, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        chosen = [link.part for link in self.instance.links.all()] if self.instance.pk else []
        self.add_parts(yard, chosen)
        self.prepare(units)


class ConfigurationForm(InUnits, forms.ModelForm):
    """A configuration of a machine: which removable parts are on.

    ``sizes`` are the boxes of what it measures otherwise than the machine itself.
    """

    sizes = (
        "reach_front",
        "reach_rear",
        "height",
        "belly_clearance",
        "tail_clearance",
        "nose_clearance",
    )

    class Meta:
        model = Configuration
        exclude = ("machine",)
        widgets = {"parts": forms.CheckboxSelectMultiple}
        field_classes = {"parts": SeveralField}

    def __init__(self, *args: Any, units: UnitSystem, machine: Machine, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.instance.machine = machine
        self.fields["parts"].queryset = machine.parts.filter(removable=True)  # type: ignore[attr-defined]
        self.fields["parts"].label = "Parts that are on"
        self.prepare(units)

    @property
    def measures(self) -> list[forms.BoundField]:
        """The boxes of its sizes."""
        return [self[name] for name in self.sizes]

    @property
    def measured(self) -> bool:
        """Whether one of them holds something, or is wrong."""
        return any(box.value() or box.errors for box in self.measures)

    def clean_name(self) -> str:
        """A name stands for one configuration of its machine."""
        name = str(self.cleaned_data["name"]).strip()
        refuse_formula(name)
        twin = self.instance.machine.configurations.filter(name=name)
        if twin.exclude(pk=self.instance.pk).exists():
            raise ValidationError(f"This machine already has “{name}”. Give it another name.")
        return name

    def clean(self) -> dict[str, Any]:
        """One axle weight alone says nothing."""
        cleaned: dict[str, Any] = super().clean() or self.cleaned_data
        if bool(cleaned.get("front_axle_mass")) != bool(cleaned.get("rear_axle_mass")):
            lone = "rear_axle_mass" if cleaned.get("front_axle_mass") else "front_axle_mass"
            self.add_error(lone, "Give both axle weights, or neither.")
        return cleaned


class TicketForm(InUnits, WeighedDay, forms.ModelForm):
    """What a scale said of a thing."""

    class Meta:
        model = Ticket
        fields = ("weighed_on", *Ticket.READINGS, "place", "number", "aboard")
        widgets = {"weighed_on": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")}

    def __init__(self, *args: Any, units: UnitSystem, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.prepare(units)

    def clean(self) -> dict[str, Any]:
        """At least one reading, and axles that make up the whole."""
        cleaned: dict[str, Any] = super().clean() or self.cleaned_data
        if not self.errors and not any(cleaned.get(name) for name in Ticket.READINGS):
            self.add_error("whole_mass", "Give at least one reading of the ticket.")
        whole, front, rear = (cleaned.get(name) for name in Ticket.READINGS[:3])
        if whole and front and rear and abs(front.si + rear.si - whole.si) > whole.si / 20:
            self.add_error(
                "whole_mass", "Front and rear together are not the whole. Read the ticket again."
            )
        return cleaned


class PhotoForm(forms.Form):
    """A photo of a plate, sticker or ticket."""

    file = forms.FileField(
        label="Photo",
        help_text="JPEG, PNG or WebP, at most 12 MB. Place and time in it are taken out.",
        widget=forms.FileInput(
            attrs={"class": "form-control", "accept": "image/jpeg,image/png,image/webp"}
        ),
    )
    caption = forms.CharField(
        required=False,
        max_length=120,
        help_text="Door sticker, axle tag.",
        widget=forms.TextInput(attrs={"class": "form-control"}),
    )


def link_parts(owner: Hitch | Trailer, parts: Iterable[HitchPart]) -> None:
    """Make exactly these parts stand on a hitch or trailer."""
    wanted = {part.pk: part for part in parts}
    owner.links.exclude(part__in=wanted).delete()
    there = set(owner.links.values_list("part_id", flat=True))
    for pk, part in wanted.items():
        if pk not in there:
            if isinstance(owner, Hitch):
                HitchLink.objects.create(hitch=owner, part=part)
            else:
                TrailerPart.objects.create(trailer=owner, part=part)
