"""Choosing truck, trailer and loads."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django import forms

from book.chain import couples
from book.models import Hitch, Trailer
from hauls.loads import Load, load_choices, read_load
from yards.models import Yard

LOADS = 6
"""Machines and bulk loads that one haul takes from the book."""


LOAD_NAMES = {f"load_{n}": None for n in range(1, LOADS + 1)}
"""The boxes of loads, in driving-on order."""


def asked_for(data: Mapping[str, Any]) -> dict[str, Any]:
    """What an address asks to be chosen already; anything that is no choice shows none."""
    names = ("name", "hitch", "trailer", *LOAD_NAMES)
    return {name: str(data[name])[:200] for name in names if data.get(name)}


@dataclass(frozen=True, kw_only=True, slots=True)
class EmptyList:
    """A list with nothing to choose from: the book's list it is of, and what to add."""

    slug: str
    words: str


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
    def empty_lists(self) -> list[EmptyList]:
        """Lists with nothing in them, and what of the book they want."""
        found = []
        for name, slug, words in (
            ("hitch", "trucks", "truck with its hitch"),
            ("trailer", "trailers", "trailer"),
            ("load_1", "machines", "machine"),
        ):
            field = self.fields[name]
            there = getattr(field, "queryset", None)
            empty = not there.exists() if there is not None else len(list(field.choices)) < 2  # type: ignore[attr-defined]
            if empty:
                found.append(EmptyList(slug=slug, words=words))
        return found

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
