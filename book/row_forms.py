"""Rows of the book's inner lists (axles, parts, anchors, points, a truck's usual load) and what
the rows of one list have to agree on."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, Final

from django import forms
from django.core.exceptions import ValidationError
from django.db.models import Model
from django.forms import BaseInlineFormSet, inlineformset_factory

from book.forms import InUnits, part_kinds, refuse_formula
from book.models import (
    HitchPart,
    Machine,
    MachinePart,
    MachinePoint,
    Place,
    PlaceWay,
    Thing,
    Trailer,
    TrailerAddition,
    TrailerAnchor,
    TrailerAxle,
    Truck,
    TruckLoad,
)
from measures import UnitSystem
from yards.models import Yard


class RowForm(InUnits, forms.ModelForm):
    """A row of an inner list. ``main`` are the boxes in sight; the others unfold."""

    main: tuple[str, ...] = ()

    def __init__(self, *args: Any, units: UnitSystem, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.prepare(units)

    def clean_name(self) -> str:
        """A name that no spreadsheet takes for a formula."""
        name = str(self.cleaned_data.get("name") or "").strip()
        refuse_formula(name)
        return name

    @property
    def boxes(self) -> list[forms.BoundField]:
        """The boxes in sight."""
        return [b for b in self.visible_fields() if self._in_sight(b.name)]

    @property
    def more_boxes(self) -> list[forms.BoundField]:
        """The boxes that unfold."""
        return [b for b in self.visible_fields() if not self._in_sight(b.name)]

    @property
    def more_open(self) -> bool:
        """Whether a folded box has to be seen: what is wrong, and what a tank holds."""
        contents = ("volume", "fill", "fluid")
        return any(b.errors or (b.name in contents and b.value()) for b in self.more_boxes)

    @property
    def more_filled(self) -> int:
        """How many folded boxes hold something."""
        return sum(b.value() not in (None, "", False) for b in self.more_boxes)

    def _in_sight(self, name: str) -> bool:
        return not self.main or name in self.main or name == "DELETE"


class LoadRow(RowForm):
    """Who or what rides in a truck."""

    class Meta:
        model = TruckLoad
        fields = ("name", "mass", "mass_tolerance", "ahead_of_rear_axle", "known")

    main = ("name", "mass", "mass_tolerance", "ahead_of_rear_axle")

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        if self.prefix and self.prefix.endswith("-0") and not self.instance.pk:
            self.fields["name"].widget.attrs["placeholder"] = "Driver"
            self.fields["ahead_of_rear_axle"].widget.attrs["placeholder"] = "front seat"


class AxleRow(RowForm):
    """An axle of a trailer."""

    class Meta:
        model = TrailerAxle
        fields = ("position", "gawr", "tire_capacity", "brake")


class AdditionRow(RowForm):
    """Something added to a trailer."""

    class Meta:
        model = TrailerAddition
        fields = (
            "name",
            "kind",
            "mass",
            "behind_coupler",
            "weighed_in",
            "known",
            "mass_tolerance",
        )

    main = ("name", "kind", "mass", "behind_coupler", "weighed_in")


class WayRow(RowForm):
    """How far it is from a place to another."""

    class Meta:
        model = PlaceWay
        fields = ("name", "distance")


class MachinePartRow(RowForm):
    """A part of a machine."""

    class Meta:
        model = MachinePart
        fields = (
            "name",
            "kind",
            "mass",
            "known",
            "ahead",
            "removable",
            "weighed_in",
            "mass_tolerance",
            "volume",
            "fill",
            "fluid",
            "ahead_tolerance",
            "height",
            "reach_front",
            "reach_rear",
        )

    main = ("name", "kind", "mass", "known", "ahead", "removable", "weighed_in")

    def clean(self) -> dict[str, Any]:
        """Contents need volume, fill and fluid together."""
        cleaned: dict[str, Any] = super().clean() or self.cleaned_data
        given = [bool(cleaned.get(name)) for name in ("volume", "fill", "fluid")]
        if any(given) and not all(given) and not self.errors:
            names = ("volume", "fill", "fluid")
            for name, there in zip(names, given, strict=True):
                if not there:
                    self.add_error(name, "Volume, how full, and with what go together.")
        return cleaned


class AnchorRow(RowForm):
    """An anchor of a trailer, or a pair."""

    class Meta:
        model = TrailerAnchor
        fields = ("name", "kind", "tape", "off", "wll", "both", "height", "guess")

    main = ("name", "kind", "tape", "off", "wll", "both")

    def clean(self) -> dict[str, Any]:
        """A pair stands on two sides."""
        return _pair_apart(self, super().clean() or self.cleaned_data)


class PointRow(RowForm):
    """A point of a machine, or a pair."""

    class Meta:
        model = MachinePoint
        fields = (
            "name",
            "kind",
            "ahead",
            "off",
            "height",
            "both",
            "strength",
            "with_part",
            "hidden_by",
            "guess",
        )

    main = ("name", "kind", "ahead", "off", "height", "both")

    def clean(self) -> dict[str, Any]:
        """A pair stands on two sides, and what it goes with is a part of the machine."""
        cleaned = _pair_apart(self, super().clean() or self.cleaned_data)
        machine = self.instance.machine if self.instance.machine_id else None
        if machine is not None and not self.parts_come_along:
            refuse_unknown_parts(self, [part.name for part in machine.parts.all()])
        return cleaned

    parts_come_along = False
    """Whether the machine's parts are being saved together with it, and judged there."""


def _pair_apart(row: RowForm, cleaned: dict[str, Any]) -> dict[str, Any]:
    off = cleaned.get("off")
    if cleaned.get("both") and off is not None and off.value == 0:
        row.add_error(
            "off",
            "A pair lies off the middle, one on each side. Take the tick away for one on the "
            "middle.",
        )
    return cleaned


def refuse_unknown_parts(row: Any, names: Iterable[str]) -> None:
    """Say so where a point goes with a part that the machine does not have."""
    known = set(names)
    for box in ("with_part", "hidden_by"):
        part = row.cleaned_data.get(box)
        if part and part not in known:
            row.add_error(
                box, f"This machine has no part “{part}”. Write it as in the list of parts."
            )


class NewPartRow(RowForm):
    """A hitch part that comes into the book together with what it is on.

    The name may stay empty: the part is then named for its kind and its owner.
    """

    class Meta:
        model = HitchPart
        fields = (
            "kind",
            "ball_size",
            "max_trailer_mass",
            "max_tongue_mass",
            "name",
            "max_trailer_mass_wd",
            "max_tongue_mass_wd",
            "mass",
        )

    main = ("kind", "ball_size", "max_trailer_mass", "max_tongue_mass", "name")

    def __init__(self, *args: Any, yard: Yard, on_trailer: bool, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.instance.yard = yard
        self.fields["name"].required = False
        self.fields["name"].label = "Name"
        self.fields["name"].widget.attrs["placeholder"] = "may stay empty"
        kinds = [(kind.value, kind.label) for kind in part_kinds(on_trailer=on_trailer)]
        self.fields["kind"].choices = [("", "choose"), *kinds]  # type: ignore[attr-defined]
        self.fields["kind"].initial = ""
        self.initial["kind"] = ""

    def clean_name(self) -> str:
        """A name stands for one part of the book."""
        name = super().clean_name()
        if name and HitchPart.objects.filter(yard=self.instance.yard, name=name).exists():
            raise ValidationError(
                f"The book already has a “{name}”. Tick it above, or give this one another name."
            )
        return name


def _kept(rows: forms.BaseFormSet, field: str) -> list[Any]:
    """What a box holds in each row that can be read, is filled in and is not taken out."""
    return [
        form.cleaned_data[field]
        for form in rows.forms
        if form.is_valid() and form.cleaned_data.get(field) and not form.cleaned_data.get("DELETE")
    ]


class NewPartRows(forms.BaseModelFormSet):
    """New hitch parts; never shows or changes those of the book."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        kwargs["queryset"] = HitchPart.objects.none()
        super().__init__(*args, **kwargs)

    def clean(self) -> None:
        """Two new parts of one name."""
        super().clean()
        names = [name.lower() for name in _kept(self, "name")]
        if len(names) != len(set(names)):
            raise ValidationError("Two parts have the same name. Give each its own.")


class AxleRows(BaseInlineFormSet):
    """The axles, in their order from the coupler."""

    def clean(self) -> None:
        """Two axles at one place are one axle."""
        super().clean()
        places = [position.si for position in _kept(self, "position")]
        if len(places) != len(set(places)):
            raise ValidationError("Two axles stand at the same place. Tape each from the ball.")


class PlaceRows(BaseInlineFormSet):
    """Anchors or points: each name once, since ties are told by it."""

    def clean(self) -> None:
        """Two places of one name."""
        super().clean()
        names = [name.lower() for name in _kept(self, "name")]
        twice = next((name for n, name in enumerate(names) if name in names[:n]), None)
        if twice is not None:
            raise ValidationError(f"Two of them are called “{twice}”. Give each its own name.")


class WayRows(BaseInlineFormSet):
    """Ways from a place: each to another place of the book, once."""

    def clean(self) -> None:
        """Places that the book does not have, itself, and one twice."""
        super().clean()
        names = _kept(self, "name")
        there = set(Place.objects.filter(yard=self.instance.yard_id).values_list("name", flat=True))
        for n, name in enumerate(names):
            if name not in there:
                raise ValidationError(f"No place of the book is called “{name}”. Add it first.")
            if name == self.instance.name:
                raise ValidationError("It is no way from a place to itself.")
            if name in names[:n]:
                raise ValidationError(f"The way to “{name}” stands there twice.")


class PointRows(PlaceRows):
    """Points of a machine; the parts they go with are those of the same page."""

    def add_fields(self, form: Any, index: int | None) -> None:
        """The parts are judged with the page's own list of them."""
        super().add_fields(form, index)
        form.parts_come_along = True


MORE_SENT: Final = 10
"""So many rows more than a list may have are read when sent, to be judged as too many; the rest
is not looked at."""


def _rows(owner: type[Thing], model: type[Model], form: Any, *, most: int, **more: Any) -> Any:
    """The list of what belongs to a thing, of ``most`` rows; ``more`` goes to Django's factory."""
    return inlineformset_factory(
        owner,
        model,
        form=form,
        max_num=most,
        absolute_max=most + MORE_SENT,
        validate_max=True,
        **more,
    )


LoadRows = _rows(Truck, TruckLoad, LoadRow, most=30, extra=1)
AxleFormSet = _rows(Trailer, TrailerAxle, AxleRow, most=6, formset=AxleRows, extra=2)
AdditionRows = _rows(Trailer, TrailerAddition, AdditionRow, most=30, extra=1)
MachinePartRows = _rows(Machine, MachinePart, MachinePartRow, most=40, extra=1)
AnchorRows = _rows(Trailer, TrailerAnchor, AnchorRow, most=40, formset=PlaceRows, extra=0)
WayFormSet = _rows(Place, PlaceWay, WayRow, most=40, formset=WayRows, extra=1)
PointFormSet = _rows(Machine, MachinePoint, PointRow, most=40, formset=PointRows, extra=0)
NewPartFormSet = forms.modelformset_factory(
    HitchPart,
    form=NewPartRow,
    formset=NewPartRows,
    extra=1,
    max_num=12,
    absolute_max=12 + MORE_SENT,
    can_delete=False,
)


def points_know_parts(formsets: Iterable[Any]) -> bool:
    """Whether the points of a machine's page go with parts that are on the same page; says so at
    the boxes where one does not. The lists have been checked each by itself."""
    by_prefix = {formset.prefix: formset for formset in formsets}
    if "points" not in by_prefix:
        return True
    names = [
        form.cleaned_data.get("name", "")
        for form in by_prefix["parts"].forms
        if form.is_valid() and not form.cleaned_data.get("DELETE")
    ]
    points = [form for form in by_prefix["points"].forms if form.is_valid()]
    for form in points:
        if not form.cleaned_data.get("DELETE"):
            refuse_unknown_parts(form, names)
    return all(form.is_valid() for form in points)
