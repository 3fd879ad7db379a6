"""Choosing an outfit, and finding a haul."""

from __future__ import annotations

from typing import Any

from django import forms
from django.db.models import Q, QuerySet

from book.chain import couples
from book.models import Bulk, Hitch, Machine, Trailer, Truck
from hauls.loads import Load, LoadChoices, LoadKey, load_choices, read_load
from hauls.models import Haul, HaulItem
from wording.statuses import STATUS_WORDS
from yards.models import Yard

DATE = forms.DateInput(attrs={"type": "date"})

LOADS = 6
"""Machines and bulk loads that one haul takes from the book."""


class OutfitForm(forms.Form):
    """A truck by its hitch, a trailer, machines and bulk loads in driving-on order."""

    name = forms.CharField(
        max_length=200, help_text="What and where to: “Tractor to the lower meadow”."
    )
    hitch = forms.ModelChoiceField(
        Hitch.objects.none(), label="Truck and hitch", empty_label="Choose a truck"
    )
    trailer = forms.ModelChoiceField(Trailer.objects.none(), empty_label="Choose a trailer")

    def __init__(self, *args: Any, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        hitches = (
            Hitch.objects.filter(truck__yard=yard)
            .select_related("truck__yard")
            .order_by("truck__name", "pk")
        )
        trailers = Trailer.objects.filter(yard=yard).select_related("yard")
        self.fields["hitch"].queryset = hitches  # type: ignore[attr-defined]
        self.fields["trailer"].queryset = trailers  # type: ignore[attr-defined]
        self.yard = yard
        found = load_choices(yard)
        for n in range(1, LOADS + 1):
            self.fields[f"load_{n}"] = forms.ChoiceField(
                label="Load" if n == 1 else f"Load {n}",
                required=False,
                choices=[("", "Nothing" if n == 1 else "No more"), *found.groups],
            )
        self.fields["load_1"].help_text = "In driving-on order. A machine as it is configured."
        for field in self.fields.values():
            field.widget.attrs["class"] = (
                "form-select" if isinstance(field, forms.ChoiceField) else "form-control"
            )
        if not self.is_bound and not self.initial:
            # with one of a kind there is nothing to choose
            if len(hitches) == 1:
                self.initial["hitch"] = hitches[0].pk
            if len(trailers) == 1:
                self.initial["trailer"] = trailers[0].pk
            if len(found.all) == 1:
                self.initial["load_1"] = found.all[0][0]

    def clean(self) -> dict[str, Any]:
        """A gooseneck trailer goes over the bed and no other does."""
        cleaned: dict[str, Any] = super().clean() or self.cleaned_data
        hitch, trailer = cleaned.get("hitch"), cleaned.get("trailer")
        if hitch and trailer and not couples(hitch, trailer):
            where = "behind the bumper"
            if trailer.over_bed:
                where = (
                    "in a fifth wheel over the bed"
                    if trailer.kind == Trailer.Kind.FIFTH_WHEEL
                    else "over the bed"
                )
            self.add_error("hitch", f"{trailer.name} is coupled {where}, and {hitch} is not there.")
        return cleaned

    @property
    def first_fields(self) -> list[forms.BoundField]:
        """The boxes in sight, before the first load."""
        return [self[name] for name in ("name", "hitch", "trailer")]

    @property
    def more_fields(self) -> list[forms.BoundField]:
        """Further loads, which unfold."""
        return [self[f"load_{n}"] for n in range(2, LOADS + 1)]

    @property
    def more_open(self) -> bool:
        """Whether there is more than one load."""
        return any(bound.value() for bound in self.more_fields)

    @property
    def loads(self) -> list[Load]:
        """The loads chosen, in order."""
        chosen = (self.cleaned_data.get(f"load_{n}") for n in range(1, LOADS + 1))
        return [read_load(key, self.yard) for key in chosen if key]


class FindForm(forms.Form):
    """What the list of hauls is narrowed to; an empty box narrows nothing."""

    q = forms.CharField(required=False, max_length=100, label="Find a haul")
    verdict = forms.ChoiceField(
        required=False,
        choices=[("", "any"), *((s.value, words) for s, words in STATUS_WORDS.items())],
    )
    load = forms.ChoiceField(required=False, label="Machine or bulk")
    trailer = forms.ModelChoiceField(Trailer.objects.none(), required=False, empty_label="any")
    since = forms.DateField(required=False, label="Changed since", widget=DATE)
    until = forms.DateField(required=False, widget=DATE)
    away = forms.BooleanField(required=False, label="put away")

    def __init__(self, *args: Any, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.yard = yard
        machines = Machine.objects.filter(yard=yard).values_list("pk", "name")
        bulk = Bulk.objects.filter(yard=yard).values_list("pk", "name")
        found = LoadChoices(
            machines=[(str(LoadKey(machine=pk)), name) for pk, name in machines],
            bulk=[(str(LoadKey(bulk=pk)), name) for pk, name in bulk],
        )
        self.fields["load"].choices = [("", "any"), *found.groups]  # type: ignore[attr-defined]
        self.fields["trailer"].queryset = Trailer.objects.filter(yard=yard)  # type: ignore[attr-defined]
        for name, field in self.fields.items():
            look = "form-select" if isinstance(field, forms.ChoiceField) else "form-control"
            field.widget.attrs["class"] = "form-check-input" if name == "away" else look

    def clean(self) -> dict[str, Any]:
        """The days run forward."""
        cleaned: dict[str, Any] = super().clean() or self.cleaned_data
        since, until = cleaned.get("since"), cleaned.get("until")
        if since and until and until < since:
            self.add_error("until", "This day is before the first. Change one of them.")
        return cleaned

    @property
    def lists(self) -> list[forms.BoundField]:
        """Lists to choose from that unfold under the search."""
        return [self[name] for name in ("verdict", "load", "trailer")]

    @property
    def days(self) -> list[forms.BoundField]:
        """The days between which a haul was changed."""
        return [self[name] for name in ("since", "until")]

    @property
    def narrowed(self) -> bool:
        """Whether anything but words narrows the list."""
        return any(self.data.get(n) for n in self.fields if n != "q")

    def narrow(self, hauls: QuerySet[Haul]) -> QuerySet[Haul]:
        """The hauls that the boxes leave; boxes that make no sense narrow nothing."""
        asked = self.cleaned_data if self.is_bound and self.is_valid() is not None else {}
        hauls = hauls.filter(archived=bool(asked.get("away")))
        words = (asked.get("q") or "").strip()
        if words:
            # by sets of keys: joined rows would have to be told apart, documents and all
            on = HaulItem.objects.filter(
                Q(machine__in=Machine.objects.filter(yard=self.yard, name__icontains=words))
                | Q(bulk__in=Bulk.objects.filter(yard=self.yard, name__icontains=words))
            )
            hauls = hauls.filter(
                Q(name__icontains=words)
                | Q(truck__in=Truck.objects.filter(yard=self.yard, name__icontains=words))
                | Q(trailer__in=Trailer.objects.filter(yard=self.yard, name__icontains=words))
                | Q(pk__in=on.values("haul_id"))
            )
        if asked.get("verdict"):
            hauls = hauls.filter(verdict=asked["verdict"])
        if asked.get("load"):
            key = LoadKey.read(asked["load"])
            those = Q(machine=key.machine) if key.bulk is None else Q(bulk=key.bulk)
            # one row a haul, however often the load is on it
            on = HaulItem.objects.filter(those).values("haul_id")
            hauls = hauls.filter(pk__in=on)
        if asked.get("trailer"):
            hauls = hauls.filter(trailer=asked["trailer"])
        if asked.get("since"):
            hauls = hauls.filter(changed_at__date__gte=asked["since"])
        if asked.get("until"):
            hauls = hauls.filter(changed_at__date__lte=asked["until"])
        return hauls
