"""Finding a haul."""

from __future__ import annotations

from typing import Any

from django import forms
from django.db.models import Q, QuerySet

from book.models import Bulk, Machine, Trailer, Truck
from hauls.loads import LoadChoices, LoadKey
from hauls.models import Haul, HaulItem
from wording.statuses import STATUS_WORDS
from yards.models import Yard

DATE = forms.DateInput(attrs={"type": "date"})


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
    away = forms.BooleanField(required=False, label="archived")

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
            hauls = hauls.filter(pk__in=HaulItem.objects.filter(those).values("haul_id"))
        if asked.get("trailer"):
            hauls = hauls.filter(trailer=asked["trailer"])
        if asked.get("since"):
            hauls = hauls.filter(changed_at__date__gte=asked["since"])
        if asked.get("until"):
            hauls = hauls.filter(changed_at__date__lte=asked["until"])
        return hauls
